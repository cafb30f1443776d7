package reading

import (
	"errors"
	"fmt"
	"math"
	"regexp"
	"strings"

	"evensteps/core/machine"
)

// EarthOhms is the most that an earth may read to the frame or the earth pin
// after the leads are taken off, where the map says nothing else: 0.5 ohm
// (common practice, no source; local rules may ask for less).
const EarthOhms = 0.5

// A path is closed up to so many ohms, and open from so many (common practice,
// no source).
const (
	closedOhms = 2.0
	openOhms   = 1e6
)

// Limits are what a reading should lie between, in the unit of its quantity.
// Low may be -Inf and High +Inf.
type Limits struct {
	Quantity  Quantity
	Low, High float64
	Units     System // that they are said in
}

// errAmbient asks for the temperature that a probe or winding is at.
var errAmbient = errors.New("enter the part's temperature: it is needed for this reading")

// Within is what an expectation asks of a reading taken under these
// circumstances. The error says what is missing to tell.
func Within(e *machine.Expect, s Setting) (Limits, error) {
	l, err := within(e, s)
	l.Units = s.Units
	return l, err
}

func within(e *machine.Expect, s Setting) (Limits, error) {
	span := func(q Quantity, v []float64) (Limits, error) {
		if len(v) != 2 {
			return Limits{}, errors.New("the map gives no two limits")
		}
		return Limits{Quantity: q, Low: v[0], High: v[1]}, nil
	}
	part := func(q Quantity, nominal, percent float64) (Limits, error) {
		return Limits{Quantity: q, Low: nominal * (1 - percent/100), High: nominal * (1 + percent/100)}, nil
	}
	warm := func(ohms func(celsius float64) float64, percent float64) (Limits, error) {
		if s.Ambient == nil {
			return Limits{}, errAmbient
		}
		return part(Resistance, ohms(*s.Ambient), percent)
	}
	if e == nil {
		return Limits{}, errors.New("the map expects nothing of this reading")
	}
	switch {
	case e.Ohms != nil:
		return span(Resistance, e.Ohms)
	case e.Element != nil:
		v := e.Element
		if v.Watts <= 0 {
			return Limits{}, errors.New("the element has no rating")
		}
		ohms := v.Volts * v.Volts / v.Watts // R = V²/P, from the rating plate
		if t := v.PowerTolerancePercent; len(t) == 2 {
			return Limits{Quantity: Resistance, Low: ohms / (1 + t[1]/100), High: ohms / (1 + t[0]/100)}, nil
		}
		return part(Resistance, ohms, v.TolerancePercent)
	case e.Platinum != nil:
		v := e.Platinum
		percent := v.TolerancePercent
		if percent == 0 {
			percent = 1
		}
		return warm(func(t float64) float64 { return PlatinumOhms(v.Curve, v.R0, t) }, percent)
	case e.Thermistor != nil:
		v := e.Thermistor
		return warm(func(t float64) float64 { return ThermistorOhms(v.R25, v.Beta, t) }, v.TolerancePercent)
	case e.Winding != nil:
		v := e.Winding
		return warm(func(t float64) float64 { return CopperOhms(v.OhmsAt20, t) }, v.TolerancePercent)
	case e.Continuity == "closed":
		return Limits{Quantity: Resistance, Low: 0, High: closedOhms}, nil
	case e.Continuity == "open":
		return Limits{Quantity: Resistance, Low: openOhms, High: math.Inf(1)}, nil
	case e.Volts != nil:
		return part(Voltage, e.Volts.Nominal, e.Volts.TolerancePercent)
	case e.Capacitance != nil:
		return part(Capacitance, e.Capacitance.Microfarads, e.Capacitance.TolerancePercent)
	case e.Insulation != nil:
		return Limits{Quantity: Resistance, Low: e.Insulation.MegohmsAtLeast * 1e6, High: math.Inf(1)}, nil
	case e.Leakage != nil:
		return Limits{Quantity: Leakage, Low: math.Inf(-1), High: e.Leakage.MWPerCM2AtMost}, nil
	case e.Temperature != nil:
		return span(Temperature, e.Temperature)
	case e.Amps != nil:
		return span(Current, e.Amps)
	case e.Mbar != nil:
		return span(Pressure, e.Mbar)
	case e.Seconds != nil:
		return span(Duration, e.Seconds)
	case e.Length != nil:
		return span(Length, e.Length)
	case e.WaterHeated != nil:
		return span(Power, e.WaterHeated.Watts)
	case e.VentRun != nil:
		return Limits{Quantity: Run, Low: math.Inf(-1), High: e.VentRun.MetresAtMost}, nil
	}
	return Limits{}, errors.New("the map expects nothing of this reading")
}

// Meets tells whether a value, as it was written, is what an expectation asks
// for: a rise in kelvin is judged as watts, metres and bends as a run. asked is
// false where the expectation cannot tell.
func Meets(e *machine.Expect, text string) (ok, asked bool) {
	limits, err := Within(e, Setting{})
	if err != nil {
		return false, false
	}
	v, err := value(e, limits.Quantity, text)
	return err == nil && v >= limits.Low && v <= limits.High, true
}

// HangsOnWarmth tells whether an expectation can be judged only by somebody who
// says how warm the part is.
func HangsOnWarmth(e *machine.Expect) bool {
	return e.Platinum != nil || e.Thermistor != nil || e.Winding != nil
}

// The heat that a litre of water takes up for a kelvin, in joules (4187 J/(kg·K),
// as the map format states it).
const litreKelvin = 4187

var ventRun = regexp.MustCompile(`(?i)^([0-9]+(?:[.,][0-9]+)?)\s*(m|ft|feet|')?\s*(?:[,;+]|and)?\s*([0-9]+)?\s*(?:bends?|elbows?|x\s*90)?$`)

// value reads what was written for an expectation, in the unit of its limits:
// a rise in kelvin becomes watts, metres and bends become metres of run.
func value(e *machine.Expect, q Quantity, text string) (float64, error) {
	switch {
	case e != nil && e.WaterHeated != nil:
		number := strings.TrimRight(strings.TrimSpace(text), "kK°CcFf ")
		rise, err := Parse(Count, number)
		if err != nil {
			return 0, fmt.Errorf("%q is no rise in temperature; write it like 28 K or 50 F", text)
		}
		if strings.ContainsAny(text, "Ff") {
			rise /= 1.8
		}
		return litreKelvin * e.WaterHeated.Litres * rise / e.WaterHeated.Seconds, nil
	case e != nil && e.VentRun != nil:
		found := ventRun.FindStringSubmatch(strings.TrimSpace(text))
		if found == nil {
			return 0, fmt.Errorf("%q is no run; write it like 8.5 m, 3 bends or 20 ft, 2 elbows", text)
		}
		metres, err := Parse(Run, found[1]+" "+found[2])
		if err != nil {
			return 0, err
		}
		if found[3] != "" {
			bends, err := Parse(Count, found[3])
			if err != nil {
				return 0, err
			}
			metres += bends * e.VentRun.MetresPerBend
		}
		return metres, nil
	}
	return Parse(q, text)
}

// Say is the limits in words. What is rounded is rounded inwards: nobody is told of
// a wider range than there is.
func (l Limits) Say() string {
	low, high := l.ends()
	switch {
	case math.IsInf(l.High, 1):
		return "at least " + low
	case math.IsInf(l.Low, -1) || l.Low == 0:
		return "at most " + high
	}
	return l.span(low, high)
}

// Short is the same in brackets beside a reading: "max 8 m", "19.5 to 22.8 Ω".
func (l Limits) Short() string {
	low, high := l.ends()
	switch {
	case math.IsInf(l.High, 1):
		return "min " + low
	case math.IsInf(l.Low, -1) || l.Low == 0:
		return "max " + high
	}
	return l.span(low, high)
}

func (l Limits) ends() (low, high string) {
	return l.Units.say(l.Quantity, l.Low, math.Ceil), l.Units.say(l.Quantity, l.High, math.Floor)
}

// span is both ends, the unit once where it is the same.
func (l Limits) span(low, high string) string {
	if _, unit, is := strings.Cut(low, " "); is && strings.HasSuffix(high, " "+unit) {
		low = strings.TrimSuffix(low, " "+unit)
	}
	return low + " to " + high
}

// Judge compares a value as it was written, less what the leads add, with the
// limits. The meter's own error is not known here, so it is not reckoned with.
func (l Limits) Judge(value, leads string) (ok bool, why string) {
	v, err := Parse(l.Quantity, value)
	if err != nil {
		return false, err.Error()
	}
	if leads != "" && l.Quantity == Resistance {
		off, err := Parse(Resistance, leads)
		if err != nil {
			return false, err.Error()
		}
		v = max(0, v-off)
	}
	head := l.Units.Say(l.Quantity, v)
	switch {
	case v < l.Low:
		return false, head + ": " + l.Quantity.tooLow() + " (" + l.Short() + ")."
	case v > l.High:
		return false, head + ": " + l.Quantity.tooHigh() + " (" + l.Short() + ")."
	}
	return true, head + ": in range (" + l.Short() + ")."
}

func (q Quantity) tooLow() string {
	if q == Run || q == Length {
		return "too short"
	}
	return "too low"
}

func (q Quantity) tooHigh() string {
	if q == Run || q == Length {
		return "too long"
	}
	return "too high"
}

// SameAs compares a value measured on the way back with the one recorded on
// the way in, both as written. within is the tolerance in the same quantity;
// where it is empty the two must be equal. A quantity without a value (text, a
// photo) is compared word for word.
func (s System) SameAs(q Quantity, recorded, value, within string) (ok bool, why string) {
	if _, measured := units[q]; !measured {
		if recorded == value {
			return true, "Same as before."
		}
		return false, fmt.Sprintf("It was %q before.", recorded)
	}
	was, err := Parse(q, recorded)
	if err != nil {
		return false, fmt.Sprintf("What was recorded: %s.", err)
	}
	is, err := Parse(q, value)
	if err != nil {
		return false, err.Error()
	}
	tolerance := 0.0
	if within != "" {
		if tolerance, err = Parse(q, within); err != nil {
			return false, err.Error()
		}
	}
	const exact = 1e-9 // what two ways of writing one value may differ by
	if apart := math.Abs(is - was); apart > tolerance+exact {
		return false, fmt.Sprintf("Now %s, was %s: %s apart (max %s).", value, recorded, s.Say(q, apart), s.Say(q, tolerance))
	}
	return true, fmt.Sprintf("Now %s, was %s.", value, recorded)
}

// Setting is the circumstances of a reading.
type Setting struct {
	Ambient  *float64  // °C of the part
	Supply   *float64  // V, where it matters
	Leads    *float64  // ohm that the leads add
	Accuracy *Accuracy // nil where the meter's error is not known
	// Fitted says that the part was still wired in though the test asks for one
	// end lifted: another path may lie beside it.
	Fitted bool
	Units  System // that the verdict is said in
}

// Accuracy is a meter's: so many percent of the reading, and so many counts of
// its resolution, in the unit of the quantity.
type Accuracy struct{ Percent, Counts, Resolution float64 }

// Error is how far a reading may be out, either way.
func (a Accuracy) Error(reading float64) float64 {
	return math.Abs(reading)*a.Percent/100 + a.Counts*a.Resolution
}

var accuracy = regexp.MustCompile(`^([0-9.,]+)\s*%\s*(?:\+\s*([0-9]+)\s*@\s*(.+))?$`)

// ParseAccuracy reads an accuracy as makers print it: "0.9%+3@0.1ohm", three
// counts of a tenth of an ohm.
func ParseAccuracy(q Quantity, text string) (Accuracy, error) {
	wrong := fmt.Errorf("%q is no accuracy; write it like 0.9%%+3@0.1ohm", text)
	m := accuracy.FindStringSubmatch(strings.TrimSpace(text))
	if m == nil {
		return Accuracy{}, wrong
	}
	percent, err := Parse(Count, m[1])
	if err != nil {
		return Accuracy{}, wrong
	}
	a := Accuracy{Percent: percent}
	if m[2] != "" {
		counts, err1 := Parse(Count, m[2])
		resolution, err2 := Parse(q, m[3])
		if err1 != nil || err2 != nil {
			return Accuracy{}, wrong
		}
		a.Counts, a.Resolution = counts, resolution
	}
	return a, nil
}
