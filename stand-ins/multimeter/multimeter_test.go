package multimeter

import (
	"math"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/reading"
	"evensteps/library"
)

func dryer(t testing.TB, fault string) *Meter {
	t.Helper()
	m, err := library.Map("tidemoor-tv6")
	require.NoError(t, err)
	return &Meter{Map: m, Fault: fault, Percent: 0.5, Seed: 3}
}

// The common commands of IEEE 488.2 and the error queue of SCPI-99 (from memory).
func TestCommonCommands(t *testing.T) {
	m := dryer(t, "")
	var mistakes []string
	for ask, want := range map[string]string{"*IDN?": Name, "*idn?": Name, "*OPC?": "1", "*TST?": "0", "*ESR?": "0", "*RST": "", "SYST:ERR?": `0,"No error"`} {
		got, err := m.Answer(ask, &mistakes)
		require.NoError(t, err)
		assert.Equal(t, want, got, ask)
	}
	_, err := m.Answer("MEAS:SMELL?", &mistakes)
	require.NoError(t, err)
	got, _ := m.Answer("SYSTem:ERRor?", &mistakes)
	assert.Equal(t, `-113,"Undefined header"`, got)
	got, _ = m.Answer("SYST:ERR?", &mistakes)
	assert.Equal(t, `0,"No error"`, got, "the queue empties")
}

// What the meter shows is judged by the core as the fault it stands before.
func TestEveryMeasuredTestShowsItsFault(t *testing.T) {
	maps, err := library.Maps()
	require.NoError(t, err)
	warm := roomCelsius
	seen := 0
	for _, m := range maps {
		for i := range m.Tests {
			one := &m.Tests[i]
			if one.Measure == nil || !reading.OfMultimeter(reading.Quantity(one.Measure.Quantity)) || len(one.Measure.Between) != 2 {
				continue
			}
			for k := range one.Outcomes {
				for f, p := range one.Outcomes[k].Given {
					if p < 0.8 {
						continue
					}
					meter := &Meter{Map: m, Fault: f}
					q := reading.Quantity(one.Measure.Quantity)
					v, err := reading.Judge(one.Expect, reading.Write(q, over(meter.Reads(q, one.Measure.Between))), reading.Setting{Ambient: &warm})
					require.NoError(t, err)
					assert.Contains(t, one.Outcomes[k].Verdict, v.Verdict, "%s %s under %s: %s", m.ID, one.ID, f, v.Why)
					seen++
				}
			}
		}
	}
	assert.Greater(t, seen, 25)
}

func TestTheMeterHasAnErrorOfItsOwn(t *testing.T) {
	m := dryer(t, "")
	var mistakes []string
	_, err := m.Answer(`SIMulate:PROBes "element 2","element 1"`, &mistakes)
	require.NoError(t, err)
	differs := map[string]bool{}
	for range 20 {
		got, err := m.Answer("MEASure:RESistance?", &mistakes)
		require.NoError(t, err)
		v, err := strconv.ParseFloat(got, 64)
		require.NoError(t, err)
		assert.InEpsilon(t, 21.16, v, 0.0051, "230² / 2500 within half a percent, either way round")
		differs[got] = true
	}
	assert.Greater(t, len(differs), 10)
	_, err = m.Answer(`SIM:PROB "the cat","the hat"`, &mistakes)
	require.NoError(t, err)
	got, _ := m.Answer("MEAS:RES?", &mistakes)
	assert.Equal(t, "+9.90000000E+37", got, "nothing conducts there")
	got, _ = m.Answer("MEAS:VOLT:AC?", &mistakes)
	assert.Equal(t, "+0.00000000E+00", got)
	assert.Empty(t, mistakes)
}

// over is how people write what is over the range.
func over(v float64) float64 {
	if v >= Overload {
		return math.Inf(1)
	}
	return v
}
