// Package practice puts an engine in front of a learner: a fault or two are drawn and hidden, every look is answered by
// what is there, minutes run, repairs change the engine, and a danger that is walked into is told at once.
//
// What shows is drawn from the catalogue's links alone, as a noisy OR written out here: nothing of this package asks
// the diagnosis anything, so that a learner who follows its advice is answered by somebody else. Everything hangs on
// the case: the same case gives the same engine and the same answers, whatever the order of the questions.
package practice

import (
	"strings"

	"hevrin/core/units"
	"hevrin/core/validation"
)

// Level is what makes a case hard.
type Level string

// The levels, the easiest first.
const (
	OneFault     Level = "one-fault"
	TwoFaults    Level = "two-faults"
	LyingGauge   Level = "lying-gauge"   // the gauge is wrong, beside a fault
	WornBeside   Level = "worn-beside"   // wear shows that is not the cause
	LastMechanic Level = "last-mechanic" // the fault is what the last one to work on it left behind
)

// Levels lists them with their words.
var Levels = []struct {
	ID         Level
	Label, Why string
}{
	{OneFault, "One plain fault", "one cause, and what it shows"},
	{TwoFaults, "Two faults", "the first one found is not all"},
	{LyingGauge, "A gauge that lies", "a fault, and a needle that says something else"},
	{WornBeside, "Wear that is not the cause", "old parts are seen on the way; they are put right, and not blamed"},
	{LastMechanic, "After somebody's work", "a handle left shut, a seal left out, rubber left behind, air left in"},
}

// Case says which engine is in front of the learner: its kind, how hard, and the number from which all is drawn. Lesson
// is the number of a set piece from 1; 0: none, and then Level counts.
type Case struct {
	Kind   string
	Level  Level
	Lesson int
	Seed   uint32 // up to MostSeed
}

// MostSeed is the largest seed that a code has room for.
const MostSeed = 1<<22 - 1

// alphabet are the signs of a code: no I, L, O, U, which are read as others.
const alphabet = "0123456789ABCDEFGHJKMNPQRSTVWXYZ"

// signs is the length of a code without its checking sign; primes weigh the signs, so that one wrong sign or two that
// changed places are seen.
const signs = 6

// checkModulus is a prime a little under the number of signs.
const checkModulus = 31

// Code is the case as somebody can read it out: seven signs in two groups.
func (c Case) Code() string {
	n := uint32(c.variant())<<22 | c.Seed&MostSeed
	raw := make([]byte, signs)
	for i := signs - 1; i >= 0; i-- {
		raw[i] = alphabet[n&31]
		n >>= 5
	}
	return string(raw[:3]) + "-" + string(raw[3:]) + string(alphabet[checkOf(raw)])
}

func checkOf(raw []byte) int {
	sum := 0
	for i, b := range raw {
		sum += (i + 2) * strings.IndexByte(alphabet, b)
	}
	return sum % checkModulus
}

// variant is the kind with the level or the lesson, one number: lessons come after all levels.
func (c Case) variant() int {
	if c.Lesson > 0 {
		return len(Kinds)*len(Levels) + c.Lesson - 1
	}
	for k := range Kinds {
		for l := range Levels {
			if Kinds[k].ID == c.Kind && Levels[l].ID == c.Level {
				return k*len(Levels) + l
			}
		}
	}
	return 0
}

// ParseCode reads a code, in either case, with or without its dash. What does not fit is validation.Errors.
func ParseCode(given string) (Case, error) {
	var wrong validation.Errors
	refuse := func(say string) (Case, error) {
		wrong.Add("code", given, "a code like 3C1-7QX4", "%s", say)
		return Case{}, wrong
	}
	read := strings.NewReplacer("-", "", " ", "", "O", "0", "I", "1", "L", "1").Replace(strings.ToUpper(given))
	if len(read) != signs+1 {
		return refuse("a code has seven letters and figures")
	}
	n := uint32(0)
	for i := range signs {
		at := strings.IndexByte(alphabet, read[i])
		if at < 0 {
			return refuse("a code has no letter U and no other signs")
		}
		n = n<<5 | uint32(at)
	}
	if read[signs] != alphabet[checkOf([]byte(read[:signs]))] {
		return refuse("a letter is wrong: look at it again")
	}
	c := Case{Seed: n & MostSeed}
	switch v := int(n >> 22); {
	case v < len(Kinds)*len(Levels):
		c.Kind, c.Level = Kinds[v/len(Levels)].ID, Levels[v%len(Levels)].ID
	case v < len(Kinds)*len(Levels)+len(Lessons):
		c.Lesson = v - len(Kinds)*len(Levels) + 1
		c.Kind = Lessons[c.Lesson-1].Kind
	default:
		return refuse("this program has no such lesson")
	}
	return c, nil
}

// Check says what does not fit in a case.
func (c Case) Check() error {
	var wrong validation.Errors
	if c.Lesson < 0 || c.Lesson > len(Lessons) {
		wrong.Add("lesson", c.Lesson, units.Say("1 to %d", len(Lessons)), "there is no such lesson")
	}
	if _, ok := KindOf(c.Kind); !ok && c.Lesson == 0 {
		wrong.Add("kind", c.Kind, "a kind of engine", "choose one of the engines")
	}
	known := c.Lesson > 0
	for _, l := range Levels {
		known = known || l.ID == c.Level
	}
	if !known {
		wrong.Add("level", string(c.Level), "a level", "choose how hard it is to be")
	}
	if c.Seed > MostSeed {
		wrong.Add("seed", int(c.Seed), units.Say("0 to %d", MostSeed), "choose a smaller one")
	}
	return wrong.Err()
}
