package store

import (
	"context"
	"errors"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hevrin/app/people"
	"hevrin/app/record"
	"hevrin/core/eventlog"
)

var _ people.Store = (*Store)(nil)

// keep writes something beside the record, in its turn.
func (s *Store) keep(ctx context.Context, do func(db *gorm.DB) error) error {
	return s.Write(ctx, func(tx record.Tx) error { return do(tx.(*Tx).db) })
}

// one finds a row; not ok where there is none.
func one[T any](db *gorm.DB, where string, args ...any) (row T, ok bool, err error) {
	err = db.Where(where, args...).Take(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return row, false, nil
	}
	return row, err == nil, err
}

// Account is people.Store's.
func (s *Store) Account(ctx context.Context, person string) (people.Account, bool, error) {
	return one[people.Account](s.db.WithContext(ctx), "person_id = ?", person)
}

// Accounts is people.Store's.
func (s *Store) Accounts(ctx context.Context) (list []people.Account, err error) {
	return list, s.db.WithContext(ctx).Find(&list).Error
}

// SaveAccount is people.Store's.
func (s *Store) SaveAccount(ctx context.Context, a people.Account) error {
	return s.keep(ctx, func(db *gorm.DB) error { return db.Save(&a).Error })
}

// Device is people.Store's.
func (s *Store) Device(ctx context.Context, id string) (people.Device, bool, error) {
	return one[people.Device](s.db.WithContext(ctx), "id = ?", id)
}

// Devices is people.Store's.
func (s *Store) Devices(ctx context.Context, person string) (list []people.Device, err error) {
	db := s.db.WithContext(ctx).Where("ended_at IS NULL")
	if person != "" {
		db = db.Where("person_id = ?", person)
	}
	return list, db.Order("used_at DESC, id").Find(&list).Error
}

// SaveDevice is people.Store's. One that was signed out meanwhile stays so.
func (s *Store) SaveDevice(ctx context.Context, d people.Device) error {
	return s.keep(ctx, func(db *gorm.DB) error {
		return db.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "id"}},
			DoUpdates: clause.AssignmentColumns([]string{"person_id", "label", "address", "used_at"})}).Create(&d).Error
	})
}

// TouchDevice is people.Store's.
func (s *Store) TouchDevice(ctx context.Context, id, address string, at time.Time) error {
	return s.keep(ctx, func(db *gorm.DB) error {
		return db.Model(&people.Device{}).Where("id = ?", id).Updates(map[string]any{"address": address, "used_at": at}).Error
	})
}

// EndDevices is people.Store's.
func (s *Store) EndDevices(ctx context.Context, device, person, but string, at time.Time) error {
	return s.keep(ctx, func(db *gorm.DB) error {
		q := db.Model(&people.Device{}).Where("ended_at IS NULL AND id <> ?", but)
		if device != "" {
			q = q.Where("id = ?", device)
		} else {
			q = q.Where("person_id = ?", person)
			// nor may they come back to a shared one with their PIN
			if err := db.Where("person_id = ? AND device_id <> ?", person, but).Delete(&people.OnDevice{}).Error; err != nil {
				return err
			}
		}
		return q.Update("ended_at", at).Error
	})
}

// OnDevice is people.Store's.
func (s *Store) OnDevice(ctx context.Context, device string) (list []people.OnDevice, err error) {
	return list, s.db.WithContext(ctx).Where("device_id = ?", device).Order("since, person_id").Find(&list).Error
}

// SaveOnDevice is people.Store's.
func (s *Store) SaveOnDevice(ctx context.Context, o people.OnDevice) error {
	return s.keep(ctx, func(db *gorm.DB) error {
		if err := db.Where("person_id = ? AND device_id <> ? AND wrong > 0", o.PersonID, o.DeviceID).
			Delete(&people.OnDevice{}).Error; err != nil {
			return err
		}
		return db.Save(&o).Error
	})
}

// TryPIN is people.Store's.
func (s *Store) TryPIN(ctx context.Context, o people.OnDevice, most, mostOfAll int) (left int, err error) {
	err = s.keep(ctx, func(db *gorm.DB) error {
		var rows []people.OnDevice
		if err := db.Where("person_id = ?", o.PersonID).Find(&rows).Error; err != nil {
			return err
		}
		here, all := most, 0 // of a device that is not known any more there is none left
		for _, r := range rows {
			all += r.Wrong
			if r.DeviceID == o.DeviceID {
				here = r.Wrong
			}
		}
		if left = min(most-here, mostOfAll-all) - 1; left < 0 {
			return nil
		}
		return db.Model(&people.OnDevice{}).Where("device_id = ? AND person_id = ?", o.DeviceID, o.PersonID).
			Update("wrong", gorm.Expr("wrong + 1")).Error
	})
	return left, err
}

// ForgivePIN is people.Store's.
func (s *Store) ForgivePIN(ctx context.Context, o people.OnDevice) error {
	return s.keep(ctx, func(db *gorm.DB) error {
		return db.Model(&people.OnDevice{}).Where("device_id = ? AND person_id = ?", o.DeviceID, o.PersonID).
			Update("wrong", 0).Error
	})
}

// ForgetOnDevice is people.Store's.
func (s *Store) ForgetOnDevice(ctx context.Context, device, person string) error {
	return s.keep(ctx, func(db *gorm.DB) error {
		return db.Where("device_id = ? AND person_id = ?", device, person).Delete(&people.OnDevice{}).Error
	})
}

// Invitation is people.Store's.
func (s *Store) Invitation(ctx context.Context, token string) (people.Invitation, bool, error) {
	return one[people.Invitation](s.db.WithContext(ctx), "token = ?", token)
}

// Invite is people.Store's.
func (s *Store) Invite(ctx context.Context, i people.Invitation) error {
	return s.keep(ctx, func(db *gorm.DB) error {
		if err := db.Where("person_id = ?", i.PersonID).Delete(&people.Invitation{}).Error; err != nil {
			return err
		}
		return db.Create(&i).Error
	})
}

// UseInvitation is people.Store's.
func (s *Store) UseInvitation(ctx context.Context, token string, at time.Time) (mine bool, err error) {
	err = s.keep(ctx, func(db *gorm.DB) error {
		done := db.Model(&people.Invitation{}).Where("token = ? AND used_at IS NULL AND expires_at > ?", token, at).
			Update("used_at", at)
		mine = done.RowsAffected == 1
		return done.Error
	})
	return mine, err
}

// Invited is people.Store's.
func (s *Store) Invited(ctx context.Context, at time.Time) (map[string]time.Time, error) {
	var list []people.Invitation
	err := s.db.WithContext(ctx).Where("used_at IS NULL AND expires_at > ?", at).Find(&list).Error
	out := map[string]time.Time{}
	for _, i := range list {
		out[i.PersonID] = i.ExpiresAt
	}
	return out, err
}

// SaveCalendar is people.Store's.
func (s *Store) SaveCalendar(ctx context.Context, c people.Calendar) error {
	return s.keep(ctx, func(db *gorm.DB) error {
		if c.Token == "" {
			return db.Where("person_id = ?", c.PersonID).Delete(&people.Calendar{}).Error
		}
		return db.Save(&c).Error
	})
}

// Calendar is people.Store's.
func (s *Store) Calendar(ctx context.Context, token, person string) (people.Calendar, bool, error) {
	return one[people.Calendar](s.db.WithContext(ctx), "token = ? OR person_id = ?", token, person)
}

// Links is people.Store's.
func (s *Store) Links(ctx context.Context, of people.Linked) (list []people.Link, err error) {
	db := s.db.WithContext(ctx).Where("job_id = ? AND engine_id = ?", of.JobID, of.EngineID)
	return list, db.Order("made_at DESC, id").Find(&list).Error
}

// Link is people.Store's.
func (s *Store) Link(ctx context.Context, token, id string) (people.Link, bool, error) {
	return one[people.Link](s.db.WithContext(ctx), "token = ? OR id = ?", token, id)
}

// SaveLink is people.Store's.
func (s *Store) SaveLink(ctx context.Context, l people.Link) error {
	return s.keep(ctx, func(db *gorm.DB) error { return db.Save(&l).Error })
}

// EndLinks is people.Store's.
func (s *Store) EndLinks(ctx context.Context, names []string, at time.Time) (n int64, err error) {
	err = s.keep(ctx, func(db *gorm.DB) error {
		done := db.Model(&people.Link{}).Where("made_by IN ? AND ended_at IS NULL AND expires_at > ?", names, at).
			Update("ended_at", at)
		n = done.RowsAffected
		return done.Error
	})
	return n, err
}

// StandingLinks is people.Store's.
func (s *Store) StandingLinks(ctx context.Context, at time.Time) (list []people.Link, err error) {
	return list, s.db.WithContext(ctx).Where("ended_at IS NULL AND expires_at > ?", at).Order("made_at DESC, id").
		Find(&list).Error
}

// CountLink is people.Store's.
func (s *Store) CountLink(ctx context.Context, id string, at time.Time, answered bool, most int) (ok bool, err error) {
	err = s.keep(ctx, func(db *gorm.DB) error {
		q, to := db.Model(&people.Link{}).Where("id = ?", id), map[string]any{"opened": gorm.Expr("opened + 1"),
			"opened_at": at}
		if answered {
			q, to = q.Where("answers < ?", most), map[string]any{"answers": gorm.Expr("answers + 1")}
		}
		done := q.Updates(to)
		ok = done.RowsAffected == 1
		return done.Error
	})
	return ok, err
}

// Subscriptions is people.Store's.
func (s *Store) Subscriptions(ctx context.Context, person string) (list []people.Subscription, err error) {
	db := s.db.WithContext(ctx)
	if person != "" {
		db = db.Where("person_id = ?", person)
	}
	return list, db.Order("made_at, endpoint").Find(&list).Error
}

// Subscribe is people.Store's.
func (s *Store) Subscribe(ctx context.Context, x people.Subscription) error {
	return s.keep(ctx, func(db *gorm.DB) error {
		if err := db.Where("device_id = ?", x.DeviceID).Delete(&people.Subscription{}).Error; err != nil {
			return err
		}
		return db.Save(&x).Error
	})
}

// Unsubscribe is people.Store's.
func (s *Store) Unsubscribe(ctx context.Context, device, endpoint string) error {
	return s.keep(ctx, func(db *gorm.DB) error {
		return db.Where("device_id = ? OR endpoint = ?", device, endpoint).Delete(&people.Subscription{}).Error
	})
}

// PushFailed is people.Store's.
func (s *Store) PushFailed(ctx context.Context, endpoint, why string) error {
	return s.subscription(ctx, endpoint, "failed", why)
}

// PushTold is people.Store's.
func (s *Store) PushTold(ctx context.Context, endpoint string, upTo time.Time) error {
	return s.subscription(ctx, endpoint, "told", upTo)
}

func (s *Store) subscription(ctx context.Context, endpoint, column string, to any) error {
	return s.keep(ctx, func(db *gorm.DB) error {
		return db.Model(&people.Subscription{}).Where("endpoint = ?", endpoint).Update(column, to).Error
	})
}

// Writers is people.Store's.
func (s *Store) Writers(ctx context.Context) (names []string, err error) {
	return names, s.db.WithContext(ctx).Model(&entryRow{}).Where("kind <> ?", eventlog.Sealed).Distinct().Order("by").
		Pluck("by", &names).Error
}

// Sessions keeps sessions of scs beside the record. Their tokens are hashed before they come here.
type Sessions struct{ store *Store }

// NewSessions keeps sessions in a store.
func NewSessions(s *Store) Sessions { return Sessions{s} }

type sessionRow struct {
	Token  string `gorm:"primaryKey"`
	Data   []byte
	Expiry time.Time
}

// TableName is where sessions lie.
func (sessionRow) TableName() string { return "sessions" }

// Find gives a session that has not ended.
func (x Sessions) Find(token string) (data []byte, found bool, err error) {
	return x.FindCtx(context.Background(), token)
}

// FindCtx is Find within a request.
func (x Sessions) FindCtx(ctx context.Context, token string) (data []byte, found bool, err error) {
	row, ok, err := one[sessionRow](x.store.db.WithContext(ctx), "token = ? AND expiry > ?", token, time.Now().UTC())
	return row.Data, ok, err
}

// Commit saves a session, and lets those go that have ended.
func (x Sessions) Commit(token string, data []byte, expiry time.Time) error {
	return x.CommitCtx(context.Background(), token, data, expiry)
}

// CommitCtx is Commit within a request.
func (x Sessions) CommitCtx(ctx context.Context, token string, data []byte, expiry time.Time) error {
	return x.store.keep(ctx, func(db *gorm.DB) error {
		if err := db.Where("expiry <= ?", time.Now().UTC()).Delete(&sessionRow{}).Error; err != nil {
			return err
		}
		return db.Save(&sessionRow{token, data, expiry.UTC()}).Error
	})
}

// Delete lets a session go.
func (x Sessions) Delete(token string) error { return x.DeleteCtx(context.Background(), token) }

// DeleteCtx is Delete within a request.
func (x Sessions) DeleteCtx(ctx context.Context, token string) error {
	return x.store.keep(ctx, func(db *gorm.DB) error { return db.Where("token = ?", token).Delete(&sessionRow{}).Error })
}
