package reading

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// What a class B probe may be out by, in ohms: ± (0.3 K + 0.005 |t|) of IEC 60751
// (from memory) at 0, 100, 200 and 300 °C on 1000 Ω. And an ohm of leads is 0.26 K
// on 1000 Ω at 100 °C, 2.64 K on 100 Ω: why the leads are taken off.
func TestAPlatinumProbeOfItsClass(t *testing.T) {
	for at, ohms := range map[float64]float64{0: 1.17, 100: 3.03, 200: 4.78, 300: 6.41} {
		off := 0.3 + 0.005*at
		assert.InDelta(t, ohms, PlatinumOhms("iec60751", 1000, at+off)-PlatinumOhms("iec60751", 1000, at), 0.01, "%g °C", at)
	}
	for r0, kelvin := range map[float64]float64{1000: 0.26, 100: 2.64} {
		assert.InDelta(t, 1, PlatinumOhms("iec60751", r0, 100+kelvin)-PlatinumOhms("iec60751", r0, 100), 0.015, "%g Ω", r0)
	}
}
