package reading

import "math"

// Scale is a reading drawn between its limits: places run from 0 on the left to 1 on
// the right. A value beyond either end stands at that end.
type Scale struct {
	Low    *float64   `json:"low"` // where the limits lie; null where there is none on that side
	High   *float64   `json:"high"`
	At     float64    `json:"at"`
	Error  [2]float64 `json:"error"`  // what the meter's own error leaves
	Beyond string     `json:"beyond"` // the value lies beyond the left or right end; empty else
	Marks  []Mark     `json:"marks"`
	Says   string     `json:"says"` // the value with its error
}

// Mark is a figure beneath a scale.
type Mark struct {
	At  float64 `json:"at"`
	Say string  `json:"say"`
}

// marks are about so many on a scale.
const marks = 4

// Scale draws a verdict in a system's units. It is nil where the limits leave no
// picture: none, or an open path that has only to be open.
func (v Verdict) Scale(s System) *Scale {
	low, high := v.Low, v.High
	switch {
	case math.IsInf(high, 1) && (math.IsInf(low, -1) || low <= 0 || v.Quantity == Resistance):
		return nil
	case math.IsInf(low, -1):
		low = min(0, high)
	case math.IsInf(high, 1):
		high = 2 * low
	}
	_, name := s.in(v.Quantity, low)
	size := 1.0
	if v.Quantity == Resistance {
		size, name = ohms(high)
	}
	shown := func(x float64) float64 {
		x, _ = s.in(v.Quantity, x)
		return x / size
	}
	from, to := shown(low), shown(high)
	if to <= from {
		return nil
	}
	left, right := from-(to-from)/2, to+(to-from)/2
	if low >= 0 && left < 0 && name != "°F" && name != "°C" {
		left = 0 // below nothing there is nothing
	}
	step := round((right - left) / marks)
	left, right = math.Floor(left/step)*step, math.Ceil(right/step)*step
	place := func(x float64) float64 { return min(1, max(0, (x-left)/(right-left))) }
	at := func(x float64) float64 { return place(shown(x)) }
	out := &Scale{At: at(v.Value), Error: [2]float64{at(v.Interval[0]), at(v.Interval[1])}, Marks: []Mark{}, Says: s.Say(v.Quantity, v.Value)}
	if off := (v.Interval[1] - v.Interval[0]) / 2; off > 0 && !math.IsInf(v.Value, 0) {
		out.Says = figure(shown(v.Value), math.Round) + " ± " + figure(shown(off)-shown(0), math.Round) + " " + name
	}
	if !math.IsInf(v.Low, -1) && v.Low > 0 {
		x := at(v.Low)
		out.Low = &x
	}
	if !math.IsInf(v.High, 1) {
		x := at(v.High)
		out.High = &x
	}
	switch {
	case shown(v.Value) > right:
		out.Beyond = "right"
	case shown(v.Value) < left:
		out.Beyond = "left"
	}
	for x := left; x <= right+step/2; x += step {
		out.Marks = append(out.Marks, Mark{place(x), figure(x, math.Round)})
	}
	return out
}

// round takes a length up to the next of 1, 2 or 5 times a power of ten.
func round(length float64) float64 {
	power := math.Pow(10, math.Floor(math.Log10(length)))
	for _, n := range []float64{1, 2, 5} {
		if n*power >= length*0.999 {
			return n * power
		}
	}
	return 10 * power
}
