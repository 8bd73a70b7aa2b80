package live_test

import (
	"strconv"

	"hevrin/core/nmea"
)

// sentence is a well-formed one of a channel that nobody knows.
func sentence(i int) string {
	return nmea.Sentence{Talker: "II", Kind: "XDR", Fields: []string{"C", "20", "C", "N" + strconv.Itoa(i)}}.String() +
		"\r\n"
}
