package datalog

import (
	"math"
	"regexp"
	"strconv"
	"strings"
	"time"

	"hevrin/core/units"
)

// units are the dimensions of what a logger may write that counts here.
var dimensions = []string{"degC", "L/min", "rpm", "s"}

// meant is the unit that words name.
func meant(words string) (units.Unit, bool) {
	if words == "" {
		return units.Unit{}, false
	}
	for _, id := range dimensions {
		if u, err := units.Meant(words, units.Must(id), units.Metric); err == nil {
			return u, true
		}
	}
	return units.Unit{}, false
}

// bracketed finds a unit in brackets at the end of a heading; trailing one after a comma, slash, underscore or space.
var (
	bracketed = regexp.MustCompile(`^(.*?)\s*[(\[]\s*([^()\[\]]{1,12})\s*[)\]]$`)
	trailing  = regexp.MustCompile(`^(.+?)[\s,/_]+([^\s,/_]{1,8}(?:/[a-z]+)?)$`)
)

// unitOf takes a heading apart into its words and its unit.
func unitOf(heading string) (words, unit string) {
	if _, ok := meant(heading); ok { // "seconds", "rpm", "rev/min"
		return heading, heading
	}
	for _, form := range []*regexp.Regexp{bracketed, trailing} {
		if m := form.FindStringSubmatch(heading); m != nil {
			if _, ok := meant(m[2]); ok {
				return m[1], m[2]
			}
		}
	}
	return heading, ""
}

var tidy = strings.NewReplacer("−", "-", "\u00a0", "", "\u202f", "", " ", "", "'", "")

// number reads a number with a decimal point or comma; where both stand, the last is the decimal one.
func number(cell string) (float64, bool) {
	if cell == "" || len(cell) > 32 {
		return 0, false
	}
	s := tidy.Replace(cell)
	point, comma := strings.LastIndexByte(s, '.'), strings.LastIndexByte(s, ',')
	switch {
	case comma > point:
		s = strings.ReplaceAll(s[:comma], ".", "") + "." + s[comma+1:]
	case comma >= 0:
		s = strings.ReplaceAll(s, ",", "")
	}
	if strings.ContainsAny(s, "xXpP_nN") || strings.ContainsAny(s, "iI") {
		return 0, false
	}
	v, err := strconv.ParseFloat(s, 64)
	return v, err == nil && !math.IsInf(v, 0) && !math.IsNaN(v)
}

// layouts of a moment; those with a day first come before those with a month first.
var layouts = []string{
	time.RFC3339Nano, "2006-01-02 15:04:05", "2006-01-02T15:04:05", "2006-01-02 15:04", "2006/01/02 15:04:05",
	"02.01.2006 15:04:05", "02.01.2006 15:04", "02/01/2006 15:04:05", "02/01/2006 15:04", "2/1/2006 15:04:05",
}

var monthFirst = []string{"01/02/2006 15:04:05", "01/02/2006 15:04", "1/2/2006 15:04:05", "1/2/2006 3:04:05 PM",
	"01/02/2006 03:04:05 PM"}

var clockOnly = regexp.MustCompile(`^(\d{1,2}):(\d{2})(?::(\d{2})(?:[.,](\d{1,6}))?)?$`)

// reading is a moment as it was written: a date and time, or a time of day alone.
type reading struct {
	seconds float64 // of the day, or since 1970
	dated   bool
}

// moment reads a date with a time, or a time of day: hh:mm:ss, hh:mm.
func moment(cell string, month bool) (reading, bool) {
	if len(cell) > 40 || !strings.Contains(cell, ":") {
		return reading{}, false
	}
	if m := clockOnly.FindStringSubmatch(cell); m != nil {
		at := func(i int) float64 { v, _ := strconv.ParseFloat("0"+m[i], 64); return v }
		seconds := at(3)
		if m[4] != "" {
			fraction, _ := strconv.ParseFloat("0."+m[4], 64)
			seconds += fraction
		}
		if at(1) > 23 || at(2) > 59 || seconds >= 61 {
			return reading{}, false
		}
		return reading{seconds: 3600*at(1) + 60*at(2) + seconds}, true
	}
	first, then := layouts, monthFirst
	if month {
		first, then = monthFirst, layouts
	}
	cell = strings.Replace(cell, ",", ".", 1)
	for _, list := range [][]string{first, then} {
		for _, layout := range list {
			if t, err := time.Parse(layout, cell); err == nil {
				return reading{float64(t.UnixMicro()) / 1e6, true}, true
			}
		}
	}
	return reading{}, false
}
