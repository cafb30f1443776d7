// Package scene is one look at a job: what is known of it, how the machine stands,
// what is still to come, and which step is on. It is made once for each look and
// only read afterwards; every room of a screen is a function of it.
package scene

import (
	"strings"
	"time"

	"evensteps/core/lead"
	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/plan"
	"evensteps/core/record"
	"evensteps/core/tray"
)

// Scene is one look at a job. What it holds is made in the order in which it stands
// here: each thing may hang on those above it, never on one below.
type Scene struct {
	*record.State
	Base   *machine.Map // the map without the job's own rungs
	Job    Job
	Viewer Viewer
	Now    time.Time

	Names named.Names
	Level map[string]machine.Level // of items and energies; fitted and live where nothing is said
	Stays []string                 // moves that shut off what stays off on purpose
	Rest  []string                 // goals that are open and can be planned

	Avoid  []string     // moves that the way was chosen without, as long as there is one
	Plan   *plan.Plan   // what is still to come; nil where there is none
	NoPlan *plan.NoPlan // why
	Next   []plan.Step  // what can come back now

	Order   []string             // moves made and planned, the ladder's rows
	Trays   []Tray               // what lies in them
	Bags    []tray.Bag           // lots for which no tray is left
	Letters map[string]string    // lot -> tray
	Cards   map[string]lead.Card // connector -> how its leads are kept apart
	Tags    map[string]int       // lead -> the number of its tag

	On       On       // the step that is on
	Possible []string // what may be done instead

	plans *Plans
}

// Short names a fact in a few words.
func (sc *Scene) Short(f *record.Fact) string { return record.Says(f, sc.Names) }

// On is the step that is on.
type On struct {
	// Kind: survey, find, own, out, work, test, back, check, final, sign-off, signed, called-off, stopped, stuck.
	Kind string `json:"kind"`
	Move string `json:"move,omitempty"`
	Side string `json:"side,omitempty"`
	Goal string `json:"goal,omitempty"`
	Say  string `json:"say,omitempty"`
}

// Photo is what a photo that is taken now hangs on: the rung that is on, or what
// the goal names.
func (o *On) Photo() string {
	if o.Move != "" {
		return o.Move
	}
	_, id, _ := strings.Cut(o.Goal, ":")
	id, _, _ = strings.Cut(id, "=")
	return id
}

// Tray is one tray on the bench.
type Tray struct {
	Tray   string  `json:"tray"`
	Kind   string  `json:"kind"` // what lies in it, or is to come into it
	Noun   string  `json:"noun"`
	Holds  int     `json:"holds"`   // lies in it now
	ToCome int     `json:"to_come"` // comes into it at this rung
	GoHome int     `json:"go_home"` // leaves it at this rung
	From   string  `json:"from"`
	Lit    bool    `json:"lit"`
	Lots   []LotIn `json:"lots"`
}

// LotIn is a lot that lies in a tray.
type LotIn struct {
	Lot   string `json:"lot"`
	Count int    `json:"count"`
	Home  string `json:"home"` // the rung where it goes home
}

// Plans keeps the plans that were made, so that a touch seldom costs one.
type Plans struct{ made map[string]*madePlan }

type madePlan struct {
	plan *plan.Plan
	err  *plan.NoPlan
	next []plan.Step
}
