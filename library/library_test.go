package library_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/machine"
	"evensteps/core/machine/lint"
	"evensteps/core/plan"
	"evensteps/library"
)

// every is every way of answering a map's options together.
func every(m *machine.Map) []map[string]string {
	all := []map[string]string{{}}
	for _, o := range m.Options {
		var grown []map[string]string
		for _, a := range all {
			for _, v := range o.Values {
				with := map[string]string{o.ID: v}
				for k, was := range a {
					with[k] = was
				}
				grown = append(grown, with)
			}
		}
		all = grown
	}
	return all
}

// Every part can be reached and closed again under every option, and so can the
// points of every test that is made with the power off.
func TestEveryPartIsReachedAndClosedAgain(t *testing.T) {
	maps, err := library.Maps()
	require.NoError(t, err)
	for _, m := range maps {
		for _, answers := range every(m) {
			with := m.With(answers)
			var goals []string
			for _, p := range with.Parts {
				goals = append(goals, "replace:"+p.ID)
			}
			for _, test := range with.Tests {
				goals = append(goals, "test:"+test.ID)
			}
			for _, goal := range goals {
				p, err := plan.Make(m, plan.Request{Goals: []string{goal}, Answers: answers, People: 2})
				if assert.NoError(t, err, "%s %v: %s", m.ID, answers, goal) {
					assert.True(t, p.Proven, "%s %v: %s", m.ID, answers, goal)
				}
			}
		}
	}
}

// A search that has seen one machine is tuned to it. These are machines with
// enough in them to try it on.
func TestTheMachinesAreWholeEnoughToSearch(t *testing.T) {
	maps, err := library.Maps()
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(maps), 5)
	for _, m := range maps {
		if m.Plain() {
			continue // no model at all: nothing to search
		}
		both := 0
		for _, mv := range m.Moves {
			if !mv.OneWay {
				both++
			}
		}
		assert.GreaterOrEqual(t, both, 25, m.ID)
		assert.GreaterOrEqual(t, len(m.Complaints), 5, m.ID)
		assert.GreaterOrEqual(t, len(m.Faults), 12, m.ID)
		assert.GreaterOrEqual(t, len(m.Tests), 12, m.ID)
		assert.GreaterOrEqual(t, len(m.Circuits), 2, m.ID)
		some := false
		for _, p := range m.Parts {
			some = some || len(p.Kit) > 1 || p.SetOf > 1
		}
		assert.True(t, some, "%s: a kit or a set", m.ID)
		for _, c := range m.Complaints {
			proved := false
			for i := range m.Finals {
				proved = proved || m.Finals[i].Concerns(c.ID)
			}
			assert.True(t, proved, "%s: nothing proves that %q is mended", m.ID, c.ID)
		}
	}
}

// A warning in a map that ships is a fault.
func TestNoMapThatShipsHasAWarning(t *testing.T) {
	maps, err := library.Maps()
	require.NoError(t, err)
	for _, m := range maps {
		assert.Empty(t, lint.Warnings(m), m.ID)
	}
}
