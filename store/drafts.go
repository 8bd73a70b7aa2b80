package store

import "hevrin/app/record"

// Drafts lists what was typed in a job and not saved yet, the oldest first.
func (r *Reader) Drafts(job string) (list []record.Draft, err error) {
	return list, r.db.Where("job_id = ?", job).Order("at, what").Find(&list).Error
}

// SaveDraft keeps a draft in the place of the one under its name; one without a value is forgotten.
func (t *Tx) SaveDraft(d record.Draft) error {
	if d.Value == "" {
		return t.db.Where("job_id = ? AND what = ?", d.JobID, d.What).Delete(&record.Draft{}).Error
	}
	return t.db.Save(&d).Error
}
