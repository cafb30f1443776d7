package tray

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/crillab/gophersat/solver"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/machine"
)

// graph makes neighbours from pairs.
func graph(n int, pairs ...[2]int) [][]bool {
	near := make([][]bool, n)
	for i := range near {
		near[i] = make([]bool, n)
	}
	for _, p := range pairs {
		near[p[0]][p[1]], near[p[1]][p[0]] = true, true
	}
	return near
}

func edges(near [][]bool) int {
	n := 0
	for i := range near {
		for k := range i {
			if near[i][k] {
				n++
			}
		}
	}
	return n
}

// when makes a graph of n vertices of which those are neighbours that the rule says.
func when(n int, rule func(a, b int) bool) [][]bool {
	near := graph(n)
	for a := range n {
		for b := range a {
			if rule(a, b) || rule(b, a) {
				near[a][b], near[b][a] = true, true
			}
		}
	}
	return near
}

func cycle(n int) [][]bool {
	return when(n, func(a, b int) bool { return (a+1)%n == b })
}

func queens(rows, cols int) [][]bool {
	return when(rows*cols, func(a, b int) bool {
		r, c := a/cols-b/cols, a%cols-b%cols
		return r == 0 || c == 0 || r == c || r == -c
	})
}

// mycielski grows a graph by one colour and not one triangle (Mycielski 1955).
func mycielski(near [][]bool) [][]bool {
	n := len(near)
	return when(2*n+1, func(a, b int) bool {
		switch {
		case a < n && b < n:
			return near[a][b]
		case a < n && b < 2*n:
			return near[a][b-n]
		case a >= n && a < 2*n:
			return b == 2*n
		}
		return false
	})
}

func petersen() [][]bool {
	return when(10, func(a, b int) bool {
		switch {
		case a < 5 && b < 5:
			return (a+1)%5 == b
		case a >= 5 && b >= 5:
			return (a-5+2)%5 == b-5
		}
		return a+5 == b
	})
}

// kneser: the k-subsets of n, neighbours where they have nothing in common.
func kneser(n, k int) [][]bool {
	var sets []uint
	for s := range uint(1) << n {
		bits := 0
		for i := range n {
			bits += int(s >> i & 1)
		}
		if bits == k {
			sets = append(sets, s)
		}
	}
	return when(len(sets), func(a, b int) bool { return sets[a]&sets[b] == 0 })
}

// Chromatic numbers that are known. Sources beside each: Wolfram MathWorld (MW)
// and the DIMACS colouring instances, as collected for this project; Lovász 1978
// for Kneser graphs, n − 2k + 2.
func TestKnownChromaticNumbers(t *testing.T) {
	groetzsch := mycielski(cycle(5))
	wheel := func(n int) [][]bool {
		rim := cycle(n)
		return when(n+1, func(a, b int) bool { return b == n || a < n && b < n && rim[a][b] })
	}
	for name, c := range map[string]struct {
		near          [][]bool
		edges, colour int
	}{
		"Petersen (MW)":                  {petersen(), 15, 3},
		"Grötzsch, myciel3 (MW)":         {groetzsch, 20, 4},
		"myciel4, 23 vertices (DIMACS)":  {mycielski(groetzsch), 71, 5},
		"queens 5 by 5 (DIMACS)":         {queens(5, 5), 160, 5},
		"queens 6 by 6 (DIMACS)":         {queens(6, 6), 290, 7},
		"Kneser 6, 2 (Lovász)":           {kneser(6, 2), 45, 4},
		"Kneser 7, 2 (Lovász)":           {kneser(7, 2), 105, 5},
		"Kneser 7, 3 (Lovász)":           {kneser(7, 3), 70, 3},
		"Moser spindle (MW)":             {graph(7, [2]int{0, 1}, [2]int{0, 2}, [2]int{1, 2}, [2]int{1, 3}, [2]int{2, 3}, [2]int{0, 4}, [2]int{0, 5}, [2]int{4, 5}, [2]int{4, 6}, [2]int{5, 6}, [2]int{3, 6}), 11, 4},
		"wheel of 5 (MW)":                {wheel(5), 10, 4},
		"wheel of 6 (MW)":                {wheel(6), 12, 3},
		"seven in a ring (MW)":           {cycle(7), 7, 3},
		"all but the ring of seven (MW)": {when(7, func(a, b int) bool { return a != b && !cycle(7)[a][b] }), 14, 4},
		"seven all alike (MW)":           {when(7, func(a, b int) bool { return a != b }), 21, 7},
		"Paley 13 (MW)": {when(13, func(a, b int) bool {
			d := (a - b + 13) % 13
			return d == 1 || d == 3 || d == 4 || d == 9 || d == 10 || d == 12
		}), 39, 5},
		"dodecahedron (MW)": {when(20, func(a, b int) bool { // the generalised Petersen graph 10, 2
			return a < 10 && b == (a+1)%10 || a < 10 && b == a+10 || a >= 10 && b == 10+(a-10+2)%10
		}), 30, 3},
		"Hoffman–Singleton (MW)": {when(50, func(a, b int) bool { // five pentagons and five pentagrams, by Robertson
			h, i, j, k := a/5, b/5-5, a%5, b%5
			return a < 25 && b < 25 && h == b/5 && (j+1)%5 == k || a >= 25 && b >= 25 && h == b/5 && (j+2)%5 == k || a < 25 && b >= 25 && (h*i+j)%5 == k
		}), 175, 4},
		"crown of 6 and 6 (MW)": {when(12, func(a, b int) bool { return a < 6 && b >= 6 && a != b-6 }), 30, 2},
		"nothing alike":         {graph(4), 0, 1},
	} {
		require.Equal(t, c.edges, edges(c.near), name)
		n, colouring, proven := Fewest(c.near)
		assert.Equal(t, c.colour, n, name)
		assert.True(t, proven, name)
		for a := range c.near {
			assert.Less(t, colouring[a], n, name)
			for b := range a {
				assert.False(t, c.near[a][b] && colouring[a] == colouring[b], name)
			}
		}
	}
}

// How many graphs on n vertices need 1, 2, 3 … colours: OEIS A084268 counts them
// without their names. Counted with names, by trying all of them: on four
// vertices 1, 40, 22, 1 of 64 (a graph is bipartite or not; A047864 gives 41
// bipartite ones with names, the empty one among them).
func TestEveryGraphOnFourVertices(t *testing.T) {
	count := map[int]int{}
	for bits := range 64 {
		near, at := graph(4), 0
		for a := range 4 {
			for b := range a {
				if bits>>at&1 == 1 {
					near[a][b], near[b][a] = true, true
				}
				at++
			}
		}
		n, _, _ := Fewest(near)
		count[n]++
	}
	assert.Equal(t, map[int]int{1: 1, 2: 40, 3: 22, 4: 1}, count)
}

// The 156 graphs on six vertices without their names, by the colours they need: 1,
// 34, 84, 31, 5 and 1 (OEIS A084268, from memory). One of each is coloured: the
// first of all that become it by another naming.
func TestEveryGraphOnSixVertices(t *testing.T) {
	const n = 6
	var pairs [][2]int
	at := map[[2]int]int{}
	for a := range n {
		for b := range a {
			at[[2]int{a, b}], at[[2]int{b, a}] = len(pairs), len(pairs)
			pairs = append(pairs, [2]int{a, b})
		}
	}
	var namings [][]int
	var name func(so []int)
	name = func(so []int) {
		if len(so) == n {
			namings = append(namings, append([]int{}, so...))
			return
		}
		for v := range n {
			if !slices.Contains(so, v) {
				name(append(so, v))
			}
		}
	}
	name(nil)
	seen, count := make([]bool, 1<<len(pairs)), map[int]int{}
	for bits := range seen {
		if seen[bits] {
			continue
		}
		near := graph(n)
		for i, p := range pairs {
			near[p[0]][p[1]] = bits>>i&1 == 1
			near[p[1]][p[0]] = near[p[0]][p[1]]
		}
		for _, so := range namings {
			other := 0
			for i, p := range pairs {
				other |= bits >> i & 1 << at[[2]int{so[p[0]], so[p[1]]}]
			}
			seen[other] = true
		}
		k, _, proven := Fewest(near)
		require.True(t, proven)
		count[k]++
	}
	assert.Equal(t, map[int]int{1: 1, 2: 34, 3: 84, 4: 31, 5: 5, 6: 1}, count)
}

// colourable asks gophersat, a SAT solver that knows nothing of trays.
func colourable(near [][]bool, k int) bool {
	n := len(near)
	v := func(a, x int) int { return a*k + x + 1 }
	var clauses [][]int
	for a := range n {
		var some []int
		for x := range k {
			some = append(some, v(a, x))
		}
		clauses = append(clauses, some)
		for b := range a {
			for x := range k {
				if near[a][b] {
					clauses = append(clauses, []int{-v(a, x), -v(b, x)})
				}
			}
		}
	}
	return solver.New(solver.ParseSlice(clauses)).Solve() == solver.Sat
}

// Random graphs of up to 24 vertices against the reference solver gophersat:
// so many colours do, one less does not.
func TestAgainstASATSolver(t *testing.T) {
	for seed := range uint64(40) {
		r := rand.New(rand.NewPCG(seed, 5))
		n := 5 + r.IntN(20)
		p := 0.1 + 0.6*r.Float64()
		near := when(n, func(_, _ int) bool { return r.Float64() < p/2 })
		k, _, proven := Fewest(near)
		require.True(t, proven, "seed %d: %d vertices", seed, n)
		assert.True(t, colourable(near, k), "seed %d", seed)
		if k > 1 {
			assert.False(t, colourable(near, k-1), "seed %d", seed)
		}
	}
}

// With one tray too few, the fewest look-alikes share: tried against every way.
func TestLeastConfusionAgainstEveryWay(t *testing.T) {
	for seed := range uint64(40) {
		r := rand.New(rand.NewPCG(seed, 9))
		n := 3 + r.IntN(5)
		near := when(n, func(_, _ int) bool { return r.Float64() < 0.5 })
		k := 1 + r.IntN(2)
		fixed := make([]int, n)
		for i := range fixed {
			fixed[i] = free
		}
		c, pairs, proven := leastClashes(near, k, fixed)
		require.True(t, proven)
		require.Len(t, c, n)
		best := n * n
		ways := 1
		for range n {
			ways *= k
		}
		for way := range ways {
			cost, w := 0, way
			col := make([]int, n)
			for i := range col {
				col[i], w = w%k, w/k
				for j := range i {
					if near[i][j] && col[j] == col[i] {
						cost++
					}
				}
			}
			best = min(best, cost)
		}
		assert.Equal(t, best, pairs, "seed %d", seed)
	}
}

// Hex sizes in inches and millimetres. One inch is 25.4 mm exactly; the fits are
// computed from that. That 8 mm goes on 5/16 in and that 7 mm does not go on 1/4
// in is common practice, no source.
func TestDriversThatFit(t *testing.T) {
	for _, c := range []struct {
		driver, size string
		fit          Fit
		over         float64
	}{
		{"8 mm", "5/16 in", Close, 0.0625},
		{"7/32 in", "5.5 mm", Close, 0.05625},
		{"16 mm", "5/8 in", Close, 0.125},
		{"3/4 in", "19 mm", Close, 0.05},
		{"4 mm", "5/32 in", Close, 0.03125},
		{"7 mm", "1/4 in", Not, 0.65},
		{"10 mm", "3/8 in", Not, 0.475},
		{"13 mm", "1/2 in", Not, 0.3},
		{"11 mm", "7/16 in", Not, -0.1125},
		{"14 mm", "9/16 in", Not, -0.2875},
		{"5/16 in", "8 mm", Not, -0.0625},
		{"19 mm", "3/4 in", Not, -0.05},
		{"1/4 in", "1/4 in", Exact, 0},
		{"12.7 mm", "1/2 in", Exact, 0},
	} {
		d, err := ReadDriver("hex " + c.driver)
		require.NoError(t, err)
		fit, over := d.Over(&machine.Fastener{Drive: "hex", Size: c.size})
		assert.Equal(t, c.fit, fit, "%s on %s", c.driver, c.size)
		assert.InDelta(t, c.over, over, 1e-9, "%s on %s", c.driver, c.size)
	}
	goes := func(driver, drive, size string) Fit {
		d, err := ReadDriver(driver)
		require.NoError(t, err, driver)
		fit, _ := d.Over(&machine.Fastener{Drive: drive, Size: size})
		return fit
	}
	assert.Equal(t, Exact, goes("torx-pin T20", "torx", "T20"), "the hollow bit goes on both")
	assert.Equal(t, Not, goes("torx t20", "torx-pin", "T20"), "the plain one meets the pin")
	assert.Equal(t, Exact, goes("torx t20", "torx", "T20"))
	assert.Equal(t, Not, goes("phillips 2", "pozidriv", "2"), "it cams out")
	assert.Equal(t, Not, goes("phillips 1", "phillips", "2"))
	assert.Equal(t, Exact, goes("robertson 2", "square", "2"))
	for _, text := range []string{"", "hammer 2", "clip 3"} {
		_, err := ReadDriver(text)
		assert.ErrorContains(t, err, "is no driver")
	}
	own := []Driver{{"hex", "9 mm"}, {"hex", "8 mm"}, {"phillips", "2"}}
	best, fit := Best(own, &machine.Fastener{Drive: "hex", Size: "5/16 in"})
	assert.Equal(t, []Driver{{"hex", "8 mm"}}, best)
	assert.Equal(t, Close, fit)
	_, fit = Best(own, &machine.Fastener{Drive: "hex", Size: "1/4 in"})
	assert.Equal(t, Not, fit)
	_, fit = Best(nil, &machine.Fastener{Drive: "clip"})
	assert.Equal(t, Exact, fit, "nothing goes into a clip")
}

// many makes a map with so many lots of one move each, by a rule for their kinds.
func many(n int, kind func(i int) machine.Fastener) (*machine.Map, []Lot) {
	m := &machine.Map{}
	var lots []Lot
	for i := range n {
		k := kind(i)
		if m.Fastener(k.ID) == nil {
			m.Fasteners = append(m.Fasteners, k)
		}
		mv := machine.Move{ID: fmt.Sprintf("m%d", i), Title: fmt.Sprintf("Panel %d", i), Fasteners: []machine.Lot{{Kind: k.ID, Count: 2}}}
		m.Moves = append(m.Moves, mv)
		lots = append(lots, LotsOf(&mv)...)
	}
	return m, lots
}

// Forty lots of screws that are all alike but for their length: forty trays, or
// as many bags as trays are missing.
func TestFortyLotsOfAlikeScrews(t *testing.T) {
	m, lots := many(40, func(i int) machine.Fastener {
		return machine.Fastener{ID: fmt.Sprintf("k%d", i), Name: "Screw", Drive: "hex", Size: "1/4 in", Length: fmt.Sprintf("%d mm", 10+i)}
	})
	all := Arrange(m, lots, Enough)
	assert.Equal(t, 40, all.Fewest)
	assert.True(t, all.Proven)
	assert.Len(t, all.Trays, 40)
	six := Arrange(m, lots, 6)
	assert.Len(t, six.Trays, 6)
	assert.Len(t, six.Bags, 34)
	for _, b := range six.Bags {
		assert.Contains(t, b.Label, "Home: Panel")
	}
	one, same := many(40, func(int) machine.Fastener { return machine.Fastener{ID: "k", Drive: "hex", Size: "1/4 in"} })
	assert.Equal(t, 1, Arrange(one, same, Enough).Fewest, "identical kinds may share")
	assert.Len(t, Arrange(one, same, 1).Trays, 1)
	assert.Empty(t, Arrange(one, same, 1).Bags)
}
