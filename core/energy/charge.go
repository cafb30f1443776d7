package energy

import (
	"fmt"
	"math"

	"evensteps/core/machine"
)

// Joules is the energy that a capacitor holds: ½·C·V², C in farads.
func Joules(farads, volts float64) float64 { return farads * volts * volts / 2 }

// PeakVolts is the most that a capacitor behind a rectifier can be charged to:
// the peak of a sine of that effective value.
func PeakVolts(rms float64) float64 { return rms * math.Sqrt2 }

// SecondsToFall is how long a charge takes to fall from one voltage to another
// through a resistor: R·C·ln(V₀/V). It is +Inf where there is no resistor:
// never by waiting. Waiting is never the proof in any case.
func SecondsToFall(ohms, farads, from, to float64) float64 {
	switch {
	case from <= to:
		return 0
	case ohms <= 0 || to <= 0:
		return math.Inf(1)
	}
	return ohms * farads * math.Log(from/to)
}

// Says tells of a map's capacitor what it may hold, how long its bleed resistor
// needs, and that waiting is no proof.
func Says(c *machine.Capacitor) string {
	joules, seconds := Stored(c)
	say := fmt.Sprintf("Up to %.0f V, %.1f J. ", PeakVolts(c.Volts), joules)
	if math.IsInf(seconds, 1) {
		return say + "It has no bleed resistor: it never falls by waiting."
	}
	return say + fmt.Sprintf("Through a whole bleed resistor it falls under %.0f V in %.0f s; through a broken one never. Waiting is never the proof.", SafeVolts, math.Ceil(seconds))
}

// Stored is what a map's capacitor can hold, and how long its bleed resistor
// needs to bring it below SafeVolts. Volts are those of the transformer's
// secondary (RMS); the charge is reckoned at its peak.
func Stored(c *machine.Capacitor) (joules, seconds float64) {
	peak, farads := PeakVolts(c.Volts), c.Microfarads*1e-6
	return Joules(farads, peak), SecondsToFall(c.BleedMegohms*1e6, farads, peak, SafeVolts)
}
