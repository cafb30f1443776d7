package call

import (
	"slices"
	"sync"
	"testing"

	"github.com/agnivade/levenshtein"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"evensteps/core/machine"
	"evensteps/library"
)

var read = sync.OnceValues(library.Maps)

func maps(t testing.TB) []*machine.Map {
	t.Helper()
	all, err := read()
	require.NoError(t, err)
	return all
}

func mapOf(t testing.TB, id string) *machine.Map {
	t.Helper()
	all := maps(t)
	return all[slices.IndexFunc(all, func(m *machine.Map) bool { return m.ID == id })]
}

func TestTheMostSpecificPatternWins(t *testing.T) {
	of := func(id string, revision int, covers ...string) *machine.Map {
		return &machine.Map{ID: id, Kind: "dryer", Revision: revision, Covers: covers}
	}
	all := []*machine.Map{of("wide", 1, "TV*"), of("gas", 1, "TV6-???-G"), of("six", 1, "TV6*", "TVX*"), of("six", 2, "TV6*"), of("other", 1, "SD1*")}
	for model, want := range map[string]string{"TV6-230-G": "gas", "tv6 -230": "six", "TV5": "wide", "TVX9": "six", "SD1-40": "other"} {
		f, ok := MapFor(all, model, "")
		require.True(t, ok, model)
		assert.Equal(t, want, f.Map.ID, model)
		assert.NotEmpty(t, f.Pattern)
	}
	f, ok := MapFor(all, "TV6-1", "")
	require.True(t, ok)
	assert.Equal(t, 2, f.Map.Revision, "the newer revision")
	// Nothing covers it: the nearest of the kind, and that is said.
	f, ok = MapFor(all, "SD9", "dryer")
	require.True(t, ok)
	assert.Equal(t, "other", f.Map.ID)
	assert.Empty(t, f.Pattern)
	_, ok = MapFor(all, "", "range")
	assert.False(t, ok)
	_, ok = MapFor(all, "[", "range")
	assert.False(t, ok, "a model is no pattern")
}

// What customers say, in words that the maps do not have letter by letter.
func TestWordsMeanComplaints(t *testing.T) {
	for id, cases := range map[string]map[string]string{
		"tidemoor-tv6": {
			"It spins, but the clothes stay cold":                   "no-heat",
			"there's no warmth; it isn't getting warm":              "no-heat",
			"Screeches terribly when it starts":                     "squeals",
			"my wife says there's a burning smell":                  "smells",
			"it keeps blowing the fuse":                             "trips",
			"The drum stands still and it only hums":                "not-turning",
			"I felt a tingle at the handle":                         "shock",
			"takes ages, three hours for four towels":               "slow",
			"it stops too soon and everything is damp":              "stops-early",
			"banging noise once a turn":                             "thumps",
			"it scorches the shirts":                                "too-hot",
			"there is a clatter down on the left":                   "rattles",
			"nothing happens at all, dead":                          "door-dead",
			"":                                                      "",
			"Guten Tag, die Maschine macht etwas ganz Merkwürdiges": "",
		},
		"brennvik-fr4": {
			"the front left ring is dead":       "zone-dead",
			"the display is dead":               "dark-clock",
			"the oven doesn't bake":             "no-bake",
			"door will not open after cleaning": "door-locked",
		},
		"lanvik-bo2": {"everything is dark since the power cut": "dead", "the door drops": "door-drops"},
	} {
		m := mapOf(t, id)
		for said, want := range cases {
			got := Complaints(m, said)
			require.Len(t, got, len(m.Complaints))
			if want == "" {
				assert.Zero(t, got[0].Score, "%q means nothing: %v", said, got[0].By)
				assert.Equal(t, m.Complaints[0].ID, got[0].Complaint.ID, "the map's order")
				continue
			}
			assert.Equal(t, want, got[0].Complaint.ID, "%q by %v, before %s by %v", said, got[0].By, got[1].Complaint.ID, got[1].By)
		}
	}
	// Every phrase of a map means its own complaint at least.
	for _, m := range maps(t) {
		for _, c := range m.Complaints {
			for _, phrase := range c.Words {
				for _, got := range Complaints(m, phrase) {
					if got.Complaint.ID == c.ID {
						assert.NotZero(t, got.Score, "%s: %q", m.ID, phrase)
					}
				}
			}
		}
	}
	rapid.Check(t, func(t *rapid.T) {
		m := &machine.Map{Complaints: []machine.Complaint{{ID: "a", Words: []string{"no heat"}}}}
		Complaints(m, rapid.String().Draw(t, "said")) // nothing that is said stops it
	})
}

// Only what matters is asked: for heat, gas or electric; for a squeal, the lamp
// in the way; nothing that only the opened machine tells.
func TestOnlyTheOptionsThatMatterAreAsked(t *testing.T) {
	ids := func(id, complaint string, answers map[string]string) []string {
		out := []string{}
		for _, o := range Matters(mapOf(t, id), complaint, answers) {
			out = append(out, o.ID)
		}
		return out
	}
	assert.Contains(t, ids("tidemoor-tv6", "no-heat", nil), "fuel")
	assert.NotContains(t, ids("tidemoor-tv6", "no-heat", map[string]string{"fuel": "gas"}), "fuel")
	assert.NotContains(t, ids("tidemoor-tv6", "stops-early", nil), "fuel")
	assert.Contains(t, ids("brennvik-fr4", "zone-dead", nil), "cooktop")
	assert.Empty(t, ids("lanvik-bo2", "dead", nil), "how the clock is held is seen once it is open")
	assert.Empty(t, ids("tidemoor-tv6", "sings", nil))
}

// The distance of two words is that of a general library.
func TestDistanceAgainstALibrary(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		word := rapid.StringOfN(rapid.RuneFrom([]rune("abcdé")), 0, 12, -1)
		a, b := word.Draw(t, "a"), word.Draw(t, "b")
		if got, want := distance(a, b), levenshtein.ComputeDistance(a, b); got != want {
			t.Fatalf("%q to %q: %d, by the library %d", a, b, got, want)
		}
	})
}

// What a complaint scores: twice the words of each phrase less one, and half for
// each word of its name, of which one alone means nothing.
func TestWhatAComplaintScores(t *testing.T) {
	m := &machine.Map{Complaints: []machine.Complaint{{ID: "leaks", Name: "Water on the floor", Words: []string{"leaks", "puddle under it"}}, {ID: "other", Name: "Sings", Words: []string{"sings"}}}}
	for said, want := range map[string]float64{"water": 0, "water floor": 1, "leaks": 1, "it leaks water": 1.5, "puddle": 0, "a puddle under it": 3, "leaks, a puddle under it, water all over the floor": 5} {
		for _, c := range Complaints(m, said) {
			if c.Complaint.ID == "leaks" {
				assert.InDelta(t, want, c.Score, 1e-9, said)
			}
		}
	}
	assert.Equal(t, "other", Complaints(m, "it sings")[0].Complaint.ID, "the best first")
}

func TestWhatAMapCovers(t *testing.T) {
	m := &machine.Map{Kind: "dryer", Covers: []string{"TV6*"}}
	assert.True(t, Covers(m, "TV6-230"))
	assert.False(t, Covers(m, "ZZ-9"))
	assert.False(t, Covers(m, ""))
}
