package plan

import (
	"fmt"
	"maps"
	"math"
	"math/bits"
	"slices"

	"evensteps/core/machine"
)

// mostMoves is how many moves a map may have; sets are fixed-size bit sets so
// that they can be keys.
const mostMoves = 256

type set [mostMoves / 64]uint64

func (s set) has(i int) bool { return s[i>>6]&(1<<(i&63)) != 0 }
func (s *set) add(i int)     { s[i>>6] |= 1 << (i & 63) }
func (s set) with(i int) set { s.add(i); return s }

func (s set) count() (n int) {
	for _, w := range s {
		n += bits.OnesCount64(w)
	}
	return n
}

// each yields the members in ascending order.
func (s set) each(yield func(int) bool) {
	for k, w := range s {
		for w != 0 {
			i := bits.TrailingZeros64(w)
			if !yield(k<<6 | i) {
				return
			}
			w &= w - 1
		}
	}
}

// thousandths of a minute; costs are compared as whole ones.
func thousandths(minutes float64) int { return int(math.Round(minutes * 1000)) }

// The prices of turning and of fetching a tool, in thousandths of a minute.
const (
	turnNear  = 200  // among front, top and inside
	turnSide  = 500  // left or right to or from another face
	turnRear  = 1500 // rear to or from another face
	turnUnder = 2000 // under to or from another face
	fetchTool = 150
)

func turnFaces(a, b string) int {
	if a == b {
		return 0
	}
	price := func(face string) int {
		switch face {
		case "left", "right":
			return turnSide
		case "rear":
			return turnRear
		case "under":
			return turnUnder
		}
		return turnNear
	}
	return max(price(a), price(b))
}

// req asks for a level of an item or energy.
type req struct{ ent, level int }

// work is one way to do one step: where, with what, what must be met, and the
// thousandths of a minute that its hands take.
type work struct {
	place   int
	tools   uint64
	minutes int
	needs   []req
	via     int // the move whose refit it is
}

type move struct {
	out     work
	backs   []work
	takes   []req
	oneWay  bool
	allowed bool
	stands  []req // what a one-way move stands on
}

type check struct {
	work
	forMoves, after, before []int
	stated, due             bool // due by what was done, where the request says so
}

// goal is one level that must be reached.
type goal struct {
	req
	byMove bool
}

type problem struct {
	shutsFor []set // move that shuts an energy off -> moves to be made before it
	m        *machine.Map
	r        Request
	ents     map[string]int
	names    []string
	index    map[string]int // move id -> bit
	moves    []move
	checks   []check
	goals    []goal
	forced   set
	start    set // standing
	base     []int
	place0   int
	hand0    uint64
	places   []Place
	turn     [][]int // place x place
	tools    []string
	gives    [][]int // entity*3+level -> moves that give it or beyond
	entering []int   // place -> least price of entering it from any other

	homeFirst []set // move -> moves whose refit has to come after its own

	states int // states of orders looked at so far
	most   int // and how many at the most

	chainIn, chainBack []int // move -> what a way with it pays in any case
}

func compile(m *machine.Map, r Request, people int) (*problem, error) {
	if len(m.Moves) > mostMoves {
		return nil, &NoPlan{Code: "no-way-in", Message: fmt.Sprintf("the map has %d moves; %d are planned at most", len(m.Moves), mostMoves)}
	}
	pr := &problem{most: mostStates, m: m, r: r, ents: map[string]int{}, index: map[string]int{}}
	for _, e := range m.Energies {
		pr.entity(e.ID)
	}
	for _, it := range m.Items {
		pr.entity(it.ID)
	}
	for i := range m.Moves {
		pr.index[m.Moves[i].ID] = i
	}
	for i := range m.Moves {
		pr.moves = append(pr.moves, pr.compileMove(&m.Moves[i], people))
	}
	for i := range m.Moves { // refits by another's way: all of it is that refit's
		if b := m.Moves[i].Back; b != nil {
			for _, id := range b.Or {
				o := pr.index[id]
				if refitPeople(m, &m.Moves[o]) > people || slices.Contains(r.BarredBack, id) {
					continue
				}
				by := pr.refit(&m.Moves[o])
				by.via = o
				pr.moves[i].backs = append(pr.moves[i].backs, by)
			}
		}
	}
	for i := range m.Checks {
		pr.checks = append(pr.checks, pr.compileCheck(&m.Checks[i]))
	}
	pr.base = make([]int, len(pr.names))
	for id, level := range Levels(m, nil, r.Found) {
		if e, ok := pr.ents[id]; ok {
			pr.base[e] = level.Rank()
		}
	}
	for _, id := range r.Standing {
		i, ok := pr.index[id]
		if !ok {
			return nil, &NoPlan{Code: "unknown-move", Message: fmt.Sprintf("the map %s has no move %q", m.ID, id), Missing: []string{id}}
		}
		pr.start.add(i)
	}
	for _, id := range r.Again {
		i, ok := pr.index[id]
		if !ok {
			continue
		}
		if !pr.moves[i].allowed {
			return nil, &NoPlan{Code: "no-way-in", Message: fmt.Sprintf("%s must be made again, and cannot be", id), Missing: []string{id}}
		}
		pr.forced.add(i)
	}
	for _, g := range r.Goals {
		t, err := Reads(m, g)
		if err != nil {
			return nil, err
		}
		for _, id := range slices.Sorted(maps.Keys(t.Needs)) {
			pr.goals = append(pr.goals, goal{req{pr.ents[id], t.Needs[id].Rank()}, t.ByMove})
		}
	}
	at := Place{Face: "front"}
	if r.At != nil {
		at = *r.At
	} else if n := len(r.Standing); n > 0 {
		last := m.Move(r.Standing[n-1])
		at = Place{last.Face, last.Pose, last.Tools}
	}
	pr.place0, pr.hand0 = pr.placeOf(at.Face, at.Pose), pr.toolsOf(at.Tools)
	if len(pr.tools) > 64 {
		return nil, &NoPlan{Code: "no-way-in", Message: fmt.Sprintf("the map names %d tools; 64 are planned at most", len(pr.tools))}
	}
	pr.turns()
	pr.gives = make([][]int, 3*len(pr.names))
	for i := range pr.moves {
		for _, t := range pr.moves[i].takes {
			for level := 1; level <= t.level; level++ {
				pr.gives[3*t.ent+level] = append(pr.gives[3*t.ent+level], i)
			}
		}
	}
	pr.homes()
	pr.whileLive()
	pr.chains()
	return pr, nil
}

// whileLive finds, for each move that shuts an energy off, those that have to be
// made before it while that is live: what makes the flame, where the first way of
// proving the gas off is by the flame.
func (pr *problem) whileLive() {
	pr.shutsFor = make([]set, len(pr.moves))
	for i := range pr.m.Moves {
		live := &pr.m.Moves[i]
		if len(live.WhileLive) == 0 || !pr.byFlame(live) {
			continue
		}
		for o := range pr.m.Moves {
			for _, id := range live.WhileLive {
				if o != i && pr.m.Moves[o].Takes[id] == machine.Shut {
					pr.shutsFor[o].add(i)
				}
			}
		}
	}
}

// byFlame tells whether what a move shuts off, or proves, is proven by the flame
// first of all.
func (pr *problem) byFlame(mv *machine.Move) bool {
	return slices.ContainsFunc(pr.m.Moves, func(o machine.Move) bool {
		if len(o.Proof) == 0 || o.Proof[0] != "burn-off" {
			return false
		}
		for id := range mv.Takes {
			if o.Takes[id] == machine.Proven {
				return true
			}
		}
		return false
	})
}

// homes finds, for each move, those whose refit has to come after its own: one
// that waits for it (back.after), and one that holds an item of its less far.
func (pr *problem) homes() {
	pr.homeFirst = make([]set, len(pr.moves))
	for i := range pr.moves {
		for o := range pr.moves {
			if o == i {
				continue
			}
			if b := pr.m.Moves[o].Back; b != nil && slices.Contains(b.After, pr.m.Moves[i].ID) {
				pr.homeFirst[i].add(o)
			}
			for _, t := range pr.moves[i].takes { // i holds an item further: it is put back before o
				for _, u := range pr.moves[o].takes {
					if t.ent == u.ent && t.level > u.level {
						pr.homeFirst[i].add(o)
					}
				}
			}
		}
	}
}

func (pr *problem) entity(id string) {
	pr.ents[id] = len(pr.names)
	pr.names = append(pr.names, id)
}

func (pr *problem) reqs(n machine.Needs, guards []string) []req {
	var out []req
	for _, id := range slices.Sorted(maps.Keys(n)) {
		if n[id].Rank() > 0 {
			out = append(out, req{pr.ents[id], n[id].Rank()})
		}
	}
	for _, id := range guards {
		out = append(out, req{pr.ents[id], machine.Proven.Rank()})
	}
	return out
}

func (pr *problem) placeOf(face, pose string) int {
	if face == "" {
		face = "front"
	}
	if pose == "upright" {
		pose = ""
	}
	for i, p := range pr.places {
		if p.Face == face && p.Pose == pose {
			return i
		}
	}
	pr.places = append(pr.places, Place{Face: face, Pose: pose})
	return len(pr.places) - 1
}

func (pr *problem) toolsOf(tools []string) (bitsOf uint64) {
	for _, t := range tools {
		i := slices.Index(pr.tools, t)
		if i < 0 {
			i = len(pr.tools)
			pr.tools = append(pr.tools, t)
		}
		bitsOf |= 1 << (i & 63) // more than 64 are refused once all are known
	}
	return bitsOf
}

func (pr *problem) compileMove(mv *machine.Move, people int) move {
	m, i := pr.m, pr.index[mv.ID]
	guards := m.Guards(mv.LiveOK)
	c := move{oneWay: mv.OneWay, allowed: true}
	c.out = work{place: pr.placeOf(mv.Face, mv.Pose), tools: pr.toolsOf(mv.Tools), minutes: thousandths(mv.Minutes.Out), needs: pr.reqs(m.OutNeeds(mv), guards), via: i}
	for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
		c.takes = append(c.takes, req{pr.ents[id], mv.Takes[id].Rank()})
	}
	standing := slices.Contains(pr.r.Standing, mv.ID)
	if max(mv.People, 1, m.Poses[mv.Pose].People) > people || slices.Contains(pr.r.BarredOut, mv.ID) {
		c.allowed = false
	}
	if mv.OneWay {
		c.stands = pr.reqs(m.StandsOn(mv), guards)
		return c
	}
	tooFew := refitPeople(m, mv) > people
	if tooFew {
		c.allowed = false
	}
	if (!tooFew || standing) && !slices.Contains(pr.r.BarredBack, mv.ID) {
		c.backs = append(c.backs, pr.refit(mv))
	}
	return c
}

// refit is the undoing of a move by its own way.
func (pr *problem) refit(mv *machine.Move) work {
	face, pose, tools := RefitPlace(mv)
	return work{place: pr.placeOf(face, pose), tools: pr.toolsOf(tools), minutes: thousandths(mv.Minutes.Back), needs: pr.reqs(pr.m.BackNeeds(mv), pr.m.Guards(mv.LiveOK)), via: pr.index[mv.ID]}
}

// RefitPlace is where and with what a move is undone by its own refit.
func RefitPlace(mv *machine.Move) (face, pose string, tools []string) {
	face, pose, tools = mv.Face, mv.Pose, mv.Tools
	if b := mv.Back; b != nil {
		if b.Face != nil {
			face = *b.Face
		}
		if b.Pose != nil {
			pose = *b.Pose
		}
		if b.Tools != nil {
			tools = *b.Tools
		}
	}
	return face, pose, tools
}

func refitPeople(m *machine.Map, mv *machine.Move) int {
	_, pose, _ := RefitPlace(mv)
	n := mv.People
	if mv.Back != nil && mv.Back.People != nil {
		n = *mv.Back.People
	}
	return max(n, 1, m.Poses[pose].People)
}

func (pr *problem) compileCheck(c *machine.Check) check {
	out := check{work: work{place: pr.placeOf(c.Face, c.Pose), tools: pr.toolsOf(c.Tools), minutes: thousandths(c.Minutes), needs: pr.reqs(c.Needs, pr.m.TaskGuards(&c.Task))}}
	list := func(ids []string) (moves []int) {
		for _, id := range ids {
			moves = append(moves, pr.index[id])
		}
		return moves
	}
	out.forMoves, out.after, out.before = list(c.For), list(c.After), list(c.Before)
	if pr.r.Due != nil {
		out.stated, out.due = true, pr.r.Due[c.ID]
	}
	return out
}

// due tells whether a check is due when these moves are made or stand.
func (pr *problem) due(c *check, s set) bool {
	if c.due {
		return true
	}
	for _, i := range c.forMoves {
		if s.has(i) && !(c.stated && pr.start.has(i)) {
			return true
		}
	}
	return false
}

func (pr *problem) turns() {
	n := len(pr.places)
	pose := func(name string) int {
		if name == "" {
			return 0
		}
		if p, ok := pr.m.Poses[name]; ok && p.Minutes != nil {
			return thousandths(*p.Minutes)
		}
		return 1000
	}
	pr.turn = make([][]int, n)
	pr.entering = make([]int, n)
	for a := range n {
		pr.turn[a] = make([]int, n)
		for b := range n {
			pr.turn[a][b] = turnFaces(pr.places[a].Face, pr.places[b].Face)
			if pr.places[a].Pose != pr.places[b].Pose {
				pr.turn[a][b] += max(pose(pr.places[a].Pose), pose(pr.places[b].Pose))
			}
		}
	}
	for b := range n {
		least := -1
		for a := range n {
			if a != b && (least < 0 || pr.turn[a][b] < least) {
				least = pr.turn[a][b]
			}
		}
		pr.entering[b] = max(least, 0)
	}
}

// least is the cheapest handling of undoing a move.
func (mv *move) least() int {
	n := 0
	for k, b := range mv.backs {
		if k == 0 || b.minutes < n {
			n = b.minutes
		}
	}
	return n
}

// Turn is the minutes of turning from one face to another.
func Turn(a, b string) float64 {
	if a == "" {
		a = "front"
	}
	if b == "" {
		b = "front"
	}
	return float64(turnFaces(a, b)) / 1000
}
