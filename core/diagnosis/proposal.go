package diagnosis

import (
	"fmt"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/fault"
	"evensteps/core/journey"
	"evensteps/core/plan"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/steps"
	"evensteps/core/view"
)

// Proposal is a test worth making, or fixes to make in one opening.
type Proposal struct {
	Test    string      `json:"test"`
	Fix     []string    `json:"fix"`
	Title   string      `json:"title"`
	Why     string      `json:"why"`
	Minutes float64     `json:"minutes"`
	Gain    float64     `json:"gain"`
	Access  []string    `json:"access"` // names of the rungs that it needs first
	Ready   bool        `json:"ready"`  // it can be made as the machine stands
	Task    *steps.Side `json:"task"`   // what to do, of a test that is ready
	Accept  *view.Touch `json:"accept"` // opens the ladder as far as it needs
	NotDone *view.Make  `json:"not_done"`
	Nothing *view.Touch `json:"nothing"` // of looking wider: nothing was found by it
	First   string      `json:"first"`   // what must be so first, that the ladder does not lead to
	Shows   []Shows     `json:"shows"`   // of a test: what it can show
	Takes   []view.Row  `json:"takes"`   // of a fix: its parts and what it takes
}

// Shows is one outcome of a test, in words.
type Shows struct {
	Say   string  `json:"say"`
	P     float64 `json:"p"`
	About string  `json:"about"` // the chance in words
	Then  string  `json:"then"`
}

func proposal(sc *scene.Scene, s fault.Step) Proposal {
	p := Proposal{Test: s.Test, Fix: steps.List(s.Fix), Why: s.Why, Minutes: s.Minutes, Gain: s.Gain, Access: []string{}, Shows: []Shows{}, Takes: []view.Row{}}
	for _, o := range s.Shows {
		say := sc.Names.Outcome(s.Test, o.Outcome)
		p.Shows = append(p.Shows, Shows{english.Upper(say), o.P, english.Chance(o.P), english.Chance(o.TopP) + ": " + english.Lower(fault.Name(sc.Map, o.Top))})
	}
	for _, id := range s.Access {
		p.Access = append(p.Access, sc.Names.Move(id))
	}
	if s.Test == "" {
		return fixProposal(sc, p, s.Goals)
	}
	p.Title = sc.Names.Test(s.Test)
	not := steps.PassedOver(s.Test)
	p.NotDone = &not
	p.Ready = len(s.Access) == 0
	t := sc.Map.Test(s.Test)
	if t != nil && scene.ShutFor(sc, t) {
		p.Ready, p.First = false, "It needs the power on: close what is open beyond it first, then restore the power. What was tested dead ends with that."
		if !sc.Has(sc.Viewer.Person, t.Ticket) {
			p.First = steps.Test(sc, t).Ticket
			return p
		}
		p.Accept = new(view.Button("Take me to it", "the power comes on for it", view.Added([]string{"test:" + t.ID})...))
		return p
	}
	if p.Ready {
		p.Task = steps.TestTask(sc, s.Test)
		return p
	}
	goals := []string{"test:" + s.Test}
	if walk, is := sc.Map.Stretch(s.Test); is {
		goals = plan.ItemGoals(walk.Needs())
	}
	p.Accept = new(view.Button("Open up and measure", english.Count(len(s.Access), "step"), view.Added(goals)...))
	return p
}

func fixProposal(sc *scene.Scene, p Proposal, goals []string) Proposal {
	var names, parts []string // one part may mend several faults
	for _, id := range p.Fix {
		names = append(names, english.Lower(fault.Name(sc.Map, id)))
		f := sc.Map.Fault(id)
		if f == nil || f.Part == "" {
			continue
		}
		if part := sc.Map.Part(f.Part); part != nil && !slices.Contains(parts, part.ID) {
			parts = append(parts, part.ID)
			say := "number " + part.Number
			if part.Price > 0 {
				say += ", " + price(sc, part.Price)
			}
			p.Takes = append(p.Takes, view.Row{What: part.Name, Say: say})
		}
	}
	p.Title = "Fix: " + english.And(names)
	p.Takes = append(p.Takes, fixTakes(sc, goals)...)
	switch {
	case len(goals) > 0:
		p.Accept = new(view.Button("Fix this", "the steps lead to it", view.Added(goals)...))
	case slices.Contains(p.Fix, fault.Other):
		p.Title = "Look wider"
		p.Accept = new(view.Button("Found and fixed", "the final test proves it", decided("repair", nil, nil, p.Fix)))
		p.Nothing = new(view.Button("Nothing found", "the search goes on", view.Made("decided", record.Decided{Choice: record.LookWider})))
	default: // nothing to open: it is done, and the finals tell
		p.Accept = new(view.Button("Fixed", english.And(names)+"; the final test proves it"))
		p.Accept.Makes = []view.Make{decided("repair", nil, nil, p.Fix)}
	}
	return p
}

// fixTakes is what a fix takes beside its parts: rungs, minutes, people, tools.
func fixTakes(sc *scene.Scene, goals []string) (rows []view.Row) {
	p := journey.PlanTo(sc, goals)
	if p == nil {
		return nil
	}
	p50, p80 := journey.Band(sc, p)
	rows = append(rows, view.Row{What: "In and out again", Say: fmt.Sprintf("%s more, %s", english.Count(len(p.WayIn), "step"), english.Minutes(p50, p80))})
	if p.People > 1 {
		rows = append(rows, view.Row{What: "People", Say: "two"})
	}
	if len(p.Tickets) > 0 {
		rows = append(rows, view.Row{What: "Tickets", Say: strings.Join(p.Tickets, ", ")})
	}
	if len(p.Tools) > 0 {
		rows = append(rows, view.Row{What: "Tools", Say: strings.Join(p.Tools, ", ")})
	}
	return rows
}

// likely is the chance from which a gap of a circuit is drawn as suspect.
const likely = 0.1
