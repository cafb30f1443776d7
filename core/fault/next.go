package fault

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"evensteps/core/machine"
	"evensteps/core/plan"
)

// Advice is what the search comes to.
type Advice struct {
	Suspects      []Suspect // the likeliest first
	Next          []Step    // in order of worth; the first is advised
	Expected      float64   // minutes of the whole repair, if nothing more is tested
	Contradiction bool      // the last result was hardly to be expected: repeat it, or look wider
}

// Step is a test worth making, or fixes to make in one opening.
type Step struct {
	Test    string
	Fix     []string
	Gain    float64  // of a test: minutes that it saves on the whole
	P       float64  // of fixes: the chance that one of them is right
	Goals   []string // of fixes: what a plan has to reach for them
	Minutes float64  // of a test, its own and the way in to it; of fixes, the attempt without prices
	Prices  float64  // of the fixes' parts
	Access  []string // moves that a test needs first, in order
	Ticket  string
	Why     string
	Shows   []Shows // of a test: what it can show
}

// Shows is one outcome of a test: how likely it is, and who is the likeliest
// suspect after it.
type Shows struct {
	Outcome string
	P       float64
	Top     string
	TopP    float64
}

// Find weighs a case. It is false where the map knows no such complaint.
func Find(c Case) (*Advice, bool) {
	s := begin(c)
	if s == nil {
		return nil, false
	}
	p, contradiction := s.posterior(c.Results)
	was, _ := s.posterior(c.Results[:max(0, len(c.Results)-1)])
	a := &Advice{Contradiction: contradiction}
	for i, f := range s.faults {
		a.Suspects = append(a.Suspects, Suspect{f, p[i], was[i]})
	}
	slices.SortStableFunc(a.Suspects, func(x, y Suspect) int { return cmp.Compare(y.P, x.P) })
	here := s.at(c.Standing)
	value, fix := s.repair(here, p)
	a.Expected = value
	a.Next = s.worth(p, value)
	first := len(a.Next) == 0 || a.Next[0].Gain < leastGain
	step := s.fixStep(fix, p, first)
	if first {
		a.Next = append([]Step{step}, a.Next...)
	} else {
		at := slices.IndexFunc(a.Next, func(t Step) bool { return t.Gain < leastGain })
		if at < 0 {
			at = len(a.Next)
		}
		a.Next = slices.Insert(a.Next, at, step)
	}
	return a, true
}

// worth gives every test that can be made, by its gain.
func (s *search) worth(p []float64, value float64) []Step {
	var out []Step
	for k := range s.tests {
		t := &s.tests[k]
		if !t.tellsApart() || !s.canBeMade(t) {
			continue
		}
		access, minutes, then, ok := s.to(t)
		if !ok {
			continue
		}
		from := s.at(then)
		expected := minutes
		var shows []Shows
		most, telling := -1.0, 0 // the outcome that moves the suspects most
		for o := range t.outcomes {
			q, chance := after(p, t.given[o])
			if chance > 0 {
				v, _ := s.repair(from, q)
				expected += chance * min(v, s.mended(t, o, from, q))
			}
			top, moved := 0, 0.0
			for i := range q {
				if q[i] > q[top] {
					top = i
				}
				moved += math.Abs(q[i] - p[i])
			}
			shows = append(shows, Shows{t.outcomes[o], chance, s.faults[top], q[top]})
			if chance*moved > most {
				most, telling = chance*moved, o
			}
		}
		step := Step{Test: t.id, Gain: value - expected, Minutes: minutes, Access: access, Shows: shows}
		if t.of != nil {
			step.Ticket = t.of.Ticket
		}
		step.Why = s.why(t, step, telling)
		out = append(out, step)
	}
	slices.SortStableFunc(out, func(x, y Step) int { return cmp.Compare(y.Gain, x.Gain) })
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
	failed := slices.Clone(q)
	failed[i] *= finalMisses
	return from.attempt(nil) + (1-(1-finalMisses)*q[i])*s.remaining(normal(failed), s.faults[i])
}

// canBeMade tells whether a test is still to be made and says something now.
func (s *search) canBeMade(t *test) bool {
	return !slices.ContainsFunc(s.c.Results, func(r Result) bool { return r.Test == t.id }) && !slices.Contains(s.c.NotDone, t.id) && !s.saysNothing(t)
}

// saysNothing tells whether a test says nothing in the present state: what must
// be as the machine runs is not.
func (s *search) saysNothing(t *test) bool {
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
		return s.wayTo(t.needs, walkMinutes, s.c.Standing)
	}
	goal, err := plan.Reads(s.m, "test:"+t.id)
	if err != nil {
		return nil, 0, nil, false
	}
	return s.wayTo(goal.Needs, t.of.Minutes, s.c.Standing)
}

func (s *search) wayTo(needs machine.Needs, own float64, from []string) ([]string, float64, []string, bool) {
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
	access, way, standing, ok := s.wayTo(t.Needs, t.Minutes, kept)
	if len(access) > 0 {
		at = s.m.Move(access[len(access)-1]).Face
	}
	return access, minutes + way + plan.Turn(at, t.Face), standing, ok
}

func (s *search) fixStep(fix []string, p []float64, advised bool) Step {
	step := Step{Fix: fix, Prices: s.prices(fix)}
	for i, f := range s.faults {
		if slices.Contains(fix, f) {
			step.P += p[i]
		}
	}
	if len(fix) == 0 {
		step.Fix, step.P, step.Minutes = []string{Other}, p[len(p)-1], s.otherMinutes()
		step.Why = "Nothing that this map knows explains it. Look wider, and tell the lead what you find."
		return step
	}
	step.Goals = s.goals(fix)
	step.Minutes = s.besides(fix)
	if made, err := plan.Make(s.m, plan.Request{Goals: step.Goals, Answers: s.c.Answers, Standing: s.c.Standing, Found: s.c.Found, People: s.c.People}); err == nil {
		step.Minutes += made.Minutes.Total
	}
	var names []string
	for _, f := range fix {
		names = append(names, lower(Name(s.m, f)))
	}
	step.Why = fmt.Sprintf("%s: %s.", upper(strings.Join(names, ", ")), About(step.P))
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

// why says in one sentence what a test splits, by its most telling outcome, what
// it costs, what it saves.
func (s *search) why(t *test, step Step, telling int) string {
	o := step.Shows[telling]
	say := fmt.Sprintf("%s it shows “%s”, and then it is %s %s", upper(About(o.P)), s.outcome(t, telling), About(o.TopP), lower(Name(s.m, o.Top)))
	cost := fmt.Sprintf("it costs %s min", minutesWord(step.Minutes))
	if len(step.Access) > 0 {
		cost += fmt.Sprintf(" with %d rungs of the way in", len(step.Access))
	}
	if step.Gain >= leastGain {
		return fmt.Sprintf("%s; %s and saves about %s min.", say, cost, minutesWord(step.Gain))
	}
	return fmt.Sprintf("%s; %s, which is more than it saves.", say, cost)
}

func (s *search) outcome(t *test, k int) string {
	if t.of != nil && t.of.Outcomes[k].Say != "" {
		return lower(t.of.Outcomes[k].Say)
	}
	return t.outcomes[k]
}
