package plan_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"evensteps/core/plan"
	"evensteps/core/plan/plantest"
)

// Little maps against a pseudo-Boolean solver (gophersat), which knows nothing
// of maps or of this planner.
func TestAgainstAPseudoBooleanSolver(t *testing.T) {
	for seed := range uint64(12) {
		m, goal := plantest.Small(seed, 6)
		p, err := plan.Make(m, plan.Request{Goals: []string{goal}})
		require.NoError(t, err)
		require.Equal(t, plantest.PseudoBoolean(m, goal), int(math.Round(p.Minutes.Total*1000)), "seed %d: %v %v", seed, p.WayIn, p.WayBack)
	}
}
