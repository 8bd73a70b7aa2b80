package maintenance

import (
	"math"
	"slices"
	"time"

	"hevrin/core/units"
	"hevrin/core/validation"
)

// MeterRead is what the engine's hour meter showed on a day. NewMeter: the meter was changed on that day; Hours is what
// the new one showed then, and Old what the old one showed at last.
type MeterRead struct {
	Day      time.Time `json:"d"`
	Hours    float64   `json:"h"`
	NewMeter bool      `json:"n,omitempty"`
	Old      float64   `json:"o,omitempty"`
	Says     string    `json:"s,omitempty"` // where it is from
}

// Limits of an hour meter. No engine runs more hours than there are.
const (
	mostHours  = 200_000
	hoursInDay = 24.0
)

// CheckMeter says what keeps a reading from being added to those on record: hours never run backwards without a new
// meter, and no faster than the clock.
func CheckMeter(kept []MeterRead, r MeterRead) error {
	var wrong validation.Errors
	for name, v := range map[string]float64{"hours": r.Hours, "old_hours": r.Old} {
		if !(v >= 0 && v <= mostHours) {
			wrong.Add(name, v, units.Say("0 to %d h", mostHours), "read the meter again")
		}
	}
	if len(wrong) > 0 {
		return wrong
	}
	list := append(slices.Clone(kept), r)
	sortReads(list)
	i := slices.Index(list, r)
	if i > 0 {
		before := list[i-1]
		reads := r.Hours
		if r.NewMeter {
			reads = r.Old
		}
		checkStep(&wrong, before, r.Day, reads, map[bool]string{true: "old_hours", false: "hours"}[r.NewMeter])
	}
	if i+1 < len(list) {
		after := list[i+1]
		reads := after.Hours
		if after.NewMeter {
			reads = after.Old
		}
		if reads < r.Hours {
			wrong.Add("hours", r.Hours, units.Say("up to %g h, as on %s", reads, day(after.Day)),
				"the meter would run backwards after that day: read it again, or say that it was changed")
		}
	}
	return wrong.Err()
}

func checkStep(wrong *validation.Errors, before MeterRead, at time.Time, reads float64, field string) {
	most := before.Hours + hoursInDay*(days(before.Day, at)+1)
	switch {
	case reads < before.Hours:
		wrong.Add(field, reads, units.Say("%g h or more, as on %s", before.Hours, day(before.Day)),
			"the meter would run backwards: read it again, or say that it was changed")
	case reads > most:
		wrong.Add(field, reads, units.Say("up to %g h: no more since %s", most, day(before.Day)),
			"it cannot have run so many hours since: read it again, or say that the meter was changed")
	}
}

func sortReads(list []MeterRead) {
	slices.SortStableFunc(list, func(a, b MeterRead) int { return a.Day.Compare(b.Day) })
}

func days(from, to time.Time) float64 { return to.Sub(from).Hours() / hoursInDay }

func day(t time.Time) string { return t.Format("2 January 2006") }

// RunningHours is an engine's hours over the days: what all its meters together come to, and how much it is used in
// each month of the year.
type RunningHours struct {
	days  []time.Time
	hours []float64   // since its first meter's 0
	rate  [12]float64 // hours a day
	mean  float64
	// wander is the variance of the hours run, per day: how much use differs from the usual.
	wander float64
	known  float64 // days over which use is known
	// usual[k] is how many hours it runs, as usual, from the start of base to the k-th month after it.
	base  int
	usual []float64
}

// usualDays is the weight that a month's own use must overcome: with few days known, the year's mean counts.
const usualDays = 15.0

// RunningHoursOf puts an engine's meter readings together; those that do not follow the one before are left out.
func RunningHoursOf(reads []MeterRead) RunningHours {
	list := slices.Clone(reads)
	sortReads(list)
	var l RunningHours
	shift := 0.0 // from a meter's hours to the engine's
	var last MeterRead
	for i, r := range list {
		if i > 0 && !follows(last, r) {
			continue
		}
		if r.NewMeter {
			shift += r.Old - r.Hours
		}
		l.days, l.hours = append(l.days, r.Day), append(l.hours, shift+r.Hours)
		last = r
	}
	l.use()
	return l
}

// follows says whether a reading may come after another.
func follows(last, r MeterRead) bool {
	reads := r.Hours
	if r.NewMeter {
		reads = r.Old
	}
	var wrong validation.Errors
	checkStep(&wrong, last, r.Day, reads, "hours")
	return len(wrong) == 0 && r.Hours >= 0
}

// use learns the use by month from the stretches between readings, each spread evenly over its days.
func (l *RunningHours) use() {
	var hours, known [12]float64
	for i := 1; i < len(l.days); i++ {
		d := days(l.days[i-1], l.days[i])
		if d <= 0 {
			continue
		}
		perDay := (l.hours[i] - l.hours[i-1]) / d
		each(l.days[i-1], l.days[i], func(month time.Month, share float64) {
			hours[month-1] += perDay * share
			known[month-1] += share
		})
	}
	total := 0.0
	for m := range hours {
		total, l.known = total+hours[m], l.known+known[m]
	}
	if l.known <= 0 {
		return
	}
	l.mean = total / l.known
	for m := range hours {
		l.rate[m] = (hours[m] + usualDays*l.mean) / (known[m] + usualDays)
	}
	l.compute()
	squares, over := 0.0, 0.0
	for i := 1; i < len(l.days); i++ {
		d := days(l.days[i-1], l.days[i])
		if d <= 0 {
			continue
		}
		off := l.hours[i] - l.hours[i-1] - l.expected(l.days[i-1], l.days[i])
		squares, over = squares+off*off, over+d
	}
	if n := len(l.days); n > 2 {
		l.wander = squares / over * float64(n) / float64(n-1)
	} else {
		l.wander = l.mean * l.mean * usualDays // one stretch says nothing of how use differs
	}
}

// each goes through the months between two times, with how many days of each.
func each(from, to time.Time, do func(month time.Month, share float64)) {
	for at := from; at.Before(to); {
		next := time.Date(at.Year(), at.Month()+1, 1, 0, 0, 0, 0, at.Location())
		if next.After(to) {
			next = to
		}
		do(at.Month(), days(at, next))
		at = next
	}
}

// reachBefore and reachAfter are how many years before its first reading and after it its usual use is computed.
const reachBefore, reachAfter = 20, 60

// compute sums its usual use up month by month.
func (l *RunningHours) compute() {
	l.base = l.days[0].Year() - reachBefore
	l.usual = make([]float64, 12*(reachBefore+reachAfter)+1)
	for k := range len(l.usual) - 1 {
		l.usual[k+1] = l.usual[k] + l.rate[k%12]*daysIn(l.base+k/12, k%12)
	}
}

var monthDays = [12]float64{31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31}

// daysIn is how many days a month has, January 0.
func daysIn(year, month int) float64 {
	if month == 1 && year%4 == 0 && (year%100 != 0 || year%400 == 0) {
		return 29
	}
	return monthDays[month]
}

// since is how many hours it runs, as usual, from the start of base to a time.
func (l RunningHours) since(t time.Time) float64 {
	k := (t.Year()-l.base)*12 + int(t.Month()) - 1
	switch {
	case len(l.usual) == 0 || k < 0:
		return 0
	case k >= len(l.usual)-1:
		return l.usual[len(l.usual)-1]
	}
	within := float64(t.Day()-1) + float64(t.Hour())/hoursInDay + float64(t.Minute())/(60*hoursInDay) +
		float64(t.Second())/(3600*hoursInDay)
	return l.usual[k] + l.rate[t.Month()-1]*within
}

// expected is how many hours it is used between two times, as usual.
func (l RunningHours) expected(from, to time.Time) float64 { return l.since(to) - l.since(from) }

// Confirmed says whether anything is known of its hours, and whether its use is.
func (l RunningHours) Confirmed() (hours, use bool) { return len(l.days) > 0, l.mean > 0 }

// PerYear is how many hours it runs in a year.
func (l RunningHours) PerYear() float64 {
	sum := 0.0
	for m, r := range l.rate {
		sum += r * float64(time.Date(2025, time.Month(m+2), 0, 0, 0, 0, 0, time.UTC).Day())
	}
	return sum
}

// ByMonth is how many hours a day it runs in each month of the year, January first.
func (l RunningHours) ByMonth() [12]float64 { return l.rate }

// At is its hours at a time and their error (one standard deviation): read, between two readings in proportion, before
// and after them by its use. Not ok where nothing is known.
func (l RunningHours) At(t time.Time) (hours, err float64, ok bool) {
	n := len(l.days)
	if n == 0 {
		return 0, 0, false
	}
	i, found := slices.BinarySearchFunc(l.days, t, time.Time.Compare)
	switch {
	case found:
		return l.hours[i], 0, true
	case i == 0:
		d := days(t, l.days[0])
		return max(0, l.hours[0]-l.expected(t, l.days[0])), l.drift(d), true
	case i == n:
		return l.hours[n-1] + l.expected(l.days[n-1], t), l.drift(days(l.days[n-1], t)), true
	}
	whole := l.hours[i] - l.hours[i-1]
	share := l.expected(l.days[i-1], t)
	if all := l.expected(l.days[i-1], l.days[i]); all > 0 {
		share *= whole / all
	}
	return l.hours[i-1] + share, 0, true
}

// drift is how far use may have led from the usual over so many days.
func (l RunningHours) drift(d float64) float64 {
	v := l.wander * d
	if l.known > 0 {
		v += l.wander * d * d / l.known // the usual itself is known only so well
	}
	return math.Sqrt(v)
}

// Last is the newest reading, in its own hours.
func (l RunningHours) Last() (at time.Time, hours float64, ok bool) {
	n := len(l.days)
	if n == 0 {
		return at, 0, false
	}
	return l.days[n-1], l.hours[n-1], true
}

// farAhead is how far it is looked ahead.
const farAhead = 15 * 365

// When is the first day on which it has run so many hours, by its use; not ok where its use is not known, or it lies
// more than fifteen years ahead of a day.
func (l RunningHours) When(hours float64, today time.Time) (time.Time, bool) {
	if now, _, ok := l.At(today); !ok || l.mean <= 0 {
		return time.Time{}, false
	} else if now >= hours {
		return l.passed(hours, today), true
	}
	return firstDay(today, func(t time.Time) bool { h, _, _ := l.At(t); return h >= hours })
}

// passed is the day on which it had run so many hours.
func (l RunningHours) passed(hours float64, today time.Time) time.Time {
	for i := len(l.hours) - 1; i > 0; i-- {
		if l.hours[i-1] < hours && hours <= l.hours[i] {
			d := days(l.days[i-1], l.days[i]) * (hours - l.hours[i-1]) / (l.hours[i] - l.hours[i-1])
			return l.days[i-1].Add(time.Duration(d * hoursInDay * float64(time.Hour)))
		}
	}
	if n := len(l.days); n > 0 && hours > l.hours[n-1] {
		if t, ok := firstDay(l.days[n-1], func(t time.Time) bool { h, _, _ := l.At(t); return h >= hours }); ok &&
			t.Before(today) {
			return t
		}
		return today
	}
	if len(l.days) > 0 {
		return l.days[0]
	}
	return today
}

// firstDay is the first day from one on, at most farAhead later, for which something holds that then goes on to hold.
func firstDay(from time.Time, holds func(time.Time) bool) (time.Time, bool) {
	at := func(d int) time.Time { return from.AddDate(0, 0, d) }
	if !holds(at(farAhead)) {
		return time.Time{}, false
	}
	low, high := 0, farAhead
	for low < high {
		if mid := (low + high) / 2; holds(at(mid)) {
			high = mid
		} else {
			low = mid + 1
		}
	}
	return at(low), true
}
