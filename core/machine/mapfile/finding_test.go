package mapfile_test

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/machine/mapfile"
)

// finding is what serves the search for a fault, added to the example.
const finding = `
survey: ["option:fuel", "test:by-hand"]
tests:
  - id: by-hand
    title: Turn the drum by hand
    power: any
    fitted: [belt]
    face: front
    minutes: 0.5
    ask: What do you feel?
    outcomes:
      - {id: no-drag, say: No drag, given: {belt-broken: 0.93}, else: 0.03}
      - {id: stuck, say: Stuck, given: {rollers-worn: 0.2}, else: 0.01, mends: rollers-worn}
      - {id: drags, say: It drags, rest: true}
  - id: coil-ohms
    title: Valve coil
    power: dead
    needs: {drum: away}
    lift: [door-plug]
    face: inside
    minutes: 2
    measure: {quantity: resistance, between: ["1", "2"]}
    expect: {winding: {ohms_at_20: 3.2, tolerance_percent: 15}}
    outcomes:
      - {id: within, verdict: pass, rest: true}
      - {id: broken, verdict: [open, high], given: {belt-broken: 0.1}, else: 0.004}
      - {id: low, verdict: [low, short], else: 0.003}
faults:
  - {id: belt-broken, name: Belt broken, swap_minutes: 2, reach: {belt: aside}, leaves: [belt-slack-front]}
  - {id: rollers-worn, name: Rollers worn, part: rollers, swap_minutes: 2, because: [{id: dry, ask: Was the shaft dry?, test: by-hand}]}
complaints:
  - {id: still, name: Drum still, words: [no spin], faults: {belt-broken: 55, rollers-worn: 8, other: 5}, other_minutes: 90}
circuits:
  - id: feed
    name: Motor feed
    points: [{id: pin, name: Pin, reach: {}}, {id: block, name: Block, reach: {top: away}}, {id: motor, name: Motor, reach: {toe: away}}]
    between: [[belt-broken], [rollers-worn, other]]
`

func TestFaultsInWhatServesTheSearch(t *testing.T) {
	data, err := os.ReadFile(example)
	require.NoError(t, err)
	move := "  - {id: extra, title: Extra, takes: {belt: away}, face: front, minutes: {out: 1, back: 1}, record: [{id: mark, ask: Mark?, quantity: length}], puts_in: [{id: rag, name: Rag, cut: {from: mark, add: 75 mm}}], inspect: [{say: Frayed, fault: belt-broken}, {do: oil, say: The shaft, with: two drops}], turn: {what: the drum, way: clockwise, seen_from: front}, back: {schools: [{say: So, why: a}, {say: Otherwise, why: b}], confirm: [{say: On its mark, same_as: mark, within: 3 mm}, {say: Earth, expect: {ohms: [0, 0.5]}}]}}\nchecks:\n"
	text := strings.Replace(string(data), "checks:\n", move, 1) + finding
	m, err := mapfile.Read("m.yaml", []byte(text))
	require.NoError(t, err)
	assert.Len(t, m.Tests, 2)
	assert.Equal(t, []string{"open", "high"}, []string(m.Tests[1].Outcomes[1].Verdict))
	for _, c := range []struct{ from, to, says string }{
		{`"option:fuel"`, `"option:colour"`, "neither option:ID nor test:ID"},
		{"power: any", "power: half", "is not a power"},
		{"fitted: [belt]", "fitted: [rope]", `there is no item "rope"`},
		{"ask: What do you feel?", "do: [Turn it.]", "neither asks nor measures"},
		{"given: {belt-broken: 0.93}", "given: {belt-broken: 1.93}", "a chance runs from 0 to 1"},
		{"given: {belt-broken: 0.93}", "given: {belt-burnt: 0.93}", `there is no fault "belt-burnt"`},
		{"given: {rollers-worn: 0.2}, else: 0.01", "given: {rollers-worn: 0.99}, else: 0.01", "under rollers-worn the outcomes add up to 1.02, more than 1"},
		{"{id: drags, say: It drags, rest: true}", "{id: drags, say: It drags, else: 0.5}", "not 1; one may be rest: true"},
		{"{id: drags, say: It drags, rest: true}", "{id: stuck, say: It drags, rest: true}", `the id "stuck" is already taken by an outcome`},
		{"{id: stuck, say: Stuck,", "{id: stuck, say: Stuck, rest: true,", "only one outcome takes the rest"},
		{"mends: rollers-worn", "mends: nothing", `there is no fault "nothing"`},
		{"verdict: pass,", "verdict: passed,", "is not a verdict"},
		{"verdict: [low, short]", "verdict: [low]", "no outcome answers the verdict short"},
		{"expect: {winding: {ohms_at_20: 3.2, tolerance_percent: 15}}", "expect: {}", "just one thing is expected, not 0"},
		{"expect: {winding: {ohms_at_20: 3.2, tolerance_percent: 15}}", "expect: {winding: {ohms_at_20: 0}}", "above zero"},
		{"expect: {winding: {ohms_at_20: 3.2, tolerance_percent: 15}}", "expect: {winding: {ohms_at_20: 3}, ohms: [1, 2]}", "just one thing is expected, not 2"},
		{"expect: {winding: {ohms_at_20: 3.2, tolerance_percent: 15}}", "expect: {ohms: [5, 2]}", "the lesser first"},
		{"expect: {winding: {ohms_at_20: 3.2, tolerance_percent: 15}}", "expect: {platinum: {r0: 1000, curve: pt}}", "is not a curve"},
		{"    expect: {winding: {ohms_at_20: 3.2, tolerance_percent: 15}}\n", "", "nothing to be held against"},
		{"leaves: [belt-slack-front]", "leaves: [belt-gone]", `there is no move "belt-gone"`},
		{"part: rollers, swap", "part: wheels, swap", `there is no part "wheels"`},
		{"test: by-hand}]", "test: by-foot}]", `there is no test "by-foot"`},
		{"{id: belt-broken, name", "{id: other, name", "other is the fault that every map has"},
		{"other: 5}", "others: 5}", `there is no fault "others"`},
		{"belt-broken: 55", "belt-broken: 0", "a weight is above zero"},
		{"other_minutes: 90", "other_minutes: -1", "minutes run from 0"},
		{"between: [[belt-broken], [rollers-worn, other]]", "between: [[belt-broken]]", "3 points have 2 gaps between them, not 1"},
		{"{id: block, name", "{id: pin, name", `the id "pin" is already taken by a point`},
		{"reach: {top: away}", "reach: {lid: away}", `there is no item or energy "lid"`},
		{"quantity: length", "quantity: width", "is not a quantity"},
		{"cut: {from: mark", "cut: {from: gap", `no move up to here records "gap"`},
		{"add: 75 mm", "add: 75", "is no length"},
		{"same_as: mark, within", "same_as: stain, within", `records no "stain" on its way out`},
		{"same_as: mark, within: 3 mm", "within: 3 mm", "name it in same_as"},
		{"say: Frayed, fault: belt-broken", "say: Frayed, fault: belt-gone", `there is no fault "belt-gone"`},
		{"{say: Frayed, fault", "{fault", "say what to look at, or what to do"},
		{"do: oil", "do: paint", "is not a do"},
		{"do: oil, say: The shaft, with: two drops", "do: oil, say: The shaft", "say what and how much"},
		{"say: The shaft, with: two drops", "say: The shaft, with: two drops, fault: belt-broken", "only a look speaks for a fault"},
		{"way: clockwise, seen_from: front", "way: clockwise", "seen from where"},
		{"{say: So, why: a}, {say: Otherwise, why: b}", "{say: So, why: a}", "one way alone is no choice"},
		{"{say: Otherwise, why: b}", "{say: Otherwise}", "says what it does and why"},
		{`covers: ["EX1"]`, `covers: ["EX[1"]`, "is no pattern of model numbers"},
		{"price: 90", "price: -90", "not below zero"},
	} {
		require.Contains(t, text, c.from)
		_, err := mapfile.Read("m.yaml", []byte(strings.Replace(text, c.from, c.to, 1)))
		assert.ErrorContains(t, err, c.says, "%s", c.to)
	}
}
