package server

import (
	"context"
	"time"

	"hevrin/api"
	"hevrin/app/record"
)

// recordHandlers answer for the place where the record lies.
type recordHandlers struct {
	place     record.Place
	version   string
	catalogue string
}

// backupOld is after how long without a good backup the yard is reminded.
const backupOld = 48 * time.Hour

func (h *recordHandlers) health(ctx context.Context) api.Health {
	out := api.Health{Status: "ok", Version: h.version, Catalogue: h.catalogue}
	if h.place == nil {
		return out
	}
	now := h.place.Health(ctx)
	r := api.RecordHealth{Folder: now.Folder, Whole: now.Whole, FreeMb: now.FreeMB, Waiting: now.Waiting,
		Checked: some(now.Checked.UTC()), Newest: some(now.Newest), Clock: some(now.ClockSay)}
	r.Backup.Folder = now.Backup.Folder
	r.Backup.Last, r.Backup.Say = some(now.Backup.Last), some(now.Backup.Say)
	if now.Backup.Folder != "" && time.Since(now.Backup.Last) > backupOld && !now.Newest.IsZero() {
		old := true
		r.Backup.Old = &old
	}
	if t := now.Trouble; t != nil {
		kind := api.TroubleKind(t.Kind)
		r.Trouble, r.Say, out.Status = &kind, some(t.Say()), "trouble"
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
	if err := h.place.Check(ctx, true); err != nil && troubleOf(err) == nil { // what it found stands in the answer
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
