package diagnosis

import (
	"fmt"
	"math"
	"strings"

	"evensteps/core/reading"
	"evensteps/core/record"
	"evensteps/core/view"
)

// Figures are what the customer's choice is reckoned on. Prices are in the
// company's money, interest in per cent a year.
type Figures struct {
	New      float64 `json:"new"`        // price of a new machine, set up
	Left     float64 `json:"years_left"` // years that this one lasts, repaired
	Lasts    float64 `json:"years_new"`  // years that a new one lasts
	RunThis  float64 `json:"run_this"`   // what this one costs to run, a year
	RunNew   float64 `json:"run_new"`
	Interest float64 `json:"interest"`
}

// Usual are the figures that stand where nobody has said others: judgement, no
// source. The price of a new machine must be said.
var Usual = Figures{Left: 4, Lasts: 10, Interest: 5}

// Typed is what somebody wrote into the figures, by their names in JSON. What
// is not written stands at the usual; without a price of a new machine nothing
// is compared.
type Typed map[string]string

// read gives the figures as written; nil where no new machine has a price yet.
func (t Typed) read() (*Figures, error) {
	f := Usual
	priced := false
	for name, into := range map[string]*float64{
		"new": &f.New, "years_left": &f.Left, "years_new": &f.Lasts, "run_this": &f.RunThis, "run_new": &f.RunNew, "interest": &f.Interest,
	} {
		text := strings.TrimSpace(t[name])
		if text == "" {
			continue
		}
		value, err := reading.Parse(reading.Count, text)
		if err != nil {
			return nil, fmt.Errorf("%q is no number; write it like 900 or 4.5", text)
		}
		*into = value
		priced = priced || name == "new"
	}
	if !priced {
		return nil, nil
	}
	return &f, nil
}

// Fit is one thing that can be fitted, or the test that may spare it.
type Fit struct {
	Title   string      `json:"title"`
	Says    []string    `json:"says"`
	Price   float64     `json:"price"`
	Costs   string      `json:"costs"` // the price in the company's money; empty where none is known
	P50     float64     `json:"p50"`   // minutes of this opening with its finals; of a test, its own
	P80     float64     `json:"p80"`
	Holds   float64     `json:"holds"` // the chance that it mends it
	About   string      `json:"about"`
	Whole   string      `json:"whole"`   // what it comes to on the whole, in words
	Minutes float64     `json:"minutes"` // expected on the whole, to a proven repair
	Money   float64     `json:"money"`   // and the prices of parts
	Test    bool        `json:"test"`
	Accept  *view.Touch `json:"accept"`
	goals   []string
	mended  []string // faults, where nothing has to be opened
}

// Worth is repair and replacement beside each other, each a year.
type Worth struct {
	Cost    float64 `json:"cost"`  // of the repair: work and parts, with the company's tax
	Money   string  `json:"money"` // the currency, ISO 4217; empty where nobody has said
	Note    string  `json:"note"`  // what is in the cost, and what comes either way
	Repair  float64 `json:"repair"`
	Replace float64 `json:"replace"`
	Says    string  `json:"says"`
	Problem string  `json:"problem"` // what is wrong with the figures
	Left    float64 `json:"years_left"`
	Lasts   float64 `json:"years_new"`
}

// decided is what was decided, with the figures it was decided on. A repair
// that is made already, with nothing opened, is nobody's decision.
func decided(choice string, figures *Figures, w *Worth, mended []string) view.Make {
	d := record.Decided{Choice: choice, By: "customer", Figures: map[string]any{}}
	if len(mended) > 0 {
		d.Figures["mended"], d.By = mended, ""
	}
	if w != nil {
		d.Figures["cost"] = math.Round(100*w.Cost) / 100
	}
	if figures != nil && w != nil && w.Problem == "" {
		d.Figures["reckoned_on"] = *figures
		d.Figures["repair_a_year"], d.Figures["replace_a_year"] = math.Round(w.Repair), math.Round(w.Replace)
	}
	return view.Made("decided", d)
}
