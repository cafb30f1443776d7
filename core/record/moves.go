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
			case mv.Takes[id] == machine.Shut && g.Map.Energy(id) != nil && g.restoredMeanwhile(id, f):
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

func (b *RungOut) subject() string           { return b.Move }
func (b *RungOut) says(n named.Names) string { return n.Move(b.Move) + " out" }

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
		if t := g.sameBack(b, f); t != nil { // two who put it back say the same
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
		g.unfitted(mv, f)
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

func (b *RungBack) subject() string           { return b.Move }
func (b *RungBack) says(n named.Names) string { return n.Move(b.Move) + " back" }

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

// sameBack is the turn that a back confirms which finds nothing open: one that it
// names, or one that another device had closed without this one's knowing.
func (g *folder) sameBack(b *RungBack, f *Fact) *Turn {
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
	if g.opens(move) {
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

// unfitted asks "Fitted?" where a goal's item comes back before its part was
// fitted.
func (g *folder) unfitted(mv *machine.Move, f *Fact) {
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

// opens tells whether a move opens the machine: it takes something off that has
// to come back, not an energy alone.
func (g *folder) opens(move string) bool {
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
