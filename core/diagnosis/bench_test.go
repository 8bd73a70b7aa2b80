package diagnosis_test

import (
	"math/rand/v2"
	"testing"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
)

func BenchmarkDiagnose(b *testing.B) {
	c, e := engine(b)
	r := rand.New(rand.NewPCG(1, 2))
	var questions []diagnosis.Question
	for range 64 {
		q := diagnosis.Question{Family: catalogue.Closed, History: []string{"impeller-overdue", "weed-about"},
			Findings: present("hot-under-load", "weak-water-at-outlet", "came-gradually", "alarm-sounded")}
		for _, i := range r.Perm(len(c.Findings))[:8] {
			f := c.Findings[i].ID
			if _, grouped := c.GroupOf(f); !grouped && f != "alarm-sounded" {
				q.Findings = append(q.Findings, diagnosis.Evidence{Finding: f, Q: 0})
			}
		}
		questions = append(questions, q)
	}
	b.ReportAllocs()
	for i := 0; b.Loop(); i++ {
		if _, err := e.Diagnose(questions[i%len(questions)]); err != nil {
			b.Fatal(err)
		}
	}
}
