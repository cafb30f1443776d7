package diagnosis

import (
	"errors"
	"fmt"
	"math"
	"strconv"
	"strings"

	"evensteps/core/english"
	"evensteps/core/journey"
	"evensteps/core/scene"
	"evensteps/core/worth"
)

// compared is repair and replacement a year, with what would tip it.
func compared(sc *scene.Scene, fits []Fit, goals []string, figures *Figures) *Worth {
	w := &Worth{}
	if len(fits) > 0 {
		for _, f := range fits {
			if !f.Test {
				w.Cost = f.P50*sc.Rate() + f.Price
				break
			}
		}
	} else if p := journey.PlanTo(sc, goals); p != nil {
		p50, _ := journey.Band(sc, p)
		w.Cost = p50 * sc.Rate()
		for _, g := range goals {
			if q := sc.Map.Part(strings.TrimPrefix(g, "replace:")); q != nil {
				w.Cost += q.Price
			}
		}
	}
	firmCosts(sc, w)
	if figures == nil {
		return w
	}
	repair := worth.Course{Price: w.Cost, Years: figures.Left, Running: figures.RunThis}
	replace := worth.Course{Price: figures.New, Years: figures.Lasts, Running: figures.RunNew}
	interest := figures.Interest / 100
	if err := errors.Join(repair.Sound(), replace.Sound()); err != nil {
		w.Problem = strings.ReplaceAll(err.Error(), "\n", "; ")
		return w
	}
	if !(interest >= 0 && interest <= 1) {
		w.Problem = "Write the interest in per cent a year, from 0 to 100."
		return w
	}
	w.Repair, w.Replace = repair.Yearly(interest), replace.Yearly(interest)
	w.Left, w.Lasts = figures.Left, figures.Lasts
	tip := worth.Tip(repair, replace, interest)
	less := w.Replace - w.Repair
	switch {
	case math.Abs(less) < 0.5:
		w.Says = "Both cost the same a year."
	case less > 0:
		w.Says = fmt.Sprintf("Repair is cheaper by %s a year.", money(sc, less))
		if tip.Years > 0 {
			w.Says += fmt.Sprintf(" Break-even: it lasts %s, or the repair costs %s.", years(tip.Years), money(sc, tip.Price))
		}
	default:
		w.Says = fmt.Sprintf("A new one is cheaper by %s a year.", money(sc, -less))
		if tip.Years > 0 && tip.Years <= 40 {
			w.Says += fmt.Sprintf(" Break-even: this one lasts %s, or the repair costs %s.", years(tip.Years), money(sc, tip.Price))
		} else {
			w.Says += " However long it lasts."
		}
	}
	return w
}

// firmCosts adds the company's tax, and says what comes either way.
func firmCosts(sc *scene.Scene, w *Worth) {
	f := sc.Job.Firm
	if f == nil {
		return
	}
	w.Money = f.Currency
	tax := 1 + f.Tax/100
	w.Cost *= tax
	if f.Tax > 0 {
		w.Note = fmt.Sprintf("With %s %% tax.", strconv.FormatFloat(f.Tax, 'f', -1, 64))
	}
	if f.CallOut > 0 {
		w.Note = english.Sentences(w.Note, "The call-out, "+money(sc, f.CallOut*tax)+", comes either way.")
	}
}

// money is an amount in whole units, price one to the hundredth, with the company's
// currency.
func money(sc *scene.Scene, amount float64) string { return inMoney(sc, "%.0f", amount) }

func price(sc *scene.Scene, amount float64) string { return inMoney(sc, "%.2f", amount) }

func inMoney(sc *scene.Scene, digits string, amount float64) string {
	say := fmt.Sprintf(digits, amount)
	if f := sc.Job.Firm; f != nil && f.Currency != "" {
		return f.Currency + " " + say
	}
	return say
}

func years(n float64) string {
	if n < 1.95 {
		return fmt.Sprintf("%.0f months", n*12)
	}
	return fmt.Sprintf("%.1f years", n)
}
