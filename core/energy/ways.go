package energy

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"evensteps/core/machine"
	"evensteps/core/reading"
)

// The ways of proving an energy off, as maps and records name them.
const (
	Meter    = "meter"
	InHand   = "in-hand"
	LetBy    = "let-by"
	BurnOff  = "burn-off"
	Detector = "detector"
	RunsDry  = "runs-dry"
	Warm     = "touch-warm"
	Held     = "held"
)

// Names are what people call the ways.
var Names = map[string]string{
	Meter: "By meter", InHand: "Plug in the hand", LetBy: "By gauge at the nipple", BurnOff: "By the flame", Detector: "By gas detector", RunsDry: "Runs dry", Warm: "By thermometer", Held: "Held",
}

// Offered are the ways in which a move can prove an energy here and now, the
// best first: those of the map, or the first of the energy's kind. The flame is
// offered only where one was seen burning as the cock was shut.
func Offered(e *machine.Energy, mv *machine.Move, flame bool) []string {
	ways := []string(mv.Proof)
	if len(ways) == 0 {
		ways = machine.Ways(e.Kind)[:1]
	}
	return slices.DeleteFunc(slices.Clone(ways), func(w string) bool { return w == BurnOff && !flame })
}

// wantedCategory is the measurement category that outlets and terminal blocks
// want: III, the wiring of the building (IEC 61010-2-030, from memory).
const wantedCategory = 3

var roman = []string{"", "I", "II", "III", "IV"}

// Rating is what stands on a meter: its measurement category, 1 to 4, and for
// how many volts it is rated. Zero where it is not known.
type Rating struct {
	Category int
	Volts    float64
}

var rating = regexp.MustCompile(`(?i)^\s*(?:cat\.?\s*)?(iv|iii|ii|i|[1-4])\b[\s,/]*(?:(.+))?$`)

// ReadRating reads a category as it stands on a meter: "CAT III 600 V", "III",
// "cat 4 / 600V". ok is false for anything else.
func ReadRating(text string) (r Rating, ok bool) {
	m := rating.FindStringSubmatch(text)
	if m == nil {
		return r, false
	}
	r.Category = slices.Index(roman, strings.ToUpper(m[1]))
	if n, err := strconv.Atoi(m[1]); err == nil {
		r.Category = n
	}
	if strings.TrimSpace(m[2]) != "" {
		w, err := reading.Read(reading.Voltage, m[2])
		if err != nil || w.Value <= 0 {
			return Rating{}, false
		}
		r.Volts = w.Value
		if w.Or != 0 { // 1,000 V on a label
			r.Volts = w.Or
		}
	}
	return r, true
}

// ProofStep is one thing to do and to write down for a proof, in its order.
type ProofStep struct {
	Key     string        `json:"key"`   // names what is written, in a draft of the proof
	Label   string        `json:"label"` // "Before", "L to N"
	Note    string        `json:"note"`
	Do      string        `json:"do"`   // the whole of it, as one line
	Unit    string        `json:"unit"` // of a value; empty for words
	Answers []ProofAnswer `json:"answers"`
	May     bool          `json:"may"` // it may be left out
}

// ProofAnswer is one of the things that may have been seen.
type ProofAnswer struct {
	Value string `json:"value"`
	Say   string `json:"say"`
}

// Draft is a proof as it is typed, by the keys of its steps.
type Draft map[string]string

// Steps are what is done and written down, in order. They hang on what was typed
// so far: a pair that shows volts is measured again. m is what is known of the
// meter.
func (a Ask) Steps(d Draft, m Rating) []ProofStep {
	steps := []ProofStep{}
	text := func(key, label, note, do string, may bool) {
		steps = append(steps, ProofStep{Key: key, Label: label, Note: note, Do: do, Answers: []ProofAnswer{}, May: may})
	}
	value := func(key, label, note, do string, q reading.Quantity) {
		steps = append(steps, ProofStep{Key: key, Label: label, Note: note, Do: do, Unit: q.Unit(), Answers: []ProofAnswer{}})
	}
	see := func(key, label, do string, answers ...ProofAnswer) {
		steps = append(steps, ProofStep{Key: key, Label: label, Do: do, Answers: answers})
	}
	pairs := func(q reading.Quantity, do func(pair [2]string) string) {
		for _, p := range a.Points {
			value(pairKey(p), p[0]+" to "+p[1], "", do(p), q)
		}
	}
	switch a.Way {
	case Meter:
		if a.Kind == "charge" {
			text("meter", "Meter", "the number on its label", "Take the meter or probe, and write down its number.", false)
			if m.Volts == 0 {
				above := "its volts"
				if a.Peak > 0 {
					above = fmt.Sprintf("above %.0f V", a.Peak)
				}
				value("rated", "Rated for", above, "Write down for how many volts it is rated.", reading.Voltage)
			}
			value("before", "Before", "a known DC source: 9 V cell", "Set the meter to DC volts. Check it on a known DC source, a 9 V cell, never on a socket.", reading.Voltage)
			text("source", "Source gives", "9 V where left empty", "Another source than a 9 V cell: write down what it gives.", true)
			pairs(reading.Voltage, func(p [2]string) string {
				return fmt.Sprintf("Hold the probes on %s and %s, ten seconds.", p[0], p[1])
			})
			value("after", "After", "the same DC source", "Check the meter on the same DC source again.", reading.Voltage)
			break
		}
		text("meter", "Meter", "the number on its label", "Take the meter, and write down its number.", false)
		if m.Category == 0 {
			text("category", "Category", "as CAT III 600 V, once", "Read its category off the meter; CAT III is wanted.", true)
		}
		value("before", "Before", "a known live source", "Set the meter to AC volts. Check it on a known live source.", reading.Voltage)
		for _, p := range a.Points {
			value(pairKey(p), p[0]+" to "+p[1], "", fmt.Sprintf("Measure %s to %s.", p[0], p[1]), reading.Voltage)
			if w, err := reading.Read(reading.Voltage, d[pairKey(p)]); err == nil && max(w.Value, -w.Value) >= ghostVolts {
				value("again:"+pairKey(p), p[0]+" to "+p[1]+" again", "low impedance, or a load", fmt.Sprintf("%s to %s again: on the low-impedance range, or under a load.", p[0], p[1]), reading.Voltage)
			}
		}
		value("after", "After", "the same live source", "Check the meter on the same source again.", reading.Voltage)
	case LetBy:
		at := a.At
		if at == "" {
			at = "the test nipple"
		}
		text("meter", "Gauge", "the number on its label", fmt.Sprintf("Cock shut: join the gauge to %s.", at), false)
		value("standing", "Cock open", "standing pressure", "Open the cock, and write down the standing pressure.", reading.Pressure)
		value("rise", "Cock shut", "rise in two minutes", "Shut the cock, let the pressure off, and write down by how much it rises in two minutes.", reading.Pressure)
	case BurnOff:
		see("flame", "The flame", "Shut the cock and watch the flame.", ProofAnswer{"died", "It died"}, ProofAnswer{"burns", "It burns on"})
		see("tried", "A new try", "Try to light it again.", ProofAnswer{"no-light", "It does not light"}, ProofAnswer{"lit", "It lit"})
	case Detector:
		text("meter", "Detector", "the number on its label", "Take the detector, and write down its number.", false)
		value("before", "Before", "a known source", "Check the detector on a known source.", reading.Combustible)
		value(pairKey(a.Points[0]), "At the joint", "two minutes", "Crack the joint. Two minutes: held low for LP, high for natural gas.", reading.Combustible)
		value("after", "After", "the same source", "Check the detector on the same source again.", reading.Combustible)
	case RunsDry:
		see("stopped", "The joint", "Tray under it. Crack the joint: what comes stops.", ProofAnswer{"stopped", "It stopped"}, ProofAnswer{"runs", "It runs on"})
		see("came", "Two minutes", "Wait two minutes.", ProofAnswer{"nothing", "Nothing came"}, ProofAnswer{"drips", "It drips"})
	case Warm:
		text("meter", "Thermometer", "the number on its label", "Take the thermometer, and write down its number.", false)
		pairs(reading.Temperature, func([2]string) string { return "Measure the hottest part." })
	case Held:
		text("held", "Held by", "what holds it", "Secure it, and write down what holds it.", false)
		see("tried", "Tried", "Try it.", ProofAnswer{"holds", "It holds"}, ProofAnswer{"moves", "It moved"})
	}
	return steps
}

func pairKey(p [2]string) string { return p[0] + "-" + p[1] }

// Of is the proof that a draft makes: each value with its unit, as it was typed.
func (a Ask) Of(d Draft) Proof {
	p := Proof{Way: a.Way}
	typed := func(key string) string { return strings.TrimSpace(d[key]) }
	volts := func(q reading.Quantity, key string) string {
		if typed(key) == "" {
			return ""
		}
		return withUnit(q, typed(key))
	}
	pairs := func(q reading.Quantity) {
		for _, pair := range a.Points {
			if v := volts(q, pairKey(pair)); v != "" {
				p.Readings = append(p.Readings, Reading{pair[:], v})
			}
			if v := volts(q, "again:"+pairKey(pair)); v != "" {
				p.Again = append(p.Again, Reading{pair[:], v})
			}
		}
	}
	p.Meter = typed("meter")
	switch a.Way {
	case Meter:
		p.Category, p.Rated, p.Source = typed("category"), volts(reading.Voltage, "rated"), volts(reading.Voltage, "source")
		p.Before, p.After = volts(reading.Voltage, "before"), volts(reading.Voltage, "after")
		pairs(reading.Voltage)
	case LetBy:
		p.Standing, p.Rise = volts(reading.Pressure, "standing"), volts(reading.Pressure, "rise")
	case BurnOff:
		p.Flame, p.Tried = typed("flame"), typed("tried")
	case Detector:
		p.Before, p.After = volts(reading.Combustible, "before"), volts(reading.Combustible, "after")
		pairs(reading.Combustible)
	case RunsDry:
		p.Stopped, p.Came = typed("stopped"), typed("came")
	case Warm:
		pairs(reading.Temperature)
	case Held:
		p.Held, p.Tried = typed("held"), typed("tried")
	}
	return p
}

// Open are the steps that are still to be done, by their labels.
func (a Ask) Open(d Draft, m Rating) []string {
	var open []string
	for _, s := range a.Steps(d, m) {
		if strings.TrimSpace(d[s.Key]) == "" && !s.May {
			what := s.Label
			if s.Note != "" {
				what += ", " + s.Note
			}
			open = append(open, what)
		}
	}
	return open
}

// Colours are the colours that the conductors of a supply system have where it
// is used, in words; empty where nothing is known. They never identify a
// conductor: old wiring, other trades and heat change them, and the same blue is
// a neutral here and a switched wire there. Protective conductors are green and
// yellow and neutrals blue by IEC 60445; North American neutrals are white or
// grey, earths green or bare (NEC 200.6 and 250.119; all from memory).
func Colours(s *machine.Supply) string {
	if s == nil {
		return ""
	}
	switch s.System {
	case "split-phase":
		return "Usually here: L1 black, L2 red, N white, PE green or bare. A colour is no proof."
	case "single-phase":
		return "Usually here: L brown, N blue, PE green and yellow. A colour is no proof."
	case "three-phase":
		return "Usually here: L1 brown, L2 black, L3 grey, N blue, PE green and yellow. A colour is no proof."
	}
	return ""
}

// Plate is what the rating plate asks for, in words: "240 V, 60 Hz, 30 A"; empty
// where the map does not say.
func Plate(s *machine.Supply) string {
	if s == nil {
		return ""
	}
	var words []string
	for _, one := range []struct {
		value float64
		unit  string
	}{{s.Volts, "V"}, {s.Hertz, "Hz"}, {s.Amps, "A"}} {
		if one.value > 0 {
			words = append(words, fmt.Sprintf("%g %s", one.value, one.unit))
		}
	}
	return strings.Join(words, ", ")
}

// points are the pairs of supply points to measure between, for a supply
// system: every live point to every other, and to earth.
func points(s *machine.Supply) [][2]string {
	if s == nil {
		return [][2]string{{"L", "N"}, {"L", "PE"}, {"N", "PE"}}
	}
	switch s.System {
	case "split-phase":
		return [][2]string{{"L1", "L2"}, {"L1", "N"}, {"L2", "N"}, {"L1", "PE"}, {"L2", "PE"}, {"N", "PE"}}
	case "three-phase":
		return [][2]string{{"L1", "L2"}, {"L2", "L3"}, {"L1", "L3"}, {"L1", "N"}, {"L2", "N"}, {"L3", "N"}, {"L1", "PE"}, {"L2", "PE"}, {"L3", "PE"}, {"N", "PE"}}
	}
	return [][2]string{{"L", "N"}, {"L", "PE"}, {"N", "PE"}}
}
