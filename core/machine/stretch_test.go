package machine

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func line() *Map {
	return &Map{
		Energies: []Energy{{ID: "gas", Kind: "gas"}, {ID: "legs", Kind: "mains"}},
		Circuits: []Circuit{{ID: "heat", Name: "Heat", Between: [][]string{{"a"}, {"b"}}, Points: []Point{
			{ID: "block", Name: "Block", Reach: Needs{"rear": Aside}},
			{ID: "cutoff", Name: "Cutoff", Reach: Needs{"rear": Away, "box": Aside}},
			{ID: "element", Name: "Element", Reach: Needs{"box": Away}},
		}}},
		Faults: []Fault{{ID: "a", Name: "A"}},
		Moves:  []Move{{ID: "prop", PutsIn: []Temporary{{ID: "wedge", Name: "Wedge"}}}, {ID: "tilt", PutsIn: []Temporary{{ID: "block", Name: "Block of wood"}}}},
	}
}

// A stretch and the test that follows from it name each other.
func TestAStretchAndItsTest(t *testing.T) {
	m := line()
	for from := range 3 {
		for to := from + 1; to < 3; to++ {
			id := Stretch{&m.Circuits[0], from, to}.Test()
			s, is := m.Stretch(id)
			require.True(t, is, id)
			assert.Equal(t, Stretch{&m.Circuits[0], from, to}, s)
		}
	}
	s, is := m.Stretch("circuit:heat/block/cutoff")
	require.True(t, is)
	assert.Equal(t, Needs{"rear": Away, "box": Aside}, s.Needs(), "of one thing, what is further off")
	for _, id := range []string{
		"", "legs", "circuit:", "circuit:heat", "circuit:heat/block", "circuit:cold/block/cutoff", "circuit:heat/block/lamp",
		"circuit:heat/lamp/block", "circuit:heat/block/block", "circuit:heat/cutoff/block", "circuit:heat/block/cutoff/element", "heat/block/cutoff",
	} {
		_, is := m.Stretch(id)
		assert.False(t, is, id)
	}
}

func TestWhatAMapHasIsFoundByItsID(t *testing.T) {
	m := line()
	assert.Equal(t, []string{"legs"}, m.Mains())
	assert.Equal(t, "A", m.Fault("a").Name)
	assert.Nil(t, m.Fault("b"))
	assert.Equal(t, "Block of wood", m.Temporary("block").Name, "whichever move puts it in")
	assert.Nil(t, m.Temporary("prop"))
	assert.Same(t, &m.Circuits[0], m.Circuit("heat"))
	assert.Nil(t, m.Circuit("block"))
}

func TestWhichFinalsConcernAComplaint(t *testing.T) {
	assert.True(t, (&Final{}).Concerns("no-heat"), "one that names none is of every repair")
	assert.True(t, (&Final{Proves: []string{"slow", "no-heat"}}).Concerns("no-heat"))
	assert.False(t, (&Final{Proves: []string{"slow"}}).Concerns("no-heat"))
	assert.False(t, (&Final{Proves: []string{"slow"}}).Concerns(""), "a job without a complaint")
}
