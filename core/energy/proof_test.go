package energy

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"evensteps/core/machine"
)

func good() Measured {
	return Measured{Meter: "m-4", Before: "230 V", After: "231 V", Readings: []Reading{
		{[2]string{"L", "N"}, "0.3 V"}, {[2]string{"PE", "L"}, "0.1"}, {[2]string{"N", "PE"}, "0,2 V"},
	}}
}

func TestJudge(t *testing.T) {
	mains := Of(&machine.Energy{ID: "mains", Kind: "mains"}, &machine.Supply{System: "single-phase", Volts: 230})
	dead, highest, why := mains.Judge(good())
	assert.True(t, dead)
	assert.Equal(t, "0.3 V", highest)
	assert.Contains(t, why, "checked before and after")

	for name, c := range map[string]struct {
		spoil func(*Measured)
		says  string
	}{
		"a pair reads live":     {func(p *Measured) { p.Readings[1].Value = "117 V" }, "L to PE reads 117 V. Not dead"},
		"at the limit":          {func(p *Measured) { p.Readings[0].Value = "34 V" }, "Not dead"},
		"a pair is missing":     {func(p *Measured) { p.Readings = p.Readings[:2] }, "Measure between N and PE"},
		"no check before":       {func(p *Measured) { p.Before = "" }, "known live point before"},
		"the meter was dead":    {func(p *Measured) { p.Before = "0 V" }, "proves nothing"},
		"the meter died on the": {func(p *Measured) { p.After = "2 V" }, "after the readings, so it proves nothing"},
		"a reading is no value": {func(p *Measured) { p.Readings[0].Value = "OL" }, "Measure between L and N"},
	} {
		p := good()
		c.spoil(&p)
		dead, _, why := mains.Judge(p)
		assert.False(t, dead, name)
		assert.Contains(t, why, c.says, name)
	}
}

func TestEverySystemMeasuresEachLivePointToEarth(t *testing.T) {
	for system, n := range map[string]int{"single-phase": 3, "split-phase": 6, "three-phase": 10} {
		pairs := Of(&machine.Energy{Kind: "mains"}, &machine.Supply{System: system}).Points
		assert.Len(t, pairs, n, system)
		live := map[string]bool{}
		earthed := map[string]bool{}
		for _, p := range pairs {
			live[p[0]] = true
			if p[1] == "PE" {
				earthed[p[0]] = true
			}
		}
		assert.Equal(t, live, earthed, system)
	}
}

func TestGasIsProvenByPressure(t *testing.T) {
	gas := Of(&machine.Energy{Kind: "gas"}, nil)
	proof := func(first, later, after string) Measured {
		return Measured{Before: "20 mbar", After: after, Readings: []Reading{{gas.Points[0], first}, {gas.Points[1], later}}}
	}
	off, highest, _ := gas.Judge(proof("0", "0.1", "0 mbar"))
	assert.True(t, off)
	assert.Equal(t, "0.1 mbar", highest)
	off, _, why := gas.Judge(proof("0 mbar", "3 mbar", "0"))
	assert.False(t, off)
	assert.Contains(t, why, "lets by")
	off, _, why = gas.Judge(proof("0", "0", "4 mbar"))
	assert.False(t, off)
	assert.Contains(t, why, "should show nothing")
	off, _, _ = gas.Judge(Measured{Before: "0 mbar", After: "0", Readings: proof("0", "0", "0").Readings})
	assert.False(t, off, "a gauge that never showed pressure proves nothing")
}

func TestHeatAndChargeHaveTheirOwnProof(t *testing.T) {
	heat := Of(&machine.Energy{Kind: "heat"}, nil)
	off, highest, _ := heat.Judge(Measured{Before: "35 C", After: "36", Readings: []Reading{{heat.Points[0], "41"}}})
	assert.True(t, off)
	assert.Equal(t, "41 °C", highest)
	off, _, why := heat.Judge(Measured{Before: "35 C", After: "36", Readings: []Reading{{heat.Points[0], "160 F"}}})
	assert.False(t, off)
	assert.Contains(t, why, "Too hot to touch")

	charge := Of(&machine.Energy{Kind: "charge"}, nil)
	p := Measured{Before: "230 V", After: "230 V"}
	for _, pair := range charge.Points {
		p.Readings = append(p.Readings, Reading{pair, "2 V"})
	}
	off, _, _ = charge.Judge(p)
	assert.True(t, off, "between the terminals and from each to the frame")
	p.Readings[1].Value = "1.4 kV"
	off, _, why = charge.Judge(p)
	assert.False(t, off)
	assert.Contains(t, why, "terminal 1 to frame reads 1.4 kV")
}
