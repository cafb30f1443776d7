package fault

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/machine"
	"evensteps/library"
)

func dryer(t testing.TB) *machine.Map {
	t.Helper()
	m, err := library.Map("tidemoor-tv6")
	require.NoError(t, err)
	return m
}

// Bayes' rule on worked examples. A noisy test: prior .6 .3 .1, pass with .9
// .2 .5, gives .54/.65, .06/.65, .05/.65 (by hand). A screening test of a rare
// thing: 1 %, found with 80 %, false alarm 9.6 %, gives 7.764 % (Eddy 1982, from
// memory); 1 in 1000, never missed, false alarm 5 %, gives 1.963 % (Casscells
// 1978, from memory).
func TestBayes(t *testing.T) {
	for _, c := range []struct{ prior, given, want []float64 }{
		{[]float64{.6, .3, .1}, []float64{.9, .2, .5}, []float64{.54 / .65, .06 / .65, .05 / .65}},
		{[]float64{.01, .99}, []float64{.8, .096}, []float64{.01 * .8 / (.01*.8 + .99*.096), .99 * .096 / (.01*.8 + .99*.096)}},
		{[]float64{.001, .999}, []float64{1, .05}, []float64{.001 / (.001 + .999*.05), .999 * .05 / (.001 + .999*.05)}},
	} {
		q, chance := after(c.prior, c.given)
		assert.InDeltaSlice(t, c.want, q, 1e-12)
		want := 0.0
		for i := range c.prior {
			want += c.prior[i] * c.given[i]
		}
		assert.InDelta(t, want, chance, 1e-12)
	}
	q, _ := after([]float64{.01, .99}, []float64{.8, .096})
	assert.InDelta(t, 0.07764, q[0], 5e-6)
	q, _ = after([]float64{.001, .999}, []float64{1, .05})
	assert.InDelta(t, 0.01963, q[0], 5e-6)
	// A likelihood of hardly anything does not end in not-a-number.
	q, _ = after([]float64{0.5, 0.5}, []float64{1e-300, 1e-300})
	assert.InDeltaSlice(t, []float64{0.5, 0.5}, q, 1e-12)
}

// machineOf has one fix for each cost, reached from the front, with no finals.
func machineOf(costs []float64, weights []float64) *machine.Map {
	m := &machine.Map{Format: machine.Format, ID: "m", Title: "M", Kind: "other", Revision: 1}
	nothing := 0.0
	c := machine.Complaint{ID: "c", Name: "C", Faults: map[string]float64{}, OtherMinutes: &nothing}
	for i := range costs {
		id := string(rune('a' + i))
		m.Faults = append(m.Faults, machine.Fault{ID: id, Name: id, SwapMinutes: costs[i]})
		c.Faults[id] = weights[i]
	}
	m.Complaints = []machine.Complaint{c}
	return m
}

// Single fixes by falling chance for cost (Heckerman, Breese and Rommelse,
// CACM 1995): p = (.5, .3, .2), c = (10, 3, 1) costs 8.4 in the order 3, 2, 1,
// the least of all six orders; p = (.35, .25, .20, .15, .05), c = (30, 10, 24,
// 6, 1) costs 36. Both computed by brute force apart from this program, with
// fixes that never fail.
func TestTheOrderOfSingleFixes(t *testing.T) {
	for _, c := range []struct {
		p, costs []float64
		want     float64
	}{
		{[]float64{.5, .3, .2}, []float64{10, 3, 1}, 8.4},
		{[]float64{.35, .25, .20, .15, .05}, []float64{30, 10, 24, 6, 1}, 36},
	} {
		s := begin(Case{Map: machineOf(c.costs, c.p), Complaint: "c"})
		require.NotNil(t, s)
		p := append(append([]float64{}, c.p...), 0)
		// A final misses 3 in 100; so the sum is a little above the worked one,
		// and never below it.
		got := remaining(s, p)
		assert.GreaterOrEqual(t, got, c.want)
		assert.Less(t, got, c.want*1.06)
		least := math.Inf(1)
		permute(len(c.p), func(order []int) {
			left, sum := 1.0, 0.0
			for _, i := range order {
				sum += left * c.costs[i]
				left -= (1 - finalMisses) * c.p[i]
			}
			least = min(least, sum)
		})
		assert.InDelta(t, least, got, 1e-9, "the least of all orders, the misses reckoned in")
	}
}

func permute(n int, use func([]int)) {
	order := make([]int, n)
	for i := range order {
		order[i] = i
	}
	var swap func(k int)
	swap = func(k int) {
		if k == n {
			use(order)
			return
		}
		for i := k; i < n; i++ {
			order[k], order[i] = order[i], order[k]
			swap(k + 1)
			order[k], order[i] = order[i], order[k]
		}
	}
	swap(0)
}

// Fixes that share a way in are worth making in one opening, which an order of
// single fixes cannot see (the shared-access counter-example).
func TestFixesThatShareAWayInAreMadeTogether(t *testing.T) {
	m := machineOf([]float64{1, 1, 1, 1}, []float64{.30, .15, .29, .26})
	for _, panel := range []string{"one", "two"} {
		m.Items = append(m.Items, machine.Item{ID: panel, Name: panel, Type: "cover", Face: "front"})
		m.Moves = append(m.Moves, machine.Move{ID: panel + "-off", Title: panel, Takes: map[string]machine.Level{panel: machine.Away}, Face: "front", Minutes: machine.Minutes{Out: 5, Back: 5}})
	}
	for i := range m.Faults {
		m.Faults[i].Reach = machine.Needs{[]string{"one", "two"}[i/2]: machine.Away}
	}
	a, ok := Find(Case{Map: m, Complaint: "c"})
	require.True(t, ok)
	assert.Contains(t, [][]string{{"a", "b"}, {"c", "d"}}, a.Next[0].Fix, "both behind one panel")
	single := begin(Case{Map: m, Complaint: "c"})
	p, _ := posterior(single, nil)
	assert.Less(t, a.Expected, remaining(single, p), "and that saves minutes")
}

// What a suspect's chance was is what the search gave without the last result,
// also where that result repeats a test and takes its earlier result's place.
func TestTheChanceBeforeTheLastResult(t *testing.T) {
	c := Case{Map: dryer(t), Complaint: "no-heat", Answers: map[string]string{"fuel": "electric"}, People: 2}
	for _, r := range []Result{{}, {Test: "element-ohms", Outcome: "within"}, {Test: "circuit:heat-line/block/cutoff", Outcome: "closed"}, {Test: "element-ohms", Outcome: "open"}} {
		before, ok := Find(c)
		require.True(t, ok)
		if r.Test == "" {
			for _, s := range before.Suspects {
				assert.Equal(t, s.P, s.Was, "nothing was found yet")
			}
			continue
		}
		c.Results = append(c.Results, r)
		after, ok := Find(c)
		require.True(t, ok)
		moved := false
		for _, s := range after.Suspects {
			i := slices.IndexFunc(before.Suspects, func(o Suspect) bool { return o.Fault == s.Fault })
			assert.InDelta(t, before.Suspects[i].P, s.Was, 1e-12, "%s after %s", s.Fault, r.Test)
			moved = moved || math.Abs(s.P-s.Was) > 0.01
		}
		assert.True(t, moved, "%s moves somebody", r.Test)
	}
}

// The goals of a fix are what a plan has to reach for it; those of a test are
// the way's own affair.
func TestTheGoalsOfAFix(t *testing.T) {
	c := Case{Map: dryer(t), Complaint: "no-heat", Answers: map[string]string{"fuel": "electric"}, People: 2}
	c.Results = []Result{{Test: "element-ohms", Outcome: "open"}}
	a, ok := Find(c)
	require.True(t, ok)
	for _, s := range a.Next {
		if s.Test != "" {
			assert.Empty(t, s.Goals, s.Test)
			continue
		}
		assert.Equal(t, []string{"element-open"}, s.Fix)
		assert.Equal(t, []string{"replace:element-kit"}, s.Goals)
	}
}

// The advice is sound on every complaint of the library: chances add up to one,
// a test that is advised saves something, and a search without noise ends at the
// fault that is there.
func TestASearchWithoutNoiseEndsAtTheFault(t *testing.T) {
	machines, err := library.Maps()
	require.NoError(t, err)
	for _, m := range machines {
		for _, answers := range everyAnswer(m) {
			t.Run(fmt.Sprint(m.ID, answers), func(t *testing.T) {
				t.Parallel()
				with := m.With(answers)
				for _, complaint := range with.Complaints {
					for id := range complaint.Faults {
						if id != Other && with.Fault(id) != nil {
							assert.True(t, ends(t, Remember(Case{Map: m, Answers: answers, Complaint: complaint.ID, People: 2}), id), "%s: %s is never found", complaint.ID, id)
						}
					}
				}
			})
		}
	}
}

// ends plays a search without noise and tells whether it comes to the fault.
func ends(t *testing.T, c Case, id string) bool {
	for range 60 {
		a, ok := Find(c)
		require.True(t, ok)
		sum := 0.0
		for _, s := range a.Suspects {
			sum += s.P
		}
		require.InDelta(t, 1, sum, 1e-9)
		next := a.Next[0]
		if next.Test == "" {
			if slices.Contains(next.Fix, id) {
				return true
			}
			if slices.Contains(next.Fix, Other) {
				return false
			}
			c.Tried = append(c.Tried, next.Fix...)
			c.Standing = nil
			continue
		}
		require.GreaterOrEqual(t, next.Gain, leastGain)
		c.Results = append(c.Results, Result{next.Test, likeliest(c, next.Test, id), len(c.Tried)})
		_, _, c.Standing, _ = begin(c).to(begin(c).test(next.Test))
	}
	return false
}

// everyAnswer is every way of answering a map's options, one at a time.
func everyAnswer(m *machine.Map) []map[string]string {
	all := []map[string]string{{}}
	for _, o := range m.Options {
		for _, v := range o.Values {
			all = append(all, map[string]string{o.ID: v})
		}
	}
	return all
}

// likeliest is the outcome of a test that the true fault makes likeliest.
func likeliest(c Case, id, fault string) string {
	s := begin(c)
	t := s.test(id)
	at := 0
	for i, f := range s.faults {
		if f == fault {
			at = i
		}
	}
	best := 0
	for o := range t.outcomes {
		if t.given[o][at] > t.given[best][at] {
			best = o
		}
	}
	return t.outcomes[best]
}

func TestWhatIsKnownChangesTheSuspects(t *testing.T) {
	m := dryer(t)
	of := func(c Case) map[string]float64 {
		c.Map, c.Complaint = m, "no-heat"
		a, ok := Find(c)
		require.True(t, ok)
		p := map[string]float64{}
		for _, s := range a.Suspects {
			p[s.Fault] = s.P
		}
		return p
	}
	bare := of(Case{})
	assert.InDelta(t, 35.0/93, bare["element-open"], 1e-9, "electric: 35 of 35, 25, 7, 8, 4, 3, 3 and 8")
	open := of(Case{Results: []Result{{Test: "element-ohms", Outcome: "open"}}})
	assert.Greater(t, open["element-open"], 0.97)
	assert.Less(t, open["element-open"], 1.0, "never quite certain")
	assert.Equal(t, open, of(Case{Results: []Result{{Test: "element-ohms", Outcome: "within"}, {Test: "element-ohms", Outcome: "open"}}}), "a repeated test replaces its earlier result")
	assert.Equal(t, bare, of(Case{Results: []Result{{Test: "element-ohms", Outcome: "unsure"}}}), "a reading that cannot tell changes nothing")
	tried := of(Case{Tried: []string{"element-open"}})
	assert.Less(t, tried["element-open"], 0.03)
	assert.Greater(t, tried["element-open"], 0.0, "a final misses now and then")
	many := of(Case{Closed: map[string]int{"cutoff-open": 40}})
	assert.Greater(t, many["cutoff-open"], many["element-open"], "the company's own jobs count beside the map")

	a, _ := Find(Case{Map: m, Complaint: "no-heat", Results: []Result{{Test: "element-ohms", Outcome: "low"}}})
	assert.True(t, a.Contradiction, "hardly to be expected: said plainly")
	_, ok := Find(Case{Map: m, Complaint: "sings"})
	assert.False(t, ok)
}

func TestTestsThatSayNothingAreNotOffered(t *testing.T) {
	m := dryer(t)
	offered := func(c Case) bool {
		c.Map, c.Complaint = m, "not-turning"
		a, ok := Find(c)
		require.True(t, ok)
		for _, s := range a.Next {
			if s.Test == "drum-by-hand" {
				return true
			}
		}
		return false
	}
	assert.True(t, offered(Case{}))
	assert.False(t, offered(Case{Standing: []string{"isolator-off", "cover-off", "prove-dead", "toe-off", "belt-slack-toe"}}), "the belt is off")
	assert.False(t, offered(Case{NotDone: []string{"drum-by-hand"}}))
	assert.False(t, offered(Case{Results: []Result{{Test: "drum-by-hand", Outcome: "drags"}}}), "it was made")
}

// A live test from an opened machine pays for switching on again, and the proof
// has lapsed after it.
func TestALiveTestPaysForSwitchingOn(t *testing.T) {
	m := dryer(t)
	s := begin(Case{Map: m, Complaint: "no-heat", Standing: []string{"isolator-off", "cover-off", "prove-dead", "toe-off"}})
	_, closed, _, ok := begin(Case{Map: m, Complaint: "no-heat"}).to(begin(Case{Map: m, Complaint: "no-heat"}).test("vent-air"))
	require.True(t, ok)
	_, open, standing, ok := s.to(s.test("vent-air"))
	require.True(t, ok)
	assert.Greater(t, open, closed)
	assert.Equal(t, []string{"cover-off", "toe-off"}, standing, "the isolator is on again and nothing is proven any more")
}
