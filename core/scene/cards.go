package scene

import (
	"maps"
	"slices"

	"evensteps/core/lead"
	"evensteps/core/machine"
	"evensteps/core/record"
)

// Connectors are those that a move parts.
func Connectors(sc *Scene, mv *machine.Move) []*machine.Item {
	var out []*machine.Item
	for i := range sc.Map.Items {
		if it := &sc.Map.Items[i]; it.Type == "connector" && mv.Takes[it.ID] == machine.Away {
			out = append(out, it)
		}
	}
	return out
}

// cards looks once at all connectors that are off, or will be, at the same time:
// by what rule each is kept apart, and which tag each lead gets. What was
// written on a tag stays; the others get the next numbers, down the ladder.
func cards(sc *Scene) (rules map[string]lead.Card, tags map[string]int) {
	rules, tags = map[string]lead.Card{}, map[string]int{}
	type at struct {
		it    *machine.Item
		blind bool
	}
	var apart []at
	var items []*machine.Item
	for _, id := range sc.Order {
		mv := sc.Map.Move(id)
		if mv == nil {
			continue
		}
		for _, it := range Connectors(sc, mv) {
			if !slices.Contains(items, it) {
				apart, items = append(apart, at{it, mv.Blind}), append(items, it)
			}
		}
	}
	for _, wire := range slices.Sorted(maps.Keys(sc.Wires)) {
		for _, f := range sc.Wires[wire] {
			if tag := f.Of.(*record.WireSaid).Tag; tag > 0 {
				tags[wire] = tag
			}
		}
	}
	used := map[int]bool{}
	for _, tag := range tags {
		used[tag] = true
	}
	next := 1
	for _, a := range apart {
		card := lead.For(a.it, items, a.blind)
		rules[a.it.ID] = card
		for _, terminal := range card.Tags {
			wire := a.it.ID + "/" + terminal
			if tags[wire] > 0 {
				continue
			}
			for used[next] {
				next++
			}
			tags[wire], used[next] = next, true
		}
	}
	return rules, tags
}
