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

// A meter that is not rated above the peak of 2100 V effective, 2970 V, proves
// nothing of a charge, whatever it reads.
func TestTheMeterMustBeRatedAboveThePeak(t *testing.T) {
	ask := Of(&machine.Energy{ID: "charge", Kind: "charge", Capacitor: &machine.Capacitor{Microfarads: 0.95, Volts: 2100, BleedMegohms: 10}}, nil)
	p := Measured{Meter: "9", Before: "230 V", After: "230 V", Readings: []Reading{{[2]string{"terminal 1", "terminal 2"}, "0 V"}, {[2]string{"terminal 1", "frame"}, "0 V"}, {[2]string{"terminal 2", "frame"}, "0.1 V"}}}
	for rated, want := range map[string]bool{"": false, "1000 V": false, "2969": false, "3 kV": true, "5000 V": true} {
		p.Rated = rated
		off, _, why := ask.Judge(p)
		assert.Equal(t, want, off, "%q: %s", rated, why)
	}
	say := Says(&machine.Capacitor{Microfarads: 0.95, Volts: 2100, BleedMegohms: 10})
	assert.Equal(t, "Up to 2970 V, 4.2 J. Through a whole bleed resistor it falls under 34 V in 43 s; through a broken one never. Waiting is never the proof.", say)
	assert.Contains(t, Says(&machine.Capacitor{Microfarads: 1, Volts: 2100}), "never falls by waiting")
}
