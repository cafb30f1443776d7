// Package named says what the things of a machine map are called in a sentence:
// moves, items, tests, goals, and whatever a record hangs on.
package named

import (
	"fmt"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/tray"
)

// EarthPath is the reading of the way from the frame to the earth pin, which is
// walked with a circuit whether an earth came off or not.
const EarthPath = "earth:frame"

// NotDone is the outcome of a test that was not made.
const NotDone = "not-done"

// Names names the things of one job. All of it is what stands in the map; an id
// that the map does not know stays as it is.
type Names struct {
	Map    *machine.Map // as the job's answers have it
	Whole  *machine.Map // with what other answers would have, too
	Person func(id string) string
}

// Head is the id of a move or item in the id of something of it: "front/1" is of
// "front".
func Head(id string) string {
	head, _, _ := strings.Cut(id, "/")
	return head
}

// LotID names a lot of fasteners: MOVE/N, N from 1.
func LotID(mv *machine.Move, i int) string { return fmt.Sprintf("%s/%d", mv.ID, i+1) }

// Move is the name of a move, check, final, part or test.
func (n Names) Move(id string) string {
	if mv := n.Map.Move(id); mv != nil {
		return mv.Name()
	}
	if c := n.Map.Check(id); c != nil {
		return c.Title
	}
	if f := n.Map.Final(id); f != nil {
		return f.Title
	}
	if n.Map.Part(id) != nil {
		return n.Map.Part(id).Name
	}
	return n.Test(id)
}

// Hidden is the name of a move that an answer may have hidden.
func (n Names) Hidden(id string) string {
	if mv := n.Whole.Move(id); mv != nil {
		return mv.Name()
	}
	return id
}

// Item is the name of an item or energy.
func (n Names) Item(id string) string {
	if it := n.Map.Item(id); it != nil {
		return it.Name
	}
	if e := n.Map.Energy(id); e != nil {
		return e.Name
	}
	return id
}

// Test is the title of a test, of a look, or of a stretch of a circuit.
func (n Names) Test(id string) string {
	if t := n.Map.Test(id); t != nil {
		return t.Title
	}
	if in := n.Map.Look(id); in != nil {
		return Look(*in)
	}
	if id == EarthPath {
		return "The frame to the earth pin"
	}
	if s, is := n.Map.Stretch(id); is {
		return "Continuity: " + english.Lower(s.Circuit.Points[s.From].Name) + " to " + english.Lower(s.Circuit.Points[s.To].Name)
	}
	if strings.HasPrefix(id, "circuit:") {
		return "A stretch that this map does not know"
	}
	return id
}

// Outcome is an outcome of a test in words.
func (n Names) Outcome(test, outcome string) string {
	if t := n.Map.Test(test); t != nil {
		for _, o := range t.Outcomes {
			if o.ID == outcome && o.Say != "" {
				return o.Say
			}
		}
	}
	if outcome == NotDone {
		return "skipped"
	}
	return outcome
}

// Look is a thing to look at, or to do while one is there.
func Look(in machine.Inspect) string {
	if in.Looks() {
		return in.Say + "?"
	}
	say := english.Upper(in.Do) + " " + english.Lower(in.Say)
	if in.With != "" {
		say += ": " + in.With
	}
	return say
}

// Kind is the fastener of a lot, nil where the map does not know it.
func (n Names) Kind(lot string) *machine.Fastener {
	mv := n.Map.Move(Head(lot))
	if mv == nil {
		return nil
	}
	for i := range mv.Fasteners {
		if LotID(mv, i) == lot {
			return n.Map.Fastener(mv.Fasteners[i].Kind)
		}
	}
	return nil
}

// Lot is the name of the fasteners of a lot.
func (n Names) Lot(id string) string { return tray.KindName(n.Kind(id)) }

// On names what a photo, note or difference hangs on.
func (n Names) On(on string) string {
	if on == "" {
		return "the machine"
	}
	head, rest, _ := strings.Cut(on, "/")
	if mv := n.Map.Move(head); mv != nil {
		for i := range mv.Fasteners {
			if LotID(mv, i) == on {
				return mv.Name() + ", " + n.Lot(on)
			}
		}
		for _, r := range mv.Record {
			if r.ID == rest {
				return mv.Name() + ", " + english.Lower(r.Ask)
			}
		}
		return mv.Name()
	}
	if t := n.Map.Test(on); t != nil {
		return t.Title
	}
	if rest != "" {
		return n.Item(head) + ", " + rest
	}
	return n.Item(on)
}

// Goal is what a goal asks for.
func (n Names) Goal(goal string) string {
	kind, rest, _ := strings.Cut(goal, ":")
	switch kind {
	case "work":
		return "The work on a machine without a map"
	case "replace":
		if p := n.Map.Part(rest); p != nil {
			name := "Fit " + english.Lower(p.Name)
			if p.FitTogether {
				name += ", " + set(p.SetOf)
			}
			return name
		}
	case "test":
		if t := n.Map.Test(rest); t != nil {
			return t.Title
		}
	case "item":
		id, level, _ := strings.Cut(rest, "=")
		if it := n.Map.Item(id); it != nil {
			return it.Name + " " + level
		}
		if e := n.Map.Energy(id); e != nil {
			return e.Name + ", " + level
		}
	}
	return goal
}

// Reached is a goal once it is reached.
func (n Names) Reached(goal string) string {
	if p := n.Map.Part(strings.TrimPrefix(goal, "replace:")); p != nil {
		if p.FitTogether {
			return p.Name + " fitted, " + set(p.SetOf)
		}
		return p.Name + " fitted"
	}
	if strings.HasPrefix(goal, "item:") {
		return n.Goal(goal)
	}
	return n.Goal(goal) + ": reached"
}

func set(n int) string {
	if n == 2 {
		return "the pair"
	}
	return "the set"
}

// Temporary is the name of a thing put in for the work: the map's, or the one that
// it was given.
func (n Names) Temporary(id, name string) string {
	if p := n.Map.Temporary(id); p != nil {
		return p.Name
	}
	return id + name
}
