package fault

import (
	"errors"
	"math"
	"slices"
	"strings"
)

// The most suspects and tests with which every policy can be tried.
const (
	mostSmallFaults = 5 // the unknown one among them
	mostSmallTests  = 5
)

// ErrLarge says that a search is too large to try every policy on.
var ErrLarge = errors.New("too large to try every policy on: five suspects and five tests at most")

// Optimum is the least that any policy can expect to take from a complaint, in
// minutes with the prices of parts in them: every order of tests and of fixes,
// alone and together, is tried, and the best is taken at each state of
// knowledge. It plays by the rules of Play, and may look wider at any time.
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
		if s.tests[k].parts && !s.tests[k].passing {
			n++
		}
	}
	return len(s.faults) > mostSmallFaults || n > mostSmallTests
}

// expected is the expected cost from a state of knowledge on: of what a policy
// does there, or of the best that can be done.
func (t *Trial) expected(c Case, known map[string]float64, decide func(Case) Step) float64 {
	s := begin(c)
	if c.played == nil {
		c.played = &played{exact: decide == nil, chances: s.prior()}
		s.c.played = c.played
	}
	key := state(c) + c.played.key()
	if v, is := known[key]; is {
		return v
	}
	p := c.played.chances
	then := func(c Case) float64 { return t.expected(c, known, decide) }
	var best float64
	if decide != nil {
		best = t.after(s, p, decide(c), then)
	} else {
		best = math.Inf(1)
		left := t.left(c)
		for set := range left { // each alone first: what is dearer by itself than the best is not looked at
			best = min(best, t.after(s, p, Step{Fix: left[set : set+1]}, then))
		}
		for k := range s.tests {
			if one := &s.tests[k]; one.parts && canBeMade(s, one) {
				best = min(best, t.after(s, p, Step{Test: one.id}, then))
			}
		}
		if len(left) == 0 || !slices.Contains(c.Tried, Other) {
			best = min(best, t.after(s, p, Step{Fix: []string{Other}}, then))
		}
		for set := 1; set < 1<<len(left); set++ {
			var fix []string
			for i, f := range left {
				if set>>i&1 == 1 {
					fix = append(fix, f)
				}
			}
			if t.attempt(c, fix) < best { // what follows costs something, too
				best = min(best, t.after(s, p, Step{Fix: fix}, then))
			}
		}
	}
	known[key] = best
	return best
}

// after is what a step comes to with all that follows it.
func (t *Trial) after(s *search, p []float64, step Step, then func(Case) float64) float64 {
	if step.Test == "" {
		if slices.Contains(step.Fix, Other) && t.ends(s.c) {
			return t.other(s.c)
		}
		hit := 0.0
		for i, f := range s.faults {
			if slices.Contains(step.Fix, f) {
				hit += p[i]
			}
		}
		a := t.attempt(s.c, step.Fix)
		if slices.Contains(step.Fix, Other) {
			a = t.other(s.c)
		}
		if math.IsInf(a, 1) {
			return a
		}
		c := failed(s.c, step.Fix)
		c.played = s.c.played.after("fix "+strings.Join(step.Fix, ","), s.without(p, step.Fix...))
		return a + (1-(1-finalMisses)*hit)*then(c)
	}
	one := s.test(step.Test)
	_, sum, standing, ok := s.to(one)
	if !ok {
		return math.Inf(1)
	}
	before := s.c.played.showed(one)
	for o := range one.outcomes {
		q, chance := after(p, one.given[o])
		if before >= 0 { // it shows again what it showed
			q, chance = p, map[bool]float64{true: 1}[o == before]
		}
		if chance > 0 {
			c := s.c
			c.Standing = standing
			if before < 0 {
				c.played = s.c.played.after(one.id+"="+one.outcomes[o], q)
			}
			c.Results = append(slices.Clone(c.Results), Result{step.Test, one.outcomes[o], len(c.Tried)})
			sum += chance * then(c)
		}
	}
	return sum
}
