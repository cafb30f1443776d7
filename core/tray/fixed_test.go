package tray

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/machine"
)

// What lies in a tray already stays there: the colouring and the least confusion
// with some colours fixed, against every way there is, on 600 small graphs.
func TestWithSomeColoursFixed(t *testing.T) {
	rng := rand.New(rand.NewPCG(7, 7))
	for range 600 {
		n, k := 1+rng.IntN(6), 1+rng.IntN(4)
		near := make([][]bool, n)
		for i := range near {
			near[i] = make([]bool, n)
		}
		for i := range n {
			for j := range i {
				near[i][j] = rng.IntN(2) == 0
				near[j][i] = near[i][j]
			}
		}
		fixed := make([]int, n)
		most := -1
		for i := range fixed {
			fixed[i] = free
			if rng.IntN(3) == 0 {
				fixed[i] = rng.IntN(k + 1) // one beyond what is there, at times
			}
			most = max(most, fixed[i])
		}
		pairs := func(c []int) (clash int, alone bool) {
			alone = true // no free vertex clashes with anything
			for i := range n {
				for j := range i {
					if near[i][j] && c[i] == c[j] {
						clash++
						alone = alone && fixed[i] != free && fixed[j] != free
					}
				}
			}
			return clash, alone
		}
		best, can := n*n, false
		every(fixed, k, func(c []int) {
			clash, alone := pairs(c)
			best, can = min(best, clash), can || alone
		})
		what := fmt.Sprint(near, fixed, k)
		c, whole := colourWith(near, k, fixed)
		require.True(t, whole, what)
		if most >= k {
			require.Nil(t, c, what)
			continue // more trays are taken than there are: nobody asks that
		}
		require.Equal(t, can, c != nil, what)
		if c != nil {
			_, alone := pairs(c)
			require.True(t, alone, what)
			for i, x := range fixed {
				require.True(t, x == free || c[i] == x, what)
			}
		}
		least, clash, proven := leastClashes(near, k, fixed)
		require.True(t, proven, what)
		require.Equal(t, best, clash, what)
		got, _ := pairs(least)
		require.Equal(t, clash, got, what)
	}
}

// every calls back with every way to fill what is free with k colours.
func every(fixed []int, k int, with func(c []int)) {
	c := append([]int{}, fixed...)
	var fill func(v int)
	fill = func(v int) {
		for v < len(c) && fixed[v] != free {
			v++
		}
		if v == len(c) {
			with(c)
			return
		}
		for c[v] = range k {
			fill(v + 1)
		}
	}
	fill(0)
}

// With trays enough, a lot has a tray of its own where sharing would leave one
// not empty at its rung; what lies already stays where it lies.
func TestTraysOfTheirOwn(t *testing.T) {
	m := &machine.Map{Fasteners: []machine.Fastener{
		{ID: "a", Name: "A", Drive: "hex", Size: "6 mm"}, {ID: "b", Name: "B", Drive: "phillips", Size: "2"}, {ID: "c", Name: "C", Drive: "hex", Size: "6.2 mm"},
	}}
	lot := func(id, kind, in string) Lot { return Lot{ID: id, Kind: kind, Count: 2, In: in} }
	say := func(a *Arrangement) (out []string) {
		for _, tray := range a.Trays {
			for _, l := range tray.Lots {
				out = append(out, tray.Letter+" "+l.ID)
			}
		}
		for _, b := range a.Bags {
			out = append(out, "bag "+b.Lot)
		}
		return out
	}
	for name, c := range map[string]struct {
		have int
		lots []Lot
		want []string
	}{
		"each its own":            {Enough, []Lot{lot("x/1", "a", ""), lot("y/1", "a", ""), lot("y/2", "b", ""), lot("z/1", "b", "")}, []string{"A x/1", "B y/1", "C y/2", "D z/1"}},
		"one rung, one kind":      {Enough, []Lot{lot("x/1", "a", ""), lot("x/2", "a", "")}, []string{"A x/1", "A x/2"}},
		"as many as there are":    {3, []Lot{lot("x/1", "a", ""), lot("y/1", "b", ""), lot("z/1", "a", ""), lot("w/1", "b", "")}, []string{"A x/1", "B y/1", "B w/1", "C z/1"}},
		"what lies stays":         {Enough, []Lot{lot("x/1", "a", "F"), lot("y/1", "a", ""), lot("z/1", "b", "")}, []string{"F x/1", "A y/1", "B z/1"}},
		"the first lot says when": {Enough, []Lot{lot("x/1", "a", ""), lot("y/1", "b", "Q"), lot("z/1", "c", "")}, []string{"A x/1", "Q y/1", "B z/1"}},
		"too few":                 {1, []Lot{lot("x/1", "a", ""), lot("y/1", "c", "")}, []string{"A x/1", "bag y/1"}},
		"none at all":             {0, []Lot{lot("x/1", "a", "")}, []string{"bag x/1"}},
		"others share":            {2, []Lot{lot("x/1", "a", ""), lot("y/1", "b", ""), lot("z/1", "c", "")}, []string{"A x/1", "A y/1", "B z/1"}},
	} {
		assert.Equal(t, c.want, say(Arrange(m, c.lots, c.have)), name)
	}
}

// A tool that a map names by its own words is the driver of a fastener.
func TestAToolServes(t *testing.T) {
	for _, c := range []struct {
		tool, driver string
		serves       bool
	}{
		{"nut driver 1/4 in", "hex 1/4 in", true},
		{"nut driver 5/16 in", "hex 1/4 in", false},
		{"screwdriver PH2", "phillips 2", true},
		{"screwdriver PH2", "phillips 1", false},
		{"screwdriver PH2", "pozidriv 2", false},
		{"torx driver T20", "torx T20", true},
		{"torx driver T20", "torx T2", false},
		{"wrench 13 mm", "hex 13 mm", true},
		{"wrench 13 mm", "hex 3 mm", false},
		{"flat screwdriver", "slotted 5", true},
		{"multimeter", "hex 8 mm", false},
		{"bag 8 mm", "hex 8 mm", false},
	} {
		d, err := ReadDriver(c.driver)
		require.NoError(t, err)
		assert.Equal(t, c.serves, Serves(c.tool, d), "%s for %s", c.tool, c.driver)
	}
}
