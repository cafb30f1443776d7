package journey

import (
	"fmt"
	"math"
	"slices"

	"evensteps/core/english"
	"evensteps/core/plan"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
	"evensteps/core/worth"
)

func StepMinutes(sc *scene.Scene, s plan.Step) float64 {
	switch {
	case s.Check != "":
		return sc.Map.Check(s.Check).Minutes
	case s.By != "":
		return sc.Map.Move(s.By).Minutes.Back
	}
	return sc.Map.Move(s.Undo).Minutes.Back
}

// WayIn is one way in and back.
type WayIn struct {
	Title  string      `json:"title"`
	Says   string      `json:"says"`
	P50    float64     `json:"p50"`
	P80    float64     `json:"p80"`
	Rungs  int         `json:"rungs"`
	People int         `json:"people"`
	Accept *view.Touch `json:"accept"` // takes this way; none of the one that is planned
}

// Mending are the open goals that mend something.
func Mending(sc *scene.Scene) (goals []string) {
	for _, g := range sc.Rest {
		if t, err := plan.Reads(sc.Map, g); err == nil && t.ByMove {
			goals = append(goals, g)
		}
	}
	return goals
}

// Ways are the best way in and the others, each with what it takes.
func Ways(sc *scene.Scene, p *plan.Plan, goals []string) []WayIn {
	says := func(people, blind, rungs int) string {
		say := english.Count(rungs, "step") + ", alone"
		if people > 1 {
			say = english.Count(rungs, "step") + ", two people"
		}
		if blind > 0 {
			return say + fmt.Sprintf(", %d by feel", blind)
		}
		return say + ", nothing by feel"
	}
	blind := 0
	for _, id := range p.WayIn {
		if sc.Map.Move(id).Blind {
			blind++
		}
	}
	r := sc.Request()
	r.Goals = goals
	others := plan.OtherWays(sc.Whole, r, p)
	p50, p80 := Band(sc, p)
	out := []WayIn{{Title: bestTitle(sc, p, others), Says: says(p.People, blind, len(p.WayIn)), P50: p50, P80: p80, Rungs: len(p.WayIn), People: p.People}}
	if len(sc.Avoid) > 0 {
		out[0].Accept = new(view.Button("The shortest again", "whatever it is", view.Made("way.chosen", record.WayChosen{Without: []string{}})))
	}
	for _, w := range others {
		p50, p80 := bandOf(sc, w.WayIn, w.WayBack, w.Minutes.TurnsAndToolsIn+w.Minutes.TurnsAndToolsBack)
		accept := takeWay(sc, r, p, w.WayIn)
		out = append(out, WayIn{Accept: accept, Title: wayTitle(sc, w.Differs), Says: says(w.People, len(w.Blind), len(w.WayIn)), P50: p50, P80: p80, Rungs: len(w.WayIn), People: w.People})
	}
	return out
}

// takeWay is the touch that takes another way: whatever the planner would rather do
// is left out, until it does this. nil where it never does.
func takeWay(sc *scene.Scene, r plan.Request, best *plan.Plan, way []string) *view.Touch {
	without := slices.Clone(sc.Avoid)
	for p := best; p != nil; {
		more := slices.DeleteFunc(slices.Clone(p.WayIn), func(id string) bool { return slices.Contains(way, id) })
		if len(more) == 0 {
			if len(p.WayIn) != len(way) {
				return nil
			}
			return new(view.Button("Go this way", "the steps follow it", view.Made("way.chosen", record.WayChosen{Without: without})))
		}
		without = append(without, more...)
		r.BarredOut = append(slices.Clone(r.BarredOut), more...)
		p = sc.PlanFor(r)
	}
	return nil
}

// bestTitle names the best way by what it does that the next does not; where there
// is no other, by how far it goes.
func bestTitle(sc *scene.Scene, best *plan.Plan, others []plan.Way) string {
	switch {
	case len(best.WayIn) == 0:
		return "Nothing to open"
	case len(others) == 0:
		return "The only way in"
	}
	own := slices.DeleteFunc(slices.Clone(best.WayIn), func(id string) bool { return slices.Contains(others[0].WayIn, id) })
	if len(own) == 0 {
		return "The shortest way"
	}
	return wayTitle(sc, own)
}

// wayTitle names a way by what it does that another does not.
func wayTitle(sc *scene.Scene, differs []string) string {
	var names []string
	for _, id := range differs {
		name := english.Lower(sc.Names.Move(id))
		if sc.Map.Move(id).Blind {
			name += ", by feel"
		}
		names = append(names, name)
	}
	if len(names) == 0 {
		return "Another order"
	}
	return english.Upper(english.And(names[:min(2, len(names))]))
}

// Helped says for which stretch somebody else must be there: from the first
// step that takes two to the last.
func Helped(sc *scene.Scene, p *plan.Plan) []string {
	type step struct {
		name    string
		minutes float64
		people  int
	}
	var steps []step
	for _, id := range p.WayIn {
		mv := sc.Map.Move(id)
		steps = append(steps, step{mv.Name(), mv.Minutes.Out, max(mv.People, sc.Map.Poses[mv.Pose].People)})
	}
	for _, s := range p.WayBack {
		if s.Undo != "" {
			mv := sc.Map.Move(s.Undo)
			people := mv.People
			if mv.Back != nil && mv.Back.People != nil {
				people = *mv.Back.People
			}
			steps = append(steps, step{mv.Name() + " back", StepMinutes(sc, s), max(people, sc.Map.Poses[mv.Pose].People)})
		}
	}
	first := slices.IndexFunc(steps, func(s step) bool { return s.people > 1 })
	if first < 0 {
		return []string{}
	}
	last, sum := first, 0.0
	for k := first; k < len(steps); k++ {
		if steps[k].people > 1 {
			last = k
		}
	}
	for _, s := range steps[first : last+1] {
		sum += s.minutes
	}
	return []string{fmt.Sprintf("Two people from “%s” to “%s”, about %.0f min.", english.Lower(steps[first].name), english.Lower(steps[last].name), math.Ceil(sum))}
}

// PlanTo is the plan from the present state to these goals and back; nil where
// there is none.
func PlanTo(sc *scene.Scene, goals []string) *plan.Plan {
	r := sc.Request()
	r.Goals = goals
	return sc.PlanFor(r)
}

// Band is how long a plan takes, with other work of so many minutes in it: the
// median and the 80th percentile.
func Band(sc *scene.Scene, p *plan.Plan, work ...float64) (p50, p80 float64) {
	return bandOf(sc, p.WayIn, p.WayBack, p.Minutes.TurnsAndToolsIn+p.Minutes.TurnsAndToolsBack, work...)
}

func bandOf(sc *scene.Scene, in []string, back []plan.Step, certain float64, work ...float64) (p50, p80 float64) {
	steps := slices.Clone(work)
	for _, id := range in {
		steps = append(steps, sc.Map.Move(id).Minutes.Out)
	}
	for _, s := range back {
		steps = append(steps, StepMinutes(sc, s))
	}
	return worth.Band(steps, certain)
}
