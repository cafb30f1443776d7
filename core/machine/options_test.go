package machine

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func optional() *Map {
	gas := When{"fuel": {"gas"}}
	return &Map{
		Options:  []Option{{ID: "fuel", Values: []string{"electric", "gas"}, Usual: "electric"}},
		Energies: []Energy{{ID: "mains", Kind: "mains"}, {ID: "gas", Kind: "gas", When: gas}},
		Items:    []Item{{ID: "front"}, {ID: "valve", When: gas}, {ID: "pipe"}},
		Moves: []Move{
			{ID: "front-off", Takes: map[string]Level{"front": Away}, Needs: Needs{"gas": Proven}},
			{ID: "valve-off", Takes: map[string]Level{"valve": Away}, Needs: Needs{"front": Away}},
			{ID: "pipe-off", Takes: map[string]Level{"pipe": Away, "valve": Aside}, Back: &Back{After: []string{"valve-off", "front-off"}}},
		},
		Checks: []Check{{Task: Task{ID: "leak", When: gas}, For: []string{"valve-off"}, Before: []string{"front-off", "valve-off"}}, {Task: Task{ID: "look"}, For: []string{"valve-off", "front-off"}}},
		Parts:  []Part{{ID: "valve", Item: "valve"}, {ID: "pipes", Item: "pipe", Also: []string{"valve"}}},
	}
}

func ids(m *Map) (moves, checks, parts []string) {
	for _, v := range m.Moves {
		moves = append(moves, v.ID)
	}
	for _, v := range m.Checks {
		checks = append(checks, v.ID)
	}
	for _, v := range m.Parts {
		parts = append(parts, v.ID)
	}
	return moves, checks, parts
}

func TestWhatAnOptionHidesIsAsIfNotWritten(t *testing.T) {
	m := optional()
	electric := m.With(nil)
	moves, checks, parts := ids(electric)
	assert.Equal(t, []string{"front-off", "pipe-off"}, moves, "a move left with nothing to take does not exist")
	assert.Equal(t, []string{"look"}, checks)
	assert.Equal(t, []string{"pipes"}, parts)
	assert.Empty(t, electric.Move("front-off").Needs, "a need of what is hidden is dropped")
	assert.Equal(t, map[string]Level{"pipe": Away}, electric.Move("pipe-off").Takes)
	assert.Equal(t, []string{"front-off"}, electric.Move("pipe-off").Back.After)
	assert.Empty(t, electric.Part("pipes").Also)
	assert.Equal(t, []string{"mains"}, electric.Guards(nil))

	gas := m.With(map[string]string{"fuel": "gas"})
	moves, checks, _ = ids(gas)
	assert.Equal(t, []string{"front-off", "valve-off", "pipe-off"}, moves)
	assert.Equal(t, []string{"leak", "look"}, checks)
	assert.Equal(t, []string{"gas"}, gas.Guards([]string{"mains"}))
	assert.Equal(t, []string{"valve-off", "front-off"}, m.Move("pipe-off").Back.After, "the map itself is not changed")
}

func TestAMoveThatStandsAlwaysExists(t *testing.T) {
	m := optional().With(map[string]string{"fuel": "electric"}, "valve-off")
	moves, checks, _ := ids(m)
	assert.Contains(t, moves, "valve-off")
	assert.Equal(t, []string{"leak", "look"}, checks, "checks due for it stay due")
	assert.NotNil(t, m.Item("valve"))
}
