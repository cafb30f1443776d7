package lint

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"evensteps/core/machine"
)

// Whether everything can come off, and come back.

// reachable holds each combination of options against the rules: can every
// move be made, and can everything come back? Cycles and needs that nothing
// gives show up here as moves that never become possible.
func (c *checker) reachable() {
	const most = 512 // combinations; a map with more is checked on its first ones
	told := map[string]bool{}
	for _, answers := range combinations(c.m.Options, most) {
		m := c.m.With(answers)
		under := ""
		if len(answers) > 0 {
			var words []string
			for _, id := range slices.Sorted(maps.Keys(answers)) {
				words = append(words, id+"="+answers[id])
			}
			under = " (with " + strings.Join(words, ", ") + ")"
		}
		for _, id := range Stuck(m) {
			if told["out "+id] {
				continue
			}
			told["out "+id] = true
			c.add(c.movePath(id)+".needs", "%s can never be made%s: %s", id, under, missing(m, id))
		}
		for _, id := range StuckBack(m) {
			if len(Stuck(m)) > 0 {
				break // what cannot be made is told already
			}
			if told["back "+id] {
				continue
			}
			told["back "+id] = true
			c.add(c.movePath(id), "%s can never come back once everything is off%s: what its refit waits for waits for it", id, under)
		}
		for i, pt := range c.m.Parts {
			if m.Part(pt.ID) == nil || told["part "+pt.ID] {
				continue
			}
			for _, id := range pt.Pieces() {
				if !slices.ContainsFunc(m.Moves, func(mv machine.Move) bool { return mv.Takes[id] == machine.Away }) {
					told["part "+pt.ID] = true
					c.add(fmt.Sprintf("parts[%d].item", i), "no move takes %s away%s, so part %s can never be fitted", id, under, pt.ID)
				}
			}
		}
	}
}

func (c *checker) movePath(id string) string {
	return fmt.Sprintf("moves[%d]", slices.IndexFunc(c.m.Moves, func(mv machine.Move) bool { return mv.ID == id }))
}

func combinations(options []machine.Option, most int) []map[string]string {
	out := []map[string]string{{}}
	for _, o := range options {
		var next []map[string]string
		for _, base := range out {
			for _, v := range o.Values {
				if len(next) == most {
					break
				}
				one := maps.Clone(base)
				one[o.ID] = v
				next = append(next, one)
			}
		}
		out = next
	}
	return out
}

// levels is the level that each item and energy has reached.
type levels map[string]int

func (l levels) meet(n map[string]machine.Level) bool {
	for id, level := range n {
		if l[id] < level.Rank() {
			return false
		}
	}
	return true
}

func (l levels) proven(energies []string) bool {
	for _, id := range energies {
		if l[id] < machine.Proven.Rank() {
			return false
		}
	}
	return true
}

func (l levels) raise(takes map[string]machine.Level) {
	for id, level := range takes {
		l[id] = max(l[id], level.Rank())
	}
}

// Stuck lists the moves that can never be made, in the map's order.
func Stuck(m *machine.Map) []string {
	at, made := levels{}, map[string]bool{}
	for again := true; again; {
		again = false
		for i := range m.Moves {
			mv := &m.Moves[i]
			if !made[mv.ID] && at.meet(m.OutNeeds(mv)) && at.proven(m.Guards(mv.LiveOK)) {
				at.raise(mv.Takes)
				made[mv.ID], again = true, true
			}
		}
	}
	var stuck []string
	for _, mv := range m.Moves {
		if !made[mv.ID] {
			stuck = append(stuck, mv.ID)
		}
	}
	return stuck
}

// StuckBack lists the moves that cannot come back from the state in which all
// moves were made, in the map's order. It plays the way back from its end: a
// refit may be the next to last when its needs hold without it.
func StuckBack(m *machine.Map) []string {
	at, placed := levels{}, map[string]bool{}
	ready := func(mv *machine.Move) bool {
		if mv.OneWay {
			return at.meet(m.StandsOn(mv)) && at.proven(m.Guards(mv.LiveOK))
		}
		for i := range m.Moves { // what must come back after this one must be there already
			o := &m.Moves[i]
			if placed[o.ID] || o.ID == mv.ID {
				continue
			}
			if o.Back != nil && slices.Contains(o.Back.After, mv.ID) {
				return false
			}
			for id, level := range o.Takes {
				if mine, both := mv.Takes[id]; both && !o.OneWay && mine.Rank() > level.Rank() {
					return false
				}
			}
		}
		return at.meet(m.BackNeeds(mv)) && at.proven(m.Guards(mv.LiveOK))
	}
	for again := true; again; {
		again = false
		for i := range m.Moves {
			mv := &m.Moves[i]
			if !placed[mv.ID] && ready(mv) {
				at.raise(mv.Takes)
				placed[mv.ID], again = true, true
			}
		}
	}
	var stuck []string
	for _, mv := range m.Moves {
		if !placed[mv.ID] && !mv.OneWay {
			stuck = append(stuck, mv.ID)
		}
	}
	return stuck
}

// missing says what a stuck move waits for: what no move gives, or else what
// is itself stuck behind it.
func missing(m *machine.Map, id string) string {
	mv := m.Move(id)
	want := maps.Clone(m.OutNeeds(mv))
	if want == nil {
		want = machine.Needs{}
	}
	for _, e := range m.Guards(mv.LiveOK) {
		want[e] = machine.Proven
	}
	stuck := Stuck(m)
	for _, need := range slices.Sorted(maps.Keys(want)) {
		given, free := false, false
		for i := range m.Moves {
			o := &m.Moves[i]
			if o.Takes[need].Rank() >= want[need].Rank() && len(o.Takes[need]) > 0 {
				given = true
				free = free || !slices.Contains(stuck, o.ID)
			}
		}
		switch {
		case !given:
			return fmt.Sprintf("no move takes %s to %s", need, want[need])
		case !free:
			return fmt.Sprintf("it needs %s at %s, and every move that gives it is stuck itself", need, want[need])
		}
	}
	return "its needs wait for each other"
}
