package reading

import (
	"fmt"
	"math"
	"math/big"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/machine"
)

func num(v float64) *float64 { return &v }

// IEC 60751, table of Pt100 resistances (printed to 0.01 ohm; from memory).
func TestPlatinumAgainstTheStandardsTable(t *testing.T) {
	for celsius, ohms := range map[float64]float64{
		-200: 18.52, -100: 60.26, -50: 80.31, 0: 100, 20: 107.79, 25: 109.73, 50: 119.40, 70: 127.08, 100: 138.51, 150: 157.33,
		180: 168.48, 200: 175.86, 250: 194.10, 260: 197.71, 300: 212.05, 350: 229.72, 400: 247.09, 500: 280.98, 600: 313.71, 850: 390.48,
	} {
		assert.InDelta(t, ohms, PlatinumOhms("iec60751", 100, celsius), 0.005001, "%g °C", celsius)
		assert.InDelta(t, celsius, PlatinumCelsius("iec60751", 100, PlatinumOhms("iec60751", 100, celsius)), 1e-6)
	}
	// The closed-form inverse of a Pt1000 (computed apart from this program).
	for ohms, celsius := range map[float64]float64{1100: 25.68405, 1500: 130.44726, 1670: 176.00751, 2000: 266.34819, 2500: 408.45} {
		assert.InDelta(t, celsius, PlatinumCelsius("iec60751", 1000, ohms), 1e-5)
	}
}

// The table that North American ovens go by (common practice, from memory), in
// °F and whole ohms: the 3750 curve meets every entry, the 3851 one only the
// first.
func TestTheOvenCurveIsKeptApart(t *testing.T) {
	for fahrenheit, ohms := range map[float64]float64{32: 1000, 75: 1091, 250: 1453, 350: 1654, 450: 1852, 550: 2047, 650: 2237, 900: 2697} {
		celsius := (fahrenheit - 32) / 1.8
		assert.InDelta(t, ohms, PlatinumOhms("3750", 1000, celsius), 0.5, "%g °F", fahrenheit)
		if fahrenheit > 32 {
			assert.Greater(t, math.Abs(ohms-PlatinumOhms("iec60751", 1000, celsius)), 1.0)
		}
	}
	// Judged by the wrong curve, a good probe at 350 °F is 4.88 K out.
	assert.InDelta(t, -4.88, PlatinumCelsius("iec60751", 1000, PlatinumOhms("3750", 1000, 176.667))-176.667, 0.01)
}

// A common 10 kΩ family, B25/85 3977 K: its data sheet's values by beta, and
// three-point Steinhart–Hart through 0, 25 and 85 °C (from memory; solved apart
// from this program).
func TestThermistors(t *testing.T) {
	for celsius, ohms := range map[float64]float64{-20: 107094.87, 0: 33900.421, 20: 12554.703, 25: 10000, 60: 2462.6239, 85: 1070.3093, 100: 684.93872, 120: 398.27747} {
		assert.InEpsilon(t, ohms, ThermistorOhms(10000, 3977, celsius), 1e-7)
	}
	a, b, c := SteinhartHart([3]float64{32554.839, 10000.196, 1070.3318}, [3]float64{0, 25, 85})
	assert.InEpsilon(t, 1.137017526e-3, a, 1e-6)
	assert.InEpsilon(t, 2.326387961e-4, b, 1e-6)
	assert.InEpsilon(t, 9.511046846e-8, c, 1e-5)
	for celsius, ohms := range map[float64]float64{-20: 96267.646, 10: 19874.602, 40: 5328.829, 60: 2489.060, 100: 677.757} {
		assert.InDelta(t, celsius, SteinhartHartCelsius(a, b, c, ohms), 1e-3)
	}
}

// Rating plates as exact fractions: R = V²/P; a power tolerance of +5/−10 %
// (IEC 60335-1 clause 10, from memory) turns over into ohms.
func TestElementsByTheirPlate(t *testing.T) {
	for _, c := range []struct {
		watts, volts int64
		exact        string
		low, high    float64
	}{
		{5400, 240, "32/3", 10.1587, 11.8519},
		{5600, 240, "72/7", 9.7959, 11.4286},
		{3400, 240, "288/17", 16.1345, 18.8235},
		{800, 120, "18", 17.1429, 20},
		{2000, 230, "529/20", 25.1905, 29.3889},
		{1950, 230, "1058/39", 25.8364, 30.1425},
	} {
		want, ok := new(big.Rat).SetString(c.exact)
		require.True(t, ok)
		assert.Zero(t, want.Cmp(big.NewRat(c.volts*c.volts, c.watts)))
		l, err := Within(&machine.Expect{Element: &machine.Element{Watts: float64(c.watts), Volts: float64(c.volts), PowerTolerancePercent: []float64{-10, 5}}}, Setting{})
		require.NoError(t, err)
		assert.InDelta(t, c.low, l.Low, 5e-5)
		assert.InDelta(t, c.high, l.High, 5e-5)
	}
	assert.InDelta(t, 4056, ElementWatts(32.0/3, 208), 0.5, "5400 W at 240 V makes 4056 W at 208 V")
}

// A handheld meter's worst case, as makers print it: percent of the reading and
// counts of the range's resolution (common practice; worked by hand).
func TestAccuracy(t *testing.T) {
	for _, c := range []struct {
		q          Quantity
		text       string
		read, band float64
	}{
		{Resistance, "0.9%+1@0.1ohm", 16.0, 0.244},
		{Resistance, "0.9%+2@0.1", 10.7, 0.2963},
		{Resistance, "0.5 % + 3 @ 0.01 ohm", 10.67, 0.08335},
		{Resistance, "0.9%+1@1", 1085, 10.765},
		{Voltage, "1.0%+3@0.1V", 121.3, 1.513},
		{Voltage, "0,7%+4@0.1", 238.4, 2.0688},
		{Resistance, "2%", 50, 1},
	} {
		a, err := ParseAccuracy(c.q, c.text)
		require.NoError(t, err, c.text)
		assert.InDelta(t, c.band, a.Error(c.read), 1e-9, c.text)
	}
	for _, text := range []string{"", "good", "1", "1%+2", "1%+2@volts", "%+2@1"} {
		_, err := ParseAccuracy(Resistance, text)
		assert.Error(t, err, text)
	}
}

func TestVerdicts(t *testing.T) {
	element := &machine.Expect{Element: &machine.Element{Watts: 5200, Volts: 240, TolerancePercent: 8}} // 10.19 to 11.96
	meter := &Accuracy{0.9, 3, 0.1}
	for _, c := range []struct {
		name    string
		e       *machine.Expect
		text    string
		s       Setting
		verdict string
		says    string
	}{
		{"inside", element, "11.4 ohm", Setting{Accuracy: meter, Leads: num(0.2)}, Pass, "At 240 V it makes"},
		{"at another supply", element, "11.4 ohm", Setting{Leads: num(0.2), Supply: num(208)}, Pass, "At 208 V it makes 3863 W"},
		{"across a limit", element, "12.1", Setting{Accuracy: meter}, Unsure, "too close to the limit for this meter"},
		{"no meter stated", element, "12.1", Setting{}, High, "too high"},
		{"too high", element, "13", Setting{Accuracy: meter}, High, "too high"},
		{"too low", element, "8", Setting{Accuracy: meter}, Low, "too low"},
		{"shorted", element, "0.3", Setting{}, Short, "shorted"},
		{"over-range", element, "OL", Setting{Accuracy: meter}, Open, "OL: open circuit"},
		{"as good as open", element, "400", Setting{}, Open, "open circuit"},
		{"another path beside it", element, "11 ohm", Setting{Fitted: true}, Unsure, "Lift one end"},
		{"a bad contact", &machine.Expect{Continuity: "closed"}, "48", Setting{}, Open, "open circuit"},
		{"closed, less the leads", &machine.Expect{Continuity: "closed"}, "2.2", Setting{Leads: num(0.4)}, Pass, "leads taken off"},
		{"should be open and is not", &machine.Expect{Continuity: "open"}, "0.4", Setting{}, Short, "shorted"},
		{"should be open and is", &machine.Expect{Continuity: "open"}, "OL", Setting{}, Pass, "in range"},
		{"copper, warm", &machine.Expect{Winding: &machine.Winding{OhmsAt20: 20, TolerancePercent: 3}}, "26.3", Setting{Ambient: num(100)}, Pass, "in range"},
		{"a probe in a warm room", &machine.Expect{Platinum: &machine.Platinum{R0: 1000, Curve: "3750"}}, "1085", Setting{Ambient: num(23), Accuracy: &Accuracy{0.9, 1, 1}}, Unsure, "Warm the probe"},
		{"a probe", &machine.Expect{Platinum: &machine.Platinum{R0: 1000, Curve: "3750"}}, "1087", Setting{Ambient: num(23)}, Pass, "in range"},
		{"a thermistor", &machine.Expect{Thermistor: &machine.Thermistor{R25: 10000, Beta: 3950, TolerancePercent: 5}}, "12k4", Setting{Ambient: num(20)}, Pass, "in range"},
		{"water heated", &machine.Expect{WaterHeated: &machine.WaterHeated{Litres: 1, Seconds: 60, Watts: []float64{600, 1000}}}, "12 K", Setting{}, Pass, "837.4 W"},
		{"a vent run", &machine.Expect{VentRun: &machine.VentRun{MetresAtMost: 12, MetresPerBend: 1.5}}, "8.5 m, 3 bends", Setting{}, High, "13 m: too long (max 12 m)"},
		{"insulation", &machine.Expect{Insulation: &machine.Insulation{MegohmsAtLeast: 1}}, "0.9 MΩ", Setting{}, Low, "too low"},
		{"volts", &machine.Expect{Volts: &machine.Nominal{Nominal: 240, TolerancePercent: 10}}, "192 VAC", Setting{}, Low, "too low"},
	} {
		v, err := Judge(c.e, c.text, c.s)
		require.NoError(t, err, c.name)
		assert.Equal(t, c.verdict, v.Verdict, "%s: %s", c.name, v.Why)
		assert.Contains(t, v.Why, c.says, c.name)
	}
	v, err := Judge(element, "11.4 ohm", Setting{Accuracy: meter, Leads: num(0.2)})
	require.NoError(t, err)
	assert.InDelta(t, 11.2, v.Value, 1e-9)
	assert.InDeltaSlice(t, []float64{10.7974, 11.6026}, v.Interval[:], 1e-9)
}

func TestReadingsThatCannotBeJudged(t *testing.T) {
	ohms := &machine.Expect{Ohms: []float64{10, 12}}
	for text, e := range map[string]*machine.Expect{
		".": ohms, "1e9": ohms, "11 V": ohms, "": ohms, "1,2,3": ohms, "about ten": ohms,
		"OL": {Volts: &machine.Nominal{Nominal: 230}}, "long": {VentRun: &machine.VentRun{MetresAtMost: 12}}, "hot": {WaterHeated: &machine.WaterHeated{Litres: 1, Seconds: 60, Watts: []float64{1, 2}}},
	} {
		_, err := Judge(e, text, Setting{})
		assert.ErrorContains(t, err, "write it like", text)
	}
	_, err := Judge(&machine.Expect{Winding: &machine.Winding{OhmsAt20: 3}}, "3", Setting{})
	assert.ErrorContains(t, err, "temperature")
}

// Copper from 20 to 100 °C by the constant of IEC 60335-1 clause 11.8, 234.5
// (from memory): a factor of 1.314342; the coefficient 0.00393 gives the same
// within 0.01 %.
func TestCopper(t *testing.T) {
	for celsius, factor := range map[float64]float64{100: 1.314342, 0: 0.921415} {
		assert.InEpsilon(t, factor, CopperOhms(1, celsius), 1e-4)
	}
}

// An open neutral on a three-wire supply of 120/240 V, 10 ohm on one leg and 40
// on the other: the two stand in series on 240 V, 48.0 and 192.0 V (by hand, and
// by a circuit simulator). With 0.1 ohm of neutral they stand at 119.1111 and
// 120.8889 V (by the same simulator).
func TestAnOpenNeutral(t *testing.T) {
	leg := &machine.Expect{Volts: &machine.Nominal{Nominal: 120, TolerancePercent: 8}}
	one, other := 10.0, 40.0
	low, high := 240*one/(one+other), 240*other/(one+other)
	for text, want := range map[string]string{fmt.Sprintf("%.1f V", low): Low, fmt.Sprintf("%.1f V", high): High, "119.1 V": Pass, "120.9 V": Pass} {
		v, err := Judge(leg, text, Setting{})
		require.NoError(t, err)
		assert.Equal(t, want, v.Verdict, text)
	}
}

// The guard band of ILAC-G8:2019 and ISO 14253-1 (from memory): with the whole
// expanded uncertainty U = 2u as guard, a part that lies just at the limit is
// passed in 2.275 of 100 readings; without any it is passed in 50.
func TestTheGuardBand(t *testing.T) {
	const n, u = 20_000, 0.1
	e := &machine.Expect{Ohms: []float64{1, 100}}
	passed := func(a *Accuracy) float64 {
		k := 0
		for i := range n {
			z := math.Sqrt2 * math.Erfinv(2*(float64(i)+0.5)/n-1) // the quantiles of a normal error
			v, err := Judge(e, fmt.Sprintf("%.6f ohm", 100+z*u), Setting{Accuracy: a})
			require.NoError(t, err)
			if v.Verdict == Pass {
				k++
			}
		}
		return float64(k) / n
	}
	assert.InDelta(t, 0.02275, passed(&Accuracy{Counts: 2, Resolution: u}), 1e-4)
	assert.InDelta(t, 0.5, passed(nil), 1e-4)
}

// A litre warmed by 11 K in 60 s took up 4187·11/60 = 768 W, by 28 K 1954 W.
func TestARiseInKelvinIsJudgedAsWatts(t *testing.T) {
	e := &machine.Expect{WaterHeated: &machine.WaterHeated{Litres: 1, Seconds: 60, Watts: []float64{650, 950}}}
	for text, want := range map[string]bool{"11 K": true, "11": true, "28 K": false, "5 K": false, "warm": false, "": false} {
		ok, asked := Meets(e, text)
		assert.True(t, asked)
		assert.Equal(t, want, ok, text)
	}
	run := &machine.Expect{VentRun: &machine.VentRun{MetresAtMost: 12, MetresPerBend: 1.5}}
	for text, want := range map[string]bool{"8.5 m, 2 bends": true, "10 m, 2 bends": false, "12": true} {
		ok, _ := Meets(run, text)
		assert.Equal(t, want, ok, text)
	}
	_, asked := Meets(nil, "1")
	assert.False(t, asked)
}
