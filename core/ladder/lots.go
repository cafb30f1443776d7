package ladder

import (
	"fmt"
	"slices"
	"strings"

	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/tray"
)

// UsualTrays is how many trays a technician has at the knee, until one says
// otherwise on the job (common practice, no source).
const UsualTrays = 6

// box is where a lot lies: its tray's letter, or its bag.
func (l *Lot) box() string {
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

// trays names trays in a sentence: "tray B", "trays B and C".
func trays(letters []string) string {
	if len(letters) == 1 {
		return "tray " + letters[0]
	}
	return "trays " + and(letters)
}

// lots are the fasteners of a move on one of its sides.
func (v *viewing) lots(mv *machine.Move, t *record.Turn, side string) []Lot {
	lots := []Lot{}
	for i := range mv.Fasteners {
		lots = append(lots, v.lot(mv, i, t, side))
	}
	return lots
}

func (v *viewing) lot(mv *machine.Move, i int, t *record.Turn, side string) Lot {
	l := &mv.Fasteners[i]
	kind := v.Map.Fastener(l.Kind)
	id := lotID(mv, i)
	out := Lot{
		Lot: id, Side: side, Tray: v.letters[id], Kind: tray.KindName(kind), Noun: tray.Noun(kind), Count: l.Count,
		MustCount: v.mustCount(l), Loosen: l.Loosen, Hidden: l.Hidden, At: l.At, Or: []Choice{},
	}
	if out.At == nil {
		out.At = [][]float64{}
	}
	for _, b := range v.view.Bags {
		if b.Lot == id {
			out.Bag = b.Label
		}
	}
	if kind != nil {
		out.Driver, out.Fit = v.driver(kind)
	}
	if l.DropsInto != "" {
		out.Drops = fmt.Sprintf("A dropped one is lost in the %s.", lower(v.itemName(l.DropsInto)))
		out.Why = "one that drops is lost: count"
	} else if out.MustCount {
		out.Why = "look-alikes: count"
		if kind != nil && kind.Thread != "" {
			out.Why += "; thread " + kind.Thread
		}
	}
	if v.renewed(l) {
		out.Renew = "new ones come with the " + lower(v.Map.Part(l.Renew).Name) + "; the old are not used again"
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
		out.Empties = v.emptied(out.Tray, mv.ID)
	}
	tally := map[string]any{"lot": id, "side": side}
	if side == "out" && out.Tray != "" {
		tally["tray"] = out.Tray
	}
	out.Tally = made("lot.counted", tally)
	if !l.Loosen {
		out.Or = v.astray(l, &out, side)
	}
	return out
}

// renewed tells whether a lot is thrown away and comes new: with a part that this
// job fits, or has fitted.
func (v *viewing) renewed(l *machine.Lot) bool {
	return v.Map.Part(l.Renew) != nil && slices.ContainsFunc(v.Goals, func(g *record.Goal) bool {
		return g.Goal == "replace:"+l.Renew && (g.Open || g.Reason == "")
	})
}

func (v *viewing) thrownAway(mv *machine.Move, lot string) bool {
	for i := range mv.Fasteners {
		if lotID(mv, i) == lot {
			return v.renewed(&mv.Fasteners[i])
		}
	}
	return false
}

// emptied tells whether a tray is empty once a rung is home.
func (v *viewing) emptied(letter, move string) bool {
	for _, t := range v.view.Trays {
		if t.Tray == letter {
			return !slices.ContainsFunc(t.Lots, func(l LotIn) bool { return moveOf(l.Lot) != move })
		}
	}
	return true
}

// driver is what goes on a kind, and which of the technician's own does.
func (v *viewing) driver(kind *machine.Fastener) (driver, fit string) {
	want, err := tray.ReadDriver(kind.Drive + " " + kind.Size)
	if err != nil {
		return "", ""
	}
	driver = want.String()
	var own []tray.Driver
	for _, text := range v.Bench.Drivers {
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
		return driver, "yours: " + best[0].String()
	case tray.Close:
		_, over := best[0].Over(kind)
		return driver, fmt.Sprintf("yours: %s goes on, %.2f mm loose", best[0], over)
	}
	return driver, "none of yours fits"
}

// astray are the touches that say what became of a fastener that is not where it
// should be.
func (v *viewing) astray(l *machine.Lot, out *Lot, side string) []Choice {
	settled := func(label, says, as string, n int) Choice {
		body := record.LotSettled{Lot: out.Lot, As: as, Count: n}
		if as == "dropped" {
			body.Where = l.DropsInto
		}
		return Choice{Label: label, Says: says, Makes: []Make{made("lot.settled", body)}}
	}
	var or []Choice
	if out.Astray > 0 {
		or = append(or, settled("Found again", count(out.Astray, out.Noun)+" back in "+out.box(), "found", out.Astray))
		if side == "back" {
			or = append(or, settled("New one fitted", "in place of what is gone", "replaced", out.Astray))
		}
		return or
	}
	where := ""
	if l.DropsInto != "" {
		where = "into the " + lower(v.itemName(l.DropsInto))
	}
	or = append(or, settled("One dropped", strings.TrimSpace("and not found yet "+where), "dropped", 1))
	if side == "back" {
		or = append(or, settled("Went into another place", "a screw of this tray sits elsewhere", "swapped", 1))
	}
	return or
}

// fewestTrays is how many trays these moves need at the least.
func (v *viewing) fewestTrays(moves []string) int {
	var lots []tray.Lot
	for _, id := range moves {
		if mv := v.Map.Move(id); mv != nil {
			lots = append(lots, tray.LotsOf(mv)...)
		}
	}
	return tray.Arrange(v.Map, lots, tray.Enough).Fewest
}
