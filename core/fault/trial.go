package fault

import (
	"math"
	"slices"
	"strings"

	"evensteps/core/machine"
	"evensteps/core/plan"
)

// A Policy decides what to do next on a simulated job.
type Policy string

// The policies that a trial compares: the program's own advice; the likeliest
// part first, without testing; and a fixed chart, the tests in the map's order
// until one suspect is likely enough. Known is the floor: the fault is known
// from the start.
const (
	Program   Policy = "program"
	Likeliest Policy = "likeliest part"
	Chart     Policy = "chart"
	Known     Policy = "known"
)

// Policies are those that a trial plays, the program's own first.
var Policies = []Policy{Program, Likeliest, Chart, Known}

// chartFits is how likely the first suspect is when the chart fits its part.
const chartFits = 0.8

// Played is how one simulated job went.
type Played struct {
	Minutes float64 // to a proven repair, prices of parts in them
	Tests   int
	Wasted  int     // parts fitted that were not at fault
	Claimed float64 // chance that was claimed for the first fix
	Right   bool    // and whether it was
}

// Trial plays simulated jobs on one machine. Advice is remembered by complaint,
// results and state.
type Trial struct {
	Map     *machine.Map
	Answers map[string]string
	Rate    float64
	advice  map[string]Step
	exact   map[string]float64
	memory  map[string]*memory // by complaint
}

// Draw picks a fault by the complaint's weights; random is from 0 up to 1.
func (t *Trial) Draw(complaint string, random float64) string {
	s := begin(t.begun(complaint))
	p := s.prior()
	for i, v := range p {
		if random < v {
			return s.faults[i]
		}
		random -= v
	}
	return Other
}

// Play plays a job with a known fault under a policy. random gives numbers from
// 0 up to 1.
func (t *Trial) Play(policy Policy, complaint, fault string, random func() float64) Played {
	c := t.begun(complaint)
	var out Played
	if policy == Known {
		if fault == Other {
			out.Minutes = t.other(c)
		} else {
			out.Minutes = t.attempt(c, []string{fault})
		}
		return out
	}
	first := true
	showed := map[string]string{} // a test that is made again shows what it showed
	for range 60 {
		step := t.decide(policy, c)
		if step.Test != "" {
			s := begin(c)
			one := s.test(step.Test)
			_, minutes, standing, ok := s.to(one)
			if !ok {
				break
			}
			out.Tests++
			out.Minutes += minutes
			c.Standing = standing
			if showed[step.Test] == "" {
				showed[step.Test] = t.shows(s, one, fault, random())
			}
			c.Results = append(slices.Clone(c.Results), Result{step.Test, showed[step.Test], len(c.Tried)})
			continue
		}
		right := slices.Contains(step.Fix, fault)
		if slices.Contains(step.Fix, Other) {
			out.Minutes += t.other(c)
			if t.ends(c) || right && random() >= finalMisses {
				return out
			}
			c = failed(c, step.Fix)
			continue
		}
		if first {
			first, out.Claimed, out.Right = false, step.P, right
		}
		out.Minutes += t.attempt(c, step.Fix)
		for _, f := range step.Fix {
			if f != fault {
				out.Wasted++
			}
		}
		if right && random() >= finalMisses {
			return out
		}
		c = failed(c, step.Fix)
	}
	out.Minutes += t.other(c)
	return out
}

// ends tells whether no fix is left but to look wider, which ends the search.
func (t *Trial) ends(c Case) bool {
	return len(t.left(c)) == 0
}

// left are the known faults that were not fitted yet and can be reached.
func (t *Trial) left(c Case) (left []string) {
	for _, f := range begin(c).faults {
		if f != Other && !slices.Contains(c.Tried, f) && !math.IsInf(t.attempt(c, []string{f}), 1) {
			left = append(left, f)
		}
	}
	return left
}

// other is looking wider: closing, and finding out.
func (t *Trial) other(c Case) float64 {
	return t.attempt(c, nil) + begin(c).otherMinutes()
}

// attempt is A(s, F) by the exact plan, without finals where nothing is fitted.
func (t *Trial) attempt(c Case, fix []string) float64 {
	key := c.Complaint + "|" + strings.Join(c.Standing, ",") + "|" + strings.Join(fix, ",")
	if m, known := t.exact[key]; known {
		return m
	}
	s := begin(c)
	minutes := 0.0
	if len(fix) > 0 {
		minutes = s.besides(fix) + s.prices(fix)/s.rate()
	}
	r := plan.Request{Goals: s.goals(fix), Answers: c.Answers, Standing: c.Standing, People: s.c.People}
	if p, err := plan.Make(c.Map, r); err == nil {
		minutes += p.Minutes.Total
	} else {
		minutes = math.Inf(1)
	}
	t.exact[key] = minutes
	return minutes
}

func (t *Trial) decide(policy Policy, c Case) Step {
	key := string(policy) + "|" + state(c)
	if step, known := t.advice[key]; known {
		return step
	}
	var step Step
	switch policy {
	case Program:
		a, _ := Find(c)
		step = a.Next[0]
	default:
		step = simple(policy, c)
	}
	t.advice[key] = step
	return step
}

// simple is what the two simple policies do.
func simple(policy Policy, c Case) Step {
	s := begin(c)
	s.c.Results = s.made // to them nothing is void
	p, _ := s.posterior(c.Results)
	best := -1
	for i, f := range s.faults {
		if f != Other && !slices.Contains(c.Tried, f) && (best < 0 || p[i] > p[best]) {
			best = i
		}
	}
	if policy == Chart && (best < 0 || p[best] < chartFits) {
		for k := range s.tests {
			t := &s.tests[k]
			if t.of == nil || !s.canBeMade(t) {
				continue
			}
			if _, _, _, ok := s.to(t); ok {
				return Step{Test: t.id}
			}
		}
	}
	if best < 0 {
		return Step{Fix: []string{Other}}
	}
	return Step{Fix: []string{s.faults[best]}, P: p[best]}
}

// shows draws an outcome of a test under a fault.
func (t *Trial) shows(s *search, one *test, fault string, random float64) string {
	at := slices.Index(s.faults, fault)
	for o := range one.outcomes {
		if p := one.given[o][at]; random < p {
			return one.outcomes[o]
		} else {
			random -= p
		}
	}
	return one.outcomes[len(one.outcomes)-1]
}
