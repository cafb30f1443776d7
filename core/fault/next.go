package fault

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/plan"
)

// Find weighs a case. It is false where the map knows no such complaint.
func Find(c Case) (*Advice, bool) {
	s := begin(c)
	if s == nil {
		return nil, false
	}
	held := s.c.Results
	p, contradiction := posterior(s, held)
	was, _ := posterior(s, held[:max(0, len(held)-1)])
	a := &Advice{Contradiction: contradiction}
	for i, f := range s.faults {
		a.Suspects = append(a.Suspects, Suspect{f, p[i], was[i]})
	}
	slices.SortStableFunc(a.Suspects, func(x, y Suspect) int { return cmp.Compare(y.P, x.P) })
	here := s.at(c.Standing)
	value, fix := s.repair(here, p)
	a.Expected = value
	a.Next = s.worth(p, value, fix)
	first := len(a.Next) == 0 || a.Next[0].Gain < leastGain
	step := fixStep(s, fix, p, first)
	if first {
		a.Next = append([]Step{step}, a.Next...)
	} else {
		a.Expected -= a.Next[0].Gain
		at := slices.IndexFunc(a.Next, func(t Step) bool { return t.Gain < leastGain })
		if at < 0 {
			at = len(a.Next)
		}
		a.Next = slices.Insert(a.Next, at, step)
	}
	return a, true
}

// worth gives every test that can be made, by its gain; but a look that costs no
// opening goes first where it is worth half of the best: people look, listen and
// ask before they open.
func (s *search) worth(p []float64, value float64, fix []string) []Step {
	var out []Step
	for k := range s.tests {
		t := &s.tests[k]
		if !t.parts || !canBeMade(s, t) {
			continue
		}
		access, minutes, then, ok := s.to(t)
		if !ok {
			continue
		}
		from := s.at(then)
		expected := minutes
		var shows []Shows
		for o := range t.outcomes {
			q, chance := after(p, t.given[o])
			show := Shows{Outcome: t.outcomes[o], P: chance}
			if chance > 0 {
				v, then := s.repair(from, q)
				expected += chance * min(v, s.mended(t, o, from, q))
				show.fix = slices.Clone(then)
				slices.SortStableFunc(show.fix, func(a, b string) int {
					return cmp.Compare(q[slices.Index(s.faults, b)], q[slices.Index(s.faults, a)])
				})
			}
			for i := range q {
				if q[i] > show.TopP {
					show.Top, show.TopP = s.faults[i], q[i]
				}
			}
			shows = append(shows, show)
		}
		step := Step{Test: t.id, Gain: value - expected, Minutes: minutes, Access: access, Shows: shows, Free: len(access) == 0 && slices.Equal(then, s.c.Standing)}
		if t.of != nil {
			step.Ticket = t.of.Ticket
		}
		step.Why = s.why(t, step, fix)
		out = append(out, step)
	}
	slices.SortStableFunc(out, func(x, y Step) int { return cmp.Compare(y.Gain, x.Gain) })
	first := -1
	for k, t := range out {
		if t.Free && t.Gain >= max(leastGain, looksFirst*out[0].Gain) && (first < 0 || t.Gain/t.Minutes > out[first].Gain/out[first].Minutes) {
			first = k
		}
	}
	if first > 0 {
		look := out[first]
		out = slices.Insert(slices.Delete(out, first, first+1), 0, look)
	}
	return out
}

// mended is what remains after an outcome that mends a fault by itself: closing,
// the finals, and what is left to try when they fail. +Inf for one that does not.
func (s *search) mended(t *test, o int, from *costs, q []float64) float64 {
	if t.of == nil || t.of.Outcomes[o].Mends == "" {
		return math.Inf(1)
	}
	i := slices.Index(s.faults, t.of.Outcomes[o].Mends)
	if i < 0 {
		return math.Inf(1)
	}
	return from.attempt(nil) + (1-(1-finalMisses)*q[i])*remaining(s, s.without(q, s.faults[i]), s.faults[i])
}

// canBeMade tells whether a test is still to be made and says something now: one
// that needs a running machine says nothing of a dead one.
func canBeMade(s *search, t *test) bool {
	if t.passing {
		return false
	}
	of := func(r Result) bool { return r.Test == t.id }
	if t.of != nil && (t.of.Once && slices.ContainsFunc(s.made, of) || t.of.Runs && s.complaint.Dead) {
		return false
	}
	return !slices.ContainsFunc(s.c.Results, of) && !slices.Contains(s.c.NotDone, t.id) && !saysNothing(s, t)
}

// saysNothing tells whether a test says nothing in the present state: what must
// be as the machine runs is not.
func saysNothing(s *search, t *test) bool {
	if t.of == nil {
		return false
	}
	at := plan.Levels(s.m, s.c.Standing, s.c.Found)
	return slices.ContainsFunc(t.of.Fitted, func(id string) bool { return at[id].Rank() > 0 })
}

// to is the way to a test from the present state: the moves it needs, the
// minutes with its own, and what stands after it.
func (s *search) to(t *test) (access []string, minutes float64, standing []string, ok bool) {
	key := t.id + " from " + strings.Join(s.c.Standing, ",")
	w, known := s.ways[key]
	if !known {
		w.access, w.minutes, w.standing, w.ok = s.look(t)
		s.ways[key] = w
	}
	return w.access, w.minutes, w.standing, w.ok
}

func (s *search) look(t *test) (access []string, minutes float64, standing []string, ok bool) {
	if t.of != nil && t.of.Power == "live" {
		return s.live(t.of)
	}
	if t.of == nil {
		return wayTo(s, t.needs, walkMinutes, s.c.Standing)
	}
	goal, err := plan.Reads(s.m, "test:"+t.id)
	if err != nil {
		return nil, 0, nil, false
	}
	return wayTo(s, goal.Needs, t.of.Minutes, s.c.Standing)
}

func wayTo(s *search, needs machine.Needs, own float64, from []string) ([]string, float64, []string, bool) {
	missing := maps.Clone(needs)
	at := plan.Levels(s.m, from, s.c.Found)
	maps.DeleteFunc(missing, func(id string, level machine.Level) bool { return at[id].Rank() >= level.Rank() })
	if len(missing) == 0 {
		return []string{}, own, from, true
	}
	p, err := plan.Make(s.on(from), plan.Request{Goals: plan.ItemGoals(missing), Answers: s.c.Answers, Standing: from, Found: s.c.Found, People: s.c.People})
	if err != nil {
		return nil, 0, nil, false
	}
	minutes := own + p.Minutes.TurnsAndToolsIn
	for _, id := range p.WayIn {
		minutes += s.m.Move(id).Minutes.Out
	}
	return p.WayIn, minutes, slices.Concat(from, p.WayIn), true
}

// live is a test with the mains on: it pays the turn to what shuts them off and
// its undoing, then the turn to its own place; those moves are undone after it.
func (s *search) live(t *machine.Test) ([]string, float64, []string, bool) {
	mains := s.m.Mains()
	shuts := func(mv *machine.Move) bool {
		return slices.ContainsFunc(mains, func(id string) bool { return mv.Takes[id] != "" })
	}
	var kept []string
	minutes := 0.0
	at := "front"
	for _, id := range s.c.Standing {
		mv := s.m.Move(id)
		if mv == nil {
			continue
		}
		at = mv.Face
		if !shuts(mv) {
			kept = append(kept, id)
		}
	}
	for _, id := range s.c.Standing {
		mv := s.m.Move(id)
		if mv != nil && !mv.OneWay && shuts(mv) {
			minutes += plan.Turn(at, mv.Face) + mv.Minutes.Back
			at = mv.Face
		}
	}
	kept = plan.Lapse(s.m, kept, s.c.Found)
	access, way, standing, ok := wayTo(s, t.Needs, t.Minutes, kept)
	if len(access) > 0 {
		at = s.m.Move(access[len(access)-1]).Face
	}
	return access, minutes + way + plan.Turn(at, t.Face), standing, ok
}

func fixStep(s *search, fix []string, p []float64, advised bool) Step {
	step := Step{Fix: fix, Prices: s.prices(fix)}
	for i, f := range s.faults {
		if slices.Contains(fix, f) {
			step.P += p[i]
		}
	}
	if wider(fix) {
		step.Fix, step.P, step.Minutes = []string{Other}, p[len(p)-1], s.at(s.c.Standing).wider()
		step.Why = "Nothing that this map knows explains it. Look wider, and tell the supervisor what you find."
		if len(fix) > 0 {
			step.Why = fmt.Sprintf("Nothing on this map explains all results well (%s). Look wider before fitting more.", english.Chance(1-step.P))
		}
		return step
	}
	step.Goals = s.goals(fix)
	step.Minutes = besides(s, fix)
	if made, err := plan.Make(s.m, plan.Request{Goals: step.Goals, Answers: s.c.Answers, Standing: s.c.Standing, Found: s.c.Found, People: s.c.People}); err == nil {
		step.Minutes += made.Minutes.Total
	}
	var names []string
	for _, f := range fix {
		names = append(names, english.Lower(Name(s.m, f)))
	}
	step.Why = fmt.Sprintf("%s: %s.", english.Upper(strings.Join(names, ", ")), english.Chance(step.P))
	if advised {
		step.Why += " No test left saves more than it costs."
	}
	return step
}

// goals are what a plan has to reach for these fixes.
func (s *search) goals(fix []string) (goals []string) {
	for _, f := range fix {
		fault := s.m.Fault(f)
		switch {
		case fault == nil:
		case fault.Part != "":
			goals = append(goals, "replace:"+fault.Part)
		default:
			goals = append(goals, plan.ItemGoals(fault.Reach)...)
		}
	}
	return goals
}

// why says what a test can show that would change what is fitted, and what else it
// likeliest shows; then what it takes and what it saves after that. Each number
// stands once.
func (s *search) why(t *test, step Step, fix []string) string {
	same := func(a, b []string) bool {
		a, b = slices.Clone(a), slices.Clone(b)
		slices.Sort(a)
		slices.Sort(b)
		return slices.Equal(a, b)
	}
	changes, other := -1, -1
	for k, o := range step.Shows {
		if !same(o.fix, fix) && (changes < 0 || o.P > step.Shows[changes].P) {
			changes = k
		}
	}
	for k, o := range step.Shows {
		if k != changes && (other < 0 || o.P > step.Shows[other].P) {
			other = k
		}
	}
	pair := []int{other, changes}
	if changes >= 0 && (other < 0 || step.Shows[changes].P > step.Shows[other].P) {
		pair = []int{changes, other}
	}
	var say []string
	var before *Shows
	for _, k := range pair {
		if k < 0 {
			continue
		}
		o := step.Shows[k]
		then := english.Lower(Name(s.m, o.Top))
		if before != nil {
			if before.Top == o.Top { // still the likeliest, and what is fitted is another
				then = s.differs(o, before)
			}
			then = "then " + then
		}
		before = &o
		say = append(say, fmt.Sprintf("%s (%s): %s.", english.Upper(s.outcome(t, k)), english.Chance(o.P), then))
	}
	takes := fmt.Sprintf("Takes %s min", minutesWord(step.Minutes))
	switch n := len(step.Access); {
	case n == 1:
		takes += ", 1 step to open"
	case n > 1:
		takes += fmt.Sprintf(", %d steps to open", n)
	}
	if step.Gain >= leastGain {
		takes += fmt.Sprintf("; saves about %s min after that.", minutesWord(step.Gain+step.Minutes))
	} else {
		takes += ", which is more than it saves."
	}
	return strings.Join(append(say, takes), " ")
}

// differs says how what would be fitted after one outcome is other than after
// another, where both leave the same suspect the likeliest.
func (s *search) differs(o Shows, from *Shows) string {
	top := english.Lower(Name(s.m, o.Top))
	if wider(o.fix) {
		return "look wider"
	}
	for _, id := range o.fix {
		switch {
		case slices.Contains(from.fix, id) || wider(from.fix):
		case slices.Contains(o.fix, o.Top):
			return top + ", and " + english.Lower(Name(s.m, id)) + " with it"
		default:
			return english.Lower(Name(s.m, id)) + " first"
		}
	}
	return top + " alone"
}

func (s *search) outcome(t *test, k int) string {
	if t.of != nil && t.of.Outcomes[k].Say != "" {
		return english.Lower(t.of.Outcomes[k].Say)
	}
	return t.outcomes[k]
}
