package lint

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"evensteps/core/machine"
)

// sink is a machine with water and mains: a hose that carries the water, a plate
// that hides live joints, a check that wants the mains off.
func sink() *machine.Map {
	return &machine.Map{
		Maker: "M", Covers: []string{"S*"}, Parts: []machine.Part{{ID: "p", Item: "hose"}}, Complaints: []machine.Complaint{{ID: "c"}}, Faults: []machine.Fault{{ID: "f"}}, Tests: []machine.Test{{}}, Finals: []machine.Final{{}},
		Energies: []machine.Energy{{ID: "mains", Kind: "mains"}, {ID: "water", Kind: "water"}},
		Items:    []machine.Item{{ID: "hose", Type: "pipe", Carries: []string{"water"}}, {ID: "plate", Type: "cover", Hides: []string{"mains"}}, {ID: "toe", Type: "cover"}},
		Moves: []machine.Move{
			{ID: "breaker", Takes: map[string]machine.Level{"mains": machine.Shut}, LiveOK: []string{"mains", "water"}},
			{ID: "tap", Takes: map[string]machine.Level{"water": machine.Shut}, LiveOK: []string{"mains", "water"}},
			{ID: "toe-off", Takes: map[string]machine.Level{"toe": machine.Away}, LiveOK: []string{"mains", "water"}},
			{ID: "plate-off", Takes: map[string]machine.Level{"plate": machine.Away}, LiveOK: []string{"mains", "water"}},
			{ID: "hose-off", Takes: map[string]machine.Level{"hose": machine.Away}, Needs: machine.Needs{"toe": machine.Away}, LiveOK: []string{"mains"}},
		},
		Checks: []machine.Check{{Task: machine.Task{ID: "dry", Energy: map[string]machine.Level{"mains": machine.Shut, "water": machine.Live}}, For: []string{"hose-off"}, Before: []string{"toe-off"}}},
	}
}

func warnings(m *machine.Map) string {
	var b strings.Builder
	for _, f := range Warnings(m) {
		b.WriteString(f.Error() + "\n")
	}
	return b.String()
}

func TestAnEnergyRestoredTooEarly(t *testing.T) {
	m := sink()
	assert.Contains(t, warnings(m), "mains is restored by breaker while plate-off could still be off")
	assert.Contains(t, warnings(m), "mains is restored by breaker while the check dry, which wants it off, could still be due")
	assert.NotContains(t, warnings(m), "tap", "the hose is guarded by the water itself")
	m.Move("hose-off").LiveOK = []string{"mains", "water"}
	assert.Contains(t, warnings(m), "water is restored by tap while hose-off could still be off")

	m = sink()
	m.Move("breaker").Back = &machine.Back{After: []string{"toe-off"}}
	m.Move("toe-off").Back = &machine.Back{After: []string{"plate-off"}}
	assert.Empty(t, warnings(m), "by the closure of back.after")
	m.Move("toe-off").Back = nil
	m.Move("plate-off").Needs = machine.Needs{"mains": machine.Shut}
	assert.Empty(t, warnings(m), "or where the refit needs it off anyway")
	m.Move("plate-off").Needs = nil
	m.Move("plate-off").Aware = "Nothing behind it is bare."
	assert.Empty(t, warnings(m), "or where the map says why not")
	m.Move("breaker").Back = nil
	assert.Contains(t, warnings(m), "the check dry")
	m.Checks[0].Aware = "Paper and torch."
	assert.Empty(t, warnings(m))
	m = sink()
	m.Move("breaker").Aware = "It is a plug."
	assert.Empty(t, warnings(m))
	m = sink()
	m.Checks[0].Before = []string{"breaker"}
	m.Move("plate-off").Aware = "Nothing behind it is bare."
	assert.Empty(t, warnings(m), "a check may stand before the isolating move itself")
}

func TestAMapThatShipsHasAFinalForAll(t *testing.T) {
	m := sink()
	m.Finals = []machine.Final{{Proves: []string{"c"}}}
	assert.Contains(t, warnings(m), "no final that names no complaint")
	m.Finals = append(m.Finals, machine.Final{})
	assert.NotContains(t, warnings(m), "no final")
}

// A level that nobody wrote is as the machine runs; a word that is none is none.
func TestRanksOfLevels(t *testing.T) {
	for level, rank := range map[machine.Level]int{"": 0, machine.Fitted: 0, machine.Live: 0, machine.Aside: 1, machine.Shut: 1, machine.Away: 2, machine.Proven: 2, "open": -1} {
		assert.Equal(t, rank, level.Rank(), level)
	}
}

func TestTheWaysOfAMapAreOfItsEnergy(t *testing.T) {
	m := sink()
	m.Format, m.ID, m.Title, m.Kind, m.Revision = machine.Format, "sink", "Sink", "other", 1
	flaws := func() string {
		var b strings.Builder
		for _, f := range Flaws(m) {
			b.WriteString(f.Error() + "\n")
		}
		return b.String()
	}
	m.Moves = append(m.Moves, machine.Move{ID: "dead", Title: "Dead", Face: "front", OneWay: true, Takes: map[string]machine.Level{"mains": machine.Proven}, Needs: machine.Needs{"mains": machine.Shut}, LiveOK: []string{"mains", "water"}, Proof: machine.Values{"meter", "runs-dry"}})
	assert.Contains(t, flaws(), `moves[5].proof[1]: "runs-dry" is not a proof; write one of: meter, in-hand`)
	m.Moves[5].Proof = machine.Values{"meter", "in-hand"}
	assert.NotContains(t, flaws(), "proof")
	m.Moves[0].Proof = machine.Values{"meter"}
	assert.Contains(t, flaws(), "moves[0].proof[0]: the move proves no energy")
	m.Moves[1].WhileLive = []string{"gas"}
	assert.Contains(t, flaws(), `there is no energy "gas"`)
	m.Moves[1].WhileLive = []string{"mains"}
	assert.NotContains(t, flaws(), "while_live")
	m.Moves[1].LiveOK = []string{"water"}
	assert.Contains(t, flaws(), "the move needs mains off, so it cannot be made while that is live")
}

func TestAMapInBothEnglishes(t *testing.T) {
	m := sink()
	said := func() bool {
		return slices.ContainsFunc(Warnings(m), func(w Flaw) bool { return strings.Contains(w.Message, "spanner") })
	}
	m.Moves[0].Do = []string{"Take the spanner."}
	assert.False(t, said())
	m.Moves[1].Do = []string{"Lift the countertop."}
	assert.True(t, said())
}
