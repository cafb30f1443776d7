package record

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/named"
)

// Fasteners: counted, settled, left over.

// LotCounted is a total for this lot and turn.
type LotCounted struct {
	Lot     string   `json:"lot"`
	Side    string   `json:"side"`
	Count   int      `json:"count"`
	Tray    string   `json:"tray,omitempty"` // where they were put
	Settles []string `json:"settles,omitempty"`
}

func (b *LotCounted) check() error {
	return errors.Join(ids("lot", b.Lot), side(b.Side), counted(b.Count))
}

func (b *LotCounted) apply(g *folder, f *Fact) {
	if !knownLot(g, b.Lot) {
		g.raise("loose-fact", b.Lot, f)
		return
	}
	t := g.turn(named.Head(b.Lot), b.Side)
	key := b.Lot + "|" + b.Side
	if len(t.Outs) == 0 {
		t.Half["out"] = true
	} else if b.Side == "back" {
		t.Half["back"] = true
	}
	if t.Counts[key] == nil {
		t.Counts[key] = map[string]*Fact{}
	}
	for person, old := range t.Counts[key] {
		if slices.Contains(b.Settles, old.ID) {
			delete(t.Counts[key], person)
		}
	}
	t.Counts[key][f.By] = f
	if b.Tray != "" && b.Side == "out" {
		t.Trays[b.Lot] = b.Tray
	}
}

func (b *LotCounted) subject() string { return b.Lot }

func (b *LotCounted) says(n named.Names) string {
	return english.Count(b.Count, "fastener") + " counted, " + english.Lower(n.Move(named.Head(b.Lot)))
}

// LotSettled says what became of fasteners that do not add up.
type LotSettled struct {
	Lot   string `json:"lot"`
	As    string `json:"as"`
	Count int    `json:"count"`
	Where string `json:"where,omitempty"`
}

func (b *LotSettled) check() error {
	return errors.Join(ids("lot", b.Lot), counted(b.Count), texts(b.Where),
		oneOf("as", b.As, "lost", "dropped", "replaced", "swapped", "over", "as-found", "found"))
}

func (b *LotSettled) apply(g *folder, f *Fact) {
	if !knownLot(g, b.Lot) {
		g.raise("loose-fact", b.Lot, f)
		return
	}
	g.vague(f, b.Where)
	t := g.turn(named.Head(b.Lot), "back")
	t.Settled[b.Lot] = append(t.Settled[b.Lot], f)
}

func (b *LotSettled) subject() string { return b.Lot }

func (b *LotSettled) says(n named.Names) string {
	return "settled, " + english.Lower(n.Move(named.Head(b.Lot)))
}

// LeftOver is fasteners that are left over, and whose home nobody knows.
type LeftOver struct {
	Drive string `json:"drive,omitempty"`
	Size  string `json:"size,omitempty"`
	Count int    `json:"count"`
	Where string `json:"where,omitempty"` // where they lie
}

func (b *LeftOver) check() error {
	if b.Count < 1 {
		return errors.New("count says how many are left over, from 1")
	}
	if b.Drive != "" {
		if err := oneOf("drive", b.Drive, machine.Drives...); err != nil {
			return err
		}
	}
	return errors.Join(counted(b.Count), texts(b.Size, b.Where))
}

func (b *LeftOver) apply(g *folder, f *Fact) {
	g.LeftOver = append(g.LeftOver, f)
	g.vague(f, b.Where)
}

func (b *LeftOver) says(named.Names) string { return english.Count(b.Count, "fastener") + " left over" }

// BenchHas is what the technician has at the knee: so many trays, these
// drivers ("hex 1/4 in").
type BenchHas struct {
	Trays   *int     `json:"trays,omitempty"`
	Drivers []string `json:"drivers,omitempty"`
}

func (b *BenchHas) check() error {
	if b.Trays != nil && (*b.Trays < 0 || *b.Trays > mostTrays) { // above it letters run out
		return fmt.Errorf("trays run from 0 to %d, not %d", mostTrays, *b.Trays)
	}
	if len(b.Drivers) > mostWires {
		return errors.Join(most("%d drivers are taken at most", mostWires), texts(b.Drivers...))
	}
	return texts(b.Drivers...)
}

func (b *BenchHas) apply(g *folder, _ *Fact) {
	if b.Trays != nil {
		g.Bench.Trays = b.Trays
	}
	if b.Drivers != nil {
		g.Bench.Drivers = b.Drivers
	}
}

func (*BenchHas) says(named.Names) string { return "tools and trays" }

// knownLot tells whether the map, or a rung of their own, has that lot.
func knownLot(g *folder, lot string) bool {
	if g.lots[lot] {
		return true
	}
	move, n, _ := strings.Cut(lot, "/")
	mv := g.Map.Move(move)
	if mv == nil {
		mv = g.Whole.Move(move) // hidden by an answer, and yet somebody counted
	}
	k, err := strconv.Atoi(n)
	g.lots[lot] = mv != nil && err == nil && k >= 1 && k <= len(mv.Fasteners)
	return g.lots[lot]
}

// Total is the count of a lot on one side of a turn: what was counted, or
// accepted as the map says. differs is true where people counted differently
// (count is then the least); known is false where nobody counted.
func (t *Turn) Total(lot string, mapCount int, side string) (count int, known, differs bool) {
	for _, f := range t.Counts[lot+"|"+side] {
		n := f.Of.(*LotCounted).Count
		differs = differs || known && n != count
		if known {
			n = min(n, count)
		}
		count, known = n, true
	}
	if known {
		return count, true, differs
	}
	if t.Accepts[lot+"|"+side] {
		return mapCount, true, false
	}
	return 0, false, false
}

// Astray is how many of a lot are neither in their tray nor at home: dropped,
// lost or in another place, and not found again or replaced since.
func (t *Turn) Astray(lot string) int {
	n := 0
	for _, f := range t.Settled[lot] {
		switch b := f.Of.(*LotSettled); b.As {
		case "dropped", "lost", "swapped":
			n += b.Count
		case "found", "replaced":
			n -= b.Count
		}
	}
	return max(0, n)
}
