package record

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/lead"
	"evensteps/core/machine"
	"evensteps/core/named"
)

// Leads: as they were seen, moved over, and put back.

// WireSaid is a lead as somebody sees it.
type WireSaid struct {
	Wire   string `json:"wire"`
	Colour string `json:"colour"`
	Stripe string `json:"stripe,omitempty"`
	Tag    int    `json:"tag,omitempty"`
	Route  string `json:"route,omitempty"`
}

func (b *WireSaid) check() error {
	return errors.Join(ids("wire", b.Wire, "colour", b.Colour), counted(b.Tag), texts(b.Stripe, b.Route))
}

func (b *WireSaid) apply(g *folder, f *Fact) {
	if !knownLead(g, b.Wire) {
		g.raise("loose-fact", b.Wire, f)
		return
	}
	g.Wires[b.Wire] = append(g.Wires[b.Wire], f)
	g.vague(f, b.Route)
}

func (b *WireSaid) subject() string { return b.Wire }

func (b *WireSaid) says(n named.Names) string {
	if b.Tag > 0 {
		return fmt.Sprintf("tag %d on %s", b.Tag, english.Lower(n.On(b.Wire)))
	}
	return "lead is " + b.Words()
}

// WireConfirmed: a lead is back on a terminal.
type WireConfirmed struct {
	Wire string `json:"wire"`
	On   string `json:"on"`
	Tug  bool   `json:"tug,omitempty"`
}

func (b *WireConfirmed) check() error { return ids("wire", b.Wire, "on", b.On) }

func (b *WireConfirmed) apply(g *folder, f *Fact) {
	if !knownLead(g, b.Wire) {
		g.raise("loose-fact", b.Wire, f)
		return
	}
	g.vague(f, b.On)
	item, _, _ := strings.Cut(b.Wire, "/")
	for i := len(g.Turns) - 1; i >= 0; i-- {
		mv := g.Map.Move(g.Turns[i].Move)
		if mv != nil && mv.Takes[item] == machine.Away && len(g.Turns[i].Outs) > 0 {
			g.Turns[i].Wires[b.Wire] = f
			g.Turns[i].Half["back"] = true
			return
		}
	}
	r := g.raise("hangs", f.ID, f)
	r.Other = b.Wire
}

func (b *WireConfirmed) subject() string { return b.Wire }

func (b *WireConfirmed) says(n named.Names) string {
	return "lead on, " + english.Lower(n.Item(named.Head(b.Wire)))
}

// LeadMoved: one lead from an old terminal to a new one.
type LeadMoved struct {
	From  string `json:"from"`
	To    string `json:"to"`
	Proof string `json:"proof,omitempty"`
}

func (b *LeadMoved) check() error {
	return errors.Join(ids("from", b.From, "to", b.To), texts(b.Proof))
}

func (b *LeadMoved) apply(g *folder, f *Fact) {
	g.Leads = append(g.Leads, f)
	g.vague(f, b.To)
}

func (b *LeadMoved) subject() string         { return b.From }
func (b *LeadMoved) says(named.Names) string { return "lead on " + b.To + " of the new one" }

// Words are the colours of a lead as they were said.
func (b *WireSaid) Words() string {
	if b.Stripe != "" {
		return b.Colour + " with " + b.Stripe
	}
	return b.Colour
}

// knownLead tells whether the map, or a rung of their own, has that lead.
func knownLead(g *folder, wire string) bool {
	item, terminal, _ := strings.Cut(wire, "/")
	it := g.Whole.Item(item)
	return it != nil && (terminal == lead.Whole || slices.ContainsFunc(it.Wires, func(w machine.Wire) bool { return w.Terminal == terminal }))
}
