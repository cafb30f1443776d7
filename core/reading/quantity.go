package reading

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
)

// Quantity says what a value measures, as maps name it.
type Quantity string

// The quantities, each with the unit that Parse gives it in.
const (
	Resistance  Quantity = "resistance"  // ohm
	Voltage     Quantity = "voltage"     // V
	Current     Quantity = "current"     // A
	Capacitance Quantity = "capacitance" // µF
	Temperature Quantity = "temperature" // °C
	Pressure    Quantity = "pressure"    // mbar
	Length      Quantity = "length"      // mm
	Duration    Quantity = "seconds"     // s
	Leakage     Quantity = "leakage"     // mW/cm²
	Turns       Quantity = "turns"
	Angle       Quantity = "angle" // degrees
	Count       Quantity = "count"
	Power       Quantity = "power"  // W
	Run         Quantity = "run"    // metres of vent, bends reckoned in
	Volume      Quantity = "volume" // litres
	Combustible Quantity = "gas"    // combustible gas in air, % of its lower explosive limit
)

// ppmPerLEL is how many parts in a million are one percent of the lower
// explosive limit: 170, of propane (1.7 % by volume, IEC 60079-20-1, from
// memory). Methane's is higher, so that a detector in ppm is never read too low.
const ppmPerLEL = 170.0

// One inch is 25.4 mm, one inch of water 2.490889 mbar (conventional), one pound to
// the square inch 68.94757 mbar and one gallon 3.785412 litres (NIST SP 811,
// appendix B.8; from memory).
const (
	inch        = 25.4
	foot        = 12 * inch
	inchOfWater = 2.490889
	psi         = 68.94757
	gallon      = 3.785412
)

// unit is how a quantity is written and shown. All that is to say of a quantity
// stands in its row of units.
type unit struct {
	shown, example string
	factors        map[string]float64
	meter          bool // a multimeter measures it
	prefixed       bool // as meters show it: k, M, m, µ
	signed         bool // it goes below nought
	// drift is how far below nothing a zeroed instrument may read (common practice, no
	// source); further below it is a slip, or a voltage on what is measured.
	drift  float64
	metric string
	us     *customary // where the United States write it otherwise
}

// customary is a quantity in the customary units of the United States: the unit's
// name, how many of the quantity's own one of it is, and where its nought lies.
type customary struct {
	shown, example string
	one, zero      float64
}

var units = map[Quantity]unit{
	Resistance:  {shown: "Ω", example: "11.4 ohm", drift: 0.5, meter: true, prefixed: true, factors: map[string]float64{"": 1, "ohm": 1, "ohms": 1, "ω": 1, "r": 1}},
	Voltage:     {shown: "V", example: "230 V", signed: true, meter: true, prefixed: true, us: &customary{shown: "V", example: "120 V", one: 1}, factors: map[string]float64{"": 1, "v": 1, "volt": 1, "volts": 1, "vac": 1, "acv": 1, "v~": 1, "vrms": 1, "vdc": 1, "dcv": 1, "v=": 1, "v⎓": 1}},
	Combustible: {shown: "% LEL", example: "0 % LEL", drift: 1, factors: map[string]float64{"": 1, "%": 1, "%lel": 1, "lel": 1, "ppm": 1 / ppmPerLEL}},
	Current:     {shown: "A", example: "3.1 A", signed: true, meter: true, prefixed: true, factors: map[string]float64{"": 1, "a": 1, "amp": 1, "amps": 1}},
	Capacitance: {shown: "µF", example: "1.0 uF", meter: true, factors: map[string]float64{"": 1, "uf": 1, "µf": 1, "nf": 1e-3, "mfd": 1}},
	Pressure:    {shown: "mbar", example: "10 mbar", signed: true, us: &customary{"in. w.c.", "4 in. w.c.", inchOfWater, 0}, factors: map[string]float64{"": 1, "mbar": 1, "hpa": 1, "pa": 0.01, "kpa": 10, "bar": 1000, "psi": psi, "inwc": inchOfWater, "\"wc": inchOfWater, "wc": inchOfWater, "inh2o": inchOfWater, "\"h2o": inchOfWater, "inwg": inchOfWater, "\"wg": inchOfWater}},
	Length:      {shown: "mm", example: "14 1/2 in", metric: "368 mm", us: &customary{"in", "14 1/2 in", inch, 0}, factors: map[string]float64{"mm": 1, "cm": 10, "m": 1000, "in": inch, "inch": inch, "inches": inch, "\"": inch, "ft": foot, "feet": foot, "foot": foot, "'": foot}},
	Duration:    {shown: "s", example: "12 s", factors: map[string]float64{"": 1, "s": 1, "sec": 1, "min": 60}},
	Leakage:     {shown: "mW/cm²", example: "0.4", drift: 0.1, factors: map[string]float64{"": 1, "mw/cm2": 1, "mw/cm²": 1}},
	Turns:       {shown: "turns", example: "3 1/2 turns", signed: true, factors: map[string]float64{"": 1, "turn": 1, "turns": 1}},
	Angle:       {shown: "°", example: "30", signed: true, factors: map[string]float64{"": 1, "°": 1, "deg": 1}},
	Power:       {shown: "W", example: "900 W", factors: map[string]float64{"": 1, "w": 1, "kw": 1000}},
	Run:         {shown: "m", example: "8.5 m, 3 bends", us: &customary{"ft", "20 ft, 2 elbows", foot / 1000, 0}, factors: map[string]float64{"": 1, "m": 1, "ft": foot / 1000, "feet": foot / 1000, "'": foot / 1000}},
	Volume:      {shown: "l", example: "4.5 l", us: &customary{"gal", "1.2 gal", gallon, 0}, factors: map[string]float64{"": 1, "l": 1, "litre": 1, "litres": 1, "liter": 1, "liters": 1, "ml": 1e-3, "gal": gallon, "gallon": gallon, "gallons": gallon}},
	Count:       {shown: "", example: "2", factors: map[string]float64{"": 1}},
	Temperature: {shown: "°C", example: "54 C", signed: true, meter: true, us: &customary{"°F", "130 F", 1 / 1.8, 32}, factors: map[string]float64{"": 1, "c": 1, "°c": 1}},
}

// OfMultimeter tells whether a multimeter measures the quantity.
func OfMultimeter(q Quantity) bool { return units[q].meter }

// Unit is the unit that Parse gives a quantity in, as it is shown.
func (q Quantity) Unit() string { return units[q].shown }

// Word is the unit in plain letters, for programs.
func (q Quantity) Word() string {
	return strings.NewReplacer("Ω", "ohm", "µ", "u", "°", "", "²", "2").Replace(q.Unit())
}

// Example is how a value of the quantity may be written.
func (q Quantity) Example() string { return units[q].example }

var (
	written  = regexp.MustCompile(`^([+-]?\d+(?:[.,]\d+)?)(?:\s+(\d+)\s*/\s*(\d+)|\s*/\s*(\d+))?\s*([^\d\s].*)?$`)
	infix    = regexp.MustCompile(`^(\d+)([kKMRr])(\d+)$`)
	overload = regexp.MustCompile(`(?i)^(o\.?l|0\.?l|over|∞|inf)\.?$`)
)

// Written is a value with what was written besides its number.
type Written struct {
	Value float64 // in the quantity's own unit
	// AC and DC tell which of the two the unit says; neither where it says none.
	AC, DC bool
	// Or is the other number that three digits after the only separator may mean
	// (1,800 is 1.8 or 1800); 0 where there is no doubt.
	Or float64
	// Milli tells that the number was written in thousandths, Digits its size as
	// it was written.
	Milli  bool
	Digits float64
}

var (
	grouped = regexp.MustCompile(`^[+-]?([1-9]\d{0,2})[.,](\d{3})(?:\D|$)`)
	leading = regexp.MustCompile(`^[+-]?[\d.,]+`)
	minuses = strings.NewReplacer("−", "-", "–", "-", "＋", "+", "“", "\"", "”", "\"", "″", "\"", "’", "'", "′", "'")
)

// Read reads a value as Parse does, and keeps what its unit and its separator
// say. The error says how to write it.
func Read(q Quantity, text string) (Written, error) {
	v, err := Parse(q, text)
	if err != nil {
		return Written{}, err
	}
	w := Written{Value: v}
	s := minuses.Replace(strings.TrimSpace(text))
	number := leading.FindString(s)
	name := strings.ToLower(strings.ReplaceAll(strings.TrimSpace(s[len(number):]), " ", ""))
	if q == Voltage {
		w.AC = strings.Contains(name, "ac") || strings.Contains(name, "~") || strings.Contains(name, "rms")
		w.DC = strings.Contains(name, "dc") || strings.Contains(name, "=") || strings.Contains(name, "⎓")
	}
	w.Digits = math.Abs(v)
	if units[q].prefixed && len(name) > 1 && strings.HasPrefix(strings.TrimSpace(s[len(number):]), "m") && !strings.HasPrefix(name, "mb") {
		w.Milli, w.Digits = true, math.Abs(v)*1000
	}
	if grouped.MatchString(s) {
		w.Or = v * 1000
	}
	return w, nil
}

// unitName is a unit as the table has it: no spaces, and no full stops of
// abbreviations ("in. w.c.").
var unitName = strings.NewReplacer(" ", "", ".", "")

// Parse reads a value as people write it, in the quantity's own unit, whichever
// region they are of: "1.2k", "1k2", "0.9 MΩ", "OL" (over-range, +Inf ohms),
// "14 1/2 in", "120 VAC", "1,0 uF", "68 F", "7 in. w.c.". The error says how to
// write it.
func Parse(q Quantity, text string) (float64, error) {
	v, err := parse(q, text)
	if u := units[q]; err == nil && !u.signed && v < -u.drift {
		return 0, fmt.Errorf("%q is below nothing, and that cannot be: look at its sign, at what the meter is set to, and measure again", text)
	}
	return v, err
}

func parse(q Quantity, text string) (float64, error) {
	wrong := fmt.Errorf("%q cannot be read; write it like %s", text, q.Example())
	s := minuses.Replace(strings.TrimSpace(text))
	u, known := units[q]
	if !known {
		return 0, fmt.Errorf("%s is no quantity with a value", q)
	}
	if q == Resistance {
		if overload.MatchString(s) {
			return math.Inf(1), nil
		}
		if m := infix.FindStringSubmatch(s); m != nil {
			v, err := strconv.ParseFloat(m[1]+"."+m[3], 64)
			return v * prefix(m[2]), err
		}
	}
	m := written.FindStringSubmatch(s)
	if m == nil {
		return 0, wrong
	}
	v, err := strconv.ParseFloat(strings.Replace(m[1], ",", ".", 1), 64)
	if err != nil || math.Abs(v) > 1e12 {
		return 0, wrong
	}
	over, under := m[2], m[3]
	if m[4] != "" { // "3/8 in": no whole number before the fraction
		over, under, v = m[1], m[4], 0
	}
	if under != "" {
		a, errA := strconv.ParseFloat(over, 64)
		b, errB := strconv.ParseFloat(under, 64)
		if errA != nil || errB != nil || b == 0 {
			return 0, wrong
		}
		v += a / b
	}
	name := unitName.Replace(strings.TrimSpace(m[5]))
	if q == Temperature {
		switch strings.ToLower(strings.TrimPrefix(name, "°")) {
		case "f":
			return (v - 32) / 1.8, nil
		case "k":
			return v - 273.15, nil
		}
	}
	if f, ok := u.factors[strings.ToLower(name)]; ok {
		return v * f, nil
	}
	if name != "" && u.prefixed {
		first := name[:1]
		if strings.HasPrefix(name, "µ") {
			first = "µ"
		}
		if f, ok := u.factors[strings.ToLower(strings.TrimPrefix(name, first))]; ok && prefix(first) != 0 {
			return v * f * prefix(first), nil
		}
	}
	return 0, wrong
}

// prefix is what a letter before a unit multiplies by; 0 for none known.
func prefix(letter string) float64 {
	switch letter {
	case "k", "K":
		return 1e3
	case "M":
		return 1e6
	case "R", "r":
		return 1
	case "m":
		return 1e-3
	case "u", "µ":
		return 1e-6
	}
	return 0
}

// Write writes a value so that Parse reads it again: plain letters, four
// figures, OL for what is over a meter's range.
func Write(q Quantity, v float64) string {
	if math.IsInf(v, 1) {
		return "OL"
	}
	if v != 0 {
		scale := math.Pow(10, 3-math.Floor(math.Log10(math.Abs(v))))
		v = math.Round(v*scale) / scale
	}
	return strings.TrimSpace(strconv.FormatFloat(v, 'f', -1, 64) + " " + q.Word())
}
