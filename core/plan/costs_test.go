package plan_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/library"
)

// The quick cost is a bound: it never lies above the exact plan, and on the
// library it lies below it by the turning that the bound does not see.
func TestQuickCostsOfTheLibrary(t *testing.T) {
	machines, err := library.Maps()
	require.NoError(t, err)
	gap, n := 0.0, 0.0
	for _, m := range machines {
		costs, err := plan.CostsFrom(m, plan.Request{People: 2})
		require.NoError(t, err)
		for _, part := range m.With(nil).Parts {
			target, err := plan.Reads(m.With(nil), "replace:"+part.ID)
			require.NoError(t, err)
			quick, err := costs.To(target)
			require.NoError(t, err)
			exact, err := plan.Make(m, plan.Request{Goals: []string{"replace:" + part.ID}, People: 2})
			require.NoError(t, err)
			assert.LessOrEqual(t, quick, exact.Minutes.Total+1e-9, "%s %s", m.ID, part.ID)
			gap, n = gap+exact.Minutes.Total-quick, n+1
		}
		closing, err := costs.To()
		require.NoError(t, err)
		assert.Zero(t, closing, "a closed machine costs nothing to close")
	}
	t.Logf("%.2f min below the exact plan in the mean of %g parts", gap/n, n)
	assert.Less(t, gap/n, 4.0)
}

// On random small maps the quick cost says there is a way just where there is
// one, and is no higher than the exact plan.
func TestQuickCostsOfRandomMaps(t *testing.T) {
	both := 0
	rapid.Check(t, func(t *rapid.T) {
		m := randomMap(t)
		goal := fmt.Sprintf("item:i%d=away", rapid.IntRange(0, len(m.Items)-1).Draw(t, "goal"))
		people := rapid.IntRange(1, 2).Draw(t, "people")
		target, err := plan.Reads(m, goal)
		require.NoError(t, err)
		costs, err := plan.CostsFrom(m, plan.Request{People: people})
		require.NoError(t, err)
		quick, none := costs.To(target)
		exact, err := plan.Make(m, plan.Request{Goals: []string{goal}, People: people})
		if err == nil {
			both++
			require.NoError(t, none)
			require.LessOrEqual(t, quick, exact.Minutes.Total+1e-9)
		}
		again, _ := costs.To(target)
		require.Equal(t, quick, again, "asking twice gives the same")
	})
	require.NotZero(t, both)
}

func TestQuickCostsOfWhatIsNotThere(t *testing.T) {
	m := example(t)
	costs, err := plan.CostsFrom(m, plan.Request{People: 2})
	require.NoError(t, err)
	_, err = costs.To(plan.Target{Needs: machine.Needs{"sail": machine.Away}})
	assert.ErrorContains(t, err, "sail")
	_, err = plan.CostsFrom(m, plan.Request{Standing: []string{"mast-off"}})
	assert.Error(t, err)
}
