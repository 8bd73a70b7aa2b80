package maintenance

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"hevrin/core/catalogue"
)

// Engine is what is known of an engine's maintenance.
type Engine struct {
	Family   string   `json:"-"` // its facts are kept elsewhere
	Circuit  []string `json:"-"`
	Meter    []MeterRead
	Done     []Done
	Measures []Measure
	PutOff   []Postponement
	Own      map[string]Interval // by maintenance: the maker's or the yard's, in place of the usual
	// Fitted holds, by trend, what was fitted to the measures; a trend that is not in it is fitted when it is asked for.
	Fitted map[string]Fitted `json:",omitempty"`
	// FollowUps is what its jobs left behind.
	FollowUps []FollowUp `json:",omitempty"`
}

// Fitted is the growth of a trend, or why there is none.
type Fitted struct {
	Growth *Growth `json:",omitempty"`
	Say    string  `json:",omitempty"`
	From   float64 // hours of the stretch's first point
}

// Slim leaves of an engine what its due list needs: what was last done of each piece, the newest measures, and the
// trends fitted.
func (e Engine) Slim(c *catalogue.Catalogue) Engine {
	life := RunningHoursOf(e.Meter)
	out := e
	out.Fitted, out.Measures, out.Done = map[string]Fitted{}, nil, nil
	last := map[string]Done{}
	for _, d := range e.Done {
		if was, ok := last[d.Item]; !ok || d.At.After(was.At) {
			last[d.Item] = d
		}
	}
	for _, u := range c.Maintenance {
		if d, ok := last[u.ID]; ok {
			out.Done = append(out.Done, d)
		}
	}
	for _, f := range e.FollowUps {
		if d, ok := last[f.ID()]; ok {
			out.Done = append(out.Done, d)
		}
	}
	for _, t := range c.Trends {
		line := TrendLine{Trend: t}
		line.gather(e, life)
		if n := len(line.Points); n > 0 {
			out.Measures = append(out.Measures, line.Points[n-1].Measure)
		}
		if t.Fits != catalogue.FitsNothing && len(line.Points) > 0 {
			out.Fitted[t.ID] = line.fit(e)
		}
	}
	return out
}

// Done is a maintenance item that was done.
type Done struct {
	Item string
	At   time.Time
	Says string
	Job  string // in which; empty where it was put down by hand
	// Months is how long what was put in lasts, where that is known better than by the usual interval; 0: it is not.
	Months int `json:",omitempty"`
}

// Measure is a figure that was measured.
type Measure struct {
	Kind         string
	At           time.Time
	Value, Error float64
	Job          string
}

// Postponement puts a maintenance item off to a day, and says why. It holds until then, or until it is done.
type Postponement struct {
	Item  string
	Until time.Time
	Why   string
	By    string
	At    time.Time
}

// Interval is how often something is done; 0 does not count.
type Interval struct {
	Months int     `json:"months,omitempty"`
	Hours  float64 `json:"hours,omitempty"`
	Says   string  `json:"says,omitempty"` // whose it is: the maker's, the yard's
}

// State says how pressing something is.
type State string

// The states. Unknown: nobody put down when it was last done.
const (
	Overdue State = "overdue"
	Soon    State = "soon"
	Later   State = "later"
	Unknown State = "unknown"
)

// Kinds of reason.
const (
	ByDate      = "date"
	ByHours     = "hours"
	ByTrend     = "trend"
	ByCondition = "condition"
	ByPolicy    = "unknown"
	ByJob       = "job" // it was left behind by one
)

// Reason is one thing that makes something due, on a day.
type Reason struct {
	Kind, Say string
	When      time.Time
}

// Due is a maintenance item with when it is due and why. Reasons come the earliest first: that one wins.
type Due struct {
	catalogue.MaintenanceItem
	State   State
	When    time.Time // zero where it is unknown
	Hours   float64   // of the engine then; 0 where that is not told
	Reasons []Reason
	Last    *Done
	PutOff  *Postponement
	DoneToo string // of what a job left behind: the maintenance that does it too
}

// How near is soon, and how much further what shares an access or a haul-out is worth doing too.
const (
	soonDays  = 45
	whileDays = 183
)

// List is all that is kept up on an engine, the most pressing first.
func List(c *catalogue.Catalogue, e Engine, today time.Time) []Due {
	return ListBy(c, e, RunningHoursOf(e.Meter), today)
}

// ListBy is the same with the engine's hours put together before.
func ListBy(c *catalogue.Catalogue, e Engine, life RunningHours, today time.Time) []Due {
	var list []Due
	for _, u := range c.Maintenance {
		if u.On(e.Family, e.Circuit) {
			list = append(list, dueOf(c, u, e, life, today))
		}
	}
	for _, f := range e.FollowUps {
		if d, ok := f.due(c, e, life, today); ok {
			list = append(list, d)
		}
	}
	slices.SortStableFunc(list, func(a, b Due) int {
		return cmp.Or(later(a)-later(b), a.When.Compare(b.When))
	})
	return list
}

// later puts what is not known last.
func later(d Due) int { return map[State]int{Unknown: 1}[d.State] }

func noDay(r Reason) int { return map[bool]int{true: 1}[r.When.IsZero()] }

func dueOf(c *catalogue.Catalogue, u catalogue.MaintenanceItem, e Engine, life RunningHours, today time.Time) Due {
	d := Due{MaintenanceItem: u, State: Unknown}
	interval := Interval{Months: u.Months, Hours: u.Hours}
	for i := range e.Done {
		if x := &e.Done[i]; x.Item == u.ID && (d.Last == nil || x.At.After(d.Last.At)) {
			d.Last = x
		}
	}
	if d.Last != nil && d.Last.Months > 0 {
		interval.Months = d.Last.Months
	}
	if own, ok := e.Own[u.ID]; ok {
		interval = own
	}
	if d.Last != nil {
		d.byInterval(interval, life, today)
	} else {
		d.Reasons = append(d.Reasons, Reason{Kind: ByPolicy, Say: "nobody put down when it was last done"})
	}
	for _, t := range c.Trends {
		if u.Trend == t.ID {
			d.byTrend(TrendOf(t, e, life, today), today)
		}
	}
	slices.SortStableFunc(d.Reasons, func(a, b Reason) int {
		return cmp.Or(noDay(a)-noDay(b), a.When.Compare(b.When))
	})
	d.settle(e, life, today)
	return d
}

// settle says when it is due by its reasons, the earliest first, and how pressing that is.
func (d *Due) settle(e Engine, life RunningHours, today time.Time) {
	if d.When = d.Reasons[0].When; d.When.IsZero() {
		return
	}
	for i := range e.PutOff {
		p := &e.PutOff[i]
		if p.Item == d.ID && p.Until.After(today) && (d.Last == nil || p.At.After(d.Last.At)) && (d.PutOff == nil ||
			p.At.After(d.PutOff.At)) {
			d.PutOff = p
		}
	}
	if d.PutOff != nil && d.PutOff.Until.After(d.When) {
		d.When = d.PutOff.Until
	}
	d.State = stateOn(d.When, today)
	d.Hours, _, _ = life.At(d.When)
}

func stateOn(when, today time.Time) State {
	switch left := days(today, when); {
	case left <= 0:
		return Overdue
	case left <= soonDays:
		return Soon
	}
	return Later
}

func (d *Due) byInterval(i Interval, life RunningHours, today time.Time) {
	whose := ""
	if i.Says != "" {
		whose = ", " + i.Says
	}
	if i.Months > 0 {
		d.Reasons = append(d.Reasons, Reason{ByDate, fmt.Sprintf("%s since %s%s", months(i.Months), day(d.Last.At), whose),
			addMonths(d.Last.At, i.Months)})
	}
	if i.Hours <= 0 {
		return
	}
	then, _, ok := life.At(d.Last.At)
	if !ok {
		return
	}
	say := fmt.Sprintf("%.0f h since %s, at %.0f h%s", i.Hours, day(d.Last.At), then, whose)
	if when, ok := life.When(then+i.Hours, today); ok {
		d.Reasons = append(d.Reasons, Reason{ByHours, say, when})
	}
}

// addMonths goes on by months and stays in the month: a month after 31 January is the last of February.
func addMonths(t time.Time, n int) time.Time {
	first := time.Date(t.Year(), t.Month()+time.Month(n), 1, t.Hour(), t.Minute(), t.Second(), 0, t.Location())
	last := time.Date(first.Year(), first.Month()+1, 0, 0, 0, 0, 0, t.Location()).Day()
	return first.AddDate(0, 0, min(t.Day(), last)-1)
}

func months(n int) string {
	switch {
	case n == 12:
		return "a year"
	case n%12 == 0:
		return fmt.Sprintf("%d years", n/12)
	case n == 1:
		return "a month"
	}
	return fmt.Sprintf("%d months", n)
}

func (d *Due) byTrend(t TrendLine, today time.Time) {
	if n := len(t.Now); n > 0 && t.Past {
		p := t.Now[n-1]
		d.Reasons = append(d.Reasons, Reason{ByCondition, fmt.Sprintf("%s measured at %s on %s: limit %s", lower(t.Short),
			t.Format(p.Value, p.Error), day(p.At), t.Format(t.Limit, 0)), p.At})
		return
	}
	f := t.Forecast
	if f == nil || f.Say != "" || f.Likely.IsZero() {
		return
	}
	late := "beyond what can be told"
	if !f.Late.IsZero() {
		late = day(f.Late)
	}
	in := ""
	if left := f.Hours - t.HoursNow; left > 0 {
		in = fmt.Sprintf(", in about %.0f h", left)
	}
	d.Reasons = append(d.Reasons, Reason{ByTrend, fmt.Sprintf("%s meets %s %s%s; nine times in ten between %s and %s",
		lower(t.Short), t.Format(t.Limit, 0), about(f.Likely), in, day(f.Early), late), f.Likely})
}

// about says a day as well as a trend can tell it.
func about(t time.Time) string {
	part := "mid"
	switch {
	case t.Day() <= 10:
		part = "early"
	case t.Day() > 20:
		part = "late"
	}
	return part + " " + t.Format("January 2006")
}

func lower(s string) string { return strings.ToLower(s[:1]) + s[1:] }

// TrendPoint is a measure with the engine's hours then.
type TrendPoint struct {
	Measure
	Hours float64
}

// TrendLine is a figure over an engine's hours, and what is foretold from the stretch since it was last put right.
type TrendLine struct {
	catalogue.Trend
	Points   []TrendPoint
	Since    time.Time    // the stretch's begin; zero: from the first
	Now      []TrendPoint // of the stretch
	Forecast *Forecast    // of what is fitted; nil where nothing was
	Say      string       // why there is no forecast
	Curve    [][3]float64 // hours, value, error, in the figure's own unit, to the limit or a while on
	Past     bool         // the newest is past the limit by more than its error
	HoursNow float64
}

// TrendOf follows a figure.
func TrendOf(t catalogue.Trend, e Engine, life RunningHours, today time.Time) TrendLine {
	out := TrendLine{Trend: t}
	out.HoursNow, _, _ = life.At(today)
	out.gather(e, life)
	if n := len(out.Now); n > 0 {
		last := out.Now[n-1]
		limit, _ := out.fitted(t.Limit, 0)
		v, err := out.fitted(last.Value, last.Error)
		out.Past = t.Fits != catalogue.FitsNothing && v-err > limit
	}
	out.predict(e, life, today)
	return out
}

// gather takes the measures in, and tells those of the stretch since it was last put right.
func (t *TrendLine) gather(e Engine, life RunningHours) {
	for _, d := range e.Done {
		if slices.Contains(t.Resets, d.Item) && d.At.After(t.Since) {
			t.Since = d.At
		}
	}
	for _, m := range e.Measures {
		if m.Kind != t.Measure {
			continue
		}
		h, _, _ := life.At(m.At)
		t.Points = append(t.Points, TrendPoint{m, h})
	}
	slices.SortStableFunc(t.Points, func(a, b TrendPoint) int { return a.At.Compare(b.At) })
	for _, p := range t.Points {
		if p.At.After(t.Since) {
			t.Now = append(t.Now, p)
		}
	}
}

// fit fits the stretch, unless that was done before.
func (t *TrendLine) fit(e Engine) Fitted {
	if known, ok := e.Fitted[t.ID]; ok {
		return known
	}
	var points []Point
	for _, p := range t.Now {
		v, err := t.fitted(p.Value, p.Error)
		points = append(points, Point{Hours: p.Hours, Value: v, Error: err})
	}
	g, err := Fit(points)
	if err != nil {
		return Fitted{Say: err.Error()}
	}
	return Fitted{Growth: &g, From: points[0].Hours}
}

type fits struct{ catalogue.Trend }

// fitted turns a figure and its error into what is fitted.
func (t TrendLine) fitted(v, err float64) (float64, float64) { return fits{t.Trend}.to(v, err) }

func (t fits) to(v, err float64) (float64, float64) {
	switch t.Fits {
	case catalogue.FitsFouling:
		v = max(v, 0.02)
		return 1/v - 1, err / (v * v)
	case catalogue.FitsLoss:
		return 1 - v, err
	}
	return v, err
}

func (t fits) back(y, err float64) (float64, float64) {
	switch t.Fits {
	case catalogue.FitsFouling:
		v := 1 / (1 + max(y, -0.9))
		return v, err * v * v
	case catalogue.FitsLoss:
		return 1 - y, err
	}
	return y, err
}

// curveSteps is how many points of a fitted curve are told.
const curveSteps = 24

func (t *TrendLine) predict(e Engine, life RunningHours, today time.Time) {
	if t.Fits == catalogue.FitsNothing || len(t.Points) == 0 {
		return
	}
	is := t.fit(e)
	if is.Growth == nil {
		t.Say = is.Say
		return
	}
	limit, _ := t.fitted(t.Limit, 0)
	f, err := is.Growth.Predict(limit, life, today)
	if err != nil {
		t.Say = err.Error()
		return
	}
	t.Forecast, t.Say = &f, f.Say
	to := t.HoursNow
	if f.Hours > 0 {
		to = max(to, f.Hours)
	}
	for i := range curveSteps + 1 {
		h := is.From + (to-is.From)*float64(i)/curveSteps
		y, e := f.Growth.At(h)
		v, ve := fits{t.Trend}.back(y, e)
		t.Curve = append(t.Curve, [3]float64{h, v, ve})
	}
}

// Format is a value of the figure with its error, in words; no error where it is 0.
func (t TrendLine) Format(v, err float64) string {
	with := func(format string, scale float64) string {
		if err == 0 {
			return fmt.Sprintf(format, v*scale)
		}
		return fmt.Sprintf(format+" ± "+format, v*scale, math.Abs(err)*scale)
	}
	if t.Unit == "percent" {
		return with("%.0f", 100) + " %"
	}
	return with("%.1f", 1) + " " + t.Unit
}

// Group is what is worth doing together: behind one access, or while the craft is ashore.
type Group struct {
	Key   string // id of the access; "ashore"
	Items []string
}

// Ashore is the group of a haul-out.
const Ashore = "ashore"

// Groups puts together what shares an access or a haul-out, where one of them presses and another is due in half a
// year.
func Groups(list []Due, today time.Time) []Group {
	var out []Group
	near := func(d Due) bool { return d.State != Later || days(today, d.When) <= whileDays }
	add := func(key string, in func(Due) bool) {
		g := Group{Key: key}
		pressing := false
		for _, d := range list {
			if in(d) && near(d) {
				g.Items = append(g.Items, d.ID)
				pressing = pressing || d.State == Overdue || d.State == Soon
			}
		}
		if pressing && len(g.Items) > 1 {
			out = append(out, g)
		}
	}
	seen := map[string]bool{}
	for _, d := range list {
		if d.Access != "" && !seen[d.Access] {
			seen[d.Access] = true
			add(d.Access, func(x Due) bool { return x.Access == d.Access })
		}
	}
	add(Ashore, func(x Due) bool { return x.Ashore })
	return out
}
