package plan

import (
	"container/heap"
	"math/bits"
	"slices"
)

// backStep is one step of a way back in the order it is done: a move undone by
// the refit of via, or a check (move < 0).
type backStep struct{ move, via, check int }

// chore is one step to be put in order: the ways to do it, and what must come
// before it.
type chore struct {
	ways   []work
	before set // chores that must be done first
	move   int // its move, or -1
	check  int // its check, or -1
}

// way is a set of chores to be ordered in one direction. The way in is ordered
// forward. The way back is ordered from its end: what is done first here is
// put back last there.
type way struct {
	pr     *problem
	chores []chore
	home   bool // the way back, from its end
	set    set

	// Prepared by ready for work: what each way of each chore waits for, and
	// what is left to pay from each chore on.
	waits  [][]wait
	tail   []int
	visits []visitMask
	// Levels of the entities that one-way moves give, by the chores done that
	// bear on them.
	bearing set
	levels  map[set][]int
}

// wait is what one way of a chore waits for: for each need one of the chores
// that give it, and needs that only looking at the levels can tell.
type wait struct {
	anyOf []set
	hard  []req
}

// visitMask is the chores at one place, and those that use each tool there.
type visitMask struct {
	place  int
	chores set
	tools  []toolMask
}

type toolMask struct {
	tool   uint64
	chores set
}

// spot is where an order can be: what is done, where one stands, what lies at
// hand there.
type spot struct {
	done  set
	place int
	hand  uint64
}

// link is one step into a spot: from where, which chore, which of its ways.
type link struct {
	from       spot
	chore, way int
}

// inward is the way in through a set.
func (pr *problem) inward(s set) *way {
	w := &way{pr: pr, set: s}
	for i := range less(s, pr.start).each {
		w.chores = append(w.chores, chore{ways: []work{pr.moves[i].out}, move: i, check: -1})
	}
	for c := range w.chores { // what needs an energy live waits for nobody, and is waited for
		for o := range w.chores {
			if pr.shutsFor[w.chores[c].move].has(w.chores[o].move) {
				w.chores[c].before.add(o)
			}
		}
	}
	w.prepare()
	return w
}

// outOf is the way back of a set, its checks among the refits, from its end.
func (pr *problem) outOf(s set) *way {
	w := &way{pr: pr, home: true, set: s}
	at := make([]int, len(pr.moves)) // move -> chore
	for i := range at {
		at[i] = -1
	}
	for i := range s.each {
		if !pr.moves[i].oneWay {
			at[i] = len(w.chores)
			w.chores = append(w.chores, chore{ways: pr.moves[i].backs, move: i, check: -1})
		}
	}
	for c := range w.chores {
		for o := range pr.homeFirst[w.chores[c].move].each {
			if at[o] >= 0 {
				w.chores[c].before.add(at[o])
			}
		}
	}
	for k := range pr.checks {
		c := &pr.checks[k]
		if !pr.due(c, s) {
			continue
		}
		n := len(w.chores)
		w.chores = append(w.chores, chore{ways: []work{c.work}, move: -1, check: k})
		for _, i := range c.before {
			if x := at[i]; x >= 0 {
				w.chores[n].before.add(x)
			}
		}
		for _, i := range c.after {
			if x := at[i]; x >= 0 {
				w.chores[x].before.add(n)
			}
		}
	}
	w.prepare()
	return w
}

// prepare works out once what the search asks at every step.
func (w *way) prepare() {
	pr := w.pr
	at := slices.Clone(pr.base)
	if !w.home {
		at = pr.levels(pr.start)
	}
	chore := make([]int, len(pr.moves)) // move -> chore, -1 for none
	for i := range chore {
		chore[i] = -1
	}
	for c := range w.chores {
		if i := w.chores[c].move; i >= 0 {
			chore[i] = c
		}
	}
	var oneWay []int
	if w.home {
		for i := range w.set.each {
			if pr.moves[i].oneWay {
				oneWay = append(oneWay, i)
			}
		}
	}
	hard := func(q req) bool { // a one-way move can give it, which stands or falls with others
		return slices.ContainsFunc(oneWay, func(i int) bool {
			return slices.ContainsFunc(pr.moves[i].takes, func(t req) bool { return t.ent == q.ent && t.level >= q.level })
		})
	}
	asked := make([]bool, len(pr.names))
	w.waits = make([][]wait, len(w.chores))
	for c := range w.chores {
		w.waits[c] = make([]wait, len(w.chores[c].ways))
		for k := range w.chores[c].ways {
			wt := &w.waits[c][k]
			for _, q := range w.chores[c].ways[k].needs {
				switch {
				case at[q.ent] >= q.level:
				case hard(q):
					wt.hard = append(wt.hard, q)
					asked[q.ent] = true
				default:
					var any set
					for _, i := range pr.gives[3*q.ent+q.level] {
						if o := chore[i]; o >= 0 && o != c {
							any.add(o)
						}
					}
					wt.anyOf = append(wt.anyOf, any)
				}
			}
		}
	}
	for _, i := range oneWay {
		for _, q := range pr.moves[i].stands {
			asked[q.ent] = true
		}
	}
	for c := range w.chores {
		if i := w.chores[c].move; i >= 0 && slices.ContainsFunc(pr.moves[i].takes, func(t req) bool { return asked[t.ent] }) {
			w.bearing.add(c)
		}
	}
	w.levels = map[set][]int{}
	w.forced()
	for c := range w.chores {
		if len(w.chores[c].ways) != 1 {
			continue
		}
		way := &w.chores[c].ways[0]
		v := slices.IndexFunc(w.visits, func(v visitMask) bool { return v.place == way.place })
		if v < 0 {
			v = len(w.visits)
			w.visits = append(w.visits, visitMask{place: way.place})
		}
		w.visits[v].chores.add(c)
		for bit := uint64(1); bit != 0 && bit <= way.tools; bit <<= 1 {
			if way.tools&bit == 0 {
				continue
			}
			t := slices.IndexFunc(w.visits[v].tools, func(t toolMask) bool { return t.tool == bit })
			if t < 0 {
				t = len(w.visits[v].tools)
				w.visits[v].tools = append(w.visits[v].tools, toolMask{tool: bit})
			}
			w.visits[v].tools[t].chores.add(c)
		}
	}
}

// forced finds, for each chore, the least that still must be paid for turning
// and tools after it: the dearest chain of chores each of which waits for the
// one before. Turning obeys the triangle inequality, so whatever is done in
// between does not make a chain cheaper.
func (w *way) forced() {
	n := len(w.chores)
	after := make([][]int, n) // chores that wait for this one
	for c := range w.chores {
		only := w.chores[c].before
		if len(w.chores[c].ways) == 1 {
			for _, any := range w.waits[c][0].anyOf {
				if any.count() == 1 {
					for o := range any.each {
						only.add(o)
					}
				}
			}
		}
		for o := range only.each {
			after[o] = append(after[o], c)
		}
	}
	w.tail = make([]int, n)
	state := make([]int, n)
	var dearest func(c int) int
	dearest = func(c int) int {
		if state[c] == 2 || state[c] == 1 { // 1: they wait for each other; such a set has no order
			return w.tail[c]
		}
		state[c] = 1
		for _, o := range after[c] {
			cost := dearest(o)
			if len(w.chores[c].ways) == 1 && len(w.chores[o].ways) == 1 {
				a, b := &w.chores[c].ways[0], &w.chores[o].ways[0]
				if a.place != b.place {
					cost += w.pr.turn[a.place][b.place] + fetchTool*bits.OnesCount64(b.tools)
				}
			}
			w.tail[c] = max(w.tail[c], cost)
		}
		state[c] = 2
		return w.tail[c]
	}
	for c := range w.chores {
		dearest(c)
	}
}

// levelsOf are the levels of what one-way moves bear on, on the way back, when
// these chores are placed.
func (w *way) levelsOf(done set) []int {
	var key set
	for i := range key {
		key[i] = done[i] & w.bearing[i]
	}
	if at, known := w.levels[key]; known {
		return at
	}
	at := slices.Clone(w.pr.base)
	for c := range key.each {
		raise(at, w.pr.moves[w.chores[c].move].takes)
	}
	w.pr.hold(w.set, at)
	w.levels[key] = at
	return at
}

// hold adds the one-way moves of a set that stand on these levels.
func (pr *problem) hold(s set, at []int) {
	for again := true; again; {
		again = false
		for i := range s.each {
			mv := &pr.moves[i]
			if mv.oneWay && !meets(at, mv.takes) && meets(at, mv.stands) {
				raise(at, mv.takes)
				again = true
			}
		}
	}
}

// can tells whether a chore can be done in one of its ways when these are done.
func (w *way) can(c, k int, done set) bool {
	if less(w.chores[c].before, done) != (set{}) {
		return false
	}
	wt := &w.waits[c][k]
	for _, any := range wt.anyOf {
		if !meet(any, done) {
			return false
		}
	}
	return len(wt.hard) == 0 || meets(w.levelsOf(done), wt.hard)
}

func meet(a, b set) bool {
	for i := range a {
		if a[i]&b[i] != 0 {
			return true
		}
	}
	return false
}

// ready lists the chores that can be done next, in the map's order.
func (w *way) ready(done set) []int {
	var out []int
	for c := range w.chores {
		if done.has(c) {
			continue
		}
		for k := range w.chores[c].ways {
			if w.can(c, k, done) {
				out = append(out, c)
				break
			}
		}
	}
	return out
}

// homeward plays a way back from its end as far as it goes: the moves placed,
// the checks that found no place, and the levels reached.
func (pr *problem) homeward(s set) (placed set, checks []int, at []int) {
	w := pr.outOf(s)
	var done set
	for ready := w.ready(done); len(ready) > 0; ready = w.ready(done) {
		for _, c := range ready {
			done.add(c)
		}
	}
	at = slices.Clone(pr.base)
	for c := range done.each {
		if i := w.chores[c].move; i >= 0 {
			raise(at, pr.moves[i].takes)
		}
	}
	pr.hold(s, at)
	for i := range s.each {
		if pr.moves[i].oneWay {
			placed.add(i)
		}
	}
	for c, ch := range w.chores {
		switch {
		case done.has(c) && ch.move >= 0:
			placed.add(ch.move)
		case !done.has(c) && ch.check >= 0:
			checks = append(checks, ch.check)
		}
	}
	return placed, checks, at
}

type spotNode struct {
	spot
	g, f, n int
}

type spots []spotNode

func (h spots) Len() int { return len(h) }
func (h spots) Less(a, b int) bool {
	return h[a].f < h[b].f || h[a].f == h[b].f && (h[a].g > h[b].g || h[a].g == h[b].g && h[a].n < h[b].n)
}
func (h spots) Swap(a, b int) { h[a], h[b] = h[b], h[a] }
func (h *spots) Push(x any)   { *h = append(*h, x.(spotNode)) }
func (h *spots) Pop() any     { old := *h; n := len(old) - 1; v := old[n]; *h = old[:n]; return v }

// graph is what a search over orders has seen.
type graph struct {
	cost  map[spot]int    // least cost found from the start
	links map[spot][]link // ways of least cost into a spot
	ends  []spot          // spots where all is done
	cut   bool            // the search was ended by its number of states
	lower int             // where it was cut: what no end that it did not reach is below
}

// least is what no end is below, where the search was cut.
func (g *graph) least() int {
	least := g.lower
	for _, e := range g.ends {
		least = min(least, g.cost[e])
	}
	return least
}

// nowhere is where the way back ends, in whatever place: nothing is charged for
// being there.
const nowhere = -1

// look says what a search over orders is for.
type look struct {
	bound int
	// margin says how much dearer than an end another end may be and still win,
	// by where it ends.
	margin func(end spot) int
	// links keeps the way to each spot; ties keeps every one of least cost.
	links, ties bool
	// eager looks for a good end and no more: it ends at the first, and takes what
	// is left to pay for so many times as much.
	eager int
}

// explore finds the least cost to every end within the bound. Unless ties are
// asked for, a step that is at hand and costs nothing is taken at once, which
// never costs more.
func (w *way) explore(from spot, l look) *graph {
	g := &graph{cost: map[spot]int{from: 0}}
	if l.links {
		g.links = map[spot][]link{}
	}
	open := &spots{}
	made := 0
	push := func(s spot, cost int) {
		rest := w.rest(s)
		if l.eager > 0 {
			rest *= l.eager
		}
		if f := cost + rest; f <= l.bound {
			made++
			heap.Push(open, spotNode{s, cost, f, made})
		}
	}
	push(from, 0)
	closed, tried := 0, 0
	for open.Len() > 0 {
		n := heap.Pop(open).(spotNode)
		if n.f > l.bound {
			break
		}
		if n.g > g.cost[n.spot] {
			continue // a cheaper way to it was found since
		}
		closed++
		w.pr.states++
		if closed > w.pr.most || l.eager > 0 && closed > mostEager || l.ties && tried > mostTied {
			g.cut, g.lower = true, n.f // they come best first
			break
		}
		if n.done.count() == len(w.chores) {
			g.ends = append(g.ends, n.spot)
			if l.eager > 0 {
				break
			}
			if l.margin != nil {
				l.bound = min(l.bound, n.g+l.margin(n.spot))
			}
			continue
		}
		relax := func(c, k int) {
			tried++
			to, cost := w.step(n.spot, c, k)
			cost += n.g
			old, seen := g.cost[to]
			switch {
			case !seen || cost < old:
				g.cost[to] = cost
				if l.links {
					g.links[to] = []link{{n.spot, c, k}}
				}
				push(to, cost)
			case cost == old && l.ties:
				g.links[to] = append(g.links[to], link{n.spot, c, k})
			}
		}
		if !l.ties && w.free(n.spot, relax) {
			continue
		}
		for c := range w.chores {
			if n.done.has(c) {
				continue
			}
			for k := range w.chores[c].ways {
				if w.can(c, k, n.done) {
					relax(c, k)
				}
			}
		}
	}
	return g
}

// free takes a step that is at hand and costs nothing, if there is one; else one
// that costs only tools which nothing that waits here still uses: they are fetched
// for it now or later, and now is no dearer.
func (w *way) free(at spot, take func(c, k int)) bool {
	for c := range w.chores {
		if at.done.has(c) {
			continue
		}
		for k := range w.chores[c].ways {
			way := &w.chores[c].ways[k]
			if way.place == at.place && way.tools&^at.hand == 0 && way.minutes == w.least(c) && w.can(c, k, at.done) {
				take(c, k)
				return true
			}
		}
	}
	if w.pr.r.Returning { // what lies at hand in the end is worth something
		return false
	}
	for c := range w.chores {
		if at.done.has(c) || len(w.chores[c].ways) != 1 {
			continue
		}
		if way := &w.chores[c].ways[0]; way.place == at.place && way.minutes == w.least(c) && w.can(c, 0, at.done) && !w.awaited(at, c, way.tools&^at.hand) {
			take(c, 0)
			return true
		}
	}
	return false
}

// awaited tells whether something that cannot be done yet uses one of these tools
// where one stands.
func (w *way) awaited(at spot, but int, tools uint64) bool {
	for c := range w.chores {
		if c == but || at.done.has(c) {
			continue
		}
		for k := range w.chores[c].ways {
			if way := &w.chores[c].ways[k]; way.place == at.place && way.tools&tools != 0 && !w.can(c, k, at.done) {
				return true
			}
		}
	}
	return false
}

// mostEager ends the look for a good order.
const mostEager = 20_000

// good is an order of all the chores that is good and not shown to be the best:
// its steps, its end and its cost. It is false where there is none.
func (w *way) good(from spot) (steps []link, end spot, cost int, ok bool) {
	g := w.explore(from, look{bound: unbounded << 8, links: true, eager: 4})
	if len(g.ends) > 0 {
		end = g.ends[0]
		for at := end; at != from; {
			l := g.links[at][0]
			steps = append(steps, l)
			at = l.from
		}
		slices.Reverse(steps)
		return steps, end, g.cost[end], true
	}
	for end = from; end.done.count() < len(w.chores); {
		best, dear := link{chore: -1}, unbounded
		var next spot
		for c := range w.chores {
			if end.done.has(c) {
				continue
			}
			for k := range w.chores[c].ways {
				if !w.can(c, k, end.done) {
					continue
				}
				if to, more := w.step(end, c, k); more < dear {
					best, next, dear = link{end, c, k}, to, more
				}
			}
		}
		if best.chore < 0 {
			return nil, end, 0, false
		}
		steps, end, cost = append(steps, best), next, cost+dear
	}
	return steps, end, cost, true
}

const unbounded = 1 << 40

// step does a chore in one of its ways: where that leads, and what it costs in
// turning, tools, and handling beyond the least.
func (w *way) step(from spot, c, k int) (spot, int) {
	way := w.chores[c].ways[k]
	cost := way.minutes - w.least(c)
	hand := from.hand
	if from.place != way.place {
		if from.place != nowhere {
			cost += w.pr.turn[from.place][way.place]
		}
		hand = 0
	}
	cost += fetchTool * bits.OnesCount64(way.tools&^hand)
	return spot{from.done.with(c), way.place, hand | way.tools}, cost
}

// least is the handling that a chore costs in any case; only what its other
// ways cost beyond it is charged to the order.
func (w *way) least(c int) int {
	if i := w.chores[c].move; i >= 0 && w.home {
		return w.pr.moves[i].least()
	}
	return w.chores[c].ways[0].minutes
}

// rest bounds what the chores not yet done still cost in turning and tools: by
// the places still to be entered and the tools still to be fetched there, and
// by the dearest chain of chores that wait for each other.
func (w *way) rest(s spot) int {
	sum, free := 0, 0
	for i := range w.visits {
		v := &w.visits[i]
		if less(v.chores, s.done) == (set{}) {
			continue
		}
		hand := s.hand
		if v.place != s.place {
			hand = 0
			sum += w.pr.entering[v.place]
			free = max(free, w.pr.entering[v.place])
		}
		for _, t := range v.tools {
			if t.tool&hand == 0 && less(t.chores, s.done) != (set{}) {
				sum += fetchTool
			}
		}
	}
	if s.place == nowhere { // the way back may end anywhere
		sum -= free
	}
	chain := 0
	for c := range w.chores {
		if s.done.has(c) {
			continue
		}
		cost := w.tail[c]
		if len(w.chores[c].ways) == 1 {
			way := &w.chores[c].ways[0]
			switch {
			case s.place == nowhere:
				cost += fetchTool * bits.OnesCount64(way.tools)
			case s.place == way.place:
				cost += fetchTool * bits.OnesCount64(way.tools&^s.hand)
			default:
				cost += w.pr.turn[s.place][way.place] + fetchTool*bits.OnesCount64(way.tools)
			}
		}
		chain = max(chain, cost)
	}
	return max(sum, chain)
}

// order finds the least orders of a whole set; nil when it cannot beat the best,
// or tie with it. Where the search was cut it is a good order, with what the set
// cannot be below; nil then only where it has none at all.
func (pr *problem) order(s set, best *found) *found {
	handling := pr.handling(s)
	back, in := pr.outOf(s), pr.inward(s)
	from := spot{place: pr.place0, hand: pr.hand0}
	budget := unbounded
	hand := uint64(0)
	if len(in.chores) == 0 && pr.r.Returning {
		hand = pr.hand0
	}
	discount := fetchTool * bits.OnesCount64(hand) // tools at hand as the way back begins
	if best != nil {
		budget = best.total - handling - in.rest(from)
		if back.rest(spot{place: nowhere})-discount > budget {
			return nil
		}
	}
	home := back.explore(spot{place: nowhere}, look{bound: budget + discount, margin: func(end spot) int {
		if end.place == nowhere { // nothing comes back
			return 0
		}
		most := pr.turn[pr.place0][end.place] // the way back may begin where one stands, or where any move leaves one
		for c := range in.chores {
			most = max(most, pr.turn[in.chores[c].ways[0].place][end.place])
		}
		return most + discount
	}})
	if home.cut {
		return pr.roughly(s, in, back, from, hand, in.rest(from), home.least())
	}
	if len(home.ends) == 0 {
		return nil
	}
	backs := make([]int, len(pr.places)) // turning and tools of the way back begun at each place
	leastBack := unbounded
	for p := range backs {
		if len(back.chores) > 0 {
			backs[p] = unbounded
			for _, e := range home.ends {
				backs[p] = min(backs[p], home.cost[e]+pr.enter(p, hand, e))
			}
		}
		leastBack = min(leastBack, backs[p])
	}
	if best != nil {
		budget = best.total - handling - leastBack
	}
	out := in.explore(from, look{bound: budget, margin: func(end spot) int { return backs[end.place] - leastBack }})
	if out.cut {
		return pr.roughly(s, in, back, from, hand, out.least(), leastBack+discount)
	}
	total := unbounded
	for _, e := range out.ends {
		total = min(total, out.cost[e]+backs[e.place])
	}
	if total == unbounded || best != nil && handling+total > best.total {
		return nil
	}
	f := &found{set: s, total: handling + total, handling: handling}
	f.lower = f.total
	pr.settle(f, in, back, from, total, hand, backs, leastBack)
	return f
}

// roughly is a set with a good order instead of the best: leastIn and leastBack
// are what its two ways cannot be below.
func (pr *problem) roughly(s set, in, back *way, from spot, hand uint64, leastIn, leastBack int) *found {
	out, end, cost, ok := in.good(from)
	if !ok {
		return nil
	}
	home, begin, more, ok := back.good(spot{place: nowhere})
	if !ok {
		return nil
	}
	f := &found{set: s, handling: pr.handling(s), in: cost}
	if len(home) > 0 {
		f.back = more + pr.enter(end.place, hand, begin)
	}
	f.total = f.handling + f.in + f.back
	f.lower = min(f.total, f.handling+max(0, leastIn)+max(0, leastBack-fetchTool*bits.OnesCount64(hand)))
	for _, l := range out {
		f.wayIn = append(f.wayIn, in.chores[l.chore].move)
	}
	for _, l := range slices.Backward(home) { // it was found from its end
		c := back.chores[l.chore]
		f.wayBack = append(f.wayBack, backStep{c.move, c.ways[l.way].via, c.check})
	}
	return f
}

// enter is what it costs to begin a way back whose first step is at an end
// spot of the search from its end. Tools that still lie at hand there are not
// fetched again.
func (pr *problem) enter(place int, hand uint64, end spot) int {
	if place == end.place {
		return -fetchTool * bits.OnesCount64(hand&end.hand)
	}
	return pr.turn[place][end.place]
}

// settle picks, among the orders of least total, the way in that is least by
// the moves' places in the map, and for it the way back that mirrors it, or
// else is least in the same sense.
func (pr *problem) settle(f *found, in, back *way, from spot, total int, hand uint64, backs []int, leastBack int) {
	out := in.tied(from, total-leastBack)
	// The spots on an order of least total, found from its ends; then forward.
	next := map[spot][]arrow{}
	seen := map[spot]bool{}
	var mark func(to spot)
	mark = func(to spot) {
		if seen[to] {
			return
		}
		seen[to] = true
		for _, l := range out.links[to] {
			next[l.from] = append(next[l.from], arrow{l.chore, to})
			mark(l.from)
		}
	}
	for _, e := range out.ends {
		if out.cost[e]+backs[e.place] == total {
			mark(e)
		}
	}
	at := from
	for len(f.wayIn) < len(in.chores) {
		first := slices.MinFunc(next[at], func(a, b arrow) int { return a.chore - b.chore })
		f.wayIn = append(f.wayIn, in.chores[first.chore].move)
		at = first.to
	}
	f.in, f.back = out.cost[at], backs[at.place]
	if len(back.chores) == 0 {
		return
	}
	home := back.tied(spot{place: nowhere}, f.back+fetchTool*bits.OnesCount64(hand))
	var begin []spot
	for _, e := range home.ends {
		if home.cost[e]+pr.enter(at.place, hand, e) == f.back {
			begin = append(begin, e)
		}
	}
	made := append(slices.Clone(pr.r.Standing), pr.ids(f.wayIn)...)
	slices.Reverse(made)
	mirrored := func(c int) int { // checks first, then what was made last
		if i := back.chores[c].move; i >= 0 {
			return slices.Index(made, pr.m.Moves[i].ID)
		}
		return -1
	}
	f.wayBack = home.follow(back, begin, mirrored)
	if !slices.IsSortedFunc(f.wayBack, func(a, b backStep) int {
		if a.move < 0 || b.move < 0 {
			return 0
		}
		return slices.Index(made, pr.m.Moves[a.move].ID) - slices.Index(made, pr.m.Moves[b.move].ID)
	}) {
		f.wayBack = home.follow(back, begin, func(c int) int { return c })
	}
}

type arrow struct {
	chore int
	to    spot
}

// tied keeps every order of least cost within bound, so that ties can be
// settled; where they are too many, the one that the search found stands.
func (w *way) tied(from spot, bound int) *graph {
	if g := w.explore(from, look{bound: bound, links: true, ties: true}); !g.cut {
		return g
	}
	return w.explore(from, look{bound: bound, links: true})
}

func (pr *problem) ids(moves []int) []string {
	var out []string
	for _, i := range moves {
		out = append(out, pr.m.Moves[i].ID)
	}
	return out
}

// follow walks from the ends of a search made from the end of the way back to
// its root, which is the way back in the order it is done. Among the chores
// that can come next it takes the one of least rank.
func (g *graph) follow(w *way, at []spot, rank func(chore int) int) []backStep {
	var steps []backStep
	for len(steps) < len(w.chores) {
		var links []link
		for _, s := range at {
			links = append(links, g.links[s]...)
		}
		first := slices.MinFunc(links, func(a, b link) int { return rank(a.chore) - rank(b.chore) })
		at = nil
		for _, l := range links {
			if l.chore == first.chore && l.way == first.way && !slices.Contains(at, l.from) {
				at = append(at, l.from)
			}
		}
		c := w.chores[first.chore]
		steps = append(steps, backStep{c.move, c.ways[first.way].via, c.check})
	}
	return steps
}
