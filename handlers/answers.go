package handlers

import (
	"bytes"
	"encoding/json"
	"slices"

	lru "github.com/hashicorp/golang-lru/v2"

	"hevrin/api"
	"hevrin/app/job"
	"hevrin/core/diagnosis"
	"hevrin/core/enginestate"
	"hevrin/core/units"
)

// mostAnswers is how many answers of the diagnosis are kept as JSON, some 40 kB each.
const mostAnswers = 64

// answerKey is an answer, which is never changed, as a reader reads it.
type answerKey struct {
	answer *diagnosis.Answer
	system units.System
}

// writtenAnswer is an answer as JSON: all but its checks, without the brace at the end, and each of those. It is never
// changed.
type writtenAnswer struct {
	rest   []byte
	checks []writtenCheck
}

// writtenCheck is a check that comes next, with what must be so before it.
type writtenCheck struct {
	before enginestate.Before
	raw    []byte
}

// answers keeps answers of the diagnosis as JSON: they are most of a job's page, most entries change nothing of them,
// and few what must be so before a check.
type answers struct {
	known *lru.Cache[answerKey, writtenAnswer]
}

func newAnswers() answers {
	known, err := lru.New[answerKey, writtenAnswer](mostAnswers)
	if err != nil {
		panic(err) // the size is above 0
	}
	return answers{known}
}

// write adds the answer of a job's page, as api.Answer is, in the reader's units.
func (a answers) write(out *bytes.Buffer, p *job.Page, system units.System) error {
	key := answerKey{p.Answer, system}
	was, ok := a.known.Get(key)
	now := writtenAnswer{was.rest, slices.Clone(was.checks)}
	if !ok {
		rest, err := json.Marshal(struct {
			api.Answer
			NextChecks *struct{} `json:"next_checks,omitempty"` // in the checks' place: they are added below
		}{Answer: answerView(p.Answer)})
		if err != nil {
			return err
		}
		now = writtenAnswer{bytes.TrimSuffix(rest, []byte("}")), make([]writtenCheck, len(p.Answer.NextChecks))}
	}
	changed := !ok
	for i, n := range p.Answer.NextChecks {
		b, known := p.Ahead.Before(n.Check)
		if now.checks[i].raw != nil && same(b, now.checks[i].before) {
			continue
		}
		view := nextCheckView(n)
		if known {
			putBefore(system, b, &view)
		}
		raw, err := json.Marshal(view)
		if err != nil {
			return err
		}
		now.checks[i], changed = writtenCheck{b, raw}, true
	}
	if changed {
		a.known.Add(key, now)
	}
	out.Write(now.rest)
	out.WriteString(`,"next_checks":[`)
	for i, c := range now.checks {
		if i > 0 {
			out.WriteByte(',')
		}
		out.Write(c.raw)
	}
	out.WriteString("]}")
	return nil
}

// same tells whether the same must be so before a check.
func same(a, b enginestate.Before) bool {
	return slices.Equal(a.Steps, b.Steps) && slices.Equal(a.Cautions, b.Cautions) && a.Watch == b.Watch
}
