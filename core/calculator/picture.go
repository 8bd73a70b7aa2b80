package calculator

// Picture is a drawing of an answer, in the units of the calculator; who draws it turns it into the person's own.
type Picture struct {
	Title  string
	X, Y   Axis
	Lines  []Line
	Bands  []Band
	Limits []Limit
	Marks  []Mark
	Bars   []Bar // instead of lines
}

// Axis is one side of a picture.
type Axis struct{ Label, Unit string }

// Role says what a line, band, limit or mark stands for, so that it can be drawn alike everywhere.
type Role string

// The roles.
const (
	HotSide  Role = "hot"
	ColdSide Role = "cold"
	Plain    Role = "plain"
	Should   Role = "should"
	Warn     Role = "warn"
	Stop     Role = "stop"
	Here     Role = "here"
)

// Line is a run of points.
type Line struct {
	Label string
	Role  Role
	X, Y  []float64
	Dots  bool // the points were measured
}

// Band is a stretch of an axis.
type Band struct {
	Label    string
	Role     Role
	Across   string // "x" or "y": the axis that From and To are on
	From, To float64
}

// Limit is a value on an axis.
type Limit struct {
	Label  string
	Role   Role
	Across string
	At     float64
}

// Mark is a point with a name.
type Mark struct {
	Label string
	X, Y  float64
}

// Bar is one bar of a comparison.
type Bar struct {
	Label string
	Value float64
	Best  bool
}

// sampled is a line drawn through n+1 values of a function; the function says whether it has a value there.
func sampled(label string, role Role, from, to float64, n int, f func(float64) (float64, bool)) Line {
	l := Line{Label: label, Role: role}
	for i := range n + 1 {
		x := from + (to-from)*float64(i)/float64(n)
		if y, ok := f(x); ok {
			l.X, l.Y = append(l.X, x), append(l.Y, y)
		}
	}
	return l
}
