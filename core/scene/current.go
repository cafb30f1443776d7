package scene

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/record"
)

// current finds the step that is on, and what may be done instead.
func current(sc *Scene) (on On, possible []string) {
	switch {
	case len(sc.Stops) > 0:
		return On{Kind: "stopped", Say: sc.Stops[len(sc.Stops)-1].Of.(*record.Stopped).Why}, nil
	case sc.SignedBy != nil:
		return On{Kind: "signed"}, nil
	case sc.CalledOff():
		return On{Kind: "called-off", Say: sc.Off.Of.(*record.JobCalledOff).Reason}, nil
	case sc.NoPlan != nil:
		return On{Kind: "stuck", Say: stuckSay(sc, sc.NoPlan)}, possibleBack(sc)
	}
	if t := liveTest(sc); t != nil && sc.Met(t.Needs) && !ShutFor(sc, t) { // whatever has to be shut for what comes after it
		return On{Kind: "test", Goal: sc.Rest[0]}, nil
	}
	if in := sc.WayIn(); len(in) > 0 {
		if o := shows(sc); o != nil {
			return On{Kind: "survey", Goal: "option:" + o.ID}, nil
		}
		for _, id := range in {
			mv := sc.Map.Move(id)
			if sc.Met(sc.Map.OutNeeds(mv)) && provenAll(sc, sc.Map.Guards(mv.LiveOK)) {
				possible = append(possible, id)
			}
		}
		return On{Kind: "out", Move: in[0], Side: "out"}, possible
	}
	if len(sc.Rest) > 0 {
		return atGoal(sc)
	}
	if g := sc.OwnWork(); g != nil {
		return On{Kind: "own", Goal: g.Goal, Say: "Each thing that comes off becomes a step."}, possibleBack(sc)
	}
	if goal := surveyed(sc); goal != "" {
		return On{Kind: "survey", Goal: goal}, nil
	}
	if sc.Looking() {
		return On{Kind: "find", Say: "The fault is still to be found."}, possibleBack(sc)
	}
	back := sc.WayBack()
	check := slices.ContainsFunc(back, func(s plan.Step) bool { return s.Check != "" })
	if f := FinalReady(sc); f != nil && !check {
		return On{Kind: "final", Move: f.ID}, nil
	}
	if len(back) > 0 {
		return led(&back[0]), possibleBack(sc)
	}
	if due := FinalsToRun(sc); len(due) > 0 { // none counts yet: say what is amiss
		f := sc.Map.Final(due[0])
		return On{Kind: "final", Move: f.ID, Say: english.Upper(sc.Ready(f)) + "."}, nil
	}
	return On{Kind: "sign-off"}, nil
}

// atGoal is the step where the way in is made: the work, or a test.
func atGoal(sc *Scene) (On, []string) {
	t := sc.Map.Test(strings.TrimPrefix(sc.Rest[0], "test:"))
	if t == nil || !strings.HasPrefix(sc.Rest[0], "test:") {
		return On{Kind: "work", Goal: sc.Rest[0]}, nil
	}
	if step := towardsLive(sc, t); step != nil && sc.Has(sc.Viewer.Person, t.Ticket) { // nobody else is led to bare live parts
		on := led(step)
		on.Say = "For the test: " + english.Lower(t.Title) + "."
		return on, possibleBack(sc)
	}
	return On{Kind: "test", Goal: sc.Rest[0]}, nil
}

// led makes a step of the way back the one that is on.
func led(step *plan.Step) On {
	if step.Check != "" {
		return On{Kind: "check", Move: step.Check, Side: "back"}
	}
	return On{Kind: "back", Move: step.Undo, Side: "back"}
}

// surveyed is the next thing to ask on arrival, in the map's order, before
// anything is opened: an option that nobody has answered, or a test that is not
// made. It is empty when all is asked.
func surveyed(sc *Scene) (goal string) {
	if !sc.Looking() || len(sc.Turns) > 0 {
		return ""
	}
	for _, entry := range sc.Map.Survey {
		kind, id, _ := strings.Cut(entry, ":")
		switch kind {
		case "option":
			o := sc.Map.Option(id)
			if _, answered := sc.Answers[id]; !answered && o != nil && sc.Map.Agrees(o.When, sc.Answers) {
				return entry
			}
		case "test":
			if sc.Map.Test(id) != nil && sc.Readings[id] == nil && sc.State.Results[id] == nil {
				return entry
			}
		}
	}
	return ""
}

// shows is the option to ask before the next step out: one that nobody has
// answered and whose answer changes what is planned. What can be seen from outside
// is asked before the first rung, the rest as soon as it shows. nil for none.
func shows(sc *Scene) *machine.Option {
	for i := range sc.Whole.Options {
		o := &sc.Whole.Options[i]
		if _, answered := sc.Answers[o.ID]; answered || !sc.Met(o.Needs) || !sc.Whole.Agrees(o.When, sc.Answers) {
			continue
		}
		if len(o.Needs) == 0 && len(sc.Turns) > 0 {
			continue
		}
		for _, value := range o.Values {
			r := sc.Request()
			r.Goals = sc.Rest
			r.Answers = maps.Clone(r.Answers)
			if r.Answers == nil {
				r.Answers = map[string]string{}
			}
			r.Answers[o.ID] = value
			if other := sc.PlanFor(r); other == nil || !slices.Equal(other.WayIn, sc.Plan.WayIn) || !slices.Equal(other.WayBack, sc.Plan.WayBack) {
				return o
			}
		}
	}
	return nil
}

// liveTest is the live test that is the first goal; nil where that is none.
func liveTest(sc *Scene) *machine.Test {
	if len(sc.Rest) == 0 {
		return nil
	}
	if t := sc.Map.Test(strings.TrimPrefix(sc.Rest[0], "test:")); t != nil && t.Power == "live" {
		return t
	}
	return nil
}

// towardsLive is the next step back on the way to a live test: what is open beyond
// what it asks is closed in the order of the way back until the mains come on in
// their turn. Only for what the test asks to be open they are restored before it is
// closed. nil where nothing is in its way.
func towardsLive(sc *Scene, t *machine.Test) *plan.Step {
	if !ShutFor(sc, t) {
		return nil
	}
	holds := func(mv *machine.Move) bool { // what the test asks for stays off
		return slices.ContainsFunc(slices.Sorted(maps.Keys(t.Needs)), func(id string) bool { return mv.Takes[id] != "" })
	}
	if back := sc.WayBack(); len(back) > 0 {
		if mv := sc.Map.Move(back[0].Undo); mv == nil || !holds(mv) {
			return &back[0]
		}
	}
	for _, id := range slices.Backward(sc.Standing) {
		mv := sc.Map.Move(id)
		if mv != nil && !mv.OneWay && slices.ContainsFunc(sc.Map.Mains(), func(e string) bool { return mv.Takes[e] != "" }) {
			return &plan.Step{Undo: id}
		}
	}
	return nil
}

// ShutFor tells whether a live test waits for mains that are shut.
func ShutFor(sc *Scene, t *machine.Test) bool {
	return t.Power == "live" && slices.ContainsFunc(sc.Map.Mains(), func(id string) bool { return sc.Level[id].Rank() > 0 })
}

func possibleBack(sc *Scene) []string {
	var out []string
	for _, s := range sc.Next {
		out = append(out, s.Undo+s.Check)
	}
	return out
}

// stuckSay says what would make a way where own rungs shut each other in.
func stuckSay(sc *Scene, err *plan.NoPlan) string {
	say := err.Message
	for _, id := range slices.Sorted(maps.Keys(sc.OwnRungs)) {
		b := sc.OwnRungs[id].Of.(*record.RungOwn)
		for _, blocked := range b.Before {
			if mv := sc.Map.Move(blocked); mv != nil && sc.Stands(id) {
				say += fmt.Sprintf(" %s is off and had to come off before %s: put it back first, or take that order back.", b.Title, english.Lower(mv.Name()))
			}
		}
	}
	return say
}

func provenAll(sc *Scene, energies []string) bool {
	return !slices.ContainsFunc(energies, func(id string) bool { return sc.Level[id] != machine.Proven })
}
