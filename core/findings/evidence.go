package findings

import (
	"slices"

	"evensteps/core/fault"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
)

// Grades are how a thing is known, the best first.
var Grades = []string{"measured", "seen", "told", "assumed"}

// Evidence is how it is known that a part is at fault: by the best result that
// speaks for one of its faults; assumed where none does.
func Evidence(sc *scene.Scene, p *machine.Part) string {
	c, _ := Case(sc)
	best := len(Grades) - 1
	speaks := fault.Speaks(c)
	if speaks == nil {
		return Grades[best]
	}
	for i := range sc.Map.Faults {
		f := &sc.Map.Faults[i]
		if !sc.Map.Renews(p, f) {
			continue
		}
		for _, r := range c.Results {
			if speaks(r, f.ID) {
				best = min(best, KnownBy(sc, r))
			}
		}
	}
	return Grades[best]
}

// KnownBy is how the last result of a test is known, as a place in grades.
func KnownBy(sc *scene.Scene, r fault.Result) int {
	if sc.Readings[r.Test] != nil {
		return 0
	}
	if f := sc.State.Results[r.Test]; f != nil {
		if k := slices.Index(Grades, f.Of.(*record.TestResult).Evidence); k >= 0 {
			return k
		}
	}
	return 1
}
