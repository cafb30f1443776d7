package fault

import (
	"slices"

	"evensteps/core/machine"
)

// walks adds the tests that follow from the circuits: a dead test of a minute
// between any two points. Only pairs that part the suspects are worth having.
func (s *search) walks() {
	for i := range s.m.Circuits {
		c := &s.m.Circuits[i]
		for from := range c.Points {
			for to := from + 1; to < len(c.Points); to++ {
				between := slices.Concat(c.Between[from:to]...)
				open, closed, parts := make([]float64, len(s.faults)), make([]float64, len(s.faults)), 0
				for k, f := range s.faults {
					open[k] = walkFalse
					if slices.Contains(between, f) {
						open[k] = walkHit
						parts++
					}
					closed[k] = 1 - open[k]
				}
				if parts == 0 {
					continue
				}
				walk := machine.Stretch{Circuit: c, From: from, To: to}
				t := test{id: walk.Test(), needs: walk.Needs(), outcomes: []string{"closed", "open"}, given: [][]float64{closed, open}}
				for _, id := range s.m.Mains() {
					t.needs[id] = machine.Proven
				}
				s.tests = append(s.tests, t.mixed())
			}
		}
	}
}
