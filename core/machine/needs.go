package machine

import (
	"maps"
)

// What must be met before a move, and before its refit.

// OutNeeds is all that must be met before a move is made: its own needs and
// those of its pose.
func (m *Map) OutNeeds(mv *Move) Needs { return m.join(mv.Needs, mv.Pose) }

// StandsOn is what a one-way move stands on: its needs of energies. Once they
// (or its guards) are not met without it, it has lapsed and must be made again.
// Access that it needed may close behind it.
func (m *Map) StandsOn(mv *Move) Needs {
	n := Needs{}
	for id, level := range m.OutNeeds(mv) {
		if level.OfEnergy() {
			n[id] = level
		}
	}
	return n
}

// BackNeeds is all that must be met for its refit: the refit's needs where the
// map gives them, the move's otherwise, and those of the refit's pose.
func (m *Map) BackNeeds(mv *Move) Needs {
	n, pose := mv.Needs, mv.Pose
	if mv.Back != nil && mv.Back.Needs != nil {
		n = *mv.Back.Needs
	}
	if mv.Back != nil && mv.Back.Pose != nil {
		pose = *mv.Back.Pose
	}
	return m.join(n, pose)
}

func (m *Map) join(n Needs, pose string) Needs {
	p, ok := m.Poses[pose]
	if !ok || len(p.Needs) == 0 {
		return n
	}
	out := maps.Clone(n)
	if out == nil {
		out = Needs{}
	}
	for id, level := range p.Needs {
		if level.Rank() > out[id].Rank() {
			out[id] = level
		}
	}
	return out
}
