package steps

import (
	"maps"
	"slices"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/scene"
)

var hazardWords = map[string]string{
	"sharp-edges": "Sharp edges. Cut gloves.",
	"pinch":       "Fingers can be caught here.",
	"spring":      "A spring lets go here. Eye protection.",
	"heavy":       "Heavy.",
	"hot":         "Hot. Let it cool, or gloves.",
	"shock":       "Live parts may be reached here.",
	"gas":         "Gas. No flame, open a window.",
	"glass":       "Glass.",
	"dust":        "Dust and lint. Mask.",
	"wet":         "Water comes out here.",
	"blind":       "Your hand cannot be seen here.",
}

var faceWords = map[string]string{
	"front": "Front, standing.", "rear": "Behind the machine.", "left": "At its left side.", "right": "At its right side.",
	"top": "From above.", "under": "On the floor, from below.", "inside": "Inside the machine.",
}

var poseWords = map[string]string{
	"tilted": "Machine tilted.", "on-back": "Machine on its back.", "on-front": "Machine on its front.",
	"on-left": "Machine on its left side.", "on-right": "Machine on its right side.",
}

func stand(face, pose string) string {
	words := faceWords[face]
	if p := poseWords[pose]; p != "" {
		words += " " + p
	}
	return words
}

func viewpoint(face string) string {
	if face == "rear" {
		return "Left and right as seen from the front."
	}
	return "Left and right as you face it."
}

// outcome is what a move leaves: "front off", "mains off", "tested dead".
func outcome(sc *scene.Scene, mv *machine.Move) string {
	word := "loose"
	for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
		if e := sc.Map.Energy(id); e != nil {
			if mv.Takes[id] == machine.Proven {
				return Tested(e)
			}
			return english.Lower(e.Name) + " off"
		}
		if mv.Takes[id] == machine.Away {
			word = "off"
		}
	}
	return english.Lower(mv.Name()) + " " + word
}

// Tested is an energy that was tested off.
func Tested(e *machine.Energy) string {
	if e.Kind == "mains" || e.Kind == "charge" {
		return "tested dead"
	}
	if e.Kind == "heat" {
		return "tested cold"
	}
	return "tested off"
}

// powerBack says that an energy is there again from a refit on.
func powerBack(e *machine.Energy) string {
	if e.Kind == "mains" {
		return "power is back on from here"
	}
	return english.Lower(e.Name) + " is back on from here"
}

// homecoming is what a refit leaves: "front refitted", "mains on".
func homecoming(sc *scene.Scene, mv *machine.Move) string {
	for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
		if e := sc.Map.Energy(id); e != nil {
			return english.Lower(e.Name) + " on"
		}
	}
	return english.Lower(mv.Name()) + " refitted"
}
