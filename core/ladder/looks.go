package ladder

import (
	"slices"

	"evensteps/core/machine"
	"evensteps/core/record"
)

// What is seen, cleaned, oiled, greased or renewed while one is there anyway.

// looks are what there is to see on the way in, or to do on the way back, when it
// is about to be closed in again. What has no way back is done on the way in.
func (v *viewing) looks(mv *machine.Move, side string) []Line {
	lines := []Line{}
	for k, in := range mv.Inspect {
		there := "back"
		if in.Looks() || mv.OneWay {
			there = "out"
		}
		if there == side {
			lines = append(lines, v.look(machine.LookID(mv.ID, k), in))
		}
	}
	return lines
}

func (v *viewing) look(id string, in machine.Inspect) Line {
	as := func(word string) Make { return made("looked", record.Looked{On: id, As: word}) }
	l := Line{Line: id, Kind: "look", Say: care(in), Tick: as(record.LookedDone), Or: []Choice{
		{Label: "Done", Makes: []Make{as(record.LookedDone)}}, {Label: "Not now", Makes: []Make{as(record.LookedSkipped)}},
	}}
	if in.Looks() {
		l.Tick = as(record.LookedNothing)
		l.Or = slices.Concat([]Choice{{Label: "Yes", Makes: []Make{as(record.LookedFound)}}, {Label: "No", Makes: []Make{l.Tick}}}, l.Or[1:])
	}
	f := v.Looks[id]
	if f == nil {
		return l
	}
	l.Ticked, l.Event, l.Or = true, f.ID, []Choice{}
	b := f.Of.(*record.Looked)
	l.Said = lookedSays[b.As] + ", " + v.name(f.By)
	if b.Finding != "" {
		l.Said += ": " + b.Finding
	}
	if goal := v.mendingOf(in.Fault); b.As == record.LookedFound && goal != "" {
		l.Or = append(l.Or, Choice{Label: v.goalName(goal) + " too", Makes: added([]string{goal})})
	}
	return l
}

// mendingOf is the goal that mends what a look found, where nobody has set it
// yet; empty where no part mends it.
func (v *viewing) mendingOf(id string) string {
	f := v.Map.Fault(id)
	if f == nil || v.Map.Part(f.Part) == nil {
		return ""
	}
	goal := "replace:" + f.Part
	if slices.ContainsFunc(v.Goals, func(g *record.Goal) bool { return g.Goal == goal }) {
		return ""
	}
	return goal
}

var lookedSays = map[string]string{
	record.LookedFound: "yes, seen", record.LookedNothing: "no", record.LookedDone: "done", record.LookedSkipped: "not now",
}

// care is a thing to look at, or to do, in words.
func care(in machine.Inspect) string {
	if in.Looks() {
		return in.Say + "?"
	}
	say := upper(in.Do) + " " + lower(in.Say)
	if in.With != "" {
		say += ": " + in.With
	}
	return say
}

// looked tells for the sheet what was seen and done, and what was left.
func (v *viewing) looked() (seen, done, left []string) {
	for i := range v.Map.Moves {
		mv := &v.Map.Moves[i]
		for k, in := range mv.Inspect {
			f := v.Looks[machine.LookID(mv.ID, k)]
			if f == nil {
				continue
			}
			b := f.Of.(*record.Looked)
			say := care(in)
			if in.Looks() {
				say = in.Say
			}
			if b.Finding != "" {
				say += " (" + b.Finding + ")"
			}
			switch b.As {
			case record.LookedFound:
				seen = append(seen, "Seen: "+lower(say)+" ("+v.fullName(f.By)+").")
			case record.LookedDone:
				done = append(done, say+".")
			case record.LookedSkipped:
				left = append(left, "Left for another time: "+lower(say)+".")
			}
		}
	}
	return seen, done, left
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
