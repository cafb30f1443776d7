package plan_test

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"evensteps/core/machine"
	"evensteps/core/plan"
)

func TestOtherWaysOfTheExample(t *testing.T) {
	m := example(t)
	r := plan.Request{Goals: []string{"replace:rollers"}, People: 2}
	p, err := plan.Make(m, r)
	require.NoError(t, err)
	ways := plan.OtherWays(m, r, p)
	require.NotEmpty(t, ways)
	// The second check value of the format: one person, 47.45 min.
	var alone *plan.Way
	for i := range ways {
		if slices.Equal(ways[i].Differs, []string{"drum-out-alone"}) {
			alone = &ways[i]
		}
		assert.LessOrEqual(t, ways[i].Minutes.Total, 1.6*p.Minutes.Total)
	}
	require.NotNil(t, alone, "%v", ways)
	assert.Equal(t, 47.45, alone.Minutes.Total)
	assert.Equal(t, 1, alone.People)
}

// Small random maps: the other ways are just those that trying every set of
// moves finds.
func TestOtherWaysAgainstEverySet(t *testing.T) {
	some := 0
	rapid.Check(t, func(t *rapid.T) {
		m := randomMap(t)
		r := plan.Request{Goals: []string{fmt.Sprintf("item:i%d=away", rapid.IntRange(0, len(m.Items)-1).Draw(t, "goal"))}, People: 2}
		best, err := plan.Make(m, r)
		if err != nil || len(m.Moves) > 10 {
			return
		}
		// planOf plans with nothing but these moves.
		planOf := func(keep func(k int) bool) *plan.Plan {
			q := r
			for k := range m.Moves {
				if !keep(k) {
					q.BarredOut = append(q.BarredOut, m.Moves[k].ID)
				}
			}
			p, err := plan.Make(m, q)
			if err != nil {
				return nil
			}
			return p
		}
		var want []int
		for s := range 1 << len(m.Moves) {
			in := func(k int) bool { return s>>k&1 == 1 }
			p := planOf(in)
			if p == nil {
				continue
			}
			spared := false
			for k := range m.Moves {
				spared = spared || in(k) && planOf(func(o int) bool { return o != k && in(o) }) != nil
			}
			if spared || sameMoves(p.WayIn, best.WayIn) || p.Minutes.Total > 1.6*best.Minutes.Total {
				continue
			}
			want = append(want, int(math.Round(p.Minutes.Total*1000)))
		}
		slices.Sort(want)
		want = want[:min(3, len(want))]
		var got []int
		for _, w := range plan.OtherWays(m, r, best) {
			got = append(got, int(math.Round(w.Minutes.Total*1000)))
		}
		require.Equal(t, want, got)
		some += len(got)
	})
	require.NotZero(t, some, "some maps have other ways")
}

// Two moves that are there only for each other: "lift" cannot be made without
// "hold", nor "hold" be put back without "lift". Neither can be left out alone,
// yet with "cut" both can, so they belong to no way.
func TestMovesThatAreThereOnlyForEachOtherAreNoWay(t *testing.T) {
	m := &machine.Map{
		Format: machine.Format, ID: "pair", Title: "Pair", Kind: "other", Revision: 1,
		Items: []machine.Item{{ID: "pump"}, {ID: "hose"}, {ID: "shelf"}, {ID: "latch"}},
	}
	move := func(id string, minutes float64, needs machine.Needs, takes ...string) *machine.Move {
		mv := machine.Move{ID: id, Title: id, Face: "front", Needs: needs, Takes: map[string]machine.Level{}, Minutes: machine.Minutes{Out: minutes, Back: minutes}}
		for _, item := range takes {
			mv.Takes[item] = machine.Aside
		}
		m.Moves = append(m.Moves, mv)
		return &m.Moves[len(m.Moves)-1]
	}
	move("pull", 10, nil, "pump")
	move("cut", 12, nil, "pump", "hose")
	move("lift", 0.5, machine.Needs{"hose": machine.Aside, "shelf": machine.Aside}, "pump", "latch").Back = &machine.Back{Needs: &machine.Needs{}}
	move("hold", 0.5, nil, "shelf").Back = &machine.Back{Needs: &machine.Needs{"latch": machine.Aside}}

	r := plan.Request{Goals: []string{"item:pump=aside"}, People: 1}
	p, err := plan.Make(m, r)
	require.NoError(t, err)
	require.Equal(t, []string{"pull"}, p.WayIn)
	ways := plan.OtherWays(m, r, p)
	require.Len(t, ways, 1, "%v", ways)
	assert.Equal(t, []string{"cut"}, ways[0].WayIn)
}

func sameMoves(a, b []string) bool {
	return slices.Equal(slices.Sorted(slices.Values(a)), slices.Sorted(slices.Values(b)))
}

func TestConsumablesOfTheWayBack(t *testing.T) {
	m := example(t)
	for i := range m.Moves {
		if m.Moves[i].ID == "front-off" {
			m.Moves[i].Consumes = []string{"cable-tie"}
		}
	}
	p, err := plan.Make(m, plan.Request{Goals: []string{"replace:rollers"}, People: 2})
	require.NoError(t, err)
	assert.Equal(t, []string{"cable-tie"}, p.Consumes)
}
