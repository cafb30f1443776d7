package worth

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// The capital recovery column A/P of compound-interest tables, four digits, as
// textbooks of engineering economy print it (from memory).
func TestRecoveryAgainstCompoundInterestTables(t *testing.T) {
	for _, c := range []struct{ interest, years, want float64 }{
		{0.05, 1, 1.0500},
		{0.05, 4, 0.2820},
		{0.05, 5, 0.2310},
		{0.05, 10, 0.1295},
		{0.05, 20, 0.0802},
		{0.08, 5, 0.2505},
		{0.08, 10, 0.1490},
		{0.10, 5, 0.2638},
		{0.10, 10, 0.1627},
		{0.10, 15, 0.1315},
	} {
		assert.InDelta(t, c.want, Recovery(c.interest, c.years), 5.1e-5, "%v %v", c.interest, c.years)
	}
	assert.Equal(t, 0.25, Recovery(0, 4))
	assert.InDelta(t, Recovery(0, 7), Recovery(1e-9, 7), 1e-6, "no jump at no interest")
}

// A yearly payment of the equivalent cost pays the price back to nothing: the
// balance is followed year by year, apart from the formula.
func TestYearlyPaysThePriceBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		price := rapid.Float64Range(1, 5000).Draw(t, "price")
		years := rapid.IntRange(1, 30).Draw(t, "years")
		interest := rapid.Float64Range(0, 0.2).Draw(t, "interest")
		pay := Course{Price: price, Years: float64(years)}.Yearly(interest)
		balance := price
		for range years {
			balance = balance*(1+interest) - pay
		}
		assert.InDelta(t, 0, balance, price*1e-6*math.Pow(1+interest, float64(years)))
	})
}

// At the tip, both cost the same; beside it, the one or the other is cheaper.
func TestWhatTipsTheChoice(t *testing.T) {
	repair, replace := Course{Price: 220, Years: 4, Running: 85}, Course{Price: 900, Years: 10, Running: 60}
	assert.InDelta(t, 147.04, repair.Yearly(0.05), 0.01, "220 × 0.28201 + 85")
	assert.InDelta(t, 176.55, replace.Yearly(0.05), 0.01, "900 × 0.12950 + 60")
	tip := Tip(repair, replace, 0.05)
	at := repair
	at.Years = tip.Years
	assert.InDelta(t, replace.Yearly(0.05), at.Yearly(0.05), 1e-9)
	at = repair
	at.Price = tip.Price
	assert.InDelta(t, replace.Yearly(0.05), at.Yearly(0.05), 1e-9)
	// A repair so dear that no number of years pays for it.
	assert.Zero(t, Tip(Course{Price: 5000, Years: 4}, Course{Price: 500, Years: 10}, 0.05).Years)
	assert.Equal(t, Tips{}, Tip(Course{Price: 10, Years: 4, Running: 900}, Course{Price: 500, Years: 10}, 0.05))
	rapid.Check(t, func(t *rapid.T) {
		repair := Course{Price: rapid.Float64Range(1, 2000).Draw(t, "repair"), Years: rapid.Float64Range(0.5, 20).Draw(t, "left")}
		replace := Course{Price: rapid.Float64Range(1, 2000).Draw(t, "new"), Years: rapid.Float64Range(0.5, 20).Draw(t, "lasts")}
		interest := rapid.SampledFrom([]float64{0, 0.03, 0.08}).Draw(t, "interest")
		tip := Tip(repair, replace, interest)
		require.Greater(t, tip.Price, 0.0)
		require.Equal(t, repair.Price < tip.Price, repair.Yearly(interest) < replace.Yearly(interest))
		if tip.Years > 0 {
			require.Equal(t, repair.Years > tip.Years, repair.Yearly(interest) < replace.Yearly(interest))
		}
	})
}

func TestFiguresThatCannotBeReckonedWith(t *testing.T) {
	for _, c := range []Course{{Price: -1, Years: 4}, {Price: math.NaN(), Years: 4}, {Price: 1, Years: 0}, {Price: 1, Years: 400}, {Price: 1, Years: 4, Running: math.Inf(1)}} {
		assert.Error(t, c.Sound(), "%v", c)
	}
	assert.NoError(t, Course{Price: 1, Years: 4}.Sound())
}

func TestFiguresAtTheirLimits(t *testing.T) {
	for _, years := range []float64{0.5, 4, 60} {
		assert.NoError(t, Course{Years: years}.Sound(), "%v", years)
	}
	for _, years := range []float64{0, 0.49, 60.1} {
		assert.ErrorContains(t, Course{Years: years}.Sound(), "between a half and 60")
	}
	for _, c := range []Course{{Price: -0.01, Years: 4}, {Years: 4, Running: math.NaN()}, {Price: math.Inf(1), Years: 4}} {
		assert.ErrorContains(t, c.Sound(), "no price")
	}
	// Without interest a price is shared out evenly: 200 at 50 a year are 4 years.
	tip := Tip(Course{Price: 200, Years: 2}, Course{Price: 500, Years: 10}, 0)
	assert.InDelta(t, 4, tip.Years, 1e-12)
	assert.InDelta(t, 100, tip.Price, 1e-12)
	// A repair that costs nothing is never tipped by its years.
	tip = Tip(Course{Years: 2}, Course{Price: 500, Years: 10}, 0.05)
	assert.Zero(t, tip.Years)
	assert.Positive(t, tip.Price)
	assert.Equal(t, Tips{}, Tip(Course{Price: 10, Years: 4, Running: 50}, Course{Price: 500, Years: 10}, 0), "nothing is left a year")
}
