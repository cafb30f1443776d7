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

	earth := Limits{Quantity: Resistance, Low: 0, High: EarthOhms}
	good, why := earth.Judge("0.7 ohm", "0.3 ohm")
	assert.True(t, good, why)
	bad, why := earth.Judge("0.9 ohm", "0.3 ohm")
	assert.False(t, bad)
	assert.Contains(t, why, "0.6 Ω: too high (max 0.5 Ω)")
	bad, _ = earth.Judge("OL", "")
	assert.False(t, bad)
	bad, why = earth.Judge("fine", "")
	assert.False(t, bad)
	assert.Contains(t, why, "11.4 ohm")
}

func TestSameAs(t *testing.T) {
	ok, why := System("").SameAs(Length, "14 1/2 in", "370 mm", "3 mm")
	assert.True(t, ok, why)
	ok, why = System("").SameAs(Length, "14 1/2 in", "372 mm", "3 mm")
	assert.False(t, ok)
	assert.Contains(t, why, "3.7 mm")
	ok, _ = System("").SameAs("text", "ribs up", "ribs down", "")
	assert.False(t, ok)
	ok, _ = System("").SameAs(Turns, "3 1/2", "3.5 turns", "")
	assert.True(t, ok)
}

func TestEveryLimitThatNeedsNoMoreThanItsReading(t *testing.T) {
	for say, e := range map[string]*machine.Expect{
		"at most 0.5 Ω":                     {Ohms: []float64{0, 0.5}},
		"207 to 253 V":                      {Volts: &machine.Nominal{Nominal: 230, TolerancePercent: 10}},
		"0.9 to 1.1 µF":                     {Capacitance: &machine.Capacitance{Microfarads: 1, TolerancePercent: 10}},
		"at least 1 MΩ":                     {Insulation: &machine.Insulation{MegohmsAtLeast: 1}},
		"at most 5 mW/cm²":                  {Leakage: &machine.Leakage{MWPerCM2AtMost: 5}},
		"45 to 75 °C":                       {Temperature: []float64{45, 75}},
		"3 to 3.6 A":                        {Amps: []float64{3, 3.6}},
		"8 to 12 mbar":                      {Mbar: []float64{8, 12}},
		"20 to 40 s":                        {Seconds: []float64{20, 40}},
		"10 mm (0.4 in) to 12 mm (0.47 in)": {Length: []float64{10, 12}},
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
		assert.Equal(t, want, System("").InTheOther(Length, text), text)
	}
	assert.Empty(t, System("").InTheOther(Resistance, "3 ohm"))
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
	assert.Equal(t, "50 F", Customary.ExampleFor(&machine.Expect{WaterHeated: &machine.WaterHeated{}}, Temperature))
}

// What a company of either region types is read, whatever its own units are: 1 in.
// w.c. is 2.490889 mbar, 1 ft 304.8 mm, 1 US gallon 3.785412 litres (NIST SP 811,
// appendix B.8, from memory).
func TestBothRegionsAreRead(t *testing.T) {
	for text, c := range map[string]struct {
		q Quantity
		v float64
	}{
		"7 in. w.c.": {Pressure, 17.436223}, `7"wc`: {Pressure, 17.436223}, "7” w.c.": {Pressure, 17.436223}, "3.5 inWC": {Pressure, 8.7181115},
		"20 ft": {Length, 6096}, "6'": {Length, 1828.8}, "1 gal": {Volume, 3.785412}, "2 litres": {Volume, 2},
		"0.L": {Resistance, math.Inf(1)}, "O.L": {Resistance, math.Inf(1)}, "0L": {Resistance, math.Inf(1)},
	} {
		v, err := Parse(c.q, text)
		require.NoError(t, err, text)
		if math.IsInf(c.v, 1) {
			assert.True(t, math.IsInf(v, 1), text)
			continue
		}
		assert.InDelta(t, c.v, v, 1e-6, text)
	}
	run := &machine.Expect{VentRun: &machine.VentRun{MetresAtMost: 12, MetresPerBend: 1.5}}
	for text, want := range map[string]float64{"20 ft, 2 elbows": 9.096, "20' 2 elbows": 9.096, "6.096 m, 2 bends": 9.096, "20 feet": 6.096} {
		v, err := value(run, Run, text)
		require.NoError(t, err, text)
		assert.InDelta(t, want, v, 1e-9, text)
	}
	rise := &machine.Expect{WaterHeated: &machine.WaterHeated{Litres: 1, Seconds: 60, Watts: []float64{600, 1000}}}
	kelvin, err := value(rise, Power, "10 K")
	require.NoError(t, err)
	fahrenheit, err := value(rise, Power, "18 F")
	require.NoError(t, err)
	assert.InDelta(t, kelvin, fahrenheit, 1e-9)
}

// Values are said in the units that are chosen, and read again as the same.
func TestValuesAreSaidInTheChosenUnits(t *testing.T) {
	for _, c := range []struct {
		s    System
		q    Quantity
		v    float64
		want string
	}{
		{Metric, Temperature, 60, "60 °C"},
		{Customary, Temperature, 60, "140 °F"},
		{Customary, Pressure, 17.436223, "7 in. w.c."},
		{Customary, Length, 304.8, "12 in"},
		{Metric, Length, 304.8, "304.8 mm"},
		{Customary, Run, 6.096, "20 ft"},
		{Customary, Volume, 3.785412, "1 gal"},
		{"", Resistance, 12500, "12.5 kΩ"},
		{"", Resistance, 10e6, "10 MΩ"},
		{"", Resistance, 9000, "9000 Ω"},
		{Customary, Voltage, 120, "120 V"},
	} {
		assert.Equal(t, c.want, c.s.Say(c.q, c.v))
		again, err := Parse(c.q, c.want)
		require.NoError(t, err, c.want)
		assert.InDelta(t, c.v, again, 1e-3*math.Abs(c.v), c.want)
	}
	assert.Equal(t, "140 °F", Customary.InTheOther(Temperature, "60 C"))
	assert.Equal(t, "20 °C", Metric.InTheOther(Temperature, "68 F"))
	assert.Empty(t, Metric.InTheOther(Temperature, "20 C"))
	assert.Empty(t, Customary.InTheOther(Temperature, "68 F"))
}

// Nobody is told of a wider range than there is: the lower end is rounded up and
// the upper end down, in either units.
func TestLimitsAreRoundedInwards(t *testing.T) {
	assert.Equal(t, "10.19 to 11.95 Ω", Limits{Quantity: Resistance, Low: 10.181, High: 11.959}.Say())
	assert.Equal(t, "10.1 to 11.9 Ω", Limits{Quantity: Resistance, Low: 10.1, High: 11.9}.Say(), "what is exact stays")
	rapid.Check(t, func(rt *rapid.T) {
		q := rapid.SampledFrom([]Quantity{Resistance, Voltage, Temperature, Pressure, Length, Run}).Draw(rt, "quantity")
		s := rapid.SampledFrom([]System{Metric, Customary}).Draw(rt, "system")
		low := rapid.Float64Range(0.5, 500).Draw(rt, "low")
		l := Limits{Quantity: q, Low: low, High: low * 1.5, Units: s}
		first, last := l.ends()
		a, err := Parse(q, first)
		require.NoError(rt, err, first)
		b, err := Parse(q, last)
		require.NoError(rt, err, last)
		require.GreaterOrEqual(rt, a, l.Low-1e-6, first)
		require.LessOrEqual(rt, b, l.High+1e-6, last)
	})
}
