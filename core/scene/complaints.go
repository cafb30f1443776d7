package scene

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/record"
)

// Complaints are those of the job that the map has, the call's first.
func (sc *Scene) Complaints() (out []*machine.Complaint) {
	for _, id := range append([]string{sc.Job.Complaint}, sc.Also...) {
		if c := sc.Map.Complaint(id); c != nil && !slices.Contains(out, c) {
			out = append(out, c)
		}
	}
	return out
}

// Concerns tells whether a final belongs to the proof of this job: it proves one
// of its complaints, or whatever was done.
func Concerns(sc *Scene, f *machine.Final) bool {
	return len(f.Proves) == 0 || slices.ContainsFunc(sc.Complaints(), func(c *machine.Complaint) bool { return f.Concerns(c.ID) })
}

// Complaint is the one that the search is for: the first that is open, and where
// none is, the call's. It is empty where the map has none of them.
func (sc *Scene) Complaint() string {
	if c := firstOpen(sc); c != nil {
		return c.ID
	}
	if all := sc.Complaints(); len(all) > 0 {
		return all[0].ID
	}
	return ""
}

// Looking tells whether what is wrong is still to be found: a complaint that is
// open, and no goal that is to be reached first.
func (sc *Scene) Looking() bool { return len(sc.Rest) == 0 && firstOpen(sc) != nil }

// firstOpen is the first complaint that is open; nil where none is.
func firstOpen(sc *Scene) *machine.Complaint {
	all := sc.Complaints()
	for _, c := range all {
		if open(sc, c, len(all) == 1) {
			return c
		}
	}
	return nil
}

// open tells whether what a complaint is of is still to be found: nothing was
// decided or mended for it, and no final of it has passed or failed since. Where it
// is the only one, whatever is mended is mended for it.
func open(sc *Scene, c *machine.Complaint, only bool) bool {
	if reopened(sc, c.ID) {
		return true
	}
	if sc.Decided != nil {
		d := sc.Decided.Of.(*record.Decided)
		if only || d.Choice != "repair" || slices.ContainsFunc(Mended(d), func(id string) bool { return c.Faults[id] > 0 }) {
			return false
		}
	}
	for _, g := range sc.Goals {
		t, err := plan.Reads(sc.Map, g.Goal)
		mends := err == nil && t.ByMove
		switch {
		case g.Reason == "mistaken":
		case only && (g.Open || g.Reason != "" || mends), mends && mendsSome(sc, g.Goal, c):
			return false
		}
	}
	if only {
		return len(sc.Finals) == 0
	}
	return !slices.ContainsFunc(slices.Sorted(maps.Keys(sc.Finals)), func(id string) bool {
		f := sc.Map.Final(id)
		return f != nil && len(f.Proves) > 0 && f.Concerns(c.ID) && sc.FinalPassed(id)
	})
}

// mendsSome tells whether reaching a goal mends a fault that a complaint can be of.
func mendsSome(sc *Scene, goal string, c *machine.Complaint) bool {
	for i := range sc.Map.Faults {
		f := &sc.Map.Faults[i]
		if c.Faults[f.ID] <= 0 {
			continue
		}
		if part := sc.Map.Part(strings.TrimPrefix(goal, "replace:")); part != nil && sc.Map.Renews(part, f) {
			return true
		}
		if f.Part == "" && slices.Contains(plan.ItemGoals(f.Reach), goal) {
			return true
		}
	}
	return false
}

// Mended are the faults that a decision says are mended with nothing opened.
func Mended(b *record.Decided) (out []string) {
	list, _ := b.Figures["mended"].([]any)
	for _, id := range list {
		out = append(out, fmt.Sprint(id))
	}
	return out
}

// Failed tells whether a result says that a final of this complaint failed.
func Failed(sc *Scene, b *record.FinalResult, complaint string) bool {
	f := sc.Map.Final(b.Final)
	return f != nil && f.Concerns(complaint) && !record.Passes(&f.Task, b.Passed, b.Value)
}

// reopened tells whether a final of a complaint failed after the last thing that was meant to
// mend the machine: the search is open again, with that as evidence.
func reopened(sc *Scene, complaint string) bool {
	open, only := false, len(sc.Complaints()) < 2
	for i := range sc.Facts {
		switch b := sc.Facts[i].Of.(type) {
		case *record.PartFitted:
			if only || mendsSome(sc, "replace:"+b.Part, sc.Map.Complaint(complaint)) {
				open = false
			}
		case *record.Decided:
			open = false
		case *record.FinalResult:
			if sc.Early[sc.Facts[i].ID] {
				continue // it proves nothing
			}
			if Failed(sc, b, complaint) {
				open = true
			} else if f := sc.Map.Final(b.Final); f != nil && f.Concerns(complaint) {
				open = false
			}
		}
	}
	return open
}

// Repaired tells whether some goal was reached rather than given up. A test that
// was reached mends nothing once the customer has said to leave it.
func (sc *Scene) Repaired() bool {
	if sc.Decided != nil && sc.Decided.Of.(*record.Decided).Choice != "repair" {
		return slices.ContainsFunc(sc.Goals, func(g *record.Goal) bool {
			t, err := plan.Reads(sc.Map, g.Goal)
			return err == nil && t.ByMove && (g.Open || g.Reason == "")
		})
	}
	if len(sc.Goals) == 0 {
		return true
	}
	return slices.ContainsFunc(sc.Goals, func(g *record.Goal) bool { return g.Open || g.Reason == "" || g.Reason == "replaced" })
}

// FinalsDue are the finals that prove this complaint, or that name none, and
// have not passed since the machine was last opened. A job that was not
// repaired owes no proof of its complaint; one that is left isolated and tagged,
// out of use, owes none at all.
func (sc *Scene) FinalsDue() []string {
	var due []string
	if !sc.Repaired() && len(sc.Stays) > 0 {
		return nil
	}
	for i := range sc.Map.Finals {
		f := &sc.Map.Finals[i]
		if !Concerns(sc, f) || len(f.Proves) > 0 && !sc.Repaired() {
			continue
		}
		if !sc.FinalPassed(f.ID) {
			due = append(due, f.ID)
		}
	}
	return due
}

// OwnWork is the open goal of a job on a machine without a map, nil where there
// is none.
func (sc *Scene) OwnWork() *record.Goal {
	k := slices.IndexFunc(sc.Goals, func(g *record.Goal) bool { return g.Goal == record.Work && g.Open })
	if k < 0 {
		return nil
	}
	return sc.Goals[k]
}
