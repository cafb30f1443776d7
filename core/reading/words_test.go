package reading

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/machine"
)

// Every unit as people write it, with what one of it is in the quantity's own.
// 1 psi is 68.94757 mbar, 1 inch of water 2.490889 mbar (NIST SP 811, appendix
// B.8, from memory); 170 ppm of propane are 1 % of its lower explosive limit.
func TestEveryUnit(t *testing.T) {
	for q, written := range map[Quantity]map[string]float64{
		Resistance:  {"2": 2, "2 ohm": 2, "2 ohms": 2, "2 Ω": 2, "2 r": 2, "2 kohm": 2000, "2M": 2e6, "2 mohm": 0.002, "2K2": 2200, "2R2": 2.2, "2M2": 2.2e6},
		Voltage:     {"2": 2, "2 V": 2, "2 volt": 2, "2 volts": 2, "2 VAC": 2, "2 ACV": 2, "2 V~": 2, "2 Vrms": 2, "2 VDC": 2, "2 DCV": 2, "2 V=": 2, "2 V⎓": 2, "2 kV": 2000, "2 mV": 0.002, "-2 V": -2, "−2": -2, "–2": -2, "+2": 2},
		Current:     {"2": 2, "2 A": 2, "2 amp": 2, "2 amps": 2, "2 mA": 0.002, "2 uA": 2e-6, "2 µA": 2e-6},
		Capacitance: {"2": 2, "2 uF": 2, "2 µF": 2, "2 nF": 0.002, "2 mfd": 2},
		Pressure:    {"2": 2, "2 mbar": 2, "2 hPa": 2, "2 Pa": 0.02, "2 kPa": 20, "2 bar": 2000, "2 psi": 137.89514, "2 in wc": 4.981778, "2 inH2O": 4.981778, "2 inWG": 4.981778},
		Length:      {"2 mm": 2, "2 cm": 20, "2 m": 2000, "2 in": 50.8, "2 inch": 50.8, "2 inches": 50.8, `2"`: 50.8, "2 1/2 in": 63.5},
		Duration:    {"2": 2, "2 s": 2, "2 sec": 2, "2 min": 120},
		Leakage:     {"2": 2, "2 mW/cm2": 2, "2 mW/cm²": 2},
		Turns:       {"2": 2, "1 turn": 1, "2 turns": 2},
		Angle:       {"2": 2, "2°": 2, "2 deg": 2},
		Power:       {"2": 2, "2 W": 2, "2 kW": 2000},
		Run:         {"2": 2, "2 m": 2},
		Count:       {"2": 2},
		Temperature: {"2": 2, "2 C": 2, "2 °C": 2, "212 F": 100, "212 °F": 100, "273.15 K": 0},
		Combustible: {"2": 2, "2 %": 2, "2 % LEL": 2, "2 LEL": 2, "340 ppm": 2},
	} {
		for text, want := range written {
			v, err := Parse(q, text)
			require.NoError(t, err, "%s %q", q, text)
			assert.InDelta(t, want, v, 1e-9, "%s %q", q, text)
			again, err := Parse(q, Write(q, v))
			require.NoError(t, err, "%s %q", q, Write(q, v))
			assert.InEpsilon(t, 1+v, 1+again, 1e-3, "what is written is read again")
		}
	}
	assert.Equal(t, "OL", Write(Resistance, math.Inf(1)))
	assert.Equal(t, "0 V", Write(Voltage, 0))
	assert.Equal(t, "12350 ohm", Write(Resistance, 12345))
	assert.Equal(t, "OL", Say(Resistance, math.Inf(1)))
	assert.Equal(t, "25.4 mm (1 in)", Say(Length, 25.4))
	assert.Equal(t, "28 K", System("").ExampleFor(&machine.Expect{WaterHeated: &machine.WaterHeated{}}, Temperature))
	assert.Equal(t, "54 C", System("").ExampleFor(&machine.Expect{}, Temperature))
	assert.Equal(t, "54 C", System("").ExampleFor(nil, Temperature))
	assert.Equal(t, Run.Example(), System("").ExampleFor(&machine.Expect{VentRun: &machine.VentRun{}}, Length))
	for _, text := range []string{"2 mx", "2 kmbar", "1000000000001", "µ"} {
		_, err := Parse(Voltage, text)
		assert.Error(t, err, text)
	}
	_, err := Read(Voltage, "dead")
	assert.Error(t, err)
}

// What a unit and a separator say besides the number.
func TestWhatIsWrittenBesidesTheNumber(t *testing.T) {
	for text, want := range map[string]Written{
		"0 VAC": {AC: true}, "0 V DC": {DC: true}, "9 V=": {Value: 9, DC: true, Digits: 9}, "9 V⎓": {Value: 9, DC: true, Digits: 9}, "230 V~": {Value: 230, AC: true, Digits: 230}, "5 Vrms": {Value: 5, AC: true, Digits: 5},
		"1.800 V": {Value: 1.8, Or: 1800, Digits: 1.8}, "-1,800": {Value: -1.8, Or: -1800, Digits: 1.8}, "0.300": {Value: 0.3, Digits: 0.3}, "1.80": {Value: 1.8, Digits: 1.8}, "1.8000": {Value: 1.8, Digits: 1.8}, "123.456 V": {Value: 123.456, Or: 123456, Digits: 123.456},
		"12 mV": {Value: 0.012, Milli: true, Digits: 12}, "-1800": {Value: -1800, Digits: 1800}, "2 kV": {Value: 2000, Digits: 2000},
	} {
		w, err := Read(Voltage, text)
		require.NoError(t, err, text)
		assert.InDelta(t, want.Value, w.Value, 1e-9, text)
		assert.InDelta(t, want.Or, w.Or, 1e-9, text)
		assert.InDelta(t, want.Digits, w.Digits, 1e-9, text)
		assert.Equal(t, [3]bool{want.AC, want.DC, want.Milli}, [3]bool{w.AC, w.DC, w.Milli}, text)
	}
	w, err := Read(Pressure, "2 mbar")
	require.NoError(t, err)
	assert.False(t, w.Milli, "a millibar is the unit itself")
	w, err = Read(Resistance, "2 mohm")
	require.NoError(t, err)
	assert.True(t, w.Milli)
	assert.InDelta(t, 2, w.Digits, 1e-9)
}

// A verdict exactly at a limit, and at twenty times and a twentieth of one (the
// map format's rule).
func TestVerdictsAtTheLimits(t *testing.T) {
	ohms := &machine.Expect{Ohms: []float64{10, 20}}
	for text, want := range map[string]string{
		"10": Pass, "20": Pass, "9.99": Low, "20.01": High, "400": High, "400.1": Open, "OL": Open, "0.5": Low, "0.49": Short,
	} {
		v, err := Judge(ohms, text, Setting{})
		require.NoError(t, err)
		assert.Equal(t, want, v.Verdict, text)
	}
	closed, open := &machine.Expect{Continuity: "closed"}, &machine.Expect{Continuity: "open"}
	for text, want := range map[string]string{"0": Pass, "2": Pass, "2.01": Open, "OL": Open} {
		v, err := Judge(closed, text, Setting{})
		require.NoError(t, err)
		assert.Equal(t, want, v.Verdict, text)
	}
	for text, want := range map[string]string{"OL": Pass, "1M": Pass, "999k": Short} {
		v, err := Judge(open, text, Setting{})
		require.NoError(t, err)
		assert.Equal(t, want, v.Verdict, text)
	}
	band := &Accuracy{Counts: 1, Resolution: 0.5}
	for text, want := range map[string]string{"10.5": Pass, "10.4": Unsure, "9.5": Unsure, "9.4": Low, "19.5": Pass, "20.5": Unsure, "20.6": High} {
		v, err := Judge(ohms, text, Setting{Accuracy: band})
		require.NoError(t, err)
		assert.Equal(t, want, v.Verdict, "with the meter's own error: %s", text)
		assert.Contains(t, v.Why, "± 0.5 Ω by the meter")
	}
	for text, want := range map[string]string{"1.5": Pass, "2": Unsure, "2.5": Unsure, "2.6": Open} {
		v, err := Judge(closed, text, Setting{Accuracy: band})
		require.NoError(t, err)
		assert.Equal(t, want, v.Verdict, "closed, with the meter's own error: %s", text)
	}
	for text, want := range map[string]string{"1.1M": Pass, "1M": Unsure, "950k": Unsure, "850k": Short} {
		v, err := Judge(open, text, Setting{Accuracy: &Accuracy{Counts: 1, Resolution: 1e5}})
		require.NoError(t, err)
		assert.Equal(t, want, v.Verdict, "open, with the meter's own error: %s", text)
	}
	for _, e := range []*machine.Expect{
		{Element: &machine.Element{Watts: 100, Volts: 100}}, {Platinum: &machine.Platinum{R0: 1000, Curve: "iec60751"}}, {Thermistor: &machine.Thermistor{R25: 10000, Beta: 3950}}, {Winding: &machine.Winding{OhmsAt20: 10}},
	} {
		v, err := Judge(e, "OL", Setting{Ambient: num(20)})
		require.NoError(t, err)
		assert.Equal(t, Open, v.Verdict)
		assert.Contains(t, v.Why, "OL")
	}
	v, err := Judge(&machine.Expect{Volts: &machine.Nominal{Nominal: 230, TolerancePercent: 10}}, "6000", Setting{})
	require.NoError(t, err)
	assert.Equal(t, High, v.Verdict, "volts are never open")
	v, err = Judge(ohms, "15", Setting{Accuracy: band, Leads: num(1)})
	require.NoError(t, err)
	assert.InDelta(t, 14, v.Value, 1e-9)
	v, err = Judge(ohms, "OL", Setting{Accuracy: &Accuracy{Percent: 1}})
	require.NoError(t, err)
	assert.Equal(t, Open, v.Verdict)
	_, err = Judge(&machine.Expect{Element: &machine.Element{Volts: 230}}, "1", Setting{})
	assert.ErrorContains(t, err, "no rating")
	for text, bad := range map[string]bool{"0.9%+3@0.1ohm": false, "1,5 %": false, "x%": true, "1%+3@0.1V": true, "": true} {
		_, err = ParseAccuracy(Resistance, text)
		assert.Equal(t, bad, err != nil, text)
	}
	// A platinum probe's tolerance is 1 % where the map says none.
	l, err := Within(&machine.Expect{Platinum: &machine.Platinum{R0: 1000, Curve: "iec60751"}}, Setting{Ambient: num(0)})
	require.NoError(t, err)
	assert.InDelta(t, 990, l.Low, 1e-9)
	l, err = Within(&machine.Expect{Platinum: &machine.Platinum{R0: 1000, Curve: "iec60751", TolerancePercent: 5}}, Setting{Ambient: num(0)})
	require.NoError(t, err)
	assert.InDelta(t, 950, l.Low, 1e-9)
}

func TestTypicalValues(t *testing.T) {
	both := Limits{Quantity: Resistance, Low: 10, High: 20}
	for verdict, want := range map[string]float64{Pass: 15, High: 33, Low: 4, Short: 0.25, Open: overRange} {
		assert.InDelta(t, want, both.Typical(verdict), 1e-9, verdict)
	}
	assert.InDelta(t, 2, Limits{Quantity: Resistance, Low: 0, High: 20}.Typical(Pass), 1e-9)
	assert.InDelta(t, 0.5, Limits{Quantity: Leakage, Low: math.Inf(-1), High: 5}.Typical(Pass), 1e-9)
	assert.InDelta(t, 2.5e6, Limits{Quantity: Resistance, Low: 1e6, High: math.Inf(1)}.Typical(Pass), 1e-3)
	assert.InDelta(t, 0, Limits{Quantity: Leakage, Low: math.Inf(-1), High: 5}.Typical(Low), 1e-9)
	assert.InDelta(t, 6.4e6+1, Limits{Quantity: Resistance, Low: 1e6, High: math.Inf(1)}.Typical(High), 1e-3)
}

func TestLimitsInWords(t *testing.T) {
	assert.Equal(t, "at most 20 Ω", Limits{Quantity: Resistance, Low: 0, High: 20}.Say())
	assert.Equal(t, "at most 5 mW/cm²", Limits{Quantity: Leakage, Low: math.Inf(-1), High: 5}.Say())
	assert.Equal(t, "at least 10 Ω", Limits{Quantity: Resistance, Low: 10, High: math.Inf(1)}.Say())
	assert.Equal(t, "1 to 20 Ω", Limits{Quantity: Resistance, Low: 1, High: 20}.Say())
	ok, why := Limits{Quantity: Resistance, Low: 1, High: 20}.Judge("1", "")
	assert.True(t, ok, why)
	ok, _ = Limits{Quantity: Resistance, Low: 1, High: 20}.Judge("20", "")
	assert.True(t, ok)
	ok, why = Limits{Quantity: Resistance, Low: 1, High: 20}.Judge("20", "x")
	assert.False(t, ok)
	assert.Contains(t, why, "cannot be read")
	ok, _ = Limits{Quantity: Voltage, Low: 1, High: 20}.Judge("20", "x")
	assert.True(t, ok, "leads are of ohms alone")
	ok, _ = System("").SameAs(Length, "10 mm", "13 mm", "3 mm")
	assert.True(t, ok)
	ok, _ = System("").SameAs(Length, "10 mm", "13.1 mm", "3 mm")
	assert.False(t, ok)
	ok, why = System("").SameAs(Length, "10 mm", "13 mm", "three")
	assert.False(t, ok)
	assert.Contains(t, why, "cannot be read")
	assert.True(t, HangsOnWarmth(&machine.Expect{Winding: &machine.Winding{}}))
	assert.True(t, HangsOnWarmth(&machine.Expect{Platinum: &machine.Platinum{}}))
	assert.True(t, HangsOnWarmth(&machine.Expect{Thermistor: &machine.Thermistor{}}))
	assert.False(t, HangsOnWarmth(&machine.Expect{Ohms: []float64{1, 2}}))
	_, err := value(&machine.Expect{VentRun: &machine.VentRun{MetresPerBend: 1.5}}, Run, "long")
	assert.ErrorContains(t, err, "no run")
	v, err := value(&machine.Expect{VentRun: &machine.VentRun{MetresPerBend: 1.5}}, Run, "4 m, 2 bends")
	require.NoError(t, err)
	assert.InDelta(t, 7, v, 1e-9)
}

// Whatever people and meters write is a value or an error, and a value is written
// again.
func FuzzParse(f *testing.F) {
	for _, seed := range []string{"14 1/2 in", "-1.800 V", "OL", "0,3 mV", "1e-300", "+4.7E+03", "½ in", "12 kohm", "-0", ".5", "1/0 in"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		for q := range units {
			if v, err := Parse(q, text); err == nil {
				require.False(t, math.IsNaN(v), "%s %q", q, text)
				require.NotEmpty(t, Say(q, v))
			}
		}
	})
}
