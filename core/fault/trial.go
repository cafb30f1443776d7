package fault

import (
	"fmt"
	"hash/fnv"
	"math"
	"slices"
	"strings"

	"evensteps/core/plan"
)

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

// factor is by how much one figure of this world differs from the map's: even in
// its logarithm, and the same each time it is asked for.
func (w World) factor(of ...string) float64 {
	if w.Off == 0 || w.Off == 1 {
		return 1
	}
	h := fnv.New64a()
	fmt.Fprint(h, w.Seed, of)
	x := h.Sum64()
	x ^= x >> 33 // neighbours in the text are far apart in the number
	x *= 0xff51afd7ed558ccd
	x ^= x >> 33
	return math.Pow(w.Off, 2*float64(x>>11)/float64(1<<53)-1)
}

// Draw picks a fault by the complaint's weights; random is from 0 up to 1.
func (t *Trial) Draw(complaint string, random float64) string {
	return t.DrawIn(World{}, complaint, random)
}

// DrawIn picks a fault by the weights that are true in a world, and none of those
// that are drawn already.
func (t *Trial) DrawIn(w World, complaint string, random float64, drawn ...string) string {
	s := begin(t.begun(complaint))
	p := s.prior()
	for i, f := range s.faults {
		p[i] *= w.factor("weight", f)
		if slices.Contains(drawn, f) {
			p[i] = 0
		}
	}
	return s.faults[pick(normal(p), random)]
}

// Play plays a job with a known fault under a policy. random gives numbers from
// 0 up to 1.
func (t *Trial) Play(policy Policy, complaint, fault string, random func() float64) Played {
	return t.PlayIn(World{}, policy, complaint, []string{fault}, random)
}

// PlayIn plays a job in a world, with one fault or several at once: it is over
// when all of them are mended. Each failed final says nothing but that one is left.
func (t *Trial) PlayIn(w World, policy Policy, complaint string, faults []string, random func() float64) Played {
	c := t.begun(complaint)
	var out Played
	if policy == Known {
		known := slices.DeleteFunc(slices.Clone(faults), func(f string) bool { return f == Other })
		if len(known) > 0 {
			out.Minutes = t.attempt(c, known)
		}
		if len(known) < len(faults) {
			out.Minutes += t.other(c)
		}
		return out
	}
	first := true
	left := slices.Clone(faults)
	showed := map[string]string{} // a test that is made again shows what it showed, as long as nothing was mended
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
			key := fmt.Sprint(len(left), step.Test)
			if showed[key] == "" {
				showed[key] = s.shows(w, one, left, random)
			}
			c.Results = append(slices.Clone(c.Results), Result{step.Test, showed[key], len(c.Tried)})
			continue
		}
		wide := slices.Contains(step.Fix, Other)
		right := slices.ContainsFunc(step.Fix, func(f string) bool { return slices.Contains(left, f) })
		if wide {
			out.Minutes += t.other(c)
		} else {
			if first {
				first, out.Claimed, out.Right = false, step.P, right
			}
			out.Minutes += t.attempt(c, step.Fix)
			for _, f := range step.Fix {
				if !slices.Contains(faults, f) {
					out.Wasted++
				}
			}
		}
		if right {
			left = slices.DeleteFunc(left, func(f string) bool { return slices.Contains(step.Fix, f) })
		}
		if wide && t.ends(c) || right && len(left) == 0 && random() >= finalMisses {
			return out
		}
		if right && len(left) == 0 {
			left = []string{""} // right, and yet its final fails: nothing that is looked for is left
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
		minutes = besides(s, fix) + s.prices(fix)/s.rate()
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
	p, _ := posterior(s, c.Results)
	best := -1
	for i, f := range s.faults {
		if f != Other && !slices.Contains(c.Tried, f) && (best < 0 || p[i] > p[best]) {
			best = i
		}
	}
	if policy == Chart && (best < 0 || p[best] < chartFits) {
		for k := range s.tests {
			t := &s.tests[k]
			if t.of == nil || !canBeMade(s, t) {
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

// shows draws what a test shows of the faults that are there, as it is in a world.
// Of several, what is the rarer on a machine without them is what one sees.
func (s *search) shows(w World, one *test, faults []string, random func() float64) string {
	seen, rarest := "", 2.0
	for _, fault := range faults {
		at := max(0, slices.Index(s.faults, fault))
		if fault == "" {
			at = len(s.faults) - 1
		}
		chances := make([]float64, len(one.outcomes))
		for o := range one.outcomes {
			chances[o] = one.given[o][at] * w.factor("outcome", one.id, one.outcomes[o], s.faults[at])
		}
		o := pick(normal(chances), random())
		if usual := one.given[o][len(s.faults)-1]; usual < rarest {
			seen, rarest = one.outcomes[o], usual
		}
	}
	return seen
}

// pick is the place in chances, which add up to 1, that a number from 0 up to 1
// falls on.
func pick(chances []float64, random float64) int {
	for o, p := range chances {
		if random < p {
			return o
		}
		random -= p
	}
	return len(chances) - 1
}
