package steps

import (
	"fmt"
	"strings"

	"evensteps/core/scene"
	"evensteps/core/view"
)

// Current is the step that is on.
type Current struct {
	scene.On
	// Task is what to do when the step is no rung: the work, a final, a stop.
	Task *Side `json:"task,omitempty"`
}

// Now is the step that is on, with what to do where it is no rung.
func Now(sc *scene.Scene) Current {
	c := Current{On: sc.On}
	kind, id, _ := strings.Cut(sc.On.Goal, ":")
	switch sc.On.Kind {
	case "stopped":
		c.Task = stopped(sc, sc.Stops[len(sc.Stops)-1])
	case "test":
		c.Task = Test(sc, sc.Map.Test(id))
	case "work":
		c.Task = work(sc, sc.On.Goal)
	case "own":
		c.Task = ownTask(sc, sc.OwnWork())
	case "final":
		c.Task = final(sc, sc.Map.Final(sc.On.Move))
	case "survey":
		if kind == "option" {
			c.Task = ask(sc, sc.Whole.Option(id))
			break
		}
		c.Task = Test(sc, sc.Map.Test(id))
		c.Task.Choices = append(c.Task.Choices, view.Choice{Label: "Skip", Says: "it stays open", Makes: []view.Make{PassedOver(id)}})
	}
	c.Task.sum(false)
	return c
}

// Prove says of a proof that is being typed what it lacks, what it shows, and
// what Done records. on is the move or check that it is of. The error is of a
// step that asks for no proof.
func Prove(sc *scene.Scene, on string, draft map[string]string) (*Proving, error) {
	var s *Side
	var p *proving
	if c := sc.Map.Check(on); c != nil {
		s, p = checkRung(sc, c, sc.Checks[c.ID]).Home, provingAfter(sc, c)
	} else if mv := sc.Map.Move(on); mv != nil {
		s, p = outSide(sc, mv, sc.TurnOf(on)), provingOf(sc, mv)
	}
	if s == nil || p == nil || s.Done == nil {
		return nil, fmt.Errorf("nothing is proven off at %q", on)
	}
	if mv := sc.Map.Move(on); mv != nil {
		s.Done = doneOut(sc, mv, s)
	} else {
		s.Done.Makes = []view.Make{view.Made("check.result", map[string]any{"check": on, "passed": true})}
		s.Done.Open = []string{}
	}
	return prove(sc, s, p, draft), nil
}
