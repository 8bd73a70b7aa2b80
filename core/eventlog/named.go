package eventlog

import (
	"strconv"
	"strings"

	"hevrin/core/validation"
)

// name refuses what nobody could read as a name.
func name(wrong *validation.Errors, field, given string) {
	switch {
	case strings.TrimSpace(given) == "":
		wrong.Add(field, "nothing", "1 to 80 letters", "give it a name")
	case !validation.IsName(given):
		wrong.Add(field, strconv.QuoteToASCII(given), "letters that are seen, on one line",
			"type the name anew: there are signs in it that nobody sees")
	}
}

// CheckBy refuses an entry by a name that nobody can read.
func CheckBy(e Entry) error {
	var wrong validation.Errors
	name(&wrong, "by", e.By)
	return wrong.Err()
}
