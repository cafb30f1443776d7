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
	ID    string `json:"lot"`
	Kind  string `json:"kind"`
	Count int    `json:"count"`
	In    string `json:"in,omitempty"` // the tray it lies in already; empty while it is still on the machine
}

// Move is the move that takes the lot out.
func (l Lot) Move() string {
	move, _, _ := strings.Cut(l.ID, "/")
	return move
}

// LotsOf are the lots of a move that leave the machine; screws that are only
// loosened stay in and need no tray.
func LotsOf(mv *machine.Move) []Lot {
	var lots []Lot
	for i, l := range mv.Fasteners {
		if !l.Loosen {
			lots = append(lots, Lot{ID: mv.ID + "/" + strconv.Itoa(i+1), Kind: l.Kind, Count: l.Count})
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

// Noun is what one counts of a kind: screws, rings, clips.
func Noun(f *machine.Fastener) string {
	if f == nil {
		return "fastener"
	}
	switch f.Drive {
	case "nut", "wire-nut":
		return "nut"
	case "clip", "hose-clip":
		return "clip"
	case "tab":
		return "tab"
	case "spring-ring":
		return "ring"
	case "cable-tie":
		return "tie"
	case "loose":
		return "piece"
	}
	return "screw"
}

// KindName tells one kind from its look-alikes: drive, size, length.
func KindName(f *machine.Fastener) string {
	if f == nil {
		return "unknown"
	}
	if f.Drive == "loose" || f.Drive == "spring-ring" || f.Drive == "clip" || f.Drive == "tab" {
		return strings.ToLower(f.Name[:min(1, len(f.Name))]) + f.Name[min(1, len(f.Name)):]
	}
	words := strings.ToUpper(f.Drive[:1]) + f.Drive[1:]
	if f.Drive == "hex" {
		words = "hex"
	}
	if f.Size != "" {
		words += " " + f.Size
	}
	if f.Length != "" {
		words += ", " + f.Length + " long"
	}
	return words
}
