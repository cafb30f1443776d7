package steps

import (
	"slices"

	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// looks are what there is to see on the way in, or to do on the way back, when it
// is about to be closed in again. What has no way back is done on the way in.
func looks(sc *scene.Scene, mv *machine.Move, side string) []view.Line {
	lines := []view.Line{}
	for k, in := range mv.Inspect {
		there := "back"
		if in.Looks() || mv.OneWay {
			there = "out"
		}
		if there == side {
			lines = append(lines, look(sc, machine.LookID(mv.ID, k), in))
		}
	}
	return lines
}

func look(sc *scene.Scene, id string, in machine.Inspect) view.Line {
	as := func(word string) view.Make { return view.Made("looked", record.Looked{On: id, As: word}) }
	l := view.Line{Line: id, Kind: "look", Say: named.Look(in), Tick: as(record.LookedDone), Or: []view.Choice{
		{Label: "Done", Makes: []view.Make{as(record.LookedDone)}}, {Label: "Skip", Makes: []view.Make{as(record.LookedSkipped)}},
	}}
	if in.Looks() {
		l.Tick = as(record.LookedNothing)
		l.Or = slices.Concat([]view.Choice{{Label: "Yes", Makes: []view.Make{as(record.LookedFound)}}, {Label: "No", Makes: []view.Make{l.Tick}}}, l.Or[1:])
	}
	f := sc.Looks[id]
	if f == nil {
		return l
	}
	l.Ticked, l.Event, l.Or = true, f.ID, []view.Choice{}
	b := f.Of.(*record.Looked)
	l.Said = record.LookedSays[b.As] + ", " + sc.Name(f.By)
	if b.Finding != "" {
		l.Said += ": " + b.Finding
	}
	if goal := mendingOf(sc, in.Fault); b.As == record.LookedFound && goal != "" {
		l.Or = append(l.Or, view.Choice{Label: sc.Names.Goal(goal) + " too", Makes: view.Added([]string{goal})})
	}
	return l
}

// mendingOf is the goal that mends what a look found, where nobody has set it
// yet; empty where no part mends it.
func mendingOf(sc *scene.Scene, id string) string {
	f := sc.Map.Fault(id)
	if f == nil || sc.Map.Part(f.Part) == nil {
		return ""
	}
	goal := "replace:" + f.Part
	if slices.ContainsFunc(sc.Goals, func(g *record.Goal) bool { return g.Goal == goal }) {
		return ""
	}
	return goal
}

// turning is a direction as a line of what to do.
func turning(t *machine.Turn) string {
	from := t.SeenFrom
	if slices.Contains(machine.Faces, from) {
		from = "the " + from
	}
	say := "Turn " + t.What + " *" + t.Way + "*, seen from " + from
	if t.Why != "" {
		say += ", " + t.Why
	}
	return say + "."
}
