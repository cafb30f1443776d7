package energy

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"evensteps/core/machine"
)

func written(steps []ProofStep) string {
	var b strings.Builder
	for _, s := range steps {
		fmt.Fprintf(&b, "%s | %s | %s | %s | %s", s.Key, s.Label, s.Note, s.Do, s.Unit)
		for _, a := range s.Answers {
			fmt.Fprintf(&b, " | %s: %s", a.Value, a.Say)
		}
		if s.May {
			b.WriteString(" | may be left out")
		}
		b.WriteString("\n")
	}
	return b.String()
}

// The sequences as a technician is led through them, word for word.
func TestTheSequences(t *testing.T) {
	single := &machine.Supply{System: "single-phase", Volts: 230}
	for name, c := range map[string]struct {
		a    Ask
		d    Draft
		m    Rating
		want string
	}{
		"mains": {For(&machine.Energy{Kind: "mains"}, single, Meter, ""), nil, Rating{}, `meter | Meter | the number on its label | Take the meter, and write down its number. | 
category | Category | as CAT III 600 V, once | Read its category off the meter; CAT III is wanted. |  | may be left out
before | Before | a known live source | Set the meter to AC volts. Check it on a known live source. | V
L-N | L to N |  | Measure L to N. | V
L-PE | L to PE |  | Measure L to PE. | V
N-PE | N to PE |  | Measure N to PE. | V
after | After | the same live source | Check the meter on the same source again. | V
`},
		"mains, a ghost": {For(&machine.Energy{Kind: "mains"}, single, Meter, ""), Draft{"L-N": "10", "N-PE": "9.9"}, known, `meter | Meter | the number on its label | Take the meter, and write down its number. | 
before | Before | a known live source | Set the meter to AC volts. Check it on a known live source. | V
L-N | L to N |  | Measure L to N. | V
again:L-N | L to N again | low impedance, or a load | L to N again: on the low-impedance range, or under a load. | V
L-PE | L to PE |  | Measure L to PE. | V
N-PE | N to PE |  | Measure N to PE. | V
after | After | the same live source | Check the meter on the same source again. | V
`},
		"charge": {charge(), nil, Rating{}, `meter | Meter | the number on its label | Take the meter or probe, and write down its number. | 
rated | Rated for | above 2970 V | Write down for how many volts it is rated. | V
before | Before | a known DC source: 9 V cell | Set the meter to DC volts. Check it on a known DC source, a 9 V cell, never on a socket. | V
source | Source gives | 9 V where left empty | Another source than a 9 V cell: write down what it gives. |  | may be left out
terminal 1-frame | terminal 1 to frame |  | Hold the probes on terminal 1 and frame, ten seconds. | V
terminal 2-frame | terminal 2 to frame |  | Hold the probes on terminal 2 and frame, ten seconds. | V
terminal 1-terminal 2 | terminal 1 to terminal 2 |  | Hold the probes on terminal 1 and terminal 2, ten seconds. | V
after | After | the same DC source | Check the meter on the same DC source again. | V
`},
		"let-by": {For(&machine.Energy{Kind: "gas"}, nil, LetBy, ""), nil, Rating{}, `meter | Gauge | the number on its label | Cock shut: join the gauge to the test nipple. | 
standing | Cock open | standing pressure | Open the cock, and write down the standing pressure. | mbar
rise | Cock shut | rise in two minutes | Shut the cock, let the pressure off, and write down by how much it rises in two minutes. | mbar
`},
		"burn-off": {For(&machine.Energy{Kind: "gas"}, nil, BurnOff, ""), nil, Rating{}, `flame | The flame |  | Shut the cock and watch the flame. |  | died: It died | burns: It burns on
tried | A new try |  | Try to light it again. |  | no-light: It does not light | lit: It lit
`},
		"detector": {For(&machine.Energy{Kind: "gas"}, nil, Detector, ""), nil, Rating{}, `meter | Detector | the number on its label | Take the detector, and write down its number. | 
before | Before | a known source | Check the detector on a known source. | % LEL
joint-air | At the joint | two minutes | Crack the joint. Two minutes: held low for LP, high for natural gas. | % LEL
after | After | the same source | Check the detector on the same source again. | % LEL
`},
		"runs-dry": {For(&machine.Energy{Kind: "water"}, nil, RunsDry, ""), nil, Rating{}, `stopped | The joint |  | Tray under it. Crack the joint: what comes stops. |  | stopped: It stopped | runs: It runs on
came | Two minutes |  | Wait two minutes. |  | nothing: Nothing came | drips: It drips
`},
		"touch-warm": {For(&machine.Energy{Kind: "heat"}, nil, Warm, ""), nil, Rating{}, `meter | Thermometer | the number on its label | Take the thermometer, and write down its number. | 
hottest part-air | hottest part to air |  | Measure the hottest part. | °C
`},
		"held": {For(&machine.Energy{Kind: "spring"}, nil, Held, ""), nil, Rating{}, `held | Held by | what holds it | Secure it, and write down what holds it. | 
tried | Tried |  | Try it. |  | holds: It holds | moves: It moved
`},
		"in the hand": {For(&machine.Energy{Kind: "mains"}, nil, InHand, ""), nil, Rating{}, ""},
	} {
		assert.Equal(t, c.want, written(c.a.Steps(c.d, c.m)), name)
	}
	assert.Contains(t, written(For(&machine.Energy{Kind: "gas"}, nil, LetBy, "the test nipple of the valve").Steps(nil, Rating{})), "join the gauge to the test nipple of the valve.")
	bare := For(&machine.Energy{Kind: "charge"}, nil, Meter, "")
	assert.Contains(t, written(bare.Steps(nil, Rating{})), "rated | Rated for | its volts", "a map that gives no capacitor")
	assert.NotContains(t, written(charge().Steps(nil, Rating{Volts: 5000})), "rated |", "the company's list knows it")
	p := discharged()
	p.Rated = ""
	assert.True(t, bare.Judge(p, Rating{}).Off)

	assert.Equal(t, []string{"The flame", "A new try"}, For(&machine.Energy{Kind: "gas"}, nil, BurnOff, "").Open(nil, Rating{}))
	assert.Equal(t, []string{"Cock shut, rise in two minutes"}, For(&machine.Energy{Kind: "gas"}, nil, LetBy, "").Open(Draft{"meter": "1", "standing": "20"}, Rating{}))
}

func TestWhatIsTypedBecomesTheProof(t *testing.T) {
	p := mains().Of(Draft{"meter": " 4 ", "category": "III", "before": "230", "L-N": "0,3", "L-PE": " 12 mV ", "again:L-N": "1", "after": "231 V"})
	assert.Equal(t, Proof{
		Way: Meter, Meter: "4", Category: "III", Before: "230 V", After: "231 V",
		Readings: []Reading{{[]string{"L", "N"}, "0,3 V"}, {[]string{"L", "PE"}, "12 mV"}}, Again: []Reading{{[]string{"L", "N"}, "1 V"}},
	}, p, "what is not typed is not there, and a unit that was typed stays")
	assert.Equal(t, Proof{Way: Detector, Before: "20 % LEL", Readings: []Reading{{[]string{"joint", "air"}, "0 %"}}}, For(&machine.Energy{Kind: "gas"}, nil, Detector, "").Of(Draft{"before": "20", "joint-air": "0 %"}))
	older := Proof{By: Meter}
	assert.Equal(t, Meter, older.How())
	newer := Proof{By: Meter, Way: LetBy}
	assert.Equal(t, LetBy, newer.How())
}

// What is exactly at a limit.
func TestAtTheLimits(t *testing.T) {
	p := good()
	p.Before, p.After = "230 V", "207 V"
	assert.True(t, mains().Judge(p, known).Off, "10 % apart is within 10 %")
	p.After = "206 V"
	assert.False(t, mains().Judge(p, known).Off)
	p = discharged()
	for after, off := range map[string]bool{"9.9 V": true, "8.1 V": true, "8.0 V": false, "10 V": false} {
		p.Before, p.After = "9 V", after
		assert.Equal(t, off, charge().Judge(p, Rating{}).Off, after)
	}
	p = discharged()
	p.Before, p.After = "9.9 V", "8.1 V"
	assert.False(t, charge().Judge(p, Rating{}).Off, "each near its source, and too far apart")
	peak := charge().Peak
	p = discharged()
	p.Rated = ""
	assert.False(t, charge().Judge(p, Rating{Volts: peak}).Off, "rated at the peak is not above it")
	gas := For(&machine.Energy{Kind: "gas"}, nil, Detector, "")
	q := Proof{Before: "5 % LEL", After: "5 % LEL", Readings: []Reading{{[]string{"joint", "air"}, "0.9 % LEL"}}}
	assert.True(t, gas.Judge(q, Rating{}).Off)
	q.Readings = nil
	assert.Contains(t, gas.Judge(q, Rating{}).Why, "Measure joint to air")
	p = good()
	p.Readings[1].Value, p.Readings[2].Value = "0.3", "0.1"
	assert.Equal(t, "0.3 V", mains().Judge(p, known).Highest, "of two that are alike the first")
	p.Source = "x"
	assert.True(t, mains().Judge(p, known).Off, "a live source needs no word")
	p = discharged()
	p.Source = "a cell"
	assert.Contains(t, charge().Judge(p, Rating{}).Why, "What the known source gives")
	assert.Contains(t, Colours(&machine.Supply{System: "split-phase"}), "L2 red")
	assert.Contains(t, Colours(&machine.Supply{System: "three-phase"}), "L3 grey")
	assert.Contains(t, Colours(&machine.Supply{System: "single-phase"}), "N blue")
	assert.Empty(t, Colours(nil))
	assert.Empty(t, upper(""))
}
