// Package paper is what leaves the screen: the sheet that a customer is given, the
// page for who takes over, and what the next job on this machine is told.
package paper

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// SheetOf writes it.
func SheetOf(sc *scene.Scene, from From) Sheet {
	s := Sheet{
		Title: title(sc, from), State: from.Headline + ".", Parts: partsFitted(sc), Tried: tried(sc), Todo: todo(sc), Explained: []string{}, Wrong: wrong(sc), Found: found(sc), Done: done(sc, from),
		Measured: append(append(proofs(sc), readings(sc)...), measuredBack(sc)...), NotTested: notTested(sc),
		Note: "This sheet says who found what, when and with which instrument. It does not say that a machine is safe. Local codes, the maker's data and licensed practice come first.",
	}
	s.heads(sc)
	if sc.SignedBy != nil {
		b := sc.SignedBy.Of.(*record.SignedOff)
		s.Signed, s.Customer = &view.Stamp{By: sc.FullName(sc.SignedBy.By), At: sc.SignedBy.When()}, b.Customer
	}
	for _, snag := range from.Snags {
		if snag.Explained != nil {
			s.Explained = append(s.Explained, fmt.Sprintf("%s %s (%s)", snag.Say, snag.Explained.Text, snag.Explained.By))
		}
	}
	s.Markdown = s.markdown()
	return s
}

// title says of what kind of machine it is, and how it was left.
func title(sc *scene.Scene, from From) string {
	kind := english.Upper(sc.Map.Kind)
	if sc.Map.Kind == "other" || kind == "" {
		kind = "Machine"
	}
	switch {
	case sc.CalledOff():
		return kind + ": job called off"
	case !from.Even && !from.Closed:
		return kind + ": work under way"
	case from.Closed || !sc.Repaired():
		return kind + " closed, not repaired"
	case len(sc.Goals) == 0 && sc.Decided == nil:
		return kind + " looked at"
	}
	return kind + " repaired"
}

func wrong(sc *scene.Scene) []string {
	out := []string{}
	if sc.Job.Words != "" {
		out = append(out, "“"+sc.Job.Words+"”")
	}
	for _, c := range sc.Complaints() {
		out = append(out, c.Name+".")
	}
	for _, f := range sc.Told {
		out = append(out, "Told by telephone: "+english.Lower(f.Of.(*record.Told).Name)+". Out of use until it was looked at.")
	}
	return out
}

// done is what was done besides fitting parts.
func done(sc *scene.Scene, from From) []string {
	out := []string{}
	for _, key := range slices.Sorted(maps.Keys(sc.Pieces)) {
		if scene.FittedAs(sc.Pieces[key]) != "fitted" {
			out = append(out, pieceLine(sc, sc.Pieces[key].Of.(*record.PartFitted)))
		}
	}
	out = append(out, mendedSo(sc)...)
	if used := usedUp(sc); len(used) > 0 {
		out = append(out, "Used up: "+strings.Join(used, ", ")+".")
	}
	_, cared, _ := looked(sc)
	out = append(out, cared...)
	for _, own := range from.Inside.Belongings {
		if own.To != "" {
			out = append(out, fmt.Sprintf("Found inside: %s, given to %s.", own.What, own.To))
		}
	}
	for _, g := range sc.Goals {
		if g.Reason != "" && g.Goal != record.Work {
			out = append(out, fmt.Sprintf("%s: not done, %s.", sc.Names.Goal(g.Goal), g.Reason))
		}
	}
	return out
}

// tried is what was tried at the end, and on the way back.
func tried(sc *scene.Scene) []string {
	out := []string{}
	passed := func(t *machine.Task, pass string) {
		say := t.Title + "."
		if pass != "" {
			say = t.Title + ": " + english.Lower(strings.TrimSuffix(pass, ".")) + "."
		}
		out = append(out, say) // a value stands with what was measured
	}
	for _, id := range slices.Sorted(maps.Keys(sc.Checks)) {
		if c := sc.Map.Check(id); c != nil && sc.Checks[id].Passed != nil {
			passed(&c.Task, c.Pass)
		}
	}
	for i := range sc.Map.Finals {
		if f := &sc.Map.Finals[i]; sc.FinalPassed(f.ID) {
			passed(&f.Task, f.Pass)
		}
	}
	return out
}

// notTested is what nobody can rely on from this job.
func notTested(sc *scene.Scene) []string {
	out := []string{}
	_, _, left := looked(sc)
	out = append(out, left...)
	for i := range sc.Map.Finals {
		f := &sc.Map.Finals[i]
		switch r := sc.Finals[f.ID]; {
		case r == nil:
			out = append(out, f.Title+".")
		case !sc.FinalPassed(f.ID):
			out = append(out, f.Title+": failed.")
		}
	}
	if sc.Map.Plain() {
		if len(sc.Map.Finals) == 0 {
			out = append(out, "The whole machine in use: no guide covers it.")
		}
		if !slices.ContainsFunc(slices.Collect(maps.Keys(sc.Readings)), func(id string) bool { return strings.HasPrefix(id, "earth:") }) {
			out = append(out, "The earth of the cabinet.")
		}
	}
	if sc.SignedBy != nil {
		out = append(out, sc.SignedBy.Of.(*record.SignedOff).NotTested...)
	}
	return out
}

// heads says whose sheet it is, and of what.
func (s *Sheet) heads(sc *scene.Scene) {
	s.Firm, s.About = []string{}, []view.Row{}
	add := func(what, say string) {
		if say != "" {
			s.About = append(s.About, view.Row{What: what, Say: say})
		}
	}
	if f := sc.Job.Firm; f != nil {
		s.Zone, s.Region = f.Zone, f.Region
		for _, line := range append(append([]string{f.Name}, strings.Split(f.Address, "\n")...), f.Number) {
			if line != "" {
				s.Firm = append(s.Firm, line)
			}
		}
	}
	machine := sc.Map.Title
	if w := sc.Job.Where; w != nil {
		add("Site", english.Listed(w.Site, strings.ReplaceAll(w.Address, "\n", ", ")))
		machine = english.Listed(w.Name, w.Model, w.Stands)
		add("Machine", machine)
		add("Serial", w.Serial)
	} else {
		add("Site", sc.Job.Place)
		add("Machine", machine)
	}
	if sc.Job.Where == nil {
		add("Job", english.Listed(sc.Job.ID, sc.Job.Title))
	} else {
		add("Job", sc.Job.ID)
	}
	var days, who []string
	for i := range sc.Facts {
		f := &sc.Facts[i]
		if len(sc.Job.Company().Came(f)) == 0 {
			continue
		}
		if day := sc.Day(f.When()); !slices.Contains(days, day) {
			days = append(days, day)
		}
		if name := sc.FullName(f.By); !slices.Contains(who, name) {
			who = append(who, name)
		}
	}
	add("Visits", english.And(days))
	add("Technicians", english.And(who))
}
