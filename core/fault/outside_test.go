package fault

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/machine"
)

// The burglary network of Russell and Norvig (from memory): P(burglary | John
// calls, Mary calls) = 0.284171835, here by Bayes' rule over its joint states.
func TestBayesRuleOnTheBurglaryNetwork(t *testing.T) {
	burglary, quake := 0.001, 0.002
	alarm := map[[2]bool]float64{{true, true}: 0.95, {true, false}: 0.94, {false, true}: 0.29, {false, false}: 0.001}
	is := func(p float64, yes bool) float64 {
		if yes {
			return p
		}
		return 1 - p
	}
	var prior, given []float64
	var burgled []bool
	for _, b := range []bool{true, false} {
		for _, e := range []bool{true, false} {
			for _, a := range []bool{true, false} {
				prior = append(prior, is(burglary, b)*is(quake, e)*is(alarm[[2]bool{b, e}], a))
				john, mary := 0.05, 0.01
				if a {
					john, mary = 0.90, 0.70
				}
				given = append(given, john*mary)
				burgled = append(burgled, b)
			}
		}
	}
	q, _ := after(prior, given)
	sum := 0.0
	for i := range q {
		if burgled[i] {
			sum += q[i]
		}
	}
	assert.InDelta(t, 0.284171835, sum, 1e-9)
}

// Test sequencing after Pattipati and Alexandridis 1990 (their example, from
// memory): six states, five tests that cost one each; the least expected number
// of tests is 2.18. The states of knowledge are Bayes' rule's own.
func TestBayesRuleUnderASequenceOfTests(t *testing.T) {
	prior := []float64{.70, .01, .02, .10, .05, .12}
	rows := []string{"00000", "01001", "00110", "10011", "11000", "11110"} // a state's answers to the tests
	column := func(k int, answer byte) []float64 {
		out := make([]float64, len(rows))
		for i, r := range rows {
			if r[k] == answer {
				out[i] = 1
			}
		}
		return out
	}
	var least func(p []float64, made string) float64
	known := map[string]float64{}
	least = func(p []float64, made string) float64 {
		if slices.Max(p) > 1-1e-9 {
			return 0
		}
		key := fmt.Sprintf("%.6f", p)
		if v, is := known[key]; is {
			return v
		}
		best := math.Inf(1)
		for k := range 5 {
			if strings.Contains(made, fmt.Sprint(k)) {
				continue
			}
			sum := 1.0
			for _, answer := range []byte("01") {
				given := column(k, answer)
				chance := 0.0
				for i := range p {
					chance += p[i] * given[i]
				}
				if chance > 0 {
					q, _ := after(p, given)
					sum += chance * least(q, made+fmt.Sprint(k))
				}
			}
			best = min(best, sum)
		}
		known[key] = best
		return best
	}
	assert.InDelta(t, 2.18, least(prior, ""), 1e-9)
}

// along is a series path with a suspect in each gap, all within reach, all alike
// but for their weights.
func along(weights ...float64) *machine.Map {
	m := &machine.Map{Format: machine.Format, ID: "path", Title: "Path", Kind: "other", Revision: 1}
	nothing := 0.0
	c := machine.Complaint{ID: "c", Name: "C", Faults: map[string]float64{Other: 1e-6}, OtherMinutes: &nothing}
	path := machine.Circuit{ID: "p", Name: "Path", Points: []machine.Point{{ID: "p0", Name: "P0"}}}
	for i, w := range weights {
		id := fmt.Sprintf("f%d", i)
		m.Faults = append(m.Faults, machine.Fault{ID: id, Name: id, SwapMinutes: 30})
		c.Faults[id] = w
		path.Points = append(path.Points, machine.Point{ID: fmt.Sprintf("p%d", i+1), Name: fmt.Sprintf("P%d", i+1)})
		path.Between = append(path.Between, []string{id})
	}
	m.Complaints, m.Circuits = []machine.Complaint{c}, []machine.Circuit{path}
	return m
}

// probes is how many tests along the path are advised, for each fault that it
// can be, until that fault is four times likelier than all others together. The textbooks'
// tests do not err; the program's err now and then, so it asks on after that.
func probes(t *testing.T, m *machine.Map) (out []int, found []string) {
	t.Helper()
	out = make([]int, len(m.Faults))
	for at := range m.Faults {
		c := Remember(Case{Map: m, Complaint: "c"})
		for range 20 {
			a, ok := Find(c)
			require.True(t, ok)
			if a.Suspects[0].P > 0.8 {
				found = append(found, a.Suspects[0].Fault)
				break
			}
			s, is := m.Stretch(a.Next[0].Test)
			require.True(t, is, "%+v", a.Next[0])
			outcome := "closed"
			if s.From <= at && at < s.To {
				outcome = "open"
			}
			c.Results = append(c.Results, Result{Test: a.Next[0].Test, Outcome: outcome})
			out[at]++
		}
	}
	return out, found
}

// Half-split: with equal parts a walk of n gaps needs n⌈log₂ n⌉ + n − 2^⌈log₂ n⌉
// probes over all its n faults (textbook): 2 for two gaps, 8 for four, 24 for
// eight.
func TestACircuitIsHalved(t *testing.T) {
	for n, want := range map[int]int{2: 2, 4: 8, 8: 24} {
		sum := 0
		m := along(slices.Repeat([]float64{1}, n)...)
		made, found := probes(t, m)
		for at, k := range made {
			sum += k
			assert.Equal(t, m.Faults[at].ID, found[at])
		}
		assert.Equal(t, want, sum, "%d gaps", n)
	}
}

// With unequal weights no walk that keeps their order needs fewer probes than
// the alphabetic tree of Hu and Tucker: 224 for 45, 13, 12, 16, 9, 5; 19 for 1, 2,
// 3, 4; 190 for 10, 20, 30, 40 (from memory, and by a table of intervals). The
// program's walk ends at a repair, not at certainty, and its tests err now and
// then: it comes within a tenth of the tree.
func TestAnUnequalCircuitIsPartedByWeight(t *testing.T) {
	for _, c := range []struct {
		weights []float64
		tree    float64
	}{{[]float64{45, 13, 12, 16, 9, 5}, 224}, {[]float64{1, 2, 3, 4}, 19}, {[]float64{10, 20, 30, 40}, 190}} {
		sum := 0.0
		made, _ := probes(t, along(c.weights...))
		for i, k := range made {
			sum += c.weights[i] * float64(k)
		}
		assert.InEpsilon(t, c.tree, sum, 0.1, "%v", c.weights)
	}
}

// looked plays the search for each fault of a machine whose tests do not err, and
// returns the expected minutes of its looks with their ways in, by the weights.
func looked(t *testing.T, m *machine.Map) (sum float64, first string) {
	t.Helper()
	for _, f := range m.Faults {
		c := Remember(Case{Map: m, Complaint: "c"})
		for range 10 {
			a, ok := Find(c)
			require.True(t, ok)
			step := a.Next[0]
			if step.Test == "" {
				assert.Equal(t, f.ID, step.Fix[0], "found")
				break
			}
			if first == "" {
				first = step.Test
			}
			sum += m.Complaints[0].Faults[f.ID] * step.Minutes
			c.Standing = append(slices.Clone(c.Standing), step.Access...)
			outcome := "sound"
			if step.Test == "look-"+f.ID {
				outcome = "broken"
			}
			c.Results = append(c.Results, Result{Test: step.Test, Outcome: outcome})
		}
	}
	return sum, first
}

// parts is a machine with one look for each of its parts, that costs so much.
func parts(weights, looks []float64) *machine.Map {
	long := 600.0
	m := &machine.Map{Format: machine.Format, ID: "parts", Title: "Parts", Kind: "other", Revision: 1}
	c := machine.Complaint{ID: "c", Name: "C", Faults: map[string]float64{Other: 1e-6}, OtherMinutes: &long}
	for i, w := range weights {
		id := fmt.Sprintf("f%d", i+1)
		m.Faults = append(m.Faults, machine.Fault{ID: id, Name: id, SwapMinutes: 300})
		c.Faults[id] = w
		test := machine.Test{Ask: "?", Outcomes: []machine.Outcome{{ID: "broken", Given: map[string]float64{id: 1}}, {ID: "sound", Rest: true}}}
		test.ID, test.Title, test.Face, test.Minutes = "look-"+id, "Look", "front", looks[i]
		m.Tests = append(m.Tests, test)
	}
	m.Complaints = []machine.Complaint{c}
	return m
}

// Looks that share their access: behind a front panel of ten minutes lie two
// parts, behind a rear one two others, each look a minute; chances 0.30, 0.15,
// 0.29 and 0.26. By falling chance over cost the looks come to 19.26 minutes, in
// the best order 16.81 (both by trying every order). The search goes for the panel
// that is worth more, and spares the last look, which tells nothing.
func TestLooksThatShareTheirAccess(t *testing.T) {
	m := parts([]float64{.30, .15, .29, .26}, []float64{1, 1, 1, 1})
	for i, id := range []string{"front", "rear"} {
		m.Items = append(m.Items, machine.Item{ID: id, Name: id, Type: "cover"})
		m.Moves = append(m.Moves, machine.Move{ID: id + "-off", Title: id, Takes: map[string]machine.Level{id: machine.Away}, Face: "front", OneWay: true, Minutes: machine.Minutes{Out: 10}})
		for _, k := range []int{2 * i, 2*i + 1} {
			m.Tests[k].Needs = machine.Needs{id: machine.Away}
		}
	}
	sum, first := looked(t, m)
	assert.Contains(t, []string{"look-f3", "look-f4"}, first, "the rear first: 0.55 lie behind it")
	assert.LessOrEqual(t, sum, 16.81)
	assert.InDelta(t, 16.81-0.15, sum, 0.01, "the best order, less the last look")
}

// The last candidate is known by elimination: weights 7, 9 and 3, looks of 9, 3
// and 4 minutes. By falling chance over cost 147/19 minutes, at best 97/19 (by
// trying every order).
func TestTheLastIsKnownByElimination(t *testing.T) {
	sum, first := looked(t, parts([]float64{7. / 19, 9. / 19, 3. / 19}, []float64{9, 3, 4}))
	assert.Equal(t, "look-f2", first)
	assert.InDelta(t, 97./19, sum, 1e-9)
}
