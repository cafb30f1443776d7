package record

import (
	"slices"

	"evensteps/core/named"
)

// Facts that are taken back.

// Withdrawn takes back an event.
type Withdrawn struct {
	Event string `json:"event"`
}

func (b *Withdrawn) check() error { return ids("event", b.Event) }

func (b *Withdrawn) apply(g *folder, f *Fact) {
	withdrawal(g, b, f)
}

func (*Withdrawn) says(named.Names) string { return "withdrawn" }

// withdrawal shows who took whose fact back. One by somebody who was never at
// the machine does not count.
func withdrawal(g *folder, b *Withdrawn, f *Fact) {
	target := g.byID[b.Event]
	if target == nil || target.By == f.By {
		return
	}
	if slices.Contains(g.void[b.Event], f) {
		g.raise("withdrawal-void", b.Event, f)
		return
	}
	g.TakenBack = append(g.TakenBack, f)
	g.takenBack[b.Event] = target
}

// Withdrawn is a fact that was taken back, nil where nobody knows it.
func (s *State) Withdrawn(id string) *Fact { return s.takenBack[id] }
