package worth

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestBandOfOneStepIsItsOwnLogNormal(t *testing.T) {
	p50, p80 := Band([]float64{10}, 0)
	assert.InDelta(t, 10, p50, 1e-9, "the median of one step is the map's")
	assert.InDelta(t, 10*math.Exp(0.8416*math.Sqrt(spread)), p80, 1e-9, "z(0.80) = 0.8416, any table of the normal distribution")
	p50, p80 = Band(nil, 3)
	assert.Equal(t, []float64{3, 3}, []float64{p50, p80})
}

// Drawn jobs, whose steps share a part of their spread, must end below P80 in
// about 80 of 100, and below P50 in about half.
func TestBandAgainstDrawnJobs(t *testing.T) {
	steps := []float64{1, 1, 2, 1, 4, 1, 2, 3, 6, 2, 3, 5, 2, 1}
	p50, p80 := Band(steps, 4)
	r := rand.New(rand.NewPCG(1, 2))
	var totals []float64
	for range 20000 {
		common, sum := r.NormFloat64()*shared, 4.0
		for _, m := range steps {
			sum += m * math.Exp(common+r.NormFloat64()*math.Sqrt(spread-shared*shared))
		}
		totals = append(totals, sum)
	}
	slices.Sort(totals)
	assert.InDelta(t, totals[len(totals)/2], p50, 0.6)
	assert.InDelta(t, totals[len(totals)*8/10], p80, 0.9)
}

// One step by itself is a log-normal of variance 0.2225: its median is the map's,
// its 80th percentile exp(0.8416 × 0.4717) = 1.487 times that.
func TestTheBandOfOneStep(t *testing.T) {
	p50, p80 := Band([]float64{10}, 3)
	assert.InDelta(t, 13, p50, 1e-9)
	assert.InDelta(t, 3+14.87, p80, 0.01)
}
