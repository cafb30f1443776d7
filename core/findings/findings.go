package findings

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"evensteps/core/english"
	"evensteps/core/fault"
	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/reading"
	"evensteps/core/record"
	"evensteps/core/scene"
)

// Finding is one result so far.
type Finding struct {
	Event   string `json:"event"`
	Test    string `json:"test"`
	Title   string `json:"title"`
	Say     string `json:"say"`
	Verdict string `json:"verdict"`
	By      string `json:"by"`
}

// Case is what the search weighs: the complaint on the machine as it stands,
// with what is known; and the results in words.
func Case(sc *scene.Scene) (fault.Case, []Finding) {
	complaint := sc.Complaint()
	tried, at := tried(sc, complaint)
	results, shown := Results(sc, at)
	closed := sc.Job.Closed // they are counted for the call's complaint alone
	if complaint != sc.Job.Complaint {
		closed = nil
	}
	return fault.Remember(fault.Case{
		Map: sc.Whole, Answers: sc.Answers, Complaint: complaint, Standing: sc.Standing, Found: sc.Found, People: scene.People(sc),
		Rate: sc.Rate(), Closed: closed, Results: results, Tried: tried, NotDone: notDone(sc),
	}), shown
}

// Results are what the tests showed, in order; a reading gives its outcome by
// its verdict, and one that cannot tell gives none. at tells how many fixes had
// been tried by each fact.
func Results(sc *scene.Scene, at []int) (out []fault.Result, shown []Finding) {
	shown = []Finding{}
	for i := range sc.Facts {
		f := &sc.Facts[i]
		switch b := f.Of.(type) {
		case *record.TestResult:
			if b.Outcome == named.NotDone {
				continue
			}
			out = append(out, fault.Result{Test: b.Test, Outcome: b.Outcome, Tried: at[i]})
			shown = append(shown, Finding{f.ID, b.Test, sc.Names.Test(b.Test), sc.Names.Outcome(b.Test, b.Outcome), "", sc.Name(f.By)})
		case *record.Looked:
			if in := sc.Map.Look(b.On); in != nil && in.Fault != "" && (b.As == record.LookedFound || b.As == record.LookedNothing) {
				out = append(out, fault.Result{Test: b.On, Outcome: b.As, Tried: at[i]})
				shown = append(shown, Finding{f.ID, b.On, sc.Names.Test(b.On), record.LookedSays[b.As], "", sc.Name(f.By)})
			}
		case *record.ReadingTaken:
			t := TestOf(sc, b.Test)
			if t == nil {
				continue
			}
			got, _ := judged(sc, t, b, f.When())
			if got.Outcome != "" {
				out = append(out, fault.Result{Test: b.Test, Outcome: got.Outcome, Tried: at[i]})
			}
			shown = append(shown, Finding{f.ID, b.Test, sc.Names.Test(b.Test), got.Say, got.Verdict, sc.Name(f.By)})
		}
	}
	return out, shown
}

// TestOf is a test of the map, or the one that follows from a stretch of a
// circuit: its reading is held against what the stretch should read. nil for
// neither.
func TestOf(sc *scene.Scene, id string) *machine.Test {
	if t := sc.Map.Test(id); t != nil {
		return t
	}
	walk, is := sc.Map.Stretch(id)
	if !is {
		return nil
	}
	c := walk.Circuit
	t := &machine.Test{
		Power: "dead", Limits: "It tells nothing of a contact that opens warm, under load or when shaken. A reading above the limit is a poor joint or contact: look there before a part is fitted.",
		Outcomes: []machine.Outcome{{ID: "closed", Say: "Closed: it conducts", Verdict: machine.Values{reading.Pass}}, {ID: "open", Say: "Open: it does not", Verdict: machine.Values{reading.Open}}},
	}
	t.ID, t.Title, t.Face, t.Tools, t.Hold = id, sc.Names.Test(id), "inside", []string{"multimeter"}, c.Hold
	t.Expect = reading.Through(sc.Map, walk)
	t.Measure = &machine.Measure{Quantity: string(reading.Resistance), Between: []string{c.Points[walk.From].Name, c.Points[walk.To].Name}}
	t.Do = []string{"Mains tested dead, leads zeroed.", "One probe on *" + c.Points[walk.From].Name + "*, the other on *" + c.Points[walk.To].Name + "*."}
	return t
}

// Setting is the circumstances that stand beside a reading. The error is of one that
// cannot be read.
func Setting(sc *scene.Scene, b *record.ReadingTaken) (reading.Setting, error) {
	s := reading.Setting{Fitted: b.Fitted, Units: sc.Units()}
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
			return s, err
		}
		*one.into = &value
	}
	return s, nil
}

// Judged is a reading held against what is expected of it.
type Judged struct {
	Verdict string         `json:"verdict"`
	Outcome string         `json:"outcome"` // of the test; empty where it gives none
	Say     string         `json:"say"`
	Scale   *reading.Scale `json:"scale"` // the reading between its limits; null where there is nothing to draw
}

// Judge judges a reading that is being taken; nothing is kept. The error is of a test
// that is not known, or takes no reading.
func Judge(sc *scene.Scene, b *record.ReadingTaken) (*Judged, error) {
	t := TestOf(sc, b.Test)
	if t == nil || t.Expect == nil {
		return nil, fmt.Errorf("no reading is judged at %q", b.Test)
	}
	got, v := judged(sc, t, b, sc.Now)
	if v != nil {
		got.Scale = v.Scale(sc.Units())
	}
	return &got, nil
}

// judged is a reading judged, its scale left to who draws it, and the verdict behind it;
// nil where the reading or a circumstance cannot be read.
func judged(sc *scene.Scene, t *machine.Test, b *record.ReadingTaken, at time.Time) (Judged, *reading.Verdict) {
	s, err := Setting(sc, b)
	if err != nil {
		return Judged{Verdict: reading.Unsure, Say: err.Error()}, nil
	}
	if m, known := sc.Job.Meter(b.Meter, at); known && t.Measure != nil {
		q := reading.Quantity(t.Measure.Quantity)
		if a, err := reading.ParseAccuracy(q, m.Accuracy[t.Measure.Quantity]); err == nil {
			s.Accuracy = &a
		}
	}
	got, err := reading.Judge(t.Expect, b.Value, s)
	if err != nil {
		return Judged{Verdict: reading.Unsure, Say: err.Error()}, nil
	}
	out := Judged{Verdict: got.Verdict, Say: english.Sentences(got.Why, sc.Overdue(b.Meter, at))}
	for k := range t.Outcomes {
		if slices.Contains(t.Outcomes[k].Verdict, got.Verdict) {
			out.Outcome = t.Outcomes[k].ID
			break
		}
	}
	return out, &got
}

// tried are the fixes after which a final of this complaint still failed, in that
// order, and looking wider where nothing was found by it; at tells how many there
// were by each fact.
func tried(sc *scene.Scene, complaint string) (out []string, at []int) {
	fixes := map[string]bool{} // made so far
	try := func(id string) {
		if !slices.Contains(out, id) {
			out = append(out, id)
		}
	}
	for i := range sc.Facts {
		at = append(at, len(out))
		switch b := sc.Facts[i].Of.(type) {
		case *record.PartFitted:
			if scene.FittedAs(&sc.Facts[i]) != "fitted" {
				continue
			}
			for k := range sc.Map.Faults {
				f := &sc.Map.Faults[k]
				if own := sc.Map.Part(f.Part); own != nil && own.Item == b.Piece {
					fixes[f.ID] = true
				}
			}
		case *record.Decided:
			for _, id := range scene.Mended(b) {
				fixes[id] = true
			}
			if b.Choice == record.LookWider {
				try(fault.Other)
			}
		case *record.FinalResult:
			if scene.Failed(sc, b, complaint) && !sc.Early[sc.Facts[i].ID] {
				for _, id := range slices.Sorted(maps.Keys(fixes)) {
					try(id)
				}
			}
		}
	}
	return out, at
}

func notDone(sc *scene.Scene) (out []string) {
	for _, id := range slices.Sorted(maps.Keys(sc.Results)) {
		if sc.Results[id].Of.(*record.TestResult).Outcome == named.NotDone {
			out = append(out, id)
		}
	}
	return out
}

// CauseOf is the answer to a cause, whichever fault it was asked of; nil where
// nobody has answered.
func CauseOf(sc *scene.Scene, c machine.Cause) *record.Fact {
	for i := range sc.Map.Faults {
		f := &sc.Map.Faults[i]
		for _, o := range f.Because {
			if o.ID == c.ID && o.Ask == c.Ask && sc.Causes[f.ID+"/"+o.ID] != nil {
				return sc.Causes[f.ID+"/"+o.ID]
			}
		}
	}
	return nil
}

// Last is what a test showed last, in words; empty where it was not made.
func Last(sc *scene.Scene, id string) string {
	_, shown := Results(sc, make([]int, len(sc.Facts)))
	for i := len(shown) - 1; i >= 0; i-- {
		if shown[i].Test == id {
			return strings.TrimRight(shown[i].Say, ".")
		}
	}
	return ""
}
