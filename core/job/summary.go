package job

import (
	"fmt"
	"slices"
	"strings"

	"evensteps/core/bench"
	"evensteps/core/english"
	"evensteps/core/journey"
	"evensteps/core/scene"
	"evensteps/core/snags"
	"evensteps/core/steps"
	"evensteps/core/view"
	"evensteps/core/worth"
)

// sum says in a few lines how the job stands: even or not, and what signing off
// says.
func sum(sc *scene.Scene, w *View) {
	lying := bench.Lying(sc)
	w.Closed = len(sc.ToComeBack()) == 0 && len(sc.Goals) > 0 && !sc.Repaired()
	w.Even = !slices.ContainsFunc(w.Snags, func(s snags.Snag) bool { return s.Explained == nil }) && !w.Closed
	out, back := 0, 0
	for _, r := range w.Rungs {
		if r.Kind != "check" && r.Back != steps.None {
			if r.Out == steps.Done {
				out++
			}
			if r.Back == steps.Done {
				back++
			}
		}
	}
	switch {
	case sc.CalledOff():
		w.Headline = "Called off"
	case w.Even && sc.SignedBy != nil:
		w.Headline = "Even: all back and proven. Signed off"
	case w.Even:
		w.Headline = "Even: all back and proven"
	case w.Closed:
		w.Headline = "Closed, not repaired"
	default:
		w.Headline = "Not even yet: " + english.Count(len(w.Between), "thing") + " left"
	}
	words := []string{"nothing is off"}
	if out > 0 {
		words[0] = fmt.Sprintf("%d of %s back", back, english.Count(out, "step"))
	}
	if lying != "" {
		words = append(words, lying+" still out")
	} else if out > 0 {
		words = append(words, "no fastener out")
	}
	w.Standing = strings.Join(words, " · ")
	w.SignOff = view.Button("Sign off", "all that came off is back, counted and proven", view.Made("signed-off", map[string]any{}))
	switch {
	case w.Closed:
		w.SignOff.Says = "closed, not repaired"
	case !w.Even:
		w.SignOff.Label, w.SignOff.Says = "Sign off when even", english.Count(len(w.Between), "thing")+" left"
		for _, r := range w.Between {
			w.SignOff.Open = append(w.SignOff.Open, r.What+": "+r.Say)
		}
	}
}

// foot is the foot of the ladder.
func foot(sc *scene.Scene, rungs []steps.Rung) Foot {
	f := Foot{Off: len(sc.ToComeBack())}
	for _, r := range rungs {
		if r.Kind != "check" {
			f.Rungs++
			if r.Out == steps.Done {
				f.Made++
			}
		}
	}
	switch {
	case len(sc.Rest) > 0:
		f.Title = sc.Names.Goal(sc.Rest[0])
		if len(sc.Rest) > 1 {
			f.Title += fmt.Sprintf(", and %d more", len(sc.Rest)-1)
		}
	case sc.Looking():
		f.Title = "The fault is still to be found"
	case len(sc.Goals) > 0:
		g := sc.Goals[len(sc.Goals)-1]
		if w := sc.OwnWork(); w != nil {
			g = w
		}
		f.Title = sc.Names.Goal(g.Goal) + ": " + g.Reason
		if g.Open {
			f.Title = sc.Names.Goal(g.Goal)
		} else if g.Reason == "" {
			f.Title = sc.Names.Reached(g.Goal)
		}
	default:
		f.Title = "No goal yet"
	}
	if p := sc.Plan; p != nil && !sc.Looking() {
		var minutes []float64
		for _, id := range p.WayIn {
			minutes = append(minutes, sc.Map.Move(id).Minutes.Out)
		}
		for _, s := range p.WayBack {
			minutes = append(minutes, journey.StepMinutes(sc, s))
		}
		for _, id := range sc.FinalsDue() {
			minutes = append(minutes, sc.Map.Final(id).Minutes)
		}
		f.P50, f.P80 = worth.Band(minutes, p.Minutes.TurnsAndToolsIn+p.Minutes.TurnsAndToolsBack)
		f.Doubt = p.Doubt()
	}
	return f
}
