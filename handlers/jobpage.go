package handlers

import (
	"bytes"
	"encoding/json"
	"sync"

	lru "github.com/hashicorp/golang-lru/v2"

	"hevrin/api"
	"hevrin/app/job"
	"hevrin/app/record"
	"hevrin/core/units"
)

// mostLines is how many lines of logs are kept as JSON, some 300 B each.
const mostLines = 32768

// lineKey is a line of a log: an entry never changes, but for being taken back.
type lineKey struct {
	entry  string
	undone bool
}

// lines keeps lines of logs as JSON: the log is most of a job's page, and all of it but the last line is as it was.
type lines struct{ known *lru.Cache[lineKey, []byte] }

func newLines() lines {
	known, err := lru.New[lineKey, []byte](mostLines)
	if err != nil {
		panic(err) // the size is above 0
	}
	return lines{known}
}

func (l lines) write(out *bytes.Buffer, log []record.LogLine) error {
	out.WriteByte('[')
	for i := range log {
		if i > 0 {
			out.WriteByte(',')
		}
		key := lineKey{log[i].ID, log[i].Undone}
		raw, ok := l.known.Get(key)
		if !ok {
			var err error
			if raw, err = json.Marshal(logView(log[i])); err != nil {
				return err
			}
			l.known.Add(key, raw)
		}
		out.Write(raw)
	}
	out.WriteByte(']')
	return nil
}

// JobPage answers with a job's page, as api.JobPage is, in the reader's units.
type JobPage struct {
	page    *job.Page
	lines   lines
	answers answers
	system  units.System
}

// pages are buffers that earlier pages grew to a page's size.
var pages = sync.Pool{New: func() any { return new(bytes.Buffer) }}

func (p JobPage) respond(w api.ResponseWriter) error {
	out := pages.Get().(*bytes.Buffer)
	defer pages.Put(out)
	out.Reset()
	rest := struct {
		api.JobPage
		Log       *struct{} `json:"log,omitempty"` // in the page's place: both are added below
		Diagnosis *struct{} `json:"diagnosis,omitempty"`
	}{JobPage: jobPageView(p.system, p.page)}
	if err := json.NewEncoder(out).Encode(rest); err != nil {
		return err
	}
	out.Truncate(bytes.LastIndexByte(out.Bytes(), '}'))
	out.WriteString(`,"diagnosis":`)
	if err := p.answers.write(out, p.page, p.system); err != nil {
		return err
	}
	out.WriteString(`,"log":`)
	if err := p.lines.write(out, p.page.Log); err != nil {
		return err
	}
	out.WriteString("}\n")
	w.SetHeader("Content-Type", "application/json")
	w.WriteHeader(200)
	_, err := out.WriteTo(w)
	return err
}

// VisitGetJobResponse answers getJob.
func (p JobPage) VisitGetJobResponse(w api.ResponseWriter) error { return p.respond(w) }

// VisitOpenJobResponse answers openJob.
func (p JobPage) VisitOpenJobResponse(w api.ResponseWriter) error { return p.respond(w) }

// VisitPutJobEntryResponse answers putJobEntry.
func (p JobPage) VisitPutJobEntryResponse(w api.ResponseWriter) error { return p.respond(w) }

// VisitImportDatalogResponse answers importDatalog.
func (p JobPage) VisitImportDatalogResponse(w api.ResponseWriter) error { return p.respond(w) }
