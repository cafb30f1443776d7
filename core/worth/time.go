// Package worth reckons what work takes: time, people, money.
package worth

import "math"

// The spread of one step's minutes about the map's median, and the share of it
// that all steps of a job have in common. Both are judgement, kept here alone.
const (
	spread = 0.2225 // variance of ln(taken / median)
	shared = 0.25   // standard deviation of the common share
)

// Band is the span from the median to the 80th percentile of the minutes that
// steps take together. steps are the map's medians; certain minutes (turning,
// fetching tools) are added as they are.
//
// Adding up medians would promise too little: each step is log-normal, so its
// mean lies above its median, and a slow day is slow in every step. Sum and
// variance are matched to one log-normal (Fenton and Wilkinson's method, from
// memory).
func Band(steps []float64, certain float64) (p50, p80 float64) {
	mean, own := 0.0, 0.0
	for _, m0 := range steps {
		m := m0 * math.Exp(spread/2)
		mean += m
		own += m * m * (math.Exp(spread) - math.Exp(shared*shared))
	}
	if mean == 0 {
		return certain, certain
	}
	relative := 1 + ((math.Exp(shared*shared)-1)*mean*mean+own)/(mean*mean)
	median := mean / math.Sqrt(relative)
	return certain + median, certain + median*math.Exp(0.8416*math.Sqrt(math.Log(relative)))
}
