// Package tray keeps fasteners apart that one can mistake for each other.
package tray

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"evensteps/core/machine"
)

// Lot is one lot of a move: "MOVE/N", N from 1 in the map's order.
type Lot struct {
	ID    string
	Kind  string
	Count int
}

// LotsOf are the lots of a move that leave the machine; screws that are only
// loosened stay in and need no tray.
func LotsOf(mv *machine.Move) []Lot {
	var lots []Lot
	for i, l := range mv.Fasteners {
		if !l.Loosen {
			lots = append(lots, Lot{mv.ID + "/" + strconv.Itoa(i+1), l.Kind, l.Count})
		}
	}
	return lots
}

// family groups the drives that one driver fits.
func family(drive string) string {
	switch drive {
	case "pozidriv":
		return "phillips"
	case "robertson":
		return "square"
	case "torx-pin":
		return "torx"
	}
	return drive
}

// LookAlike tells whether two kinds can be mistaken for each other: different
// kinds that the same driver fits, with the same head and finish, or when any
// of these is not known. Hex sizes are equal within 0.5 mm, others by number;
// kinds without a driver (clips, tabs, rings, loose pieces) by name alone.
func LookAlike(a, b *machine.Fastener) bool {
	if a.ID == b.ID || family(a.Drive) != family(b.Drive) {
		return false
	}
	if !driven(a.Drive) {
		return a.Name == b.Name
	}
	if a.Size != "" && b.Size != "" {
		if a.Drive == "hex" || a.Drive == "nut" {
			x, okA := Millimetres(a.Size)
			y, okB := Millimetres(b.Size)
			if okA && okB && math.Abs(x-y) > 0.5 {
				return false
			}
		} else if !strings.EqualFold(a.Size, b.Size) {
			return false
		}
	}
	same := func(p, q string) bool { return p == "" || q == "" || p == q }
	return same(a.Head, b.Head) && same(a.Finish, b.Finish)
}

func driven(drive string) bool {
	return !slices.Contains([]string{"clip", "tab", "spring-ring", "cable-tie", "hose-clip", "wire-nut", "loose"}, drive)
}

// Millimetres reads a size or length written in inches ("1/4 in", "1 1/2 in")
// or millimetres ("7 mm"); one inch is 25.4 mm exactly.
func Millimetres(text string) (float64, bool) {
	fields := strings.Fields(strings.TrimSpace(text))
	if len(fields) < 2 {
		return 0, false
	}
	sum := 0.0
	for _, f := range fields[:len(fields)-1] {
		over, under, fraction := strings.Cut(f, "/")
		v, err := strconv.ParseFloat(over, 64)
		if err != nil || v < 0 {
			return 0, false
		}
		if fraction {
			d, err := strconv.ParseFloat(under, 64)
			if err != nil || d <= 0 {
				return 0, false
			}
			v /= d
		}
		sum += v
	}
	switch fields[len(fields)-1] {
	case "in":
		return sum * 25.4, true
	case "mm":
		return sum, true
	}
	return 0, false
}

// Tray is one tray with the kind that lies in it.
type Tray struct {
	Letter string
	Kind   string
	Lots   []Lot
}

// Assign gives each kind a tray of its own, lettered in the order of first use
// by these moves. Look-alikes, being different kinds, never share one.
func Assign(m *machine.Map, moves []string) []Tray {
	var trays []Tray
	for _, id := range moves {
		mv := m.Move(id)
		if mv == nil {
			continue
		}
		for _, lot := range LotsOf(mv) {
			k := slices.IndexFunc(trays, func(t Tray) bool { return t.Kind == lot.Kind })
			if k < 0 {
				k = len(trays)
				trays = append(trays, Tray{Letter: letter(k), Kind: lot.Kind})
			}
			trays[k].Lots = append(trays[k].Lots, lot)
		}
	}
	return trays
}

func letter(k int) string {
	if k < 26 {
		return string(rune('A' + k))
	}
	return letter(k/26-1) + letter(k%26)
}

// MustCount tells whether a lot must be counted and cannot be accepted as the
// map says: it has a look-alike on this machine, or one that drops is lost.
func MustCount(m *machine.Map, lot machine.Lot) bool {
	if lot.DropsInto != "" {
		return true
	}
	kind := m.Fastener(lot.Kind)
	if kind == nil {
		return true
	}
	return slices.ContainsFunc(m.Fasteners, func(o machine.Fastener) bool { return LookAlike(kind, &o) })
}
