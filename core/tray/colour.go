package tray

// Colouring is an assignment of trays to kinds as a graph problem: two kinds
// that can be mistaken for each other are neighbours, and neighbours may not
// have the same colour.

// mostNodes ends a search that would take too long: by a count, never by a
// clock, so that every device finds the same.
const mostNodes = 3_000_000

const free = -1 // a vertex that has no colour yet

// Fewest is the least number of colours for a graph given by its neighbours,
// with such a colouring. proven tells that one colour less was tried out in
// full and does not do.
func Fewest(near [][]bool) (colours int, colouring []int, proven bool) {
	fixed := make([]int, len(near))
	for i := range fixed {
		fixed[i] = free
	}
	least := clique(near)
	proven = true
	for k := least; ; k++ {
		c, whole := colourWith(near, k, fixed)
		if c != nil {
			return k, c, proven
		}
		proven = proven && whole
	}
}

// clique finds a set of vertices that are all neighbours, greedily from each
// vertex; its size is a lower bound.
func clique(near [][]bool) int {
	best := 0
	for v := range near {
		in := []int{v}
		for u := range near {
			all := true
			for _, w := range in {
				all = all && near[u][w]
			}
			if all {
				in = append(in, u)
			}
		}
		best = max(best, len(in))
	}
	return best
}

// colourWith looks for a colouring with k colours, some vertices coloured
// already. It colours next the vertex whose neighbours bear most colours
// (Brélaz 1979), and tries one unused colour only, since they are all alike.
// whole tells that the search came to its end.
func colourWith(near [][]bool, k int, fixed []int) (colouring []int, whole bool) {
	n := len(near)
	c := append([]int{}, fixed...)
	used := 0
	for _, x := range c {
		used = max(used, x+1)
	}
	if used > k {
		return nil, true
	}
	nodes := 0
	var try func(used int) bool
	try = func(used int) bool {
		if nodes++; nodes > mostNodes {
			return false
		}
		at, most, degree := -1, -1, -1
		for v := range n {
			if c[v] != free {
				continue
			}
			seen, open := map[int]bool{}, 0
			for u := range n {
				if !near[v][u] {
					continue
				}
				if c[u] != free {
					seen[c[u]] = true
				} else {
					open++
				}
			}
			if len(seen) > most || len(seen) == most && open > degree {
				at, most, degree = v, len(seen), open
			}
		}
		if at < 0 {
			return true
		}
		for x := range min(used+1, k) {
			if clashes(near, c, at, x) > 0 {
				continue
			}
			c[at] = x
			if try(max(used, x+1)) {
				return true
			}
			c[at] = free
		}
		return false
	}
	if try(used) {
		return c, true
	}
	return nil, nodes <= mostNodes
}

// clashes counts the neighbours of a vertex that bear a colour.
func clashes(near [][]bool, c []int, v, x int) int {
	n := 0
	for u := range near {
		if near[v][u] && c[u] == x {
			n++
		}
	}
	return n
}

// leastClashes colours with k colours so that as few neighbours as can be share
// one, some vertices coloured already. proven tells that nothing less does.
func leastClashes(near [][]bool, k int, fixed []int) (colouring []int, pairs int, proven bool) {
	n := len(near)
	c := append([]int{}, fixed...)
	used, base := 0, 0
	for v, x := range c {
		used = max(used, x+1)
		if x != free {
			base += clashes(near, c, v, x)
		}
	}
	base /= 2
	pairs = n*n + 1
	nodes := 0
	var try func(v, used, cost int)
	try = func(v, used, cost int) {
		if nodes++; cost >= pairs || nodes > mostNodes/10 {
			return
		}
		for v < n && c[v] != free {
			v++
		}
		if v == n {
			colouring, pairs = append([]int{}, c...), cost
			return
		}
		for x := range min(used+1, k) {
			more := clashes(near, c, v, x)
			c[v] = x
			try(v+1, max(used, x+1), cost+more)
			c[v] = free
		}
	}
	try(0, used, base)
	return colouring, pairs, nodes <= mostNodes/10
}
