package server

import (
	"context"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/labstack/echo/v5"
	"rsc.io/qr"

	"hevrin/api"
	"hevrin/app/people"
	"hevrin/app/record"
	core "hevrin/core/people"
)

// peopleHandlers answer for sign-ins, people and devices. Without a guard nobody signs in.
type peopleHandlers struct {
	guard *guard
	setUp SetUp
}

// inYard gives the use cases; an error where nobody signs in.
func (h *peopleHandlers) inYard() (*people.People, error) {
	if h.guard == nil {
		return nil, echo.NewHTTPError(http.StatusConflict, "nobody signs in here: Hevrin runs for this machine alone")
	}
	return h.guard.People, nil
}

// allRights are those of whoever uses a machine alone.
func allRights() []api.Right {
	return api.Each(core.Manager.Rights(), func(r core.Right) api.Right { return api.Right(r) })
}

// sessionOf says who uses a device.
func (h *peopleHandlers) sessionOf(ctx context.Context, device string) (api.Session, error) {
	if h.guard == nil {
		return api.Session{Mode: api.SessionModeAlone, SignedIn: true, Rights: allRights(), Tiles: []api.Tile{}}, nil
	}
	out := api.Session{Mode: api.SessionModeYard, Rights: []api.Right{}, Tiles: []api.Tile{}}
	if device == "" {
		return out, nil
	}
	p := h.guard.People
	actor, err := p.Look(ctx, device, fromOf(ctx).Address)
	if err != nil {
		return out, ignoreSignedOut(err)
	}
	out.SignedIn, out.Device = true, api.Some(actor.Device)
	person := personView(people.Entry{Person: core.Person{ID: actor.ID, Name: actor.Name, Role: actor.Role,
		Was: actor.Names}})
	out.Person = &person
	out.Rights = api.Each(actor.Role.Rights(), func(r core.Right) api.Right { return api.Right(r) })
	tiles, err := p.Tiles(ctx, device)
	if err != nil {
		return out, err
	}
	for _, t := range tiles {
		out.Tiles = append(out.Tiles, api.Tile{Person: personView(people.Entry{Person: t.People}), Pin: t.PIN})
		if t.People.ID == actor.ID {
			out.Pin = api.Some(t.PIN)
		}
	}
	return out, nil
}

func ignoreSignedOut(err error) error {
	if err == people.ErrSignedOut { //nolint:errorlint // it comes bare
		return nil
	}
	return err
}

// begin gives the device that just proved who uses it a session of its own: whatever token the browser came with opens
// nothing from now on.
func (h *peopleHandlers) begin(ctx context.Context, d people.Device) (api.Session, error) {
	if err := h.guard.sessions.RenewToken(ctx); err != nil {
		return api.Session{}, err
	}
	h.guard.sessions.Put(ctx, deviceKey, d.ID)
	return h.sessionOf(ctx, d.ID)
}

// own is the device that asks.
func (h *peopleHandlers) own(ctx context.Context) (api.Session, error) {
	actor, _ := record.ActorOf(ctx)
	return h.sessionOf(ctx, actor.Device)
}

// from says from where somebody asks; what the device calls itself goes before what its browser does.
func from(ctx context.Context, label *string) people.From {
	f := fromOf(ctx)
	if l := strings.TrimSpace(api.Value(label)); l != "" {
		f.Label = l
	}
	return f
}

func (h *peopleHandlers) GetSession(ctx context.Context, _ api.GetSessionRequestObject) (api.GetSessionResponseObject,
	error) {
	out, err := h.own(ctx)
	return api.GetSession200JSONResponse(out), err
}

func (h *peopleHandlers) SignIn(ctx context.Context, r api.SignInRequestObject) (api.SignInResponseObject, error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	shared := ""
	if actor, ok := record.ActorOf(ctx); ok && api.Value(r.Body.Shared) {
		shared = actor.Device
	}
	d, err := p.SignIn(ctx, r.Body.Name, r.Body.Passphrase, from(ctx, r.Body.Label), shared)
	if err != nil {
		return nil, err
	}
	out, err := h.begin(ctx, d)
	return api.SignIn200JSONResponse(out), err
}

func (h *peopleHandlers) SignOut(ctx context.Context, _ api.SignOutRequestObject) (api.SignOutResponseObject, error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	actor, _ := record.ActorOf(ctx)
	if err := p.SignOut(ctx, actor.Device, fromOf(ctx)); err != nil {
		return nil, err
	}
	if err := h.guard.sessions.Destroy(ctx); err != nil {
		return nil, err
	}
	out, err := h.sessionOf(ctx, "")
	return api.SignOut200JSONResponse(out), err
}

func (h *peopleHandlers) SwitchPerson(ctx context.Context,
	r api.SwitchPersonRequestObject) (api.SwitchPersonResponseObject, error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	actor, _ := record.ActorOf(ctx)
	if err := p.Switch(ctx, actor.Device, r.Body.PersonId, r.Body.Pin, fromOf(ctx)); err != nil {
		return nil, err
	}
	out, err := h.begin(ctx, people.Device{ID: actor.Device})
	return api.SwitchPerson200JSONResponse(out), err
}

func (h *peopleHandlers) ChangePassphrase(ctx context.Context,
	r api.ChangePassphraseRequestObject) (api.ChangePassphraseResponseObject, error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	if err := p.ChangePassphrase(ctx, r.Body.Old, r.Body.Passphrase, fromOf(ctx)); err != nil {
		return nil, err
	}
	actor, _ := record.ActorOf(ctx)
	out, err := h.begin(ctx, people.Device{ID: actor.Device})
	return api.ChangePassphrase200JSONResponse(out), err
}

func (h *peopleHandlers) SetPIN(ctx context.Context, r api.SetPINRequestObject) (api.SetPINResponseObject, error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	if err := p.SetPIN(ctx, r.Body.Passphrase, r.Body.Pin, fromOf(ctx)); err != nil {
		return nil, err
	}
	out, err := h.own(ctx)
	return api.SetPIN200JSONResponse(out), err
}

func (h *peopleHandlers) GetInvitation(ctx context.Context,
	r api.GetInvitationRequestObject) (api.GetInvitationResponseObject, error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	who, err := p.Invitation(ctx, r.Token)
	return api.GetInvitation200JSONResponse{Name: who.Name, RoleLabel: who.Role.Label()}, err
}

func (h *peopleHandlers) AcceptInvitation(ctx context.Context,
	r api.AcceptInvitationRequestObject) (api.AcceptInvitationResponseObject, error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	d, err := p.Accept(ctx, r.Token, r.Body.Passphrase, from(ctx, r.Body.Label))
	if err != nil {
		return nil, err
	}
	out, err := h.begin(ctx, d)
	return api.AcceptInvitation200JSONResponse(out), err
}

func personView(e people.Entry) api.Person {
	return api.Person{Id: e.ID, Name: e.Name, Role: api.Role(e.Role), RoleLabel: e.Role.Label(), Off: api.Some(e.Off),
		Was: api.SomeList(e.Was), Account: api.Some(e.Account), InvitedTo: api.Some(e.InvitedTo)}
}

// people lists everybody; of who only reads, what the roster alone is for is left out.
func (h *peopleHandlers) people(ctx context.Context) (api.People, error) {
	out := api.People{People: []api.Person{}, Names: []string{}, Roles: api.Each(core.Roles,
		func(d core.Description) api.RoleDescription {
			return api.RoleDescription{Id: api.Role(d.Role), Label: d.Label, Does: d.Does,
				Rights: api.Each(d.Rights, func(r core.Right) api.Right { return api.Right(r) })}
		})}
	p, err := h.inYard()
	if err != nil {
		return out, err
	}
	list, err := p.Roster(ctx)
	if err != nil {
		return out, err
	}
	leads := record.Allow(ctx, core.Lead) == nil
	for _, e := range list {
		if !leads {
			e = people.Entry{Person: core.Person{ID: e.ID, Name: e.Name, Role: e.Role, Off: e.Off}}
		}
		out.People = append(out.People, personView(e))
	}
	if leads {
		names, err := p.Names(ctx)
		if err != nil {
			return out, err
		}
		out.Names = append(out.Names, names...)
	}
	return out, nil
}

func (h *peopleHandlers) GetPeople(ctx context.Context, _ api.GetPeopleRequestObject) (api.GetPeopleResponseObject,
	error) {
	out, err := h.people(ctx)
	return api.GetPeople200JSONResponse(out), err
}

func (h *peopleHandlers) InvitePerson(ctx context.Context,
	r api.InvitePersonRequestObject) (api.InvitePersonResponseObject, error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	who, token, err := p.Invite(ctx, r.Body.Name, core.Role(r.Body.Role))
	if err != nil {
		return nil, err
	}
	out, err := h.invitation(who, token)
	return api.InvitePerson200JSONResponse(out), err
}

func (h *peopleHandlers) InviteAgain(ctx context.Context,
	r api.InviteAgainRequestObject) (api.InviteAgainResponseObject, error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	who, token, err := p.InviteAgain(ctx, r.PersonId)
	if err != nil {
		return nil, err
	}
	out, err := h.invitation(who, token)
	return api.InviteAgain200JSONResponse(out), err
}

// joinPath is where an invitation is accepted, before its token. It is in the part of the address that browsers do not
// send, so that it stands in no proxy's log.
const joinPath = "/join#"

func (h *peopleHandlers) invitation(who core.Person, token string) (api.InvitationMade, error) {
	y := h.guard.Yard
	address := "https://" + y.Network.Hosts[0] + y.Port
	link := joinPath + token
	code, err := qr.Encode(address+link, qr.M)
	if err != nil {
		return api.InvitationMade{}, err
	}
	out := api.InvitationMade{Person: personView(people.Entry{Person: who}), Link: link, Qr: qrView(code)}
	if len(y.Authority) > 0 {
		code, err := qr.Encode(address+AuthorityPath, qr.M)
		if err != nil {
			return out, err
		}
		out.Authority = &api.AuthorityGiven{Link: AuthorityPath, Fingerprint: y.Fingerprint, Qr: qrView(code)}
	}
	return out, nil
}

// qrView draws the dark squares of a code as one path of runs.
func qrView(code *qr.Code) api.QR {
	var path strings.Builder
	for y := range code.Size {
		for x := 0; x < code.Size; {
			run := 0
			for x+run < code.Size && code.Black(x+run, y) {
				run++
			}
			if run > 0 {
				fmt.Fprintf(&path, "M%d %dh%dv1h-%dz", x, y, run, run)
			}
			x += max(1, run)
		}
	}
	return api.QR{Size: code.Size, Path: path.String()}
}

func (h *peopleHandlers) ChangePerson(ctx context.Context,
	r api.ChangePersonRequestObject) (api.ChangePersonResponseObject, error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	to := people.Change{Name: r.Body.Name, Off: r.Body.Off, Was: r.Body.Was}
	if r.Body.Role != nil {
		role := core.Role(*r.Body.Role)
		to.Role = &role
	}
	if err := p.ChangePerson(ctx, r.PersonId, to); err != nil {
		return nil, err
	}
	out, err := h.people(ctx)
	return api.ChangePerson200JSONResponse(out), err
}

func (h *peopleHandlers) devices(ctx context.Context) (api.Devices, error) {
	out := api.Devices{Devices: []api.Device{}}
	p, err := h.inYard()
	if err != nil {
		return out, err
	}
	list, err := p.Devices(ctx)
	if err != nil {
		return out, err
	}
	roster, err := p.Roster(ctx)
	if err != nil {
		return out, err
	}
	actor, _ := record.ActorOf(ctx)
	for _, d := range list {
		name := ""
		if at := slices.IndexFunc(roster, func(e people.Entry) bool { return e.ID == d.PersonID }); at >= 0 {
			name = roster[at].Name
		}
		out.Devices = append(out.Devices, api.Device{Id: d.ID, PersonId: d.PersonID, Person: name, Label: d.Label,
			Address: d.Address, MadeAt: d.MadeAt, UsedAt: d.UsedAt, This: d.ID == actor.Device})
	}
	return out, nil
}

func (h *peopleHandlers) GetDevices(ctx context.Context, _ api.GetDevicesRequestObject) (api.GetDevicesResponseObject,
	error) {
	out, err := h.devices(ctx)
	return api.GetDevices200JSONResponse(out), err
}

func (h *peopleHandlers) EndDevice(ctx context.Context, r api.EndDeviceRequestObject) (api.EndDeviceResponseObject,
	error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	if err := p.EndDevice(ctx, r.DeviceId); err != nil {
		return nil, err
	}
	out, err := h.devices(ctx)
	return api.EndDevice200JSONResponse(out), err
}

func (h *peopleHandlers) EndDevices(ctx context.Context, r api.EndDevicesRequestObject) (api.EndDevicesResponseObject,
	error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	if err := p.EndAll(ctx, r.PersonId); err != nil {
		return nil, err
	}
	out, err := h.devices(ctx)
	return api.EndDevices200JSONResponse(out), err
}

// mostAudited is how many lines of the audit log are given.
const mostAudited = 500

func (h *peopleHandlers) GetAudit(ctx context.Context, _ api.GetAuditRequestObject) (api.GetAuditResponseObject,
	error) {
	p, err := h.inYard()
	if err != nil {
		return nil, err
	}
	list, err := p.Audited(ctx, mostAudited)
	if err != nil {
		return nil, err
	}
	roster, err := p.Roster(ctx)
	if err != nil {
		return nil, err
	}
	out := api.GetAudit200JSONResponse{Lines: []api.AuditLine{}}
	for _, e := range list {
		line := e.Body.Audit
		of := line.Of
		if at := slices.IndexFunc(roster, func(p people.Entry) bool { return p.ID == of }); at >= 0 {
			of = roster[at].Name
		}
		out.Lines = append(out.Lines, api.AuditLine{At: e.At, What: line.What, By: e.By, Of: api.Some(of),
			Address: api.Some(line.Address), Say: line.Say})
	}
	return out, nil
}
