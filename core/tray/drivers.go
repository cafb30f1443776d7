package tray

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"evensteps/core/machine"
)

// Fit says how a driver goes on a fastener.
type Fit string

// The fits: exact; close, larger by no more than Slack over the flats; not.
const (
	Exact Fit = "exact"
	Close Fit = "close"
	Not   Fit = "not"
)

// Slack is how much larger than the head a driver may be over the flats, in
// millimetres. A smaller one never goes on (common practice, no source).
const Slack = 0.15

// Driver is one driver: its drive and size, as "hex 1/4 in" or "phillips 2".
type Driver struct {
	Drive string `json:"drive"`
	Size  string `json:"size"`
}

// ReadDriver reads a driver as people write it: the drive, then its size. The
// error says what is wrong with it.
func ReadDriver(text string) (Driver, error) {
	drive, size, _ := strings.Cut(strings.ToLower(strings.TrimSpace(text)), " ")
	if !slices.Contains(machine.Drives, drive) || !driven(drive) {
		return Driver{}, fmt.Errorf("%q is no driver: write a drive and a size, such as “hex 1/4 in” or “phillips 2”", text)
	}
	return Driver{drive, strings.ToUpper(strings.TrimSpace(size[:min(1, len(size))])) + size[min(1, len(size)):]}, nil
}

func (d Driver) String() string { return strings.TrimSpace(d.Drive + " " + d.Size) }

// Serves tells whether a tool, as a map names it, is this driver: "nut driver 1/4
// in" for hex 1/4 in, "screwdriver PH2" for phillips 2.
func Serves(tool string, d Driver) bool {
	words := strings.ToLower(tool)
	size := strings.ToLower(d.Size)
	switch d.Drive {
	case "phillips", "pozidriv":
		return strings.Contains(words, map[string]string{"phillips": "ph", "pozidriv": "pz"}[d.Drive]+strings.TrimLeft(size, "phz"))
	case "slotted":
		return strings.Contains(words, "flat") || strings.Contains(words, "slotted")
	}
	kind := strings.Contains(words, "driver") || strings.Contains(words, "wrench") || strings.Contains(words, "spanner") || strings.Contains(words, "socket") || strings.Contains(words, "key") || strings.Contains(words, d.Drive)
	return size != "" && kind && strings.Contains(" "+words+" ", " "+size+" ")
}

// Over is how a driver goes on a fastener, and for those with flats by how many
// millimetres it is the larger. The inch is 25.4 mm exactly.
func (d Driver) Over(f *machine.Fastener) (Fit, float64) {
	flats := func(drive string) bool { return drive == "hex" || drive == "nut" }
	if flats(d.Drive) && flats(f.Drive) {
		x, okD := Millimetres(d.Size)
		y, okF := Millimetres(f.Size)
		if !okD || !okF {
			return Not, 0
		}
		over := x - y
		switch {
		case math.Abs(over) < 1e-9:
			return Exact, 0
		case over > 0 && over <= Slack+1e-9: // what is written in tenths is not exact in binary
			return Close, over
		}
		return Not, over
	}
	if d.Size == "" || !strings.EqualFold(d.Size, f.Size) {
		return Not, 0
	}
	switch {
	case d.Drive == f.Drive:
		return Exact, 0
	case d.Drive == "torx-pin" && f.Drive == "torx": // the hollow bit goes on both, the plain one on its own kind only
		return Exact, 0
	case family(d.Drive) == "square" && family(f.Drive) == "square":
		return Exact, 0
	}
	return Not, 0
}

// Best are the drivers that go on a fastener: those that are exact, or else
// those that are close, the tightest first. Fasteners without a driver need none.
func Best(drivers []Driver, f *machine.Fastener) (best []Driver, fit Fit) {
	if !driven(f.Drive) {
		return nil, Exact
	}
	var close []Driver
	for _, d := range drivers {
		switch fit, _ := d.Over(f); fit {
		case Exact:
			best = append(best, d)
		case Close:
			close = append(close, d)
		}
	}
	if len(best) > 0 {
		return best, Exact
	}
	if len(close) == 0 {
		return nil, Not
	}
	slices.SortStableFunc(close, func(a, b Driver) int {
		_, x := a.Over(f)
		_, y := b.Over(f)
		return int(math.Copysign(1, x-y))
	})
	return close, Close
}
