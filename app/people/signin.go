package people

import (
	"context"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"hevrin/app/record"
	goodphrase "hevrin/core/passphrase"
	"hevrin/core/people"
	"hevrin/core/validation"
)

// From is from where somebody asks: the address, and what the device calls itself.
type From struct{ Address, Label string }

// ErrNotKnown refuses a sign-in; it does not say what of it was wrong.
var errNotKnown = &record.Forbidden{Say: "name and passphrase do not belong together: look at both, then try again"}

// SignIn finds whose name and passphrase these are, and gives them a device: a new one, or the one that is signed in
// already and is shared. How long it takes does not tell whether there is such a name.
func (a *People) SignIn(ctx context.Context, name, passphrase string, from From, shared string) (Device, error) {
	if err := a.guesses.begin(name, from.Address, a.Now()); err != nil {
		return Device{}, err
	}
	all, err := a.all(a.Store.Read(ctx))
	if err != nil {
		return Device{}, err
	}
	hash, who := a.dummy(), people.Person{}
	if at := slices.IndexFunc(all, func(p people.Person) bool { return people.Same(p.Name, name) && !p.Off }); at >= 0 {
		account, ok, err := a.store.Account(ctx, all[at].ID)
		if err != nil {
			return Device{}, err
		}
		if ok {
			hash, who = account.Passphrase, all[at]
		}
	}
	if len([]rune(passphrase)) > goodphrase.Most {
		passphrase = ""
	}
	right, err := a.matches(ctx, passphrase, hash)
	if err != nil {
		return Device{}, err
	}
	if !right || who.ID == "" {
		a.refusals.refused(ctx, a, people.AuditLine{What: people.SignInRefused, Address: from.Address, Of: short(name)})
		return Device{}, errNotKnown
	}
	a.guesses.right(name, from.Address)
	d, err := a.deviceFor(ctx, who, from, shared)
	if err == nil {
		a.Audit(ctx, people.AuditLine{What: people.SignedIn, Person: who.ID, Device: d.ID, Address: from.Address,
			Say: d.Label})
	}
	return d, err
}

// short keeps what a stranger typed from filling the audit log.
func short(s string) string {
	if r := []rune(s); len(r) > 80 {
		return string(r[:80]) + "…"
	}
	return s
}

// deviceFor gives somebody who proved who they are a device.
func (a *People) deviceFor(ctx context.Context, who people.Person, from From, shared string) (Device, error) {
	now := a.Now().UTC()
	d := Device{ID: uuid.NewString(), Label: from.Label, MadeAt: now}
	if shared != "" {
		old, ok, err := a.store.Device(ctx, shared)
		if err != nil {
			return d, err
		}
		if ok && old.EndedAt == nil {
			d = old
		}
	}
	d.PersonID, d.Address, d.UsedAt = who.ID, from.Address, now
	if err := a.store.SaveDevice(ctx, d); err != nil {
		return d, err
	}
	return d, a.store.SaveOnDevice(ctx, OnDevice{DeviceID: d.ID, PersonID: who.ID, Since: now})
}

// touchEvery is how often the use of a device is noted.
const touchEvery = time.Minute

// ErrSignedOut says that a device is not signed in, or not any more.
var ErrSignedOut = fmt.Errorf("this device is not signed in")

// Actor tells who uses a device, and notes that it is used. ErrSignedOut where it was signed out, lay too long, or
// its person is no more of the yard.
func (a *People) Actor(ctx context.Context, device, address string) (record.Actor, error) {
	return a.actor(ctx, device, address, true)
}

// Look is Actor for what a page asks by itself, without a touch: a desk that lies open overnight is idle all the same.
func (a *People) Look(ctx context.Context, device, address string) (record.Actor, error) {
	return a.actor(ctx, device, address, false)
}

func (a *People) actor(ctx context.Context, device, address string, used bool) (record.Actor, error) {
	d, ok, err := a.store.Device(ctx, device)
	if err != nil {
		return record.Actor{}, err
	}
	now := a.Now().UTC()
	if !ok || d.EndedAt != nil || now.Sub(d.UsedAt) > people.IdleFor || now.Sub(d.MadeAt) > people.LastsFor {
		return record.Actor{}, ErrSignedOut
	}
	all, err := a.all(a.Store.Read(ctx))
	if err != nil {
		return record.Actor{}, err
	}
	at := slices.IndexFunc(all, func(p people.Person) bool { return p.ID == d.PersonID && !p.Off })
	if at < 0 {
		return record.Actor{}, ErrSignedOut
	}
	if used && (now.Sub(d.UsedAt) > touchEvery || d.Address != address) {
		if err := a.store.TouchDevice(ctx, d.ID, address, now); err != nil {
			return record.Actor{}, err
		}
	}
	return actorOf(all[at], d.ID), nil
}

// Tile is somebody who can take over a shared device with a PIN.
type Tile struct {
	People people.Person
	PIN    bool // they have one, and it may be given; else the passphrase is asked for
}

// Tiles lists who gave their passphrase on a device of late.
func (a *People) Tiles(ctx context.Context, device string) ([]Tile, error) {
	on, err := a.store.OnDevice(ctx, device)
	if err != nil {
		return nil, err
	}
	all, err := a.all(a.Store.Read(ctx))
	if err != nil {
		return nil, err
	}
	var out []Tile
	for _, o := range on {
		at := slices.IndexFunc(all, func(p people.Person) bool { return p.ID == o.PersonID && !p.Off })
		if at < 0 {
			continue
		}
		account, _, err := a.store.Account(ctx, o.PersonID)
		if err != nil {
			return nil, err
		}
		out = append(out, Tile{all[at], account.PIN != "" && a.pinHolds(o)})
	}
	return out, nil
}

func (a *People) pinHolds(o OnDevice) bool {
	return o.Wrong < people.MostPINGuesses && a.Now().Sub(o.Since) < people.PINLastsFor
}

var errPassphrase = &record.Forbidden{
	Say: "give the passphrase once more on this device: the PIN is not enough now"}

// Switch lets somebody take over a shared device with their PIN. After too many wrong ones the passphrase is asked for.
func (a *People) Switch(ctx context.Context, device, person, pin string, from From) error {
	d, ok, err := a.store.Device(ctx, device)
	if err != nil {
		return err
	}
	if !ok || d.EndedAt != nil {
		return ErrSignedOut
	}
	who, err := a.person(ctx, person)
	if err != nil {
		return err
	}
	on, err := a.store.OnDevice(ctx, device)
	if err != nil {
		return err
	}
	at := slices.IndexFunc(on, func(o OnDevice) bool { return o.PersonID == person })
	account, ok, err := a.store.Account(ctx, person)
	if err != nil {
		return err
	}
	if at < 0 || !ok || account.PIN == "" || who.Off || !a.pinHolds(on[at]) {
		return errPassphrase
	}
	left, err := a.store.TryPIN(ctx, on[at], people.MostPINGuesses, people.MostPINGuessesOfAll)
	if err != nil {
		return err
	}
	if left < 0 {
		return errPassphrase
	}
	right, err := a.matches(ctx, pin, account.PIN)
	if err != nil {
		return err
	}
	if !right {
		a.Audit(ctx, people.AuditLine{What: people.PINRefused, Of: person, Device: device, Address: from.Address})
		return &record.Forbidden{Say: fmt.Sprintf("that is not the PIN: %d more %s, then the passphrase is asked for", left,
			map[bool]string{true: "try", false: "tries"}[left == 1])}
	}
	if err := a.store.ForgivePIN(ctx, on[at]); err != nil {
		return err
	}
	d.PersonID, d.UsedAt, d.Address = person, a.Now().UTC(), from.Address
	if err := a.store.SaveDevice(ctx, d); err != nil {
		return err
	}
	a.ended.tell()
	a.Audit(ctx, people.AuditLine{What: people.Switched, Person: person, Device: device, Address: from.Address})
	return nil
}

// ChangePassphrase gives whoever asks a new passphrase, and signs out all their other devices.
func (a *People) ChangePassphrase(ctx context.Context, old, phrase string, from From) error {
	actor, _ := record.ActorOf(ctx)
	account, err := a.proven(ctx, actor, old, from)
	if err != nil {
		return err
	}
	if err := goodphrase.Check(actor.Name, phrase); err != nil {
		return err
	}
	if account.Passphrase, err = a.hash(ctx, phrase); err != nil {
		return err
	}
	account.ChangedAt = a.Now().UTC()
	if err := a.store.SaveAccount(ctx, account); err != nil {
		return err
	}
	if err := a.store.EndDevices(ctx, "", actor.ID, actor.Device, a.Now().UTC()); err != nil {
		return err
	}
	a.ended.tell()
	a.Audit(ctx, people.AuditLine{What: people.PassphraseChanged, Person: actor.ID, Device: actor.Device,
		Address: from.Address})
	return nil
}

// proven asks whoever is signed in for their passphrase once more, before something of their account is changed.
func (a *People) proven(ctx context.Context, actor record.Actor, phrase string, from From) (Account, error) {
	if err := a.guesses.begin(actor.Name, from.Address, a.Now()); err != nil {
		return Account{}, err
	}
	account, ok, err := a.store.Account(ctx, actor.ID)
	if err != nil || !ok {
		return account, err
	}
	right, err := a.matches(ctx, phrase, account.Passphrase)
	if err != nil {
		return account, err
	}
	if !right {
		var wrong validation.Errors
		wrong.Add("old", "another one", "the passphrase of now", "that is not your passphrase")
		return account, wrong
	}
	a.guesses.right(actor.Name, from.Address)
	return account, nil
}

// SetPIN gives whoever asks a PIN; an empty one takes it away.
func (a *People) SetPIN(ctx context.Context, phrase, pin string, from From) error {
	actor, _ := record.ActorOf(ctx)
	account, err := a.proven(ctx, actor, phrase, from)
	if err != nil {
		return err
	}
	if pin != "" {
		if err := people.CheckPIN(pin); err != nil {
			return err
		}
		if account.PIN, err = a.hash(ctx, pin); err != nil {
			return err
		}
	} else {
		account.PIN = ""
	}
	if err := a.store.SaveAccount(ctx, account); err != nil {
		return err
	}
	err = a.store.SaveOnDevice(ctx, OnDevice{DeviceID: actor.Device, PersonID: actor.ID, Since: a.Now().UTC()})
	a.Audit(ctx, people.AuditLine{What: people.PINChanged, Person: actor.ID, Device: actor.Device, Address: from.Address})
	return err
}

// SignOut signs a device out that asks for it.
func (a *People) SignOut(ctx context.Context, device string, from From) error {
	d, ok, err := a.store.Device(ctx, device)
	if err != nil || !ok || d.EndedAt != nil {
		return err
	}
	if err := a.store.EndDevices(ctx, device, "", "", a.Now().UTC()); err != nil {
		return err
	}
	a.ended.tell()
	a.Audit(ctx, people.AuditLine{What: people.SignedOut, Person: d.PersonID, Device: device, Address: from.Address})
	return nil
}

// EndDevice signs another device out: one's own, or anybody's for who leads.
func (a *People) EndDevice(ctx context.Context, device string) error {
	d, ok, err := a.store.Device(ctx, device)
	if err != nil {
		return err
	}
	actor, _ := record.ActorOf(ctx)
	if !ok || d.PersonID != actor.ID && !actor.Role.May(people.Lead) {
		return record.NotFound("device", device)
	}
	if err := a.store.EndDevices(ctx, device, "", "", a.Now().UTC()); err != nil {
		return err
	}
	a.ended.tell()
	a.Audit(ctx, people.AuditLine{What: people.DeviceEnded, Person: actor.ID, Device: actor.Device, Of: device,
		Say: d.Label})
	return nil
}

// EndAll signs all devices of a person out, but for the one from which it is asked.
func (a *People) EndAll(ctx context.Context, person string) error {
	actor, _ := record.ActorOf(ctx)
	if person != actor.ID && !actor.Role.May(people.Lead) {
		return record.NotFound("person", person)
	}
	if err := a.store.EndDevices(ctx, "", person, actor.Device, a.Now().UTC()); err != nil {
		return err
	}
	a.ended.tell()
	a.Audit(ctx, people.AuditLine{What: people.DeviceEnded, Person: actor.ID, Device: actor.Device, Of: person,
		Say: "all"})
	return nil
}

// Devices lists the devices that are signed in: of whoever asks, or of all for who leads.
func (a *People) Devices(ctx context.Context) ([]Device, error) {
	actor, _ := record.ActorOf(ctx)
	person := actor.ID
	if actor.Role.May(people.Lead) {
		person = ""
	}
	list, err := a.store.Devices(ctx, person)
	now := a.Now()
	return slices.DeleteFunc(list, func(d Device) bool {
		return now.Sub(d.UsedAt) > people.IdleFor || now.Sub(d.MadeAt) > people.LastsFor
	}), err
}
