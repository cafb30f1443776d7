// Package energy judges whether something that can hurt was shown to be off.
//
// Off is not dead: proving needs its own step, with an instrument that was
// itself checked before and after (common practice; the usual order of "prove
// the tester, test, prove the tester"). The package never says that a machine
// is safe; it says what was read.
package energy

import (
	"fmt"
	"strings"
	"unicode"

	"evensteps/core/machine"
	"evensteps/core/reading"
)

// SafeVolts is the voltage below which a point counts as dead: 34 V, the limit
// for plug pins one second after unplugging (IEC 60335-1, clause 22.5, from
// memory; check your edition and local codes).
const SafeVolts = 34.0

// The most that may be read for gas or water to count as off, in millibars,
// and for a hot part to be touched, in °C (common practice, no source).
const (
	offMillibars = 0.5
	coolCelsius  = 48.0
)

// Ask is what a proof by instrument has to hold for one energy.
type Ask struct {
	Quantity reading.Quantity
	Below    float64     // every reading must lie below it, in the quantity's unit
	Points   [][2]string // the pairs to read between
	Before   string      // what the instrument is checked on first
	After    string      // and last
	After0   bool        // the last check must read nothing, not something
	Peak     float64     // volts that the meter must be rated above; 0 where any will do
}

// Of is what a proof of this energy has to hold on a machine with this supply.
func Of(e *machine.Energy, s *machine.Supply) Ask {
	switch e.Kind {
	case "gas", "water":
		return Ask{
			Quantity: reading.Pressure, Below: offMillibars, Before: "the gauge with the cock still open", After: "the gauge in open air", After0: true,
			Points: [][2]string{{"test point", "air"}, {"two minutes later", "air"}},
		}
	case "heat":
		return Ask{Quantity: reading.Temperature, Below: coolCelsius, Before: "a hand-warm thing", After: "a hand-warm thing", Points: [][2]string{{"hottest part", "air"}}}
	case "charge":
		a := Ask{
			Quantity: reading.Voltage, Below: SafeVolts, Before: "a known live point", After: "a known live point",
			Points: [][2]string{{"terminal 1", "terminal 2"}, {"terminal 1", "frame"}, {"terminal 2", "frame"}},
		}
		if e.Capacitor != nil {
			a.Peak = PeakVolts(e.Capacitor.Volts)
		}
		return a
	}
	return Ask{Quantity: reading.Voltage, Below: SafeVolts, Before: "a known live point", After: "a known live point", Points: points(s)}
}

// Colours are the colours that the conductors of a supply system have where it
// is used, in words; empty where nothing is known. They never identify a
// conductor: old wiring, other trades and heat change them, and the same blue is
// a neutral here and a switched wire there. Protective conductors are green and
// yellow and neutrals blue by IEC 60445; North American neutrals are white or
// grey, earths green or bare (NEC 200.6 and 250.119; all from memory).
func Colours(s *machine.Supply) string {
	if s == nil {
		return ""
	}
	switch s.System {
	case "split-phase":
		return "Usually here: L1 black, L2 red, N white, PE green or bare. A colour is no proof."
	case "single-phase":
		return "Usually here: L brown, N blue, PE green and yellow. A colour is no proof."
	case "three-phase":
		return "Usually here: L1 brown, L2 black, L3 grey, N blue, PE green and yellow. A colour is no proof."
	}
	return ""
}

// points are the pairs of supply points to measure between, for a supply
// system: every live point to every other, and to earth.
func points(s *machine.Supply) [][2]string {
	if s == nil {
		return [][2]string{{"L", "N"}, {"L", "PE"}, {"N", "PE"}}
	}
	switch s.System {
	case "split-phase":
		return [][2]string{{"L1", "L2"}, {"L1", "N"}, {"L2", "N"}, {"L1", "PE"}, {"L2", "PE"}, {"N", "PE"}}
	case "three-phase":
		return [][2]string{{"L1", "L2"}, {"L2", "L3"}, {"L1", "L3"}, {"L1", "N"}, {"L2", "N"}, {"L3", "N"}, {"L1", "PE"}, {"L2", "PE"}, {"L3", "PE"}, {"N", "PE"}}
	}
	return [][2]string{{"L", "N"}, {"L", "PE"}, {"N", "PE"}}
}

// Reading is one value between two points, as it was written.
type Reading struct {
	Between [2]string
	Value   string
}

// Measured is a proof by instrument.
type Measured struct {
	Meter         string
	Rated         string // what the meter is rated for, in volts
	Before, After string
	Readings      []Reading
}

// Judge says whether a proof by instrument shows the energy off: the instrument
// answered to something known before and after, and every pair of points reads
// below the limit. The sentence says why, and what to do when it does not.
// highest is the highest reading as it was written, with its unit.
func (a Ask) Judge(p Measured) (off bool, highest, why string) {
	for _, check := range []struct {
		when, on, text string
		nothing        bool
	}{{"before", a.Before, p.Before, false}, {"after", a.After, p.After, a.After0}} {
		v, err := reading.Parse(a.Quantity, check.text)
		switch {
		case err != nil:
			return false, "", fmt.Sprintf("Check the meter on %s %s the readings and enter what it shows.", check.on, check.when)
		case check.nothing && v >= a.Below:
			return false, "", fmt.Sprintf("The meter showed %s on %s %s the readings, where it should show nothing, so it proves nothing. Zero it and start again.", check.text, check.on, check.when)
		case !check.nothing && v <= a.Below && a.Quantity != reading.Temperature:
			return false, "", fmt.Sprintf("The meter showed %s on %s %s the readings, so it proves nothing. Change its battery, leads or range and start again.", check.text, check.on, check.when)
		}
	}
	if a.Peak > 0 {
		if rated, err := reading.Parse(reading.Voltage, p.Rated); err != nil || rated <= a.Peak {
			return false, "", fmt.Sprintf("Up to %.0f V may stand here: measure with a meter or probe that is rated above it, and enter for what it is rated.", a.Peak)
		}
	}
	first, most := true, 0.0
	for _, pair := range a.Points {
		text, found := "", false
		for _, r := range p.Readings {
			if r.Between == pair || r.Between == [2]string{pair[1], pair[0]} {
				text, found = r.Value, true
			}
		}
		v, err := reading.Parse(a.Quantity, text)
		if !found || err != nil {
			return false, "", fmt.Sprintf("Measure between %s and %s.", pair[0], pair[1])
		}
		if first || v > most {
			first, most, highest = false, v, a.withUnit(text)
		}
		if v >= a.Below {
			return false, highest, fmt.Sprintf("%s to %s reads %s. %s", pair[0], pair[1], a.withUnit(text), a.then())
		}
	}
	return true, highest, fmt.Sprintf("Highest reading %s, meter checked before and after.", highest)
}

func (a Ask) then() string {
	switch a.Quantity {
	case reading.Voltage:
		return "Not dead: treat as live, find the other feed and measure again."
	case reading.Temperature:
		return "Too hot to touch: wait, and measure again."
	}
	return "Not off: the cock lets by. Shut it further up the pipe and measure again."
}

func (a Ask) withUnit(text string) string {
	if strings.ContainsFunc(text, unicode.IsLetter) {
		return text
	}
	return strings.TrimSpace(text) + " " + a.Quantity.Unit()
}
