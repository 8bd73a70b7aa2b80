package catalogue

import "slices"

// MaintenanceItem is something that is kept up on an engine, and when. Intervals of 0 do not count.
type MaintenanceItem struct {
	ID       string   `json:"id" yaml:"id"`
	Label    string   `json:"label" yaml:"label"`
	Do       string   `json:"do" yaml:"do"`
	Stations []string `json:"stations" yaml:"stations"` // on which it is; an engine with any of them has it
	Families []string `json:"families,omitempty" yaml:"families"`
	Months   int      `json:"months,omitempty" yaml:"months"`
	Hours    float64  `json:"hours,omitempty" yaml:"hours"`
	Task     string   `json:"task,omitempty" yaml:"task"`     // its list
	Access   string   `json:"access,omitempty" yaml:"access"` // what is open while it is done
	Ashore   bool     `json:"ashore,omitempty" yaml:"ashore"`
	Date     string   `json:"date,omitempty" yaml:"date"` // the engine's date that tells it too
	DoneBy   DoneBy   `json:"done_by" yaml:"done_by"`
	Trend    string   `json:"trend,omitempty" yaml:"trend"`
	Why      string   `json:"why" yaml:"why"`
}

// DoneBy lists what in a job does a maintenance item: items of tasks that go back new (task/item), finished wet work by
// its kind, checks that are made.
type DoneBy struct {
	Items  []string `json:"items,omitempty" yaml:"items"`
	Works  []string `json:"works,omitempty" yaml:"works"`
	Checks []string `json:"checks,omitempty" yaml:"checks"`
}

// Trend is a figure that is followed over an engine's hours.
type Trend struct {
	ID      string   `json:"id" yaml:"id"`
	Label   string   `json:"label" yaml:"label"`
	Short   string   `json:"short" yaml:"short"`
	Measure string   `json:"measure" yaml:"measure"`
	Unit    string   `json:"unit" yaml:"unit"`
	Fits    string   `json:"fits" yaml:"fits"`
	Limit   float64  `json:"limit" yaml:"limit"`
	Resets  []string `json:"resets" yaml:"resets"` // maintenance that begins a new stretch
	Item    string   `json:"item" yaml:"item"`     // maintenance that it makes due
	Why     string   `json:"why" yaml:"why"`
}

// What is fitted of a trend.
const (
	FitsFouling = "fouling" // 1/share − 1: a resistance grows, a share does not
	FitsLoss    = "loss"    // 1 − share
	FitsPlain   = "plain"
	FitsNothing = "none"
)

// FollowUp is work that a job left behind, due once. {what} in its words is what it is about, {do} what puts it right.
type FollowUp struct {
	ID    string `json:"id" yaml:"id"`
	Label string `json:"label" yaml:"label"`
	Do    string `json:"do" yaml:"do"`
	Days  int    `json:"days" yaml:"days"` // within how many; 0: at once
	// Until is after how many days nothing is gained by it any more; 0: it stands until it is done.
	Until  int    `json:"until,omitempty" yaml:"until"`
	Ashore bool   `json:"ashore,omitempty" yaml:"ashore"`
	Why    string `json:"why" yaml:"why"`
}

// SeasonList is the list of a season.
type SeasonList struct {
	ID     string       `json:"id" yaml:"id"`
	Label  string       `json:"label" yaml:"label"`
	Months []int        `json:"months" yaml:"months"` // north of the line
	Steps  []SeasonStep `json:"steps" yaml:"steps"`
}

// SeasonStep is one step of it.
type SeasonStep struct {
	ID       string   `json:"id" yaml:"id"`
	Label    string   `json:"label" yaml:"label"`
	Stations []string `json:"stations" yaml:"stations"`
	Families []string `json:"families,omitempty" yaml:"families"`
	Item     string   `json:"item,omitempty" yaml:"item"` // maintenance that it does
	Caution  string   `json:"caution,omitempty" yaml:"caution"`
	Why      string   `json:"why" yaml:"why"`
}

func on(stations, families []string, family string, circuit []string) bool {
	return (len(families) == 0 || slices.Contains(families, family)) && slices.ContainsFunc(stations,
		func(s string) bool { return slices.Contains(circuit, s) })
}

// On says whether an engine has it.
func (u MaintenanceItem) On(family string, circuit []string) bool {
	return on(u.Stations, u.Families, family, circuit)
}

// On says whether an engine has it.
func (s SeasonStep) On(family string, circuit []string) bool {
	return on(s.Stations, s.Families, family, circuit)
}

// MaintenanceItem finds a maintenance item.
func (c *Catalogue) MaintenanceItem(id string) (MaintenanceItem, bool) {
	i := slices.IndexFunc(c.Maintenance, func(u MaintenanceItem) bool { return u.ID == id })
	if i < 0 {
		return MaintenanceItem{}, false
	}
	return c.Maintenance[i], true
}

// FollowUp finds a kind of follow-up.
func (c *Catalogue) FollowUp(id string) (FollowUp, bool) {
	i := slices.IndexFunc(c.FollowUps, func(f FollowUp) bool { return f.ID == id })
	if i < 0 {
		return FollowUp{}, false
	}
	return c.FollowUps[i], true
}

// Season finds a season's list.
func (c *Catalogue) Season(id string) (SeasonList, bool) {
	i := slices.IndexFunc(c.Seasons, func(s SeasonList) bool { return s.ID == id })
	if i < 0 {
		return SeasonList{}, false
	}
	return c.Seasons[i], true
}

// maintenance proves that the maintenance, its trends and the seasons' lists hold together.
func (p *proof) maintenance() {
	c := p.c
	items, measured, seen := map[string]bool{}, map[string]bool{}, map[string]int{}
	for _, t := range c.Tasks {
		for _, i := range t.Items {
			items[t.ID+"/"+i.ID] = true
		}
	}
	for _, t := range c.Trends {
		measured[t.ID] = true
		_, ok := c.MaintenanceItem(t.Item)
		p.expect(ok, "trend %s: unknown maintenance %q", t.ID, t.Item)
		p.expect(t.Limit > 0 && slices.Contains([]string{FitsFouling, FitsLoss, FitsPlain, FitsNothing}, t.Fits),
			"trend %s: a limit and what is fitted are needed", t.ID)
		for _, r := range t.Resets {
			_, ok := c.MaintenanceItem(r)
			p.expect(ok, "trend %s: unknown maintenance %q", t.ID, r)
		}
	}
	for _, u := range c.Maintenance {
		seen[u.ID]++
		where := "maintenance " + u.ID
		p.expect(u.Months > 0 || u.Hours > 0, "%s: months or hours are needed", where)
		for _, s := range u.Stations {
			p.known(c.index.stations, "station", s, where)
		}
		if u.Task != "" {
			_, ok := c.Task(u.Task)
			p.expect(ok, "%s: unknown task %q", where, u.Task)
		}
		if u.Access != "" {
			_, ok := c.AccessTo(u.Access)
			p.expect(ok, "%s: unknown access %q", where, u.Access)
		}
		p.expect(u.Trend == "" || measured[u.Trend], "%s: unknown trend %q", where, u.Trend)
		for _, i := range u.DoneBy.Items {
			p.expect(items[i], "%s: unknown item %q", where, i)
		}
		for _, k := range u.DoneBy.Checks {
			_, ok := c.Check(k)
			p.expect(ok, "%s: unknown check %q", where, k)
		}
		p.expect(len(u.DoneBy.Items)+len(u.DoneBy.Works)+len(u.DoneBy.Checks) > 0, "%s: nothing does it", where)
	}
	p.unique("upkeep", len(c.Maintenance), len(seen))
	for _, s := range c.Seasons {
		p.expect(len(s.Steps) > 0 && len(s.Months) > 0, "season %s: steps and months are needed", s.ID)
		for _, x := range s.Steps {
			_, ok := c.MaintenanceItem(x.Item)
			p.expect(x.Item == "" || ok, "season %s, step %s: unknown maintenance %q", s.ID, x.ID, x.Item)
			for _, st := range x.Stations {
				p.known(c.index.stations, "station", st, "season "+s.ID)
			}
			if x.Caution != "" {
				p.known(c.index.cautions, "caution", x.Caution, "season "+s.ID)
			}
		}
	}
}
