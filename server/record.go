package server

import (
	"context"
	"errors"
	"time"

	"hevrin/api"
	"hevrin/app/record"
	"hevrin/core/people"
)

// recordHandlers answer for the place where the record lies.
type recordHandlers struct {
	place     record.Place
	version   string
	catalogue string
	yard      bool // people sign in
}

// backupOld is after how long without a good backup the yard is reminded.
const backupOld = 48 * time.Hour

// health tells how the program and the record's place stand: to who is not signed in that it answers and nothing else,
// to who does not look after the record no folder.
func (h *recordHandlers) health(ctx context.Context) api.Health {
	if _, ok := record.ActorOf(ctx); h.yard && !ok {
		return api.Health{Status: "ok"}
	}
	out := api.Health{Status: "ok", Version: h.version, Catalogue: h.catalogue}
	if h.place == nil {
		return out
	}
	now := h.place.Health(ctx)
	r := api.RecordHealth{Folder: now.Folder, Whole: now.Whole, FreeMb: now.FreeMB, Waiting: now.Waiting,
		Checked: api.Some(now.Checked.UTC()), Newest: api.Some(now.Newest), Clock: api.Some(now.ClockSay),
		Chain: api.Some(now.ChainSay)}
	if m := now.Mirror; m != nil {
		r.SecondCopy = &struct {
			Folder string     `json:"folder"`
			Last   *time.Time `json:"last,omitempty"`
			Say    *string    `json:"say,omitempty"`
		}{m.Folder, api.Some(m.Last), api.Some(m.Say)}
	}
	r.Backup.Folder = now.Backup.Folder
	r.Backup.Last, r.Backup.Say = api.Some(now.Backup.Last), api.Some(now.Backup.Say)
	r.Backup.AtStart = api.Some(now.Backup.AtStart)
	if now.Backup.Folder != "" && time.Since(now.Backup.Last) > backupOld && !now.Newest.IsZero() {
		old := true
		r.Backup.Old = &old
	}
	if t := now.Trouble; t != nil {
		kind := api.TroubleKind(t.Kind)
		r.Trouble, r.Say, out.Status = &kind, api.Some(t.Say()), "trouble"
	}
	if record.Allow(ctx, people.Keep) != nil {
		r.Folder, r.Backup.Folder, r.SecondCopy = "", "", nil
	}
	out.Record = &r
	return out
}

func (h *recordHandlers) GetHealth(ctx context.Context, _ api.GetHealthRequestObject) (api.GetHealthResponseObject,
	error) {
	return api.GetHealth200JSONResponse(h.health(ctx)), nil
}

func (h *recordHandlers) CheckRecord(ctx context.Context,
	_ api.CheckRecordRequestObject) (api.CheckRecordResponseObject, error) {
	if err := h.place.Check(ctx, true); err != nil && troubleIn(err) == nil { // what it found stands in the answer
		return nil, err
	}
	return api.CheckRecord200JSONResponse(h.health(ctx)), nil
}

func (h *recordHandlers) MakeBackup(ctx context.Context, _ api.MakeBackupRequestObject) (api.MakeBackupResponseObject,
	error) {
	if err := h.place.MakeBackup(ctx); err != nil {
		return nil, err
	}
	return api.MakeBackup200JSONResponse(h.health(ctx)), nil
}

func (h *recordHandlers) backups(ctx context.Context) (api.Backups, error) {
	made, err := h.place.Backups(ctx)
	return api.Backups{Backups: api.Each(made, func(b record.StoredBackup) api.Backup {
		return api.Backup{Name: b.Name, Made: b.Made, Bytes: b.Bytes, Craft: b.Craft, Engines: b.Engines, Jobs: b.Jobs,
			Entries: b.Entries}
	})}, err
}

func (h *recordHandlers) GetBackups(ctx context.Context, _ api.GetBackupsRequestObject) (api.GetBackupsResponseObject,
	error) {
	out, err := h.backups(ctx)
	return api.GetBackups200JSONResponse(out), err
}

func (h *recordHandlers) CheckBackup(ctx context.Context,
	r api.CheckBackupRequestObject) (api.CheckBackupResponseObject, error) {
	if err := h.place.VerifyBackup(ctx, r.Name); err != nil {
		return nil, err
	}
	out, err := h.backups(ctx)
	return api.CheckBackup200JSONResponse(out), err
}

func (h *recordHandlers) RestoreAtStart(ctx context.Context,
	r api.RestoreAtStartRequestObject) (api.RestoreAtStartResponseObject, error) {
	if err := h.place.RestoreAtStart(ctx, api.Value(r.Body.Name)); err != nil {
		return nil, err
	}
	return api.RestoreAtStart200JSONResponse(h.health(ctx)), nil
}

// troubleIn is what is wrong with the place where the record lies, as an error tells it; nil where it is another error.
func troubleIn(err error) *record.Trouble {
	var t *record.Trouble
	errors.As(err, &t)
	return t
}
