package readings

import (
	"crypto/sha256"
	"encoding/json"

	lru "github.com/hashicorp/golang-lru/v2"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
)

// Cache keeps the newest answers to expensive questions. An answer depends on its question alone and is never changed,
// so that whoever asks the same again, another device or the next tap, has it at once.
type Cache struct {
	answers *lru.Cache[[sha256.Size]byte, any]
}

// NewCache has nothing in memory yet.
func NewCache() *Cache {
	answers, err := lru.New[[sha256.Size]byte, any](mostCached)
	if err != nil {
		panic(err) // the size is above 0
	}
	return &Cache{answers}
}

// answer is an answer, or why there is none.
type answer[T any] struct {
	value T
	err   error
}

// Cached works an answer out, unless the same question of its kind was answered before.
func Cached[T any](m *Cache, kind string, question any, work func() (T, error)) (T, error) {
	key, err := keyOf(kind, question)
	if err != nil { // a question that cannot be written is answered all the same
		return work()
	}
	if known, ok := m.answers.Get(key); ok {
		if a, ok := known.(answer[T]); ok {
			return a.value, a.err
		}
	}
	var a answer[T]
	a.value, a.err = work()
	m.answers.Add(key, a)
	return a.value, a.err
}

// keyOf stands for a question of a kind.
func keyOf(kind string, question any) (key [sha256.Size]byte, err error) {
	raw, err := json.Marshal(question)
	return sha256.Sum256(append([]byte(kind+" "), raw...)), err
}

// ofRounds is a question about rounds of an engine.
type ofRounds struct {
	Engine   eventlog.EngineFacts
	Baseline *eventlog.StoredBaseline
	Twin     *Comparison
	Rounds   []eventlog.Round
}

// fitted is the model of an engine, and what it was fitted to.
type fitted struct {
	plant      plant.Plant
	Comparison Comparison
}

// Fitted is the model of an engine, fitted to its baseline or to its sister's rounds; twin may be nil.
func (a *Models) Fitted(e record.Engine, twin *Comparison) (fitted, error) {
	question := ofRounds{record.FactsOf(e), e.Baseline, twin, nil}
	return Cached(a.Cache, "fitted", question, func() (fitted, error) {
		p, comparison, err := FittedPlant(e, twin)
		if key, err := keyOf("fitted", question); err == nil {
			p = p.WithMemo(a.states, string(key[:]))
		}
		return fitted{p, comparison}, err
	})
}

// Judged is what rounds say of an engine.
func (a *Models) Judged(e record.Engine, twin *Comparison, rounds []eventlog.Round) (plant.HealthReport, error) {
	return Cached(a.Cache, "judged", ofRounds{record.FactsOf(e), e.Baseline, twin, rounds}, func() (plant.HealthReport,
		error) {
		f, err := a.Fitted(e, twin)
		if err != nil {
			return plant.HealthReport{}, err
		}
		return f.plant.Judge(RoundsOf(rounds))
	})
}

// expected is what should have been read in a round, and what its healthy round and its sister's come to there.
type expected struct {
	Should         []plant.Should
	baseline, twin []plant.Read
}

// Expected is what should have been read in a round; twin may be nil. It fails where the model cannot take the engine.
func (a *Models) Expected(e record.Engine, twin *Comparison, round eventlog.Round) (expected, error) {
	return Cached(a.Cache, "expected", ofRounds{record.FactsOf(e), e.Baseline, twin, []eventlog.Round{round}},
		func() (out expected, err error) {
			f, err := a.Fitted(e, twin)
			if err != nil {
				return out, err
			}
			at := RoundOf(round).Operation
			if out.Should, err = f.plant.Shoulds(at); err != nil {
				return out, err
			}
			if e.Baseline != nil {
				out.baseline = carried(f.plant, e.Baseline.Rounds, at)
			}
			if twin != nil {
				out.twin = carried(f.plant, twin.Rounds, at)
			}
			return out, nil
		})
}
