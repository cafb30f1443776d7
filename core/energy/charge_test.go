package energy

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"evensteps/core/machine"
)

// ½·C·V² and R·C·ln(V₀/V): any physics handbook; worked by hand here. A charge
// falls to 1/e of its voltage in one time constant, and to 36.8 %, 13.5 %,
// 5.0 %, 1.8 % and 0.7 % in one to five (the usual table of the RC discharge).
func TestStoredCharge(t *testing.T) {
	assert.InDelta(t, 2.0, Joules(1e-6, 2000), 1e-12, "1 µF at 2000 V")
	assert.InDelta(t, 325.27, PeakVolts(230), 0.01, "230 V RMS")
	assert.InDelta(t, 10.0, SecondsToFall(10e6, 1e-6, math.E, 1), 1e-9, "one time constant, 10 MΩ and 1 µF")
	for k, share := range []float64{0.3679, 0.1353, 0.0498, 0.0183, 0.0067} {
		assert.InDelta(t, float64(k+1), SecondsToFall(1, 1, 1, share), 0.006, "%d time constants", k+1)
	}
	// 2100 V RMS charges to 2970 V; 1 µF holds 4.41 J; 10 MΩ bring it below
	// 34 V in 10·ln(2970/34) = 44.7 s.
	joules, seconds := Stored(&machine.Capacitor{Microfarads: 1, Volts: 2100, BleedMegohms: 10})
	assert.InDelta(t, 4.41, joules, 0.001)
	assert.InDelta(t, 44.7, seconds, 0.05)
	_, seconds = Stored(&machine.Capacitor{Microfarads: 1, Volts: 2100})
	assert.True(t, math.IsInf(seconds, 1), "a failed bleed: never by waiting")
	assert.Zero(t, SecondsToFall(10e6, 1e-6, 20, SafeVolts))
}

// RC decay by simulation, as an outside check: V falls by V/(R·C) for each small
// step of time. From 2970 V (about 2100 V RMS at its peak) through 10 MΩ and 1 µF it takes 39.0197 s
// to 60 V and 44.6996 s to 34 V (by ngspice 39, with a step of 5 ms).
func TestTheDecayAgainstASimulation(t *testing.T) {
	simulate := func(ohms, farads, from, to float64) float64 {
		const step = 1e-4
		v, seconds := from, 0.0
		for v > to {
			// the midpoint rule: exact to the square of the step
			mid := v - v/(ohms*farads)*step/2
			v -= mid / (ohms * farads) * step
			seconds += step
		}
		return seconds
	}
	for to, seconds := range map[float64]float64{60: 39.0197, 34: 44.6996} {
		assert.InDelta(t, seconds, SecondsToFall(10e6, 1e-6, 2970, to), 0.0001)
		assert.InDelta(t, seconds, simulate(10e6, 1e-6, 2970, to), 0.0005)
	}
}

func TestWhatIsSaidOfACapacitor(t *testing.T) {
	say := Says(&machine.Capacitor{Microfarads: 0.95, Volts: 2100, BleedMegohms: 10})
	assert.Equal(t, "Up to 2970 V, 4.2 J. Through a whole bleed resistor it falls under 34 V in 43 s; through a broken one never. Waiting is never the proof.", say)
	assert.Contains(t, Says(&machine.Capacitor{Microfarads: 1, Volts: 2100}), "never falls by waiting")
}
