package steps

import (
	"fmt"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/lead"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// open tells whether something is still to do about the lead.
func (w *Wire) open() bool {
	return w.Tick != nil && !w.Ticked || w.Confirm != nil && !w.Confirmed
}

// Label names a lead in few words.
func (w *Wire) Label() string {
	if w.Terminal == lead.Whole {
		return "the connector"
	}
	return w.Terminal + " terminal"
}

// Plugs are the wire cards of a move on one of its sides.
func Plugs(sc *scene.Scene, mv *machine.Move, t *record.Turn, side string) []Plug {
	plugs := []Plug{}
	for _, it := range scene.Connectors(sc, mv) {
		plugs = append(plugs, PlugOf(sc, mv, it, t, side))
	}
	return plugs
}

func PlugOf(sc *scene.Scene, mv *machine.Move, it *machine.Item, t *record.Turn, side string) Plug {
	card := sc.Cards[it.ID]
	p := Plug{Item: it.ID, Name: it.Name, Keyed: it.Keyed, Rule: card.Rule, Note: card.Why, Wires: []Wire{}, Warn: []string{}}
	if side == "out" {
		p.OneByOne = movedTo(sc, mv, it.ID)
	}
	wires := it.Wires
	if slices.Contains(card.Tags, lead.Whole) {
		wires = append([]machine.Wire{{Terminal: lead.Whole}}, wires...)
	}
	for _, w := range wires {
		p.Wires = append(p.Wires, wire(sc, &p, it, w, card, t, side))
	}
	if side == "out" && card.Rule == lead.Photo && p.OneByOne == "" {
		p.Picture = true
		p.Pictured = pictured(sc, it.ID, mv.ID)
		note := view.Made("note", record.Note{Text: "no photo of the leads, written down", On: it.ID})
		p.Instead = &note
	}
	p.Open = p.Picture && !p.Pictured
	for i := range p.Wires {
		w := &p.Wires[i]
		p.Open = p.Open || w.open()
		if len(w.Differs) > 0 {
			p.Warn = append(p.Warn, fmt.Sprintf("Two colours were said for %s: look at it and settle.", w.Label()))
		}
	}
	return p
}

func wire(sc *scene.Scene, p *Plug, it *machine.Item, w machine.Wire, card lead.Card, t *record.Turn, side string) Wire {
	id := it.ID + "/" + w.Terminal
	one := Wire{Wire: id, Terminal: w.Terminal, Colour: w.Colour, Stripe: w.Stripe, Tag: sc.Tags[id], Differs: []string{}}
	for _, f := range sc.Wires[id] {
		b := f.Of.(*record.WireSaid)
		if b.Colour != lead.Whole {
			one.Colour, one.Stripe = b.Colour, b.Stripe
		}
		if b.Route != "" {
			one.Place = b.Route
		}
	}
	for _, f := range Rivals(sc, id) {
		one.Differs = append(one.Differs, english.Upper(sc.Name(f.By))+": "+f.Of.(*record.WireSaid).Words())
	}
	said := machine.Wire{Colour: one.Colour, Stripe: one.Stripe}
	one.Says = lead.Colours(said)
	if w.Terminal == lead.Whole {
		one.Says = "the whole connector"
	} else {
		one.Also = alsoAt(sc, it, said)
		say := view.Made("wire.said", record.WireSaid{Wire: id, Tag: written(sc, id)})
		one.Say = &say
	}
	moved := moved(sc, id)
	if moved != nil {
		b := moved.Of.(*record.LeadMoved)
		one.Moved, one.Proof = b.To, b.Proof
	}
	if side == "out" {
		switch {
		case p.OneByOne != "" && w.Terminal != lead.Whole:
			tick := view.Made("lead.moved", record.LeadMoved{From: id})
			one.Tick, one.Ticked = &tick, moved != nil
		case slices.Contains(card.Tags, w.Terminal):
			colour := one.Colour
			if colour == "" {
				colour = "not known"
			}
			if w.Terminal == lead.Whole {
				colour = lead.Whole
			}
			tick := view.Made("wire.said", record.WireSaid{Wire: id, Colour: colour, Stripe: one.Stripe, Tag: one.Tag})
			one.Tick, one.Ticked = &tick, written(sc, id) > 0
		}
		return one
	}
	home := HomeOf(sc, id, w.Terminal)
	if t != nil {
		f := t.Wires[id]
		one.Confirmed = f != nil && f.Of.(*record.WireConfirmed).On == home
	}
	if !it.Keyed || w.Terminal == lead.Whole {
		tick := view.Made("wire.confirmed", record.WireConfirmed{Wire: id, On: home, Tug: true})
		one.Confirm = &tick
	}
	return one
}

// HomeOf is the terminal on which a lead belongs: its own, or the one of the new
// part to which it was moved.
func HomeOf(sc *scene.Scene, wire, terminal string) string {
	if f := moved(sc, wire); f != nil {
		return f.Of.(*record.LeadMoved).To
	}
	return terminal
}

func moved(sc *scene.Scene, wire string) *record.Fact {
	for i := len(sc.Leads) - 1; i >= 0; i-- {
		if sc.Leads[i].Of.(*record.LeadMoved).From == wire {
			return sc.Leads[i]
		}
	}
	return nil
}

// written is the number on a lead's tag, 0 while it has none.
func written(sc *scene.Scene, wire string) int {
	tag := 0
	for _, f := range sc.Wires[wire] {
		if n := f.Of.(*record.WireSaid).Tag; n > 0 {
			tag = n
		}
	}
	return tag
}

// pictured tells whether there is a photo of these, or they were written down.
func pictured(sc *scene.Scene, on ...string) bool {
	return slices.ContainsFunc(sc.Photos, func(f *record.Fact) bool { return slices.Contains(on, f.Of.(*record.Photo).On) }) ||
		slices.ContainsFunc(sc.Notes, func(f *record.Fact) bool { return f.Of.(*record.Note).On == on[0] })
}

// movedTo names the part that is to be fitted in place of one that looks
// different, if these leads are on it: they go over one at a time.
func movedTo(sc *scene.Scene, mv *machine.Move, plug string) string {
	for _, goal := range sc.Rest {
		part := sc.Map.Part(strings.TrimPrefix(goal, "replace:"))
		if part == nil || !part.Unlike {
			continue
		}
		for i := range sc.Map.Moves {
			m := &sc.Map.Moves[i]
			if m.Takes[part.Item] == machine.Away && (m.ID == mv.ID || m.Needs[plug] == machine.Away) {
				return english.Lower(part.Name)
			}
		}
	}
	return ""
}

// alsoAt says where else on what is apart a lead's colours are.
func alsoAt(sc *scene.Scene, it *machine.Item, w machine.Wire) string {
	if w.Colour == "" || it.Keyed {
		return ""
	}
	for i := range sc.Map.Items {
		o := &sc.Map.Items[i]
		if _, apart := sc.Cards[o.ID]; !apart || o.ID == it.ID {
			continue
		}
		for _, other := range o.Wires {
			if lead.Alike(other, w) {
				return "a second " + lead.Colours(w) + " is at " + english.Lower(o.Name)
			}
		}
	}
	return ""
}

// OpenLeads are what is still to do about leads on this side of a rung.
func OpenLeads(plugs []Plug) (open []string) {
	for _, p := range plugs {
		if p.Picture && !p.Pictured {
			open = append(open, "a photo of the "+english.Lower(p.Name))
		}
		for i := range p.Wires {
			w := &p.Wires[i]
			switch {
			case !w.open():
			case w.Confirm != nil:
				open = append(open, fmt.Sprintf("%s, %s", english.Lower(p.Name), w.Label()))
			case p.OneByOne != "":
				open = append(open, fmt.Sprintf("%s, %s: move it over", english.Lower(p.Name), w.Label()))
			default:
				open = append(open, fmt.Sprintf("tag %d on %s, %s", w.Tag, english.Lower(p.Name), w.Label()))
			}
		}
	}
	return open
}

// Rivals are what was said of a lead, each saying once, while they differ: until
// somebody who has seen all says again what one of them said.
func Rivals(sc *scene.Scene, wire string) []*record.Fact {
	var rivals []*record.Fact
	for _, f := range sc.Wires[wire] {
		same := func(o *record.Fact) bool { return sameLead(o.Of.(*record.WireSaid), f.Of.(*record.WireSaid)) }
		switch {
		case len(rivals) == 1 && (same(rivals[0]) || rivals[0].By == f.By && asTheMapSays(sc, rivals[0])):
			// The same again, or what was ticked as the map says, looked at more closely.
			rivals = []*record.Fact{f}
		case slices.ContainsFunc(rivals, same) && sawAll(sc, f, rivals):
			rivals = []*record.Fact{f}
		default:
			rivals = append(rivals, f)
		}
	}
	if len(rivals) < 2 {
		return nil
	}
	return rivals
}

// asTheMapSays tells whether a lead was said to be as the map has it.
func asTheMapSays(sc *scene.Scene, f *record.Fact) bool {
	b := f.Of.(*record.WireSaid)
	item, terminal, _ := strings.Cut(b.Wire, "/")
	it := sc.Map.Item(item)
	return it != nil && slices.ContainsFunc(it.Wires, func(w machine.Wire) bool {
		return w.Terminal == terminal && strings.EqualFold(w.Colour, b.Colour) && strings.EqualFold(w.Stripe, b.Stripe)
	})
}

func sawAll(sc *scene.Scene, f *record.Fact, rivals []*record.Fact) bool {
	return !slices.ContainsFunc(rivals, func(o *record.Fact) bool { return o.Device != f.Device && (o.Num == 0 || o.Num > f.Seen) })
}

func sameLead(a, b *record.WireSaid) bool {
	return strings.EqualFold(a.Colour, b.Colour) && strings.EqualFold(a.Stripe, b.Stripe)
}
