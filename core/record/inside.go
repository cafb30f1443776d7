package record

import (
	"errors"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/named"
)

// What is inside the machine: put in for the work, found, looked at.

// TemporaryIn: something was put into the machine for the work.
type TemporaryIn struct {
	Temporary string `json:"temporary,omitempty"`
	Name      string `json:"name,omitempty"`   // one that the map does not know
	Before    string `json:"before,omitempty"` // the move before whose refit it must be out, of such a one
}

func (b *TemporaryIn) check() error {
	return errors.Join(temporary(b.Temporary, b.Name), texts(b.Before))
}

func (b *TemporaryIn) apply(g *folder, f *Fact) {
	putIn(g, b.Temporary, b.Name, f, true)
}

func (b *TemporaryIn) says(n named.Names) string { return n.Temporary(b.Temporary, b.Name) + " in" }

// TemporaryOut: it is out, or never went in.
type TemporaryOut struct {
	Temporary string `json:"temporary,omitempty"`
	Name      string `json:"name,omitempty"`
}

func (b *TemporaryOut) check() error { return temporary(b.Temporary, b.Name) }

func (b *TemporaryOut) apply(g *folder, f *Fact) {
	putIn(g, b.Temporary, b.Name, f, false)
}

func (b *TemporaryOut) says(n named.Names) string { return n.Temporary(b.Temporary, b.Name) + " out" }

func temporary(id, name string) error {
	if (id == "") == (name == "") {
		return errors.New("either temporary or name says which")
	}
	return ids("temporary", id+name)
}

// putIn counts a thing in or out. One put in again after it was out is a
// new one of the same name.
func putIn(g *folder, id, name string, f *Fact, in bool) {
	if name == "" {
		name = id
		for i := range g.Map.Moves {
			for _, t := range g.Map.Moves[i].PutsIn {
				if t.ID == id {
					name = t.Name
				}
			}
		}
	} else {
		id = name
	}
	var open *Temp
	for _, t := range g.Temps {
		if t.ID == id && t.Out == nil {
			open = t
		}
	}
	switch {
	case open == nil && in:
		g.Temps = append(g.Temps, &Temp{ID: id, Name: name, In: f})
	case open == nil && g.Temp(id) != nil: // out already: two who took it out say the same
	case open == nil:
		g.Temps = append(g.Temps, &Temp{ID: id, Name: name, Out: f})
	case !in:
		open.Out = f
	}
}

// Temp is the last that was said of a temporary, or nil.
func (s *State) Temp(id string) *Temp {
	for i := len(s.Temps) - 1; i >= 0; i-- {
		if s.Temps[i].ID == id {
			return s.Temps[i]
		}
	}
	return nil
}

// Belonging was found inside; settled when it says to whom it went.
type Belonging struct {
	What  string `json:"what"`
	Where string `json:"where,omitempty"`
	To    string `json:"to,omitempty"`
}

func (b *Belonging) check() error { return errors.Join(said("what", b.What), texts(b.Where, b.To)) }

func (b *Belonging) apply(g *folder, f *Fact) {
	same := func(o *Fact) bool { return strings.EqualFold(o.Of.(*Belonging).What, b.What) }
	if k := slices.IndexFunc(g.Belongings, same); k >= 0 {
		g.Belongings[k] = f
	} else {
		g.Belongings = append(g.Belongings, f)
	}
	g.vague(f, b.Where)
}

func (b *Belonging) says(named.Names) string { return b.What }

// What became of a look: it was so, it was not so; of the rest: done; of either:
// not now.
const (
	LookedFound   = "found"
	LookedNothing = "nothing"
	LookedDone    = "done"
	LookedSkipped = "skipped"
)

// LookedSays says them.
var LookedSays = map[string]string{LookedFound: "yes, seen", LookedNothing: "no", LookedDone: "done", LookedSkipped: "skipped"}

// Looked is what one did while one was there: looked, cleaned, oiled, greased or
// renewed something, or left it.
type Looked struct {
	On      string `json:"on"` // MOVE/inspect/N
	As      string `json:"as"`
	Finding string `json:"finding,omitempty"`
}

func (b *Looked) check() error {
	return errors.Join(ids("on", b.On), oneOf("as", b.As, LookedFound, LookedNothing, LookedDone, LookedSkipped), texts(b.Finding))
}

func (b *Looked) apply(g *folder, f *Fact) {
	if g.Whole.Look(b.On) == nil {
		g.raise("loose-fact", b.On, f)
		return
	}
	g.Looks[b.On] = f
}

func (b *Looked) subject() string { return b.On }

func (b *Looked) says(n named.Names) string {
	if in := n.Map.Look(b.On); in != nil {
		return english.Lower(named.Look(*in)) + " " + LookedSays[b.As]
	}
	return "look"
}
