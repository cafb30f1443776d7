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

// Moves back, and energies restored outside the ladder.

// RungBack: a move was undone.
type RungBack struct {
	Move    string   `json:"move"`
	Closes  []string `json:"closes,omitempty"`
	Accepts []string `json:"accepts,omitempty"`
}

func (b *RungBack) check() error { return ids("move", b.Move) }

func (b *RungBack) apply(g *folder, f *Fact) {
	var closing []*Turn
	for _, t := range g.Turns {
		if t.Move != b.Move || !t.Open() {
			continue
		}
		if len(b.Closes) == 0 || slices.ContainsFunc(t.Outs, func(o *Fact) bool { return slices.Contains(b.Closes, o.ID) }) {
			closing = append(closing, t)
		}
	}
	for _, id := range b.Closes {
		if g.Gone[id] {
			r := g.raise("hangs", f.ID, f)
			r.Other = id
		}
	}
	if len(closing) == 0 {
		if t := sameBack(g, b, f); t != nil { // two who put it back say the same
			for _, a := range b.Accepts {
				t.Accepts[a+"|back"] = true
			}
			return
		}
		g.raise("back-without-out", b.Move, f)
		return
	}
	for _, t := range closing {
		t.Back = f
		for _, a := range b.Accepts {
			t.Accepts[a+"|back"] = true
		}
	}
	g.unguarded = nil
	if mv := g.Map.Move(b.Move); mv != nil {
		rest := slices.DeleteFunc(slices.Clone(g.Standing), func(o string) bool { return o == b.Move })
		at := g.levels(plan.Lapse(g.Map, rest, g.Found))
		g.needs(b.Move, "back", g.Map.BackNeeds(mv), at, f)
		g.undo(b.Move, f)
		g.guard(b.Move, g.Map.Guards(mv.LiveOK), f)
		face, pose, tools := plan.RefitPlace(mv)
		g.move(face, pose, tools)
		unfitted(g, mv, f)
		return
	}
	g.undo(b.Move, f)
}

// leaves plays what stays of it once it was taken back.
func (b *RungBack) leaves(g *folder, f *Fact) {
	if mv := g.Map.Move(b.Move); mv != nil {
		for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
			if g.Map.Energy(id) != nil {
				g.end(id, f)
			}
		}
	}
}

func (b *RungBack) subject() string { return b.Move }

func (b *RungBack) says(n named.Names) string { return n.Move(b.Move) + " back" }

// sameBack is the turn that a back confirms which finds nothing open: one that it
// names, or one that another device had closed without this one's knowing.
func sameBack(g *folder, b *RungBack, f *Fact) *Turn {
	for i := len(g.Turns) - 1; i >= 0; i-- {
		t := g.Turns[i]
		if t.Move != b.Move || t.Back == nil || len(t.Outs) == 0 {
			continue
		}
		if _, is := t.Back.Of.(*RungBack); !is {
			return nil
		}
		names := slices.ContainsFunc(t.Outs, func(o *Fact) bool { return slices.Contains(b.Closes, o.ID) })
		unseen := len(b.Closes) == 0 && t.Back.Device != f.Device && (t.Back.Num == 0 || t.Back.Num > f.Seen)
		if names || unseen {
			return t
		}
		return nil
	}
	return nil
}

// unfitted asks "Fitted?" where a goal's item comes back before its part was
// fitted.
func unfitted(g *folder, mv *machine.Move, f *Fact) {
	for _, o := range g.Goals {
		part := g.Map.Part(strings.TrimPrefix(o.Goal, "replace:"))
		if !o.Open || part == nil || !strings.HasPrefix(o.Goal, "replace:") {
			continue
		}
		for _, piece := range part.Pieces() {
			if mv.Takes[piece] == machine.Away && g.Pieces[part.ID+"/"+piece] == nil {
				r := g.raise("fitted-unsure", part.ID, f)
				r.Other = piece
			}
		}
	}
}

// EnergyRestored: what happened outside the ladder.
type EnergyRestored struct {
	Energy string `json:"energy"`
	How    string `json:"how"`
}

func (b *EnergyRestored) check() error { return errors.Join(ids("energy", b.Energy), texts(b.How)) }

func (b *EnergyRestored) apply(g *folder, f *Fact) {
	g.restore(b.Energy, f)
}

// leaves plays what stays of it once it was taken back.
func (b *EnergyRestored) leaves(g *folder, f *Fact) {
	g.end(b.Energy, f)
}

func (b *EnergyRestored) says(n named.Names) string { return n.Item(b.Energy) + " restored" }

func (g *folder) restore(id string, f *Fact) {
	g.remember(id, f)
	delete(g.SetLive, id)
	for _, t := range g.Turns {
		mv := g.Map.Move(t.Move)
		if mv == nil || mv.OneWay || !t.Open() {
			continue
		}
		if _, takes := mv.Takes[id]; takes {
			t.Back, t.ByEnergy = f, true
			g.undo(t.Move, f)
		}
	}
	g.end(id, f)
}
