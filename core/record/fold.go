package record

import (
	"maps"
	"slices"
	"time"

	"evensteps/core/energy"
	"evensteps/core/machine"
)

// Fold makes the state from facts in their order (Order). m is the job's whole
// map at its pinned revision.
func Fold(m *machine.Map, facts []Fact) *State { return (&Folds{}).Fold(m, facts) }

// Folds makes states one after the other and keeps the map with its answers
// applied from one to the next, since few facts change it.
type Folds struct {
	Company Company

	from    *machine.Map
	answers map[string]string
	touched []string
	applied *machine.Map
}

// with is m.With, or what it was when it was asked the same.
func (k *Folds) with(m *machine.Map, answers map[string]string, touched []string) *machine.Map {
	if k.from != m || !maps.Equal(k.answers, answers) || !slices.Equal(k.touched, touched) {
		k.from, k.answers, k.touched, k.applied = m, answers, touched, m.With(answers, touched...)
	}
	return k.applied
}

// Fold is Fold.
func (k *Folds) Fold(m *machine.Map, facts []Fact) *State {
	s := &State{
		Answers: map[string]string{}, Proofs: map[string]*Proven{}, Checks: map[string]*CheckState{},
		Finals: map[string]*Fact{}, Pieces: map[string]*Fact{}, Said: map[string]string{}, Gone: map[string]bool{},
		Found: map[string]machine.Level{}, Records: map[string]*Fact{}, Looks: map[string]*Fact{}, Readings: map[string]*Fact{}, Results: map[string]*Fact{}, Causes: map[string]*Fact{}, Wires: map[string][]*Fact{},
		OldParts: map[string]*Fact{}, OwnRungs: map[string]*Fact{}, Compared: map[string]*Fact{}, SetLive: map[string]*Fact{}, Early: map[string]bool{},
		company: k.Company, takenBack: map[string]*Fact{}, meters: map[string]energy.Rating{},
	}
	gone, void, byID := rights(facts, k.Company)
	s.Gone = gone
	first := shape{answers: s.Answers}
	for i := range facts {
		if b, is := facts[i].Of.(shaping); is && !gone[facts[i].ID] {
			b.shapes(&first)
		}
	}
	whole, strange := withOwn(corrected(m, first.differs), first.own)
	s.Whole, s.Map = whole, k.with(whole, s.Answers, first.touched)
	s.Facts = make([]Fact, 0, len(facts))
	g := &folder{State: s, whole: m, strange: strange, void: void, byID: byID, lots: map[string]bool{}}
	for i := range facts {
		f := &facts[i]
		if _, is := f.Of.(*Withdrawn); !is && gone[f.ID] {
			if b, is := f.Of.(leaving); is {
				b.leaves(g, f)
			}
			continue
		}
		s.Facts = append(s.Facts, *f)
		g.fold(f)
	}
	contradictions(g)
	return s
}

// leaving is a kind that leaves something behind where it was taken back: a
// restoring, a leaving or a taking over no longer counts, but the proofs before it
// stay ended. A correction goes down to not proven, never up.
type leaving interface{ leaves(*folder, *Fact) }

func (g *folder) fold(f *Fact) {
	if g.SignedBy != nil {
		afterSigning(g, f)
	}
	far(g, f)
	for _, who := range g.company.Came(f) {
		g.here(who, true)
		g.Left, g.Off = nil, nil
	}
	switch b := f.Of.(type) {
	case applying:
		b.apply(g, f)
	case nil:
		unread(g, f)
	}
	if _, is := f.Of.(*Withdrawn); !is {
		g.Last = f
	}
}

// afterSigning opens the record again where something came after signing off.
func afterSigning(g *folder, f *Fact) {
	switch b := f.Of.(type) {
	case *Note: // a word about it changes nothing
	case *SnagExplained, *Inspected: // it settles something: sign again
		g.SignedBy = nil
	case *Withdrawn:
		if !slices.Contains(g.void[b.Event], f) {
			g.SignedBy = nil
		}
	default:
		g.raise("late", f.ID, f)
		g.SignedBy = nil
	}
}

// unread is a fact of a newer kind, or one that cannot be read: it may have been a
// restoring.
func unread(g *folder, f *Fact) {
	g.endAll(f)
	if f.Problem != "" {
		g.raise("unreadable", f.Kind, f).Other = f.Problem
	} else {
		g.raise("newer-kind", f.Kind, f)
	}
}

// farOff is how long before its receipt a fact may lie without a word.
const farOff = 72 * time.Hour

// far raises what came in long after the time that it is stamped with, once for
// each person, device and day.
func far(g *folder, f *Fact) {
	if f.Received == nil || f.T == nil || f.Received.Sub(*f.T) < farOff {
		return
	}
	day := f.By + " " + f.T.UTC().Format(time.DateOnly)
	if slices.ContainsFunc(g.Raised, func(r *Raised) bool { return r.Kind == "far-off" && r.On == day && r.By.Device == f.Device }) {
		return
	}
	g.raise("far-off", day, f).Other = f.Received.UTC().Format(time.DateOnly)
}
