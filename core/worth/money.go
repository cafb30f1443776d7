package worth

import (
	"fmt"
	"math"
)

// Recovery is the share of a price that each of so many years must carry when
// money costs so much interest a year (0.05 for 5 %): the capital recovery
// factor i/(1-(1+i)^-n) of engineering economy. Without interest it is 1/n.
func Recovery(interest, years float64) float64 {
	if interest == 0 {
		return 1 / years
	}
	return interest / -math.Expm1(-years*math.Log1p(interest))
}

// Course is one thing that the customer can do: what it costs now, how many
// years it lasts, and what it costs to run each year.
type Course struct {
	Price   float64
	Years   float64
	Running float64
}

// Yearly is the equivalent annual cost of a course.
func (c Course) Yearly(interest float64) float64 {
	return c.Price*Recovery(interest, c.Years) + c.Running
}

// Tips is what would make repair and replacement cost the same each year.
type Tips struct {
	Years float64 // that the repaired machine lasts; 0 where no number of years does
	Price float64 // of the repair; 0 where it would have to be given away
}

// Tip finds what would tip the choice between a repair and a replacement.
func Tip(repair, replace Course, interest float64) Tips {
	var t Tips
	room := replace.Yearly(interest) - repair.Running // what a year may cost
	if room <= 0 {
		return t
	}
	t.Price = room / Recovery(interest, repair.Years)
	if repair.Price > 0 {
		f := room / repair.Price
		switch {
		case interest == 0:
			t.Years = 1 / f
		case f > interest:
			t.Years = -math.Log1p(-interest/f) / math.Log1p(interest)
		}
	}
	return t
}

// Sound tells what is wrong with figures that cannot be reckoned with.
func (c Course) Sound() error {
	for _, v := range []float64{c.Price, c.Years, c.Running} {
		if math.IsNaN(v) || math.IsInf(v, 0) || v < 0 {
			return fmt.Errorf("%v is no price and no number of years", v)
		}
	}
	if c.Years < 0.5 || c.Years > 60 {
		return fmt.Errorf("%v years: write between a half and 60", c.Years)
	}
	return nil
}
