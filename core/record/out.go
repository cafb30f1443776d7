package record

import (
	"errors"
	"maps"
	"slices"

	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/plan"
)

// Moves out, and what was off before.

// RungOut: a move was made.
type RungOut struct {
	Move    string            `json:"move"`
	Accepts []string          `json:"accepts,omitempty"`
	Trays   map[string]string `json:"trays,omitempty"` // lot -> the tray that was said
	Proof   *Proof            `json:"proof,omitempty"`
}

func (b *RungOut) check() error {
	if b.Proof == nil {
		return ids("move", b.Move)
	}
	return errors.Join(ids("move", b.Move), checkProof("proof", b.Proof))
}

func (b *RungOut) apply(g *folder, f *Fact) {
	mv := g.Map.Move(b.Move)
	var last *Turn
	for _, t := range g.Turns {
		if t.Move == b.Move {
			last = t
		}
	}
	if last != nil && last.Back != nil && last.Back.Device != f.Device && (last.Back.Num == 0 || f.Seen < last.Back.Num) {
		g.raise("off-again", b.Move, f)
		return
	}
	at := g.Levels()
	if mv == nil || !mv.OneWay {
		g.unguarded = nil
	}
	if mv != nil {
		for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
			// Readings that show it off say so, whatever a check had set live.
			if mv.Takes[id] == machine.Proven && g.SetLive[id] != nil && g.Judge(mv, id, b.Proof, f.When()).Off {
				delete(g.SetLive, id)
				at = g.Levels()
			}
		}
		g.needs(b.Move, "out", g.Map.OutNeeds(mv), at, f)
		g.guard(b.Move, g.Map.Guards(mv.LiveOK), f)
		for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
			switch {
			case mv.Takes[id] == machine.Proven && g.Map.Energy(id) != nil && !g.proof(mv, id, b.Proof, f):
			case mv.Takes[id] == machine.Shut && g.Map.Energy(id) != nil && restoredMeanwhile(g, id, f):
				g.Said[b.Move] = "Somebody restored it meanwhile. Treat as live, and shut it again."
			default:
				continue
			}
			g.turn(b.Move, "out").Half["out"] = true
			return
		}
		if mv.MeasureFirst != "" {
			g.measured(mv, b.Proof, f)
		}
		g.At, g.Returning = &plan.Place{Face: mv.Face, Pose: mv.Pose, Tools: mv.Tools}, false
	}
	t := g.turn(b.Move, "out")
	t.Outs = append(t.Outs, f)
	for _, a := range b.Accepts {
		t.Accepts[a+"|out"] = true
	}
	maps.Copy(t.Trays, b.Trays)
	if mv == nil || mv.MeasureFirst == "" {
		delete(g.Said, b.Move)
	}
	g.stand(b.Move, f)
}

func (b *RungOut) shapes(s *shape) {
	s.touch(b.Move)
}

func (b *RungOut) subject() string { return b.Move }

func (b *RungOut) brings() *Proof            { return b.Proof }
func (b *RungOut) says(n named.Names) string { return n.Move(b.Move) + " out" }

// Found was so before the record began: a move that stands, or an item
// missing or broken.
type Found struct {
	Move  string        `json:"move,omitempty"`
	By    string        `json:"by,omitempty"`
	Item  string        `json:"item,omitempty"`
	Level machine.Level `json:"level,omitempty"`
	State string        `json:"state,omitempty"`
	Photo string        `json:"photo,omitempty"`
}

func (b *Found) check() error {
	if b.Move != "" {
		return errors.Join(ids("move", b.Move), texts(b.By))
	}
	return errors.Join(ids("item", b.Item), oneOf("level", string(b.Level), "fitted", "aside", "away", "shut"),
		oneOf("state", b.State, "missing", "broken"), texts(b.Photo))
}

func (b *Found) apply(g *folder, f *Fact) {
	if b.Move == "" {
		r := g.raise("missing-part", b.Item, f)
		r.Other = b.State
		g.AsFound = append(g.AsFound, f)
		if b.Level.Rank() > 0 {
			g.Found[b.Item] = b.Level
		}
		return
	}
	g.AsFound = append(g.AsFound, f)
	t := g.turn(b.Move, "out")
	if mv := g.Map.Move(b.Move); mv != nil && slices.Contains(slices.Collect(maps.Values(mv.Takes)), machine.Proven) {
		t.Half["out"] = true // a proof is made, never found
		g.Said[b.Move] = "Found so is no proof. Prove it, and record it."
		return
	}
	t.Outs, t.Found = append(t.Outs, f), true
	g.stand(b.Move, f)
}

func (b *Found) shapes(s *shape) {
	s.touch(b.Move)
}

func (b *Found) subject() string { return b.Move + b.Item }

func (b *Found) says(n named.Names) string {
	if b.Move != "" {
		return n.Move(b.Move) + ", found off"
	}
	return n.Item(b.Item) + ", found " + b.State
}
