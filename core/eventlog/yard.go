package eventlog

import (
	"errors"
	"maps"
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
	"hevrin/core/teardown"
	"hevrin/core/validation"
	"hevrin/core/wetwork"
)

// YardMethods is what a yard goes by: its tasks, and the school that it follows in each question.
type YardMethods struct {
	Tasks    []catalogue.Task
	Own      map[string]bool // tasks that the yard changed or made
	Schools  map[string]string
	Products []wetwork.Product // descalers: acids as they are sold, and the yard's own
	// Figures are what it goes by in place of the catalogue, FiguresFrom who chose them, by what they are of.
	Figures     diagnosis.Yard
	FiguresFrom map[string]Source
	Last        string // the entry up to which it goes, or NothingSeen
}

// FoldYard is the catalogue's tasks and defaults with what the yard's standing entries change.
func FoldYard(c *catalogue.Catalogue, entries []Entry) YardMethods {
	b := YardMethods{Tasks: slices.Clone(c.Tasks), Own: map[string]bool{}, Schools: map[string]string{},
		Products: slices.Clone(wetwork.Products), FiguresFrom: map[string]Source{}, Last: NothingSeen}
	if len(entries) > 0 {
		b.Last = entries[len(entries)-1].ID
	}
	for _, m := range c.Methods {
		b.Schools[m.ID] = m.Default
	}
	for _, e := range Standing(entries) {
		if m := e.Body.Method; m != nil {
			b.Schools[m.Question] = m.School
		}
		if p := e.Body.Product; p != nil {
			b.Products = slices.DeleteFunc(b.Products, func(x wetwork.Product) bool { return x.ID == p.Product.ID })
			if !p.Gone {
				b.Products = append(b.Products, p.Product)
			}
		}
		if t := e.Body.Task; t != nil {
			b.task(c, *t)
		}
		if f := e.Body.Figures; f != nil {
			b.figures(c, *f, e.Source())
		}
	}
	return b
}

var figuresNames = map[string]string{FiguresRates: "Base rates", FiguresMinutes: "Minutes",
	FiguresComeback: "What a comeback costs"}

// figures takes figures in; what this catalogue does not know any more is left out.
func (b *YardMethods) figures(c *catalogue.Catalogue, f Figures, from Source) {
	y := f.yard()
	if b.FiguresFrom[f.What] = from; len(f.Values) == 0 && f.Comeback == 0 {
		delete(b.FiguresFrom, f.What)
	}
	switch f.What {
	case FiguresRates:
		maps.DeleteFunc(y.Rates, func(id string, _ float64) bool { _, ok := c.Fault(id); return !ok })
		b.Figures.Rates = y.Rates
	case FiguresMinutes:
		maps.DeleteFunc(y.Minutes, func(id string, _ float64) bool {
			_, check := c.Check(id)
			_, access := c.AccessTo(id)
			return !check && !access
		})
		b.Figures.Minutes = y.Minutes
	case FiguresComeback:
		b.Figures.Comeback = y.Comeback
	}
}

// yard is what of a yard's figures these are.
func (f Figures) yard() (y diagnosis.Yard) {
	switch f.What {
	case FiguresRates:
		y.Rates = maps.Clone(f.Values)
	case FiguresMinutes:
		y.Minutes = maps.Clone(f.Values)
	case FiguresComeback:
		y.Comeback = f.Comeback
	}
	return y
}

func (b *YardMethods) task(c *catalogue.Catalogue, t TaskOf) {
	at := slices.IndexFunc(b.Tasks, func(x catalogue.Task) bool { return x.ID == t.Task.ID })
	shipped, ships := c.Task(t.Task.ID)
	switch {
	case t.Gone && ships && at >= 0:
		b.Tasks[at] = shipped
		delete(b.Own, t.Task.ID)
	case t.Gone && at >= 0:
		b.Tasks = slices.Delete(b.Tasks, at, at+1)
		delete(b.Own, t.Task.ID)
	case t.Gone:
	case at >= 0:
		b.Tasks[at] = t.Task
		b.Own[t.Task.ID] = true
	default:
		b.Tasks = append(b.Tasks, t.Task)
		b.Own[t.Task.ID] = true
	}
}

// CheckYardEntry says what does not fit in an entry of the yard's.
func CheckYardEntry(c *catalogue.Catalogue, e Entry) error {
	var wrong validation.Errors
	switch {
	case e.Kind == Chosen && e.Body.Method != nil:
		m, ok := c.Method(e.Body.Method.Question)
		if _, school := m.School(e.Body.Method.School); !ok || !school {
			wrong.Add("method.school", e.Body.Method.School, "a school of the question", "there is no such way of doing it")
		}
	case e.Kind == FiguresSet && e.Body.Figures != nil:
		f := *e.Body.Figures
		if _, ok := figuresNames[f.What]; !ok {
			wrong.Add("figures.what", f.What, "rates, minutes, comeback", "say what the figures are of")
		}
		var slips validation.Errors
		if errors.As(f.yard().Check(c), &slips) {
			wrong = append(wrong, slips...)
		}
	case e.Kind == Stocked && e.Body.Product != nil:
		name(&wrong, "product.label", e.Body.Product.Product.Label)
		var slips validation.Errors
		if errors.As(e.Body.Product.Product.Check(), &slips) {
			wrong = append(wrong, slips...)
		}
	case e.Kind == TaskSaved && e.Body.Task != nil:
		t := e.Body.Task.Task
		if !e.Body.Task.Gone {
			name(&wrong, "task.label", t.Label)
			checkTask(&wrong, t)
		}
	default:
		wrong.Add("kind", e.Kind, "task with a task, method with a method, product with a product, figures with figures",
			"the yard keeps no such entry")
	}
	return wrong.Err()
}

func checkTask(wrong *validation.Errors, t catalogue.Task) {
	err := teardown.Act{Do: teardown.Begin, Task: &t}.Check()
	var slips validation.Errors
	if errors.As(err, &slips) {
		*wrong = append(*wrong, slips...)
	}
	if t.ID == "" || len(t.Items) == 0 {
		wrong.Add("task.items", len(t.Items), "1 item or more, and an id", "a task has a list of what comes off")
	}
}
