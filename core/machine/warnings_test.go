package machine_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/machine"
)

func TestACheckThatSetsMainsLiveOverOpenWiring(t *testing.T) {
	m := &machine.Map{
		Energies: []machine.Energy{{ID: "mains", Kind: "mains", Name: "Mains"}, {ID: "gas", Kind: "gas", Name: "Gas"}},
		Items:    []machine.Item{{ID: "plug", Type: "connector"}, {ID: "union", Type: "pipe"}, {ID: "cover", Type: "cover"}},
		Moves: []machine.Move{
			{ID: "plug-off", Takes: map[string]machine.Level{"plug": machine.Away}},
			{ID: "union-part", Takes: map[string]machine.Level{"union": machine.Away}, Ticket: "gas"},
			{ID: "cover-off", Takes: map[string]machine.Level{"cover": machine.Away}},
		},
		Checks: []machine.Check{
			{Task: machine.Task{ID: "spin", Energy: map[string]machine.Level{"mains": machine.Live}}, After: []string{"cover-off"}},
			{Task: machine.Task{ID: "leak", Energy: map[string]machine.Level{"gas": machine.Live}}, After: []string{"union-part"}},
		},
	}
	found := machine.Warnings(m)
	require.Len(t, found, 1)
	assert.Equal(t, "checks[0].energy: mains is live in this check while plug-off could still stand; name them in after, or say in aware why not", found[0].Error())
	m.Checks[0].Aware = "The plug hangs outside the cabinet."
	assert.Empty(t, machine.Warnings(m))
	m.Checks[0].Aware, m.Checks[0].After = "", []string{"plug-off"}
	assert.Empty(t, machine.Warnings(m))
}
