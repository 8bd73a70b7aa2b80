// Package reports writes what leaves the program and reads what comes back: the owner's report, tables, and a job as
// one file.
package reports

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"sync"
	"time"
	"unicode/utf8"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/santhosh-tekuri/jsonschema/v6/kind"
	"golang.org/x/text/language"
	"golang.org/x/text/message"

	"hevrin/app/exchange"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// The form of a job's file, and its newest version. What a version means is told by its schema, which never changes.
const (
	BundleFormat  = "hevrin-job"
	BundleVersion = 1
)

// Limits of a job's file: many hours of readings and a hundred pictures fit.
const (
	MostBundleBytes  = 48 << 20
	mostBundleValues = 4_000_000
	mostBundleDepth  = 40
)

// BundleSchema is the JSON Schema (draft 2020-12) of a job's file of version 1.
//
//go:embed schema/job-bundle-1.json
var BundleSchema []byte

// JobFile is a job's file. Times are UTC; readings are in the units of core/proving's places.
type JobFile struct {
	Format     string    `json:"format" jsonschema:"enum=hevrin-job,description=What kind of file this is"`
	Version    int       `json:"version" jsonschema:"enum=1,description=Of the form of the file"`
	ExportedAt time.Time `json:"exported_at" jsonschema:"description=When the file was made"`
	Program    string    `json:"program" jsonschema:"description=Version of the program that made it"`
	Catalogue  string    `json:"catalogue" jsonschema:"description=Version of the trade's catalogue that the ids are from"`
	Craft      FileLog   `json:"craft"`
	Engine     FileLog   `json:"engine"`
	Job        FileLog   `json:"job"`
	Photos     []Picture `json:"photos" jsonschema:"description=One for each entry of kind photo"`
	Pieces     []Stretch `json:"pieces" jsonschema:"description=What was read in recordings in stretches of rising times"`
}

// FileLog is the log of one subject in the order in which its entries were kept.
type FileLog struct {
	ID      string      `json:"id" jsonschema:"format=uuid"`
	Entries []FileEntry `json:"entries"`
}

// FileEntry is one entry. Entries are never changed: one that no longer counts is taken back by a later one of kind
// undo.
type FileEntry struct {
	ID       string        `json:"id" jsonschema:"format=uuid"`
	Kind     eventlog.Kind `json:"kind"`
	By       string        `json:"by"`
	At       time.Time     `json:"at" jsonschema:"description=When it was saved"`
	TappedAt *time.Time    `json:"tapped_at,omitempty" jsonschema:"description=When it was tapped by the device's clock"`
	Body     eventlog.Body `json:"body"`
}

// Picture is a photo's JPEG, by its entry.
type Picture struct {
	ID   string `json:"id" jsonschema:"format=uuid"`
	JPEG []byte `json:"jpeg"`
}

// Stretch is a stretch of readings of one place.
type Stretch struct {
	Recording string    `json:"recording"`
	Station   string    `json:"station"`
	Side      string    `json:"side"`
	FromS     float64   `json:"from_s" jsonschema:"description=The first of seconds"`
	Seconds   []float64 `json:"seconds" jsonschema:"description=From the recording's begin"`
	Readings  []float64 `json:"readings" jsonschema:"description=As many as seconds"`
}

// WriteBundle writes a job's file. The same job gives the same bytes but for the time of the export.
func WriteBundle(b *exchange.Bundle, program, catalogue string, at time.Time) ([]byte, error) {
	f := JobFile{Format: BundleFormat, Version: BundleVersion, ExportedAt: at.UTC().Truncate(time.Second),
		Program: program, Catalogue: catalogue,
		Craft: fileLog(b.CraftID, b.Craft), Engine: fileLog(b.EngineID, b.Engine), Job: fileLog(b.JobID, b.Job),
		Photos: []Picture{}, Pieces: []Stretch{}}
	for _, p := range b.Photos {
		f.Photos = append(f.Photos, Picture{p.ID, p.JPEG})
	}
	for _, p := range b.Pieces {
		f.Pieces = append(f.Pieces, Stretch{p.RecordingID, p.Station, p.Side, p.FromS, p.Seconds, p.Readings})
	}
	var out bytes.Buffer
	e := json.NewEncoder(&out)
	e.SetEscapeHTML(false)
	e.SetIndent("", " ")
	if err := e.Encode(f); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}

func fileLog(id string, entries []eventlog.Entry) FileLog {
	log := FileLog{ID: id, Entries: make([]FileEntry, len(entries))}
	for i, e := range entries {
		log.Entries[i] = FileEntry{e.ID, e.Kind, e.By, e.At, e.TappedAt, e.Body}
	}
	return log
}

// ReadBundle reads a job's file. What is none, is broken off, too large, or of a later version is refused with what to
// do. Whether its entries make sense is app's to say.
func ReadBundle(raw []byte) (*exchange.Bundle, error) {
	if err := looksLikeOne(raw); err != nil {
		return nil, err
	}
	if err := ofOurVersion(raw); err != nil {
		return nil, err
	}
	if err := followsSchema(raw); err != nil {
		return nil, err
	}
	var f JobFile
	d := json.NewDecoder(bytes.NewReader(raw))
	d.DisallowUnknownFields()
	if err := d.Decode(&f); err != nil {
		return nil, refuse("file", "a number or a word that does not fit", "what the schema allows",
			"the file cannot be read: %s", strings.TrimPrefix(err.Error(), "json: "))
	}
	b := &exchange.Bundle{CraftID: f.Craft.ID, EngineID: f.Engine.ID, JobID: f.Job.ID}
	b.Craft = entriesOf(eventlog.Subject{Kind: eventlog.OfCraft, ID: f.Craft.ID}, f.Craft)
	b.Engine = entriesOf(eventlog.Subject{Kind: eventlog.OfEngine, ID: f.Engine.ID}, f.Engine)
	b.Job = entriesOf(eventlog.Subject{Kind: eventlog.OfJob, ID: f.Job.ID}, f.Job)
	if err := eachOnce(f); err != nil {
		return nil, err
	}
	for _, p := range f.Photos {
		b.Photos = append(b.Photos, record.Photo{ID: p.ID, JobID: f.Job.ID, JPEG: p.JPEG})
	}
	for _, p := range f.Pieces {
		b.Pieces = append(b.Pieces, record.TrackPiece{RecordingID: p.Recording, Station: p.Station, Side: p.Side,
			FromS: p.FromS, JobID: f.Job.ID, Seconds: p.Seconds, Readings: p.Readings})
	}
	return b, nil
}

func entriesOf(s eventlog.Subject, log FileLog) []eventlog.Entry {
	out := make([]eventlog.Entry, len(log.Entries))
	for i, e := range log.Entries {
		out[i] = eventlog.Entry{ID: e.ID, Subject: s, Kind: e.Kind, By: e.By, At: e.At.UTC(), Body: e.Body}
		if e.TappedAt != nil {
			t := e.TappedAt.UTC()
			out[i].TappedAt = &t
		}
	}
	return out
}

// eachOnce refuses ids that stand twice.
func eachOnce(f JobFile) error {
	seen := map[string]bool{}
	for name, log := range map[string]FileLog{"craft": f.Craft, "engine": f.Engine, "job": f.Job} {
		for i, e := range log.Entries {
			if seen[e.ID] {
				return refuse(fmt.Sprintf("%s.entries[%d].id", name, i), e.ID, "each once",
					"the entry stands twice in the file: it was changed, or not made by Hevrin")
			}
			seen[e.ID] = true
		}
	}
	return nil
}

func refuse(field, given string, allowed units.Sentence, say string, args ...any) error {
	var wrong validation.Errors
	wrong.Add(field, given, allowed, say, args...)
	return wrong
}

// signatures of files that are no job but look like a slip of the hand.
var signatures = []struct{ begins, say string }{
	{"PK\x03\x04", "this is a packed file: unpack it first"}, {"\x1f\x8b", "this is a packed file: unpack it first"},
	{"%PDF", "this is a PDF: take the job's file, whose name ends in .hevrin.json"}, {"SQLite format 3",
		"this is a whole backup: give it to hevrin restore"},
	{"\xff\xd8\xff", "this is a picture: take the job's file, whose name ends in .hevrin.json"},
}

// looksLikeOne refuses what is too large, no text, no JSON, or nested or filled beyond any job, before it takes memory.
func looksLikeOne(raw []byte) error {
	const allowed = "a job's file of Hevrin, up to 48 MB"
	if len(raw) > MostBundleBytes {
		return refuse("file", fmt.Sprintf("%d bytes", len(raw)), allowed, "the file is too large: no job is as large as that")
	}
	for _, s := range signatures {
		if bytes.HasPrefix(raw, []byte(s.begins)) {
			return refuse("file", "another kind of file", allowed, "%s", s.say)
		}
	}
	if !utf8.Valid(raw) {
		return refuse("file", "no text", allowed,
			"the file's letters cannot be read: it was damaged on its way, or is no job's file")
	}
	values, deepest := measure(raw)
	if values > mostBundleValues || deepest > mostBundleDepth {
		return refuse("file", fmt.Sprintf("%d values, %d deep", values, deepest), units.Say("%d values, %d deep",
			mostBundleValues, mostBundleDepth), "no job holds as much as that: the file was not made by Hevrin")
	}
	if json.Valid(raw) {
		return nil
	}
	var syntax *json.SyntaxError
	var any struct{}
	if err := json.Unmarshal(raw, &any); errors.As(err, &syntax) && syntax.Offset < int64(len(bytes.TrimRight(raw,
		" \t\r\n"))) {
		return refuse("file", fmt.Sprintf("a slip at byte %d", syntax.Offset), allowed,
			"the file was changed or damaged at byte %d: export the job again", syntax.Offset)
	}
	return refuse("file", fmt.Sprintf("%d bytes", len(raw)), allowed,
		"the file is empty or breaks off: copy it again, whole")
}

// measure counts values and how deep they are nested, outside of texts.
func measure(raw []byte) (values, deepest int) {
	depth, within := 0, false
	for i := 0; i < len(raw); i++ {
		switch c := raw[i]; {
		case within && c == '\\':
			i++
		case c == '"':
			within = !within
		case within:
		case c == '[' || c == '{':
			depth++
			deepest = max(deepest, depth)
			values++
		case c == ']' || c == '}':
			depth--
		case c == ',':
			values++
		}
	}
	return values, deepest
}

func ofOurVersion(raw []byte) error {
	var head struct {
		Format  any `json:"format"`
		Version any `json:"version"`
		Program any `json:"program"`
	}
	if err := json.Unmarshal(raw, &head); err != nil || head.Format != BundleFormat {
		return refuse("format", fmt.Sprint(head.Format), BundleFormat,
			"this is no job's file of Hevrin: its name ends in .hevrin.json")
	}
	v, ok := head.Version.(float64)
	if ok && v > BundleVersion {
		return refuse("version", fmt.Sprint(v), units.Say("%d", BundleVersion),
			"the file was made by a later Hevrin (%v): bring this one up to date first", head.Program)
	}
	return nil
}

var compiled = sync.OnceValues(func() (*jsonschema.Schema, error) {
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(BundleSchema))
	if err != nil {
		return nil, err
	}
	c := jsonschema.NewCompiler()
	c.AssertFormat()
	if err := c.AddResource("job-bundle-1.json", doc); err != nil {
		return nil, err
	}
	return c.Compile("job-bundle-1.json")
})

func followsSchema(raw []byte) error {
	schema, err := compiled()
	if err != nil {
		return err
	}
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(raw))
	if err != nil {
		return refuse("file", "no JSON", "a job's file of Hevrin", "the file was changed or damaged: export the job again")
	}
	var slips *jsonschema.ValidationError
	if err := schema.Validate(doc); errors.As(err, &slips) {
		return firstError(slips)
	} else if err != nil {
		return err
	}
	return nil
}

// firstError tells the first place that does not fit, as deep as it can.
func firstError(v *jsonschema.ValidationError) error {
	for len(v.Causes) > 0 {
		v = v.Causes[0]
	}
	field := ""
	for _, step := range v.InstanceLocation {
		if strings.Trim(step, "0123456789") == "" {
			field += "[" + step + "]"
			continue
		}
		field += "." + step
	}
	if field = strings.TrimPrefix(field, "."); field == "" {
		field = "file"
	}
	say := v.ErrorKind.LocalizedString(message.NewPrinter(language.English))
	if extra, ok := v.ErrorKind.(*kind.AdditionalProperties); ok {
		say = "it does not know " + strings.Join(extra.Properties, ", ")
	}
	return refuse(field, "something that does not fit", "what the published schema allows",
		"%s does not fit: %s. The file was changed, or made by another program", field, say)
}
