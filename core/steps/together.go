package steps

import (
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/lead"
	"evensteps/core/machine"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// mostTogether is how many harmless rungs share a touch.
const mostTogether = 3

// together lets harmless rungs at the same face, one after the other in the
// plan, share one touch. What must be looked at by itself never does: proofs,
// energies, leads and earths, gas, weight, what is by feel, what must be
// counted, what needs a ticket or a second person.
func together(sc *scene.Scene, rungs []Rung) {
	c := sc.On
	if c.Kind != "out" && c.Kind != "back" {
		return
	}
	ids := ahead(sc)
	var sides []*Side
	for _, id := range ids {
		mv := sc.Map.Move(id)
		s := SideOf(rungs, id, c.Side)
		if s == nil || !harmless(sc, mv, s) || len(sides) > 0 && s.Stand != sides[0].Stand {
			break
		}
		sides = append(sides, s)
	}
	if len(sides) < 2 {
		return
	}
	first := sides[0]
	t := new(view.Button("", ""))
	var names, says []string
	for i, s := range sides {
		mv := sc.Map.Move(ids[i])
		names = append(names, english.Lower(mv.Name()))
		if s.Done.Says != "" {
			says = append(says, s.Done.Says)
		}
		t.Makes = append(t.Makes, s.Done.Makes...)
		if i > 0 {
			first.Then = append(first.Then, Next{mv.ID, s.Title, s.Do, s.Done.Says})
		}
	}
	t.Label = "Both: " + english.And(names)
	if len(sides) > 2 {
		t.Label = "All three: " + english.And(names)
	}
	t.Says = strings.Join(says, "; ")
	first.Together = t
}

// ahead are the next moves of the way that one is on, as many as may share a touch.
func ahead(sc *scene.Scene) []string {
	var ids []string
	switch sc.On.Kind {
	case "out":
		ids = sc.WayIn()
	case "back":
		for _, s := range sc.WayBack() {
			if s.Check != "" || s.By != "" {
				break
			}
			ids = append(ids, s.Undo)
		}
	}
	return ids[:min(len(ids), mostTogether)]
}

// SideOf is one side of a rung; nil where the ladder has none of it.
func SideOf(rungs []Rung, move, side string) *Side {
	for i := range rungs {
		if r := &rungs[i]; r.ID == move && r.Kind != "check" {
			if side == "out" {
				return r.OutSide
			}
			return r.Home
		}
	}
	return nil
}

// harmless tells whether a rung may share a touch with its neighbours.
func harmless(sc *scene.Scene, mv *machine.Move, s *Side) bool {
	if mv.Ticket != "" || mv.BackTicket() != "" || s.Done == nil || len(s.Done.Open) > 0 || s.Proof != nil || s.Ticket != "" || s.Blind || s.People > 1 || len(s.Hazards) > 0 || len(s.Lines) > 0 || len(s.Do) == 0 {
		return false
	}
	for id := range mv.Takes {
		it := sc.Map.Item(id)
		if sc.Map.Energy(id) != nil || it != nil && (it.Earth || it.Type == "belt" || it.Type == "pipe" || it.Type == "drum") {
			return false
		}
	}
	return !slices.ContainsFunc(s.Plugs, func(p Plug) bool { return !p.Keyed || p.Rule != lead.None }) &&
		!slices.ContainsFunc(s.Lots, func(l Lot) bool { return l.MustCount || l.Counted != nil || l.Astray > 0 })
}
