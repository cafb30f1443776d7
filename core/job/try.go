package job

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"evensteps/core/english"
	"evensteps/core/plan"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/snags"
	"evensteps/core/steps"
	"evensteps/core/view"
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

func (t *Tried) says() string {
	if t.Stuck != "" {
		return t.Stuck
	}
	words := []string{"nothing more to open"}
	if len(t.Rungs) > 0 {
		words = []string{"adds " + english.Count(len(t.Rungs), "step")}
	}
	if t.More.P80 >= 1 {
		words = append(words, english.Minutes(t.More.P50, t.More.P80)+" more")
	}
	for _, g := range t.Trays {
		words = append(words, g.Say)
	}
	if len(t.Bring) > 0 {
		words = append(words, "bring "+strings.Join(t.Bring, ", "))
	}
	return strings.Join(words, " · ")
}

// Try says what these records would change, without keeping them. The error is
// of a record that cannot be read.
func (b *Book) Try(viewer scene.Viewer, now time.Time, makes []view.Make) (*Tried, error) {
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
		if s.Regular || slices.ContainsFunc(was.Snags, func(o snags.Snag) bool { return o.ID == s.ID }) {
			continue
		}
		t.Warn = append(t.Warn, s.Say)
	}
	for _, g := range is.Goals {
		if _, err := plan.Reads(then.Map, g.Goal); g.Open && err != nil && !slices.ContainsFunc(was.Goals, func(o Goal) bool { return o.Goal == g.Goal }) {
			t.Stuck = fmt.Sprintf("This machine has nothing called %q. Choose what the map knows, or add a step of your own.", g.Goal)
		}
	}
	for _, r := range is.Rungs {
		if !slices.ContainsFunc(was.Rungs, func(o steps.Rung) bool { return o.ID == r.ID }) {
			t.Rungs = append(t.Rungs, r.Title)
			if r.OutSide != nil {
				t.Leads = append(t.Leads, steps.OpenLeads(r.OutSide.Plugs)...)
				for _, l := range r.OutSide.Lots {
					t.Trays = append(t.Trays, Goes{l.Lot, l.Tray, fmt.Sprintf("%s to %s", english.Count(l.Count, l.Noun), l.Box())})
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
	return t, nil // both views are in the words of the viewer's region already
}
