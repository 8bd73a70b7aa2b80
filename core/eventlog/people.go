package eventlog

import (
	"strings"

	"hevrin/core/people"
	"hevrin/core/proving"
	"hevrin/core/teardown"
)

// People is what the standing entries of the yard's people make of them, in the order in which they came.
func People(entries []Entry) []people.Person {
	at := map[string]int{}
	var out []people.Person
	for _, e := range Standing(entries) {
		p := e.Body.Person
		if p == nil {
			continue
		}
		if i, ok := at[p.ID]; ok {
			out[i] = *p
			continue
		}
		at[p.ID] = len(out)
		out = append(out, *p)
	}
	return out
}

// NeedsSigning says whether an entry of a job is one that only those may make who may sign: a run signed, a condition
// of a start passed over, a job ended with something standing in the way.
func NeedsSigning(b Body) bool {
	return b.Proving != nil && b.Proving.Do == proving.Sign ||
		b.Teardown != nil && b.Teardown.Do == teardown.Override || strings.TrimSpace(b.Despite) != ""
}
