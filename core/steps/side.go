package steps

import (
	"fmt"
	"slices"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/picture"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// ways adds a direction that matters, and the schools.
func (s *Side) ways(t *machine.Turn, schools []machine.School) {
	if t != nil {
		s.Do = append(s.Do, turning(t))
	}
	for _, one := range schools {
		s.Schools = append(s.Schools, School(one))
	}
}

func side(sc *scene.Scene, title, face, pose string, hazards []machine.Hazard, do, tools, ppe []string, people int) *Side {
	s := &Side{
		Title: title, Stand: stand(face, pose), View: viewpoint(face), Hazards: []string{}, Do: slices.Clone(List(do)), Tools: List(tools), PPE: List(ppe),
		People: max(people, 1), Lots: []Lot{}, Plugs: []Plug{}, Lines: []view.Line{}, Photos: []Shown{}, Notes: []view.Remark{}, Then: []Next{}, Compare: []string{}, Schools: []School{}, Choices: []view.Choice{}, Keep: []view.Choice{}, Mend: []view.Choice{}, Asks: []Circumstance{}, Facts: []Fact{}, Picture: picture.Drawing{Strokes: []picture.Stroke{}},
	}
	for _, h := range hazards {
		say := h.Say
		if say == "" {
			say = hazardWords[h.Kind]
		}
		s.Hazards = append(s.Hazards, say)
	}
	return s
}

func List(in []string) []string {
	if in == nil {
		return []string{}
	}
	return in
}

// drawing is the face one stands before: its items, what of them is off, what
// this rung is about, and where its fasteners sit.
func drawing(sc *scene.Scene, mv *machine.Move, face string, lots []Lot) picture.Drawing {
	if mv != nil && mv.ID != sc.On.Move && mv.ID != sc.Viewer.Looking {
		return picture.Drawing{Strokes: []picture.Stroke{}}
	}
	var takes map[string]machine.Level
	var drawn []picture.Lot
	if mv != nil {
		takes = mv.Takes
		for i, l := range lots {
			drive := ""
			if k := sc.Map.Fastener(mv.Fasteners[i].Kind); k != nil {
				drive = k.Drive
			}
			drawn = append(drawn, picture.Lot{Drive: drive, Tray: l.Tray, Hidden: l.Hidden, At: l.At})
		}
	}
	return picture.Face(sc.Map, face, takes, drawn, func(item string) bool { return sc.Level[item] == machine.Away })
}

// ticketed leaves a side as it is for who holds its ticket. Nobody else is led
// into it: it says to leave it, and who has the ticket.
func ticketed(sc *scene.Scene, s *Side, ticket string) *Side {
	if sc.Has(sc.Viewer.Person, ticket) {
		return s
	}
	s.Ticket = fmt.Sprintf("Stop: %s ticket needed. Leave this as it is.", english.Spaced(ticket))
	if who := sc.Holders(ticket); len(who) > 0 {
		s.Ticket += " " + scene.HaveOne(who) + "."
	}
	s.Do, s.Lines, s.Plugs, s.Lots, s.Choices, s.Done, s.Failed, s.Proof, s.Value = []string{}, []view.Line{}, []Plug{}, []Lot{}, []view.Choice{}, nil, nil, nil, ""
	s.Asks, s.Meter = []Circumstance{}, nil
	return s
}
