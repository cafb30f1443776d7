package record

import (
	"errors"
	"maps"
	"slices"
	"strings"

	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/plan"
)

// Moves out and back.

// RungHalf: begun.
type RungHalf struct {
	Move string `json:"move"`
	Side string `json:"side"`
}

func (b *RungHalf) check() error { return errors.Join(ids("move", b.Move), side(b.Side)) }

func (b *RungHalf) apply(g *folder, _ *Fact) {
	g.turn(b.Move, b.Side).Half[b.Side] = true
}

func (b *RungHalf) subject() string           { return b.Move }
func (b *RungHalf) says(n named.Names) string { return n.Move(b.Move) + ", half" }

// RungNotDone: it could not be done; bars takes that side out of plans.
type RungNotDone struct {
	Move   string `json:"move"`
	Side   string `json:"side"`
	Reason string `json:"reason"`
	Bars   bool   `json:"bars,omitempty"`
}

func (b *RungNotDone) check() error {
	return errors.Join(ids("move", b.Move), side(b.Side), said("reason", b.Reason))
}

func (b *RungNotDone) apply(g *folder, f *Fact) {
	g.turn(b.Move, b.Side).Half[b.Side] = true
	if b.Bars {
		r := g.raise("barred", b.Move, f)
		r.Side = b.Side
	}
}

func (b *RungNotDone) subject() string           { return b.Move }
func (b *RungNotDone) says(n named.Names) string { return n.Move(b.Move) + ", not done" }

// stand adds a move to those that stand.
func (g *folder) stand(move string, f *Fact) {
	if !slices.Contains(g.Standing, move) {
		g.Standing = plan.Lapse(g.Map, append(slices.Clone(g.Standing), move), g.Found)
	}
	for i := range g.Map.Checks {
		c := &g.Map.Checks[i]
		if slices.Contains(c.For, move) {
			st := g.check(c.ID)
			if !slices.Contains(st.Since, move) {
				st.Since = append(st.Since, move)
			}
			st.Lost, st.Failed = nil, nil
		}
	}
	if opens(g, move) {
		clear(g.Finals) // it is open again: what was proven closed is not any more
	}
	if mv := g.Map.Move(move); mv != nil {
		for id, level := range mv.Takes {
			if level == machine.Shut {
				delete(g.SetLive, id) // isolated again
			}
		}
	}
	at := g.Levels()
	g.unmet = slices.DeleteFunc(g.unmet, func(r *Raised) bool {
		id, level, _ := strings.Cut(r.Other, "=")
		r.Done = at[id].Rank() >= machine.Level(level).Rank()
		return r.Done
	})
	g.reach(f)
}

func (g *folder) undo(move string, f *Fact) {
	g.Standing = slices.DeleteFunc(slices.Clone(g.Standing), func(o string) bool { return o == move })
	g.Standing = plan.Lapse(g.Map, g.Standing, g.Found)
	if mv := g.Map.Move(move); mv != nil && !mv.OneWay {
		for id := range mv.Takes {
			delete(g.SetLive, id) // live by the record again
		}
	}
	at := g.Levels()
	for _, id := range slices.Sorted(maps.Keys(g.Proofs)) {
		if g.Proofs[id].Stands && at[id] != machine.Proven {
			g.end(id, f)
		}
	}
	for i := range g.Map.Checks {
		c := &g.Map.Checks[i]
		if st := g.Checks[c.ID]; st != nil && len(st.Since) > 0 && slices.Contains(c.Before, move) {
			st.Lost = append(st.Lost, move)
		}
	}
	if mv := g.Map.Move(move); mv != nil {
		for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
			if g.Map.Energy(id) != nil {
				g.remember(id, f)
			}
		}
	}
}

// needs raises what was not met when a rung was recorded: it happened, so
// something was done that no record tells of.
func (g *folder) needs(move, side string, needs machine.Needs, at map[string]machine.Level, f *Fact) {
	for _, id := range slices.Sorted(maps.Keys(needs)) {
		if at[id].Rank() >= needs[id].Rank() {
			continue
		}
		if e := g.Map.Energy(id); e != nil {
			g.unsafe(move, id, f)
			continue
		}
		r := g.raise("out-of-order", move, f)
		r.Side, r.Other = side, id+"="+string(needs[id])
		g.unmet = append(g.unmet, r)
	}
}

// move notes where a refit or check ended; tools used there stay at hand until
// one turns.
func (g *folder) move(face, pose string, tools []string) {
	if face == "" {
		face = "front"
	}
	at := &plan.Place{Face: face, Pose: pose, Tools: slices.Clone(tools)}
	if g.Returning && g.At != nil && g.At.Face == face && g.At.Pose == pose {
		for _, t := range g.At.Tools {
			if !slices.Contains(at.Tools, t) {
				at.Tools = append(at.Tools, t)
			}
		}
	}
	g.At, g.Returning = at, true
}

// opens tells whether a move opens the machine: it takes something off that has
// to come back, not an energy alone.
func opens(g *folder, move string) bool {
	mv := g.Map.Move(move)
	if mv == nil {
		return true
	}
	if mv.OneWay {
		return false
	}
	for id := range mv.Takes {
		if g.Map.Energy(id) == nil {
			return true
		}
	}
	return false
}
