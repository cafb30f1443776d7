package ladder

import (
	"slices"
	"strings"

	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/record"
)

// A job may hold several complaints, in the order in which they were said. The
// search goes for the first that is open; the finals of all are due; one that
// fails opens its own again.

// complaints are those of the job that the map has, the call's first.
func (v *viewing) complaints() (out []*machine.Complaint) {
	for _, id := range append([]string{v.book.Job.Complaint}, v.Also...) {
		if c := v.Map.Complaint(id); c != nil && !slices.Contains(out, c) {
			out = append(out, c)
		}
	}
	return out
}

// concerns tells whether a final belongs to the proof of this job: it proves one
// of its complaints, or whatever was done.
func (v *viewing) concerns(f *machine.Final) bool {
	return len(f.Proves) == 0 || slices.ContainsFunc(v.complaints(), func(c *machine.Complaint) bool { return f.Concerns(c.ID) })
}

// complaint is the one that the search is for: the first that is open, and where
// none is, the call's. It is empty where the map has none of them.
func (v *viewing) complaint() string {
	if c := v.firstOpen(); c != nil {
		return c.ID
	}
	if all := v.complaints(); len(all) > 0 {
		return all[0].ID
	}
	return ""
}

// looking tells whether what is wrong is still to be found: a complaint that is
// open, and no goal that is to be reached first.
func (v *viewing) looking() bool { return len(v.rest) == 0 && v.firstOpen() != nil }

// firstOpen is the first complaint that is open; nil where none is.
func (v *viewing) firstOpen() *machine.Complaint {
	all := v.complaints()
	for _, c := range all {
		if v.open(c, len(all) == 1) {
			return c
		}
	}
	return nil
}

// open tells whether what a complaint is of is still to be found: nothing was
// decided or mended for it, and no final of it has passed or failed since. Where it
// is the only one, whatever is mended is mended for it.
func (v *viewing) open(c *machine.Complaint, only bool) bool {
	if v.reopened(c.ID) {
		return true
	}
	if v.Decided != nil {
		d := v.Decided.Of.(*record.Decided)
		if only || d.Choice != "repair" || slices.ContainsFunc(mended(d), func(id string) bool { return c.Faults[id] > 0 }) {
			return false
		}
	}
	for _, g := range v.Goals {
		t, err := plan.Reads(v.Map, g.Goal)
		mends := err == nil && t.ByMove
		switch {
		case g.Reason == "mistaken":
		case only && (g.Open || g.Reason != "" || mends), mends && v.mendsSome(g.Goal, c):
			return false
		}
	}
	if only {
		return len(v.Finals) == 0
	}
	return !slices.ContainsFunc(sorted(v.Finals), func(id string) bool {
		f := v.Map.Final(id)
		return f != nil && len(f.Proves) > 0 && f.Concerns(c.ID) && v.FinalPassed(id)
	})
}

// mendsSome tells whether reaching a goal mends a fault that a complaint can be of.
func (v *viewing) mendsSome(goal string, c *machine.Complaint) bool {
	for i := range v.Map.Faults {
		f := &v.Map.Faults[i]
		if c.Faults[f.ID] <= 0 {
			continue
		}
		if part := v.Map.Part(strings.TrimPrefix(goal, "replace:")); part != nil && v.Map.Renews(part, f) {
			return true
		}
		if f.Part == "" && slices.Contains(plan.ItemGoals(f.Reach), goal) {
			return true
		}
	}
	return false
}
