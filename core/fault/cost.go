package fault

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"evensteps/core/plan"
)

// at gives the costs from a state, worked out once for each.
func (s *search) at(standing []string) *costs {
	key := strings.Join(standing, ",")
	if c := s.costs[key]; c != nil {
		return c
	}
	c := &costs{s: s, known: map[string]float64{}}
	crews := []int{s.c.People}
	if s.c.People == 0 {
		crews = []int{1, 2}
	}
	for _, people := range crews {
		if from, err := plan.CostsFrom(s.on(standing), plan.Request{Answers: s.c.Answers, Standing: standing, Found: s.c.Found, People: people}); err == nil {
			c.from = append(c.from, from)
		}
	}
	s.costs[key] = c
	return c
}

// target is what must be reached for a fix: its part away, or its reach;
// nothing at all for a fault without either.
func (s *search) target(f string) plan.Target {
	fault := s.m.Fault(f)
	if fault == nil {
		return plan.Target{}
	}
	if fault.Part != "" {
		if t, err := plan.Reads(s.m, "replace:"+fault.Part); err == nil {
			return t
		}
	}
	return plan.Target{Needs: fault.Reach}
}

// attempt is A(s, F) in minutes: the least plan that reaches every fix of F and
// closes all that stands, their swap minutes, the finals that prove this
// complaint, and the prices of the parts as minutes. +Inf where there is no way.
func (c *costs) attempt(f []string) float64 {
	key := strings.Join(f, ",")
	if a, known := c.known[key]; known {
		return a
	}
	var targets []plan.Target
	for _, id := range f {
		targets = append(targets, c.s.target(id))
	}
	sum := c.plan(targets...) + besides(c.s, f) + c.s.prices(f)/c.s.rate()
	c.known[key] = sum
	return sum
}

// plan is the least plan that reaches all of these and closes what stands, in
// minutes. +Inf where there is no way.
func (c *costs) plan(targets ...plan.Target) float64 {
	for _, from := range c.from {
		if minutes, err := from.To(targets...); err == nil {
			return minutes
		}
	}
	return math.Inf(1)
}

// besides is what an attempt takes besides its plan: fitting and finals.
func besides(s *search, f []string) float64 {
	sum := 0.0
	for _, id := range f {
		if fault := s.m.Fault(id); fault != nil {
			sum += fault.SwapMinutes
		}
	}
	for i := range s.m.Finals {
		if fin := &s.m.Finals[i]; fin.Concerns(s.c.Complaint) {
			sum += fin.Minutes
		}
	}
	return sum
}

// prices of the parts of these fixes, each part once.
func (s *search) prices(f []string) float64 {
	sum := 0.0
	var bought []string
	for _, id := range f {
		fault := s.m.Fault(id)
		if fault == nil || fault.Part == "" || slices.Contains(bought, fault.Part) {
			continue
		}
		bought = append(bought, fault.Part)
		if p := s.m.Part(fault.Part); p != nil {
			sum += p.Price
		}
	}
	return sum
}

func (s *search) rate() float64 {
	if s.c.Rate > 0 {
		return s.c.Rate
	}
	return 1
}

func (s *search) otherMinutes() float64 {
	if s.complaint.OtherMinutes != nil {
		return *s.complaint.OtherMinutes
	}
	return otherMinutes
}

// remaining is R: from a closed machine, what is not made yet by single fixes
// in the order of falling chance for cost, which is optimal for single fixes
// (Heckerman, Breese and Rommelse 1995), looking wider among them. made are fixes
// that failed; they are not made again here.
func remaining(s *search, p []float64, made ...string) float64 {
	minutes, money := remains(s, p, made...)
	return minutes + money/s.rate()
}

// remains is R with its minutes and the prices of its parts apart. Looking wider
// stands among the fixes where its own chance for its cost puts it. Known faults
// are not found by it; when none of them is left to be fitted it ends the search,
// and is paid for again.
func remains(s *search, p []float64, made ...string) (minutes, money float64) {
	shut := s.at(nil)
	type one struct{ p, a, price float64 }
	var all []one
	for i, f := range s.faults {
		if slices.Contains(made, f) || slices.Contains(s.c.Tried, f) {
			continue
		}
		if f == Other {
			all = append(all, one{p[i], shut.wider(), 0})
		} else if a := shut.attempt([]string{f}); !math.IsInf(a, 1) {
			all = append(all, one{p[i], a, s.prices([]string{f})})
		}
	}
	slices.SortStableFunc(all, func(x, y one) int { return cmp.Compare(y.p/y.a, x.p/x.a) })
	left := 1.0
	for _, x := range all {
		minutes += left * (x.a - x.price/s.rate())
		money += left * x.price
		left -= (1 - finalMisses) * x.p
	}
	return minutes + max(0, left)*s.otherMinutes(), money
}

// wider is what looking wider costs from a state: closing what stands, and
// finding out what the map does not know.
func (c *costs) wider() float64 {
	const key = "/" // no fault is called so
	closing, known := c.known[key]
	if !known {
		closing = c.plan()
		c.known[key] = closing
	}
	return closing + c.s.otherMinutes()
}

// wider tells whether a fix is to look wider: nothing that is known is fitted.
func wider(fix []string) bool { return len(fix) == 0 || slices.Contains(fix, Other) }

// lookWider is the expected cost of looking wider now, with what remains when it
// finds nothing.
func lookWider(s *search, c *costs, p []float64) float64 {
	return c.wider() + s.missed(p)*remaining(s, s.without(p, Other), Other)
}

// missed is the chance that looking wider finds nothing.
func (s *search) missed(p []float64) float64 { return 1 - (1-finalMisses)*p[len(p)-1] }

// without are the chances after a fix did not help.
func (s *search) without(p []float64, fixes ...string) []float64 {
	q := slices.Clone(p)
	for i, f := range s.faults {
		if slices.Contains(fixes, f) {
			q[i] *= finalMisses
		}
	}
	return normal(q)
}

// repair is ECR(s, P): the least, over sets F of fixes made in one opening, of
// A(s, F) and what remains when it did not help. F grows by the fault that
// lowers the value most, while it falls; ties go by the map's order. Looking wider
// stands alone, and no fix at all means that only that is left.
func (s *search) repair(c *costs, p []float64) (value float64, f []string) {
	worth := func(set []int) float64 {
		var ids []string
		hit := 0.0
		q := slices.Clone(p)
		for _, i := range set {
			ids = append(ids, s.faults[i])
			hit += p[i]
			q[i] *= finalMisses
		}
		a := c.attempt(ids)
		if math.IsInf(a, 1) {
			return a
		}
		return a + (1-(1-finalMisses)*hit)*remaining(s, normal(q), ids...)
	}
	var set []int
	value = math.Inf(1)
	for {
		best, at := value, -1
		for i, id := range s.faults {
			if id == Other || slices.Contains(set, i) || slices.Contains(s.c.Tried, id) {
				continue // a fix that failed is not made again
			}
			grown := append(slices.Clone(set), i)
			slices.Sort(grown)
			if v := worth(grown); v < best-1e-9 {
				best, at = v, i
			}
		}
		if at < 0 {
			break
		}
		set, value = append(set, at), best
		slices.Sort(set)
	}
	for _, i := range set {
		f = append(f, s.faults[i])
	}
	switch {
	case math.IsInf(value, 1): // nothing that is known can be reached
		return c.wider(), nil
	case slices.Contains(s.c.Tried, Other):
	default:
		if v := lookWider(s, c, p); v < value-1e-9 {
			return v, []string{Other}
		}
	}
	return value, f
}
