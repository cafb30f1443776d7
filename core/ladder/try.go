package ladder

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"evensteps/core/plan"
	"evensteps/core/record"
)

// Tried is what a record would change, before it is made.
type Tried struct {
	// Stuck says that there would be no way on, and what would make one.
	Stuck string   `json:"stuck"`
	Warn  []string `json:"warn"`  // what it would leave to settle
	Rungs []string `json:"rungs"` // the rungs that it adds, by name
	More  Band     `json:"more"`  // the minutes that it adds
	Bring []string `json:"bring"` // what has to be at hand besides
	Trays []Goes   `json:"trays"` // where its fasteners go
	// Leads are what is to be tagged or photographed before it comes off.
	Leads []string `json:"leads"`
	Says  string   `json:"says"`
}

// Goes says into which tray a lot goes; empty for one that goes into a bag.
type Goes struct {
	Lot  string `json:"lot"`
	Tray string `json:"tray"`
	Say  string `json:"say"`
}

// Band is a band of minutes: the median and the 80th percentile.
type Band struct {
	P50 float64 `json:"p50"`
	P80 float64 `json:"p80"`
}

// Try says what these records would change, without keeping them. The error is
// of a record that cannot be read.
func (b *Book) Try(viewer Viewer, now time.Time, makes []Make) (*Tried, error) {
	facts := slices.Clone(b.facts)
	for i, m := range makes {
		f, err := record.Read(record.Event{
			ID: fmt.Sprintf("00000000-0000-7000-8000-%012d", i+1), Job: b.Job.ID, By: viewer.Person, Device: "try", N: i + 1,
			Wall: now, Run: "try", Kind: m.Kind, Body: m.Body, Seen: len(b.facts),
		})
		if err != nil {
			return nil, fmt.Errorf("trying it: %w", err)
		}
		facts = append(facts, f)
	}
	then := &Book{Map: b.Map, Job: b.Job, facts: record.Order(facts), plans: b.plans}
	was, is := b.View(viewer, now), then.View(viewer, now)
	t := &Tried{Warn: []string{}, Rungs: []string{}, Bring: []string{}, Trays: []Goes{}, Leads: []string{}}
	if is.Current.Kind == "stuck" {
		t.Stuck = is.Current.Say
	}
	for _, s := range is.Snags {
		if s.Regular || slices.ContainsFunc(was.Snags, func(o Snag) bool { return o.ID == s.ID }) {
			continue
		}
		t.Warn = append(t.Warn, s.Say)
	}
	for _, g := range is.Goals {
		if _, err := plan.Reads(then.Map, g.Goal); g.Open && err != nil && !slices.ContainsFunc(was.Goals, func(o Goal) bool { return o.Goal == g.Goal }) {
			t.Stuck = fmt.Sprintf("This machine has nothing called %q. Choose what the map knows, or make a rung of your own.", g.Goal)
		}
	}
	for _, r := range is.Rungs {
		if !slices.ContainsFunc(was.Rungs, func(o Rung) bool { return o.ID == r.ID }) {
			t.Rungs = append(t.Rungs, r.Title)
			if r.OutSide != nil {
				t.Leads = append(t.Leads, openLeads(r.OutSide.Plugs)...)
				for _, l := range r.OutSide.Lots {
					t.Trays = append(t.Trays, Goes{l.Lot, l.Tray, fmt.Sprintf("%s to %s", count(l.Count, l.Noun), l.box())})
				}
			}
		}
	}
	t.More = Band{max(0, is.Foot.P50-was.Foot.P50), max(0, is.Foot.P80-was.Foot.P80)}
	for _, what := range is.Visit.Bring {
		if !slices.Contains(was.Visit.Bring, what) {
			t.Bring = append(t.Bring, what)
		}
	}
	t.Says = t.says()
	return t, nil
}

func (t *Tried) says() string {
	if t.Stuck != "" {
		return t.Stuck
	}
	words := []string{"nothing more to open"}
	if len(t.Rungs) > 0 {
		words = []string{"adds " + count(len(t.Rungs), "rung")}
	}
	if t.More.P80 >= 1 {
		words = append(words, fmt.Sprintf("%.0f to %.0f min more", t.More.P50, t.More.P80))
	}
	for _, g := range t.Trays {
		words = append(words, g.Say)
	}
	if len(t.Bring) > 0 {
		words = append(words, "bring "+strings.Join(t.Bring, ", "))
	}
	return strings.Join(words, " · ")
}

// Lists are what can be named on this machine: for a goal, for what was found,
// for what a rung of one's own stands before.
type Lists struct {
	Moves []Named  `json:"moves"`
	Items []Named  `json:"items"`
	Parts []Named  `json:"parts"`
	Tests []Named  `json:"tests"`
	Kinds []Driver `json:"kinds"` // of the fasteners of this machine, then the usual ones
	// People are the company's, and whether each is at the machine.
	People []Named `json:"people"`
	// Complaints are the map's, and whether each is one of this job.
	Complaints []Named `json:"complaints"`
}

// Named is one thing by its name.
type Named struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Note string `json:"note"`
	On   bool   `json:"on"` // it stands, or is a goal already
}

// Driver is what turns a fastener.
type Driver struct {
	Name  string `json:"name"`
	Drive string `json:"drive"`
	Size  string `json:"size"`
	// Turns tells that it is turned with a driver of that size.
	Turns bool `json:"turns"`
}

// usualDrivers are met on most machines (common practice, no source).
var usualDrivers = []string{
	"hex 1/4 in", "hex 5/16 in", "hex 7 mm", "hex 8 mm", "hex 10 mm", "phillips 1", "phillips 2", "pozidriv 2", "torx T15", "torx T20", "torx-pin T20", "slotted", "square 2", "nut 7/16 in", "clip",
}

// Lists are what can be named on this machine, as its options are answered.
func (b *Book) Lists(viewer Viewer, now time.Time) *Lists {
	v := b.begin(viewer, now)
	l := &Lists{Complaints: []Named{}, Moves: []Named{}, Items: []Named{}, Parts: []Named{}, Tests: []Named{}, Kinds: []Driver{}, People: []Named{}}
	for i := range v.Map.Moves {
		mv := &v.Map.Moves[i]
		if !mv.OneWay {
			l.Moves = append(l.Moves, Named{mv.ID, mv.Name(), mv.Face, v.stands(mv.ID)})
		}
	}
	for i := range v.Map.Items {
		it := &v.Map.Items[i]
		if it.Type != "state" {
			l.Items = append(l.Items, Named{it.ID, it.Name, strings.Join(it.Aka, ", "), v.at[it.ID].Rank() > 0})
		}
	}
	open := func(goal string) bool {
		return slices.ContainsFunc(v.Goals, func(g *record.Goal) bool { return g.Goal == goal && g.Open })
	}
	for i := range v.Map.Parts {
		p := &v.Map.Parts[i]
		note := p.Number
		if it := v.Map.Item(p.Item); it != nil && len(it.Aka) > 0 {
			note += ", " + strings.Join(it.Aka, ", ")
		}
		l.Parts = append(l.Parts, Named{"replace:" + p.ID, p.Name, note, open("replace:" + p.ID)})
	}
	for i := range v.Map.Tests {
		t := &v.Map.Tests[i]
		l.Tests = append(l.Tests, Named{"test:" + t.ID, t.Title, t.Face, open("test:" + t.ID)})
	}
	said := v.complaints()
	for i := range v.Map.Complaints {
		c := &v.Map.Complaints[i]
		l.Complaints = append(l.Complaints, Named{c.ID, c.Name, strings.Join(c.Words, ", "), slices.Contains(said, c)})
	}
	add := func(drive, size string) {
		d := Driver{Name: strings.TrimSpace(drive + " " + size), Drive: drive, Size: size, Turns: size != "" || drive == "slotted"}
		if !slices.ContainsFunc(l.Kinds, func(o Driver) bool { return o.Name == d.Name }) {
			l.Kinds = append(l.Kinds, d)
		}
	}
	for i := range v.Map.Fasteners {
		f := &v.Map.Fasteners[i]
		add(f.Drive, f.Size)
	}
	for _, d := range usualDrivers {
		drive, size, _ := strings.Cut(d, " ")
		add(drive, size)
	}
	for _, id := range sorted(b.Job.People) {
		if p := b.Job.People[id]; p.Role == office || p.Closed {
			continue
		}
		l.People = append(l.People, Named{id, v.fullName(id), strings.Join(b.Job.People[id].Tickets, ", "), slices.Contains(v.Here, id)})
	}
	return l
}
