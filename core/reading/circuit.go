package reading

import (
	"slices"

	"evensteps/core/machine"
)

// Through is what a stretch of a circuit should read with the mains off: next to
// nothing, and what its loads make besides. A load is what a test of the map
// expects a resistance of. It lies in the stretch where a fault that opens it does.
// More than that is a poor joint or contact, and no open path. The limit of a path
// without loads is common practice, no source.
func Through(m *machine.Map, s machine.Stretch) *machine.Expect {
	high := closedOhms
	for _, id := range slices.Compact(slices.Sorted(slices.Values(slices.Concat(s.Circuit.Between[s.From:s.To]...)))) {
		load := 0.0
		for i := range m.Tests {
			load = max(load, opens(&m.Tests[i], id))
		}
		high += load
	}
	return &machine.Expect{Ohms: []float64{0, high}}
}

// opens is the most that a test expects in ohms of what this fault opens, at 20 °C;
// 0 where it is a test of something else.
func opens(t *machine.Test, fault string) float64 {
	if t.Expect == nil || t.Expect.Continuity != "" {
		return 0
	}
	named := slices.ContainsFunc(t.Outcomes, func(o machine.Outcome) bool {
		return slices.Contains(o.Verdict, Open) && o.Given[fault] >= 0.5
	})
	room := 20.0
	l, err := Within(t.Expect, Setting{Ambient: &room})
	if !named || err != nil || l.Quantity != Resistance || l.High > mostLoadOhms {
		return 0
	}
	return l.High
}

// mostLoadOhms is above what any load in series with a motor or heater makes; a
// probe beside them is no load of theirs.
const mostLoadOhms = 5000
