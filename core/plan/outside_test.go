package plan_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/machine"
	"evensteps/core/machine/lint"
	"evensteps/core/plan"
	"evensteps/core/plan/plantest"
)

// handling is a map without turning: each line "item cost: a b | c" is a move
// of that many tenths of a minute that needs a and b, or (as an alternative
// move of no more cost) c. Nothing needs to come back in particular.
func handling(t *testing.T, text string) *machine.Map {
	t.Helper()
	m := &machine.Map{Format: machine.Format, ID: "table", Title: "Table", Kind: "other", Revision: 1}
	for _, line := range strings.Split(strings.TrimSpace(text), "\n") {
		head, needs, _ := strings.Cut(line, ":")
		var id string
		var cost float64
		_, err := fmt.Sscan(head, &id, &cost)
		require.NoError(t, err, line)
		m.Items = append(m.Items, machine.Item{ID: id, Name: id, Type: "part", Face: "front"})
		for k, way := range strings.Split(needs, "|") {
			mv := machine.Move{ID: fmt.Sprintf("%s-%d", id, k), Title: id, Takes: map[string]machine.Level{id: machine.Away}, Needs: machine.Needs{}, Face: "front", Minutes: machine.Minutes{Out: cost / 10}}
			none := machine.Needs{}
			mv.Back = &machine.Back{Needs: &none}
			for _, n := range strings.Fields(way) {
				mv.Needs[n] = machine.Away
			}
			m.Moves = append(m.Moves, mv)
		}
	}
	return m
}

func least(t *testing.T, m *machine.Map, off []string, goals ...string) float64 {
	t.Helper()
	r := plan.Request{}
	for _, g := range goals {
		r.Goals = append(r.Goals, "item:"+g+"=away")
	}
	for _, id := range off {
		r.Standing = append(r.Standing, id+"-0")
	}
	p, err := plan.Make(m, r)
	require.NoError(t, err, goals)
	require.True(t, p.Proven)
	return p.Minutes.Total * 10
}

// Seventeen parts with needs that are ORs of ANDs. The optima were found by
// trying all 2^17 sets, by an answer-set solver and by MaxSAT with order
// variables, outside this project; all three agree. The traps: x and y may not
// justify each other, and one goal changes the cheapest way to another.
func TestSeventeenParts(t *testing.T) {
	m := handling(t, `
s1 5:
s2 5:
s3 8:
s4 4:
clip 2:
s5 30:
s9 20:
s10 25:
top 10: s1 s2
kick 6: s4
rear 12: s5
front 20: top s3 | kick clip
belt 7: front | rear
drum 25: front belt
motor 15: belt kick
x 3: y | s9
y 3: x | s10`)
	for _, c := range []struct {
		off   []string
		goals string
		want  float64
	}{
		{nil, "motor", 54},
		{nil, "drum", 64},
		{nil, "drum motor", 79},
		{nil, "top", 20},
		{nil, "x", 23},
		{nil, "x y", 26},
		{nil, "rear motor", 74},
		{[]string{"s1", "s2", "top", "s3"}, "motor", 52},
		{[]string{"s5", "rear"}, "drum", 64},
	} {
		assert.InDelta(t, c.want, least(t, m, c.off, strings.Fields(c.goals)...), 1e-9, "%s, off: %v", c.goals, c.off)
	}
}

// Blocking sets of small geometries: a goal that needs, for every line, one of
// its points. Fano plane 3 (finite geometry); affine plane of order three 5
// (twelve lines; Fulkerson, Nemhauser and Trotter 1974, from memory).
func TestBlockingSets(t *testing.T) {
	for name, c := range map[string]struct {
		points int
		lines  [][]int
		want   float64
	}{
		"Fano plane": {7, [][]int{{0, 1, 2}, {0, 3, 4}, {0, 5, 6}, {1, 3, 5}, {1, 4, 6}, {2, 3, 6}, {2, 4, 5}}, 3},
		"AG(2,3)": {9, [][]int{
			{0, 1, 2}, {3, 4, 5}, {6, 7, 8}, {0, 3, 6}, {1, 4, 7}, {2, 5, 8}, {0, 4, 8}, {1, 5, 6}, {2, 3, 7}, {0, 5, 7}, {1, 3, 8}, {2, 4, 6},
		}, 5},
	} {
		m := &machine.Map{Format: machine.Format, ID: "geometry", Title: name, Kind: "other", Revision: 1}
		r := plan.Request{}
		for l := range c.lines {
			m.Items = append(m.Items, machine.Item{ID: fmt.Sprintf("line-%d", l), Name: "Line", Type: "part", Face: "front"})
			r.Goals = append(r.Goals, fmt.Sprintf("item:line-%d=away", l))
		}
		for p := range c.points {
			takes := map[string]machine.Level{}
			for l, line := range c.lines {
				for _, q := range line {
					if p == q {
						takes[fmt.Sprintf("line-%d", l)] = machine.Away
					}
				}
			}
			m.Moves = append(m.Moves, machine.Move{ID: fmt.Sprintf("point-%d", p), Title: "Point", Takes: takes, Face: "front", Minutes: machine.Minutes{Out: 1}})
		}
		p, err := plan.Make(m, r)
		require.NoError(t, err)
		assert.InDelta(t, c.want, p.Minutes.Total, 1e-9, name)
		assert.True(t, p.Proven)
	}
}

// Large random maps: shown to be the least, and lawful step by step. Scaling
// all minutes is not the same plan scaled, since turning stays; but a goal more
// never makes a plan cheaper.
func TestRandomMapsOfSixtyMoves(t *testing.T) {
	proven := 0
	const maps = 60
	for seed := range uint64(maps) {
		m, goals := plantest.Random(seed)
		require.Empty(t, lint.Flaws(m), seed)
		p, err := plan.Make(m, plan.Request{Goals: goals})
		require.NoError(t, err)
		if p.Proven {
			proven++
			require.Zero(t, p.Gap)
		} else {
			require.Positive(t, p.Gap, "what is not shown states its gap")
		}
		lawful(t, m, p)
		one, err := plan.Make(m, plan.Request{Goals: goals[:1]})
		require.NoError(t, err)
		assert.LessOrEqual(t, one.Minutes.Total, p.Minutes.Total+p.Gap)
	}
	assert.GreaterOrEqual(t, proven, maps*99/100)
}

// lawful plays a plan by the rules of the map format and adds up its cost.
func lawful(t *testing.T, m *machine.Map, p *plan.Plan) {
	t.Helper()
	x := &exhaustive{m: m, people: p.People, found: map[string]machine.Level{}}
	at := moment{face: "front"}
	total := 0
	var standing []string
	for _, id := range p.WayIn {
		mv := m.Move(id)
		require.True(t, x.meets(standing, mv.Needs, m.Guards(mv.LiveOK)), "%s cannot be made yet", id)
		cost, hand := x.price(at, mv.Face, mv.Pose, mv.Tools)
		total += cost + int(mv.Minutes.Out*1000)
		at.face, at.pose, at.tools = mv.Face, mv.Pose, hand
		standing = append(standing, id)
	}
	at.tools = ""
	for _, s := range p.WayBack {
		if s.Check != "" {
			c := m.Check(s.Check)
			cost, hand := x.price(at, c.Face, c.Pose, c.Tools)
			total += cost + int(c.Minutes*1000)
			at.face, at.pose, at.tools = c.Face, c.Pose, hand
			continue
		}
		mv := m.Move(s.Undo)
		needs, face, pose, tools, _ := x.refit(mv)
		standing = x.lapse(without(standing, s.Undo))
		require.True(t, x.meets(standing, needs, m.Guards(mv.LiveOK)), "%s cannot come back yet", s.Undo)
		cost, hand := x.price(at, face, pose, tools)
		total += cost + int(mv.Minutes.Back*1000)
		at.face, at.pose, at.tools = face, pose, hand
	}
	require.Empty(t, standing)
	require.InDelta(t, p.Minutes.Total*1000, total, 0.5)
}
