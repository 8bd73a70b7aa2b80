package catalogue

// Task is a piece of work as a list to tick: what comes off in the order of the work, what can hurt, what to look at
// afterwards. The yard may change it.
type Task struct {
	ID       string   `json:"id" yaml:"id"`
	Label    string   `json:"label" yaml:"label"`
	Stations []string `json:"stations" yaml:"stations"`
	Families []string `json:"families" yaml:"families"`
	Minutes  float64  `json:"minutes" yaml:"minutes"` // for a practised hand, everything within reach
	Access   []string `json:"access,omitempty" yaml:"access"`
	Isolate  []string `json:"isolate,omitempty" yaml:"isolate"`
	Bring    []string `json:"bring,omitempty" yaml:"bring"` // tools, cloths and vessels, before anything is shut
	Items    []Item   `json:"items" yaml:"items"`
	Cautions []string `json:"cautions,omitempty" yaml:"cautions"`
	Methods  []string `json:"methods,omitempty" yaml:"methods"`
	Steps    []string `json:"steps,omitempty" yaml:"steps"`
	After    []string `json:"after,omitempty" yaml:"after"`             // checks afterwards
	While    []string `json:"while_there,omitempty" yaml:"while_there"` // worth doing while there
	Parts    []string `json:"parts,omitempty" yaml:"parts"`             // usually used up
}

// Item is one thing that comes off: a part, a seal, a hose end, a set of fasteners.
type Item struct {
	ID         string  `json:"id" yaml:"id"`
	Kind       string  `json:"kind" yaml:"kind"` // part, seal, hose, fasteners
	Label      string  `json:"label" yaml:"label"`
	Where      string  `json:"where,omitempty" yaml:"where"`
	Count      int     `json:"count" yaml:"count"`
	Disturbed  bool    `json:"disturbed,omitempty" yaml:"disturbed"`     // off only for access
	Shape      string  `json:"shape,omitempty" yaml:"shape"`             // of fasteners: ring, rectangle
	TorqueNM   float64 `json:"torque_nm,omitempty" yaml:"torque_nm"`     // if the maker gives one
	LeftHand   bool    `json:"left_hand,omitempty" yaml:"left_hand"`     // left-hand thread
	ThreadLock bool    `json:"thread_lock,omitempty" yaml:"thread_lock"` // thread-locked
	Below      bool    `json:"below,omitempty" yaml:"below"`             // of a hose: below the waterline
	Access     string  `json:"access,omitempty" yaml:"access"`           // the access that it opens
	Oil        bool    `json:"oil,omitempty" yaml:"oil"`                 // it opens the oil side
	Note       string  `json:"note,omitempty" yaml:"note"`               // what goes wrong here
}

// Method is a question on which the trade disagrees, with its schools. The yard chooses; a job may choose otherwise.
type Method struct {
	ID      string   `json:"id" yaml:"id"`
	Label   string   `json:"label" yaml:"label"`
	Schools []School `json:"schools" yaml:"schools"`
	Default string   `json:"default" yaml:"default"`
	Why     string   `json:"why" yaml:"why"`
}

// School is one way of doing it.
type School struct {
	ID    string `json:"id" yaml:"id"`
	Label string `json:"label" yaml:"label"`
}

// Task finds a task of the catalogue.
func (c *Catalogue) Task(id string) (Task, bool) {
	for _, t := range c.Tasks {
		if t.ID == id {
			return t, true
		}
	}
	return Task{}, false
}

// Method finds a question of method.
func (c *Catalogue) Method(id string) (Method, bool) {
	for _, m := range c.Methods {
		if m.ID == id {
			return m, true
		}
	}
	return Method{}, false
}

// School finds a school of a method.
func (m Method) School(id string) (School, bool) {
	for _, s := range m.Schools {
		if s.ID == id {
			return s, true
		}
	}
	return School{}, false
}
