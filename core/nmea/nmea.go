// Package nmea reads and writes the sentences of NMEA 0183 (IEC 61162-1) that tell of an engine: RPM, XDR, MTW, and ZDA
// for the time. The layouts of the sentences are from memory.
package nmea

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
	"time"
)

// Sentence is one line: who talks, what kind, and its fields.
type Sentence struct {
	Talker string // two letters
	Kind   string // three
	Fields []string
}

// LineError is why a line is not taken.
type LineError string

// The slips.
const (
	Garbage       LineError = "no sentence"
	NoChecksum    LineError = "no checksum"
	BadChecksum   LineError = "wrong checksum"
	TooLong       LineError = "too long"
	BadFields     LineError = "fields that cannot be read"
	OtherKind     LineError = "of another kind" // a fine sentence that does not tell of an engine
	NotValid      LineError = "marked as not valid"
	mostInLine              = 120 // the standard allows 82; some gateways write more
	mostInName              = 24
	mostInNumber            = 16
	checksumHexes           = 2
)

// Error says it in words.
func (s LineError) Error() string { return "a line with " + string(s) }

// Checksum is the exclusive or of what stands between $ and *.
func Checksum(body string) byte {
	var sum byte
	for i := range len(body) {
		sum ^= body[i]
	}
	return sum
}

// String writes a sentence with its checksum, without an end of line.
func (s Sentence) String() string {
	body := s.Talker + s.Kind + "," + strings.Join(s.Fields, ",")
	return fmt.Sprintf("$%s*%02X", body, Checksum(body))
}

// Parse reads a line without its end. A line without a checksum is not taken: nothing would tell a digit lost on the
// way.
func Parse(line string) (Sentence, error) {
	if len(line) > mostInLine {
		return Sentence{}, TooLong
	}
	rest, ok := strings.CutPrefix(line, "$")
	if !ok || strings.ContainsFunc(line, func(c rune) bool { return c < ' ' || c > '~' }) {
		return Sentence{}, Garbage
	}
	body, given, ok := strings.Cut(rest, "*")
	if !ok {
		return Sentence{}, NoChecksum
	}
	sum, err := strconv.ParseUint(given, 16, 8)
	if err != nil || len(given) != checksumHexes || byte(sum) != Checksum(body) {
		return Sentence{}, BadChecksum
	}
	address, fields, _ := strings.Cut(body, ",")
	if len(address) != 5 || address[0] == 'P' || strings.ContainsFunc(address, func(c rune) bool {
		return (c < 'A' ||
			c > 'Z') && (c < '0' || c > '9')
	}) {
		return Sentence{}, OtherKind // proprietary ones among them
	}
	return Sentence{Talker: address[:2], Kind: address[2:], Fields: strings.Split(fields, ",")}, nil
}

// Quantity is what a channel tells.
type Quantity string

// The quantities, in the units in which they are told: °C, kPa, L/min, rev/min, and what has none that counts here.
const (
	Temperature Quantity = "temperature"
	Pressure    Quantity = "pressure"
	Flow        Quantity = "flow"
	Speed       Quantity = "speed"
	Hours       Quantity = "hours" // of the engine: a generic transducer with the unit H
	Other       Quantity = "other"
)

// Units names each quantity's unit as core/quantity does.
var Units = map[Quantity]string{Temperature: "degC", Pressure: "kPa", Flow: "L/min", Speed: "rpm", Hours: "h",
	Other: ""}

// Reading is one value. Channel tells where it comes from: talker, sentence, and what within it.
type Reading struct {
	Channel  string
	Quantity Quantity
	Value    float64
}

// kinds are the sentences that tell of an engine.
var kinds = map[string]func(Sentence) ([]Reading, error){"RPM": speed, "XDR": transducers, "MTW": sea}

// Readings are what a sentence tells. A sentence of another kind tells nothing, with OtherKind.
func (s Sentence) Readings() ([]Reading, error) {
	read, ok := kinds[s.Kind]
	if !ok {
		return nil, OtherKind
	}
	return read(s)
}

// decimal is how the standard writes a number; not "NaN", not hexadecimal.
var decimal = regexp.MustCompile(`^[+-]?(\d+\.?\d*|\.\d+)$`)

func number(s string) (float64, error) {
	if len(s) > mostInNumber || !decimal.MatchString(s) {
		return 0, BadFields
	}
	v, err := strconv.ParseFloat(s, 64)
	if err != nil || math.IsInf(v, 0) {
		return 0, BadFields
	}
	return v, nil
}

// speed reads $--RPM,S|E,number,rev/min,pitch,A|V.
func speed(s Sentence) ([]Reading, error) {
	f := s.Fields
	if len(f) < 5 || (f[0] != "S" && f[0] != "E") || len(f[1]) > 2 {
		return nil, BadFields
	}
	if f[4] != "A" {
		return nil, NotValid
	}
	v, err := number(f[2])
	if err != nil {
		return nil, err
	}
	return []Reading{{s.Talker + " RPM " + f[0] + f[1], Speed, math.Abs(v)}}, nil // astern is below 0
}

// sea reads $--MTW,degrees,C.
func sea(s Sentence) ([]Reading, error) {
	if len(s.Fields) < 2 || s.Fields[1] != "C" {
		return nil, BadFields
	}
	v, err := number(s.Fields[0])
	if err != nil {
		return nil, err
	}
	return []Reading{{s.Talker + " MTW", Temperature, v}}, nil
}

// transducer is what a type of transducer tells in a unit, and how it becomes the unit that is told here.
type transducer struct{ kind, unit string }

var transducerTypes = map[transducer]struct {
	quantity Quantity
	factor   float64
}{
	{"C", "C"}: {Temperature, 1}, {"P", "B"}: {Pressure, 100}, {"P", "P"}: {Pressure, 0.001}, {"R", "l"}: {Flow, 60},
	{"T", "R"}: {Speed, 1}, {"G", "H"}: {Hours, 1},
}

// transducers reads $--XDR, groups of type, value, unit, name. A group without a value tells nothing.
func transducers(s Sentence) ([]Reading, error) {
	if len(s.Fields) == 0 || len(s.Fields)%4 != 0 {
		return nil, BadFields
	}
	var list []Reading
	for i := 0; i < len(s.Fields); i += 4 {
		kind, unit, name := s.Fields[i], s.Fields[i+2], s.Fields[i+3]
		if s.Fields[i+1] == "" {
			continue
		}
		v, err := number(s.Fields[i+1])
		if err != nil || len(kind) > 1 || len(name) > mostInName {
			return nil, BadFields
		}
		if name == "" {
			name = "#" + strconv.Itoa(i/4+1)
		}
		t, ok := transducerTypes[transducer{kind, unit}]
		if !ok {
			t.quantity, t.factor = Other, 1
		}
		list = append(list, Reading{s.Talker + " XDR " + kind + " " + name, t.quantity, v * t.factor})
	}
	return list, nil
}

// Time reads $--ZDA,hhmmss.ss,day,month,year,… as UTC; not ok for any other sentence.
func (s Sentence) Time() (time.Time, bool) {
	if s.Kind != "ZDA" || len(s.Fields) < 4 || len(s.Fields[0]) < 6 {
		return time.Time{}, false
	}
	clock, parts := s.Fields[0], [5]int{}
	for i, text := range []string{clock[:2], clock[2:4], s.Fields[1], s.Fields[2], s.Fields[3]} {
		n, err := strconv.Atoi(text)
		if err != nil {
			return time.Time{}, false
		}
		parts[i] = n
	}
	seconds, err := number(clock[4:])
	hour, minute, day, month, year := parts[0], parts[1], parts[2], parts[3], parts[4]
	if err != nil || hour > 23 || minute > 59 || seconds >= 61 || seconds < 0 || month < 1 || month > 12 || day < 1 ||
		year < 1980 || year > 2200 {
		return time.Time{}, false
	}
	t := time.Date(year, time.Month(month), day, hour, minute, 0, int(seconds*1e9), time.UTC)
	return t, t.Day() == day || seconds >= 60
}
