// Package scene is one look at a job: what is known of it, how the machine stands,
// what is still to come, and which step is on. It is made once for each look and
// only read afterwards; every room of a screen is a function of it.
package scene

import (
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

// Look makes the scene of a job from its state: m is its map without its own
// rungs, plans those that were made before.
func Look(m *machine.Map, job Job, state *record.State, plans *Plans, viewer Viewer, now time.Time) *Scene {
	sc := &Scene{State: state, Base: m, Job: job, Viewer: viewer, Now: now, plans: plans}
	sc.Names = named.Names{Map: sc.Map, Whole: sc.Whole, Person: sc.FullName}
	sc.Level = sc.Levels()
	sc.Stays = leftOff(sc)
	sc.Rest = planned(sc)
	sc.Avoid = sc.Without
	sc.Plan, sc.NoPlan, sc.Next = toCome(sc)
	if sc.NoPlan != nil && len(sc.Avoid) > 0 { // what was chosen leads nowhere by now
		sc.Avoid = nil
		sc.Plan, sc.NoPlan, sc.Next = toCome(sc)
	}
	sc.Order = rows(sc)
	sc.Trays, sc.Bags, sc.Letters = arrange(sc)
	sc.Cards, sc.Tags = cards(sc)
	sc.On, sc.Possible = current(sc)
	return sc
}

// Short names a fact in a few words.
func (sc *Scene) Short(f *record.Fact) string { return record.Says(f, sc.Names) }
