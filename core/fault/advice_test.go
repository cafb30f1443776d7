package fault

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/library"
)

// People look, listen and ask before they open: on no machine of the library, and
// however an option is answered, does the first advice open or undo anything while
// a look that costs nothing saves half as much. Find and decide name the same test.
func TestLooksGoFirst(t *testing.T) {
	all, err := library.Maps()
	require.NoError(t, err)
	looks, n := 0, 0
	for _, m := range all {
		for _, answers := range everyAnswer(m) {
			for _, c := range m.With(answers).Complaints {
				asked := Case{Map: m, Answers: answers, Complaint: c.ID, People: 2}
				a, ok := Find(asked)
				require.True(t, ok)
				n++
				most := 0.0
				for _, step := range a.Next {
					most = max(most, step.Gain)
				}
				first := a.Next[0]
				if first.Test == "" {
					assert.Less(t, most, leastGain, "%s, %s: a fix goes first where no test gains", m.ID, c.ID)
					continue
				}
				if first.Gain < most {
					looks++
				}
				for _, step := range a.Next {
					if step.Test != "" && step.Free {
						assert.Empty(t, step.Access)
						assert.True(t, first.Free || step.Gain < looksFirst*most, "%s, %s %v: %s opens the machine before %s", m.ID, c.ID, answers, first.Test, step.Test)
					}
				}
				options, ok := Options(asked)
				require.True(t, ok)
				for _, o := range options {
					if o.Test != "" {
						assert.Equal(t, first.Test, o.Test, "%s, %s", m.ID, c.ID)
					}
				}
			}
		}
	}
	assert.Greater(t, looks, n/10, "the rule has something to do")
}

// What is seen in passing at a step weighs like a result, and is never advised: one
// is there already, or has no reason to go.
func TestWhatIsSeenInPassingWeighs(t *testing.T) {
	all, err := library.Maps()
	require.NoError(t, err)
	weighed := 0
	for _, m := range all {
		for _, c := range m.With(nil).Complaints {
			asked := Case{Map: m, Complaint: c.ID, People: 2}
			a, ok := Find(asked)
			require.True(t, ok)
			for _, step := range a.Next {
				assert.NotContains(t, step.Test, "/inspect/")
			}
			before := Chances(asked)
			for i := range m.Moves {
				for k, in := range m.Moves[i].Inspect {
					if before[in.Fault] == 0 {
						continue
					}
					weighed++
					for outcome, sign := range map[string]float64{"found": 1, machine.Nothing: -1} {
						asked.Results = []Result{{Test: machine.LookID(m.Moves[i].ID, k), Outcome: outcome}}
						assert.Greater(t, sign*(Chances(asked)[in.Fault]-before[in.Fault]), 0.0, "%s %s %s", m.ID, in.Say, outcome)
					}
				}
			}
		}
	}
	assert.Greater(t, weighed, 10)
}

// two is a machine with two faults behind nothing, one that nobody knows, and a
// test that tells the first from the second.
func two(weights map[string]float64) *machine.Map {
	little := 0.01
	return &machine.Map{
		ID:         "two",
		Faults:     []machine.Fault{{ID: "a", Name: "A worn", SwapMinutes: 10}, {ID: "b", Name: "B worn", SwapMinutes: 30}},
		Complaints: []machine.Complaint{{ID: "c", Faults: weights}},
		Tests: []machine.Test{{Task: machine.Task{ID: "look", Title: "Look", Face: "front", Minutes: 1}, Power: "any", Ask: "?", Outcomes: []machine.Outcome{
			{ID: "red", Say: "Red", Given: map[string]float64{"a": 0.95}, Else: &little}, {ID: "dull", Say: "Dull", Rest: true},
		}}},
	}
}

// What spoke for a part that was fitted, and did not help, is void: its test is
// offered again. What it showed after that counts, and so does what spoke for
// something else.
func TestWhatSpokeForAFixThatDidNotHelpIsVoid(t *testing.T) {
	m := two(map[string]float64{"a": 40, "b": 40, Other: 20})
	find := func(c Case) (*Advice, map[string]float64) {
		c.Map, c.Complaint = m, "c"
		a, ok := Find(c)
		require.True(t, ok)
		return a, Chances(c)
	}
	offered := func(a *Advice) bool {
		return slices.ContainsFunc(a.Next, func(s Step) bool { return s.Test == "look" })
	}
	_, bare := find(Case{Tried: []string{"a"}})
	a, p := find(Case{Results: []Result{{Test: "look", Outcome: "red"}}, Tried: []string{"a"}})
	assert.Equal(t, bare, p, "as if it had not been made")
	assert.True(t, offered(a))
	a, p = find(Case{Results: []Result{{Test: "look", Outcome: "red", Tried: 1}}, Tried: []string{"a"}})
	assert.Greater(t, p["a"], bare["a"], "made afterwards, it counts")
	assert.False(t, offered(a))
	a, p = find(Case{Results: []Result{{Test: "look", Outcome: "dull"}}, Tried: []string{"a"}})
	assert.Less(t, p["a"], bare["a"], "it did not speak for what was fitted")
	assert.False(t, offered(a))
	a, _ = find(Case{Results: []Result{{Test: "look", Outcome: "red"}}, Tried: []string{Other}})
	assert.False(t, offered(a), "looking wider explains nothing")

	m.Tests[0].Once = true
	a, _ = find(Case{Results: []Result{{Test: "look", Outcome: "red"}}, Tried: []string{"a"}})
	assert.False(t, offered(a), "what can be made once is not offered again")
}

// Looking wider stands among the fixes by its chance and its price; once it found
// nothing the search goes on, and it comes again when nothing else is left.
func TestLookingWider(t *testing.T) {
	m := two(map[string]float64{"a": 4, "b": 6, Other: 90})
	m.Tests = nil
	least := 20.0
	m.Complaints[0].OtherMinutes = &least
	first := func(c Case) Step {
		c.Map, c.Complaint = m, "c"
		a, ok := Find(c)
		require.True(t, ok)
		return a.Next[0]
	}
	step := first(Case{})
	assert.Equal(t, []string{Other}, step.Fix)
	assert.InDelta(t, 0.9, step.P, 1e-9)
	assert.InDelta(t, 20, step.Minutes, 1e-9)
	assert.Contains(t, step.Why, "Look wider before fitting more")
	step = first(Case{Tried: []string{Other}})
	assert.NotContains(t, step.Fix, Other)
	step = first(Case{Tried: []string{Other, "a", "b"}})
	assert.Equal(t, []string{Other}, step.Fix)
	assert.Contains(t, step.Why, "Nothing that this map knows explains it")

	// By hand, of the first state: wider (20, .9) before a (10, .04) and b (30, .06),
	// by chance for minutes .045, .004 and .002; each right one is missed three times
	// in a hundred, and at the end one looks again.
	s := begin(Case{Map: m, Complaint: "c"})
	left := 1 - .97*.9
	want := 20 + left*10
	left -= .97 * .04
	want += left * 30
	left -= .97 * .06
	want += left * 20
	assert.InDelta(t, want, remaining(s, []float64{.04, .06, .9}), 1e-9)
	dear := 1000.0
	m.Complaints[0].OtherMinutes = &dear
	assert.NotContains(t, first(Case{}).Fix, Other, "at that price it comes last")
}

// The sentence names what a test likeliest shows and what would change the fix,
// and each number once: what is taken, and what is saved after that.
func TestTheSentenceOfAnAdvice(t *testing.T) {
	m := two(map[string]float64{"a": 30, "b": 60, Other: 10})
	m.Complaints[0].Faults = map[string]float64{"a": 30, "b": 60, Other: 10}
	a, ok := Find(Case{Map: m, Complaint: "c"})
	require.True(t, ok)
	require.Equal(t, "look", a.Next[0].Test)
	step := a.Next[0]
	assert.Regexp(t, `^Dull \(71 %\): b worn\. Red \(29 %\): then a worn\. Takes 1 min; saves about [0-9.]+ min after that\.$`, step.Why)
	assert.Contains(t, step.Why, "saves about "+minutesWord(step.Gain+step.Minutes)+" min")
	assert.Equal(t, []string{"almost certain", "very unlikely", "50 %"}, []string{english.Chance(0.9999), english.Chance(0.0001), english.Chance(0.5)})

	all, err := library.Maps()
	require.NoError(t, err)
	for _, m := range all {
		for _, c := range m.With(nil).Complaints {
			a, _ := Find(Case{Map: m, Complaint: c.ID, People: 2})
			for _, step := range a.Next {
				if step.Test == "" || step.Gain < leastGain {
					continue
				}
				assert.Equal(t, 1, strings.Count(step.Why, "Takes "), step.Why)
				heads := strings.Split(strings.Split(step.Why, " Takes ")[0], " then ")
				if len(heads) == 2 {
					_, one, _ := strings.Cut(heads[0], ": ")
					one, _, _ = strings.Cut(one, ".")
					assert.NotEqual(t, one, strings.TrimSuffix(heads[1], "."), "%s, %s: both outcomes lead to the same: %s", m.ID, c.ID, step.Why)
				}
				assert.LessOrEqual(t, len(strings.Fields(step.Why)), 50, step.Why)
			}
		}
	}
}

// A test that needs a running machine is not offered for a dead one.
func TestADeadMachineIsNotRun(t *testing.T) {
	all, err := library.Maps()
	require.NoError(t, err)
	dead, run := 0, 0
	for _, m := range all {
		for _, c := range m.With(nil).Complaints {
			a, ok := Find(Case{Map: m, Complaint: c.ID, People: 2})
			require.True(t, ok)
			for _, step := range a.Next {
				test := m.Test(step.Test)
				switch {
				case test == nil || !test.Runs:
				case c.Dead:
					assert.Failf(t, "it is run", "%s, %s: %s", m.ID, c.ID, step.Test)
				default:
					run++
				}
			}
			if c.Dead {
				dead++
			}
		}
	}
	assert.GreaterOrEqual(t, dead, 4)
	assert.Greater(t, run, 20)
}

// Where the map knows no such complaint, whoever asks is told so and gets no figure.
func TestAComplaintThatTheMapDoesNotKnow(t *testing.T) {
	c := Case{Map: two(map[string]float64{"a": 60, "b": 40}), Complaint: "hums"}
	_, ok := Find(c)
	assert.False(t, ok)
	_, ok = Options(c)
	assert.False(t, ok)
	assert.Nil(t, Chances(c))
	assert.Nil(t, Speaks(c))
}

// A world that is off by two has no figure beyond twice or half of what the map
// says, and comes near to both.
func TestAWorldThatIsOff(t *testing.T) {
	least, most := 1.0, 1.0
	for seed := range uint64(500) {
		f := World{Off: 2, Seed: seed}.factor("complaint", "hums", "a")
		least, most = min(least, f), max(most, f)
	}
	assert.InDelta(t, 0.5, least, 0.02)
	assert.InDelta(t, 2, most, 0.02)
	assert.Equal(t, 1.0, World{Seed: 7}.factor("a"))
	assert.Equal(t, World{Off: 2, Seed: 7}.factor("a"), World{Off: 2, Seed: 7}.factor("a"))
}
