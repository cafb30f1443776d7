package reading

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"evensteps/core/machine"
)

// The inch of 25.4 mm exactly is the international yard and pound agreement of
// 1959; 68 °F is 20 °C by the definition of the scale; 1 inch of water is
// 2.490889 mbar (NIST SP 811, from memory).
func TestParse(t *testing.T) {
	for text, c := range map[string]struct {
		q Quantity
		v float64
	}{
		"1.2k": {Resistance, 1200}, "1k2": {Resistance, 1200}, "0.9 MΩ": {Resistance, 900000}, "4R7": {Resistance, 4.7},
		"11,4 ohm": {Resistance, 11.4}, "OL": {Resistance, math.Inf(1)}, "350 mohm": {Resistance, 0.35},
		"120 VAC": {Voltage, 120}, "12 mV": {Voltage, 0.012}, "1.0 uF": {Capacitance, 1}, "470 nF": {Capacitance, 0.47},
		"68 F": {Temperature, 20}, "-5 °C": {Temperature, -5}, "14 1/2 in": {Length, 368.3}, "3/8 in": {Length, 9.525}, "368 mm": {Length, 368},
		"4 inWC": {Pressure, 9.963556}, "1 kPa": {Pressure, 10}, "3 1/2 turns": {Turns, 3.5}, "2 min": {Duration, 120}, "320 mA": {Current, 0.32},
	} {
		v, err := Parse(c.q, text)
		require.NoError(t, err, text)
		if math.IsInf(c.v, 1) {
			assert.True(t, math.IsInf(v, 1), text)
			continue
		}
		assert.InDelta(t, c.v, v, 1e-9, text)
	}
	for text, q := range map[string]Quantity{
		"": Resistance, "eleven": Resistance, "5 V": Resistance, "12": Length, "3/0 in": Length, "1e99": Voltage, "5 mm mm": Length, "3 x": "colour",
	} {
		_, err := Parse(q, text)
		assert.Error(t, err, text)
	}
}

func TestJudgeByLimits(t *testing.T) {
	// 5200 W at 240 V is 240²/5200 = 11.08 ohm (R = V²/P).
	l, err := Within(&machine.Expect{Element: &machine.Element{Watts: 5200, Volts: 240, TolerancePercent: 8}}, Setting{})
	require.NoError(t, err)
	assert.InDelta(t, 10.19, l.Low, 0.01)
	assert.InDelta(t, 11.96, l.High, 0.01)
	// A tolerance on the power turns round as ohms: +5 % power is the lower limit.
	l, _ = Within(&machine.Expect{Element: &machine.Element{Watts: 5200, Volts: 240, PowerTolerancePercent: []float64{-10, 5}}}, Setting{})
	assert.InDelta(t, 240*240/5200.0/1.05, l.Low, 1e-9)

	earth := Limits{Resistance, 0, EarthOhms}
	good, why := earth.Judge("0.7 ohm", "0.3 ohm")
	assert.True(t, good, why)
	bad, why := earth.Judge("0.9 ohm", "0.3 ohm")
	assert.False(t, bad)
	assert.Contains(t, why, "0.6 Ω is above")
	bad, _ = earth.Judge("OL", "")
	assert.False(t, bad)
	bad, why = earth.Judge("fine", "")
	assert.False(t, bad)
	assert.Contains(t, why, "11.4 ohm")
}

func TestSameAs(t *testing.T) {
	ok, why := SameAs(Length, "14 1/2 in", "370 mm", "3 mm")
	assert.True(t, ok, why)
	ok, why = SameAs(Length, "14 1/2 in", "372 mm", "3 mm")
	assert.False(t, ok)
	assert.Contains(t, why, "3.7 mm")
	ok, _ = SameAs("text", "ribs up", "ribs down", "")
	assert.False(t, ok)
	ok, _ = SameAs(Turns, "3 1/2", "3.5 turns", "")
	assert.True(t, ok)
}

func TestEveryLimitThatNeedsNoMoreThanItsReading(t *testing.T) {
	for say, e := range map[string]*machine.Expect{
		"at most 0.5 Ω":         {Ohms: []float64{0, 0.5}},
		"207 to 253 V":          {Volts: &machine.Nominal{Nominal: 230, TolerancePercent: 10}},
		"0.9 to 1.1 µF":         {Capacitance: &machine.Capacitance{Microfarads: 1, TolerancePercent: 10}},
		"at least 1000000 Ω":    {Insulation: &machine.Insulation{MegohmsAtLeast: 1}},
		"at most 5 mW/cm²":      {Leakage: &machine.Leakage{MWPerCM2AtMost: 5}},
		"45 to 75 °C":           {Temperature: []float64{45, 75}},
		"3 to 3.6 A":            {Amps: []float64{3, 3.6}},
		"8 to 12 mbar":          {Mbar: []float64{8, 12}},
		"20 to 40 s":            {Seconds: []float64{20, 40}},
		"10 to 12 mm (0.47 in)": {Length: []float64{10, 12}},
	} {
		l, err := Within(e, Setting{})
		require.NoError(t, err, say)
		assert.Equal(t, say, l.Say())
	}
	for _, e := range []*machine.Expect{nil, {}, {Ohms: []float64{1}}, {Element: &machine.Element{Volts: 230}}, {Thermistor: &machine.Thermistor{R25: 10000, Beta: 3950}}} {
		_, err := Within(e, Setting{})
		assert.Error(t, err, "it needs more than the reading")
	}
}

// What is written is read again as the same value, to four figures.
func TestWrittenIsReadAgain(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		q := rapid.SampledFrom([]Quantity{Resistance, Voltage, Current, Capacitance, Temperature}).Draw(t, "quantity")
		require.True(t, OfMultimeter(q))
		v := rapid.Float64Range(1e-3, 9e9).Draw(t, "value")
		got, err := Parse(q, Write(q, v))
		require.NoError(t, err, Write(q, v))
		require.InEpsilon(t, v, got, 6e-4)
	})
	assert.Equal(t, "OL", Write(Resistance, math.Inf(1)))
	assert.Equal(t, "21.33 ohm", Write(Resistance, 21.3333))
	assert.False(t, OfMultimeter(Pressure))
}

func TestALengthInTheOtherSystem(t *testing.T) {
	for text, want := range map[string]string{"14 1/2 in": "368.3 mm", "368.3 mm": "14.5 in", "2 m": "78.74 in", "10 cm": "3.94 in", "3/4\"": "19.05 mm", "about there": ""} {
		assert.Equal(t, want, InTheOther(Length, text), text)
	}
	assert.Empty(t, InTheOther(Resistance, "3 ohm"))
}

// An example of either system is read as what it is, whichever the company's is.
func TestExamplesOfBothSystems(t *testing.T) {
	for _, system := range append(Systems, "") {
		for q := range units {
			if q == Run { // it has its bends
				continue
			}
			_, err := Parse(q, System(system).Example(q))
			assert.NoError(t, err, "%s %s", system, q)
		}
	}
	assert.Equal(t, "368 mm", Metric.Example(Length))
	assert.Equal(t, "14 1/2 in", Customary.Example(Length))
	assert.Equal(t, "130 F", Customary.ExampleFor(nil, Temperature))
	assert.Equal(t, "28 K", Customary.ExampleFor(&machine.Expect{WaterHeated: &machine.WaterHeated{}}, Temperature))
}
