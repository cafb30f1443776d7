package job

import (
	"maps"
	"slices"
	"strings"
	"time"

	"evensteps/core/english"
	"evensteps/core/record"
	"evensteps/core/scene"
)

// Lists are what can be named on this machine: for a goal, for what was found,
// for what a rung of one's own stands before.
type Lists struct {
	Moves []Named   `json:"moves"`
	Items []Named   `json:"items"`
	Parts []Named   `json:"parts"`
	Tests []Named   `json:"tests"`
	Kinds []Driver  `json:"kinds"` // of the fasteners of this machine, then the usual ones
	Sorts []OwnSort `json:"sorts"` // what can hold something that the map does not know
	// People are the company's, and whether each is at the machine.
	People []Named `json:"people"`
	// Complaints are the map's, and whether each is one of this job.
	Complaints []Named `json:"complaints"`
}

// Lists are what can be named on this machine, as its options are answered.
func (b *Book) Lists(viewer scene.Viewer, now time.Time) *Lists {
	sc := b.look(viewer, now)
	l := &Lists{Complaints: []Named{}, Moves: []Named{}, Items: []Named{}, Parts: []Named{}, Tests: []Named{}, Kinds: drivers(sc), Sorts: slices.Clone(ownSorts), People: []Named{}}
	for i := range sc.Map.Moves {
		mv := &sc.Map.Moves[i]
		if !mv.OneWay {
			l.Moves = append(l.Moves, Named{mv.ID, mv.Name(), mv.Face, sc.Stands(mv.ID)})
		}
	}
	for i := range sc.Map.Items {
		it := &sc.Map.Items[i]
		if it.Type != "state" {
			l.Items = append(l.Items, Named{it.ID, it.Name, strings.Join(it.Aka, ", "), sc.Level[it.ID].Rank() > 0})
		}
	}
	open := func(goal string) bool {
		return slices.ContainsFunc(sc.Goals, func(g *record.Goal) bool { return g.Goal == goal && g.Open })
	}
	for i := range sc.Map.Parts {
		p := &sc.Map.Parts[i]
		note := p.Number
		if it := sc.Map.Item(p.Item); it != nil && len(it.Aka) > 0 {
			note += ", " + strings.Join(it.Aka, ", ")
		}
		l.Parts = append(l.Parts, Named{"replace:" + p.ID, p.Name, note, open("replace:" + p.ID)})
	}
	for i := range sc.Map.Tests {
		t := &sc.Map.Tests[i]
		l.Tests = append(l.Tests, Named{"test:" + t.ID, t.Title, t.Face, open("test:" + t.ID)})
	}
	said := sc.Complaints()
	for i := range sc.Map.Complaints {
		c := &sc.Map.Complaints[i]
		l.Complaints = append(l.Complaints, Named{c.ID, c.Name, strings.Join(c.Words, ", "), slices.Contains(said, c)})
	}
	for _, id := range slices.Sorted(maps.Keys(b.Job.People)) {
		if p := b.Job.People[id]; p.Role == scene.Office || p.Closed {
			continue
		}
		l.People = append(l.People, Named{id, sc.FullName(id), english.Spaced(strings.Join(b.Job.People[id].Tickets, ", ")), slices.Contains(sc.Here, id)})
	}
	return spoken(l, sc)
}
