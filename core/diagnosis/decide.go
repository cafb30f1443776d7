// Package diagnosis is the search for what is wrong, and the decision what to do
// about it, in the words of their screens. The weighing itself is package fault.
package diagnosis

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/fault"
	"evensteps/core/findings"
	"evensteps/core/journey"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// Decide is what to fit, how to get there, what to bring, and whether to repair
// at all, as its screen shows it.
type Decide struct {
	Say     string          `json:"say"`   // why there is nothing to decide yet
	Title   string          `json:"title"` // the likeliest suspect; or what is set to be done
	Known   []view.Row      `json:"known"` // what speaks for the likeliest suspect, and how it is known
	Fits    []Fit           `json:"fits"`  // the cheapest on the whole first
	Why     []view.Row      `json:"why"`   // what will be asked before the job is even
	Ways    []journey.WayIn `json:"ways"`  // the best first
	Bring   []view.Row      `json:"bring"`
	Who     []string        `json:"who"`   // for which stretch somebody else is needed
	Stops   []string        `json:"stops"` // where this viewer has to stop for a ticket
	Go      string          `json:"go"`    // go, or what speaks against it
	Earlier []view.Row      `json:"earlier"`
	Worth   *Worth          `json:"worth"`
	Else    []view.Touch    `json:"else"` // what else can be decided
	Usual   Figures         `json:"usual"`
	Decided string          `json:"decided"` // the last decision, in words
}

// fits are the options of the search, in words.
func fits(sc *scene.Scene, c fault.Case) []Fit {
	out := []Fit{}
	options, _ := fault.Options(c)
	for _, o := range options {
		f := Fit{Holds: o.Holds, About: english.Chance(o.Holds), Minutes: o.Minutes, Money: o.Money, Test: o.Test != "", goals: o.Goals, Says: []string{}}
		f.Whole = fmt.Sprintf("on the whole about %.0f min", o.Minutes)
		if o.Money > 0 {
			f.Whole += " and " + money(sc, o.Money) + " for parts"
		}
		if f.Test {
			f.Title, f.P50, f.P80 = "First: "+english.Lower(sc.Names.Test(o.Test)), o.Own, o.Own
			f.Says = append(f.Says, fmt.Sprintf("%.0f min; it changes what to fit %s", math.Ceil(o.Own), often(o.Changes)))
			f.Accept = new(view.Button("Measure first", english.Lower(sc.Names.Test(o.Test)), view.Added(o.Goals)...))
			out = append(out, f)
			continue
		}
		var names, faults []string
		for _, id := range o.Parts {
			p := sc.Map.Part(id)
			f.Price += p.Price
			names = append(names, p.Name)
			f.Says = append(f.Says, partSays(sc, p)...)
		}
		for _, id := range o.Fixes {
			faults = append(faults, english.Lower(fault.Name(sc.Map, id)))
		}
		f.Title = english.And(names)
		if len(names) == 0 {
			f.Title = english.Upper(english.And(faults))
		} else {
			f.Says = append(f.Says, "fixes: "+english.And(faults))
		}
		p := journey.PlanTo(sc, o.Goals)
		if p == nil {
			continue
		}
		f.P50, f.P80 = journey.Band(sc, p, o.Own)
		if f.Price > 0 {
			f.Costs = price(sc, f.Price)
		}
		f.Accept = new(view.Button("Fit this", english.Lower(f.Title), view.Added(o.Goals)...))
		if len(o.Goals) == 0 {
			f.Accept.Label, f.mended = "Fixed", o.Fixes
		}
		out = append(out, f)
	}
	return out
}

// often says how often something comes about.
func often(p float64) string {
	switch {
	case p > 0.97:
		return "nearly always"
	case p < 0.02:
		return "hardly ever"
	}
	return "in " + english.Chance(p) + " of cases"
}

// partSays is what there is to know of a part before it is ordered.
func partSays(sc *scene.Scene, p *machine.Part) (out []string) {
	number := "number " + p.Number
	if len(p.Was) > 0 {
		number += ", takes the place of " + english.And(p.Was)
	}
	out = append(out, number)
	var pieces []string
	for _, id := range p.Pieces() {
		pieces = append(pieces, english.Lower(sc.Names.Item(id)))
	}
	switch {
	case p.FitTogether && p.SetOf == 2:
		out = append(out, "fitted as a pair; to keep one asks for a reason")
	case p.FitTogether:
		out = append(out, "fitted as a set; to keep one asks for a reason")
	case len(pieces) > 1:
		out = append(out, english.And(pieces)+": each fitted, kept or returned")
	}
	if len(p.CarryOver) > 0 {
		var names []string
		for _, id := range p.CarryOver {
			names = append(names, english.Lower(sc.Names.Item(id)))
		}
		out = append(out, "move over "+english.And(names))
	}
	if p.Unlike {
		out = append(out, "looks different: wired one lead at a time")
	}
	return out
}

// known is what speaks for the likeliest suspect.
func known(sc *scene.Scene, a *fault.Advice, c fault.Case, shown []findings.Finding) []view.Row {
	out := []view.Row{}
	if a == nil {
		return out
	}
	top := a.Suspects[0]
	out = append(out, view.Row{What: fault.Name(sc.Map, top.Fault), Say: english.Chance(top.P)})
	speaks := fault.Speaks(c)
	for _, r := range c.Results {
		if !speaks(r, top.Fault) {
			continue
		}
		for _, s := range shown {
			if s.Test == r.Test {
				out = append(out, view.Row{What: english.Upper(findings.Grades[findings.KnownBy(sc, r)]), Say: s.Title + ": " + english.Lower(s.Say)})
				break
			}
		}
	}
	if len(out) == 1 {
		out = append(out, view.Row{What: "Assumed", Say: "nothing was measured or seen that shows it"})
	}
	return out
}

// willAsk is what a fitted part will ask for before the job is even.
func willAsk(sc *scene.Scene, goals []string) []view.Row {
	out := []view.Row{}
	for _, g := range goals {
		p := sc.Map.Part(strings.TrimPrefix(g, "replace:"))
		if p == nil {
			continue
		}
		for i := range sc.Map.Faults {
			f := &sc.Map.Faults[i]
			if !sc.Map.Renews(p, f) {
				continue
			}
			for _, c := range f.Because {
				say := c.Ask
				if a := findings.CauseOf(sc, c); a != nil {
					say += " " + english.Upper(a.Of.(*record.CauseAnswered).Answer) + "."
				}
				if !slices.ContainsFunc(out, func(r view.Row) bool { return r.Say == say }) {
					out = append(out, view.Row{What: "Why: " + english.Lower(f.Name) + "?", Say: say})
				}
			}
		}
	}
	return out
}

// journeyOf is what there is to know before setting out, and before going on: the
// ways, what to bring, for which stretch somebody else must come, and where a
// ticket stops this viewer.
func journeyOf(sc *scene.Scene, out *Decide, a *fault.Advice, goals []string) {
	p := journey.PlanTo(sc, goals)
	if p == nil {
		out.Go = "Cannot be done: there is no way in and back as things stand."
		return
	}
	out.Ways = journey.Ways(sc, p, goals)
	rows := journey.PartsToBring(sc, goals)
	if len(journey.Mending(sc)) == 0 {
		rows = append(rows, maybe(sc, a)...)
	}
	rows = append(rows, journey.KitToBring(sc, p)...)
	if n := journey.FewestTrays(sc, p.WayIn); n > 0 {
		rows = append(rows, view.Row{What: english.Count(n, "tray"), Say: "at the least, to keep look-alikes apart"})
	}
	out.Bring = journey.Unlike(rows)
	out.Who = journey.Helped(sc, p)
	out.Go = "You can do it alone."
	if len(out.Who) > 0 {
		out.Go = "Bring a second person."
	}
	for _, s := range journey.TicketStops(sc, p) {
		if sc.Has(sc.Viewer.Person, s.Ticket) {
			continue
		}
		say := s.Name + ". " + s.Say() + "."
		if s.More > 0 {
			say += fmt.Sprintf(" So do %d after it.", s.More)
		}
		out.Stops = append(out.Stops, say)
	}
	if len(out.Stops) > 0 {
		out.Go = "You have to stop for a ticket."
	}
}

// maybe tells of what may be needed besides: the parts of the likelier
// suspects, and the tools of the tests that would be advised first.
func maybe(sc *scene.Scene, a *fault.Advice) (rows []view.Row) {
	if a == nil {
		return nil
	}
	for _, s := range a.Suspects {
		if f := sc.Map.Fault(s.Fault); f != nil && s.P >= likely {
			for _, r := range journey.PartsToBring(sc, []string{"replace:" + f.Part}) {
				rows = append(rows, view.Row{What: r.What, Say: "perhaps, " + english.Chance(s.P)})
			}
		}
	}
	for k, step := range a.Next {
		if t := sc.Map.Test(step.Test); t != nil && k < 3 {
			for _, tool := range t.Tools {
				rows = append(rows, view.Row{What: english.Upper(tool), Say: "to measure"})
			}
		}
	}
	return rows
}

// elseDecided is what can be decided instead of going on now.
func elseDecided(sc *scene.Scene, figures *Figures, w *Worth) []view.Touch {
	touch := func(label, says, choice, reason string) view.Touch {
		t := view.Button(label, says, decided(choice, figures, w, nil))
		for _, g := range sc.Rest {
			t.Makes = append(t.Makes, view.Made("goal.dropped", map[string]string{"goal": g, "reason": reason}))
		}
		return t
	}
	return []view.Touch{
		touch("Second visit", "with the parts; close it now", "second-visit", "waiting"),
		touch("Replace", "a new machine; close it now", "replace", "declined"),
		touch("Leave", "not repaired; close it now", "leave", "declined"),
	}
}

// Choose compares what can be done from all that is known of the job. Without a
// price of a new machine, repair and replacement are not compared.
func Choose(sc *scene.Scene, typed Typed) *Decide {
	figures, wrong := typed.read()
	out := &Decide{Known: []view.Row{}, Fits: []Fit{}, Why: []view.Row{}, Ways: []journey.WayIn{}, Bring: []view.Row{}, Who: []string{}, Stops: []string{}, Earlier: []view.Row{}, Else: []view.Touch{}, Usual: Usual}
	for _, e := range sc.Job.Earlier {
		out.Earlier = append(out.Earlier, view.Row{What: e.When, Say: e.Say})
	}
	if sc.Decided != nil {
		d := sc.Decided.Of.(*record.Decided)
		out.Decided = english.Upper(sc.Name(sc.Decided.By)) + " decided: " + english.Spaced(d.Choice) + "."
		if d.By == "customer" {
			out.Decided = "The customer said: " + english.Spaced(d.Choice) + "."
		}
	}
	c, shown := findings.Case(sc)
	advice, _ := fault.Find(c)
	goals := journey.Mending(sc)
	if len(goals) == 0 {
		out.Fits = fits(sc, c)
		for _, f := range out.Fits {
			if !f.Test {
				goals = f.goals
				break
			}
		}
	}
	if len(out.Fits) == 0 && len(goals) == 0 {
		out.Say = "Nothing is suspected and no part is set: find the fault first, or set a goal."
		return out
	}
	out.Known = known(sc, advice, c, shown)
	if len(out.Known) > 0 {
		out.Title, out.Known = out.Known[0].What, slices.Concat([]view.Row{{What: out.Known[0].Say}}, out.Known[1:])
	}
	if set := journey.Mending(sc); len(set) > 0 {
		var names []string
		out.Known = []view.Row{}
		for _, g := range set {
			names = append(names, english.Lower(sc.Names.Goal(g)))
			if p := sc.Map.Part(strings.TrimPrefix(g, "replace:")); p != nil {
				for _, say := range partSays(sc, p) {
					out.Known = append(out.Known, view.Row{What: p.Name, Say: say})
				}
			}
		}
		out.Title = english.Upper(english.And(names))
	}
	out.Why = willAsk(sc, goals)
	journeyOf(sc, out, advice, goals)
	out.Worth = compared(sc, out.Fits, goals, figures)
	if wrong != nil {
		out.Worth.Problem = english.Upper(wrong.Error())
	}
	for _, f := range out.Fits {
		if !f.Test {
			f.Accept.Makes = append([]view.Make{decided("repair", figures, out.Worth, f.mended)}, f.Accept.Makes...)
		}
	}
	out.Else = elseDecided(sc, figures, out.Worth)
	return out
}
