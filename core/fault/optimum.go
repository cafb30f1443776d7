package fault

import (
	"errors"
	"math"
	"slices"
	"strings"
)

// The most suspects and tests with which every policy can be tried.
const (
	mostSmallFaults = 6 // the unknown one among them
	mostSmallTests  = 5
)

// ErrLarge says that a search is too large to try every policy on.
var ErrLarge = errors.New("too large to try every policy on: six suspects and five tests at most")

// Optimum is the least that any policy can expect to take from a complaint, in
// minutes with the prices of parts in them: every order of tests and of fixes,
// alone and together, is tried, and the best is taken at each state of
// knowledge. It plays by the rules of Play; what the map does not know comes
// last, as it does for every policy.
func (t *Trial) Optimum(complaint string) (float64, error) {
	c := t.begun(complaint)
	s := begin(c)
	if s.large() {
		return 0, ErrLarge
	}
	return t.expected(c, map[string]float64{}, nil), nil
}

// Expected is what a policy can expect to take on the same terms, worked out and
// not played.
func (t *Trial) Expected(policy Policy, complaint string) (float64, error) {
	c := t.begun(complaint)
	s := begin(c)
	if s.large() {
		return 0, ErrLarge
	}
	return t.expected(c, map[string]float64{}, func(c Case) Step { return t.decide(policy, c) }), nil
}

// large tells whether a search is too large to try every policy on. Tests that
// tell no two suspects apart do not count: no policy makes them.
func (s *search) large() bool {
	n := 0
	for k := range s.tests {
		if s.tests[k].tellsApart() {
			n++
		}
	}
	return len(s.faults) > mostSmallFaults || n > mostSmallTests
}

func (t test) tellsApart() bool {
	for _, row := range t.given {
		if slices.Max(row)-slices.Min(row) > 1e-9 {
			return true
		}
	}
	return false
}

func (t *Trial) begun(complaint string) Case {
	if t.advice == nil {
		t.advice, t.exact, t.memory = map[string]Step{}, map[string]float64{}, map[string]*memory{}
	}
	c := Case{Map: t.Map, Answers: t.Answers, Complaint: complaint, Rate: t.Rate, People: 2, memory: t.memory[complaint]}
	if c.memory == nil {
		c = Remember(c)
		t.memory[complaint] = c.memory
	}
	return c
}

// expected is the expected cost from a state of knowledge on: of what a policy
// does there, or of the best that can be done.
func (t *Trial) expected(c Case, known map[string]float64, decide func(Case) Step) float64 {
	key := state(c)
	if v, is := known[key]; is {
		return v
	}
	s := begin(c)
	p, _ := s.posterior(c.Results)
	then := func(c Case) float64 { return t.expected(c, known, decide) }
	var best float64
	if decide != nil {
		best = t.after(s, p, decide(c), then)
	} else {
		best = math.Inf(1)
		for k := range s.tests {
			if one := &s.tests[k]; one.tellsApart() && s.canBeMade(one) {
				best = min(best, t.after(s, p, Step{Test: one.id}, then))
			}
		}
		var left []string
		for _, f := range s.faults {
			if f != Other && !slices.Contains(c.Tried, f) && !math.IsInf(t.attempt(c, []string{f}), 1) {
				left = append(left, f)
			}
		}
		if len(left) == 0 { // what the map does not know comes last
			best = t.after(s, p, Step{Fix: []string{Other}}, then)
		}
		for set := 1; set < 1<<len(left); set++ {
			var fix []string
			for i, f := range left {
				if set>>i&1 == 1 {
					fix = append(fix, f)
				}
			}
			best = min(best, t.after(s, p, Step{Fix: fix}, then))
		}
	}
	known[key] = best
	return best
}

// after is what a step comes to with all that follows it.
func (t *Trial) after(s *search, p []float64, step Step, then func(Case) float64) float64 {
	if step.Test == "" {
		if slices.Contains(step.Fix, Other) {
			return t.other(s.c)
		}
		hit := 0.0
		for i, f := range s.faults {
			if slices.Contains(step.Fix, f) {
				hit += p[i]
			}
		}
		a := t.attempt(s.c, step.Fix)
		if math.IsInf(a, 1) {
			return a
		}
		c := s.c
		c.Tried = append(slices.Clone(c.Tried), step.Fix...)
		slices.Sort(c.Tried)
		c.Standing = nil
		return a + (1-(1-finalMisses)*hit)*then(c)
	}
	one := s.test(step.Test)
	_, sum, standing, ok := s.to(one)
	if !ok {
		return math.Inf(1)
	}
	for o := range one.outcomes {
		if _, chance := after(p, one.given[o]); chance > 0 {
			c := s.c
			c.Standing = standing
			c.Results = append(slices.Clone(c.Results), Result{step.Test, one.outcomes[o]})
			sum += chance * then(c)
		}
	}
	return sum
}

// state names all that the rest of a search hangs on.
func state(c Case) string {
	var results []string
	for _, r := range c.Results {
		results = append(results, r.Test+"="+r.Outcome)
	}
	slices.Sort(results)
	return c.Complaint + "|" + strings.Join(c.Standing, ",") + "|" + strings.Join(c.Tried, ",") + "|" + strings.Join(results, ",")
}
