package plan_test

import (
	"maps"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/machine"
	"evensteps/core/machine/mapfile"
	"evensteps/core/plan"
)

func example(t testing.TB) *machine.Map {
	t.Helper()
	m, err := mapfile.ReadFile("../machine/testdata/example-map.yaml")
	require.NoError(t, err)
	return m
}

// The totals were found by an exhaustive program of its own kind, written
// apart from this planner, which tries every set of moves and every order.
func TestCheckValues(t *testing.T) {
	m := example(t)
	rollers := []string{"plug", "dead", "top-off", "console-up", "toe-off", "front-off", "belt-slack-front", "drum-out", "roller-l-off", "roller-r-off"}
	alone := append([]string{}, rollers...)
	alone[7] = "drum-out-alone"
	for name, c := range map[string]struct {
		request                   plan.Request
		made                      []string
		total, handling, in, back float64
		wayIn                     []string
	}{
		"rollers, two people": {plan.Request{Goals: []string{"replace:rollers"}, People: 2}, nil, 42.15, 35.5, 4.15, 2.50, rollers},
		"rollers, one person": {plan.Request{Goals: []string{"replace:rollers"}, People: 1}, nil, 47.45, 40.5, 4.30, 2.65, alone},
		"valve, gas, two people": {
			plan.Request{Goals: []string{"replace:valve"}, People: 2, Answers: map[string]string{"fuel": "gas"}},
			nil, 52.30, 45.5, 4.15, 2.65,
			[]string{"gas-shut", "gas-prove", "plug", "dead", "top-off", "console-up", "toe-off", "front-off", "belt-slack-front", "drum-out", "valve-out"},
		},
		"the plug is in again, so the proof has lapsed": {
			plan.Request{Goals: []string{"replace:rollers"}, People: 2},
			[]string{"dead", "top-off"},
			38.50, 33.5, 2.50, 2.50,
			[]string{"plug", "dead", "console-up", "toe-off", "front-off", "belt-slack-front", "drum-out", "roller-l-off", "roller-r-off"},
		},
	} {
		t.Run(name, func(t *testing.T) {
			r := c.request
			var err error
			r.Standing, err = plan.Standing(m, c.made, nil)
			require.NoError(t, err)
			p, err := plan.Make(m, r)
			require.NoError(t, err)
			assert.Equal(t, plan.Minutes{Handling: c.handling, TurnsAndToolsIn: c.in, TurnsAndToolsBack: c.back, Total: c.total}, p.Minutes)
			assert.Equal(t, c.wayIn, p.WayIn)
			assert.True(t, p.Proven)
		})
	}
}

// A screen that may be fitted before the cover: a minute off and two on. Nobody has
// said; as is usual it is not there, and if it were, three minutes come on top. An
// option that changes nothing is not asked.
func TestAskFirstWorkedByHand(t *testing.T) {
	m := &machine.Map{
		Options: []machine.Option{{ID: "screen", Ask: "A screen?", Values: []string{"none", "fitted"}, Usual: "none"}, {ID: "colour", Ask: "What colour?", Values: []string{"white", "black"}, Usual: "white"}},
		Items:   []machine.Item{{ID: "screen", When: machine.When{"screen": {"fitted"}}}, {ID: "cover"}, {ID: "badge", When: machine.When{"colour": {"black"}}}},
		Moves: []machine.Move{
			{ID: "screen-off", Takes: map[string]machine.Level{"screen": machine.Away}, Face: "front", Minutes: machine.Minutes{Out: 1, Back: 2}},
			{ID: "cover-off", Takes: map[string]machine.Level{"cover": machine.Away}, Needs: machine.Needs{"screen": machine.Away}, Face: "front", Minutes: machine.Minutes{Out: 4, Back: 5}},
			{ID: "badge-off", Takes: map[string]machine.Level{"badge": machine.Away}, Face: "front", Minutes: machine.Minutes{Out: 1, Back: 1}},
		},
	}
	r := plan.Request{Goals: []string{"item:cover=away"}}
	p, err := plan.Make(m, r)
	require.NoError(t, err)
	assert.InDelta(t, 9, p.Minutes.Total, 1e-9)
	assert.Equal(t, []plan.Ask{{Option: "screen", Ask: "A screen?", If: "fitted", Adds: []string{"screen-off"}, Minutes: 3}}, plan.AskFirst(m, r, p))
}

// What leaves no plan is asked before all, then what changes the most minutes,
// whatever the map says first.
func TestWhatIsAskedFirst(t *testing.T) {
	yes := func(id string) machine.Option {
		return machine.Option{ID: id, Ask: id + "?", Values: []string{"no", "yes"}, Usual: "no"}
	}
	fitted := func(id string) machine.When { return machine.When{id: {"yes"}} }
	m := &machine.Map{
		Options: []machine.Option{yes("strap"), yes("grille"), yes("sealed")},
		Items:   []machine.Item{{ID: "strap", When: fitted("strap")}, {ID: "grille", When: fitted("grille")}, {ID: "seal", When: fitted("sealed")}, {ID: "cover"}},
		Moves: []machine.Move{
			{ID: "strap-off", Takes: map[string]machine.Level{"strap": machine.Away}, Face: "front", Minutes: machine.Minutes{Out: 1, Back: 1}},
			{ID: "grille-off", Takes: map[string]machine.Level{"grille": machine.Away}, Face: "front", Minutes: machine.Minutes{Out: 3, Back: 3}},
			{ID: "cover-off", Takes: map[string]machine.Level{"cover": machine.Away}, Needs: machine.Needs{"strap": machine.Away, "grille": machine.Away, "seal": machine.Away}, Face: "front", Minutes: machine.Minutes{Out: 4, Back: 5}},
		},
	}
	r := plan.Request{Goals: []string{"item:cover=away"}}
	p, err := plan.Make(m, r)
	require.NoError(t, err)
	assert.Equal(t, []plan.Ask{
		{Option: "sealed", Ask: "sealed?", If: "yes", Adds: []string{}, NoPlan: true},
		{Option: "grille", Ask: "grille?", If: "yes", Adds: []string{"grille-off"}, Minutes: 6},
		{Option: "strap", Ask: "strap?", If: "yes", Adds: []string{"strap-off"}, Minutes: 2},
	}, plan.AskFirst(m, r, p))
}

func TestAskFirst(t *testing.T) {
	m := example(t)
	r := plan.Request{Goals: []string{"replace:rollers"}, People: 2}
	p, err := plan.Make(m, r)
	require.NoError(t, err)
	asks := plan.AskFirst(m, r, p)
	require.NotEmpty(t, asks)
	for i, a := range asks {
		if i > 0 && a.NoPlan == asks[i-1].NoPlan {
			assert.LessOrEqual(t, a.Minutes, asks[i-1].Minutes)
		}
		q := r
		q.Answers = map[string]string{a.Option: a.If}
		other, err := plan.Make(m, q)
		if a.NoPlan {
			assert.Error(t, err)
			continue
		}
		require.NoError(t, err)
		assert.InDelta(t, other.Minutes.Total-p.Minutes.Total, a.Minutes, 1e-9)
	}
	r.Answers = map[string]string{}
	for _, o := range m.Options {
		r.Answers[o.ID] = o.Usual
	}
	assert.Empty(t, plan.AskFirst(m, r, p), "what is stated is not asked")
}

func TestGoalsThatSayNothing(t *testing.T) {
	m := example(t)
	for goal, says := range map[string]string{
		"item:sail=away": "no item or energy", "item:top=proven": "no level of top", "item:top": "no level of top",
		"replace:sail": "no part", "test:sail": "no test", "rollers": "none of item:",
	} {
		_, err := plan.Make(m, plan.Request{Goals: []string{goal}})
		assert.ErrorContains(t, err, says, goal)
	}
	_, err := plan.Standing(m, []string{"mast-off"}, nil)
	assert.ErrorContains(t, err, "no move")
}

// Levels that are written as goals are read back as they were.
func TestItemGoalsAreReadAgain(t *testing.T) {
	m := example(t)
	needs := machine.Needs{"drum": machine.Away, "console": machine.Aside, "mains": machine.Proven}
	goals := plan.ItemGoals(needs)
	assert.Equal(t, []string{"item:console=aside", "item:drum=away", "item:mains=proven"}, goals)
	read := machine.Needs{}
	for _, g := range goals {
		target, err := plan.Reads(m, g)
		require.NoError(t, err)
		maps.Copy(read, target.Needs)
	}
	assert.Equal(t, needs, read)
	assert.Empty(t, plan.ItemGoals(nil))
}

// A plan that is not known to be the shortest says by how much.
func TestWhatIsNotProvenIsSaid(t *testing.T) {
	assert.Equal(t, "Not every way was looked at: another could take up to 4 min less.", (&plan.Plan{Gap: 3.2}).Doubt())
	assert.Empty(t, (&plan.Plan{Proven: true}).Doubt())
	assert.Empty(t, (&plan.Plan{}).Doubt(), "nothing is to be gained")
}

// Where gas is proven off by the flame first of all, the mains that the flame needs
// are shut after it; where another way stands first, they may be shut before.
func TestTheFlameComesBeforeTheMainsAreShut(t *testing.T) {
	made := func(proof ...string) []string {
		m := &machine.Map{
			Energies: []machine.Energy{{ID: "mains", Kind: "mains"}, {ID: "gas", Kind: "gas"}},
			Items:    []machine.Item{{ID: "valve"}},
			Moves: []machine.Move{
				{ID: "isolator", Takes: map[string]machine.Level{"mains": machine.Shut}, Face: "front", Minutes: machine.Minutes{Out: 1, Back: 1}, LiveOK: machine.Values{"mains", "gas"}},
				{ID: "cock", Takes: map[string]machine.Level{"gas": machine.Shut}, Face: "back", Minutes: machine.Minutes{Out: 1, Back: 1}, LiveOK: machine.Values{"mains", "gas"}},
				{ID: "flame", Takes: map[string]machine.Level{"gas": machine.Proven}, Needs: machine.Needs{"gas": machine.Shut}, Proof: proof, WhileLive: machine.Values{"mains"}, Face: "front", Minutes: machine.Minutes{Out: 1, Back: 0}, LiveOK: machine.Values{"mains", "gas"}},
				{ID: "valve-off", Takes: map[string]machine.Level{"valve": machine.Away}, Needs: machine.Needs{"mains": machine.Shut, "gas": machine.Proven}, Face: "front", Minutes: machine.Minutes{Out: 1, Back: 1}, LiveOK: machine.Values{"mains", "gas"}},
			},
		}
		p, err := plan.Make(m, plan.Request{Goals: []string{"item:valve=away"}})
		require.NoError(t, err)
		return p.WayIn
	}
	assert.Equal(t, []string{"cock", "flame", "isolator", "valve-off"}, made("burn-off", "let-by"))
	assert.Equal(t, "isolator", made("let-by", "burn-off")[0], "the same place as the first, and nothing against it")
	assert.Equal(t, "isolator", made("let-by")[0])
}
