// Package energy judges whether something that can hurt was shown to be off.
//
// Off is not dead: proving needs its own step. Each kind of energy has its ways
// of being proven, each a sequence of what is done and written down (ways.go);
// what was written is judged here. Sizes count, not signs: probes that were
// swapped read minus. A unit that was written is kept and judged. The package
// never says that a machine is safe; it says what was read.
package energy

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"evensteps/core/machine"
	"evensteps/core/reading"
)

// For is what a proof of this energy has to hold in this way, on a machine with
// this supply. at is where the map says that the instrument goes.
func For(e *machine.Energy, s *machine.Supply, way, at string) Ask {
	a := Ask{Kind: e.Kind, Way: way, At: at}
	if s != nil {
		a.Volts = s.Volts
	}
	switch {
	case way == Meter && e.Kind == "charge":
		a.Points = [][2]string{{"terminal 1", "frame"}, {"terminal 2", "frame"}, {"terminal 1", "terminal 2"}}
		if e.Capacitor != nil {
			a.Peak = PeakVolts(e.Capacitor.Volts)
		}
	case way == Meter:
		a.Points = points(s)
	case way == Warm:
		a.Points = [][2]string{{"hottest part", "air"}}
	case way == Detector:
		a.Points = [][2]string{{"joint", "air"}}
	}
	return a
}

// Judge says what a proof shows, by a meter of this category and rating.
func (a Ask) Judge(p Proof, m Rating) Judgement {
	switch a.Way {
	case InHand:
		return Judgement{Off: true, Highest: "plug in the hand", Why: "The plug is out, in the hand and in sight."}
	case Meter:
		return a.metered(p, m)
	case Warm:
		return a.warm(p)
	case Detector:
		return a.detected(p)
	case LetBy:
		return a.letBy(p)
	case BurnOff:
		return said(
			one{p.Flame, "died", "Watch the flame as the cock shuts, and say what it did.", "The flame burns on: the cock lets by. Shut it further up the pipe, and test it again."},
			one{p.Tried, "no-light", "Try to light it again, and say what it did.", "It lit again: gas still comes. Shut the gas further up the pipe, and test it again."},
		).off("flame died, no new light", "The flame died as the cock shut, and a new try did not light.")
	case RunsDry:
		return said(
			one{p.Stopped, "stopped", "Crack the joint over the tray and say whether the water stops.", "It runs on: the tap lets by. Shut the water further up, and test it again."},
			one{p.Came, "nothing", "Wait two minutes, and say whether anything came.", "It drips on: the tap lets by. Shut the water further up, and test it again."},
		).off("ran dry, nothing for two minutes", "It stopped, and nothing came for two minutes.")
	case Held:
		if strings.TrimSpace(p.Held) == "" {
			return Judgement{Why: "Say what holds it.", Missing: true}
		}
		return said(
			one{p.Tried, "holds", "Try it, and say whether it holds.", "It moved: it is not held. Secure it, and try it again."},
		).off("held by "+strings.TrimSpace(p.Held), "It is held, and that was tried.")
	}
	return Judgement{Why: "This energy cannot be tested off in that way."}
}

// one is something that was seen, and what it must have been.
type one struct{ is, must, ask, wrong string }

// seen is the first thing that is amiss of what was seen; the zero value where
// nothing is.
type seen Judgement

func said(list ...one) seen {
	for _, s := range list {
		switch s.is {
		case s.must:
		case "":
			return seen{Why: s.ask, Missing: true}
		default:
			return seen{Why: s.wrong}
		}
	}
	return seen{}
}

func (s seen) off(what, why string) Judgement {
	if s.Why != "" {
		return Judgement(s)
	}
	return Judgement{Off: true, Highest: what, Why: why}
}

// value reads one value of a proof. A value that cannot be read, or that may
// mean two things, is asked again.
func value(q reading.Quantity, what, text string) (reading.Written, *Judgement) {
	if strings.TrimSpace(text) == "" {
		return reading.Written{}, &Judgement{Why: upper(what) + ": write down what it shows.", Missing: true}
	}
	w, err := reading.Read(q, text)
	switch {
	case err != nil:
		return w, &Judgement{Why: fmt.Sprintf("%s: %s.", upper(what), err), Missing: true}
	case w.Or != 0:
		return w, &Judgement{Why: fmt.Sprintf("%s: %q may be %s or %s. Write it without the separator, or with another number of digits.", upper(what), strings.TrimSpace(text), reading.Say(q, w.Value), reading.Say(q, w.Or)), Missing: true}
	case w.Milli && w.Digits >= ghostVolts:
		return w, &Judgement{Why: fmt.Sprintf("%s: %q. Write it in whole volts, so that a range is not mistaken.", upper(what), strings.TrimSpace(text)), Missing: true}
	}
	return w, nil
}

// metered judges volts: of the mains by a meter that answers to a known live
// source, of stored charge by one that answers to a known DC source.
func (a Ask) metered(p Proof, m Rating) Judgement {
	before, wrong := a.check("before", p.Before, p.Source)
	if wrong != nil {
		return *wrong
	}
	note, wrong := a.rated(p, m)
	if wrong != nil {
		return *wrong
	}
	highest, wrong := a.read(reading.Voltage, SafeVolts, p)
	if wrong != nil {
		return *wrong
	}
	after, wrong := a.check("after", p.After, p.Source)
	if wrong != nil {
		return *wrong
	}
	if math.Abs(before-after) > agree*max(before, after)+1e-9 {
		return Judgement{Why: fmt.Sprintf("The meter showed %s before and %s after on the same source, more than 10 %% apart, so it proves nothing. Change its battery, probes or range and start again.", withUnit(reading.Voltage, p.Before), withUnit(reading.Voltage, p.After))}
	}
	return Judgement{Off: true, Highest: highest, Why: fmt.Sprintf("Highest reading %s, meter checked before and after.", highest), Note: note}
}

// check judges what the meter showed on its known source.
func (a Ask) check(when, text, source string) (float64, *Judgement) {
	on := "a known live source"
	if a.Kind == "charge" {
		on = "a known DC source"
	}
	if strings.TrimSpace(text) == "" {
		return 0, &Judgement{Why: fmt.Sprintf("Check the meter on %s %s the readings and write down what it shows.", on, when), Missing: true}
	}
	w, wrong := value(reading.Voltage, "the check "+when+" the readings", text)
	if wrong != nil {
		return 0, wrong
	}
	v := math.Abs(w.Value)
	proves := func(format string, args ...any) (float64, *Judgement) {
		say := fmt.Sprintf("The meter showed %s on %s %s the readings, so it proves nothing. ", withUnit(reading.Voltage, text), on, when)
		return 0, &Judgement{Why: say + fmt.Sprintf(format, args...)}
	}
	if a.Kind == "charge" {
		gives := cellVolts
		if strings.TrimSpace(source) != "" {
			s, wrong := value(reading.Voltage, "what the known source gives", source)
			if wrong != nil {
				return 0, wrong
			}
			if s.AC {
				return 0, &Judgement{Why: "A charge is DC: check the meter on a known DC source, a 9 V cell or its maker's check, never on a socket."}
			}
			gives = math.Abs(s.Value)
		}
		switch {
		case w.AC:
			return proves("A charge is DC: set the meter to DC volts and check it on a 9 V cell, never on a socket.")
		case math.Abs(v-gives) > agree*gives+1e-9:
			return proves("The source gives %s: set the meter to DC volts, change its battery or probes, and start again.", reading.Say(reading.Voltage, gives))
		}
		return v, nil
	}
	switch {
	case w.DC:
		return proves("The mains are AC: set the meter to AC volts and start again.")
	case v < liveVolts:
		return proves("Change its battery, probes or range and start again.")
	case v > mostVolts:
		return proves("No source here gives that much: look at its range and start again.")
	}
	return v, nil
}

// rated judges whether the meter may be used here; a category that nobody knows
// leaves a note.
func (a Ask) rated(p Proof, m Rating) (note string, wrong *Judgement) {
	if a.Kind == "charge" {
		volts := m.Volts
		if w, err := reading.Read(reading.Voltage, p.Rated); err == nil && w.Or == 0 && !w.Milli {
			volts = math.Abs(w.Value)
		}
		if a.Peak > 0 && volts <= a.Peak {
			return "", &Judgement{Why: fmt.Sprintf("Up to %.0f V may stand here: measure with a meter or probe that is rated above it, and write down for what it is rated.", a.Peak), Missing: volts == 0}
		}
		return "", nil
	}
	if m.Category == 0 && m.Volts == 0 && strings.TrimSpace(p.Category) != "" {
		said, ok := ReadRating(p.Category)
		if !ok {
			return "", &Judgement{Why: fmt.Sprintf("%q is no category; write it as it stands on the meter: CAT III 600 V.", p.Category), Missing: true}
		}
		m = said
	}
	switch {
	case m.Category > 0 && m.Category < wantedCategory:
		return "", &Judgement{Why: fmt.Sprintf("This meter is of category %s: at outlets and terminal blocks take one of CAT III or IV.", roman[m.Category])}
	case m.Volts > 0 && m.Volts < a.Volts:
		return "", &Judgement{Why: fmt.Sprintf("This meter is rated for %.0f V, the supply is %.0f V: take one that is rated for it.", m.Volts, a.Volts)}
	case m.Category == 0:
		return "The meter's category is not known; CAT III is wanted here.", nil
	}
	return "", nil
}

// read judges the readings between the pairs of points: each must be there, and
// its size below the limit. highest is the greatest as it was written.
func (a Ask) read(q reading.Quantity, limit float64, p Proof) (highest string, wrong *Judgement) {
	for _, list := range [][]Reading{p.Readings, p.Again} {
		for _, r := range list {
			if len(r.Between) != 2 || !slices.ContainsFunc(a.Points, func(pair [2]string) bool { return joins(r, pair) }) {
				return "", &Judgement{Why: fmt.Sprintf("%s is no pair to measure here. Measure %s.", strings.Join(r.Between, " to "), a.pairs())}
			}
		}
	}
	most := -1.0
	for _, pair := range a.Points {
		name := pair[0] + " to " + pair[1]
		found := false
		for _, r := range p.Readings {
			if !joins(r, pair) {
				continue
			}
			found = true
			w, wrong := value(q, name, r.Value)
			if wrong != nil {
				return "", wrong
			}
			if wrong := a.kind(name, r.Value, w); wrong != nil {
				return "", wrong
			}
			v := math.Abs(w.Value)
			if a.Kind == "mains" && v >= ghostVolts {
				if v, wrong = a.loaded(name, r.Value, pair, p.Again); wrong != nil {
					return "", wrong
				}
			}
			if v >= limit {
				return "", &Judgement{Highest: withUnit(q, r.Value), Why: fmt.Sprintf("%s reads %s. %s", name, withUnit(q, r.Value), a.then())}
			}
			if math.Abs(w.Value) > most {
				most, highest = math.Abs(w.Value), withUnit(q, r.Value)
			}
		}
		if !found {
			return "", &Judgement{Why: fmt.Sprintf("Measure %s.", name), Missing: true}
		}
	}
	return highest, nil
}

// kind refuses the unit of the other kind of volts.
func (a Ask) kind(name, text string, w reading.Written) *Judgement {
	switch {
	case a.Kind == "charge" && w.AC:
		return &Judgement{Why: fmt.Sprintf("%s: %s. A charge is DC and reads about 0 on the AC range: set the meter to DC volts and measure again.", name, strings.TrimSpace(text))}
	case a.Kind == "mains" && w.DC:
		return &Judgement{Why: fmt.Sprintf("%s: %s. The mains are AC and read about 0 on the DC range: set the meter to AC volts and measure again.", name, strings.TrimSpace(text))}
	}
	return nil
}

// loaded is the size of the second reading of a pair, on a low-impedance range
// or under a load: it tells a ghost from a feed.
func (a Ask) loaded(name, text string, pair [2]string, again []Reading) (float64, *Judgement) {
	most, found := 0.0, false
	for _, r := range again {
		if !joins(r, pair) || strings.TrimSpace(r.Value) == "" {
			continue
		}
		w, wrong := value(reading.Voltage, name+" again", r.Value)
		if wrong != nil {
			return 0, wrong
		}
		if wrong := a.kind(name, r.Value, w); wrong != nil {
			return 0, wrong
		}
		found, most = true, max(most, math.Abs(w.Value))
	}
	if !found {
		return 0, &Judgement{Highest: withUnit(reading.Voltage, text), Why: fmt.Sprintf("%s reads %s. Not dead yet: treat as live. Measure it again on the low-impedance range, or under a load.", name, withUnit(reading.Voltage, text)), Missing: true}
	}
	if most >= SafeVolts {
		return 0, &Judgement{Highest: reading.Say(reading.Voltage, most), Why: fmt.Sprintf("%s reads %s again. %s", name, reading.Say(reading.Voltage, most), a.then())}
	}
	return most, nil
}

func (a Ask) warm(p Proof) Judgement {
	highest, wrong := a.read(reading.Temperature, coolCelsius, p)
	if wrong != nil {
		return *wrong
	}
	return Judgement{Off: true, Highest: highest, Why: fmt.Sprintf("The hottest part reads %s.", highest)}
}

func (a Ask) detected(p Proof) Judgement {
	for _, c := range []struct{ when, text string }{{"before", p.Before}, {"after", p.After}} {
		if c.when == "after" {
			if _, wrong := a.read(reading.Combustible, noneLEL, p); wrong != nil {
				return *wrong
			}
		}
		w, wrong := value(reading.Combustible, "the detector on its known source, "+c.when, c.text)
		if wrong != nil {
			return *wrong
		}
		if w.Value < sourceLEL {
			return Judgement{Why: fmt.Sprintf("The detector showed %s on its known source %s the joint, so it proves nothing. Charge or change it and start again.", withUnit(reading.Combustible, c.text), c.when)}
		}
	}
	return Judgement{Off: true, Highest: withUnit(reading.Combustible, p.Readings[0].Value), Why: "Nothing at the cracked joint for two minutes, the detector checked before and after."}
}

func (a Ask) letBy(p Proof) Judgement {
	w, wrong := value(reading.Pressure, "the standing pressure with the cock open", p.Standing)
	if wrong != nil {
		return *wrong
	}
	if math.Abs(w.Value) < standingMillibars {
		return Judgement{Why: fmt.Sprintf("The gauge showed %s with the cock open, so it proves nothing. Look at the hose, the nipple and the gauge, and start again.", withUnit(reading.Pressure, p.Standing))}
	}
	w, wrong = value(reading.Pressure, "the rise in two minutes", p.Rise)
	if wrong != nil {
		return *wrong
	}
	if math.Abs(w.Value) > riseMillibars {
		return Judgement{Highest: withUnit(reading.Pressure, p.Rise), Why: fmt.Sprintf("It rose by %s in two minutes. %s", withUnit(reading.Pressure, p.Rise), a.then())}
	}
	rise := withUnit(reading.Pressure, p.Rise)
	return Judgement{Off: true, Highest: "rise " + rise, Why: fmt.Sprintf("It rose by %s in two minutes, at most 0.5 mbar: the cock holds.", rise)}
}

func (a Ask) then() string {
	switch a.Kind {
	case "mains":
		return "Not dead: treat as live, find the other feed and measure again."
	case "charge":
		return "Still charged: draw it off again through the resistor and measure again."
	case "heat":
		return "Too hot to touch: wait, and measure again."
	}
	return "Not off: the cock lets by. Shut it further up the pipe and test it again."
}

func (a Ask) pairs() string {
	var names []string
	for _, p := range a.Points {
		names = append(names, p[0]+" to "+p[1])
	}
	return strings.Join(names, ", ")
}

func joins(r Reading, pair [2]string) bool {
	return len(r.Between) == 2 && (r.Between[0] == pair[0] && r.Between[1] == pair[1] || r.Between[0] == pair[1] && r.Between[1] == pair[0])
}

func upper(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
