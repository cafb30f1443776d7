package plan_test

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"evensteps/core/machine"
	"evensteps/core/plan"
)

// exhaustive finds the least total of a request by Dijkstra's algorithm over
// every sequence of moves and refits. It is written from the rules of the map
// format alone, with sets as words in strings, and shares nothing with the
// planner but the types of the map. -1 means that there is no plan.
type exhaustive struct {
	m      *machine.Map
	people int
	goals  []plan.Target
	found  map[string]machine.Level
	// As in a request.
	at                    *plan.Place
	returning             bool
	due                   map[string]bool
	again                 []string
	barredOut, barredBack []string
}

type moment struct {
	standing string // ids in the map's order, comma separated
	ever     string // moves made so far, for checks that are due
	passed   string // checks passed
	back     bool
	face     string
	pose     string
	tools    string
}

func (x *exhaustive) levels(standing []string) map[string]int {
	at := map[string]int{}
	for id, l := range x.found {
		at[id] = min(l.Rank(), 2)
		if l == machine.Proven {
			at[id] = 1
		}
	}
	for _, id := range standing {
		for it, l := range x.m.Move(id).Takes {
			at[it] = max(at[it], l.Rank())
		}
	}
	return at
}

func (x *exhaustive) meets(standing []string, needs machine.Needs, guards []string) bool {
	at := x.levels(standing)
	for id, l := range needs {
		if at[id] < l.Rank() {
			return false
		}
	}
	for _, e := range guards {
		if at[e] < 2 {
			return false
		}
	}
	return true
}

func (x *exhaustive) posed(needs machine.Needs, pose string) machine.Needs {
	all := machine.Needs{}
	for id, l := range needs {
		all[id] = l
	}
	for id, l := range x.m.Poses[pose].Needs {
		if l.Rank() > all[id].Rank() {
			all[id] = l
		}
	}
	return all
}

func split(s string) []string {
	if s == "" {
		return nil
	}
	return strings.Split(s, ",")
}

func without(list []string, id string) []string {
	return slices.DeleteFunc(slices.Clone(list), func(o string) bool { return o == id })
}

func (x *exhaustive) lapse(standing []string) []string {
	for again := true; again; {
		again = false
		for _, id := range standing {
			mv := x.m.Move(id)
			if !mv.OneWay {
				continue
			}
			needs := machine.Needs{}
			for e, l := range mv.Needs {
				if x.m.Energy(e) != nil {
					needs[e] = l
				}
			}
			if !x.meets(without(standing, id), needs, x.m.Guards(mv.LiveOK)) {
				standing, again = without(standing, id), true
				break
			}
		}
	}
	return standing
}

func (x *exhaustive) join(list []string) string {
	var out []string
	for _, mv := range x.m.Moves {
		if slices.Contains(list, mv.ID) {
			out = append(out, mv.ID)
		}
	}
	return strings.Join(out, ",")
}

func (x *exhaustive) price(s moment, face, pose string, tools []string) (int, string) {
	price := map[string]int{"front": 200, "top": 200, "inside": 200, "left": 500, "right": 500, "rear": 1500, "under": 2000}
	cost, hand := 0, split(s.tools)
	if s.face != face {
		cost += max(price[s.face], price[face])
	}
	if s.pose != pose {
		of := func(p string) int {
			if p == "" {
				return 0
			}
			if v := x.m.Poses[p].Minutes; v != nil {
				return int(math.Round(*v * 1000))
			}
			return 1000
		}
		cost += max(of(s.pose), of(pose))
	}
	if s.face != face || s.pose != pose {
		hand = nil
	}
	for _, t := range tools {
		if !slices.Contains(hand, t) {
			cost += 150
			hand = append(hand, t)
		}
	}
	slices.Sort(hand)
	return cost, strings.Join(hand, ",")
}

func (x *exhaustive) goalsMet(standing []string) bool {
	for _, g := range x.goals {
		if g.ByMove {
			for id, l := range g.Needs {
				if !slices.ContainsFunc(standing, func(mv string) bool { return x.m.Move(mv).Takes[id].Rank() >= l.Rank() && x.m.Move(mv).Takes[id] != "" }) {
					return false
				}
			}
		} else if !x.meets(standing, g.Needs, nil) {
			return false
		}
	}
	return true
}

func (x *exhaustive) refit(mv *machine.Move) (needs machine.Needs, face, pose string, tools []string, people int) {
	needs, face, pose, tools, people = mv.Needs, mv.Face, mv.Pose, mv.Tools, mv.People
	if b := mv.Back; b != nil {
		if b.Needs != nil {
			needs = *b.Needs
		}
		if b.Face != nil {
			face = *b.Face
		}
		if b.Pose != nil {
			pose = *b.Pose
		}
		if b.Tools != nil {
			tools = *b.Tools
		}
		if b.People != nil {
			people = *b.People
		}
	}
	return x.posed(needs, pose), face, pose, tools, max(people, x.m.Poses[pose].People, 1)
}

func (x *exhaustive) least(start []string) int {
	dist := map[moment]int{}
	type entry struct {
		s moment
		d int
	}
	first := moment{standing: x.join(start), ever: x.join(start), face: "front"}
	if n := len(start); n > 0 {
		last := x.m.Move(start[n-1])
		_, hand := x.price(moment{}, last.Face, last.Pose, last.Tools)
		first.face, first.pose, first.tools = last.Face, last.Pose, hand
	}
	if x.at != nil {
		first.face, first.pose = x.at.Face, x.at.Pose
		_, first.tools = x.price(moment{}, x.at.Face, x.at.Pose, x.at.Tools)
	}
	queue := []entry{{first, 0}}
	done := map[moment]bool{}
	for len(queue) > 0 {
		k := 0
		for i := range queue {
			if queue[i].d < queue[k].d {
				k = i
			}
		}
		cur := queue[k]
		queue[k] = queue[len(queue)-1]
		queue = queue[:len(queue)-1]
		if done[cur.s] {
			continue
		}
		done[cur.s] = true
		s, standing := cur.s, split(cur.s.standing)
		put := func(n moment, d int) {
			if old, seen := dist[n]; !seen || d < old {
				dist[n] = d
				queue = append(queue, entry{n, d})
			}
		}
		if !s.back {
			for i := range x.m.Moves {
				mv := &x.m.Moves[i]
				_, _, _, _, backPeople := x.refit(mv)
				if mv.OneWay {
					backPeople = 1
				}
				if slices.Contains(standing, mv.ID) || slices.Contains(x.barredOut, mv.ID) || max(mv.People, x.m.Poses[mv.Pose].People, backPeople) > x.people ||
					!x.meets(standing, x.posed(mv.Needs, mv.Pose), x.m.Guards(mv.LiveOK)) {
					continue
				}
				cost, hand := x.price(s, mv.Face, mv.Pose, mv.Tools)
				put(moment{x.join(append(slices.Clone(standing), mv.ID)), x.join(append(split(s.ever), mv.ID)), "", false, mv.Face, mv.Pose, hand}, cur.d+cost+int(math.Round(mv.Minutes.Out*1000)))
			}
			if x.goalsMet(standing) && !slices.ContainsFunc(x.again, func(id string) bool { return !slices.Contains(standing, id) }) {
				hand := ""
				if x.returning && s == first {
					hand = s.tools // nothing was done since a step of the way back
				}
				put(moment{s.standing, s.ever, "", true, s.face, s.pose, hand}, cur.d)
			}
			continue
		}
		var due []*machine.Check
		for i := range x.m.Checks {
			c := &x.m.Checks[i]
			made := func(id string) bool {
				return slices.Contains(split(s.ever), id) && !(x.due != nil && slices.Contains(start, id))
			}
			if (x.due[c.ID] || slices.ContainsFunc(c.For, made)) && !slices.Contains(split(s.passed), c.ID) {
				due = append(due, c)
			}
		}
		left := slices.ContainsFunc(standing, func(id string) bool { return !x.m.Move(id).OneWay })
		if !left && len(due) == 0 {
			return cur.d
		}
		for _, c := range due {
			if slices.ContainsFunc(c.After, func(id string) bool { return slices.Contains(standing, id) }) ||
				slices.ContainsFunc(c.Before, func(id string) bool {
					return slices.Contains(split(s.ever), id) && !slices.Contains(standing, id)
				}) ||
				!x.meets(standing, c.Needs, x.m.TaskGuards(&c.Task)) {
				continue
			}
			cost, hand := x.price(s, c.Face, c.Pose, c.Tools)
			passed := append(split(s.passed), c.ID)
			slices.Sort(passed)
			put(moment{s.standing, s.ever, strings.Join(passed, ","), true, c.Face, c.Pose, hand}, cur.d+cost+int(math.Round(c.Minutes*1000)))
		}
		for _, id := range standing {
			mv := x.m.Move(id)
			if mv.OneWay {
				continue
			}
			held := slices.ContainsFunc(standing, func(o string) bool {
				other := x.m.Move(o)
				if o == id || other.OneWay {
					return false
				}
				for it, l := range mv.Takes {
					if higher, both := other.Takes[it]; both && higher.Rank() > l.Rank() {
						return true
					}
				}
				return false
			})
			if held || mv.Back != nil && slices.ContainsFunc(mv.Back.After, func(o string) bool { return slices.Contains(standing, o) }) {
				continue
			}
			if slices.ContainsFunc(due, func(c *machine.Check) bool { return slices.Contains(c.Before, id) }) {
				continue
			}
			ways := []*machine.Move{mv}
			if mv.Back != nil {
				for _, o := range mv.Back.Or {
					ways = append(ways, x.m.Move(o))
				}
			}
			rest := x.lapse(without(standing, id))
			for k, by := range ways {
				needs, face, pose, tools, people := x.refit(by)
				if slices.Contains(x.barredBack, by.ID) || people > x.people && (k > 0 || !slices.Contains(start, id)) || !x.meets(rest, needs, x.m.Guards(by.LiveOK)) {
					continue
				}
				cost, hand := x.price(s, face, pose, tools)
				put(moment{x.join(rest), s.ever, s.passed, true, face, pose, hand}, cur.d+cost+int(math.Round(by.Minutes.Back*1000)))
			}
		}
	}
	return -1
}

// randomMap draws a small map with energies, alternatives, refits that differ,
// poses and checks. Needs point mostly, not always, at earlier items.
func randomMap(t *rapid.T) *machine.Map {
	m := &machine.Map{Format: machine.Format, ID: "random", Title: "Random", Kind: "other", Revision: 1}
	draw := func(n int) int { return rapid.IntRange(0, n-1).Draw(t, "n") }
	chance := func(percent int) bool { return draw(100) < percent }
	half := func(n int) float64 { return float64(draw(n)) / 2 }
	items := 3 + draw(3)
	for i := range items {
		m.Items = append(m.Items, machine.Item{ID: fmt.Sprintf("i%d", i), Name: "Item", Type: "part", Face: "front"})
	}
	faces := []string{"front", "top", "rear", "left", "under", "inside"}[:2+draw(5)]
	face := func() string { return faces[draw(len(faces))] }
	tools := func() []string {
		var out []string
		for _, x := range []string{"a", "b", "c"} {
			if chance(25) {
				out = append(out, x)
			}
		}
		return out
	}
	needs := func(below int) machine.Needs {
		n := machine.Needs{}
		for range draw(3) {
			if chance(15) {
				below = items
			}
			if below > 0 {
				n[fmt.Sprintf("i%d", draw(below))] = []machine.Level{machine.Aside, machine.Away}[draw(2)]
			}
		}
		return n
	}
	pose := func() string {
		if chance(15) {
			return "tilted"
		}
		return ""
	}
	tilted := machine.Pose{People: 1 + draw(10)/9}
	if chance(40) {
		minutes := half(5)
		tilted.Minutes = &minutes
	}
	if chance(20) {
		tilted.Needs = machine.Needs{"i0": machine.Aside}
	}
	m.Poses = map[string]machine.Pose{"tilted": tilted}
	if chance(60) {
		m.Energies = []machine.Energy{{ID: "mains", Kind: "mains", Name: "Mains"}}
		m.Moves = append(m.Moves,
			machine.Move{ID: "plug", Title: "Plug", Takes: map[string]machine.Level{"mains": machine.Shut}, LiveOK: []string{"mains"}, Face: face(), Minutes: machine.Minutes{Out: half(4), Back: half(4)}},
			machine.Move{ID: "dead", Title: "Dead", Takes: map[string]machine.Level{"mains": machine.Proven}, Needs: machine.Needs{"mains": machine.Shut}, OneWay: true, LiveOK: []string{"mains"}, Face: face(), Tools: tools(), Minutes: machine.Minutes{Out: half(4)}})
	}
	for i := range items {
		for k := range 1 + draw(2) {
			mv := machine.Move{ID: fmt.Sprintf("m%d%d", i, k), Title: "Move", Takes: map[string]machine.Level{fmt.Sprintf("i%d", i): []machine.Level{machine.Aside, machine.Away, machine.Away}[draw(3)]}, Needs: needs(i), Face: face(), Pose: pose(), Tools: tools(), Minutes: machine.Minutes{Out: half(8), Back: half(8)}, People: 1 + draw(10)/9}
			delete(mv.Needs, fmt.Sprintf("i%d", i))
			if len(m.Energies) > 0 && chance(20) {
				mv.LiveOK = []string{"mains"}
			}
			if chance(20) {
				mv.Takes[fmt.Sprintf("i%d", draw(items))] = machine.Aside
			}
			b := machine.Back{}
			if chance(15) {
				n := needs(items)
				b.Needs = &n
			}
			if chance(10) {
				f := face()
				b.Face = &f
			}
			if chance(15) {
				list := tools()
				b.Tools = &list
			}
			if chance(10) {
				p := pose()
				b.Pose = &p
			}
			if chance(10) {
				n := 1 + draw(2)
				b.People = &n
			}
			if k > 0 && chance(40) && maps.Equal(m.Moves[len(m.Moves)-1].Takes, mv.Takes) {
				b.Or = []string{fmt.Sprintf("m%d%d", i, k-1)}
			}
			mv.Back = &b
			m.Moves = append(m.Moves, mv)
		}
	}
	if n := len(m.Moves); n > 3 && chance(30) {
		after := m.Moves[draw(n)]
		if mv := &m.Moves[draw(n)]; !after.OneWay && !mv.OneWay && after.ID != mv.ID {
			b := machine.Back{}
			if mv.Back != nil {
				b = *mv.Back
			}
			b.After = []string{after.ID}
			mv.Back = &b
		}
	}
	if chance(50) {
		some := func() []string {
			mv := m.Moves[draw(len(m.Moves))]
			if mv.OneWay {
				return nil
			}
			return []string{mv.ID}
		}
		c := machine.Check{Task: machine.Task{ID: "c", Title: "Check", Face: face(), Tools: tools(), Minutes: half(4)}, After: some(), Before: some()}
		if c.For = some(); c.For != nil {
			m.Checks = append(m.Checks, c)
		}
	}
	return m
}

// Random small maps, from random states: the planner finds just what trying
// everything finds.
func TestAgainstExhaustiveSearch(t *testing.T) {
	planned, refused := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		m := randomMap(t)
		x := &exhaustive{m: m, people: rapid.IntRange(1, 2).Draw(t, "people"), found: map[string]machine.Level{}}
		one := func(of int, name string) bool { return rapid.IntRange(0, of-1).Draw(t, name) == 0 }
		if one(5, "found") {
			x.found["i0"] = machine.Aside
		}
		if len(m.Energies) > 0 && one(8, "shut") {
			x.found["mains"] = machine.Proven // which counts as shut at most
		}
		var start []string
		for range rapid.IntRange(0, 3).Draw(t, "made") {
			mv := &m.Moves[rapid.IntRange(0, len(m.Moves)-1).Draw(t, "move")]
			if !slices.Contains(start, mv.ID) && x.meets(start, x.posed(mv.Needs, mv.Pose), m.Guards(mv.LiveOK)) {
				start = append(start, mv.ID)
			}
		}
		var goals []string
		for range rapid.IntRange(1, 2).Draw(t, "goals") {
			goals = append(goals, fmt.Sprintf("item:i%d=%s", rapid.IntRange(0, len(m.Items)-1).Draw(t, "goal"), rapid.SampledFrom([]string{"aside", "away"}).Draw(t, "level")))
		}
		for _, g := range goals {
			target, err := plan.Reads(m, g)
			require.NoError(t, err)
			x.goals = append(x.goals, target)
		}
		some := func(name string) string { return rapid.SampledFrom(m.Moves).Draw(t, name).ID }
		if one(4, "barred out") {
			x.barredOut = []string{some("barred out")}
		}
		if one(4, "barred back") {
			x.barredBack = []string{some("barred back")}
		}
		if again := some("again"); one(6, "made again") && !slices.Contains(start, again) {
			x.again = []string{again}
		}
		if len(m.Checks) > 0 && one(3, "due stated") {
			x.due = map[string]bool{"c": one(2, "due")}
		}
		if one(3, "stands elsewhere") {
			x.at = &plan.Place{Face: rapid.SampledFrom([]string{"front", "rear", "left"}).Draw(t, "face"), Pose: rapid.SampledFrom([]string{"", "tilted"}).Draw(t, "pose"), Tools: rapid.SampledFrom([][]string{nil, {"a"}, {"a", "b"}}).Draw(t, "hand")}
			x.returning = one(2, "returning")
		}
		want := x.least(start)
		p, err := plan.Make(m, plan.Request{
			Goals: goals, People: x.people, Standing: start, Found: x.found, At: x.at, Returning: x.returning, Due: x.due, Again: x.again, BarredOut: x.barredOut, BarredBack: x.barredBack,
		})
		if want < 0 {
			refused++
			require.Error(t, err)
			return
		}
		planned++
		require.NoError(t, err, "exhaustive search finds %d", want)
		require.Equal(t, want, int(math.Round(p.Minutes.Total*1000)), "way in %v, back %v", p.WayIn, p.WayBack)
		require.True(t, p.Proven)
	})
	require.NotZero(t, planned)
	require.NotZero(t, refused)
}
