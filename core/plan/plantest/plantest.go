// Package plantest makes random machine maps of a real machine's size, for
// measuring the planner. A seed always makes the same map. The rules:
//
//   - One energy, mains, with a move that shuts it (rear) and a one-way move
//     that proves it; every other move needs it proven.
//   - One to four independent stacks of items. An item needs the one before it
//     in its stack, aside or away; with a chance of 0.15 it also needs an item
//     of another stack that was made before it.
//   - An item has one move, or with a chance of 0.3 two alternatives, which
//     then differ in face, tools and minutes; with a chance of 0.3 the second
//     takes no need of its own stack but the first item's.
//   - A stack has a face of its own; a move stands there with a chance of 0.8,
//     else anywhere; faces are drawn as real machines have them: front 4, inside
//     3, top 2, rear 2, left, right and under 1 each. Each of six tools is used with a chance of 0.2.
//   - Minutes are halves from 0.5 to 5 out and 0.5 to 7 back.
//   - With a chance of 0.1 a move's refit waits for that of another (back.after)
//     of its own stack further down; three checks stand each after one move and
//     before another above it in the same stack.
//   - Sixty moves in all. The goal is the last item of one stack, but no deeper
//     than its 27th (plans of up to 40 moves), and with a chance of 0.5 the
//     middle item of another.
package plantest

import (
	"fmt"
	"math/rand/v2"

	"evensteps/core/machine"
)

// Moves is how many moves each random map has.
const Moves = 60

// Random makes the map of a seed, and goals for it.
func Random(seed uint64) (*machine.Map, []string) { return RandomOf(seed, Moves) }

// RandomOf does so by the same rules with so many moves.
func RandomOf(seed uint64, moves int) (*machine.Map, []string) {
	r := rand.New(rand.NewPCG(seed, 0x5eed))
	chance := func(p float64) bool { return r.Float64() < p }
	half := func(most int) float64 { return float64(1+r.IntN(2*most)) / 2 }
	faces := []string{"front", "front", "front", "front", "inside", "inside", "inside", "top", "top", "rear", "rear", "left", "right", "under"}
	m := &machine.Map{
		Format: machine.Format, ID: fmt.Sprintf("random-%d", seed), Title: "Random", Kind: "other", Revision: 1,
		Energies: []machine.Energy{{ID: "mains", Kind: "mains", Name: "Mains"}},
		Moves: []machine.Move{
			{ID: "plug", Title: "Pull the plug", Takes: map[string]machine.Level{"mains": machine.Shut}, LiveOK: []string{"mains"}, Face: "rear", Minutes: machine.Minutes{Out: 1, Back: 1}},
			{ID: "dead", Title: "Prove it dead", Takes: map[string]machine.Level{"mains": machine.Proven}, Needs: machine.Needs{"mains": machine.Shut}, LiveOK: []string{"mains"}, OneWay: true, Face: "rear", Tools: []string{"meter"}, Minutes: machine.Minutes{Out: 1}},
		},
	}
	stacks := 1 + r.IntN(4)
	home := make([]string, stacks)
	items := make([][]string, stacks)
	first := make([][]string, stacks) // the first move of each item, by stack
	for s := range stacks {
		home[s] = faces[r.IntN(len(faces))]
	}
	level := map[string]machine.Level{}
	for len(m.Moves) < moves {
		s := r.IntN(stacks)
		id := fmt.Sprintf("i%d-%d", s, len(items[s]))
		m.Items = append(m.Items, machine.Item{ID: id, Name: id, Type: "part", Face: home[s]})
		level[id] = machine.Away
		if chance(0.2) {
			level[id] = machine.Aside
		}
		needs := machine.Needs{}
		if n := len(items[s]); n > 0 {
			needs[items[s][n-1]] = level[items[s][n-1]]
		}
		if o := r.IntN(stacks); o != s && len(items[o]) > 0 && chance(0.15) {
			other := items[o][r.IntN(len(items[o]))]
			needs[other] = level[other]
		}
		ways := 1
		if chance(0.3) && len(m.Moves) < moves-1 {
			ways = 2
		}
		for k := range ways {
			mv := machine.Move{ID: fmt.Sprintf("%s-%c", id, 'a'+k), Title: id, Takes: map[string]machine.Level{id: level[id]}, Needs: machine.Needs{}, Face: home[s], Minutes: machine.Minutes{Out: half(5), Back: half(7)}}
			for need, l := range needs {
				mv.Needs[need] = l
			}
			if k == 1 && chance(0.3) && len(items[s]) > 1 {
				mv.Needs = machine.Needs{items[s][0]: level[items[s][0]]}
			}
			if chance(0.2) {
				mv.Face = faces[r.IntN(len(faces))]
			}
			for t := range 6 {
				if chance(0.2) {
					mv.Tools = append(mv.Tools, fmt.Sprintf("tool %d", t))
				}
			}
			m.Moves = append(m.Moves, mv)
		}
		items[s] = append(items[s], id)
		first[s] = append(first[s], id+"-a")
	}
	for s := range stacks { // what is deeper comes back first in any case; some wait for still more
		for n := 1; n < len(first[s]); n++ {
			if chance(0.1) {
				m.Move(first[s][r.IntN(n)]).Back = &machine.Back{After: []string{first[s][n]}}
			}
		}
	}
	for k := range 3 {
		s := r.IntN(stacks)
		if n := len(first[s]); n > 2 {
			deep := 1 + r.IntN(n-1)
			m.Checks = append(m.Checks, machine.Check{
				Task: machine.Task{ID: fmt.Sprintf("check-%d", k), Title: "Check", Face: home[s], Minutes: half(3)},
				Pass: "Yes",
				For:  []string{first[s][deep]}, After: []string{first[s][deep]}, Before: []string{first[s][r.IntN(deep)]},
			})
		}
	}
	s := r.IntN(stacks)
	for len(items[s]) == 0 {
		s = r.IntN(stacks)
	}
	last := items[s][min(len(items[s])-1, 26)]
	goals := []string{fmt.Sprintf("item:%s=%s", last, level[last])}
	if o := r.IntN(stacks); o != s && len(items[o]) > 0 && chance(0.5) {
		mid := items[o][len(items[o])/2]
		goals = append(goals, fmt.Sprintf("item:%s=%s", mid, level[mid]))
	}
	return m, goals
}
