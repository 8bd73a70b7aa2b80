package passphrase_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/core/passphrase"
)

func TestPassphrases(t *testing.T) {
	for phrase, say := range map[string]string{
		"":                                "take 12 letters or more",
		"short words":                     "take 12 letters or more",
		"password1234":                    "tried first",
		"aaaaaaaaaaaaaaaa":                "tried first",
		"hevrinhevrin":                    "tried first",
		"Tamsin Vane 1":                   "tried first",
		"qwertyuiop12":                    "tried first",
		strings.Repeat("ab cd ", 22):      "take 128 letters at most",
		"correcthorsebatterystaple":       "in books",
		"Correct Horse, battery stapLe 7": "in books",
		"to be or not to be, lamp":        "in books",
		"kettle moss ladder orange":       "",
		"ein langer Satz über Möwen":      "",
		"замок ромашка чайник дорога": "",
		"gTx7-ppQz-91lm":                "",
		"🚤 brass tide lantern almond":   "",
		strings.Repeat("lamp tide ", 2): "",
	} {
		err := passphrase.Check("Tamsin Vane", phrase)
		if say == "" {
			assert.NoError(t, err, phrase)
		} else {
			assert.ErrorContains(t, err, say, phrase)
			assert.NotContains(t, err.Error()+" ", " "+phrase+" ", "a passphrase is never told back")
		}
	}
}
