package server

import (
	"bytes"
	"context"

	"hevrin/api"
	"hevrin/app/job"
	"hevrin/app/yard"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
	"hevrin/core/units"
)

func (h *jobHandlers) GetPhoto(ctx context.Context, r api.GetPhotoRequestObject) (api.GetPhotoResponseObject, error) {
	jpeg, err := h.jobs.Photo(ctx, r.PhotoId)
	if err != nil {
		return nil, err
	}
	return api.GetPhoto200ImagejpegResponse{Body: bytes.NewReader(jpeg), ContentLength: int64(len(jpeg))}, nil
}

func (h *yardHandlers) GetMethods(ctx context.Context,
	_ api.GetMethodsRequestObject) (api.GetMethodsResponseObject, error) {
	b, err := h.overview.Methods(ctx)
	if err != nil {
		return nil, err
	}
	return api.GetMethods200JSONResponse(bookView(b)), nil
}

func (h *yardHandlers) PutMethodEntry(ctx context.Context,
	r api.PutMethodEntryRequestObject) (api.PutMethodEntryResponseObject, error) {
	b := r.Body
	var body eventlog.Body
	if b.Task != nil {
		body.Task = &eventlog.TaskOf{Task: taskOf(*b.Task), Gone: value(b.Gone)}
	}
	if b.Product != nil {
		body.Product = &eventlog.ProductOf{Product: productOf(*b.Product), Gone: value(b.Gone)}
	}
	if b.Question != nil {
		body.Method = &eventlog.Method{Question: *b.Question, School: value(b.School)}
	}
	page, err := h.overview.NoteMethod(ctx, eventlog.Kind(b.Kind), seenBy(stamp(r.EntryId, b.By, b.TappedAt), b.Seen),
		body)
	if err != nil {
		return nil, err
	}
	return api.PutMethodEntry200JSONResponse(bookView(page)), nil
}

func bookView(b *yard.MethodsPage) api.YardMethods {
	own := []string{}
	for _, t := range b.Tasks {
		if b.Own[t.ID] {
			own = append(own, t.ID)
		}
	}
	return api.YardMethods{Tasks: each(b.Tasks, taskView), Own: own, Schools: b.Schools, Products: each(b.Products,
		productView), Log: each(b.Log, logView)}
}

func itemOf(i api.TaskItem) catalogue.Item {
	return catalogue.Item{ID: i.Id, Kind: string(i.Kind), Label: i.Label, Where: value(i.Where), Count: i.Count,
		Access:    value(i.Access),
		Oil:       value(i.Oil),
		Disturbed: value(i.Disturbed), Shape: string(value(i.Shape)),
		TorqueNM: value(i.TorqueNm), LeftHand: value(i.LeftHand), ThreadLock: value(i.ThreadLock), Below: value(i.Below),
		Note: value(i.Note)}
}

func itemView(i catalogue.Item) api.TaskItem {
	return api.TaskItem{Id: i.ID, Kind: api.ItemKind(i.Kind), Label: i.Label, Where: some(i.Where), Count: i.Count,
		Access:    some(i.Access),
		Oil:       some(i.Oil),
		Disturbed: some(i.Disturbed), Shape: some(api.FastenerShape(i.Shape)),
		TorqueNm: some(i.TorqueNM), LeftHand: some(i.LeftHand), ThreadLock: some(i.ThreadLock), Below: some(i.Below),
		Note: some(i.Note)}
}

func taskOf(t api.Task) catalogue.Task {
	return catalogue.Task{ID: t.Id, Label: t.Label, Stations: t.Stations, Families: each(t.Families,
		func(f api.FamilyID) string { return string(f) }), Minutes: t.Minutes, Access: value(t.Access),
		Isolate: value(t.Isolate), Items: each(t.Items, itemOf), Cautions: value(t.Cautions), Methods: value(t.Methods),
		Steps: value(t.Steps), After: value(t.After), While: value(t.WhileThere), Parts: value(t.Parts),
		Bring: value(t.Bring)}
}

func taskView(t catalogue.Task) api.Task {
	return api.Task{Id: t.ID, Label: t.Label, Stations: list(t.Stations), Families: each(t.Families,
		func(f string) api.FamilyID { return api.FamilyID(f) }), Minutes: t.Minutes,
		Access: someList(t.Access), Isolate: someList(t.Isolate), Items: each(t.Items, itemView),
		Cautions: someList(t.Cautions),
		Methods:  someList(t.Methods), Steps: someList(t.Steps),
		After: someList(t.After), WhileThere: someList(t.While), Parts: someList(t.Parts), Bring: someList(t.Bring)}
}

// someList leaves out what is empty.
func someList(l []string) *[]string {
	if len(l) == 0 {
		return nil
	}
	return &l
}

func actOf(a api.TeardownAct) *teardown.Act {
	out := &teardown.Act{Do: string(a.Do), Item: value(a.Item), Count: value(a.Count), State: value(a.State),
		Words: value(a.Words), Pass: value(a.Pass), Litres: value(a.Litres),
		Clamps: value(a.Clamps), Reach: value(a.Reach), Chafe: value(a.Chafe), Leaks: value(a.Leaks),
		Against: value(a.Against), Share: value(a.Share)}
	if a.Adds != nil {
		item := itemOf(*a.Adds)
		out.Adds = &item
	}
	if w := a.Wheel; w != nil {
		out.Wheel = &teardown.Wheel{HubLoud: value(w.HubSlips), Scored: value(w.Scored), Hours: value(w.Hours),
			Life: value(w.LifeHours),
			Blades: each(w.Blades, func(b api.Blade) teardown.Blade {
				return teardown.Blade{State: string(b.State),
					Share: value(b.Share)}
			})}
	}
	if p := a.Piece; p != nil {
		out.Piece = &teardown.Piece{Share: p.Share, Old: value(p.Old)}
	}
	if b := a.Body; b != nil {
		out.Body = &teardown.Body{CamMM: b.CamMm, PlateMM: b.PlateMm, CoverMM: b.CoverMm, CoverOnce: value(b.CoverTurned),
			OtherSideBad: value(b.CoverOtherSideMarked), Drive: string(value(b.Drive)), DrivePlayMM: value(b.DrivePlayMm)}
	}
	if e := a.Elbow; e != nil {
		out.Elbow = &teardown.Elbow{BoreMM: e.BoreMm, NewBoreMM: e.NewBoreMm, Pitted: value(e.Pitted),
			Cracked: value(e.Cracked), FaceBad: value(e.FaceBad)}
	}
	if u := a.Used; u != nil {
		out.Used = &teardown.Used{Label: u.Label, Quantity: u.Quantity, PartNumber: value(u.PartNumber),
			State: string(u.State), Price: value(u.Price), Minutes: value(u.Minutes), Stock: value(u.Stock),
			For: value(u.For), Holds: value(u.Holds)}
	}
	if x := a.Refit; x != nil {
		out.Refit = &teardown.Refit{OtherMake: value(x.OtherMake), Ports: value(x.PortsTurned), Rerouted: value(x.Rerouted),
			Thread: string(value(x.Thread)), TorqueNM: value(x.TorqueNm), Places: value(x.Places), Sealant: value(x.Sealant),
			Plate: value(x.Plate)}
	}
	return out
}

func actView(a teardown.Act) api.TeardownAct {
	out := api.TeardownAct{Do: api.TeardownVerb(a.Do), Item: some(a.Item), Count: some(a.Count), State: some(a.State),
		Words: some(a.Words), Pass: some(a.Pass), Litres: some(a.Litres),
		Clamps: some(a.Clamps), Reach: some(a.Reach), Chafe: some(a.Chafe), Against: some(a.Against),
		Wheel: wheelView(a.Wheel), Body: bodyView(a.Body), Elbow: elbowView(a.Elbow)}
	if a.Adds != nil {
		item := itemView(*a.Adds)
		out.Adds = &item
	}
	if a.Piece != nil {
		out.Piece = &api.Piece{Share: a.Piece.Share, Old: some(a.Piece.Old)}
	}
	if len(a.Leaks) > 0 {
		out.Leaks = &a.Leaks
	}
	if a.Used != nil {
		used := usedView(*a.Used)
		out.Used = &used
	}
	if a.Refit != nil {
		out.Refit = refitView(*a.Refit)
	}
	return out
}

func refitView(r teardown.Refit) *api.Refit {
	if r == (teardown.Refit{}) {
		return nil
	}
	return &api.Refit{OtherMake: some(r.OtherMake), PortsTurned: some(r.Ports), Rerouted: some(r.Rerouted),
		Thread: some(api.ThreadTreatment(r.Thread)), TorqueNm: some(r.TorqueNM), Places: some(r.Places),
		Sealant: some(r.Sealant), Plate: some(r.Plate)}
}

func wheelView(w *teardown.Wheel) *api.Wheel {
	if w == nil {
		return nil
	}
	return &api.Wheel{HubSlips: some(w.HubLoud), Scored: some(w.Scored), Hours: some(w.Hours), LifeHours: some(w.Life),
		Blades: each(w.Blades, func(b teardown.Blade) api.Blade {
			return api.Blade{State: api.BladeState(b.State), Share: some(b.Share)}
		})}
}

func bodyView(b *teardown.Body) *api.PumpBody {
	if b == nil {
		return nil
	}
	return &api.PumpBody{CamMm: b.CamMM, PlateMm: b.PlateMM, CoverMm: b.CoverMM, CoverTurned: some(b.CoverOnce),
		CoverOtherSideMarked: some(b.OtherSideBad), Drive: some(api.PumpBodyDrive(b.Drive)),
		DrivePlayMm: some(b.DrivePlayMM)}
}

func elbowView(e *teardown.Elbow) *api.ElbowMeasured {
	if e == nil {
		return nil
	}
	return &api.ElbowMeasured{BoreMm: e.BoreMM, NewBoreMm: e.NewBoreMM, Pitted: some(e.Pitted), Cracked: some(e.Cracked),
		FaceBad: some(e.FaceBad)}
}

func usedView(u teardown.Used) api.PartUsed {
	return api.PartUsed{Label: u.Label, Quantity: u.Quantity, PartNumber: some(u.PartNumber),
		State: api.PartState(u.State), Price: some(u.Price), Minutes: some(u.Minutes), Stock: some(u.Stock),
		For: some(u.For), Holds: someList(u.Holds)}
}

func photoView(p eventlog.StoredPhoto) api.StoredPhoto {
	return api.StoredPhoto{Id: p.From.Entry, Item: p.Item, Width: p.Width, Height: p.Height, Words: p.Words,
		By: p.From.By, At: p.From.At}
}

func stripItemView(system units.System, i teardown.Item) api.TeardownItem {
	out := api.TeardownItem{Key: i.Key, Task: i.Task, Item: itemView(i.Item), Off: i.Off, New: i.New, Reused: i.Reused,
		Excused: i.Excused, Why: i.Why, Notes: list(i.Notes), Pass: i.Pass,
		Clamps: i.Clamps, Reach: i.Reach, Chafe: i.Chafe, StillOff: i.StillOff(), Refit: value(refitView(i.Refit)),
		RefitSays: said(system, i.Refit.Says())}
	n := i.Count // the real number, not how many are off
	if order, err := teardown.Order(n, i.Shape); err == nil && i.Kind == teardown.Fasteners {
		places := each(teardown.Places(n, i.Shape),
			func(p teardown.Place) api.FastenerPlace { return api.FastenerPlace{X: p.X, Y: p.Y} })
		out.Order, out.Places = &order, &places
	}
	return out
}

func handsView(system units.System, h job.TeardownPage) api.Teardown {
	a := h.Account
	keys := []string{}
	for _, i := range a.Rebuild() {
		keys = append(keys, i.Key)
	}
	return api.Teardown{
		Isolated: each(a.Isolated, isolatedView),
		Tasks: each(h.Tasks, func(t catalogue.Task) api.FittingTask {
			return api.FittingTask{Id: t.ID, Label: t.Label, Stations: list(t.Stations)}
		}),
		Begun: each(a.Tasks, taskView),
		Items: each(a.Items, func(i teardown.Item) api.TeardownItem { return stripItemView(system, i) }), Rebuild: keys,
		Wheel: wheelView(a.Wheel), WheelVerdict: some(h.WheelVerdict), WheelSays: list(h.WheelSays),
		Ledger: ledgerView(a.Ledger),
		Hunt: each(h.Hunt, func(x teardown.Hunt) api.Hunt {
			return api.Hunt{Station: x.Station, Say: x.Say, Crumbs: x.Crumbs, Looked: x.Looked}
		}),
		Body: bodyView(a.Body), BodySays: said(system, h.BodySays), IdleShare: h.IdleShare, Leaks: list(a.Leaks),
		LeakSays: each(a.Leaks, func(p string) api.LeakSays {
			return api.LeakSays{Place: p, Say: teardown.LeakSays(p), Kit: teardown.LeakKit(p)}
		}),
		Elbow: elbowView(a.Elbow), ElbowVerdict: some(h.ElbowVerdict), ElbowSays: said(system, h.ElbowSays),
		Used: each(a.Used, usedView), FittedNew: each(a.FittedNew(), usedView), Waiting: waitingView(a.Waiting),
		Heeded: list(a.Heeded), Schools: h.Schools,
		Conditions: each(h.Conditions, conditionView),
		Ready:      h.Ready, Standing: list(h.Standing),
		Starts: each(a.Starts, func(s teardown.Started) api.Started {
			return api.Started{By: s.By, At: s.At,
				EntryId: s.Entry}
		}),
	}
}

func waitingView(w *teardown.Waiting) *api.WaitingFor {
	if w == nil {
		return nil
	}
	return &api.WaitingFor{For: api.WaitingForFor(w.For), Words: w.Words, By: w.By, At: w.At}
}

func ledgerView(l teardown.Ledger) api.Ledger {
	open := l.Open()
	return api.Ledger{Missing: l.Missing, Found: l.Found, Old: l.Old, AtLarge: l.AtLarge, Over: l.Over, Closed: l.Closed,
		Say: l.Say(), Open: &open, Unseen: &l.Unseen, Denied: &l.Denied,
		Pieces: each(l.Pieces, func(p teardown.PieceFound) api.PieceFound {
			return api.PieceFound{Share: p.Share, Old: p.Old, Station: p.Station}
		})}
}
