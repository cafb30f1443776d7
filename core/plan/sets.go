package plan

import (
	"cmp"
	"container/heap"
	"fmt"
	"math/bits"
	"slices"
)

// mostSets and mostStates end a search that has grown beyond all reason. They
// count work, not time, so that every device ends at the same plan; the plan
// then says what gap is left.
const (
	mostSets   = 200_000
	mostStates = 200_000 // states of all the orders looked at
	mostTied   = 10_000  // steps tried only to settle ties
)

// found is a set of moves with its best orders.
type found struct {
	set      set
	total    int
	handling int
	in, back int
	wayIn    []int
	wayBack  []backStep
	lower    int // what its set cannot be below; of the best, what no plan can be below
	proven   bool
}

// node is a set of moves, not yet known to be enough.
type node struct {
	set   set
	lower int
	n     int // order of making, so that equal bounds pop in one order
}

type nodes []node

func (h nodes) Len() int { return len(h) }
func (h nodes) Less(a, b int) bool {
	return h[a].lower < h[b].lower || h[a].lower == h[b].lower && h[a].n < h[b].n
}
func (h nodes) Swap(a, b int) { h[a], h[b] = h[b], h[a] }
func (h *nodes) Push(x any)   { *h = append(*h, x.(node)) }
func (h *nodes) Pop() any     { old := *h; n := len(old) - 1; v := old[n]; *h = old[:n]; return v }

// search takes sets of moves best first by a lower bound on their total. A set
// in which something is missing branches over the moves that give it; one that
// is whole is ordered, and then also tried with each further move that gives
// what one of its steps needs, since a second giver, seldom, saves turning.
func (pr *problem) search() (*found, error) {
	first := pr.start
	for i := range pr.forced.each {
		first.add(i)
	}
	open := &nodes{}
	known := map[set]bool{}
	made := 0
	push := func(s set) {
		if known[s] {
			return
		}
		known[s] = true
		made++
		heap.Push(open, node{s, pr.lower(s), made})
	}
	push(first)
	var best *found
	var dead *NoPlan
	least := unbounded // what the sets whose orders were cut cannot be below
	take := func(s set) {
		f := pr.order(s, best)
		if f == nil {
			return
		}
		least = min(least, f.lower)
		if best == nil || pr.better(f, best) {
			best = f
		}
	}
	end := func(lower int) (*found, error) {
		best.lower = min(best.total, least, lower)
		best.proven = best.lower >= best.total
		return best, nil
	}
	var dived set // what was put together without comparing
	for popped := 0; open.Len() > 0; popped++ {
		n := heap.Pop(open).(node)
		if best != nil && n.lower > best.total {
			break
		}
		if best != nil && (popped >= mostSets || pr.states > pr.most) {
			return end(n.lower)
		}
		if popped == mostPlain { // before all ways are compared, there is one
			if s, whole := pr.dive(n.set); whole {
				dived = s
				take(s)
			}
		}
		if popped == 10*mostSets {
			return nil, &NoPlan{Code: "no-way-in", Message: "the map has too many ways for one plan; state an option or a nearer goal"}
		}
		missing, givers := pr.missing(n.set)
		if missing != nil {
			if len(givers) == 0 {
				if dead == nil || popped == 0 {
					dead = missing
				}
				continue
			}
			for _, i := range givers {
				push(n.set.with(i))
			}
			continue
		}
		if n.set != dived || popped < mostPlain {
			take(n.set)
		}
		for _, i := range pr.alternatives(n.set) {
			next := n.set.with(i)
			if best == nil || pr.lower(next) < best.total {
				push(next)
			}
		}
	}
	if best == nil {
		if dead == nil {
			dead = &NoPlan{Code: "no-way-back", Message: "there is a way in, but no order in which everything comes back"}
		}
		return nil, dead
	}
	return end(unbounded)
}

// mostPlain is how many sets are looked at before one that is whole is put
// together without comparing.
const mostPlain = 2_000

// dive makes a set whole by the giver of the least bound each time; false where
// that leads nowhere.
func (pr *problem) dive(s set) (set, bool) {
	for {
		missing, givers := pr.missing(s)
		if missing == nil {
			return s, true
		}
		if len(givers) == 0 {
			return s, false
		}
		s = slices.MinFunc(mapped(givers, s.with), func(a, b set) int { return cmp.Compare(pr.lower(a), pr.lower(b)) })
	}
}

func mapped[T any](list []int, to func(int) T) []T {
	var out []T
	for _, i := range list {
		out = append(out, to(i))
	}
	return out
}

// better compares plans: least total, then fewer moves, then the way in that
// is least by the moves' places in the map.
func (pr *problem) better(a, b *found) bool {
	return cmp.Or(cmp.Compare(a.total, b.total), cmp.Compare(len(a.wayIn), len(b.wayIn)), slices.Compare(a.wayIn, b.wayIn)) < 0
}

// handling is the work of hands that a set costs in all.
func (pr *problem) handling(s set) int {
	sum := 0
	for i := range s.each {
		mv := &pr.moves[i]
		if !pr.start.has(i) {
			sum += mv.out.minutes
		}
		if !mv.oneWay {
			sum += mv.least()
		}
	}
	for k := range pr.checks {
		if c := &pr.checks[k]; pr.due(c, s) {
			sum += c.minutes
		}
	}
	return sum
}

// lower bounds the total of a set and of every set that holds it: its
// handling, and the entering of each place and the fetching of each tool that
// it cannot do without.
func (pr *problem) lower(s set) int {
	sum := pr.handling(s)
	var in, back tally
	for i := range s.each {
		mv := &pr.moves[i]
		if !pr.start.has(i) {
			in.visit(mv.out.place, mv.out.tools)
		}
		if len(mv.backs) == 1 {
			back.visit(mv.backs[0].place, mv.backs[0].tools)
		}
	}
	for k := range pr.checks {
		if c := &pr.checks[k]; pr.due(c, s) {
			back.visit(c.place, c.tools)
		}
	}
	free := 0 // the way back begins where the way in ended
	for _, v := range back {
		free = max(free, pr.entering[v.place])
	}
	chainIn, chainBack := 0, 0
	for i := range s.each {
		if !pr.start.has(i) {
			chainIn = max(chainIn, pr.chainIn[i])
		}
		chainBack = max(chainBack, pr.chainBack[i])
	}
	sum += max(back.price(pr, nowhere, 0)-free, chainBack)
	sum += max(in.price(pr, pr.place0, pr.hand0), chainIn)
	if pr.r.Returning {
		sum = max(0, sum-fetchTool*bits.OnesCount64(pr.hand0))
	}
	return sum
}

// chains finds for each move the least turning and fetching that every way in,
// and every way back, with this move in it must pay: along moves each of which
// alone in the whole map gives what the next one needs.
func (pr *problem) chains() {
	n := len(pr.moves)
	sole := func(q req, without int) int { // the only giver, or -1
		if pr.base[q.ent] >= q.level {
			return -1
		}
		only := -1
		for _, i := range pr.gives[3*q.ent+q.level] {
			if i == without || !pr.moves[i].allowed && !pr.start.has(i) {
				continue
			}
			if only >= 0 {
				return -1
			}
			only = i
		}
		return only
	}
	pr.chainIn, pr.chainBack = make([]int, n), make([]int, n)
	edge := func(from, to *work) int {
		if from.place == to.place {
			return 0
		}
		return pr.turn[from.place][to.place] + fetchTool*bits.OnesCount64(to.tools)
	}
	run := func(chain []int, first func(i int) int, of func(i int) *work) {
		state := make([]int, n)
		var longest func(i int) int
		longest = func(i int) int {
			w := of(i)
			if w == nil || state[i] != 0 {
				return chain[i]
			}
			state[i] = 1
			chain[i] = first(i)
			for _, q := range w.needs {
				if o := sole(q, i); o >= 0 && of(o) != nil {
					chain[i] = max(chain[i], longest(o)+edge(of(o), w))
				}
			}
			return chain[i]
		}
		for i := range n {
			longest(i)
		}
	}
	here := work{place: pr.place0}
	run(pr.chainIn, func(i int) int {
		if pr.moves[i].out.place == pr.place0 {
			return fetchTool * bits.OnesCount64(pr.moves[i].out.tools&^pr.hand0)
		}
		return edge(&here, &pr.moves[i].out)
	}, func(i int) *work {
		if pr.start.has(i) {
			return nil
		}
		return &pr.moves[i].out
	})
	run(pr.chainBack, func(i int) int { return fetchTool * bits.OnesCount64(pr.moves[i].backs[0].tools) }, func(i int) *work {
		if pr.moves[i].oneWay || len(pr.moves[i].backs) != 1 {
			return nil
		}
		return &pr.moves[i].backs[0]
	})
}

// tally counts the places that must be visited and the tools needed at each.
type tally []visit

type visit struct {
	place int
	tools uint64
}

func (t *tally) visit(place int, tools uint64) {
	for k := range *t {
		if (*t)[k].place == place {
			(*t)[k].tools |= tools
			return
		}
	}
	*t = append(*t, visit{place, tools})
}

// price is the least that the visits cost when one stands at a place with
// tools at hand.
func (t tally) price(pr *problem, at int, hand uint64) int {
	sum := 0
	for _, v := range t {
		tools := v.tools
		if v.place == at {
			tools &^= hand
		} else {
			sum += pr.entering[v.place]
		}
		sum += fetchTool * bits.OnesCount64(tools)
	}
	return sum
}

// missing finds something that a set lacks, and the moves outside the set that
// would give it. nil means that the set can be made and can come back.
func (pr *problem) missing(s set) (*NoPlan, []int) {
	// What nobody in the set gives: the choice with the fewest givers first. It is
	// asked for every set that is looked at, so the words are put together last.
	type lacking struct {
		req
		without, givers int
		code, forWhat   string
	}
	least := lacking{givers: -1}
	ask := func(q req, without int, byMove bool, code, forWhat string) {
		if !byMove && pr.base[q.ent] >= q.level {
			return
		}
		givers := 0
		for _, i := range pr.gives[3*q.ent+q.level] {
			if i == without {
				continue
			}
			if s.has(i) {
				return
			}
			if pr.moves[i].allowed {
				givers++
			}
		}
		if least.givers < 0 || givers < least.givers {
			least = lacking{q, without, givers, code, forWhat}
		}
	}
	for _, g := range pr.goals {
		ask(g.req, -1, g.byMove, "no-way-in", "the goal")
	}
	for i := range s.each {
		mv := &pr.moves[i]
		if !pr.start.has(i) {
			for _, q := range mv.out.needs {
				ask(q, i, false, "no-way-in", pr.m.Moves[i].ID)
			}
		}
		if len(mv.backs) == 1 {
			for _, q := range mv.backs[0].needs {
				ask(q, i, false, "no-way-back", "putting back "+pr.m.Moves[i].ID)
			}
		}
		if !mv.oneWay && len(mv.backs) == 0 {
			return &NoPlan{Code: "no-way-back", Message: fmt.Sprintf("%s cannot be put back by as many people as there are, or its way back is barred", pr.m.Moves[i].ID), Missing: []string{pr.m.Moves[i].ID}}, nil
		}
	}
	for k := range pr.checks {
		if c := &pr.checks[k]; pr.due(c, s) {
			for _, q := range c.needs {
				ask(q, -1, false, "no-way-back", pr.m.Checks[k].ID)
			}
		}
	}
	if q := least.req; least.givers >= 0 {
		var givers []int
		for _, i := range pr.gives[3*q.ent+q.level] {
			if i != least.without && pr.moves[i].allowed {
				givers = append(givers, i)
			}
		}
		return &NoPlan{
			Code: least.code, Missing: []string{pr.names[q.ent]},
			Message: fmt.Sprintf("no move that can be made takes %s to %s, which %s needs", pr.names[q.ent], pr.levelName(q), least.forWhat),
		}, givers
	}
	// All is given, but perhaps only by moves that wait for each other.
	done, at := pr.outward(s)
	if blocked := less(s, done); blocked != (set{}) {
		return pr.unblock(s, blocked, at, func(i int) [][]req { return [][]req{pr.moves[i].out.needs} }, "no-way-in")
	}
	placed, checked, at := pr.homeward(s)
	if blocked := less(s, placed); blocked != (set{}) || checked != nil {
		lack, givers := pr.unblock(s, blocked, at, func(i int) [][]req {
			if pr.moves[i].oneWay {
				return nil
			}
			var ways [][]req
			for _, b := range pr.moves[i].backs {
				ways = append(ways, b.needs)
			}
			return ways
		}, "no-way-back")
		for _, k := range checked {
			for _, q := range pr.checks[k].needs {
				if at[q.ent] < q.level {
					givers = union(givers, pr.givers(q, s))
				}
			}
		}
		return lack, givers
	}
	return nil, nil
}

func (pr *problem) levelName(q req) string {
	energy := pr.m.Energy(pr.names[q.ent]) != nil
	switch {
	case energy && q.level == 2:
		return "proven"
	case energy:
		return "shut"
	case q.level == 2:
		return "away"
	}
	return "aside"
}

func less(a, b set) set {
	for i := range a {
		a[i] &^= b[i]
	}
	return a
}

func union(a, b []int) []int {
	for _, i := range b {
		if !slices.Contains(a, i) {
			a = append(a, i)
		}
	}
	return a
}

func (pr *problem) givers(q req, s set) []int {
	var out []int
	for _, i := range pr.gives[3*q.ent+q.level] {
		if !s.has(i) && pr.moves[i].allowed {
			out = append(out, i)
		}
	}
	return out
}

// unblock lists the moves outside the set, one of which every larger set that
// works must hold: those that give an unmet need of a blocked move.
func (pr *problem) unblock(s, blocked set, at []int, ways func(int) [][]req, code string) (*NoPlan, []int) {
	var givers []int
	var names []string
	for i := range blocked.each {
		names = append(names, pr.m.Moves[i].ID)
		for _, needs := range ways(i) {
			for _, q := range needs {
				if at[q.ent] < q.level {
					givers = union(givers, pr.givers(q, s))
				}
			}
		}
	}
	what := "made"
	if code == "no-way-back" {
		what = "put back"
	}
	return &NoPlan{Code: code, Message: fmt.Sprintf("these moves wait for each other and can never be %s: %v", what, names), Missing: names}, givers
}

// alternatives are the moves outside a whole set that give, once more, what a
// step of it needs.
func (pr *problem) alternatives(s set) []int {
	var out []int
	more := func(needs []req) {
		for _, q := range needs {
			out = union(out, pr.givers(q, s))
		}
	}
	for i := range s.each {
		if !pr.start.has(i) {
			more(pr.moves[i].out.needs)
		}
		for _, b := range pr.moves[i].backs {
			more(b.needs)
		}
	}
	for k := range pr.checks {
		if pr.due(&pr.checks[k], s) {
			more(pr.checks[k].needs)
		}
	}
	return out
}

// outward makes all that can be made of a set, and returns it with the levels
// reached.
func (pr *problem) outward(s set) (done set, at []int) {
	done = pr.start
	at = pr.levels(done)
	for again := true; again; {
		again = false
		for i := range less(s, done).each {
			if meets(at, pr.moves[i].out.needs) {
				raise(at, pr.moves[i].takes)
				done.add(i)
				again = true
			}
		}
	}
	return done, at
}

func meets(at []int, needs []req) bool {
	for _, q := range needs {
		if at[q.ent] < q.level {
			return false
		}
	}
	return true
}

func raise(at []int, takes []req) {
	for _, t := range takes {
		at[t.ent] = max(at[t.ent], t.level)
	}
}

// levels are what standing moves and what was found give.
func (pr *problem) levels(s set) []int {
	at := slices.Clone(pr.base)
	for i := range s.each {
		raise(at, pr.moves[i].takes)
	}
	return at
}
