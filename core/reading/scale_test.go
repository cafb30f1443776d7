package reading_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/machine"
	"evensteps/core/reading"
)

// The limits of an element of 2,500 W at 230 V, 21.16 ohm by Ohm's law, with 8 % to
// either side: 19.47 to 22.85 ohm.
func element(t *testing.T, text string, s reading.Setting) reading.Verdict {
	t.Helper()
	v, err := reading.Judge(&machine.Expect{Ohms: []float64{19.47, 22.85}}, text, s)
	require.NoError(t, err)
	return v
}

func TestAReadingOnItsScale(t *testing.T) {
	leads := 0.2
	accuracy, err := reading.ParseAccuracy(reading.Resistance, "0.9%+3@0.1ohm")
	require.NoError(t, err)
	v := element(t, "21.4", reading.Setting{Leads: &leads, Accuracy: &accuracy})
	s := v.Scale(reading.Metric)
	require.NotNil(t, s)
	assert.Equal(t, "21.2 ± 0.49 Ω", s.Says, "the leads are off, the meter's error stands beside it: 0.9 % of 21.4 and 3 digits of 0.1")
	require.NotNil(t, s.Low)
	require.NotNil(t, s.High)
	assert.Less(t, *s.Low, s.Error[0])
	assert.Less(t, s.Error[0], s.At)
	assert.Less(t, s.At, s.Error[1])
	assert.Less(t, s.Error[1], *s.High, "a pass lies wholly inside")
	assert.Empty(t, s.Beyond)
	for i, m := range s.Marks {
		assert.GreaterOrEqual(t, m.At, 0.0)
		assert.LessOrEqual(t, m.At, 1.0)
		if i > 0 {
			assert.Greater(t, m.At, s.Marks[i-1].At)
		}
	}
	assert.Equal(t, []string{"16", "18", "20", "22", "24", "26"}, says(s))
}

func says(s *reading.Scale) (out []string) {
	for _, m := range s.Marks {
		out = append(out, m.Say)
	}
	return out
}

func TestAReadingBeyondItsScale(t *testing.T) {
	s := element(t, "0.L", reading.Setting{}).Scale(reading.Metric)
	assert.Equal(t, "right", s.Beyond)
	assert.InDelta(t, 1, s.At, 1e-9)
	assert.Equal(t, "OL", s.Says)
	s = element(t, "0.4", reading.Setting{}).Scale(reading.Metric)
	assert.Equal(t, "left", s.Beyond)
	assert.InDelta(t, 0, s.At, 1e-9)
}

// A place on the scale is the same in both systems; the figures are each system's own.
func TestAScaleInBothSystems(t *testing.T) {
	v, err := reading.Judge(&machine.Expect{Temperature: []float64{50, 70}}, "60 C", reading.Setting{})
	require.NoError(t, err)
	metric, customary := v.Scale(reading.Metric), v.Scale(reading.Customary)
	assert.InDelta(t, (*metric.Low+*metric.High)/2, metric.At, 1e-9, "60 lies amid 50 and 70")
	assert.InDelta(t, (*customary.Low+*customary.High)/2, customary.At, 1e-9, "140 °F lies amid 122 and 158")
	assert.Equal(t, "60 °C", metric.Says)
	assert.Equal(t, "140 °F", customary.Says)
	assert.Contains(t, says(customary), "140")
}

// A minus sign before ohms is no good contact: it is a voltage on the part, or a slip.
func TestOhmsBelowNothing(t *testing.T) {
	closed := &machine.Expect{Continuity: "closed"}
	_, err := reading.Judge(closed, "-4 ohm", reading.Setting{})
	require.ErrorContains(t, err, "below nothing")
	v, err := reading.Judge(closed, "-0.1 ohm", reading.Setting{})
	require.NoError(t, err, "zeroed leads drift a little")
	assert.Equal(t, reading.Pass, v.Verdict)
	_, err = reading.Judge(&machine.Expect{Leakage: &machine.Leakage{MWPerCM2AtMost: 5}}, "-40", reading.Setting{})
	require.ErrorContains(t, err, "below nothing", "nor does a microwave leak less than nothing")
	ok, asked := reading.Meets(&machine.Expect{VentRun: &machine.VentRun{MetresAtMost: 8}}, "-8 m")
	assert.True(t, asked)
	assert.False(t, ok)
	for _, below := range []reading.Quantity{reading.Length, reading.Duration, reading.Capacitance, reading.Volume, reading.Count, reading.Combustible} {
		_, err = reading.Parse(below, "-3")
		require.Error(t, err, below)
	}
	cold, err := reading.Parse(reading.Temperature, "-18 C")
	require.NoError(t, err, "a freezer's air is below nought")
	assert.InDelta(t, -18, cold, 1e-9)
}

func TestNoScaleWhereThereIsNothingToDraw(t *testing.T) {
	v, err := reading.Judge(&machine.Expect{Continuity: "open"}, "OL", reading.Setting{})
	require.NoError(t, err)
	assert.Nil(t, v.Scale(reading.Metric))
	assert.Nil(t, reading.Verdict{Quantity: reading.Voltage, Low: math.Inf(-1), High: math.Inf(1)}.Scale(reading.Metric))
}
