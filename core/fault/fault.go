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
	"strings"

	"evensteps/core/machine"
)

// Other is what the map does not know. It is always a suspect.
const Other = "other"

// What is judgement and no measurement, kept in one place.
const (
	mapJobs      = 10.0  // the map's weights count as so many closed jobs
	uniform      = 0.005 // share of every likelihood that is spread evenly
	otherShare   = 0.02  // weight of Other where a complaint gives it none
	finalMisses  = 0.03  // a right fix still fails its final with this chance
	leastGain    = 0.1   // minutes from which a test is advised
	speaks       = 3.0   // a result that is so many times likelier under a fault speaks for it
	looksFirst   = 0.5   // a look that costs no opening goes first from this share of the greatest gain
	tells        = 0.025 // a test that changes what is fitted less often is no choice
	surprise     = 0.05  // a result less likely than this contradicts the rest
	otherMinutes = 120.0 // finding out what the map does not know
	walkMinutes  = 1.0   // a continuity test along a circuit
	walkHit      = 0.98  // it is open where the fault lies between its points
	walkFalse    = 0.01  // and where it does not
	seenHit      = 0.9   // what a look speaks for is seen where that is the fault
	seenFalse    = 0.05  // and where it is not
)

// Result is what one test showed, and how many fixes had been tried by then.
type Result struct {
	Test    string
	Outcome string
	Tried   int
}

// Case is what is asked: a complaint on a machine in a state, with what is known.
type Case struct {
	Map       *machine.Map // whole; its options are applied here
	Answers   map[string]string
	Complaint string
	Results   []Result // in order; a repeated test replaces its earlier result
	Tried     []string // fixes that were made and whose final still failed, in order; Other: one looked wider
	Standing  []string // moves that stand, in the order they were made
	Found     map[string]machine.Level
	People    int            // 0 means not stated: 1, and 2 where 1 has no way
	Rate      float64        // price of a minute, to reckon parts in minutes; 0 means 1
	Closed    map[string]int // the company's closed jobs of this complaint, by fault
	NotDone   []string       // tests that cannot be made
	memory    *memory        // what is worked out already for this machine and complaint; see Remember
	played    *played        // in a trial: what is true of it, whatever the search believes
}

// Suspect is a fault with its chance now, and before the last result.
type Suspect struct {
	Fault string
	P     float64
	Was   float64
}

// search is a case with what is worked out of it once.
type search struct {
	c         Case
	m         *machine.Map // options applied
	complaint *machine.Complaint
	faults    []string // suspects in the map's order, Other last
	tests     []test
	made      []Result // all, those that are void, too
	*memory
}

// memory is what is worked out once for a machine and a complaint and serves
// every state of the search.
type memory struct {
	maps  map[string]*machine.Map // options applied, by what stands
	known map[*machine.Map]*known // what is read of each of those
	costs map[string]*costs       // of attempts, by what stands
	ways  map[string]way          // to tests, by what stands
}

// known is what is read of a map for a complaint: its suspects, and its tests.
type known struct {
	complaint *machine.Complaint
	faults    []string
	tests     []test
}

type way struct {
	access   []string
	minutes  float64
	standing []string
	ok       bool
}

// Remember gives a case a memory: whoever asks of it again, with other results,
// other fixes tried or other moves standing, waits less. Map, answers, complaint,
// what was found, people and closed jobs must stay the same.
func Remember(c Case) Case {
	c.memory = &memory{maps: map[string]*machine.Map{}, known: map[*machine.Map]*known{}, costs: map[string]*costs{}, ways: map[string]way{}}
	return c
}

func (y *memory) with(c Case) *machine.Map {
	key := strings.Join(c.Standing, ",")
	if y.maps[key] == nil {
		y.maps[key] = c.Map.With(c.Answers, c.Standing...)
	}
	return y.maps[key]
}

// on is the map to plan on from these standing moves: the one with the options
// applied where they are the present ones, else the whole.
func (s *search) on(standing []string) *machine.Map {
	if slices.Equal(standing, s.c.Standing) {
		return s.m
	}
	return s.c.Map
}

// test is a test of the map, or one along a circuit, with the chance of each
// outcome under each fault, mixed with a little of the even chance.
type test struct {
	id       string
	of       *machine.Test // nil of one along a circuit
	needs    machine.Needs // of one along a circuit: what must be open, and proven off
	outcomes []string
	given    [][]float64 // outcome x fault, as faults are ordered
	parts    bool        // it tells some two suspects apart
	passing  bool        // seen in passing at a step: it weighs, and is never advised
}

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
	s.c.Results = s.holding()
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
func (s *search) holding() []Result {
	if len(s.c.Tried) == 0 || s.c.played != nil && s.c.played.exact {
		return s.c.Results
	}
	p := s.prior()
	return slices.DeleteFunc(slices.Clone(s.c.Results), func(r Result) bool {
		return slices.ContainsFunc(s.c.Tried[min(r.Tried, len(s.c.Tried)):], func(f string) bool { return f != Other && s.speaksFor(p, r, f) })
	})
}

// speaksFor tells whether a result is so many times as likely under a fault as
// under the other suspects together, as they stand at p.
func (s *search) speaksFor(p []float64, r Result, id string) bool {
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
func (s *search) posterior(results []Result) (p []float64, contradiction bool) {
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
	p, _ := s.posterior(s.c.Results)
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
