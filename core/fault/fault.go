// Package fault weighs what can be wrong, and says which test or which repair
// is worth most now.
//
// Suspects are weighed by Bayes' rule over the complaint's weights, what the
// company's own closed jobs add, and every result so far. What a test or a fix
// is worth is reckoned in minutes of the whole repair: the way in and back from
// the present state, parts in minutes by the company's rate, and what is still
// to be tried when it does not help.
package fault

import (
	"math"
	"slices"

	"evensteps/core/machine"
)

// begin reads a case. It is nil where the complaint is not of this map.
func begin(c Case) *search {
	if c.memory == nil {
		c = Remember(c)
	}
	s := &search{c: c, memory: c.memory, m: c.memory.with(c)}
	k := s.memory.known[s.m]
	if k == nil {
		k = s.knows()
		s.memory.known[s.m] = k
	}
	if s.complaint, s.faults, s.tests = k.complaint, k.faults, k.tests; s.complaint == nil {
		return nil
	}
	s.made = s.c.Results
	s.c.Results = holding(s)
	return s
}

// knows reads the suspects and tests of a complaint.
func (s *search) knows() *known {
	if s.complaint = s.m.Complaint(s.c.Complaint); s.complaint == nil {
		return &known{}
	}
	for i := range s.m.Faults {
		if id := s.m.Faults[i].ID; s.complaint.Faults[id] > 0 || s.c.Closed[id] > 0 {
			s.faults = append(s.faults, id)
		}
	}
	s.faults = append(s.faults, Other)
	for i := range s.m.Tests {
		if t := &s.m.Tests[i]; len(t.Outcomes) > 0 {
			s.tests = append(s.tests, s.reads(t))
		}
	}
	s.walks()
	s.looks()
	for k := range s.tests {
		s.tests[k].parts = s.tests[k].tellsApart()
	}
	return &known{s.complaint, s.faults, s.tests}
}

// holding are the results that still count. One that spoke for what was fitted
// after it is void once that did not help: it was explained by a fault that is
// gone, and its test is offered again.
func holding(s *search) []Result {
	if len(s.c.Tried) == 0 || s.c.played != nil && s.c.played.exact {
		return s.c.Results
	}
	p := s.prior()
	return slices.DeleteFunc(slices.Clone(s.c.Results), func(r Result) bool {
		return slices.ContainsFunc(s.c.Tried[min(r.Tried, len(s.c.Tried)):], func(f string) bool { return f != Other && speaksFor(s, p, r, f) })
	})
}

// speaksFor tells whether a result is so many times as likely under a fault as
// under the other suspects together, as they stand at p.
func speaksFor(s *search, p []float64, r Result, id string) bool {
	t := s.test(r.Test)
	at := slices.Index(s.faults, id)
	if t == nil || at < 0 {
		return false
	}
	o := slices.Index(t.outcomes, r.Outcome)
	if o < 0 {
		return false
	}
	others, weight := 0.0, 0.0
	for i := range p {
		if i != at {
			others += p[i] * t.given[o][i]
			weight += p[i]
		}
	}
	return t.given[o][at] >= speaks*others/weight
}

// prior is the chance of each suspect before any result: the complaint's
// weights as so many jobs, and the company's own beside them (Dirichlet counts).
func (s *search) prior() []float64 {
	sum := 0.0
	w := make([]float64, len(s.faults))
	for i, f := range s.faults {
		w[i] = s.complaint.Faults[f]
		sum += w[i]
	}
	if last := len(w) - 1; w[last] == 0 {
		w[last] = otherShare * max(sum, 1)
		sum += w[last]
	}
	for i, f := range s.faults {
		w[i] = mapJobs*w[i]/sum + float64(s.c.Closed[f])
	}
	return normal(w)
}

// reads lays a test's likelihoods out: given where the fault is named, else
// where it is not, and rest takes what remains.
func (s *search) reads(t *machine.Test) test {
	out := test{id: t.ID, of: t}
	for k := range t.Outcomes {
		out.outcomes = append(out.outcomes, t.Outcomes[k].ID)
		out.given = append(out.given, make([]float64, len(s.faults)))
	}
	for i, f := range s.faults {
		left, rest := 1.0, -1
		for k := range t.Outcomes {
			o := &t.Outcomes[k]
			p, named := o.Given[f]
			switch {
			case named:
			case o.Rest:
				rest = k
				continue
			case o.Else != nil:
				p = *o.Else
			}
			out.given[k][i] = p
			left -= p
		}
		if rest >= 0 {
			out.given[rest][i] = max(0, left)
		}
	}
	return out.mixed()
}

// looks adds what is seen in passing at a step and speaks for a suspect.
func (s *search) looks() {
	for i := range s.m.Moves {
		mv := &s.m.Moves[i]
		for k, in := range mv.Inspect {
			at := slices.Index(s.faults, in.Fault)
			if at < 0 {
				continue
			}
			found, nothing := make([]float64, len(s.faults)), make([]float64, len(s.faults))
			for f := range s.faults {
				found[f] = seenFalse
				if f == at {
					found[f] = seenHit
				}
				nothing[f] = 1 - found[f]
			}
			s.tests = append(s.tests, test{id: machine.LookID(mv.ID, k), passing: true, outcomes: []string{"found", machine.Nothing}, given: [][]float64{found, nothing}}.mixed())
		}
	}
}

func (t test) mixed() test {
	for k := range t.given {
		for i := range t.given[k] {
			t.given[k][i] = (1-uniform)*t.given[k][i] + uniform/float64(len(t.outcomes))
		}
	}
	return t
}

func (s *search) test(id string) *test {
	for k := range s.tests {
		if s.tests[k].id == id {
			return &s.tests[k]
		}
	}
	return nil
}

// posterior is the chance of each suspect after these results and the fixes that
// did not help. contradiction tells that the last result was hardly to be expected.
func posterior(s *search, results []Result) (p []float64, contradiction bool) {
	p = s.prior()
	last := map[string]int{}
	for k, r := range results {
		last[r.Test] = k
	}
	for k, r := range results {
		if last[r.Test] != k {
			continue
		}
		t := s.test(r.Test)
		if t == nil {
			continue
		}
		if o := slices.Index(t.outcomes, r.Outcome); o >= 0 {
			q, chance := after(p, t.given[o])
			p, contradiction = q, chance < surprise
		}
	}
	for _, f := range s.c.Tried {
		if i := slices.Index(s.faults, f); i >= 0 {
			p = slices.Clone(p)
			p[i] *= finalMisses
			p = normal(p)
		}
	}
	return p, contradiction
}

// Chances are the chances of the suspects as they stand; nil where the map knows
// no such complaint.
func Chances(c Case) map[string]float64 {
	s := begin(c)
	if s == nil {
		return nil
	}
	p, _ := posterior(s, s.c.Results)
	out := map[string]float64{}
	for i, f := range s.faults {
		out[f] = p[i]
	}
	return out
}

// after is Bayes' rule in log space: chances times likelihoods, made to add up
// to one; chance is what the result was expected with.
func after(p, given []float64) (q []float64, chance float64) {
	q = make([]float64, len(p))
	most := math.Inf(-1)
	for i := range p {
		chance += p[i] * given[i]
		q[i] = math.Log(p[i]) + math.Log(given[i])
		most = max(most, q[i])
	}
	sum := 0.0
	for i := range q {
		q[i] = math.Exp(q[i] - most)
		sum += q[i]
	}
	for i := range q {
		q[i] /= sum
	}
	return q, chance
}

func normal(w []float64) []float64 {
	sum := 0.0
	for _, v := range w {
		sum += v
	}
	out := make([]float64, len(w))
	for i, v := range w {
		out[i] = v / sum
	}
	return out
}

func (t test) tellsApart() bool {
	for _, row := range t.given {
		if slices.Max(row)-slices.Min(row) > 1e-9 {
			return true
		}
	}
	return false
}

// walks adds the tests that follow from the circuits: a dead test of a minute
// between any two points. Only pairs that part the suspects are worth having.
func (s *search) walks() {
	for i := range s.m.Circuits {
		c := &s.m.Circuits[i]
		for from := range c.Points {
			for to := from + 1; to < len(c.Points); to++ {
				between := slices.Concat(c.Between[from:to]...)
				open, closed, parts := make([]float64, len(s.faults)), make([]float64, len(s.faults)), 0
				for k, f := range s.faults {
					open[k] = walkFalse
					if slices.Contains(between, f) {
						open[k] = walkHit
						parts++
					}
					closed[k] = 1 - open[k]
				}
				if parts == 0 {
					continue
				}
				walk := machine.Stretch{Circuit: c, From: from, To: to}
				t := test{id: walk.Test(), needs: walk.Needs(), outcomes: []string{"closed", "open"}, given: [][]float64{closed, open}}
				for _, id := range s.m.Mains() {
					t.needs[id] = machine.Proven
				}
				s.tests = append(s.tests, t.mixed())
			}
		}
	}
}
