package record

import (
	"errors"

	"evensteps/core/english"
	"evensteps/core/named"
)

// Stops, emergencies, and what settles a snag.

// Told is what a caller was told in an emergency. The machine is out of use from
// then on.
type Told struct {
	Emergency string   `json:"emergency"` // its kind: gas, fire, shock, water-live, runs-open, starts-itself, glass
	Name      string   `json:"name"`
	Say       []string `json:"say,omitempty"`
}

func (b *Told) check() error {
	return errors.Join(ids("emergency", b.Emergency), said("name", b.Name), texts(b.Say...))
}

func (*Told) apply(g *folder, f *Fact) {
	g.Told = append(g.Told, f)
}

func (b *Told) says(named.Names) string { return "out of use, " + english.Lower(b.Name) }

// Stopped holds the job.
type Stopped struct {
	Why string `json:"why"`
}

func (b *Stopped) check() error { return said("why", b.Why) }

func (*Stopped) apply(g *folder, f *Fact) {
	g.Stops = append(g.Stops, f)
}

func (*Stopped) says(named.Names) string { return "stop" }

// StopLifted lets it go on.
type StopLifted struct {
	ByWhat string `json:"by what"`
}

func (b *StopLifted) check() error { return said("by what", b.ByWhat) }

func (*StopLifted) apply(g *folder, _ *Fact) {
	g.Stops = nil
}

func (*StopLifted) says(named.Names) string { return "stop lifted" }

// Inspected settles a snag of the highest grade.
type Inspected struct {
	Snag    string `json:"snag"`
	Finding string `json:"finding"`
}

func (b *Inspected) check() error { return errors.Join(snagID(b.Snag), said("finding", b.Finding)) }

func (b *Inspected) apply(g *folder, f *Fact) {
	inspected(g, b.Snag, f)
}

func (*Inspected) says(named.Names) string { return "inspected" }

// SnagExplained explains a lesser one.
type SnagExplained struct {
	Snag   string `json:"snag"`
	Reason string `json:"reason"`
}

func (b *SnagExplained) check() error { return errors.Join(snagID(b.Snag), said("reason", b.Reason)) }

func (*SnagExplained) says(named.Names) string { return "explanation" }

func snagID(id string) error {
	if id == "" || len(id) > 4*MostID {
		return errors.New("snag is missing")
	}
	return nil
}

// inspected settles a stop by another person's own look at it. Lesser snags are
// settled by their fact, or explained.
func inspected(g *folder, snag string, f *Fact) {
	for _, r := range g.Raised {
		if r.ID() == snag && r.By.By != f.By && (r.Kind == "guard-unmet" || r.Kind == "proof-lapsed") {
			r.Done = true
		}
	}
}
