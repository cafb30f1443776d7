package reading

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"evensteps/core/machine"
)

// What a stretch may read is its loads by their rating plates: 230² / 2100 is
// 25.19 Ω, and 8 % more 27.2 (R = V²/P). A probe, a contact and a load of another
// stretch add nothing.
func TestWhatAStretchMayRead(t *testing.T) {
	opens := func(id string) []machine.Outcome {
		return []machine.Outcome{{Verdict: machine.Values{Open}, Given: map[string]float64{id: 0.98}}}
	}
	test := func(fault string, e machine.Expect) machine.Test {
		t := machine.Test{Outcomes: opens(fault)}
		t.Expect = &e
		return t
	}
	m := &machine.Map{Tests: []machine.Test{
		test("element", machine.Expect{Element: &machine.Element{Watts: 2100, Volts: 230, TolerancePercent: 8}}),
		test("element", machine.Expect{Ohms: []float64{1, 5}}), // the same load measured otherwise
		test("motor", machine.Expect{Winding: &machine.Winding{OhmsAt20: 3, TolerancePercent: 10}}),
		test("stat", machine.Expect{Continuity: "closed"}),
		test("probe", machine.Expect{Ohms: []float64{9000, 11000}}),
		test("earthed", machine.Expect{Insulation: &machine.Insulation{MegohmsAtLeast: 1}}),
	}}
	high := func(between ...string) float64 {
		c := &machine.Circuit{Points: []machine.Point{{ID: "a"}, {ID: "b"}}, Between: [][]string{between}}
		return Through(m, machine.Stretch{Circuit: c, From: 0, To: 1}).Ohms[1]
	}
	assert.InDelta(t, 2, high("stat", "probe", "earthed", "wire"), 1e-9)
	assert.InDelta(t, 2+27.205, high("element"), 1e-3)
	assert.InDelta(t, 2+27.205, high("element", "stat", "element"), 1e-3, "a load counts once")
	assert.InDelta(t, 2+27.205+3.3, high("element", "motor"), 1e-2)
}
