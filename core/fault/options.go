package fault

import (
	"math"
	"slices"

	"evensteps/core/machine"
	"evensteps/core/plan"
)

// Option is one thing that can be done about the likeliest suspect: fit a part
// alone, fit the kit that holds it, or make one more test first. Minutes and
// Money are what it comes to on the whole, to a proven repair, so that a part
// fitted on a guess can be weighed against the test that would spare it.
type Option struct {
	Parts   []string // what is fitted; none of a test, and of a mend without a part
	Fixes   []string // the faults that this mends
	Test    string   // of a test first
	Goals   []string // what a plan has to reach for it
	Holds   float64  // the chance that this one opening mends it, and its finals pass
	Minutes float64  // expected, to a proven repair
	Money   float64  // expected prices of parts
	Own     float64  // of a test, its own minutes with the way in to it; else fitting and finals, beside the plan
	Changes float64  // of a test: the chance that it changes what is fitted
}

// Value is what an option costs on the whole in minutes, at a price of a minute.
func (o Option) Value(rate float64) float64 { return o.Minutes + o.Money/rate }

// Options are what can be fitted for the likeliest suspect, and the best test
// instead, the cheapest on the whole first. It is false where the map knows no
// such complaint.
func Options(c Case) ([]Option, bool) {
	s := begin(c)
	if s == nil {
		return nil, false
	}
	p, _ := posterior(s, s.c.Results)
	here := s.at(c.Standing)
	value, fix := s.repair(here, p)
	var out []Option
	if !wider(fix) {
		out = append(out, fitting(s, here, p, partsOf(s, fix), fix))
	}
	if top := mostLikely(s, p); top != "" {
		f := s.m.Fault(top)
		if f.Part == "" {
			out = unlike(s, out, fitting(s, here, p, nil, []string{top}))
		}
		for i := range s.m.Parts {
			if part := &s.m.Parts[i]; s.m.Renews(part, f) {
				out = unlike(s, out, fitting(s, here, p, []string{part.ID}, s.mends(part)))
			}
		}
	}
	out = slices.DeleteFunc(out, func(o Option) bool { return math.IsInf(o.Minutes, 1) })
	if next := s.worth(p, value, fix); len(next) > 0 {
		if o := s.first(next[0], p, fix); o.Changes >= tells {
			out = append(out, o)
		}
	}
	slices.SortStableFunc(out, func(a, b Option) int {
		switch x, y := a.Value(s.rate()), b.Value(s.rate()); {
		case x < y-1e-9:
			return -1
		case x > y+1e-9:
			return 1
		}
		return 0
	})
	return out, true
}

// unlike adds an option unless the same parts are among them already.
func unlike(s *search, all []Option, o Option) []Option {
	for _, k := range all {
		if slices.Equal(k.Parts, o.Parts) && (len(o.Parts) > 0 || slices.Equal(k.Fixes, o.Fixes)) {
			return all
		}
	}
	return append(all, o)
}

// mostLikely is the likeliest suspect that the map knows and nobody has mended yet.
func mostLikely(s *search, p []float64) (id string) {
	best := 0.0
	for i, f := range s.faults {
		if f != Other && p[i] > best && !slices.Contains(s.c.Tried, f) {
			best, id = p[i], f
		}
	}
	return id
}

// mends are the suspects that fitting a part mends.
func (s *search) mends(part *machine.Part) (out []string) {
	for _, id := range s.faults {
		if f := s.m.Fault(id); f != nil && s.m.Renews(part, f) {
			out = append(out, id)
		}
	}
	return out
}

func partsOf(s *search, fix []string) (out []string) {
	for _, id := range fix {
		if f := s.m.Fault(id); f.Part != "" && !slices.Contains(out, f.Part) {
			out = append(out, f.Part)
		}
	}
	return out
}

// fitting is what it comes to when these parts are fitted in one opening, for
// these faults.
func fitting(s *search, c *costs, p []float64, parts, fixes []string) Option {
	o := Option{Parts: parts, Fixes: fixes, Minutes: math.Inf(1)}
	var targets []plan.Target
	swap := 0.0
	for _, id := range parts {
		t, err := plan.Reads(s.m, "replace:"+id)
		if err != nil {
			return o
		}
		targets = append(targets, t)
		o.Goals = append(o.Goals, "replace:"+id)
		o.Money += s.m.Part(id).Price
		longest := 0.0
		for _, f := range fixes {
			if fault := s.m.Fault(f); s.m.Renews(s.m.Part(id), fault) {
				longest = max(longest, fault.SwapMinutes)
			}
		}
		swap += longest
	}
	hit := 0.0
	for i, f := range s.faults {
		if !slices.Contains(fixes, f) {
			continue
		}
		hit += p[i]
		if fault := s.m.Fault(f); fault.Part == "" {
			targets = append(targets, plan.Target{Needs: fault.Reach})
			o.Goals = append(o.Goals, plan.ItemGoals(fault.Reach)...)
			swap += fault.SwapMinutes
		}
	}
	o.Own = swap + besides(s, nil)
	o.Holds = (1 - finalMisses) * hit
	if minutes := c.plan(targets...); !math.IsInf(minutes, 1) {
		later, money := remains(s, s.without(p, fixes...), fixes...)
		o.Minutes = minutes + o.Own + (1-o.Holds)*later
		o.Money += (1 - o.Holds) * money
	}
	return o
}

// first is what it comes to when one more test is made and then the fix that is
// best after what it showed.
func (s *search) first(step Step, p []float64, fix []string) Option {
	o := Option{Test: step.Test, Own: step.Minutes, Minutes: step.Minutes, Goals: []string{"test:" + step.Test}}
	t := s.test(step.Test)
	if walk, is := s.m.Stretch(step.Test); is {
		o.Goals = plan.ItemGoals(walk.Needs())
	}
	_, _, then, _ := s.to(t)
	from := s.at(then)
	for k := range t.outcomes {
		q, chance := after(p, t.given[k])
		_, best := s.repair(from, q)
		if !slices.Equal(best, fix) {
			o.Changes += chance
		}
		if wider(best) {
			later, money := remains(s, s.without(q, Other), Other)
			o.Minutes += chance * (from.wider() + s.missed(q)*later)
			o.Money += chance * s.missed(q) * money
			continue
		}
		f := fitting(s, from, q, partsOf(s, best), best)
		o.Minutes += chance * f.Minutes
		o.Money += chance * f.Money
		o.Holds += chance * f.Holds
	}
	return o
}

// Speaks gives what tells whether a result speaks for a fault: it is so many
// times as likely under it as under the other suspects together. It is nil where
// the map knows no such complaint.
func Speaks(c Case) func(r Result, id string) bool {
	s := begin(c)
	if s == nil {
		return nil
	}
	p := s.prior()
	return func(r Result, id string) bool { return speaksFor(s, p, r, id) }
}
