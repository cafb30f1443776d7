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
}

// errAmbient asks for the temperature that a probe or winding is at.
var errAmbient = errors.New("say how warm the part is: its resistance hangs on that")

// Within is what an expectation asks of a reading taken under these
// circumstances. The error says what is missing to tell.
func Within(e *machine.Expect, s Setting) (Limits, error) {
	span := func(q Quantity, v []float64) (Limits, error) {
		if len(v) != 2 {
			return Limits{}, errors.New("the map gives no two limits")
		}
		return Limits{q, v[0], v[1]}, nil
	}
	part := func(q Quantity, nominal, percent float64) (Limits, error) {
		return Limits{q, nominal * (1 - percent/100), nominal * (1 + percent/100)}, nil
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
			return Limits{Resistance, ohms / (1 + t[1]/100), ohms / (1 + t[0]/100)}, nil
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
		return Limits{Resistance, 0, closedOhms}, nil
	case e.Continuity == "open":
		return Limits{Resistance, openOhms, math.Inf(1)}, nil
	case e.Volts != nil:
		return part(Voltage, e.Volts.Nominal, e.Volts.TolerancePercent)
	case e.Capacitance != nil:
		return part(Capacitance, e.Capacitance.Microfarads, e.Capacitance.TolerancePercent)
	case e.Insulation != nil:
		return Limits{Resistance, e.Insulation.MegohmsAtLeast * 1e6, math.Inf(1)}, nil
	case e.Leakage != nil:
		return Limits{Leakage, math.Inf(-1), e.Leakage.MWPerCM2AtMost}, nil
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
		return Limits{Run, math.Inf(-1), e.VentRun.MetresAtMost}, nil
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

var ventRun = regexp.MustCompile(`(?i)^([0-9]+(?:[.,][0-9]+)?)\s*m?\s*(?:[,;+]|and)?\s*([0-9]+)?\s*(?:bends?|elbows?|x\s*90)?$`)

// value reads what was written for an expectation, in the unit of its limits:
// a rise in kelvin becomes watts, metres and bends become metres of run.
func value(e *machine.Expect, q Quantity, text string) (float64, error) {
	switch {
	case e != nil && e.WaterHeated != nil:
		k := strings.TrimSpace(strings.TrimRight(strings.TrimSpace(text), "kK°C "))
		rise, err := Parse(Count, k)
		if err != nil {
			return 0, fmt.Errorf("%q is no rise in kelvin; write it like 28 K", text)
		}
		return litreKelvin * e.WaterHeated.Litres * rise / e.WaterHeated.Seconds, nil
	case e != nil && e.VentRun != nil:
		found := ventRun.FindStringSubmatch(strings.TrimSpace(text))
		if found == nil {
			return 0, fmt.Errorf("%q is no run; write it like 8.5 m, 3 bends", text)
		}
		metres, err := Parse(Count, found[1])
		if err != nil {
			return 0, err
		}
		if found[2] != "" {
			bends, err := Parse(Count, found[2])
			if err != nil {
				return 0, err
			}
			metres += bends * e.VentRun.MetresPerBend
		}
		return metres, nil
	}
	return Parse(q, text)
}

// Say is the limits in words.
func (l Limits) Say() string {
	switch {
	case math.IsInf(l.High, 1):
		return "at least " + Say(l.Quantity, l.Low)
	case math.IsInf(l.Low, -1) || l.Low == 0:
		return "at most " + Say(l.Quantity, l.High)
	}
	return figure(l.Low) + " to " + Say(l.Quantity, l.High)
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
	switch {
	case v < l.Low:
		return false, fmt.Sprintf("%s is below what is asked: %s.", Say(l.Quantity, v), l.Say())
	case v > l.High:
		return false, fmt.Sprintf("%s is above what is asked: %s.", Say(l.Quantity, v), l.Say())
	}
	return true, fmt.Sprintf("%s, asked: %s.", Say(l.Quantity, v), l.Say())
}

// SameAs compares a value measured on the way back with the one recorded on
// the way in, both as written. within is the tolerance in the same quantity;
// where it is empty the two must be equal. A quantity without a value (text, a
// photo) is compared word for word.
func SameAs(q Quantity, recorded, value, within string) (ok bool, why string) {
	if _, measured := units[q]; !measured {
		if recorded == value {
			return true, "As recorded."
		}
		return false, fmt.Sprintf("Recorded was %q.", recorded)
	}
	was, err := Parse(q, recorded)
	if err != nil {
		return false, fmt.Sprintf("The record %s.", err)
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
		return false, fmt.Sprintf("%s now, %s as it came off: %s apart, %s at most.", value, recorded, Say(q, apart), Say(q, tolerance))
	}
	return true, fmt.Sprintf("%s now, %s as it came off.", value, recorded)
}
