package record

import (
	"errors"
	"slices"

	"evensteps/core/english"
	"evensteps/core/named"
)

// Who is at the machine, and whose job it is.

// VisitBegan: a person starts at the machine.
type VisitBegan struct{}

func (*VisitBegan) check() error { return nil }

func (*VisitBegan) says(named.Names) string { return "at the machine" }

// VisitEnded closes it.
type VisitEnded struct{}

func (*VisitEnded) check() error { return nil }

func (*VisitEnded) apply(g *folder, f *Fact) {
	g.here(f.By, false)
}

func (*VisitEnded) says(named.Names) string { return "visit ended" }

// PersonHere works along from now.
type PersonHere struct {
	Person string `json:"person"`
}

func (b *PersonHere) check() error { return ids("person", b.Person) }

func (*PersonHere) says(named.Names) string { return "person here" }

// PersonGone no longer does.
type PersonGone struct {
	Person string `json:"person"`
}

func (b *PersonGone) check() error { return ids("person", b.Person) }

func (b *PersonGone) apply(g *folder, _ *Fact) {
	g.here(b.Person, false)
}

func (*PersonGone) says(named.Names) string { return "person gone" }

// Paused is not work; proofs stand.
type Paused struct{}

func (*Paused) check() error { return nil }

func (*Paused) says(named.Names) string { return "paused" }

// Resumed ends the pause.
type Resumed struct{}

func (*Resumed) check() error { return nil }

func (*Resumed) says(named.Names) string { return "resumed" }

// Left: nobody is at the machine any more.
type Left struct {
	Tag string `json:"tag,omitempty"`
}

func (b *Left) check() error { return texts(b.Tag) }

func (*Left) apply(g *folder, f *Fact) {
	g.endAll(f)
	g.Left, g.Here = f, nil
}

// leaves plays what stays of it once it was taken back.
func (*Left) leaves(g *folder, f *Fact) {
	g.endAll(f)
}

func (*Left) says(named.Names) string { return "leaving" }

// TookOver: somebody else goes on.
type TookOver struct {
	From string `json:"from,omitempty"`
}

func (b *TookOver) check() error { return texts(b.From) }

func (*TookOver) apply(g *folder, f *Fact) {
	g.endAll(f)
}

// leaves plays what stays of it once it was taken back.
func (*TookOver) leaves(g *folder, f *Fact) {
	g.endAll(f)
}

func (*TookOver) says(named.Names) string { return "taking over" }

// JobGiven says who goes: the last in order counts, and nobody where it is empty.
type JobGiven struct {
	To []string `json:"to"`
}

func (b *JobGiven) check() error {
	if len(b.To) > mostWires {
		return most("a job goes to %d people at the most, not %d", mostWires, len(b.To))
	}
	return texts(b.To...)
}

func (*JobGiven) apply(g *folder, f *Fact) {
	g.Given = f
}

func (b *JobGiven) says(n named.Names) string {
	if len(b.To) == 0 {
		return "nobody goes yet"
	}
	names := []string{}
	for _, id := range b.To {
		names = append(names, n.Person(id))
	}
	return "goes: " + english.And(names)
}

// JobCalledOff: it was made in error, or is no longer wanted. Instead is the job
// that was made for it on another machine. Whoever works on it all the same opens
// it again.
type JobCalledOff struct {
	Reason  string `json:"reason"`
	Instead string `json:"instead,omitempty"`
}

func (b *JobCalledOff) check() error {
	return errors.Join(said("reason", b.Reason), texts(b.Instead))
}

func (*JobCalledOff) apply(g *folder, f *Fact) {
	g.Off = f
}

func (b *JobCalledOff) says(named.Names) string { return "called off: " + b.Reason }

// SignedOff closes the record; later facts open it again.
type SignedOff struct {
	Customer  string   `json:"customer,omitempty"`
	NotTested []string `json:"not_tested,omitempty"`
}

func (b *SignedOff) check() error {
	return errors.Join(texts(b.Customer), texts(b.NotTested...))
}

func (*SignedOff) apply(g *folder, f *Fact) {
	g.endAll(f)
	g.SignedBy = f
}

// leaves plays what stays of it once it was taken back.
func (*SignedOff) leaves(g *folder, f *Fact) {
	g.endAll(f)
}

func (*SignedOff) says(named.Names) string { return "signing off" }

func (g *folder) here(person string, is bool) {
	switch {
	case !is:
		g.Here = slices.DeleteFunc(g.Here, func(p string) bool { return p == person })
	case !slices.Contains(g.Here, person):
		g.Here = append(g.Here, person)
	}
}
