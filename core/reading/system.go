package reading

import (
	"math"
	"strconv"
	"strings"

	"evensteps/core/machine"
)

// System is which units values are said in. Those of both are always understood
// when they are typed.
type System string

// The systems of units; no word is as each quantity is mostly written.
const (
	Metric    System = "metric"
	Customary System = "customary" // of the United States
)

// Systems are all of them.
var Systems = []string{string(Metric), string(Customary)}

// in is a value in the units of a system, with the unit's name.
func (s System) in(q Quantity, v float64) (value float64, name string) {
	if us := units[q].us; us != nil && s == Customary {
		return v/us.one + us.zero, us.shown
	}
	return v, units[q].shown
}

// Example is how a value of a quantity may be written in the system.
func (s System) Example(q Quantity) string {
	u := units[q]
	switch {
	case s == Customary && u.us != nil:
		return u.us.example
	case s == Metric && u.metric != "":
		return u.metric
	}
	return u.example
}

// ExampleFor is how a reading of an expectation may be written: what is judged
// as metres of run or as watts is written otherwise than its quantity.
func (s System) ExampleFor(e *machine.Expect, q Quantity) string {
	switch {
	case e != nil && e.VentRun != nil:
		return s.Example(Run)
	case e != nil && e.WaterHeated != nil && s == Customary:
		return "50 F"
	case e != nil && e.WaterHeated != nil:
		return "28 K"
	}
	return s.Example(q)
}

// Say writes a value in the system's unit: long numbers of ohms in those that
// people say, lengths in both where no system is chosen.
func (s System) Say(q Quantity, v float64) string { return s.say(q, v, math.Round) }

// Say writes a value where no system is chosen.
func Say(q Quantity, v float64) string { return System("").Say(q, v) }

// Warm is how warm a room may be.
func (s System) Warm() string {
	if s == Customary {
		return "66 F"
	}
	return "19 C"
}

// say writes a value, its last digit rounded as it is told.
func (s System) say(q Quantity, v float64, round func(float64) float64) string {
	if math.IsInf(v, 1) {
		return "OL"
	}
	if q == Length && s == "" {
		return figure(v, round) + " mm (" + figure(v/inch, round) + " in)"
	}
	value, name := s.in(q, v)
	if q == Resistance {
		var size float64
		size, name = ohms(value)
		value /= size
	}
	return strings.TrimSpace(figure(value, round) + " " + name)
}

// ohms is the unit that people say so many ohms in, and how many it is.
func ohms(value float64) (size float64, name string) {
	switch value = math.Abs(value); {
	case value >= 1e6:
		return 1e6, "MΩ"
	case value >= 1e4:
		return 1e3, "kΩ"
	}
	return 1, "Ω"
}

// InTheOther is a value as it was written, said in the system's units where it was
// written in others: "368.3 mm" of "14 1/2 in". It is empty where it was not.
func (s System) InTheOther(q Quantity, text string) string {
	v, err := Parse(q, text)
	if err != nil || units[q].us == nil || q == Voltage {
		return ""
	}
	m := written.FindStringSubmatch(minuses.Replace(strings.TrimSpace(text)))
	if m == nil {
		return ""
	}
	name := strings.ToLower(unitName.Replace(strings.TrimSpace(m[5])))
	theirs := s
	if s == "" { // said in the one that it is not written in
		theirs = Customary
		if customaryName(q, name) {
			theirs = Metric
		}
	}
	if customaryName(q, name) == (theirs == Customary) {
		return ""
	}
	return theirs.Say(q, v)
}

// customaryName tells whether a unit is one of the United States.
func customaryName(q Quantity, name string) bool {
	if q == Temperature {
		return strings.TrimPrefix(name, "°") == "f"
	}
	switch name {
	case "", "mbar", "hpa", "pa", "kpa", "bar", "mm", "cm", "m", "l", "ml", "litre", "litres", "liter", "liters":
		return false
	}
	return true
}

// figure is a number in few digits: two after the point, one from a hundred on, none
// from a thousand.
func figure(v float64, round func(float64) float64) string {
	digits := 2
	switch size := math.Abs(v); {
	case size >= 1000:
		digits = 0
	case size >= 100:
		digits = 1
	}
	scale := math.Pow(10, float64(digits))
	const exact = 1e-9 // so that 1.1 is not rounded up for its last bit
	rounded := round(v*scale-math.Copysign(exact, v)) / scale
	if near := math.Round(v*scale) / scale; math.Abs(near-v) < exact {
		rounded = near
	}
	text := strconv.FormatFloat(rounded, 'f', digits, 64)
	if digits == 0 {
		return text
	}
	return strings.TrimSuffix(strings.TrimRight(text, "0"), ".")
}
