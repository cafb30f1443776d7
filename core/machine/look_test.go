package machine_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"evensteps/core/machine"
)

func TestALookByItsName(t *testing.T) {
	m := &machine.Map{Moves: []machine.Move{{ID: "front-off", Inspect: []machine.Inspect{{Say: "Frayed"}, {Say: "The shaft", Do: machine.Oil, With: "two drops"}}}}}
	assert.Equal(t, "front-off/inspect/2", machine.LookID("front-off", 1))
	assert.Equal(t, "Frayed", m.Look("front-off/inspect/1").Say)
	assert.True(t, m.Look("front-off/inspect/1").Looks())
	assert.False(t, m.Look("front-off/inspect/2").Looks())
	for _, id := range []string{"front-off/inspect/0", "front-off/inspect/3", "front-off/inspect/x", "front-off", "top-off/inspect/1", "", "/inspect/1"} {
		assert.Nil(t, m.Look(id), id)
	}
}
