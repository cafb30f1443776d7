package record

import (
	"maps"
	"slices"

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
	g.contradictions()
	return s
}

// shape is what decides the map that facts are folded with, before the first of
// them is: a record of a move that an answer would hide keeps that move.
type shape struct {
	answers map[string]string
	touched []string
	own     []*RungOwn
	differs []*Difference
}

func (s *shape) touch(move string) {
	if !slices.Contains(s.touched, move) {
		s.touched = append(s.touched, move)
	}
}

type shaping interface{ shapes(*shape) }

// leaving is a kind that leaves something behind where it was taken back: a
// restoring, a leaving or a taking over no longer counts, but the proofs before it
// stay ended. A correction goes down to not proven, never up.
type leaving interface{ leaves(*folder, *Fact) }

type folder struct {
	*State
	whole     *machine.Map
	strange   map[string]string  // own rung -> what it names that is not there
	restored  map[string][]*Fact // energy -> facts that restored it
	unguarded []*Raised          // guards unmet by the last rung, if proven before the next
	unmet     []*Raised          // needs met by no record yet
	void      map[string][]*Fact // fact -> withdrawals of it that do not count
	byID      map[string]*Fact   // all facts, those taken back too; nil where nothing is
	answered  map[string]*Fact   // option -> its last answer
	lots      map[string]bool    // lots that were looked for, and are there
}

func (g *folder) raise(kind, on string, by *Fact) *Raised {
	r := &Raised{Kind: kind, On: on, By: by}
	g.Raised = append(g.Raised, r)
	return r
}

func (g *folder) fold(f *Fact) {
	if g.SignedBy != nil {
		g.afterSigning(f)
	}
	g.far(f)
	for _, who := range g.company.Came(f) {
		g.here(who, true)
		g.Left, g.Off = nil, nil
	}
	switch b := f.Of.(type) {
	case applying:
		b.apply(g, f)
	case nil:
		g.unread(f)
	}
	if _, is := f.Of.(*Withdrawn); !is {
		g.Last = f
	}
}

// afterSigning opens the record again where something came after signing off.
func (g *folder) afterSigning(f *Fact) {
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
func (g *folder) unread(f *Fact) {
	g.endAll(f)
	if f.Problem != "" {
		g.raise("unreadable", f.Kind, f).Other = f.Problem
	} else {
		g.raise("newer-kind", f.Kind, f)
	}
}

// turn is the turn that a fact about a rung speaks of: the open one; or else,
// for the way out, a new one that is only begun, and for the way back the last.
func (g *folder) turn(move, side string) *Turn {
	var last *Turn
	for _, t := range g.Turns {
		if t.Move == move {
			last = t
		}
	}
	if last != nil && (last.Back == nil || side == "back") {
		return last
	}
	t := &Turn{
		Move: move, Half: map[string]bool{}, Counts: map[string]map[string]*Fact{}, Accepts: map[string]bool{},
		Settled: map[string][]*Fact{}, Confirms: map[string]*Fact{}, Wires: map[string]*Fact{}, Earths: map[string]*Fact{}, Trays: map[string]string{},
	}
	g.Turns = append(g.Turns, t)
	return t
}
