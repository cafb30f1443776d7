package scene

import (
	"encoding/json"
	"maps"
	"slices"

	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/record"
)

// withoutSetLive are the moves that stand, less those that shut off what was set
// live since.
func withoutSetLive(sc *Scene) []string {
	if len(sc.SetLive) == 0 {
		return sc.Standing
	}
	return slices.DeleteFunc(slices.Clone(sc.Standing), func(id string) bool {
		mv := sc.Map.Move(id)
		return mv != nil && slices.ContainsFunc(slices.Sorted(maps.Keys(mv.Takes)), func(e string) bool { return sc.SetLive[e] != nil })
	})
}

// forFinal is what the finals still due ask to be off, where none of them counts
// as the machine stands.
func forFinal(sc *Scene) []string {
	due := FinalsToRun(sc)
	if len(due) == 0 || FinalReady(sc) != nil {
		return nil
	}
	var goals []string
	f := sc.Map.Final(due[0])
	for _, id := range slices.Sorted(maps.Keys(f.Energy)) {
		if level := f.Energy[id]; level.Rank() > max(sc.Level[id].Rank(), 0) && sc.Map.Energy(id) != nil {
			goals = append(goals, "item:"+id+"="+string(level))
		}
	}
	return goals
}

// FinalReady is the first final that is due and counts as the machine stands.
func FinalReady(sc *Scene) *machine.Final {
	for _, id := range FinalsToRun(sc) {
		if f := sc.Map.Final(id); sc.Ready(f) == "" {
			return f
		}
	}
	return nil
}

// FinalsToRun are the finals that are due, less those of which somebody has said
// why they cannot be run.
func FinalsToRun(sc *Scene) []string {
	explained := sc.Explained()
	return slices.DeleteFunc(sc.FinalsDue(), func(id string) bool { return explained["final-due:"+id+":"] != nil })
}

// Request asks for a plan from the present state, its goals left open.
func (sc *Scene) Request() plan.Request {
	r := plan.Request{
		Answers: sc.Answers, Standing: sc.Standing, Found: sc.Found, People: People(sc), At: sc.At, Returning: sc.Returning, Due: map[string]bool{},
	}
	for id, st := range sc.Checks {
		r.Due[id] = len(st.Since) > 0
		for _, m := range st.Lost { // the check has lost its place: open that again
			if !slices.Contains(sc.Standing, m) && !slices.Contains(r.Again, m) {
				r.Again = append(r.Again, m)
			}
		}
	}
	slices.Sort(r.Again)
	for _, id := range sc.Avoid {
		if !slices.Contains(sc.Standing, id) {
			r.BarredOut = append(r.BarredOut, id)
		}
	}
	for _, b := range sc.Raised {
		if b.Kind == "barred" && !b.Done {
			if b.Side == "back" {
				r.BarredBack = append(r.BarredBack, b.On)
			} else {
				r.BarredOut = append(r.BarredOut, b.On)
			}
		}
	}
	return r
}

// People is how many are at the machine; 0 means that nobody has said.
func People(sc *Scene) int {
	if len(sc.Here) > 1 {
		return 2
	}
	return 0
}

// WayIn are the moves that are still to be made.
func (sc *Scene) WayIn() []string {
	if sc.Plan == nil {
		return nil
	}
	return sc.Plan.WayIn
}

// WayBack are the refits and checks still to come, without what stays off on
// purpose.
func (sc *Scene) WayBack() []plan.Step {
	if sc.Plan == nil {
		return nil
	}
	if len(sc.Stays) == 0 {
		return sc.Plan.WayBack
	}
	return slices.DeleteFunc(slices.Clone(sc.Plan.WayBack), func(s plan.Step) bool { return slices.Contains(sc.Stays, s.Undo) })
}

// rows orders the ladder: moves in the order they were made, then those that
// are planned. A proof that has ended and is planned again stands where it is
// planned.
func rows(sc *Scene) (order []string) {
	for _, t := range sc.Turns {
		if t.Found || len(t.Outs) > 0 || t.Half["out"] {
			order = slices.DeleteFunc(order, func(id string) bool { return id == t.Move })
			if sc.Stands(t.Move) || len(t.Outs) > 0 && !slices.Contains(sc.WayIn(), t.Move) {
				order = append(order, t.Move)
			}
		}
	}
	for _, id := range sc.WayIn() {
		order = slices.DeleteFunc(order, func(o string) bool { return o == id })
		order = append(order, id)
	}
	for _, t := range sc.Turns { // begun, but no longer planned
		if len(t.Outs) == 0 && !slices.Contains(order, t.Move) && sc.Map.Move(t.Move) != nil && t.Half["out"] {
			order = append(order, t.Move)
		}
	}
	return order
}

// Stands tells whether a move was made and not undone.
func (sc *Scene) Stands(move string) bool { return slices.Contains(sc.Standing, move) }

// TurnOf is the turn that a rung shows: its last.
func (sc *Scene) TurnOf(move string) *record.Turn {
	for i := len(sc.Turns) - 1; i >= 0; i-- {
		if sc.Turns[i].Move == move {
			return sc.Turns[i]
		}
	}
	return nil
}

// Met tells whether all that is needed is as far off.
func (sc *Scene) Met(needs machine.Needs) bool {
	for id, l := range needs {
		if sc.Level[id].Rank() < l.Rank() {
			return false
		}
	}
	return true
}

// planned are the goals that are open and can be planned.
func planned(sc *Scene) (rest []string) {
	for _, g := range sc.Goals {
		if g.Open {
			if _, err := plan.Reads(sc.Map, g.Goal); err == nil {
				rest = append(rest, g.Goal)
			}
		}
	}
	return rest
}

// toCome plans what is still to come: the way in to the goals that are open, and
// the way back.
func toCome(sc *Scene) (*plan.Plan, *plan.NoPlan, []plan.Step) {
	r := sc.Request()
	r.Goals = sc.Rest
	if live := withoutSetLive(sc); len(live) < len(sc.Standing) {
		// A check, final or test left it on: where what is still to come needs it off,
		// it is isolated again first.
		truth := r
		truth.Standing = live
		if p := sc.plans.plan(sc, truth); p.plan != nil && slices.ContainsFunc(p.plan.WayIn, sc.Stands) {
			return p.plan, p.err, p.next
		}
	}
	made := sc.plans.plan(sc, r)
	if p := made.plan; p != nil && len(sc.Rest) == 0 && len(p.WayIn) == 0 && len(p.WayBack) == 0 && !sc.Looking() {
		if goals := forFinal(sc); len(goals) > 0 {
			r.Goals = goals
			made = sc.plans.plan(sc, r)
		}
	}
	return made.plan, made.err, made.next
}

// PlanFor is the plan that a request asks for; nil where there is none.
func (sc *Scene) PlanFor(r plan.Request) *plan.Plan { return sc.plans.plan(sc, r).plan }

const mostPlans = 200

// plan makes a plan, or finds the one made before: the job's own rungs and the
// request name it.
func (k *Plans) plan(sc *Scene, r plan.Request) *madePlan {
	own := sc.Whole.Moves[len(sc.Base.Moves):]
	var blocked []string // what must wait for an own rung
	for i := range sc.Whole.Moves {
		for _, o := range own {
			if _, needs := sc.Whole.Moves[i].Needs[o.ID]; needs {
				blocked = append(blocked, sc.Whole.Moves[i].ID+" "+o.ID)
			}
		}
	}
	key, err := json.Marshal(struct {
		Own     []machine.Move
		Blocked []string
		plan.Request
	}{own, blocked, r})
	if err != nil {
		panic(err) // a request holds only words and numbers
	}
	if p, known := k.made[string(key)]; known {
		return p
	}
	if len(k.made) >= mostPlans || k.made == nil {
		k.made = map[string]*madePlan{}
	}
	p := &madePlan{next: plan.Next(sc.Whole, r)}
	made, err := plan.Make(sc.Whole, r)
	if err != nil {
		p.err, _ = err.(*plan.NoPlan)
	} else {
		p.plan = made
	}
	k.made[string(key)] = p
	return p
}
