package plant

import (
	"fmt"

	lru "github.com/hashicorp/golang-lru/v2"
)

// Memo keeps states that judging asks for again and again: those of each fault at each severity, and of health, at a
// round's operation. So a further round asks only for its own. It may be shared by many plants and used from many
// goroutines.
type Memo struct {
	states *lru.Cache[memoKey, State]
}

// memoKey is a state of a plant: plant is what the plant's owner calls it, what the trial.
type memoKey struct {
	plant, what string
	operation   Operation
}

// NewMemo keeps at most so many states, about 1 kB each; size is 1 or more, else it panics.
func NewMemo(size int) *Memo {
	states, err := lru.New[memoKey, State](size)
	if err != nil {
		panic(fmt.Sprintf("plant: a memo of %d states: %s", size, err))
	}
	return &Memo{states}
}

// memoOf is a memo and the name under which a plant's states lie in it.
type memoOf struct {
	memo *Memo
	name string
}

// WithMemo is the plant with a memo. name must stand for all that the plant is: another plant under the same name would
// get this one's states.
func (p Plant) WithMemo(m *Memo, name string) Plant {
	p.memo = memoOf{m, name}
	return p
}

// known is a state by its name, from the memo where it is there. Without a memo or a name it is worked out.
func (p Plant) known(what string, op Operation, h Health) (State, error) {
	if p.memo.memo == nil || what == "" {
		return p.Steady(op, h)
	}
	key := memoKey{p.memo.name, what, op}
	if s, ok := p.memo.memo.states.Get(key); ok {
		return s, nil
	}
	s, err := p.Steady(op, h)
	if err == nil {
		p.memo.memo.states.Add(key, s)
	}
	return s, err
}
