package record

import (
	"fmt"
	"maps"
	"slices"

	"evensteps/core/machine"
)

// withOwn adds a job's own rungs to its map, so that they take part in plans,
// trays and counts like any move: what an own rung takes off is an item of its
// own, and the moves that it blocks need that away. What names nothing on this
// machine is dropped; strange says so.
func withOwn(m *machine.Map, own []*RungOwn) (out *machine.Map, strange map[string]string) {
	strange = map[string]string{}
	if len(own) == 0 {
		return m, strange
	}
	copied := *m
	out = &copied
	out.Moves = slices.Clone(m.Moves)
	out.Items, out.Fasteners = slices.Clone(m.Items), slices.Clone(m.Fasteners)
	for _, b := range own {
		if out.Move(b.ID) != nil || out.Item(b.ID) != nil || out.Energy(b.ID) != nil {
			continue // said twice: the first stands, a change is a withdrawal and a new one
		}
		mv := machine.Move{
			ID: b.ID, Title: b.Title, Face: b.Face, Minutes: b.Minutes,
			Takes: map[string]machine.Level{b.ID: machine.Away}, Needs: machine.Needs{},
		}
		for _, id := range slices.Sorted(maps.Keys(b.Needs)) {
			level := b.Needs[id]
			known := out.Item(id) != nil && !level.OfEnergy() || out.Energy(id) != nil && level.OfEnergy()
			if level.Rank() < 0 || !known {
				strange[b.ID] = id + " " + string(level)
				continue
			}
			mv.Needs[id] = level
		}
		for k, l := range b.Lots {
			kind := machine.Fastener{ID: fmt.Sprintf("%s/%d", b.ID, k+1), Name: l.Drive + " " + l.Size, Drive: l.Drive, Size: l.Size, Length: l.Length}
			out.Fasteners = append(out.Fasteners, kind)
			mv.Fasteners = append(mv.Fasteners, machine.Lot{Kind: kind.ID, Count: l.Count})
		}
		item := machine.Item{ID: b.ID, Name: b.Title, Type: "part", Face: b.Face}
		if len(b.Wires) > 0 {
			item.Type = "connector"
			for _, w := range b.Wires {
				item.Wires = append(item.Wires, machine.Wire(w))
			}
		}
		out.Items = append(out.Items, item)
		out.Moves = append(out.Moves, mv)
		for _, id := range b.Before {
			if id == b.ID || m.Move(id) == nil {
				strange[b.ID] = id
				continue
			}
			block(out.Move(id), b.ID)
		}
	}
	return out, strange
}

// block makes a move need that an own rung's item is away, out and back.
func block(mv *machine.Move, item string) {
	needs := machine.Needs{item: machine.Away}
	for id, l := range mv.Needs {
		needs[id] = l
	}
	mv.Needs = needs
	if mv.Back == nil || mv.Back.Needs == nil {
		return
	}
	back := *mv.Back
	home := machine.Needs{item: machine.Away}
	for id, l := range *back.Needs {
		home[id] = l
	}
	back.Needs = &home
	mv.Back = &back
}
