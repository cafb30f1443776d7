package plan

import (
	"cmp"
	"container/heap"
	"math"
	"slices"

	"evensteps/core/machine"
)

// Other ways are told of when they take at most so many hundredths of the best,
// and no more than so many of them. A search for them ends after so many sets.
const (
	otherWithin = 160
	mostOthers  = 3
	mostPopped  = 20_000
)

// Way is another way in: other moves than those of the best plan.
type Way struct {
	WayIn   []string `json:"way_in"`
	WayBack []Step   `json:"way_back"`
	Minutes Minutes  `json:"minutes"`
	People  int      `json:"people"`  // what its moves and refits need
	Blind   []string `json:"blind"`   // moves made by feel
	Differs []string `json:"differs"` // moves that the best plan does not have
}

// OtherWays finds up to three other sets of moves that reach the goals of a
// request and close again, in none of which a move can be spared, whose least
// total is within 60 % of the plan's. The cheapest comes first.
func OtherWays(m *machine.Map, r Request, p *Plan) []Way {
	ways := []Way{}
	if len(r.Goals) == 0 {
		return ways
	}
	pr, err := compile(m.With(r.Answers, r.Standing...), r, p.People)
	if err != nil {
		return ways
	}
	best := pr.start
	for _, id := range p.WayIn {
		best.add(pr.index[id])
	}
	limit := thousandths(p.Minutes.Total) * otherWithin / 100
	var others []*found
	for n := range pr.whole(pr.all(), limit, func(next int) bool { return len(others) >= mostOthers && others[mostOthers-1].total <= next }) {
		if n == best || pr.spares(n) {
			continue
		}
		if f := pr.order(n, nil); f != nil && f.total <= limit {
			others = append(others, f)
			slices.SortStableFunc(others, func(a, b *found) int {
				return cmp.Or(cmp.Compare(a.total, b.total), slices.Compare(a.wayIn, b.wayIn))
			})
			others = others[:min(len(others), mostOthers)]
		}
	}
	for _, f := range others {
		ways = append(ways, pr.way(f, p))
	}
	return ways
}

// whole yields the sets of some moves with which all is reached and can come
// back, best first by their lower bound, up to a limit or until enough says so
// of the next bound.
func (pr *problem) whole(within set, limit int, enough func(next int) bool) func(func(set) bool) {
	return func(yield func(set) bool) {
		first := pr.start
		for i := range pr.forced.each {
			first.add(i)
		}
		open := &nodes{{set: first, lower: pr.lower(first)}}
		known := map[set]bool{first: true}
		for popped := 0; open.Len() > 0 && popped < mostPopped; popped++ {
			n := heap.Pop(open).(node)
			if n.lower > limit || enough(n.lower) {
				return
			}
			missing, next := pr.missing(n.set)
			if missing == nil {
				if !yield(n.set) {
					return
				}
				continue
			}
			for _, i := range next {
				s := n.set.with(i)
				if within.has(i) && !known[s] {
					known[s] = true
					heap.Push(open, node{s, pr.lower(s), len(known)})
				}
			}
		}
	}
}

// cheapest is the set of some moves with the least bound with which all is
// reached and can come back, if there is one.
func (pr *problem) cheapest(within set) (set, bool) {
	for s := range pr.whole(within, math.MaxInt, func(int) bool { return false }) {
		return s, true
	}
	return set{}, false
}

// spares tells whether some of the moves that a set adds can be left out of it.
// To take one away at a time does not tell: two moves may be there only for
// each other, the one to go and the other to come back.
func (pr *problem) spares(s set) bool {
	for i := range s.each {
		if pr.start.has(i) || pr.forced.has(i) {
			continue
		}
		if _, can := pr.cheapest(less(s, set{}.with(i))); can {
			return true
		}
	}
	return false
}

// all is the set of all moves.
func (pr *problem) all() set {
	var s set
	for i := range pr.moves {
		s.add(i)
	}
	return s
}

func (pr *problem) way(f *found, best *Plan) Way {
	p := pr.plan(f, 1)
	w := Way{WayIn: p.WayIn, WayBack: p.WayBack, Minutes: p.Minutes, People: 1, Blind: []string{}, Differs: []string{}}
	for _, i := range f.wayIn {
		mv := &pr.m.Moves[i]
		w.People = max(w.People, mv.People, pr.m.Poses[mv.Pose].People)
		if mv.Blind {
			w.Blind = append(w.Blind, mv.ID)
		}
		if !slices.Contains(best.WayIn, mv.ID) {
			w.Differs = append(w.Differs, mv.ID)
		}
	}
	for _, s := range f.wayBack {
		if s.move >= 0 {
			w.People = max(w.People, refitPeople(pr.m, &pr.m.Moves[s.via]))
		}
	}
	return w
}
