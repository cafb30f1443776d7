package machine

import (
	"slices"
	"strings"
)

// Stretch is a part of a circuit between two of its points, From before To, that
// can be tested for continuity.
type Stretch struct {
	Circuit  *Circuit
	From, To int // index of Circuit.Points
}

const stretchTest = "circuit:"

// Test is the id of the continuity test that follows from a stretch: a map does
// not write it out.
func (s Stretch) Test() string {
	p := s.Circuit.Points
	return stretchTest + s.Circuit.ID + "/" + p[s.From].ID + "/" + p[s.To].ID
}

// Needs is what must be open to put a probe on both ends.
func (s Stretch) Needs() Needs {
	needs := Needs{}
	for _, k := range []int{s.From, s.To} {
		for id, level := range s.Circuit.Points[k].Reach {
			if level.Rank() > needs[id].Rank() {
				needs[id] = level
			}
		}
	}
	return needs
}

// Stretch is the stretch whose continuity a test tells; false where it is no
// such test, or one of a circuit or point that the map does not have.
func (m *Map) Stretch(test string) (Stretch, bool) {
	rest, is := strings.CutPrefix(test, stretchTest)
	names := strings.Split(rest, "/")
	if !is || len(names) != 3 {
		return Stretch{}, false
	}
	c := m.Circuit(names[0])
	if c == nil {
		return Stretch{}, false
	}
	at := func(id string) int { return slices.IndexFunc(c.Points, func(p Point) bool { return p.ID == id }) }
	s := Stretch{c, at(names[1]), at(names[2])}
	return s, s.From >= 0 && s.From < s.To
}
