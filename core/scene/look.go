package scene

import (
	"time"

	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/record"
)

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
