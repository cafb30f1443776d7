package steps

import (
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
		c.Task.Choices = append(c.Task.Choices, view.Choice{Label: "Not now", Says: "passed over", Makes: []view.Make{PassedOver(id)}})
	}
	return c
}
