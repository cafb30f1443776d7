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

// passed is the line of a check or final that passed, with what it showed.
func passed(t *machine.Task, pass string) string {
	if pass == "" {
		return t.Title + ": passed." // its value stands with what was measured
	}
	return t.Title + ": passed. " + pass + "."
}

// SheetOf writes it.
func SheetOf(sc *scene.Scene, from From) Sheet {
	s := Sheet{
		Title: sc.Job.Title, Wrong: []string{}, Found: []string{}, Done: []string{}, Measured: []Figure{}, NotTested: []string{}, Who: []string{}, Explained: []string{},
		Note: "Local codes, the maker's data and licensed practice come first. This sheet says who found what, when and with which instrument.",
	}
	s.heads(sc)
	if sc.Job.Words != "" {
		s.Wrong = append(s.Wrong, "“"+sc.Job.Words+"”")
	}
	for _, c := range sc.Complaints() {
		s.Wrong = append(s.Wrong, c.Name+".")
	}
	for _, f := range sc.Told {
		s.Wrong = append(s.Wrong, "Told by telephone: "+english.Lower(f.Of.(*record.Told).Name)+". Out of use until it was looked at.")
	}
	for _, key := range slices.Sorted(maps.Keys(sc.Pieces)) {
		if scene.FittedAs(sc.Pieces[key]) != "fitted" {
			s.Done = append(s.Done, pieceLine(sc, sc.Pieces[key].Of.(*record.PartFitted)))
		}
	}
	s.Done = append(s.Done, Mended(sc)...)
	for i := range sc.Map.Faults {
		failed := &sc.Map.Faults[i]
		for _, c := range failed.Because {
			if f := sc.Causes[failed.ID+"/"+c.ID]; f != nil {
				s.Done = append(s.Done, fmt.Sprintf("%s: cause looked for. %s %s.", failed.Name, c.Ask, f.Of.(*record.CauseAnswered).Answer))
			}
		}
	}
	for _, id := range slices.Sorted(maps.Keys(sc.OldParts)) {
		if p := sc.Map.Part(id); p != nil {
			s.Done = append(s.Done, fmt.Sprintf("Old %s: %s.", english.Lower(p.Name), record.OldTo[sc.OldParts[id].Of.(*record.OldPart).To]))
		}
	}
	if used := usedUp(sc); len(used) > 0 {
		s.Done = append(s.Done, "Used up: "+strings.Join(used, ", ")+".")
	}
	seen, done, left := looked(sc)
	s.Found = append(asFound(sc), seen...)
	s.Done = append(s.Done, done...)
	s.NotTested = append(s.NotTested, left...)
	for _, own := range from.Inside.Belongings {
		if own.To != "" {
			s.Done = append(s.Done, fmt.Sprintf("Found inside: %s, given to %s.", own.What, own.To))
		}
	}
	for _, g := range sc.Goals {
		if g.Reason != "" && g.Goal != record.Work {
			s.Done = append(s.Done, fmt.Sprintf("%s: not done, %s.", sc.Names.Goal(g.Goal), g.Reason))
		}
	}
	for _, id := range slices.Sorted(maps.Keys(sc.Checks)) {
		if c := sc.Map.Check(id); c != nil && sc.Checks[id].Passed != nil {
			s.Done = append(s.Done, passed(&c.Task, c.Pass))
		}
	}
	for i := range sc.Map.Finals {
		f := &sc.Map.Finals[i]
		r := sc.Finals[f.ID]
		switch {
		case r == nil:
			s.NotTested = append(s.NotTested, f.Title+".")
		case sc.FinalPassed(f.ID):
			s.Done = append(s.Done, passed(&f.Task, f.Pass))
		default:
			s.NotTested = append(s.NotTested, f.Title+": failed.")
		}
	}
	for _, id := range slices.Sorted(maps.Keys(sc.Proofs)) {
		p := sc.Proofs[id]
		at := p.Fact.When()
		fig := Figure{What: sc.Names.Item(id) + ", before work", Value: p.Highest, By: sc.FullName(p.Fact.By), At: &at, Note: p.Note}
		if p.Proof != nil {
			fig.Meter = p.Proof.Meter
			fig.Note = english.Sentences(fig.Note, sc.Overdue(fig.Meter, at))
		}
		s.Measured = append(s.Measured, fig)
	}
	s.Measured = append(s.Measured, readings(sc)...)
	s.Measured = append(s.Measured, measuredBack(sc)...)
	if sc.SignedBy != nil {
		at := sc.SignedBy.When()
		s.Signed = &view.Stamp{By: sc.FullName(sc.SignedBy.By), At: at}
		s.NotTested = append(s.NotTested, sc.SignedBy.Of.(*record.SignedOff).NotTested...)
	}
	did := map[string][]string{}
	for i := range sc.Facts {
		f := &sc.Facts[i]
		word := ""
		switch f.Of.(type) {
		case *record.RungOut:
			word = "took it apart"
		case *record.PartFitted:
			word = "fitted the parts"
		case *record.RungBack:
			word = "closed it"
		case *record.FinalResult:
			word = "ran it"
		}
		if word != "" && !slices.Contains(did[f.By], word) {
			did[f.By] = append(did[f.By], word)
		}
	}
	for _, p := range slices.Sorted(maps.Keys(did)) {
		s.Who = append(s.Who, sc.FullName(p)+" "+english.And(did[p])+".")
	}
	for _, snag := range from.Snags {
		if snag.Explained != nil {
			s.Explained = append(s.Explained, fmt.Sprintf("%s %s (%s)", snag.Say, snag.Explained.Text, snag.Explained.By))
		}
	}
	s.Markdown = s.markdown(from)
	return s
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
	if w := sc.Job.Where; w != nil {
		add("Site", w.Site)
		add("Address", strings.ReplaceAll(w.Address, "\n", ", "))
		add("Machine", w.Name)
		add("Model", w.Model)
		add("Serial", w.Serial)
		add("Where it stands", w.Stands)
	}
	add("Job", sc.Job.ID)
}
