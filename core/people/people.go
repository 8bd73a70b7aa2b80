// Package people says who may do what in a yard, what a good passphrase is, and how long somebody waits who guessed
// wrong. It knows no accounts, sessions or clocks.
package people

import (
	"slices"
	"strconv"
	"strings"

	"hevrin/core/units"
	"hevrin/core/validation"
)

// Role is what somebody does in the yard.
type Role string

// The roles.
const (
	Manager    Role = "manager"
	Technician Role = "technician"
	Assistant  Role = "assistant"
	Office     Role = "office"
)

// Right is something that not everybody may do.
type Right string

// The rights.
const (
	Read    Right = "read"    // craft, engines, jobs, what is due, parts, reports, the handbook, the calculators
	Work    Right = "work"    // open jobs and note in them; gateways, recordings, baselines
	Plan    Right = "plan"    // hours, and maintenance done or postponed
	Facts   Right = "facts"   // what a craft or an engine is
	Stock   Right = "stock"   // count, order and receive parts
	Hand    Right = "hand"    // hand out papers, files and links of the owner's
	Sign    Right = "sign"    // sign a proving run; start or end with something standing in the way
	Correct Right = "correct" // take back what somebody else noted
	Methods Right = "methods" // tasks and methods of the yard
	Keep    Right = "keep"    // backups, lists and jobs brought in, going back to a backup
	Lead    Right = "lead"    // people, their devices, the audit log
)

// Description is what a role is called and does, in words.
type Description struct {
	Role   Role
	Label  string
	Does   string
	Rights []Right
}

// Roles lists the roles with their rights: the one table by which everything goes.
var Roles = []Description{
	{Manager, "Manager", "Everything: people, the record, work and papers",
		[]Right{Read, Work, Plan, Facts, Stock, Hand, Sign, Correct, Methods, Keep, Lead}},
	{Technician, "Technician", "Works, signs, orders parts, hands out reports",
		[]Right{Read, Work, Plan, Facts, Stock, Hand, Sign, Correct, Methods}},
	{Assistant, "Assistant", "Works and takes parts; does not sign a run or pass anything over",
		[]Right{Read, Work, Plan, Facts, Stock}},
	{Office, "Office", "What is due, parts, craft, reports; reads jobs", []Right{Read, Plan, Facts, Stock, Hand}},
}

// describe finds a role; not ok where there is none.
func describe(r Role) (Description, bool) {
	at := slices.IndexFunc(Roles, func(d Description) bool { return d.Role == r })
	if at < 0 {
		return Description{}, false
	}
	return Roles[at], true
}

// May says whether a role has a right.
func (r Role) May(x Right) bool {
	d, _ := describe(r)
	return slices.Contains(d.Rights, x)
}

// Rights lists what a role may do.
func (r Role) Rights() []Right {
	d, _ := describe(r)
	return slices.Clone(d.Rights)
}

// Label is what a role is called; itself where there is none.
func (r Role) Label() string {
	if d, ok := describe(r); ok {
		return d.Label
	}
	return string(r)
}

// Person is somebody of the yard. Off: they work here no more; what they noted stays. Was lists names under which
// earlier entries stand that are theirs.
type Person struct {
	ID   string   `json:"id"`
	Name string   `json:"name"`
	Role Role     `json:"role"`
	Off  bool     `json:"off,omitempty"`
	Was  []string `json:"was,omitempty"`
}

const mostName = 80

// Check says what does not fit in a person, among the others there are.
func (p Person) Check(others []Person) error {
	var wrong validation.Errors
	if n := len([]rune(strings.TrimSpace(p.Name))); n == 0 || n > mostName {
		wrong.Add("name", p.Name, units.Say("1 to %d letters", mostName), "give the name that stands beside what is noted")
	} else if !validation.IsName(p.Name) {
		wrong.Add("name", strconv.QuoteToASCII(p.Name), "letters that are seen, on one line",
			"type the name anew: there are signs in it that nobody sees")
	}
	if _, ok := describe(p.Role); !ok {
		wrong.Add("role", p.Role, "manager, technician, assistant, office", "say what they do in the yard")
	}
	for _, x := range others {
		if x.ID != p.ID && Same(x.Name, p.Name) {
			wrong.Add("name", p.Name, "a name that nobody else has", "%s is somebody else's name already: add a letter", x.Name)
			break
		}
	}
	return wrong.Err()
}

// Same says whether two names are one, as people write them: neither case nor blanks count.
func Same(a, b string) bool {
	squeeze := func(s string) string { return strings.ToLower(strings.Join(strings.Fields(s), " ")) }
	return squeeze(a) == squeeze(b)
}

// LastManager says whether nobody else could lead the yard any more if a person became what is given.
func LastManager(all []Person, to Person) bool {
	if to.Role == Manager && !to.Off {
		return false
	}
	was, others := false, false
	for _, p := range all {
		leads := p.Role == Manager && !p.Off
		was = was || leads && p.ID == to.ID
		others = others || leads && p.ID != to.ID
	}
	return was && !others
}
