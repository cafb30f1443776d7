package record

import (
	"errors"
	"maps"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/plan"
)

// What the job wants: its complaints, goals, answers and decisions.

// Work is the goal of a job on a machine without a map: it is open until
// somebody says that the work is done.
const Work = "work:machine"

// OptionAnswered: the last in order counts.
type OptionAnswered struct {
	Option string `json:"option"`
	Value  string `json:"value"`
}

func (b *OptionAnswered) check() error { return ids("option", b.Option, "value", b.Value) }

func (b *OptionAnswered) apply(g *folder, f *Fact) {
	if g.whole.Option(b.Option) == nil || !slices.Contains(g.whole.Option(b.Option).Values, b.Value) {
		g.raise("option-contradicts", b.Option, f)
	}
	if g.answered == nil {
		g.answered = map[string]*Fact{}
	}
	g.answered[b.Option] = f
}

func (b *OptionAnswered) shapes(s *shape) {
	s.answers[b.Option] = b.Value
}

func (b *OptionAnswered) says(named.Names) string { return english.Spaced(b.Value) }

// ComplaintAdded: the customer complains of this, too.
type ComplaintAdded struct {
	Complaint string `json:"complaint"` // one of the map
}

func (b *ComplaintAdded) check() error { return ids("complaint", b.Complaint) }

func (b *ComplaintAdded) apply(g *folder, _ *Fact) {
	if !slices.Contains(g.Also, b.Complaint) {
		g.Also = append(g.Also, b.Complaint)
	}
}

func (b *ComplaintAdded) says(n named.Names) string {
	if c := n.Map.Complaint(b.Complaint); c != nil {
		return "also: " + english.Lower(c.Name)
	}
	return "also: " + english.Spaced(b.Complaint)
}

// GoalAdded opens a goal.
type GoalAdded struct {
	Goal string `json:"goal"`
}

func (b *GoalAdded) check() error { return ids("goal", b.Goal) }

func (b *GoalAdded) apply(g *folder, f *Fact) {
	if g.openGoal(b.Goal) == nil {
		g.Goals = append(g.Goals, &Goal{Goal: b.Goal, Open: true, AddedBy: f})
		g.reach(f)
	}
}

func (b *GoalAdded) says(n named.Names) string { return "goal: " + english.Lower(n.Goal(b.Goal)) }

// GoalDropped closes it: declined, waiting, replaced, mistaken.
type GoalDropped struct {
	Goal   string `json:"goal"`
	Reason string `json:"reason"`
}

func (b *GoalDropped) check() error {
	return errors.Join(ids("goal", b.Goal), oneOf("reason", b.Reason, "declined", "waiting", "replaced", "mistaken"))
}

func (b *GoalDropped) apply(g *folder, f *Fact) {
	if goal := g.openGoal(b.Goal); goal != nil {
		goal.Open, goal.Closed, goal.Reason = false, f, b.Reason
	}
}

func (*GoalDropped) says(named.Names) string { return "goal dropped" }

// WayChosen is another way in than the shortest: one without these moves. The last
// in order counts; with none it is the shortest again.
type WayChosen struct {
	Without []string `json:"without"`
}

func (b *WayChosen) check() error {
	if len(b.Without) > mostWires {
		return most("a way leaves out %d moves at most", mostWires)
	}
	for _, id := range b.Without {
		if err := ids("without", id); err != nil {
			return err
		}
	}
	return nil
}

func (b *WayChosen) apply(g *folder, _ *Fact) {
	g.Without = b.Without
}

func (*WayChosen) says(named.Names) string { return "the way in" }

// LookWider is a choice that was made, and nothing found by it: somebody looked for
// what the map does not know.
const LookWider = "look-wider"

// Decided is what was chosen, with the figures it was chosen on.
type Decided struct {
	Choice  string         `json:"choice"`
	Figures map[string]any `json:"figures,omitempty"`
	By      string         `json:"by,omitempty"`
}

func (b *Decided) check() error {
	return errors.Join(oneOf("choice", b.Choice, "repair", "replace", "leave", "second-visit", LookWider), texts(b.By))
}

func (b *Decided) apply(g *folder, f *Fact) {
	if b.Choice != LookWider { // that decides nothing
		g.Decided = f
	}
}

func (b *Decided) says(named.Names) string { return "decision: " + english.Spaced(b.Choice) }

func (g *folder) openGoal(goal string) *Goal {
	for _, o := range g.Goals {
		if o.Goal == goal && o.Open {
			return o
		}
	}
	return nil
}

// reach closes goals of the form item:ID=LEVEL by the first state that
// reaches them.
func (g *folder) reach(f *Fact) {
	at := g.Levels()
	for _, o := range g.Goals {
		if !o.Open || !strings.HasPrefix(o.Goal, "item:") {
			continue
		}
		t, err := plan.Reads(g.Map, o.Goal)
		if err != nil {
			continue
		}
		if meets(at, t.Needs) {
			o.Open, o.Closed = false, f
		}
	}
}

func meets(at map[string]machine.Level, needs machine.Needs) bool {
	for id, l := range needs {
		if at[id].Rank() < l.Rank() {
			return false
		}
	}
	return true
}

// contradictions raises the answers against what was done: a rung that was made,
// and that such a machine has not got.
func contradictions(g *folder) {
	for _, t := range g.Turns {
		mv := g.Whole.Move(t.Move)
		if mv == nil || len(t.Outs) == 0 {
			continue
		}
		for _, option := range slices.Sorted(maps.Keys(mv.When)) {
			f := g.answered[option]
			if f == nil || slices.Contains(mv.When[option], g.Answers[option]) {
				continue
			}
			if !slices.ContainsFunc(g.Raised, func(r *Raised) bool { return r.Kind == "option-contradicts" && r.On == option && r.Other == t.Move }) {
				g.raise("option-contradicts", option, f).Other = t.Move
			}
		}
	}
}
