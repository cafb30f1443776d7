// Package machine holds the machine map: what a model family of appliance is
// made of, what holds it, what must come away before what.
//
// A map is data only. Ways in and ways back are computed from it (package
// plan), never written in it. The types here are format 1 whole; their JSON
// form is what goes to the browser. Reading YAML is the work of package
// mapfile, so that the browser's build needs no YAML reader.
package machine

import (
	"slices"
)

// Format is the first line of every map that this package understands.
const Format = "evensteps/map/1"

// Map is one machine map.
type Map struct {
	Format   string   `json:"format" yaml:"format"`
	ID       string   `json:"id" yaml:"id"`
	Title    string   `json:"title" yaml:"title"`
	Kind     string   `json:"kind" yaml:"kind"`
	Maker    string   `json:"maker,omitempty" yaml:"maker"`
	Covers   []string `json:"covers,omitempty" yaml:"covers"`
	Revision int      `json:"revision" yaml:"revision"`
	Summary  string   `json:"summary,omitempty" yaml:"summary"`
	Cabinet  *Cabinet `json:"cabinet,omitempty" yaml:"cabinet"`
	Supply   *Supply  `json:"supply,omitempty" yaml:"supply"`
	Sources  []string `json:"sources,omitempty" yaml:"sources"`

	Options    []Option        `json:"options,omitempty" yaml:"options"`
	Energies   []Energy        `json:"energies,omitempty" yaml:"energies"`
	Fasteners  []Fastener      `json:"fasteners,omitempty" yaml:"fasteners"`
	Poses      map[string]Pose `json:"poses,omitempty" yaml:"poses"`
	Items      []Item          `json:"items,omitempty" yaml:"items"`
	Moves      []Move          `json:"moves,omitempty" yaml:"moves"`
	Checks     []Check         `json:"checks,omitempty" yaml:"checks"`
	Finals     []Final         `json:"finals,omitempty" yaml:"finals"`
	Tests      []Test          `json:"tests,omitempty" yaml:"tests"`
	Survey     []string        `json:"survey,omitempty" yaml:"survey"`
	Faults     []Fault         `json:"faults,omitempty" yaml:"faults"`
	Complaints []Complaint     `json:"complaints,omitempty" yaml:"complaints"`
	Circuits   []Circuit       `json:"circuits,omitempty" yaml:"circuits"`
	Parts      []Part          `json:"parts,omitempty" yaml:"parts"`

	applied *applied // where With made it
}

// Plain tells whether a map stands for no model at all: it has the energies of a
// kind and nothing else, for machines that no map covers.
func (m *Map) Plain() bool { return len(m.Covers) == 0 && len(m.Parts) == 0 }

// Cabinet is the outer size in millimetres.
type Cabinet struct {
	WidthMM  float64 `json:"width_mm" yaml:"width_mm"`
	HeightMM float64 `json:"height_mm" yaml:"height_mm"`
	DepthMM  float64 `json:"depth_mm" yaml:"depth_mm"`
}

// Supply is what the rating plate asks for: volts, hertz, amperes.
type Supply struct {
	System string  `json:"system" yaml:"system"`
	Volts  float64 `json:"volts" yaml:"volts"`
	Hertz  float64 `json:"hertz,omitempty" yaml:"hertz"`
	Amps   float64 `json:"amps,omitempty" yaml:"amps"`
}

// Option is a way in which machines of one family differ.
type Option struct {
	ID     string   `json:"id" yaml:"id"`
	Ask    string   `json:"ask" yaml:"ask"`
	Tell   string   `json:"tell,omitempty" yaml:"tell"`
	Values []string `json:"values" yaml:"values"`
	Usual  string   `json:"usual" yaml:"usual"`
	Needs  Needs    `json:"needs,omitempty" yaml:"needs"`
	When   When     `json:"when,omitempty" yaml:"when"`
}

// Energy is something that can hurt.
type Energy struct {
	ID        string     `json:"id" yaml:"id"`
	Kind      string     `json:"kind" yaml:"kind"`
	Name      string     `json:"name" yaml:"name"`
	When      When       `json:"when,omitempty" yaml:"when"`
	Capacitor *Capacitor `json:"capacitor,omitempty" yaml:"capacitor"`
}

// Ways are the ways in which an energy of this kind can be proven off, the usual
// one first.
func Ways(kind string) []string {
	switch kind {
	case "mains":
		return []string{"meter", "in-hand"}
	case "gas":
		return []string{"let-by", "burn-off", "detector"}
	case "water":
		return []string{"runs-dry"}
	case "heat":
		return []string{"touch-warm"}
	case "spring", "weight":
		return []string{"held"}
	}
	return []string{"meter"}
}

// Guards tells whether every move needs this energy proven off (mains, gas,
// water); the other kinds guard only the moves that name them.
func (e Energy) Guards() bool {
	return e.Kind == "mains" || e.Kind == "gas" || e.Kind == "water"
}

// Capacitor holds a charge: microfarads, volts, bleed resistor in megohms.
type Capacitor struct {
	Microfarads  float64 `json:"microfarads" yaml:"microfarads"`
	Volts        float64 `json:"volts" yaml:"volts"`
	BleedMegohms float64 `json:"bleed_megohms,omitempty" yaml:"bleed_megohms"`
}

// Fastener is a kind of screw, clip, ring or nut. Size and lengths are kept
// exactly as written.
type Fastener struct {
	ID     string `json:"id" yaml:"id"`
	Name   string `json:"name" yaml:"name"`
	Drive  string `json:"drive" yaml:"drive"`
	Size   string `json:"size,omitempty" yaml:"size"`
	Head   string `json:"head,omitempty" yaml:"head"`
	Thread string `json:"thread,omitempty" yaml:"thread"`
	Length string `json:"length,omitempty" yaml:"length"`
	Finish string `json:"finish,omitempty" yaml:"finish"`
}

// Pose is what it takes to lay the machine so: minutes, people, needs.
type Pose struct {
	Minutes *float64 `json:"minutes,omitempty" yaml:"minutes"`
	People  int      `json:"people,omitempty" yaml:"people"`
	Needs   Needs    `json:"needs,omitempty" yaml:"needs"`
}

// Item is anything on the machine that can be fitted or away.
type Item struct {
	ID      string    `json:"id" yaml:"id"`
	Name    string    `json:"name" yaml:"name"`
	Type    string    `json:"type" yaml:"type"`
	Face    string    `json:"face,omitempty" yaml:"face"`
	Aka     []string  `json:"aka,omitempty" yaml:"aka"`
	Area    []float64 `json:"area,omitempty" yaml:"area"`
	At      []float64 `json:"at,omitempty" yaml:"at"`
	Keyed   bool      `json:"keyed,omitempty" yaml:"keyed"`
	Earth   bool      `json:"earth,omitempty" yaml:"earth"`
	Housing string    `json:"housing,omitempty" yaml:"housing"`
	Loose   bool      `json:"loose,omitempty" yaml:"loose"`
	Wires   []Wire    `json:"wires,omitempty" yaml:"wires"`
	// Carries are the energies that run through it (water in a hose, gas in a
	// pipe), Hides those whose live parts lie behind it.
	Carries []string `json:"carries,omitempty" yaml:"carries"`
	Hides   []string `json:"hides,omitempty" yaml:"hides"`
	When    When     `json:"when,omitempty" yaml:"when"`
}

// Wire is one lead of a connector.
type Wire struct {
	Terminal string `json:"terminal" yaml:"terminal"`
	Colour   string `json:"colour,omitempty" yaml:"colour"`
	Stripe   string `json:"stripe,omitempty" yaml:"stripe"`
}

// Renews tells whether fitting a part brings a new one of what a fault's own
// part renews: the part itself, or a kit that holds it.
func (m *Map) Renews(p *Part, f *Fault) bool {
	own := m.Part(f.Part)
	return p != nil && own != nil && slices.Contains(p.Pieces(), own.Item)
}

// Move returns the move with that id, or nil.
func (m *Map) Move(id string) *Move { return find(m.Moves, id, func(v *Move) string { return v.ID }) }

// Item returns the item with that id, or nil.
func (m *Map) Item(id string) *Item { return find(m.Items, id, func(v *Item) string { return v.ID }) }

// Energy returns the energy with that id, or nil.
func (m *Map) Energy(id string) *Energy {
	return find(m.Energies, id, func(v *Energy) string { return v.ID })
}

// Check returns the check with that id, or nil.
func (m *Map) Check(id string) *Check {
	return find(m.Checks, id, func(v *Check) string { return v.ID })
}

// Final returns the final with that id, or nil.
func (m *Map) Final(id string) *Final {
	return find(m.Finals, id, func(v *Final) string { return v.ID })
}

// Test returns the test with that id, or nil.
func (m *Map) Test(id string) *Test { return find(m.Tests, id, func(v *Test) string { return v.ID }) }

// Part returns the part with that id, or nil.
func (m *Map) Part(id string) *Part { return find(m.Parts, id, func(v *Part) string { return v.ID }) }

// Fastener returns the fastener kind with that id, or nil.
func (m *Map) Fastener(id string) *Fastener {
	return find(m.Fasteners, id, func(v *Fastener) string { return v.ID })
}

// Option returns the option with that id, or nil.
func (m *Map) Option(id string) *Option {
	return find(m.Options, id, func(v *Option) string { return v.ID })
}

// Fault returns the fault with that id, or nil.
func (m *Map) Fault(id string) *Fault {
	return find(m.Faults, id, func(v *Fault) string { return v.ID })
}

// Circuit returns the circuit with that id, or nil.
func (m *Map) Circuit(id string) *Circuit {
	return find(m.Circuits, id, func(v *Circuit) string { return v.ID })
}

// Temporary returns what some move puts in under that id, or nil.
func (m *Map) Temporary(id string) *Temporary {
	for i := range m.Moves {
		if p := find(m.Moves[i].PutsIn, id, func(v *Temporary) string { return v.ID }); p != nil {
			return p
		}
	}
	return nil
}

// Mains lists the energies that are mains, in the map's order.
func (m *Map) Mains() []string {
	var ids []string
	for i := range m.Energies {
		if m.Energies[i].Kind == "mains" {
			ids = append(ids, m.Energies[i].ID)
		}
	}
	return ids
}

// Complaint returns the complaint with that id, or nil.
func (m *Map) Complaint(id string) *Complaint {
	return find(m.Complaints, id, func(v *Complaint) string { return v.ID })
}

func find[T any](list []T, id string, of func(*T) string) *T {
	for i := range list {
		if of(&list[i]) == id {
			return &list[i]
		}
	}
	return nil
}

// applied is what a map was made for.
type applied struct {
	answers  map[string]string
	standing []string
}
