package plan

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/machine"
	"evensteps/core/plan/plantest"
)

// planned plans with so many states at the most.
func planned(t testing.TB, m *machine.Map, most int, goals ...string) *Plan {
	t.Helper()
	r := Request{Goals: goals, People: 2}
	pr, err := compile(m.With(nil), r, 2)
	require.NoError(t, err)
	pr.most = most
	f, err := pr.search()
	require.NoError(t, err, "a map that has a plan has one, however little is looked at")
	return pr.plan(f, 2)
}

// A search that is cut is never silent: whatever the number of states, a plan that
// is called proven is the least, one that is not says how much less there could be,
// truly, and "no plan" never stands where there is one.
func TestACutSearchSaysSo(t *testing.T) {
	cut, short := 0, 0
	for seed := range uint64(60) {
		m, goals := plantest.Random(seed)
		whole := planned(t, m, mostStates, goals...)
		if !whole.Proven {
			continue
		}
		for _, most := range []int{1, 50, 400} {
			p := planned(t, m, most, goals...)
			played(t, m, p)
			switch {
			case p.Proven:
				assert.InDelta(t, whole.Minutes.Total, p.Minutes.Total, 1e-9, "seed %d, %d states: called the least", seed, most)
				assert.Zero(t, p.Gap)
			default:
				cut++
				assert.Positive(t, p.Gap)
				assert.GreaterOrEqual(t, whole.Minutes.Total, p.Minutes.Total-p.Gap-1e-9, "seed %d, %d states: the gap is a bound", seed, most)
				assert.Less(t, p.Gap, p.Minutes.Total/2, "and one that says something")
			}
			assert.GreaterOrEqual(t, p.Minutes.Total, whole.Minutes.Total-1e-9)
			if p.Minutes.Total > whole.Minutes.Total+1e-9 {
				short++
			}
		}
	}
	assert.Greater(t, cut, 60)
	t.Logf("%d of 180 were cut, %d of them dearer than the least", cut, short)
}

// played makes a plan on its map, both ways: every move is ready when it is made,
// every refit when its turn comes, and nothing stays off.
func played(t testing.TB, m *machine.Map, p *Plan) {
	t.Helper()
	var standing []string
	for _, id := range p.WayIn {
		at := Levels(m, standing, nil)
		for need, level := range m.Move(id).Needs {
			require.GreaterOrEqual(t, at[need].Rank(), level.Rank(), "%s before %s", id, need)
		}
		standing = append(standing, id)
	}
	for _, s := range p.WayBack {
		if s.Undo == "" {
			continue
		}
		next := Next(m, Request{Standing: standing, People: 2})
		require.Contains(t, undone(next), s.Undo, "after %v", standing)
		for i, id := range standing {
			if id == s.Undo {
				standing = append(standing[:i:i], standing[i+1:]...)
				break
			}
		}
		standing = Lapse(m, standing, nil)
	}
	for _, id := range standing {
		require.True(t, m.Move(id).OneWay, "%s stays off", id)
	}
}

func undone(steps []Step) (out []string) {
	for _, s := range steps {
		out = append(out, s.Undo)
	}
	return out
}

// wide is one item that so many small independent moves must come before, spread
// over faces and tools.
func wide(needs, faces, tools int) *machine.Map {
	all := []string{"front", "inside", "top", "rear", "left", "right", "under"}
	m := &machine.Map{Format: machine.Format, ID: "wide", Title: "Wide", Kind: "other", Revision: 1}
	goal := machine.Needs{}
	for i := range needs {
		id := fmt.Sprintf("n%d", i)
		m.Items = append(m.Items, machine.Item{ID: id, Name: id, Type: "part", Face: "front"})
		m.Moves = append(m.Moves, machine.Move{
			ID: id + "-off", Title: id, Takes: map[string]machine.Level{id: machine.Away}, Face: all[i*3%faces],
			Tools: []string{fmt.Sprintf("tool %d", i*5%tools), fmt.Sprintf("tool %d", i*7%tools)}, Minutes: machine.Minutes{Out: 1, Back: 1},
		})
		goal[id] = machine.Away
	}
	m.Items = append(m.Items, machine.Item{ID: "core", Name: "core", Type: "part", Face: "front"})
	m.Moves = append(m.Moves, machine.Move{ID: "core-off", Title: "core", Takes: map[string]machine.Level{"core": machine.Away}, Needs: goal, Face: "front", Minutes: machine.Minutes{Out: 1, Back: 1}})
	return m
}

// stacks are so many stacks of so many items, each with tools, before one item.
func stacks(n, high int) *machine.Map {
	faces := []string{"front", "rear", "left", "right", "under", "top", "inside", "front"}
	m := &machine.Map{Format: machine.Format, ID: "stacks", Title: "Stacks", Kind: "other", Revision: 1}
	goal := machine.Needs{}
	for s := range n {
		before := ""
		for k := range high {
			id := fmt.Sprintf("s%d-%d", s, k)
			mv := machine.Move{ID: id + "-off", Title: id, Takes: map[string]machine.Level{id: machine.Away}, Needs: machine.Needs{}, Face: faces[(s+k)%len(faces)], Tools: []string{fmt.Sprintf("tool %d", (s*3+k)%6)}, Minutes: machine.Minutes{Out: 1, Back: 1}}
			if before != "" {
				mv.Needs[before] = machine.Away
			}
			m.Items = append(m.Items, machine.Item{ID: id, Name: id, Type: "part", Face: "front"})
			m.Moves = append(m.Moves, mv)
			before = id
		}
		goal[before] = machine.Away
	}
	m.Items = append(m.Items, machine.Item{ID: "core", Name: "core", Type: "part", Face: "front"})
	m.Moves = append(m.Moves, machine.Move{ID: "core-off", Title: "core", Takes: map[string]machine.Level{"core": machine.Away}, Needs: goal, Face: "front", Minutes: machine.Minutes{Out: 1, Back: 1}})
	return m
}

// chain is so many items one behind another, each with two ways, the second
// plainly dearer.
func chain(n int) *machine.Map {
	m := &machine.Map{Format: machine.Format, ID: "chain", Title: "Chain", Kind: "other", Revision: 1}
	before := ""
	for i := range n {
		id := fmt.Sprintf("c%d", i)
		m.Items = append(m.Items, machine.Item{ID: id, Name: id, Type: "part", Face: "front"})
		for k, minutes := range []float64{1, 4} {
			mv := machine.Move{ID: fmt.Sprintf("%s-way%d", id, k), Title: id, Takes: map[string]machine.Level{id: machine.Away}, Needs: machine.Needs{}, Face: "front", Minutes: machine.Minutes{Out: minutes, Back: minutes}}
			if before != "" {
				mv.Needs[before] = machine.Away
			}
			m.Moves = append(m.Moves, mv)
		}
		before = id
	}
	return m
}

// Maps that were called without a way, or shown to be the least when they were
// not: each has a plan, proven or with a gap under a tenth.
func TestLargeMapsHaveAPlan(t *testing.T) {
	for name, c := range map[string]struct {
		m    *machine.Map
		goal string
	}{
		"22 needs on 7 faces with 8 tools": {wide(22, 7, 8), "item:core=away"},
		"8 stacks of 4 with tools":         {stacks(8, 4), "item:core=away"},
		"26 items, each with two ways":     {chain(26), "item:c25=away"},
	} {
		began := time.Now()
		p, err := Make(c.m, Request{Goals: []string{c.goal}, People: 1})
		require.NoError(t, err, name)
		played(t, c.m, p)
		assert.True(t, p.Proven || p.Gap < p.Minutes.Total/10, "%s: gap %.2f of %.2f", name, p.Gap, p.Minutes.Total)
		t.Logf("%s: %.2f min, proven %v, gap %.2f, in %s", name, p.Minutes.Total, p.Proven, p.Gap, time.Since(began).Round(time.Millisecond))
	}
}
