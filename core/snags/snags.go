// Package snags is all that stands between a job and even: what is merely still to
// come, and what does not add up. What is true of one kind of snag stands in one
// row of kinds.
package snags

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// Of collects all that stands between the job and even, and what the machine is out
// of use for.
func Of(sc *scene.Scene) (all []Snag, out []OutOfUse) {
	all, out = []Snag{}, []OutOfUse{}
	explained := sc.Explained()
	add := func(s Snag) {
		k := kinds[s.Kind]
		if s.Grade == "" {
			s.Grade = k.grade
		}
		s.Regular = s.Regular && k.still != "" && sc.SignedBy == nil // nothing is still to come once it is signed off
		free := s.Grade != StopGrade && (!s.Regular || s.Kind == "energy-off" && scene.AllElseBack(sc))
		if f := explained[s.ID]; f != nil && free {
			s.Explained = &Reason{f.Of.(*record.SnagExplained).Reason, sc.Name(f.By)}
		}
		s.Explain = free && s.Explained == nil
		if s.Touches == nil {
			s.Touches = []view.Touch{}
		}
		all = append(all, s)
	}
	for _, f := range sc.Stops {
		add(Snag{ID: "stopped::" + f.ID, Kind: "stopped", Say: "Stopped: " + f.Of.(*record.Stopped).Why, Do: "Release the stop, and say why work can go on."})
	}
	for _, f := range sc.Told {
		if s, o := outOfUse(sc, f); o != nil {
			add(s)
			out = append(out, *o)
		}
	}
	for _, r := range sc.Raised {
		if !r.Done {
			add(raised(sc, r))
		}
	}
	earthPathSnag(sc, add)
	ticketSnags(sc, add)
	for _, id := range sc.ToComeBack() {
		stillOff(sc, id, add)
	}
	for _, f := range sc.LeftOver {
		b := f.Of.(*record.LeftOver)
		what := strings.TrimSpace(b.Drive + " " + b.Size)
		if what == "" {
			what = "fastener"
		}
		s := Snag{ID: "over-unknown:" + what + ":" + f.ID, Kind: "over-unknown", On: sc.Job.ID, Say: fmt.Sprintf("Left over, and nobody knows from where: %d of %s.", b.Count, what), Do: "Look where one is missing, or say why it may stay out."}
		if b.Where != "" {
			s.Say = strings.TrimSuffix(s.Say, ".") + ", " + b.Where + "."
		}
		add(s)
	}
	for _, t := range sc.Turns {
		if len(t.Outs) > 0 {
			turnSnags(sc, t, add)
		} else if mv := sc.Map.Move(t.Move); mv != nil { // only begun, and one dropped already
			for i := range mv.Fasteners {
				unsettled(sc, t, mv, i, add)
			}
		}
	}
	for _, id := range slices.Sorted(maps.Keys(sc.Checks)) {
		checkSnags(sc, id, sc.Checks[id], add)
	}
	for _, id := range sc.FinalsDue() {
		f := sc.Map.Final(id)
		s := Snag{Kind: "final-due", On: id, Regular: len(sc.Stays) == 0, Say: f.Title, Do: f.Pass}
		if r := sc.Finals[id]; r != nil {
			s.Kind, s.Regular, s.Say = "final-failed", false, f.Title+": it failed."
			s.ID = "final-failed:" + id + ":" + r.ID
			s.Do = "Find out why, fix it, and run it again."
		} else {
			s.ID = "final-due:" + id + ":"
		}
		add(s)
	}
	for _, g := range sc.Goals {
		if g.Open {
			add(Snag{ID: "goal-open:" + g.Goal + ":" + g.AddedBy.ID, Kind: "goal-open", On: g.Goal, Regular: true, Say: sc.Names.Goal(g.Goal), Do: "Fit it, or say why not."})
		}
	}
	insideSnags(sc, add)
	wireSnags(sc, add)
	partSnags(sc, add)
	for i := range sc.Map.Energies {
		e := &sc.Map.Energies[i]
		if level := plan.Levels(sc.Map, sc.Standing, sc.Found)[e.ID]; level.Rank() > 0 && comesBack(sc, e.ID) {
			add(Snag{ID: "energy-off:" + e.ID + ":", Kind: "energy-off", On: e.ID, Regular: true, Say: e.Name + " is off.", Do: "Restore it on the way back."})
		}
	}
	return all, out
}

// comesBack tells whether an energy is there to be restored: what cooled down or
// was drawn off is not.
func comesBack(sc *scene.Scene, id string) bool {
	return slices.ContainsFunc(sc.Map.Moves, func(mv machine.Move) bool { return !mv.OneWay && mv.Takes[id] != "" })
}

// outOfUse is an emergency that was told of on the telephone: nobody uses the
// machine until somebody has looked at that first, with the ticket where it is gas.
func outOfUse(sc *scene.Scene, f *record.Fact) (Snag, *OutOfUse) {
	b := f.Of.(*record.Told)
	s := Snag{ID: "out-of-use:" + b.Emergency + ":" + f.ID, Kind: "out-of-use", On: sc.Job.ID, Event: f.ID, Say: "Out of use. Told by telephone: " + english.Lower(b.Name) + ".", Do: "Look at that first, and record what you find."}
	ticket := ""
	if b.Emergency == "gas" {
		ticket = "gas"
		s.Do = "Somebody with a gas ticket looks at that first, and records what they find."
	}
	if inspected(sc, s.ID, f, ticket) {
		return s, nil
	}
	return s, &OutOfUse{Snag: s.ID, Name: b.Name, Do: s.Do, Told: append([]string{}, b.Say...), By: sc.FullName(f.By)}
}
