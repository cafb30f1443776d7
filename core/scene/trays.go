package scene

import (
	"cmp"
	"maps"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/record"
	"evensteps/core/tray"
)

// MustCount tells whether a lot has to be counted: it has a look-alike, or what
// drops is lost.
func MustCount(sc *Scene, l *machine.Lot) bool { return !l.Loosen && tray.MustCount(sc.Map, *l) }

// arrange says which lot goes into which tray, and what lies in each. What was
// put into a tray stays in it, whatever comes later.
func arrange(sc *Scene) (trays []Tray, bags []tray.Bag, letters map[string]string) {
	trays, letters = []Tray{}, map[string]string{}
	have := tray.Enough
	if t := sc.Job.Trays; t != nil {
		have = *t
	}
	if t := sc.Bench.Trays; t != nil {
		have = *t
	}
	var lots []tray.Lot
	was := map[string]string{} // trays that are empty again
	for _, id := range sc.Order {
		mv := sc.Map.Move(id)
		if mv == nil {
			continue
		}
		turn := sc.TurnOf(id)
		for _, lot := range tray.LotsOf(mv) {
			if thrownAway(sc, mv, lot.ID) && (turn == nil || turn.Trays[lot.ID] == "") {
				continue
			}
			if turn != nil {
				lot.In = turn.Trays[lot.ID]
				if turn.Back != nil && lot.In != "" && !slices.Contains(sc.WayIn(), id) {
					was[lot.ID] = lot.In
					continue
				}
				if turn.Back != nil {
					lot.In = ""
				}
			}
			lots = append(lots, lot)
		}
	}
	arranged := tray.Arrange(sc.Map, lots, have)
	bags = arranged.Bags
	for _, t := range arranged.Trays {
		for _, lot := range t.Lots {
			letters[lot.ID] = t.Letter
		}
		trays = append(trays, trayOf(sc, t))
	}
	for _, lot := range slices.Sorted(maps.Keys(was)) {
		letters[lot] = was[lot]
		if !slices.ContainsFunc(trays, func(t Tray) bool { return t.Tray == was[lot] }) {
			kind := sc.Names.Kind(lot)
			trays = append(trays, Tray{Tray: was[lot], Kind: tray.KindName(kind), Noun: tray.Noun(kind), Lots: []LotIn{}})
		}
	}
	slices.SortStableFunc(trays, func(a, b Tray) int {
		return cmp.Or(cmp.Compare(len(a.Tray), len(b.Tray)), cmp.Compare(a.Tray, b.Tray))
	})
	return trays, bags, letters
}

// trayOf is one tray as it stands: what lies in it, and where that goes home.
func trayOf(sc *Scene, t tray.Tray) Tray {
	out := Tray{Tray: t.Letter, Lots: []LotIn{}}
	var kinds []string
	for _, id := range t.Kinds {
		kind := sc.Map.Fastener(id)
		kinds = append(kinds, tray.KindName(kind))
		out.Noun = tray.Noun(kind)
	}
	out.Kind = strings.Join(kinds, "; ")
	var from []string
	for _, lot := range t.Lots {
		turn := sc.TurnOf(lot.Move())
		if turn == nil || turn.Back != nil {
			continue
		}
		if n := lies(sc, turn, lot); n > 0 {
			out.Holds += n
			out.Lots = append(out.Lots, LotIn{lot.ID, n, sc.Names.Move(lot.Move())})
			from = append(from, english.Lower(sc.Names.Move(lot.Move())))
		}
	}
	out.From = strings.Join(from, ", ")
	return out
}

// lies is how many of a lot lie in its tray: those that came out and neither
// went home nor were dropped or lost on the way.
func lies(sc *Scene, turn *record.Turn, lot tray.Lot) int {
	n, known, _ := turn.Total(lot.ID, lot.Count, "out")
	if !known && len(turn.Outs) > 0 && !turn.Found {
		n = lot.Count
	}
	home, _, _ := turn.Total(lot.ID, n, "back")
	return max(0, n-home-turn.Astray(lot.ID))
}

func thrownAway(sc *Scene, mv *machine.Move, lot string) bool {
	for i := range mv.Fasteners {
		if named.LotID(mv, i) == lot {
			return Renewed(sc, &mv.Fasteners[i])
		}
	}
	return false
}

// Renewed tells whether a lot is thrown away and comes new: with a part that this
// job fits, or has fitted.
func Renewed(sc *Scene, l *machine.Lot) bool {
	return sc.Map.Part(l.Renew) != nil && slices.ContainsFunc(sc.Goals, func(g *record.Goal) bool {
		return g.Goal == "replace:"+l.Renew && (g.Open || g.Reason == "")
	})
}
