package job

import (
	"maps"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// reasonsOff are why a job is called off.
var reasonsOff = []string{"made twice", "the customer no longer wants it", "it works again", "somebody else does it"}

func about(sc *scene.Scene, whose []string) About {
	out := About{People: []Named{}, Again: []string{}, Reasons: []string{}, Mine: slices.Contains(whose, sc.Viewer.Person)}
	if w := sc.Job.Where; w != nil {
		out.Where = *w
	}
	var goes []string
	for _, id := range slices.Sorted(maps.Keys(sc.Job.People)) {
		p := sc.Job.People[id]
		on := slices.Contains(whose, id)
		if p.Role != scene.Office && (!p.Closed || on) {
			out.People = append(out.People, Named{id, sc.FullName(id), english.Spaced(strings.Join(p.Tickets, ", ")), on})
		}
	}
	for _, id := range whose {
		goes = append(goes, sc.Name(id))
	}
	switch {
	case len(goes) == 0:
		out.Goes = "nobody is named yet"
	case len(goes) == 1 && goes[0] != "you":
		out.Goes = goes[0] + " goes"
	default:
		out.Goes = english.And(goes) + " go"
	}
	if sc.CalledOff() {
		out.CalledOff = &view.Remark{Text: sc.Off.Of.(*record.JobCalledOff).Reason, By: sc.FullName(sc.Off.By), At: sc.Off.When()}
		out.Again = append(out.Again, sc.Off.ID)
	} else if scene.Untouched(sc) {
		out.Reasons = reasonsOff
	}
	return out
}
