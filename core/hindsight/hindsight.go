// Package hindsight looks back on closed jobs: where the cause that was confirmed stood among the suspects before each
// look, what the looks took against what was forecast, and what the yard's own base rates and minutes come to.
package hindsight

import (
	"cmp"
	"maps"
	"math"
	"slices"
	"time"

	"hevrin/core/catalogue"
)

// Job is a closed job looked back on.
type Job struct {
	ID        string    `json:"id"`
	Engine    string    `json:"engine"`
	ClosedAt  time.Time `json:"closed_at"`
	Catalogue string    `json:"catalogue"` // version of what it was judged by
	Causes    []string  `json:"causes"`    // faults that were confirmed
	OneOf     bool      `json:"one_of"`    // it was one of them, and nobody knows which
	Possible  []string  `json:"possible"`  // every fault that the engine can have
	// Complaint is the ranking before the first look.
	Complaint Ranking `json:"complaint"`
	Looks     []Look  `json:"looks"`
}

// Ranking is where the confirmed cause stood among the suspects, the best of several: its place from 1, and its
// probability. A cause that is no suspect of the engine has place 0.
type Ranking struct {
	Place       int     `json:"place"`
	Probability float64 `json:"probability"`
}

// Look is a check that was made.
type Look struct {
	Check    string  `json:"check"`
	Offered  int     `json:"offered"`  // its place among the checks offered, from 1; 0: it was not offered
	Opened   string  `json:"opened"`   // the access that had to be opened for it; empty: none
	Forecast float64 `json:"forecast"` // min, with what had to be opened; 0: it was not offered
	Took     float64 `json:"took"`     // min, as somebody said; 0: nobody did
	After    Ranking `json:"after"`    // the ranking with what it showed
}

// Account is what all jobs looked back on come to.
type Account struct {
	Jobs       int
	Catalogues []string // versions, the newest job's first
	// Complaint is by the complaint alone; After is by how many looks were made, the first of them after one. A job whose
	// cause was known after fewer counts on as it stood last.
	Complaint Hits
	After     []Hits
	Looks     int
	// Followed are looks that were the first offered, Near those among the first three.
	Followed, Near int
	// Forecast and Took are, in minutes, over the looks of which both are known: Timed.
	Timed          int
	Forecast, Took float64
	Rates          []Rate // what the yard's jobs say of base rates, the most confirmed first
	Minutes        []Time // of checks and accesses, the most often timed first
}

// Hits are jobs of which the cause stood first among the suspects, or among the first three.
type Hits struct{ First, Three int }

// Rate is a fault's base rate.
type Rate struct {
	Fault     string
	Jobs      int     // on engines that can have it
	Confirmed float64 // of n of which it was one, and nobody knows which, each counts as 1/n
	Catalogue float64
	// Own is what the yard's jobs make of the catalogue's rate, which counts as much as RateWeight jobs.
	Own float64
}

// Time is what a check or an access takes.
type Time struct {
	ID        string
	Access    bool
	Times     int
	Catalogue float64 // min
	// Own is, in whole minutes, the catalogue's times the median of how many times as long it took as was forecast: one
	// look counts half, two count two thirds, from three on they count alone.
	Own float64
}

// RateWeight is how many jobs the catalogue's base rate stands for; common practice. TimesAlone is from how many times
// on they count alone, MostTimes the longest and its inverse the shortest that a forecast can be missed by: beyond it a
// watch ran on.
const (
	RateWeight = 20.0
	TimesAlone = 3
	MostTimes  = 4.0
	mostAfter  = 6
)

// Sum adds jobs up.
func Sum(c *catalogue.Catalogue, jobs []Job) Account {
	a := Account{Jobs: len(jobs), After: make([]Hits, longest(jobs))}
	sorted := slices.SortedStableFunc(slices.Values(jobs), func(x, y Job) int { return y.ClosedAt.Compare(x.ClosedAt) })
	can, confirmed, missed := map[string]int{}, map[string]float64{}, map[string][]float64{}
	for _, j := range sorted {
		if !slices.Contains(a.Catalogues, j.Catalogue) {
			a.Catalogues = append(a.Catalogues, j.Catalogue)
		}
		for _, f := range j.Possible {
			can[f]++
		}
		for _, f := range j.Causes {
			confirmed[f] += j.weight()
		}
		a.rankings(j)
		for _, l := range j.Looks {
			a.look(l, missed)
		}
	}
	for _, f := range c.Faults {
		if n := can[f.ID]; n > 0 {
			a.Rates = append(a.Rates, Rate{f.ID, n, confirmed[f.ID], f.Prior, OwnRate(f.Prior, confirmed[f.ID], n)})
		}
	}
	slices.SortStableFunc(a.Rates, func(x, y Rate) int { return cmp.Compare(y.Confirmed, x.Confirmed) })
	for _, id := range slices.Sorted(maps.Keys(missed)) {
		t := Time{ID: id, Times: len(missed[id])}
		if k, ok := c.Check(id); ok {
			t.Catalogue = k.Minutes
		} else if x, ok := c.AccessTo(id); ok {
			t.Catalogue, t.Access = x.Minutes, true
		} else {
			continue // of an older catalogue
		}
		t.Own = OwnMinutes(t.Catalogue, t.Catalogue, missed[id])
		a.Minutes = append(a.Minutes, t)
	}
	slices.SortStableFunc(a.Minutes, func(x, y Time) int { return cmp.Compare(y.Times, x.Times) })
	return a
}

// weight is for how many confirmed faults each of a job's causes counts.
func (j Job) weight() float64 {
	if j.OneOf {
		return 1 / float64(len(j.Causes))
	}
	return 1
}

func longest(jobs []Job) (n int) {
	for _, j := range jobs {
		n = max(n, len(j.Looks))
	}
	return min(n, mostAfter)
}

func (a *Account) rankings(j Job) {
	a.Complaint.add(j.Complaint)
	last := j.Complaint
	for i := range a.After {
		if i < len(j.Looks) {
			last = j.Looks[i].After
		}
		a.After[i].add(last)
	}
}

func (h *Hits) add(r Ranking) {
	if r.Place == 1 {
		h.First++
	}
	if r.Place >= 1 && r.Place <= 3 {
		h.Three++
	}
}

// look counts one; missed gathers, by check and access, how many times as long it took as was forecast.
func (a *Account) look(l Look, missed map[string][]float64) {
	a.Looks++
	if l.Offered == 1 {
		a.Followed++
	}
	if l.Offered >= 1 && l.Offered <= 3 {
		a.Near++
	}
	if l.Forecast <= 0 || l.Took <= 0 {
		return
	}
	a.Timed++
	a.Forecast += l.Forecast
	a.Took += l.Took
	times := Times(l.Took, l.Forecast)
	missed[l.Check] = append(missed[l.Check], times)
	if l.Opened != "" {
		missed[l.Opened] = append(missed[l.Opened], times)
	}
}

// OwnRate is what confirmed of n jobs on engines that can have a fault make of the catalogue's rate, above 0 and
// under 1: the mean of a beta distribution that begins at the catalogue's with the weight of RateWeight jobs (A. Gelman
// et al., Bayesian Data Analysis, 2013, section 2.4, memory).
func OwnRate(catalogues, confirmed float64, n int) float64 {
	return (RateWeight*catalogues + confirmed) / (RateWeight + float64(n))
}

// Times is how many times as long something took as was forecast, from a quarter to MostTimes.
func Times(took, forecast float64) float64 { return min(max(took/forecast, 1/MostTimes), MostTimes) }

// OwnMinutes is what a check or an access takes here, in whole minutes from 1, where it took so many times as long as
// the catalogue says; otherwise is what one would say without knowing that. See Time.
func OwnMinutes(otherwise, catalogues float64, times []float64) float64 {
	if len(times) == 0 {
		return otherwise
	}
	sorted := slices.Sorted(slices.Values(times))
	n := len(sorted)
	median := (sorted[(n-1)/2] + sorted[n/2]) / 2
	weight := float64(n) / float64(n+1)
	if n >= TimesAlone {
		weight = 1
	}
	return max(1, math.Round(otherwise*(1-weight)+catalogues*weight*median))
}
