package reading

import (
	"fmt"
	"math"

	"evensteps/core/machine"
)

// The verdicts on a reading.
const (
	Pass   = "pass"
	Low    = "low"
	High   = "high"
	Open   = "open"
	Short  = "short"
	Unsure = "unsure"
)

// A resistance of more than so many times the upper limit is an open one, of
// less than that share of the lower limit a short (the map format's rule).
const farOff = 20

// Verdict is a reading judged. Value, Low, High and Interval are in the
// quantity's unit; Low may be -Inf, High and Value +Inf.
type Verdict struct {
	Verdict   string
	Quantity  Quantity
	Value     float64
	Low, High float64
	Interval  [2]float64
	Why       string
}

// Judge judges a reading as it was written against what is expected of it, with
// a guard band: the interval that the meter's own error leaves must lie wholly
// inside the limits to pass, and wholly outside to be low or high (the decision
// rule of ISO 14253-1 and ILAC-G8 with the whole error as guard band; from
// memory). Across a limit it is unsure, and the sentence says what to do. The
// error is of a value that cannot be read, or of circumstances that are missing.
func Judge(e *machine.Expect, text string, s Setting) (Verdict, error) {
	l, err := Within(e, s)
	if err != nil {
		return Verdict{}, err
	}
	raw, err := value(e, l.Quantity, text)
	if err != nil {
		return Verdict{}, err
	}
	v := Verdict{Quantity: l.Quantity, Value: raw, Low: l.Low, High: l.High}
	leads := 0.0
	if s.Leads != nil && l.Quantity == Resistance {
		leads = *s.Leads
		v.Value = max(0, raw-leads)
	}
	off := 0.0
	if s.Accuracy != nil && !math.IsInf(raw, 0) {
		off = s.Accuracy.Error(raw)
	}
	v.Interval = [2]float64{v.Value - off, v.Value + off}
	v.Verdict = l.verdict(e, v.Value, v.Interval)
	v.Why = l.why(e, v, s, leads, off)
	if s.Fitted && v.Verdict != Unsure && !math.IsInf(raw, 1) {
		v.Verdict = Unsure
		v.Why = l.Units.Say(l.Quantity, v.Value) + ": the part is still wired in, so another path may lie beside it. Lift one end and measure again."
	}
	return v, nil
}

func (l Limits) verdict(e *machine.Expect, v float64, within [2]float64) string {
	switch {
	case e.Continuity == "closed":
		switch {
		case within[1] <= l.High:
			return Pass
		case within[0] > l.High:
			return Open
		}
		return Unsure
	case e.Continuity == "open":
		switch {
		case within[0] >= l.Low:
			return Pass
		case within[1] < l.Low:
			return Short
		}
		return Unsure
	}
	ohms := e.Ohms != nil || e.Element != nil || e.Platinum != nil || e.Thermistor != nil || e.Winding != nil
	switch {
	case ohms && (math.IsInf(v, 1) || within[0] > farOff*l.High):
		return Open
	case ohms && l.Low > 0 && within[1] < l.Low/farOff:
		return Short
	case within[0] >= l.Low && within[1] <= l.High:
		return Pass
	case within[1] < l.Low:
		return Low
	case within[0] > l.High:
		return High
	}
	return Unsure
}

// why is the verdict as a sentence: the reading, what it is, and its limits.
func (l Limits) why(e *machine.Expect, v Verdict, s Setting, leads, off float64) string {
	say := func(q Quantity, v float64) string { return l.Units.Say(q, v) }
	q := l.Quantity
	head := say(q, v.Value)
	if leads > 0 && !math.IsInf(v.Value, 1) {
		head += ", " + say(q, leads) + " of leads taken off"
	}
	if off > 0 {
		head += ", ± " + say(q, off) + " by the meter"
	}
	limits := " (" + l.Short() + ")."
	switch v.Verdict {
	case Pass:
		if e.Element != nil && v.Value > 0 {
			supply := e.Element.Volts
			if s.Supply != nil {
				supply = *s.Supply
			}
			return fmt.Sprintf("%s: in range%s At %s it makes %s.", head, limits, say(Voltage, supply), say(Power, ElementWatts(v.Value, supply)))
		}
		return head + ": in range" + limits
	case Open:
		return head + ": open circuit" + limits
	case Short:
		return head + ": shorted" + limits
	case Low:
		return head + ": " + q.tooLow() + limits
	case High:
		return head + ": " + q.tooHigh() + limits
	}
	what := "Measure again on a lower range, with the leads zeroed."
	if e.Platinum != nil || e.Thermistor != nil {
		what = "Warm the probe in the hand and see whether it follows. Measure again at another temperature."
	}
	return head + ": too close to the limit for this meter" + limits + " " + what
}

// Typical is a value that gets a verdict of these limits, as a simulated meter
// shows it: in the middle of them to pass, well outside to be low or high. An
// open path has no end of ohms.
func (l Limits) Typical(verdict string) float64 {
	low, high := l.Low, l.High
	switch {
	case math.IsInf(low, -1):
		low = 0
	case math.IsInf(high, 1):
		high = 4 * low
	}
	switch verdict {
	case Open:
		return overRange
	case High:
		return 1.6*high + 1
	case Low:
		return 0.4 * low
	case Short:
		return low / (2 * farOff)
	}
	if l.Low == 0 || math.IsInf(l.Low, -1) {
		return high / 10
	}
	return (low + high) / 2
}

// overRange is how instruments that speak SCPI write a value over their range.
const overRange = 9.9e37
