package record

import (
	"errors"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/named"
)

// Rungs that the map does not know, and what a job corrects in it.

// RungOwn is a rung that the map does not know.
type RungOwn struct {
	ID      string          `json:"id"`
	Title   string          `json:"title"`
	Face    string          `json:"face"`
	Needs   machine.Needs   `json:"needs,omitempty"`
	Before  []string        `json:"before,omitempty"` // moves that it blocks
	Lots    []OwnLot        `json:"lots,omitempty"`
	Wires   []OwnWire       `json:"wires,omitempty"`
	Minutes machine.Minutes `json:"minutes"`
	Type    string          `json:"type,omitempty"`  // of the item that it takes off; part where nothing is said
	Keyed   bool            `json:"keyed,omitempty"` // of a plug
	Earth   bool            `json:"earth,omitempty"`
	LiveOK  []string        `json:"live_ok,omitempty"`
}

func (b *RungOwn) check() error {
	if !ownID.MatchString(b.ID) {
		return fmt.Errorf("id is %q; an own rung is called own-1, own-2 and so on", short(b.ID))
	}
	errs := []error{said("title", b.Title), oneOf("face", b.Face, machine.Faces...)}
	if len(b.Lots) > mostLots || len(b.Wires) > mostWires || len(b.Before) > mostWires || len(b.Needs) > mostWires {
		errs = append(errs, most("an own rung holds too many lots, wires or names"))
	}
	for _, l := range b.Lots {
		errs = append(errs, oneOf("drive", l.Drive, machine.Drives...), counted(l.Count), texts(l.Size, l.Length))
	}
	for _, w := range b.Wires {
		errs = append(errs, ids("terminal", w.Terminal), texts(w.Colour, w.Stripe))
	}
	if b.Type != "" {
		errs = append(errs, oneOf("type", b.Type, machine.ItemTypes...))
	}
	if m := b.Minutes; m.Out < 0 || m.Back < 0 || m.Out > 600 || m.Back > 600 {
		errs = append(errs, errors.New("minutes run from 0 to 600"))
	}
	return errors.Join(errs...)
}

func (b *RungOwn) apply(g *folder, f *Fact) {
	if g.OwnRungs[b.ID] == nil {
		g.OwnRungs[b.ID] = f
	}
	if what := g.strange[b.ID]; what != "" {
		g.raise("hangs", f.ID, f).Other = what
	}
	for _, w := range b.Wires {
		g.vague(f, w.Terminal)
	}
}

func (b *RungOwn) shapes(s *shape) {
	s.own = append(s.own, b)
}

func (b *RungOwn) subject() string         { return b.ID }
func (b *RungOwn) says(named.Names) string { return b.Title }

// OwnLot is fasteners of one kind that an own rung undoes.
type OwnLot struct {
	Drive  string `json:"drive"`
	Size   string `json:"size,omitempty"`
	Length string `json:"length,omitempty"`
	Count  int    `json:"count"`
}

// OwnWire is one lead that an own rung parts.
type OwnWire struct {
	Terminal string `json:"terminal"`
	Colour   string `json:"colour,omitempty"`
	Stripe   string `json:"stripe,omitempty"`
}

// withOwn adds a job's own rungs to its map, so that they take part in plans,
// trays and counts like any move: what an own rung takes off is an item of its
// own, and the moves that it blocks need that away. What names nothing on this
// machine is dropped; strange says so.
func withOwn(m *machine.Map, own []*RungOwn) (out *machine.Map, strange map[string]string) {
	strange = map[string]string{}
	if len(own) == 0 {
		return m, strange
	}
	copied := *m
	out = &copied
	out.Moves = slices.Clone(m.Moves)
	out.Items, out.Fasteners = slices.Clone(m.Items), slices.Clone(m.Fasteners)
	for _, b := range own {
		if out.Move(b.ID) != nil || out.Item(b.ID) != nil || out.Energy(b.ID) != nil {
			continue // said twice: the first stands, a change is a withdrawal and a new one
		}
		mv := machine.Move{
			ID: b.ID, Title: b.Title, Face: b.Face, Minutes: b.Minutes, LiveOK: b.LiveOK,
			Takes: map[string]machine.Level{b.ID: machine.Away}, Needs: machine.Needs{},
		}
		for _, id := range slices.Sorted(maps.Keys(b.Needs)) {
			level := b.Needs[id]
			known := out.Item(id) != nil && !level.OfEnergy() || out.Energy(id) != nil && level.OfEnergy()
			if level.Rank() < 0 || level == "" || !known {
				strange[b.ID] = id + " " + string(level)
				continue
			}
			mv.Needs[id] = level
		}
		for i := range m.Energies {
			// What is inside a machine with stored charge waits for its proof.
			if e := &m.Energies[i]; e.Kind == "charge" && b.Face == "inside" && !slices.Contains(b.LiveOK, e.ID) {
				mv.Needs[e.ID] = machine.Proven
			}
		}
		for k, l := range b.Lots {
			kind := machine.Fastener{ID: fmt.Sprintf("%s/%d", b.ID, k+1), Name: l.Drive + " " + l.Size, Drive: l.Drive, Size: l.Size, Length: l.Length}
			out.Fasteners = append(out.Fasteners, kind)
			mv.Fasteners = append(mv.Fasteners, machine.Lot{Kind: kind.ID, Count: l.Count})
		}
		item := machine.Item{ID: b.ID, Name: b.Title, Type: b.Type, Face: b.Face, Keyed: b.Keyed, Earth: b.Earth}
		if item.Type == "" {
			item.Type = "part"
		}
		if len(b.Wires) > 0 {
			item.Type = "connector"
			for _, w := range b.Wires {
				item.Wires = append(item.Wires, machine.Wire(w))
			}
		}
		out.Items = append(out.Items, item)
		out.Moves = append(out.Moves, mv)
		for _, id := range b.Before {
			if id == b.ID || out.Move(id) == nil {
				strange[b.ID] = id
				continue
			}
			if leadsTo(out, mv.Needs, id) {
				strange[b.ID] = out.Move(id).Name() + " first, which it was to be out before; that order is left out"
				continue
			}
			block(out.Move(id), b.ID)
		}
	}
	return out, strange
}

// block makes a move need that an own rung's item is away, out and back.
func block(mv *machine.Move, item string) {
	needs := machine.Needs{item: machine.Away}
	for id, l := range mv.Needs {
		needs[id] = l
	}
	mv.Needs = needs
	if mv.Back == nil || mv.Back.Needs == nil {
		return
	}
	back := *mv.Back
	home := machine.Needs{item: machine.Away}
	for id, l := range *back.Needs {
		home[id] = l
	}
	back.Needs = &home
	mv.Back = &back
}

// leadsTo tells whether these needs can be met only once a move was made: then
// nothing that has them can be out before it. What is asked for again on the way
// to itself leads nowhere new.
func leadsTo(m *machine.Map, needs machine.Needs, move string) bool {
	type need struct {
		id    string
		level machine.Level
	}
	known := map[need]bool{}
	var look func(needs machine.Needs) bool
	look = func(needs machine.Needs) bool {
		for _, id := range slices.Sorted(maps.Keys(needs)) {
			n := need{id, needs[id]}
			leads, seen := known[n]
			if !seen {
				known[n] = false
				all, some := true, false
				for i := range m.Moves {
					mv := &m.Moves[i]
					if mv.Takes[id] == "" || mv.Takes[id].Rank() < n.level.Rank() {
						continue
					}
					some = true
					all = all && (mv.ID == move || look(mv.Needs))
				}
				leads = some && all
				known[n] = leads
			}
			if leads {
				return true
			}
		}
		return false
	}
	return look(needs)
}

// corrected is the map with the drives and sizes that were found other than it
// says, for this job alone. The last that was said of a lot counts.
func corrected(m *machine.Map, differs []*Difference) *machine.Map {
	out := m
	for _, d := range differs {
		if d.Drive == "" {
			continue
		}
		move, n, _ := strings.Cut(d.On, "/")
		k, err := strconv.Atoi(n)
		mv := m.Move(move)
		if mv == nil || err != nil || k < 1 || k > len(mv.Fasteners) {
			continue
		}
		if out == m {
			copied := *m
			out = &copied
			out.Moves, out.Fasteners = slices.Clone(m.Moves), slices.Clone(m.Fasteners)
		}
		kind := machine.Fastener{ID: d.On, Name: strings.TrimSpace(d.Drive + " " + d.Size), Drive: d.Drive, Size: d.Size}
		at := slices.IndexFunc(out.Fasteners, func(f machine.Fastener) bool { return f.ID == d.On })
		if at >= 0 {
			out.Fasteners[at] = kind
		} else {
			out.Fasteners = append(out.Fasteners, kind)
		}
		own := out.Move(move)
		own.Fasteners = slices.Clone(own.Fasteners)
		own.Fasteners[k-1].Kind = d.On
	}
	return out
}

// Difference is what was found other than the map says. One that names a drive
// or size corrects the lot that it is on, for this job.
type Difference struct {
	On    string `json:"on"`
	Says  string `json:"says"`
	Is    string `json:"is"`
	Drive string `json:"drive,omitempty"`
	Size  string `json:"size,omitempty"`
}

func (b *Difference) check() error {
	if b.Drive != "" {
		if err := oneOf("drive", b.Drive, machine.Drives...); err != nil {
			return err
		}
	}
	return errors.Join(said("on", b.On), said("is", b.Is), texts(b.Says, b.Size))
}

func (*Difference) apply(g *folder, f *Fact) {
	g.Differs = append(g.Differs, f)
}

func (b *Difference) shapes(s *shape) {
	s.differs = append(s.differs, b)
}

func (b *Difference) subject() string { return b.On }

func (b *Difference) says(n named.Names) string { return "difference, " + english.Lower(n.On(b.On)) }

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
