// Package passphrase says what a good passphrase is.
package passphrase

import (
	"slices"
	"strings"
	"unicode"

	"github.com/trustelem/zxcvbn"

	"hevrin/core/units"
	"hevrin/core/validation"
)

// Limits of a passphrase: at least as many letters as OWASP ASVS 4.0.3, 2.1.1 asks for, and at most what 2.1.2 does;
// no rules of what it is made of (2.1.9).
const (
	Least      = 12
	Most       = 128
	leastScore = 3 // of 4: safe against whoever stole the record, zxcvbn
)

// wellKnown are passphrases that everybody knows, letters alone: examples of advice, sayings, first lines. From memory.
var wellKnown = []string{"correcthorsebatterystaple", "thequickbrownfox", "tobeornottobe", "maytheforcebewithyou",
	"letmeinletmein", "iloveyouiloveyou", "allyourbasearebelong", "itwasthebestoftimes", "onceuponatime",
	"threelittlepigs", "twinkletwinklelittlestar", "rowrowrowyourboat", "diceware", "opensesame"}

// published says whether a passphrase is one of them, however it is spaced, and whatever stands around it.
func published(phrase string) bool {
	letters := strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) {
			return unicode.ToLower(r)
		}
		return -1
	}, phrase)
	return slices.ContainsFunc(wellKnown, func(known string) bool { return strings.Contains(letters, known) })
}

// Check says what is wrong with a passphrase for a person of a name: too short, or one of those that are
// tried first, among them the name itself and the program's.
func Check(name, phrase string) error {
	var wrong validation.Errors
	allowed := units.Say("%d to %d letters, and not one that is tried first", Least, Most)
	switch n := len([]rune(phrase)); {
	case n < Least:
		wrong.Add("passphrase", units.Say("%d letters", n), allowed, "take %d letters or more: three or four words do",
			Least)
	case n > Most:
		wrong.Add("passphrase", units.Say("%d letters", n), allowed, "take %d letters at most", Most)
	case published(phrase):
		wrong.Add("passphrase", "one that is tried first", allowed, "this one is in books and on the web: take words of "+
			"your own that have nothing to do with each other")
	case zxcvbn.PasswordStrength(phrase, append(strings.Fields(name), name, "hevrin", "yard", "boat")).Score < leastScore:
		wrong.Add("passphrase", "one that is tried first", allowed, "this one is tried first by whoever guesses: take three "+
			"or four words that have nothing to do with each other")
	}
	return wrong.Err()
}
