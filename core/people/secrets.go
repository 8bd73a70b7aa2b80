package people

import (
	"regexp"
	"time"

	"hevrin/core/units"
	"hevrin/core/validation"
)

// PINDigits is how many digits a PIN has. It only opens a device on which its person signed in before.
const PINDigits = 6

var pinForm = regexp.MustCompile(`^\d{6}$`)

// CheckPIN says what is wrong with a PIN.
func CheckPIN(pin string) error {
	var wrong validation.Errors
	allowed := units.Say("%d digits, neither the same nor in a row", PINDigits)
	if !pinForm.MatchString(pin) {
		wrong.Add("pin", units.Say("%d signs", len([]rune(pin))), allowed, "take %d digits", PINDigits)
		return wrong
	}
	steps := map[byte]int{}
	for i := 1; i < len(pin); i++ {
		steps[pin[i]-pin[i-1]]++
	}
	for _, step := range []byte{0, 1, 255} {
		if steps[step] == PINDigits-1 {
			wrong.Add("pin", "one that is tried first", allowed, "take digits that are neither the same nor in a row")
		}
	}
	return wrong.Err()
}

// Waiting after wrong guesses. It grows with those of one name from one address, and with all of one address, and never
// hangs on the name alone: nobody can lock somebody else out.
const (
	freeGuesses   = 3  // of a name from an address
	freeOfAddress = 20 // of any names
	longestWait   = 15 * time.Minute
)

// MostPINGuesses is how many wrong PINs a device takes before the passphrase is asked for.
const MostPINGuesses = 5

// MostPINGuessesOfAll is how many wrong PINs of a person all devices together take before each asks for the passphrase.
const MostPINGuessesOfAll = 10

// WaitAfter is how long a name is not tried again from an address after so many wrong guesses of it from there, and so
// many of any name.
func WaitAfter(ofName, ofAddress int) time.Duration {
	return max(doubled(ofName-freeGuesses), doubled(ofAddress-freeOfAddress))
}

func doubled(n int) time.Duration {
	switch {
	case n <= 0:
		return 0
	case n > 10: // 2^10 s is more than the longest
		return longestWait
	}
	return min(time.Second<<(n-1), longestWait)
}

// How long a sign-in lasts: over a working day without a touch, and over a month of use.
const (
	IdleFor     = 14 * time.Hour
	LastsFor    = 30 * 24 * time.Hour
	InviteFor   = 24 * time.Hour
	PINLastsFor = 14 * 24 * time.Hour // since the passphrase was given on the device
)
