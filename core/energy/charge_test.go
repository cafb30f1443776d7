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
