package steps

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/findings"
	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/reading"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// PassedOver is a test that is not made.
func PassedOver(test string) view.Make {
	return view.Made("test.result", map[string]string{"test": test, "outcome": named.NotDone, "reason": "skipped"})
}

// TestTask is what to do for a test that can be made now. Along a circuit the
// value may be left out, and the earth path is walked with it.
func TestTask(sc *scene.Scene, id string) *Side {
	t := findings.TestOf(sc, id)
	if t == nil {
		return nil
	}
	s := Test(sc, t)
	if _, is := sc.Map.Stretch(id); is {
		s.Value = "0.3 ohm"
		for _, o := range t.Outcomes {
			s.Choices = append(s.Choices, view.Choice{Label: o.Say, Makes: []view.Make{view.Made("test.result", map[string]string{"test": id, "outcome": o.ID, "evidence": "measured"})}})
		}
		s.Lines = append(s.Lines, EarthPath(sc))
	}
	return s
}

// ask is an option's question, with its answers: on arrival, or where it shows.
func ask(sc *scene.Scene, o *machine.Option) *Side {
	s := side(sc, o.Ask, "front", "", nil, nil, nil, nil, 1)
	s.Stand, s.View = "On arrival.", "Before anything is opened."
	if len(o.Needs) > 0 {
		s.Stand, s.View = "Look now.", "It shows as far as it is open; what is planned hangs on it."
	}
	if o.Tell != "" {
		s.Do = append(s.Do, o.Tell)
	}
	for _, value := range o.Values {
		says := ""
		if value == o.Usual {
			says = "the usual"
		}
		s.Choices = append(s.Choices, view.Choice{Label: english.Upper(english.Spaced(value)), Says: says, Makes: []view.Make{Answering(o, value)}})
	}
	return s
}

// ownTask is the step of a job without a map: shut off what can hurt, take off
// what must come off, do the work, and say that it is done.
func ownTask(sc *scene.Scene, g *record.Goal) *Side {
	s := side(sc, "Work with steps of your own", "front", "", nil, nil, nil, nil, 1)
	s.View = "No map covers this machine. Each thing you take off becomes a step, out and back."
	for i := range sc.Map.Energies {
		e := &sc.Map.Energies[i]
		if sc.Level[e.ID] == machine.Proven || e.Kind == "charge" {
			continue
		}
		goal := "item:" + e.ID + "=" + string(machine.Proven)
		s.Choices = append(s.Choices, view.Choice{Label: "Shut off and test: " + english.Lower(e.Name), Says: "before anything is opened", Makes: []view.Make{view.Made("goal.added", record.GoalAdded{Goal: goal})}})
	}
	s.Do = []string{"Take off what must come off. Record each thing as a *step of your own*.", "When the work is done, say so: the way back begins."}
	s.Done = new(view.Button("The work is done", "the way back begins", view.Made("goal.dropped", record.GoalDropped{Goal: g.Goal, Reason: "replaced"})))
	return s
}

// work is the step between the two ways: what to fit, what to compare, what to
// carry over.
func work(sc *scene.Scene, goal string) *Side {
	s := side(sc, sc.Names.Goal(goal), "front", "", nil, nil, nil, nil, 1)
	s.Stand, s.View = "At the bench.", "The way in is open; nothing more has to come off."
	kind, id, _ := strings.Cut(goal, ":")
	part := sc.Map.Part(id)
	if kind != "replace" || part == nil {
		s.Done = new(view.Button("Done: "+english.Lower(s.Title), "", view.Made("goal.dropped", map[string]string{"goal": goal, "reason": "replaced"})))
		return s
	}
	s.Do = append(s.Do, fmt.Sprintf("New part: *%s*, number %s.", part.Name, part.Number), "Lay new beside old and compare.")
	if part.Unlike {
		s.Do = append(s.Do, "It *looks different*: move the leads over one at a time, each to the terminal that the diagram names.")
	}
	s.Lines = compare(sc, part)
	number, compared, carried := comparedOf(part, s.Lines)
	d := &view.Touch{Open: append([]string{}, view.Open(s.Lines)...), Makes: []view.Make{}, Half: []view.Make{}}
	var names []string
	for _, piece := range part.Pieces() {
		fit := view.Made("part.fitted", record.PartFitted{Part: part.ID, Piece: piece, Number: number, Evidence: findings.Evidence(sc, part), Compared: compared, Carried: carried})
		c := view.Choice{Label: sc.Names.Item(piece), Says: "new one in hand, compared", Makes: []view.Make{fit}}
		if f := sc.Pieces[part.ID+"/"+piece]; f != nil {
			c.Done, c.Says = true, "new, "+sc.Name(f.By)
			if as := scene.FittedAs(f); as != "fitted" {
				c.Says = as + ", " + sc.Name(f.By)
			}
		} else {
			d.Makes = append(d.Makes, fit)
			names = append(names, english.Lower(sc.Names.Item(piece)))
		}
		s.Choices = append(s.Choices, c)
	}
	s.Keep = append(s.Keep, keeping(sc, part)...)
	d.Label = "Done: new " + english.Lower(part.Name) + " fitted"
	d.Says = strings.Join(names, ", ") + ": new in place of old"
	if part.FitTogether && len(names) == len(part.Pieces()) {
		d.Says = "both fitted together: " + strings.Join(names, ", ")
		if len(names) != 2 {
			d.Says = "the set fitted together: " + strings.Join(names, ", ")
		}
	}
	s.Done = d
	return ticketed(sc, s, part.Ticket)
}

// keeping are the pieces of a set or kit that may stay: one touch each, with the
// reason where they are sold to be fitted together.
func keeping(sc *scene.Scene, part *machine.Part) (out []view.Choice) {
	pieces := part.Pieces()
	if len(pieces) < 2 {
		return nil
	}
	for _, piece := range pieces {
		if sc.Pieces[part.ID+"/"+piece] != nil {
			continue
		}
		kept := record.PartFitted{Part: part.ID, Piece: piece, As: "kept"}
		says := "the old one goes back in"
		if part.FitTogether {
			kept.Reason = "tried and looked at: sound"
			says += "; tried and looked at, it is sound"
		}
		out = append(out, view.Choice{Label: "Keep: " + english.Lower(sc.Names.Item(piece)), Says: says, Makes: []view.Make{view.Made("part.fitted", kept)}})
	}
	return out
}

func final(sc *scene.Scene, f *machine.Final) *Side {
	s := task(sc, &f.Task, f.Pass)
	passed, failed := view.Made("final.result", map[string]any{"final": f.ID, "passed": true}), view.Made("final.result", map[string]any{"final": f.ID, "passed": false})
	verdict(sc, s, &f.Task, f.Pass, passed, failed, "the job stays open")
	for _, t := range sc.Temps { // it counts on a whole machine
		if t.Inside() {
			s.Lines = append(s.Lines, view.Line{Line: t.ID, Kind: "temporary", Say: t.Name + " is out", Tick: view.Made("temporary.out", TemporaryOf(t)), Or: []view.Choice{}})
		}
	}
	s.Done.Open = append(s.Done.Open, view.Open(s.Lines)...)
	return ticketed(sc, s, f.Ticket)
}

// verdict gives a check or final its two touches; one that is measured asks for
// its value instead, and the core judges it.
func verdict(sc *scene.Scene, s *Side, t *machine.Task, pass string, passed, failed view.Make, then string) {
	s.Failed = new(view.Button("Failed", then, failed))
	s.Done = new(view.Button("Passed", english.Lower(pass), passed))
	if limits, err := reading.Within(t.Expect, reading.Setting{Units: sc.Units()}); err == nil {
		s.Value = sc.Units().ExampleFor(t.Expect, limits.Quantity)
		s.Done.Label, s.Done.Says = "Record the value", limits.Say()
		if s.Pass == "" {
			s.Pass = english.Upper(limits.Say())
		}
	}
}

// Test is a test that somebody set as a goal: its outcomes, or its value.
func Test(sc *scene.Scene, t *machine.Test) *Side {
	s := task(sc, &t.Task, "")
	s.Photos = PhotosOf(sc, func(on string) bool { return on == t.ID }, nil)
	for _, h := range t.Hold {
		s.Do = append(s.Do, h+".")
	}
	if t.Limits != "" {
		s.Said = t.Limits
	}
	if t.Measure != nil {
		q := reading.Quantity(t.Measure.Quantity)
		s.Value = sc.Units().ExampleFor(t.Expect, q)
		if s.Value == "" {
			s.Value = "as the meter shows it"
		}
		s.Asks = circumstances(sc, t.Expect, q)
		reads := map[string]any{"test": t.ID}
		for _, id := range t.Lift {
			if sc.Level[id].Rank() == 0 {
				reads["fitted"] = true // another path may lie beside what is still wired in
				s.Do = append(s.Do, "*"+sc.Names.Item(id)+" is still on*: another path beside it can pass for this one. Part it first, dead, or the reading tells nothing for sure.")
			}
		}
		if slices.Contains(t.Tools, "multimeter") && reading.OfMultimeter(q) {
			s.Meter = &MeterAsk{Quantity: t.Measure.Quantity, Between: t.Measure.Between}
		}
		s.Done = new(view.Button("Record the value", "", view.Made("reading.taken", reads)))
		if limits, err := reading.Within(t.Expect, reading.Setting{Units: sc.Units()}); err == nil {
			s.Done.Says = limits.Say()
		}
		return ticketed(sc, s, t.Ticket)
	}
	if t.Ask != "" {
		s.Do = append(s.Do, "*"+t.Ask+"*")
	}
	for _, o := range t.Outcomes {
		if o.Say == "" {
			o.Say = o.ID
		}
		s.Choices = append(s.Choices, view.Choice{Label: o.Say, Makes: []view.Make{view.Made("test.result", map[string]any{"test": t.ID, "outcome": o.ID, "evidence": "seen"})}})
	}
	return ticketed(sc, s, t.Ticket)
}

// circumstances are what a reading of this expectation is judged by besides its
// value.
func circumstances(sc *scene.Scene, e *machine.Expect, q reading.Quantity) []Circumstance {
	asks := []Circumstance{}
	if e == nil {
		return asks
	}
	if reading.HangsOnWarmth(e) {
		asks = append(asks, Circumstance{"ambient", "How warm is it?", sc.Units().Warm(), "needed for this reading", true})
	}
	if q == reading.Resistance && e.Insulation == nil {
		asks = append(asks, Circumstance{"leads", "The leads add", "0.2 ohm", "touch the probes together; empty where they are zeroed", false})
	}
	if e.Element != nil {
		asks = append(asks, Circumstance{"supply", "Volts of the supply", "230 V", "says what the element makes here; empty where they were not measured", false})
	}
	return asks
}

// Stops are the reasons for a stop, each with what to do first. Local emergency
// numbers and the company's own rule come before them (common practice).
var Stops = []struct{ Why, First string }{
	{"gas smell", "No switch, no flame. Shut the gas outside, open up, everyone out. Phone the gas emergency line from outside."},
	{"smoke or scorching", "Off at the breaker, not at the machine. Everyone back. Call the fire service now, unless it has stopped."},
	{"shock felt", "Do not touch the machine. Off at the breaker. See to the person first."},
	{"water at live parts", "Off at the breaker from a dry place. Then shut the water."},
	{"something else", "Hands out, energy off where that can be done without reach into the machine."},
}

func stopped(sc *scene.Scene, f *record.Fact) *Side {
	why := f.Of.(*record.Stopped).Why
	s := side(sc, "Stopped: "+why, "front", "", nil, nil, nil, nil, 1)
	s.Stand, s.View = "Stopped by "+sc.Name(f.By)+".", "Job stopped. No steps until it is released."
	for _, r := range Stops {
		if r.Why == why {
			s.Do = append(s.Do, strings.SplitAfter(r.First, ". ")...)
		}
	}
	if len(s.Do) == 0 {
		s.Do = append(s.Do, Stops[len(Stops)-1].First)
	}
	for i := range s.Do {
		s.Do[i] = strings.TrimSpace(s.Do[i])
	}
	s.Do = append(s.Do, "Then call your supervisor.")
	return s
}

func task(sc *scene.Scene, t *machine.Task, pass string) *Side {
	face := t.Face
	if face == "" {
		face = "front"
	}
	s := side(sc, t.Title, face, t.Pose, t.Hazards, t.Do, t.Tools, t.PPE, t.People)
	s.Pass = pass
	for _, id := range slices.Sorted(maps.Keys(t.Energy)) {
		// What a check sets it puts back: both are steps of it.
		e := sc.Map.Energy(id)
		if e == nil || t.Energy[id] != machine.Live || sc.Level[id].Rank() <= 0 {
			continue
		}
		s.Do = append([]string{fmt.Sprintf("*%s on*, for this alone.", e.Name)}, s.Do...)
		if c := sc.Map.Check(t.ID); c != nil {
			switch levelAfter(sc, c, id) {
			case machine.Proven:
				s.Do = append(s.Do, fmt.Sprintf("*%s off again*, and tested, before the next step.", e.Name))
			case machine.Shut:
				s.Do = append(s.Do, fmt.Sprintf("*%s off again* before the next step.", e.Name))
			}
		}
	}
	s.Picture = drawing(sc, nil, face, nil)
	return s
}
