package steps

import (
	"fmt"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/tray"
	"evensteps/core/view"
)

// Box is where a lot lies: its tray's letter, or its bag.
func (l *Lot) Box() string {
	if l.Renew != "" {
		return "the bin"
	}
	if l.Tray == "" {
		return "a bag"
	}
	return "tray " + l.Tray
}

// short is the same on a button.
func (l *Lot) short() string {
	if l.Renew != "" {
		return "the bin"
	}
	if l.Tray == "" {
		return "a bag"
	}
	return l.Tray
}

// trayWords names trays in a sentence: "tray B", "trays B and C".
func trayWords(letters []string) string {
	if len(letters) == 1 {
		return "tray " + letters[0]
	}
	return "trays " + english.And(letters)
}

// lots are the fasteners of a move on one of its sides.
func lots(sc *scene.Scene, mv *machine.Move, t *record.Turn, side string) []Lot {
	lots := []Lot{}
	for i := range mv.Fasteners {
		lots = append(lots, lot(sc, mv, i, t, side))
	}
	return lots
}

func lot(sc *scene.Scene, mv *machine.Move, i int, t *record.Turn, side string) Lot {
	l := &mv.Fasteners[i]
	kind := sc.Map.Fastener(l.Kind)
	id := named.LotID(mv, i)
	out := Lot{
		Lot: id, Side: side, Tray: sc.Letters[id], Kind: tray.KindName(kind), Noun: tray.Noun(kind), Count: l.Count,
		MustCount: scene.MustCount(sc, l), Loosen: l.Loosen, Hidden: l.Hidden, At: l.At, Or: []view.Choice{},
	}
	if out.At == nil {
		out.At = [][]float64{}
	}
	for _, b := range sc.Bags {
		if b.Lot == id {
			out.Bag = b.Label
		}
	}
	if kind != nil {
		out.Driver, out.Fit = driver(sc, kind)
	}
	if l.DropsInto != "" {
		out.Drops = fmt.Sprintf("A dropped one is lost in the %s.", english.Lower(sc.Names.Item(l.DropsInto)))
		out.Why = "one that drops is lost: count"
	} else if out.MustCount {
		out.Why = "look-alikes: count"
		if kind != nil && kind.Thread != "" {
			out.Why += "; thread " + kind.Thread
		}
	}
	if scene.Renewed(sc, l) {
		out.Renew = "new ones come with the " + english.Lower(sc.Map.Part(l.Renew).Name) + "; the old are not used again"
	}
	if t != nil {
		if side == "back" {
			if n, known, _ := t.Total(id, l.Count, "out"); known {
				out.Count = n
			}
		}
		if n, known, _ := t.Total(id, out.Count, side); known {
			out.Counted = &n
		}
		out.Astray = t.Astray(id)
	}
	if side == "out" && out.Counted != nil && *out.Counted != l.Count {
		out.Differs = fmt.Sprintf("the map says %d", l.Count)
	}
	if side == "back" && out.Tray != "" {
		out.Empties = emptied(sc, out.Tray, mv.ID)
	}
	tally := map[string]any{"lot": id, "side": side}
	if side == "out" && out.Tray != "" {
		tally["tray"] = out.Tray
	}
	out.Tally = view.Made("lot.counted", tally)
	if !l.Loosen {
		out.Or = astray(sc, l, &out, side)
	}
	return out
}

// emptied tells whether a tray is empty once a rung is home.
func emptied(sc *scene.Scene, letter, move string) bool {
	for _, t := range sc.Trays {
		if t.Tray == letter {
			return !slices.ContainsFunc(t.Lots, func(l scene.LotIn) bool { return named.Head(l.Lot) != move })
		}
	}
	return true
}

// driver is what goes on a kind, and which of the technician's own does.
func driver(sc *scene.Scene, kind *machine.Fastener) (driver, fit string) {
	want, err := tray.ReadDriver(kind.Drive + " " + kind.Size)
	if err != nil {
		return "", ""
	}
	driver = want.String()
	var own []tray.Driver
	for _, text := range sc.Bench.Drivers {
		if d, err := tray.ReadDriver(text); err == nil {
			own = append(own, d)
		}
	}
	if len(own) == 0 {
		return driver, ""
	}
	best, how := tray.Best(own, kind)
	switch how {
	case tray.Exact:
		return driver, "your " + best[0].String() + " fits"
	case tray.Close:
		_, over := best[0].Over(kind)
		return driver, fmt.Sprintf("your %s fits (%.2f mm loose)", best[0], over)
	}
	return driver, "none of yours fits"
}

// astray are the touches that say what became of a fastener that is not where it
// should be.
func astray(sc *scene.Scene, l *machine.Lot, out *Lot, side string) []view.Choice {
	settled := func(label, says, as string, n int) view.Choice {
		body := record.LotSettled{Lot: out.Lot, As: as, Count: n}
		if as == "dropped" {
			body.Where = l.DropsInto
		}
		return view.Choice{Label: label, Says: says, Makes: []view.Make{view.Made("lot.settled", body)}}
	}
	var or []view.Choice
	if out.Astray > 0 {
		or = append(or, settled("Found again", english.Count(out.Astray, out.Noun)+" back in "+out.Box(), "found", out.Astray))
		if side == "back" {
			or = append(or, settled("New one fitted", "in place of what is gone", "replaced", out.Astray))
		}
		return or
	}
	where := ""
	if l.DropsInto != "" {
		where = "into the " + english.Lower(sc.Names.Item(l.DropsInto))
	}
	or = append(or, settled("One dropped", strings.TrimSpace("and not found yet "+where), "dropped", 1))
	if side == "back" {
		or = append(or, settled("Used in another hole", "one of this tray sits elsewhere", "swapped", 1))
	}
	return or
}
