package handlers

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
		body.Task = &eventlog.TaskOf{Task: taskOf(*b.Task), Gone: api.Value(b.Gone)}
	}
	if b.Product != nil {
		body.Product = &eventlog.ProductOf{Product: productOf(*b.Product), Gone: api.Value(b.Gone)}
	}
	if f := b.Figures; f != nil {
		body.Figures = &eventlog.Figures{What: string(f.What), Values: api.Value(f.Values),
			Comeback: api.Value(f.ComebackMinutes)}
	}
	if b.Question != nil {
		body.Method = &eventlog.Method{Question: *b.Question, School: api.Value(b.School)}
	}
	page, err := h.overview.NoteMethod(ctx, eventlog.Kind(b.Kind), seenBy(Stamp(ctx, r.EntryId, b.By, b.TappedAt), b.Seen),
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
	return api.YardMethods{Tasks: api.Each(b.Tasks, taskView), Own: own, Schools: b.Schools, Products: api.Each(b.Products,
		productView), Figures: FiguresView(b.YardMethods), Log: api.Each(b.Log, logView)}
}

func itemOf(i api.TaskItem) catalogue.Item {
	return catalogue.Item{ID: i.Id, Kind: string(i.Kind), Label: i.Label, Where: api.Value(i.Where), Count: i.Count,
		Access:    api.Value(i.Access),
		Oil:       api.Value(i.Oil),
		Disturbed: api.Value(i.Disturbed), Shape: string(api.Value(i.Shape)),
		TorqueNM: api.Value(
			i.TorqueNm,
		), LeftHand: api.Value(i.LeftHand), ThreadLock: api.Value(i.ThreadLock), Below: api.Value(i.Below),
		Note: api.Value(i.Note)}
}

func itemView(i catalogue.Item) api.TaskItem {
	return api.TaskItem{Id: i.ID, Kind: api.ItemKind(i.Kind), Label: i.Label, Where: api.Some(i.Where), Count: i.Count,
		Access:    api.Some(i.Access),
		Oil:       api.Some(i.Oil),
		Disturbed: api.Some(i.Disturbed), Shape: api.Some(api.FastenerShape(i.Shape)),
		TorqueNm: api.Some(
			i.TorqueNM,
		), LeftHand: api.Some(i.LeftHand), ThreadLock: api.Some(i.ThreadLock), Below: api.Some(i.Below),
		Note: api.Some(i.Note)}
}

func taskOf(t api.Task) catalogue.Task {
	return catalogue.Task{ID: t.Id, Label: t.Label, Stations: t.Stations, Families: api.Each(t.Families,
		func(f api.FamilyID) string { return string(f) }), Minutes: t.Minutes, Access: api.Value(t.Access),
		Isolate: api.Value(
			t.Isolate,
		), Items: api.Each(t.Items, itemOf), Cautions: api.Value(t.Cautions), Methods: api.Value(t.Methods),
		Steps: api.Value(t.Steps), After: api.Value(t.After), While: api.Value(t.WhileThere), Parts: api.Value(t.Parts),
		Bring: api.Value(t.Bring)}
}

func taskView(t catalogue.Task) api.Task {
	return api.Task{Id: t.ID, Label: t.Label, Stations: api.List(t.Stations), Families: api.Each(t.Families,
		func(f string) api.FamilyID { return api.FamilyID(f) }), Minutes: t.Minutes,
		Access: api.SomeList(t.Access), Isolate: api.SomeList(t.Isolate), Items: api.Each(t.Items, itemView),
		Cautions: api.SomeList(t.Cautions),
		Methods:  api.SomeList(t.Methods), Steps: api.SomeList(t.Steps),
		After: api.SomeList(
			t.After,
		), WhileThere: api.SomeList(t.While), Parts: api.SomeList(t.Parts), Bring: api.SomeList(t.Bring)}
}

func actOf(a api.TeardownAct) *teardown.Act {
	out := &teardown.Act{Do: string(a.Do), Item: api.Value(a.Item), Count: api.Value(a.Count), State: api.Value(a.State),
		Words: api.Value(a.Words), Pass: api.Value(a.Pass), Litres: api.Value(a.Litres),
		Clamps: api.Value(a.Clamps), Reach: api.Value(a.Reach), Chafe: api.Value(a.Chafe), Leaks: api.Value(a.Leaks),
		Against: api.Value(a.Against), Share: api.Value(a.Share)}
	if a.Adds != nil {
		item := itemOf(*a.Adds)
		out.Adds = &item
	}
	if w := a.Wheel; w != nil {
		out.Wheel = &teardown.Wheel{HubLoud: api.Value(w.HubSlips), Scored: api.Value(w.Scored), Hours: api.Value(w.Hours),
			Life: api.Value(w.LifeHours),
			Blades: api.Each(w.Blades, func(b api.Blade) teardown.Blade {
				return teardown.Blade{State: string(b.State),
					Share: api.Value(b.Share)}
			})}
	}
	if p := a.Piece; p != nil {
		out.Piece = &teardown.Piece{Share: p.Share, Old: api.Value(p.Old)}
	}
	if b := a.Body; b != nil {
		out.Body = &teardown.Body{CamMM: b.CamMm, PlateMM: b.PlateMm, CoverMM: b.CoverMm, CoverOnce: api.Value(b.CoverTurned),
			OtherSideBad: api.Value(
				b.CoverOtherSideMarked,
			), Drive: string(api.Value(b.Drive)), DrivePlayMM: api.Value(b.DrivePlayMm)}
	}
	if e := a.Elbow; e != nil {
		out.Elbow = &teardown.Elbow{BoreMM: e.BoreMm, NewBoreMM: e.NewBoreMm, Pitted: api.Value(e.Pitted),
			Cracked: api.Value(e.Cracked), FaceBad: api.Value(e.FaceBad)}
	}
	if u := a.Used; u != nil {
		out.Used = &teardown.Used{Label: u.Label, Quantity: u.Quantity, PartNumber: api.Value(u.PartNumber),
			State: string(u.State), Price: api.Value(u.Price), Minutes: api.Value(u.Minutes), Stock: api.Value(u.Stock),
			For: api.Value(u.For), Holds: api.Value(u.Holds)}
	}
	if x := a.Refit; x != nil {
		out.Refit = &teardown.Refit{
			OtherMake: api.Value(x.OtherMake),
			Ports:     api.Value(x.PortsTurned),
			Rerouted:  api.Value(x.Rerouted),
			Thread: string(
				api.Value(x.Thread),
			),
			TorqueNM: api.Value(x.TorqueNm),
			Places:   api.Value(x.Places),
			Sealant:  api.Value(x.Sealant),
			Plate:    api.Value(x.Plate),
		}
	}
	return out
}

func actView(a teardown.Act) api.TeardownAct {
	out := api.TeardownAct{
		Do:      api.TeardownVerb(a.Do),
		Item:    api.Some(a.Item),
		Count:   api.Some(a.Count),
		State:   api.Some(a.State),
		Words:   api.Some(a.Words),
		Pass:    api.Some(a.Pass),
		Litres:  api.Some(a.Litres),
		Clamps:  api.Some(a.Clamps),
		Reach:   api.Some(a.Reach),
		Chafe:   api.Some(a.Chafe),
		Against: api.Some(a.Against),
		Wheel:   wheelView(a.Wheel),
		Body:    bodyView(a.Body),
		Elbow:   elbowView(a.Elbow),
	}
	if a.Adds != nil {
		item := itemView(*a.Adds)
		out.Adds = &item
	}
	if a.Piece != nil {
		out.Piece = &api.Piece{Share: a.Piece.Share, Old: api.Some(a.Piece.Old)}
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
	return &api.Refit{OtherMake: api.Some(r.OtherMake), PortsTurned: api.Some(r.Ports), Rerouted: api.Some(r.Rerouted),
		Thread: api.Some(api.ThreadTreatment(r.Thread)), TorqueNm: api.Some(r.TorqueNM), Places: api.Some(r.Places),
		Sealant: api.Some(r.Sealant), Plate: api.Some(r.Plate)}
}

func wheelView(w *teardown.Wheel) *api.Wheel {
	if w == nil {
		return nil
	}
	return &api.Wheel{
		HubSlips:  api.Some(w.HubLoud),
		Scored:    api.Some(w.Scored),
		Hours:     api.Some(w.Hours),
		LifeHours: api.Some(w.Life),
		Blades: api.Each(w.Blades, func(b teardown.Blade) api.Blade {
			return api.Blade{State: api.BladeState(b.State), Share: api.Some(b.Share)}
		}),
	}
}

func bodyView(b *teardown.Body) *api.PumpBody {
	if b == nil {
		return nil
	}
	return &api.PumpBody{CamMm: b.CamMM, PlateMm: b.PlateMM, CoverMm: b.CoverMM, CoverTurned: api.Some(b.CoverOnce),
		CoverOtherSideMarked: api.Some(b.OtherSideBad), Drive: api.Some(api.PumpBodyDrive(b.Drive)),
		DrivePlayMm: api.Some(b.DrivePlayMM)}
}

func elbowView(e *teardown.Elbow) *api.ElbowMeasured {
	if e == nil {
		return nil
	}
	return &api.ElbowMeasured{
		BoreMm:    e.BoreMM,
		NewBoreMm: e.NewBoreMM,
		Pitted:    api.Some(e.Pitted),
		Cracked:   api.Some(e.Cracked),
		FaceBad:   api.Some(e.FaceBad),
	}
}

func usedView(u teardown.Used) api.PartUsed {
	return api.PartUsed{Label: u.Label, Quantity: u.Quantity, PartNumber: api.Some(u.PartNumber),
		State: api.PartState(u.State), Price: api.Some(u.Price), Minutes: api.Some(u.Minutes), Stock: api.Some(u.Stock),
		For: api.Some(u.For), Holds: api.SomeList(u.Holds)}
}

func photoView(p eventlog.StoredPhoto) api.StoredPhoto {
	return api.StoredPhoto{Id: p.From.Entry, Item: p.Item, Width: p.Width, Height: p.Height, Words: p.Words,
		By: p.From.By, At: p.From.At}
}

func stripItemView(system units.System, i teardown.Item) api.TeardownItem {
	out := api.TeardownItem{Key: i.Key, Task: i.Task, Item: itemView(i.Item), Off: i.Off, New: i.New, Reused: i.Reused,
		Excused: i.Excused, Why: i.Why, Notes: api.List(i.Notes), Pass: i.Pass,
		Clamps: i.Clamps, Reach: i.Reach, Chafe: i.Chafe, StillOff: i.StillOff(), Refit: api.Value(refitView(i.Refit)),
		RefitSays: Said(system, i.Refit.Says())}
	n := i.Count // the real number, not how many are off
	if order, err := teardown.Order(n, i.Shape); err == nil && i.Kind == teardown.Fasteners {
		places := api.Each(teardown.Places(n, i.Shape),
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
		Isolated: api.Each(a.Isolated, isolatedView),
		Tasks: api.Each(h.Tasks, func(t catalogue.Task) api.FittingTask {
			return api.FittingTask{Id: t.ID, Label: t.Label, Stations: api.List(t.Stations)}
		}),
		Begun: api.Each(a.Tasks, taskView),
		Items: api.Each(a.Items, func(i teardown.Item) api.TeardownItem { return stripItemView(system, i) }), Rebuild: keys,
		Wheel: wheelView(a.Wheel), WheelVerdict: api.Some(h.WheelVerdict), WheelSays: api.List(h.WheelSays),
		Ledger: ledgerView(a.Ledger),
		Hunt: api.Each(h.Hunt, func(x teardown.Hunt) api.Hunt {
			return api.Hunt{Station: x.Station, Say: x.Say, Crumbs: x.Crumbs, Looked: x.Looked}
		}),
		Body: bodyView(a.Body), BodySays: Said(system, h.BodySays), IdleShare: h.IdleShare, Leaks: api.List(a.Leaks),
		LeakSays: api.Each(a.Leaks, func(p string) api.LeakSays {
			return api.LeakSays{Place: p, Say: teardown.LeakSays(p), Kit: teardown.LeakKit(p)}
		}),
		Elbow: elbowView(a.Elbow), ElbowVerdict: api.Some(h.ElbowVerdict), ElbowSays: Said(system, h.ElbowSays),
		Used: api.Each(a.Used, usedView), FittedNew: api.Each(a.FittedNew(), usedView), Waiting: waitingView(a.Waiting),
		Heeded: api.List(a.Heeded), Schools: h.Schools,
		Conditions: api.Each(h.Conditions, conditionView),
		Ready:      h.Ready, Standing: api.List(h.Standing),
		Starts: api.Each(a.Starts, func(s teardown.Started) api.Started {
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
		Pieces: api.Each(l.Pieces, func(p teardown.PieceFound) api.PieceFound {
			return api.PieceFound{Share: p.Share, Old: p.Old, Station: p.Station}
		})}
}
