package ladder

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"evensteps/core/fault"
	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/reading"
	"evensteps/core/record"
	"evensteps/core/worth"
)

// Find is the search for what is wrong, as its screen shows it.
type Find struct {
	Complaint     string        `json:"complaint"`
	Say           string        `json:"say"` // why there is no advice
	Advice        *Proposal     `json:"advice"`
	Others        []Proposal    `json:"others"` // in order of worth
	Suspects      []Suspect     `json:"suspects"`
	Results       []Finding     `json:"results"`
	Expected      float64       `json:"expected"` // minutes to a proven repair
	Contradiction bool          `json:"contradiction"`
	Lines         []CircuitLine `json:"lines"` // the circuits that bear on the suspects
}

// CircuitLine is a series path as a line: its points, and what is known of the
// gaps between them.
type CircuitLine struct {
	Name   string      `json:"name"`
	Points []LinePoint `json:"points"`
	Gaps   []string    `json:"gaps"` // cleared, suspect, or empty
}

// LinePoint is a point of a line: within reach as the machine stands, or far.
type LinePoint struct {
	Name  string `json:"name"`
	State string `json:"state"` // reach or far
}

// Suspect is a fault with its chance now, and before the last result.
type Suspect struct {
	Fault string  `json:"fault"`
	Name  string  `json:"name"`
	P     float64 `json:"p"`
	Was   float64 `json:"was"`
	About string  `json:"about"` // the chance in words
}

// Proposal is a test worth making, or fixes to make in one opening.
type Proposal struct {
	Test    string   `json:"test"`
	Fix     []string `json:"fix"`
	Title   string   `json:"title"`
	Why     string   `json:"why"`
	Minutes float64  `json:"minutes"`
	Gain    float64  `json:"gain"`
	Access  []string `json:"access"` // names of the rungs that it needs first
	Ready   bool     `json:"ready"`  // it can be made as the machine stands
	Task    *Side    `json:"task"`   // what to do, of a test that is ready
	Accept  *Touch   `json:"accept"` // opens the ladder as far as it needs
	NotDone *Make    `json:"not_done"`
	Nothing *Touch   `json:"nothing"` // of looking wider: nothing was found by it
	First   string   `json:"first"`   // what must be so first, that the ladder does not lead to
	Shows   []Shows  `json:"shows"`   // of a test: what it can show
	Takes   []Row    `json:"takes"`   // of a fix: its parts and what it takes
}

// Shows is one outcome of a test, in words.
type Shows struct {
	Say  string  `json:"say"`
	P    float64 `json:"p"`
	Then string  `json:"then"`
}

// Finding is one result so far.
type Finding struct {
	Event   string `json:"event"`
	Test    string `json:"test"`
	Title   string `json:"title"`
	Say     string `json:"say"`
	Verdict string `json:"verdict"`
	By      string `json:"by"`
}

// Find weighs what is wrong from all that is known of the job.
func (b *Book) Find(viewer Viewer, now time.Time) *Find {
	v := b.begin(viewer, now)
	out := &Find{Others: []Proposal{}, Suspects: []Suspect{}, Results: []Finding{}, Lines: []CircuitLine{}}
	if k := v.Map.Complaint(v.complaint()); k != nil {
		out.Complaint = k.Name
	}
	c, shown := v.weighed()
	out.Results = shown
	a, ok := fault.Find(c)
	if !ok {
		out.Say = "No complaint of this map is stated, so nothing can be weighed."
		return out
	}
	out.Expected, out.Contradiction = a.Expected, a.Contradiction
	for _, s := range a.Suspects {
		out.Suspects = append(out.Suspects, Suspect{Fault: s.Fault, Name: fault.Name(v.Map, s.Fault), P: s.P, Was: s.Was, About: fault.About(s.P)})
	}
	out.Lines = v.lines(a.Suspects, c.Results)
	for k, step := range a.Next {
		p := v.proposal(step)
		if k == 0 {
			out.Advice = &p
		} else {
			out.Others = append(out.Others, p)
		}
	}
	return out
}

// weighed is what the search weighs: the complaint on the machine as it stands,
// with what is known; and the results in words.
func (v *viewing) weighed() (fault.Case, []Finding) {
	complaint := v.complaint()
	tried, at := v.tried(complaint)
	results, shown := v.results(at)
	closed := v.book.Job.Closed // they are counted for the call's complaint alone
	if complaint != v.book.Job.Complaint {
		closed = nil
	}
	return fault.Remember(fault.Case{
		Map: v.Whole, Answers: v.Answers, Complaint: complaint, Standing: v.Standing, Found: v.Found, People: v.people(),
		Rate: v.rate(), Closed: closed, Results: results, Tried: tried, NotDone: v.notDone(),
	}), shown
}

// results are what the tests showed, in order; a reading gives its outcome by
// its verdict, and one that cannot tell gives none. at tells how many fixes had
// been tried by each fact.
func (v *viewing) results(at []int) (out []fault.Result, shown []Finding) {
	shown = []Finding{}
	for i := range v.Facts {
		f := &v.Facts[i]
		switch b := f.Of.(type) {
		case *record.TestResult:
			if b.Outcome == record.NotDone {
				continue
			}
			out = append(out, fault.Result{Test: b.Test, Outcome: b.Outcome, Tried: at[i]})
			shown = append(shown, Finding{f.ID, b.Test, v.testTitle(b.Test), v.outcomeSays(b.Test, b.Outcome), "", v.name(f.By)})
		case *record.Looked:
			if in := v.Map.Look(b.On); in != nil && in.Fault != "" && (b.As == record.LookedFound || b.As == record.LookedNothing) {
				out = append(out, fault.Result{Test: b.On, Outcome: b.As, Tried: at[i]})
				shown = append(shown, Finding{f.ID, b.On, v.testTitle(b.On), lookedSays[b.As], "", v.name(f.By)})
			}
		case *record.ReadingTaken:
			t := v.testOf(b.Test)
			if t == nil {
				continue
			}
			outcome, verdict, why := v.judged(t, b, f.When())
			if outcome != "" {
				out = append(out, fault.Result{Test: b.Test, Outcome: outcome, Tried: at[i]})
			}
			shown = append(shown, Finding{f.ID, b.Test, v.testTitle(b.Test), why, verdict, v.name(f.By)})
		}
	}
	return out, shown
}

// testOf is a test of the map, or the one that follows from a stretch of a
// circuit: its reading is held against what the stretch should read. nil for
// neither.
func (v *viewing) testOf(id string) *machine.Test {
	if t := v.Map.Test(id); t != nil {
		return t
	}
	walk, is := v.Map.Stretch(id)
	if !is {
		return nil
	}
	c := walk.Circuit
	t := &machine.Test{
		Power: "dead", Limits: "It tells nothing of a contact that opens warm, under load or as the machine shakes. A reading above the limit is a poor joint or contact: look there before a part is fitted.",
		Outcomes: []machine.Outcome{{ID: "closed", Say: "Closed: it conducts", Verdict: machine.Values{reading.Pass}}, {ID: "open", Say: "Open: it does not", Verdict: machine.Values{reading.Open}}},
	}
	t.ID, t.Title, t.Face, t.Tools, t.Hold = id, v.testTitle(id), "inside", []string{"multimeter"}, c.Hold
	t.Expect = reading.Through(v.Map, walk)
	t.Measure = &machine.Measure{Quantity: string(reading.Resistance), Between: []string{c.Points[walk.From].Name, c.Points[walk.To].Name}}
	t.Do = []string{"Mains proven dead, leads zeroed.", "One probe on *" + c.Points[walk.From].Name + "*, the other on *" + c.Points[walk.To].Name + "*."}
	return t
}

// judged is the outcome that a reading gives, its verdict and the sentence.
func (v *viewing) judged(t *machine.Test, b *record.ReadingTaken, at time.Time) (outcome, verdict, why string) {
	s := reading.Setting{Fitted: b.Fitted}
	for _, one := range []struct {
		text *string
		q    reading.Quantity
		into **float64
	}{{b.Leads, reading.Resistance, &s.Leads}, {b.Ambient, reading.Temperature, &s.Ambient}, {b.Supply, reading.Voltage, &s.Supply}} {
		if one.text == nil {
			continue
		}
		value, err := reading.Parse(one.q, *one.text)
		if err != nil {
			return "", reading.Unsure, err.Error()
		}
		*one.into = &value
	}
	if m, known := v.book.Job.meter(b.Meter, at); known && t.Measure != nil {
		q := reading.Quantity(t.Measure.Quantity)
		if a, err := reading.ParseAccuracy(q, m.Accuracy[t.Measure.Quantity]); err == nil {
			s.Accuracy = &a
		}
	}
	got, err := reading.Judge(t.Expect, b.Value, s)
	if err != nil {
		return "", reading.Unsure, err.Error()
	}
	for k := range t.Outcomes {
		if slices.Contains(t.Outcomes[k].Verdict, got.Verdict) {
			return t.Outcomes[k].ID, got.Verdict, noted(got.Why, v.overdue(b.Meter, at))
		}
	}
	return "", got.Verdict, noted(got.Why, v.overdue(b.Meter, at))
}

func (v *viewing) testTitle(id string) string {
	if t := v.Map.Test(id); t != nil {
		return t.Title
	}
	if in := v.Map.Look(id); in != nil {
		return care(*in)
	}
	if id == record.EarthPath {
		return "The frame to the earth pin"
	}
	if s, is := v.Map.Stretch(id); is {
		return "Continuity: " + lower(s.Circuit.Points[s.From].Name) + " to " + lower(s.Circuit.Points[s.To].Name)
	}
	return id
}

func (v *viewing) outcomeSays(test, outcome string) string {
	if t := v.Map.Test(test); t != nil {
		for _, o := range t.Outcomes {
			if o.ID == outcome && o.Say != "" {
				return o.Say
			}
		}
	}
	if outcome == record.NotDone {
		return "passed over"
	}
	return outcome
}

// likely is the chance from which a gap of a circuit is drawn as suspect.
const likely = 0.1

// lines draws the circuits in which a suspect lies: what is cleared by a test
// that found it closed, what is suspect, what is out of reach.
func (v *viewing) lines(suspects []fault.Suspect, results []fault.Result) []CircuitLine {
	out := []CircuitLine{}
	p := map[string]float64{}
	for _, s := range suspects {
		p[s.Fault] = s.P
	}
	for i := range v.Map.Circuits {
		c := &v.Map.Circuits[i]
		l := CircuitLine{Name: c.Name, Gaps: make([]string, max(0, len(c.Points)-1))}
		for k := range c.Points {
			state := "far"
			if v.met(c.Points[k].Reach) {
				state = "reach"
			}
			l.Points = append(l.Points, LinePoint{c.Points[k].Name, state})
		}
		bears := false
		for k := range l.Gaps {
			for _, f := range c.Between[k] {
				_, is := p[f]
				bears = bears || is
				if p[f] >= likely {
					l.Gaps[k] = "suspect"
				}
			}
		}
		for _, r := range results {
			if s, is := v.Map.Stretch(r.Test); is && s.Circuit == c && r.Outcome == "closed" {
				for k := s.From; k < s.To; k++ {
					l.Gaps[k] = "cleared"
				}
			}
		}
		if bears {
			out = append(out, l)
		}
	}
	return out
}

// tried are the fixes after which a final of this complaint still failed, in that
// order, and looking wider where nothing was found by it; at tells how many there
// were by each fact.
func (v *viewing) tried(complaint string) (out []string, at []int) {
	fixes := map[string]bool{} // made so far
	try := func(id string) {
		if !slices.Contains(out, id) {
			out = append(out, id)
		}
	}
	for i := range v.Facts {
		at = append(at, len(out))
		switch b := v.Facts[i].Of.(type) {
		case *record.PartFitted:
			if fittedAs(&v.Facts[i]) != "fitted" {
				continue
			}
			for k := range v.Map.Faults {
				f := &v.Map.Faults[k]
				if own := v.Map.Part(f.Part); own != nil && own.Item == b.Piece {
					fixes[f.ID] = true
				}
			}
		case *record.Decided:
			for _, id := range mended(b) {
				fixes[id] = true
			}
			if b.Choice == record.LookWider {
				try(fault.Other)
			}
		case *record.FinalResult:
			if v.failed(b, complaint) && !v.Early[v.Facts[i].ID] {
				for _, id := range sorted(fixes) {
					try(id)
				}
			}
		}
	}
	return out, at
}

// mended are the faults that a decision says are mended with nothing opened.
func mended(b *record.Decided) (out []string) {
	list, _ := b.Figures["mended"].([]any)
	for _, id := range list {
		out = append(out, fmt.Sprint(id))
	}
	return out
}

// failed tells whether a result says that a final of this complaint failed.
func (v *viewing) failed(b *record.FinalResult, complaint string) bool {
	f := v.Map.Final(b.Final)
	return f != nil && f.Concerns(complaint) && !record.Passes(&f.Task, b.Passed, b.Value)
}

// reopened tells whether a final of a complaint failed after the last thing that was meant to
// mend the machine: the search is open again, with that as evidence.
func (v *viewing) reopened(complaint string) bool {
	open, only := false, len(v.complaints()) < 2
	for i := range v.Facts {
		switch b := v.Facts[i].Of.(type) {
		case *record.PartFitted:
			if only || v.mendsSome("replace:"+b.Part, v.Map.Complaint(complaint)) {
				open = false
			}
		case *record.Decided:
			open = false
		case *record.FinalResult:
			if v.Early[v.Facts[i].ID] {
				continue // it proves nothing
			}
			if v.failed(b, complaint) {
				open = true
			} else if f := v.Map.Final(b.Final); f != nil && f.Concerns(complaint) {
				open = false
			}
		}
	}
	return open
}

func (v *viewing) notDone() (out []string) {
	for _, id := range sorted(v.Results) {
		if v.Results[id].Of.(*record.TestResult).Outcome == record.NotDone {
			out = append(out, id)
		}
	}
	return out
}

func (v *viewing) proposal(s fault.Step) Proposal {
	p := Proposal{Test: s.Test, Fix: list(s.Fix), Why: s.Why, Minutes: s.Minutes, Gain: s.Gain, Access: []string{}, Shows: []Shows{}, Takes: []Row{}}
	for _, o := range s.Shows {
		say := v.outcomeSays(s.Test, o.Outcome)
		p.Shows = append(p.Shows, Shows{upper(say), o.P, fault.About(o.TopP) + ": " + lower(fault.Name(v.Map, o.Top))})
	}
	for _, id := range s.Access {
		p.Access = append(p.Access, v.moveName(id))
	}
	if s.Test == "" {
		return v.fixProposal(p, s.Goals)
	}
	p.Title = v.testTitle(s.Test)
	not := passedOver(s.Test)
	p.NotDone = &not
	p.Ready = len(s.Access) == 0
	t := v.Map.Test(s.Test)
	if t != nil && v.shutFor(t) {
		p.Ready, p.First = false, "It needs the mains on: what is open beyond it is closed first, then they are restored. What was proven ends with that."
		if !v.has(v.viewer.Person, t.Ticket) {
			p.First = v.test(t).Ticket
			return p
		}
		p.Accept = &Touch{Label: "Lead me to it", Says: "the mains come on for it", Open: []string{}, Makes: added([]string{"test:" + t.ID}), Half: []Make{}}
		return p
	}
	if p.Ready {
		p.Task = v.testTask(s.Test)
		return p
	}
	goals := []string{"test:" + s.Test}
	if walk, is := v.Map.Stretch(s.Test); is {
		goals = plan.ItemGoals(walk.Needs())
	}
	p.Accept = &Touch{Label: "Open it that far", Says: count(len(s.Access), "rung") + ", then measure", Open: []string{}, Makes: added(goals), Half: []Make{}}
	return p
}

// shutFor tells whether a live test waits for mains that are shut.
func (v *viewing) shutFor(t *machine.Test) bool {
	return t.Power == "live" && slices.ContainsFunc(v.Map.Mains(), func(id string) bool { return v.at[id].Rank() > 0 })
}

// towardsLive is the next step back on the way to a live test: what is open beyond
// what it asks is closed in the order of the way back until the mains come on in
// their turn. Only for what the test asks to be open they are restored before it is
// closed. nil where nothing is in its way.
func (v *viewing) towardsLive(t *machine.Test) *plan.Step {
	if !v.shutFor(t) {
		return nil
	}
	holds := func(mv *machine.Move) bool { // what the test asks for stays off
		return slices.ContainsFunc(sorted(t.Needs), func(id string) bool { return mv.Takes[id] != "" })
	}
	if back := v.wayBack(); len(back) > 0 {
		if mv := v.Map.Move(back[0].Undo); mv == nil || !holds(mv) {
			return &back[0]
		}
	}
	for _, id := range slices.Backward(v.Standing) {
		mv := v.Map.Move(id)
		if mv != nil && !mv.OneWay && slices.ContainsFunc(v.Map.Mains(), func(e string) bool { return mv.Takes[e] != "" }) {
			return &plan.Step{Undo: id}
		}
	}
	return nil
}

// passedOver is a test that is not made.
func passedOver(test string) Make {
	return made("test.result", map[string]string{"test": test, "outcome": record.NotDone, "reason": "passed over"})
}

// testTask is what to do for a test that can be made now. Along a circuit the
// value may be left out, and the earth path is walked with it.
func (v *viewing) testTask(id string) *Side {
	t := v.testOf(id)
	if t == nil {
		return nil
	}
	s := v.test(t)
	if _, is := v.Map.Stretch(id); is {
		s.Value = "0.3 ohm"
		for _, o := range t.Outcomes {
			s.Choices = append(s.Choices, Choice{Label: o.Say, Makes: []Make{made("test.result", map[string]string{"test": id, "outcome": o.ID, "evidence": "measured"})}})
		}
		s.Lines = append(s.Lines, v.earthPath())
	}
	return s
}

// earthPath is the way from the frame to the earth pin: nothing else shows that it
// is broken before somebody is hurt. It may be left out.
func (v *viewing) earthPath() Line {
	l := earthLine(record.EarthPath, "The frame to the earth pin", v.Readings[record.EarthPath])
	l.May = true
	return l
}

// added are the goals as a touch records them.
func added(goals []string) []Make {
	makes := []Make{}
	for _, g := range goals {
		makes = append(makes, made("goal.added", record.GoalAdded{Goal: g}))
	}
	return makes
}

func (v *viewing) fixProposal(p Proposal, goals []string) Proposal {
	var names, parts []string // one part may mend several faults
	for _, id := range p.Fix {
		names = append(names, lower(fault.Name(v.Map, id)))
		f := v.Map.Fault(id)
		if f == nil || f.Part == "" {
			continue
		}
		if part := v.Map.Part(f.Part); part != nil && !slices.Contains(parts, part.ID) {
			parts = append(parts, part.ID)
			say := "number " + part.Number
			if part.Price > 0 {
				say += fmt.Sprintf(", %.2f", part.Price)
			}
			p.Takes = append(p.Takes, Row{What: part.Name, Say: say})
		}
	}
	p.Title = "Mend: " + and(names)
	p.Takes = append(p.Takes, v.fixTakes(goals)...)
	switch {
	case len(goals) > 0:
		p.Accept = &Touch{Label: "Mend that", Says: "the ladder leads to it", Open: []string{}, Makes: added(goals), Half: []Make{}}
	case slices.Contains(p.Fix, fault.Other):
		p.Title = "Look wider"
		p.Accept = &Touch{Label: "Found it, and fixed", Says: "the finals prove it", Open: []string{}, Half: []Make{}, Makes: []Make{decided("repair", nil, nil, p.Fix)}}
		p.Nothing = &Touch{Label: "Looked wider: nothing found", Says: "the search goes on", Open: []string{}, Half: []Make{}, Makes: []Make{made("decided", record.Decided{Choice: record.LookWider})}}
	default: // nothing to open: it is done, and the finals tell
		p.Accept = &Touch{Label: "It is mended", Says: and(names) + "; the finals prove it", Open: []string{}, Half: []Make{}}
		p.Accept.Makes = []Make{decided("repair", nil, nil, p.Fix)}
	}
	return p
}

// fixTakes is what a fix takes beside its parts: rungs, minutes, people, tools.
func (v *viewing) fixTakes(goals []string) (rows []Row) {
	p := v.planOf(goals)
	if p == nil {
		return nil
	}
	p50, p80 := v.band(p)
	rows = append(rows, Row{What: "In and back", Say: fmt.Sprintf("%s more, %.0f to %.0f min", count(len(p.WayIn), "rung"), p50, p80)})
	if p.People > 1 {
		rows = append(rows, Row{What: "People", Say: "two"})
	}
	if len(p.Tickets) > 0 {
		rows = append(rows, Row{What: "Tickets", Say: strings.Join(p.Tickets, ", ")})
	}
	if len(p.Tools) > 0 {
		rows = append(rows, Row{What: "Tools", Say: strings.Join(p.Tools, ", ")})
	}
	return rows
}

// planOf is the plan from the present state to these goals and back; nil where
// there is none.
func (v *viewing) planOf(goals []string) *plan.Plan {
	r := v.request()
	r.Goals = goals
	return v.book.plan(v.Whole, r).plan
}

// band is how long a plan takes, with other work of so many minutes in it: the
// median and the 80th percentile.
func (v *viewing) band(p *plan.Plan, work ...float64) (p50, p80 float64) {
	return v.bandOf(p.WayIn, p.WayBack, p.Minutes.TurnsAndToolsIn+p.Minutes.TurnsAndToolsBack, work...)
}

func (v *viewing) bandOf(in []string, back []plan.Step, certain float64, work ...float64) (p50, p80 float64) {
	steps := slices.Clone(work)
	for _, id := range in {
		steps = append(steps, v.Map.Move(id).Minutes.Out)
	}
	for _, s := range back {
		steps = append(steps, v.stepMinutes(s))
	}
	return worth.Band(steps, certain)
}

// surveyed is the next thing to ask on arrival, in the map's order, before
// anything is opened: an option that nobody has answered, or a test that is not
// made. nil when all is asked.
func (v *viewing) surveyed() (goal string, s *Side) {
	if !v.looking() || len(v.Turns) > 0 {
		return "", nil
	}
	for _, entry := range v.Map.Survey {
		kind, id, _ := strings.Cut(entry, ":")
		switch kind {
		case "option":
			if _, answered := v.Answers[id]; answered {
				continue
			}
			if o := v.Map.Option(id); o != nil && v.Map.Agrees(o.When, v.Answers) {
				return entry, v.ask(o)
			}
		case "test":
			t := v.Map.Test(id)
			if t == nil || v.Readings[id] != nil || v.State.Results[id] != nil {
				continue
			}
			s := v.test(t)
			s.Choices = append(s.Choices, Choice{Label: "Not now", Says: "passed over", Makes: []Make{passedOver(id)}})
			return entry, s
		}
	}
	return "", nil
}

// shows is the option to ask before the next step out: one that nobody has
// answered and whose answer changes what is planned. What can be seen from outside
// is asked before the first rung, the rest as soon as it shows. nil for none.
func (v *viewing) shows() *machine.Option {
	for i := range v.Whole.Options {
		o := &v.Whole.Options[i]
		if _, answered := v.Answers[o.ID]; answered || !v.met(o.Needs) || !v.Whole.Agrees(o.When, v.Answers) {
			continue
		}
		if len(o.Needs) == 0 && len(v.Turns) > 0 {
			continue
		}
		for _, value := range o.Values {
			r := v.request()
			r.Goals = v.rest
			r.Answers = maps.Clone(r.Answers)
			if r.Answers == nil {
				r.Answers = map[string]string{}
			}
			r.Answers[o.ID] = value
			if other := v.book.plan(v.Whole, r); other.plan == nil || !slices.Equal(other.plan.WayIn, v.planned.plan.WayIn) || !slices.Equal(other.plan.WayBack, v.planned.plan.WayBack) {
				return o
			}
		}
	}
	return nil
}

// otherAnswers are the answers that an answered option of a move could have
// instead: at its rung one sees that it is otherwise.
func (v *viewing) otherAnswers(mv *machine.Move) []Choice {
	out := []Choice{}
	for i := range v.Whole.Options {
		o := &v.Whole.Options[i]
		is, answered := v.Answers[o.ID]
		if _, hangs := mv.When[o.ID]; !hangs || !answered {
			continue
		}
		for _, value := range o.Values {
			if value != is {
				out = append(out, Choice{Label: upper(spaced(value)), Says: o.Ask + " It was answered: " + spaced(is) + ".", Makes: []Make{answering(o, value)}})
			}
		}
	}
	return out
}

// answering records one answer to an option.
func answering(o *machine.Option, value string) Make {
	return made("option.answered", record.OptionAnswered{Option: o.ID, Value: value})
}

// ask is an option's question, with its answers: on arrival, or where it shows.
func (v *viewing) ask(o *machine.Option) *Side {
	s := v.side(o.Ask, "front", "", nil, nil, nil, nil, 1)
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
		s.Choices = append(s.Choices, Choice{Label: upper(spaced(value)), Says: says, Makes: []Make{answering(o, value)}})
	}
	return s
}
