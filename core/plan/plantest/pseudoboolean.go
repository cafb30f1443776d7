package plantest

import (
	"fmt"
	"math/rand/v2"

	"github.com/crillab/gophersat/solver"

	"evensteps/core/machine"
)

// Small makes a little map for solvers that know nothing of maps: so many
// moves, no energies, no tools, no checks, everything away, alternatives with a
// chance of 0.3, two needs at most, three faces; and a goal, its last item.
func Small(seed uint64, moves int) (*machine.Map, string) {
	r := rand.New(rand.NewPCG(seed, 0xb001))
	faces := []string{"front", "rear", "left"}
	m := &machine.Map{Format: machine.Format, ID: fmt.Sprintf("small-%d", seed), Title: "Small", Kind: "other", Revision: 1}
	for i := 0; len(m.Moves) < moves; i++ {
		item := fmt.Sprintf("i%d", i)
		m.Items = append(m.Items, machine.Item{ID: item, Name: item, Type: "part", Face: "front"})
		ways := 1
		if r.Float64() < 0.3 && len(m.Moves) < moves-1 {
			ways = 2
		}
		for k := range ways {
			mv := machine.Move{ID: fmt.Sprintf("%s-%c", item, 'a'+k), Title: item, Takes: map[string]machine.Level{item: machine.Away}, Needs: machine.Needs{}, Face: faces[r.IntN(3)], Minutes: machine.Minutes{Out: float64(1+r.IntN(8)) / 2, Back: float64(1+r.IntN(8)) / 2}}
			for range r.IntN(3) {
				if i > 0 {
					mv.Needs[fmt.Sprintf("i%d", max(0, i-1-r.IntN(3)))] = machine.Away
				}
			}
			m.Moves = append(m.Moves, mv)
		}
	}
	return m, fmt.Sprintf("item:%s=away", m.Items[len(m.Items)-1].ID)
}

// the price of turning between two of the three faces of Small, in thousandths.
func turn(a, b string) int {
	switch {
	case a == b:
		return 0
	case a == "rear" || b == "rear":
		return 1500
	}
	return 500
}

// PseudoBoolean finds the least total of a Small map in thousandths of a
// minute, by a plain pseudo-Boolean formulation solved with gophersat: which
// move stands at which step of the way in and of the way back, where one stands
// at each step, and what each turning costs. It shares no rule with the
// planner.
func PseudoBoolean(m *machine.Map, goal string) int {
	n := len(m.Moves)
	faces := []string{"front", "rear", "left"}
	next := 0
	fresh := func() int { next++; return next }
	grid := func(rows, cols int) [][]int {
		g := make([][]int, rows)
		for i := range g {
			g[i] = make([]int, cols)
			for j := range g[i] {
				g[i][j] = fresh()
			}
		}
		return g
	}
	in, back := grid(n, n), grid(n, n) // move x step
	at := grid(2*n+1, len(faces))      // step x face, 0 before the first
	var all []solver.PBConstr
	clause := func(lits ...int) { all = append(all, solver.PropClause(lits...)) }
	exactlyOne := func(lits []int) {
		all = append(all, solver.AtLeast(lits, 1), solver.AtMost(lits, 1))
	}
	var costs []solver.Lit
	var weights []int
	cost := func(v, w int) {
		costs, weights = append(costs, solver.IntToLit(int32(v))), append(weights, w)
	}
	gives := func(item string) (moves []int) {
		for i := range m.Moves {
			if m.Moves[i].Takes[item] == machine.Away {
				moves = append(moves, i)
			}
		}
		return moves
	}
	used := make([]int, n)
	for i := range n {
		used[i] = fresh()
		for _, way := range [][][]int{in, back} { // at one step if it is used, at none if not
			all = append(all, solver.AtMost(way[i], 1))
			clause(append([]int{-used[i]}, way[i]...)...)
			for p := range n {
				clause(-way[i][p], used[i])
			}
		}
		cost(used[i], int(1000*(m.Moves[i].Minutes.Out+m.Moves[i].Minutes.Back)))
	}
	column := func(way [][]int, p int) (lits []int) {
		for i := range n {
			lits = append(lits, way[i][p])
		}
		return lits
	}
	for p := range n {
		all = append(all, solver.AtMost(column(in, p), 1), solver.AtMost(column(back, p), 1))
	}
	for i := range n {
		for need := range m.Moves[i].Needs {
			for p := range n {
				before, after := []int{-in[i][p]}, []int{-back[i][p]}
				for _, j := range gives(need) {
					if j == i {
						continue
					}
					before = append(before, in[j][:p]...)
					after = append(after, back[j][p+1:]...)
				}
				clause(before...)
				clause(after...)
			}
		}
	}
	var reached []int
	var item string
	if _, err := fmt.Sscanf(goal, "item:%s", &item); err == nil {
		for _, j := range gives(item[:len(item)-len("=away")]) {
			reached = append(reached, used[j])
		}
	}
	clause(reached...)
	for s := range at {
		exactlyOne(at[s])
	}
	clause(at[0][0])
	for p := range n {
		for i := range n {
			for f, face := range faces {
				if m.Moves[i].Face == face {
					clause(-in[i][p], at[p+1][f])
					clause(-back[i][p], at[n+p+1][f])
				}
			}
		}
	}
	for s := 1; s < len(at); s++ {
		for f := range faces {
			for g := range faces {
				if f != g {
					t := fresh()
					clause(-at[s-1][f], -at[s][g], t)
					cost(t, turn(faces[f], faces[g]))
				}
			}
		}
	}
	problem := solver.ParsePBConstrs(all)
	problem.SetCostFunc(costs, weights)
	return solver.New(problem).Minimize()
}
