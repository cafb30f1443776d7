package machine

import (
	"slices"
)

// Moves, checks and finals: what is done to a machine.

// Minutes is how long a move takes each way.
type Minutes struct {
	Out  float64 `json:"out" yaml:"out"`
	Back float64 `json:"back" yaml:"back"`
}

// Hazard is a word of the format, and a sentence where the map has one.
type Hazard struct {
	Kind string `json:"kind" yaml:"kind"`
	Say  string `json:"say,omitempty" yaml:"say"`
}

// UnmarshalYAML takes a word or {kind, say}.
func (h *Hazard) UnmarshalYAML(unmarshal func(any) error) error {
	if unmarshal(&h.Kind) == nil {
		return nil
	}
	type plain Hazard
	return unmarshal((*plain)(h))
}

// Lot is the fasteners of one kind that one move undoes.
type Lot struct {
	Kind      string      `json:"kind" yaml:"kind"`
	Count     int         `json:"count" yaml:"count"`
	At        [][]float64 `json:"at,omitempty" yaml:"at"`
	Loosen    bool        `json:"loosen,omitempty" yaml:"loosen"`
	Hidden    bool        `json:"hidden,omitempty" yaml:"hidden"`
	DropsInto string      `json:"drops_into,omitempty" yaml:"drops_into"`
	Renew     string      `json:"renew,omitempty" yaml:"renew"`
}

// Temporary is a thing put in for the work that must come out again.
type Temporary struct {
	ID        string   `json:"id" yaml:"id"`
	Name      string   `json:"name" yaml:"name"`
	OutBefore []string `json:"out_before,omitempty" yaml:"out_before"`
	Stays     string   `json:"stays,omitempty" yaml:"stays"`
	Cut       *Cut     `json:"cut,omitempty" yaml:"cut"`
}

// Cut says how long a temporary is cut: a recorded length plus an allowance.
type Cut struct {
	From string `json:"from" yaml:"from"`
	Add  string `json:"add" yaml:"add"`
}

// Record is what is measured as a thing comes off.
type Record struct {
	ID       string `json:"id" yaml:"id"`
	Ask      string `json:"ask" yaml:"ask"`
	Quantity string `json:"quantity" yaml:"quantity"`
}

// LeavesLoose is what is no longer held while a move stands.
type LeavesLoose struct {
	Say    string   `json:"say" yaml:"say"`
	Unless []string `json:"unless,omitempty" yaml:"unless"`
}

// Confirm is what must be true before a refit counts as done: a sentence to
// tick, a value compared with a record, or a reading judged like a test.
type Confirm struct {
	Say    string  `json:"say" yaml:"say"`
	SameAs string  `json:"same_as,omitempty" yaml:"same_as"`
	Within string  `json:"within,omitempty" yaml:"within"`
	Expect *Expect `json:"expect,omitempty" yaml:"expect"`
}

// UnmarshalYAML takes a sentence or {say, same_as, within, expect}.
func (c *Confirm) UnmarshalYAML(unmarshal func(any) error) error {
	if unmarshal(&c.Say) == nil {
		return nil
	}
	type plain Confirm
	return unmarshal((*plain)(c))
}

// What one does while one is there: look, and what is done on the way back, when
// it is about to be closed in again.
const (
	Look   = "look"
	Clean  = "clean"
	Oil    = "oil"
	Grease = "grease"
	Renew  = "renew"
)

// Cares are the words of Inspect.Do.
var Cares = []string{Look, Clean, Oil, Grease, Renew}

// Inspect is something to look at, clean, oil, grease or renew while one is there.
type Inspect struct {
	Say   string `json:"say" yaml:"say"`
	Fault string `json:"fault,omitempty" yaml:"fault"` // what it speaks for where it is so
	Do    string `json:"do,omitempty" yaml:"do"`       // one of Cares; look where nothing is said
	With  string `json:"with,omitempty" yaml:"with"`   // what and how much: "bearing grease, a smear"
}

// Looks tells whether there is something to see, which may be so or not; all else
// is done or left.
func (i Inspect) Looks() bool { return i.Do == "" || i.Do == Look }

// Turn is a direction that matters, as seen from somewhere, and what for.
type Turn struct {
	What     string `json:"what" yaml:"what"`
	Way      string `json:"way" yaml:"way"`
	SeenFrom string `json:"seen_from" yaml:"seen_from"`
	Why      string `json:"why,omitempty" yaml:"why"`
}

// School is one of several ways that practitioners hold to, with its reason. The
// first of a list is the company's own.
type School struct {
	Say string `json:"say" yaml:"say"`
	Why string `json:"why" yaml:"why"`
}

// Back is how a refit differs from its move. A pointer that is present
// replaces the move's own, also when it is empty.
type Back struct {
	Title  string    `json:"title,omitempty" yaml:"title"`
	Do     []string  `json:"do,omitempty" yaml:"do"`
	Needs  *Needs    `json:"needs,omitempty" yaml:"needs"`
	Face   *string   `json:"face,omitempty" yaml:"face"`
	Pose   *string   `json:"pose,omitempty" yaml:"pose"`
	Tools  *[]string `json:"tools,omitempty" yaml:"tools"`
	People *int      `json:"people,omitempty" yaml:"people"`
	// Ticket is needed for the refit besides the move's own.
	Ticket  string    `json:"ticket,omitempty" yaml:"ticket"`
	Hazards *[]Hazard `json:"hazards,omitempty" yaml:"hazards"`
	Or      []string  `json:"or,omitempty" yaml:"or"`
	Confirm []Confirm `json:"confirm,omitempty" yaml:"confirm"`
	After   []string  `json:"after,omitempty" yaml:"after"`
	Turn    *Turn     `json:"turn,omitempty" yaml:"turn"`
	Schools []School  `json:"schools,omitempty" yaml:"schools"`
}

// Move is one thing a technician does on the way in, with its undoing.
type Move struct {
	ID          string           `json:"id" yaml:"id"`
	Title       string           `json:"title" yaml:"title"`
	Short       string           `json:"short,omitempty" yaml:"short"`
	Takes       map[string]Level `json:"takes" yaml:"takes"`
	Needs       Needs            `json:"needs,omitempty" yaml:"needs"`
	LiveOK      []string         `json:"live_ok,omitempty" yaml:"live_ok"`
	When        When             `json:"when,omitempty" yaml:"when"`
	OneWay      bool             `json:"one_way,omitempty" yaml:"one_way"`
	People      int              `json:"people,omitempty" yaml:"people"`
	Ticket      string           `json:"ticket,omitempty" yaml:"ticket"`
	Face        string           `json:"face" yaml:"face"`
	Pose        string           `json:"pose,omitempty" yaml:"pose"`
	Tools       []string         `json:"tools,omitempty" yaml:"tools"`
	PPE         []string         `json:"ppe,omitempty" yaml:"ppe"`
	Minutes     Minutes          `json:"minutes" yaml:"minutes"`
	Lay         string           `json:"lay,omitempty" yaml:"lay"`
	LeavesLoose *LeavesLoose     `json:"leaves_loose,omitempty" yaml:"leaves_loose"`
	// Proof are the ways in which a move proves an energy off, the best first;
	// ProveAt where its instrument goes.
	Proof   Values `json:"proof,omitempty" yaml:"proof"`
	ProveAt string `json:"prove_at,omitempty" yaml:"prove_at"`
	// WhileLive are energies that must still be live as this move is made, where
	// the first way of proving needs them (the flame before the isolator).
	WhileLive []string `json:"while_live,omitempty" yaml:"while_live"`
	// Aware says why the order of energies on the way back is right all the same.
	Aware        string      `json:"aware,omitempty" yaml:"aware"`
	MeasureFirst string      `json:"measure_first,omitempty" yaml:"measure_first"`
	PutsIn       []Temporary `json:"puts_in,omitempty" yaml:"puts_in"`
	Record       []Record    `json:"record,omitempty" yaml:"record"`
	Fasteners    []Lot       `json:"fasteners,omitempty" yaml:"fasteners"`
	Hazards      []Hazard    `json:"hazards,omitempty" yaml:"hazards"`
	Blind        bool        `json:"blind,omitempty" yaml:"blind"`
	Consumes     []string    `json:"consumes,omitempty" yaml:"consumes"`
	Do           []string    `json:"do,omitempty" yaml:"do"`
	Back         *Back       `json:"back,omitempty" yaml:"back"`
	Inspect      []Inspect   `json:"inspect,omitempty" yaml:"inspect"`
	Turn         *Turn       `json:"turn,omitempty" yaml:"turn"`
	Schools      []School    `json:"schools,omitempty" yaml:"schools"`
}

// Name is what the ladder and Done call the move.
func (m *Move) Name() string {
	if m.Short != "" {
		return m.Short
	}
	return m.Title
}

// BackTicket is the ticket that the refit needs.
func (m *Move) BackTicket() string {
	if m.Ticket == "" && m.Back != nil {
		return m.Back.Ticket
	}
	return m.Ticket
}

// Task is what checks, finals and tests have in common: where and with what
// something is tried, and how it is judged.
type Task struct {
	ID      string           `json:"id" yaml:"id"`
	Title   string           `json:"title" yaml:"title"`
	When    When             `json:"when,omitempty" yaml:"when"`
	Energy  map[string]Level `json:"energy,omitempty" yaml:"energy"`
	Needs   Needs            `json:"needs,omitempty" yaml:"needs"`
	LiveOK  []string         `json:"live_ok,omitempty" yaml:"live_ok"`
	Hold    []string         `json:"hold,omitempty" yaml:"hold"`
	Face    string           `json:"face,omitempty" yaml:"face"`
	Pose    string           `json:"pose,omitempty" yaml:"pose"`
	Tools   []string         `json:"tools,omitempty" yaml:"tools"`
	Ticket  string           `json:"ticket,omitempty" yaml:"ticket"`
	People  int              `json:"people,omitempty" yaml:"people"`
	Hazards []Hazard         `json:"hazards,omitempty" yaml:"hazards"`
	PPE     []string         `json:"ppe,omitempty" yaml:"ppe"`
	Minutes float64          `json:"minutes" yaml:"minutes"`
	Do      []string         `json:"do,omitempty" yaml:"do"`
	Measure *Measure         `json:"measure,omitempty" yaml:"measure"`
	Expect  *Expect          `json:"expect,omitempty" yaml:"expect"`
}

// Check is something to prove on the way back, between two refits.
type Check struct {
	Task   `yaml:",inline"`
	For    []string `json:"for,omitempty" yaml:"for"`
	After  []string `json:"after,omitempty" yaml:"after"`
	Before []string `json:"before,omitempty" yaml:"before"`
	Pass   string   `json:"pass,omitempty" yaml:"pass"`
	Proves []string `json:"proves,omitempty" yaml:"proves"`
	Aware  string   `json:"aware,omitempty" yaml:"aware"`
}

// Final is something to prove with the machine closed and running.
type Final struct {
	Task   `yaml:",inline"`
	Pass   string   `json:"pass,omitempty" yaml:"pass"`
	Proves []string `json:"proves,omitempty" yaml:"proves"`
}

// Concerns tells whether a final belongs to the proof of a complaint: it names
// that one, or none at all.
func (f *Final) Concerns(complaint string) bool {
	return len(f.Proves) == 0 || slices.Contains(f.Proves, complaint)
}
