package ladder

import (
	"fmt"
	"slices"
	"strings"

	"evensteps/core/lead"
	"evensteps/core/machine"
	"evensteps/core/record"
)

// Plug is the wire card of a connector: its leads, how they are kept apart, and
// what is still to do about them on this side of the rung.
type Plug struct {
	Item  string    `json:"item"`
	Name  string    `json:"name"`
	Keyed bool      `json:"keyed"`
	Rule  lead.Rule `json:"rule"`
	Note  string    `json:"note"` // why that rule
	// OneByOne names the new part whose leads are moved over one at a time.
	OneByOne string   `json:"one_by_one"`
	Picture  bool     `json:"picture"`  // a photo is asked for before it is parted
	Pictured bool     `json:"pictured"` // there is one, or the leads were written down
	Instead  *Make    `json:"instead"`  // what is recorded where there is none
	Wires    []Wire   `json:"wires"`
	Warn     []string `json:"warn"` // what must be settled first
	Open     bool     `json:"open"`
}

// Wire is one lead of a card.
type Wire struct {
	Wire      string   `json:"wire"`
	Terminal  string   `json:"terminal"`
	Colour    string   `json:"colour"` // as last said, or as the map has it
	Stripe    string   `json:"stripe"`
	Says      string   `json:"says"` // both, in words
	Place     string   `json:"place"`
	Also      string   `json:"also"`   // where else this colour is
	Tag       int      `json:"tag"`    // the number of its tag, proposed or written; 0 for none
	Ticked    bool     `json:"ticked"` // on the way out: tagged, or moved over
	Moved     string   `json:"moved"`  // the new part's terminal
	Proof     string   `json:"proof"`  // by what that is known
	Tick      *Make    `json:"tick"`   // what a touch records on the way out
	Confirmed bool     `json:"confirmed"`
	Confirm   *Make    `json:"confirm"` // and on the way back
	Differs   []string `json:"differs"` // what others said of it, where they differ
	Say       *Make    `json:"say"`     // corrects its colour; colour and stripe go into the body
}

// open tells whether something is still to do about the lead.
func (w *Wire) open() bool {
	return w.Tick != nil && !w.Ticked || w.Confirm != nil && !w.Confirmed
}

// label names a lead in few words.
func (w *Wire) label() string {
	if w.Terminal == lead.Whole {
		return "the plug"
	}
	return w.Terminal + " terminal"
}

// connectors are those that a move parts.
func (v *viewing) connectors(mv *machine.Move) []*machine.Item {
	var out []*machine.Item
	for i := range v.Map.Items {
		if it := &v.Map.Items[i]; it.Type == "connector" && mv.Takes[it.ID] == machine.Away {
			out = append(out, it)
		}
	}
	return out
}

// cards looks once at all connectors that are off, or will be, at the same time:
// by what rule each is kept apart, and which tag each lead gets. What was
// written on a tag stays; the others get the next numbers, down the ladder.
func (v *viewing) cards() {
	v.rules, v.tags = map[string]lead.Card{}, map[string]int{}
	type at struct {
		it    *machine.Item
		blind bool
	}
	var apart []at
	var items []*machine.Item
	for _, id := range v.order {
		mv := v.Map.Move(id)
		if mv == nil {
			continue
		}
		for _, it := range v.connectors(mv) {
			if !slices.Contains(items, it) {
				apart, items = append(apart, at{it, mv.Blind}), append(items, it)
			}
		}
	}
	for _, wire := range sorted(v.Wires) {
		for _, f := range v.Wires[wire] {
			if tag := f.Of.(*record.WireSaid).Tag; tag > 0 {
				v.tags[wire] = tag
			}
		}
	}
	used := map[int]bool{}
	for _, tag := range v.tags {
		used[tag] = true
	}
	next := 1
	for _, a := range apart {
		card := lead.For(a.it, items, a.blind)
		v.rules[a.it.ID] = card
		for _, terminal := range card.Tags {
			wire := a.it.ID + "/" + terminal
			if v.tags[wire] > 0 {
				continue
			}
			for used[next] {
				next++
			}
			v.tags[wire], used[next] = next, true
		}
	}
}

// plugsOf are the wire cards of a move on one of its sides.
func (v *viewing) plugsOf(mv *machine.Move, t *record.Turn, side string) []Plug {
	plugs := []Plug{}
	for _, it := range v.connectors(mv) {
		plugs = append(plugs, v.plug(mv, it, t, side))
	}
	return plugs
}

func (v *viewing) plug(mv *machine.Move, it *machine.Item, t *record.Turn, side string) Plug {
	card := v.rules[it.ID]
	p := Plug{Item: it.ID, Name: it.Name, Keyed: it.Keyed, Rule: card.Rule, Note: card.Why, Wires: []Wire{}, Warn: []string{}}
	if side == "out" {
		p.OneByOne = v.movedTo(mv, it.ID)
	}
	wires := it.Wires
	if slices.Contains(card.Tags, lead.Whole) {
		wires = append([]machine.Wire{{Terminal: lead.Whole}}, wires...)
	}
	for _, w := range wires {
		p.Wires = append(p.Wires, v.wire(&p, it, w, card, t, side))
	}
	if side == "out" && card.Rule == lead.Photo && p.OneByOne == "" {
		p.Picture = true
		p.Pictured = v.pictured(it.ID, mv.ID)
		note := made("note", record.Note{Text: "no photo of the leads, written down", On: it.ID})
		p.Instead = &note
	}
	p.Open = p.Picture && !p.Pictured
	for i := range p.Wires {
		w := &p.Wires[i]
		p.Open = p.Open || w.open()
		if len(w.Differs) > 0 {
			p.Warn = append(p.Warn, fmt.Sprintf("Two colours were said for %s: look at it and settle.", w.label()))
		}
	}
	return p
}

func (v *viewing) wire(p *Plug, it *machine.Item, w machine.Wire, card lead.Card, t *record.Turn, side string) Wire {
	id := it.ID + "/" + w.Terminal
	one := Wire{Wire: id, Terminal: w.Terminal, Colour: w.Colour, Stripe: w.Stripe, Tag: v.tags[id], Differs: []string{}}
	for _, f := range v.Wires[id] {
		b := f.Of.(*record.WireSaid)
		if b.Colour != lead.Whole {
			one.Colour, one.Stripe = b.Colour, b.Stripe
		}
		if b.Route != "" {
			one.Place = b.Route
		}
	}
	for _, f := range v.rivals(id) {
		one.Differs = append(one.Differs, upper(v.name(f.By))+": "+leadWords(f.Of.(*record.WireSaid)))
	}
	said := machine.Wire{Colour: one.Colour, Stripe: one.Stripe}
	one.Says = lead.Colours(said)
	if w.Terminal == lead.Whole {
		one.Says = "the whole plug"
	} else {
		one.Also = v.alsoAt(it, said)
		say := made("wire.said", record.WireSaid{Wire: id, Tag: v.written(id)})
		one.Say = &say
	}
	moved := v.moved(id)
	if moved != nil {
		b := moved.Of.(*record.LeadMoved)
		one.Moved, one.Proof = b.To, b.Proof
	}
	if side == "out" {
		switch {
		case p.OneByOne != "" && w.Terminal != lead.Whole:
			tick := made("lead.moved", record.LeadMoved{From: id})
			one.Tick, one.Ticked = &tick, moved != nil
		case slices.Contains(card.Tags, w.Terminal):
			colour := one.Colour
			if colour == "" {
				colour = "not known"
			}
			if w.Terminal == lead.Whole {
				colour = lead.Whole
			}
			tick := made("wire.said", record.WireSaid{Wire: id, Colour: colour, Stripe: one.Stripe, Tag: one.Tag})
			one.Tick, one.Ticked = &tick, v.written(id) > 0
		}
		return one
	}
	home := v.homeOf(id, w.Terminal)
	if t != nil {
		f := t.Wires[id]
		one.Confirmed = f != nil && f.Of.(*record.WireConfirmed).On == home
	}
	if !it.Keyed || w.Terminal == lead.Whole {
		tick := made("wire.confirmed", record.WireConfirmed{Wire: id, On: home, Tug: true})
		one.Confirm = &tick
	}
	return one
}

// homeOf is the terminal on which a lead belongs: its own, or the one of the new
// part to which it was moved.
func (v *viewing) homeOf(wire, terminal string) string {
	if f := v.moved(wire); f != nil {
		return f.Of.(*record.LeadMoved).To
	}
	return terminal
}

func (v *viewing) moved(wire string) *record.Fact {
	for i := len(v.Leads) - 1; i >= 0; i-- {
		if v.Leads[i].Of.(*record.LeadMoved).From == wire {
			return v.Leads[i]
		}
	}
	return nil
}

// written is the number on a lead's tag, 0 while it has none.
func (v *viewing) written(wire string) int {
	tag := 0
	for _, f := range v.Wires[wire] {
		if n := f.Of.(*record.WireSaid).Tag; n > 0 {
			tag = n
		}
	}
	return tag
}

// pictured tells whether there is a photo of these, or they were written down.
func (v *viewing) pictured(on ...string) bool {
	return slices.ContainsFunc(v.Photos, func(f *record.Fact) bool { return slices.Contains(on, f.Of.(*record.Photo).On) }) ||
		slices.ContainsFunc(v.Notes, func(f *record.Fact) bool { return f.Of.(*record.Note).On == on[0] })
}

// movedTo names the part that is to be fitted in place of one that looks
// different, if these leads are on it: they go over one at a time.
func (v *viewing) movedTo(mv *machine.Move, plug string) string {
	for _, goal := range v.rest {
		part := v.Map.Part(strings.TrimPrefix(goal, "replace:"))
		if part == nil || !part.Unlike {
			continue
		}
		for i := range v.Map.Moves {
			m := &v.Map.Moves[i]
			if m.Takes[part.Item] == machine.Away && (m.ID == mv.ID || m.Needs[plug] == machine.Away) {
				return lower(part.Name)
			}
		}
	}
	return ""
}

// alsoAt says where else on what is apart a lead's colours are.
func (v *viewing) alsoAt(it *machine.Item, w machine.Wire) string {
	if w.Colour == "" || it.Keyed {
		return ""
	}
	for i := range v.Map.Items {
		o := &v.Map.Items[i]
		if _, apart := v.rules[o.ID]; !apart || o.ID == it.ID {
			continue
		}
		for _, other := range o.Wires {
			if lead.Alike(other, w) {
				return "a second " + lead.Colours(w) + " is at " + lower(o.Name)
			}
		}
	}
	return ""
}

// openLeads are what is still to do about leads on this side of a rung.
func openLeads(plugs []Plug) (open []string) {
	for _, p := range plugs {
		if p.Picture && !p.Pictured {
			open = append(open, "a photo of the "+lower(p.Name))
		}
		for i := range p.Wires {
			w := &p.Wires[i]
			switch {
			case !w.open():
			case w.Confirm != nil:
				open = append(open, fmt.Sprintf("%s, %s", lower(p.Name), w.label()))
			case p.OneByOne != "":
				open = append(open, fmt.Sprintf("%s, %s: move it over", lower(p.Name), w.label()))
			default:
				open = append(open, fmt.Sprintf("tag %d on %s, %s", w.Tag, lower(p.Name), w.label()))
			}
		}
	}
	return open
}

// leadSnags are leads passed over, or on another terminal than their own, once
// their rung is back.
func (v *viewing) leadSnags(t *record.Turn, mv *machine.Move, back string, add func(Snag)) {
	for _, p := range v.plugsOf(mv, t, "back") {
		for _, w := range p.Wires {
			f := t.Wires[w.Wire]
			switch {
			case f != nil && !w.Confirmed:
				s := Snag{
					ID: "wire-mismatch:" + w.Wire + ":" + f.ID, Kind: "wire-mismatch", Grade: CountGrade, On: w.Wire, Rung: mv.ID,
					Say: fmt.Sprintf("%s, %s lead: on terminal %s, came off %s.", p.Name, w.Says, f.Of.(*record.WireConfirmed).On, w.Terminal),
					Do:  "Put it on its own terminal and confirm it.",
				}
				if w.Confirm != nil {
					s.Touches = []Touch{{Label: "On " + v.homeOf(w.Wire, w.Terminal) + " now, tugged", Open: []string{}, Makes: []Make{*w.Confirm}, Half: []Make{}}}
				}
				add(s)
			case f == nil && w.Confirm != nil:
				add(Snag{
					ID: "wire-unconfirmed:" + w.Wire + ":" + back, Kind: "wire-unconfirmed", Grade: CountGrade, On: w.Wire, Rung: mv.ID,
					Say: fmt.Sprintf("%s, %s: not confirmed.", p.Name, w.label()), Do: "Look, tug, and tick it.",
					Touches: []Touch{{Label: "On and tugged", Open: []string{}, Makes: []Make{*w.Confirm}, Half: []Make{}}},
				})
			}
		}
	}
}

// rivals are what was said of a lead, each saying once, while they differ: until
// somebody who has seen all says again what one of them said.
func (v *viewing) rivals(wire string) []*record.Fact {
	var rivals []*record.Fact
	for _, f := range v.Wires[wire] {
		same := func(o *record.Fact) bool { return sameLead(o.Of.(*record.WireSaid), f.Of.(*record.WireSaid)) }
		switch {
		case len(rivals) == 1 && (same(rivals[0]) || rivals[0].By == f.By && v.asTheMapSays(rivals[0])):
			// The same again, or what was ticked as the map says, looked at more closely.
			rivals = []*record.Fact{f}
		case slices.ContainsFunc(rivals, same) && v.sawAll(f, rivals):
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
func (v *viewing) asTheMapSays(f *record.Fact) bool {
	b := f.Of.(*record.WireSaid)
	item, terminal, _ := strings.Cut(b.Wire, "/")
	it := v.Map.Item(item)
	return it != nil && slices.ContainsFunc(it.Wires, func(w machine.Wire) bool {
		return w.Terminal == terminal && strings.EqualFold(w.Colour, b.Colour) && strings.EqualFold(w.Stripe, b.Stripe)
	})
}

// wireSnags: one lead that was called two ways, by two people or by one at two
// times.
func (v *viewing) wireSnags(add func(Snag)) {
	for _, wire := range sorted(v.Wires) {
		rivals := v.rivals(wire)
		if rivals == nil {
			continue
		}
		last := rivals[len(rivals)-1]
		s := Snag{ID: "wire-differs:" + wire + ":" + last.ID, Kind: "wire-differs", Grade: CountGrade, On: wire, Do: "Look at it together, and say which."}
		var says []string
		for _, f := range rivals {
			b := f.Of.(*record.WireSaid)
			says = append(says, fmt.Sprintf("%s says %s", v.name(f.By), leadWords(b)))
			again := *b
			s.Touches = append(s.Touches, Touch{Label: "It is " + leadWords(b), Open: []string{}, Makes: []Make{made("wire.said", again)}, Half: []Make{}})
		}
		item, terminal, _ := strings.Cut(wire, "/")
		s.Say = fmt.Sprintf("%s, %s terminal: %s.", v.itemName(item), terminal, strings.Join(says, ", "))
		add(s)
	}
}

func (v *viewing) sawAll(f *record.Fact, rivals []*record.Fact) bool {
	return !slices.ContainsFunc(rivals, func(o *record.Fact) bool { return o.Device != f.Device && (o.Num == 0 || o.Num > f.Seen) })
}

func sameLead(a, b *record.WireSaid) bool {
	return strings.EqualFold(a.Colour, b.Colour) && strings.EqualFold(a.Stripe, b.Stripe)
}

func leadWords(b *record.WireSaid) string {
	if b.Stripe != "" {
		return b.Colour + " with " + b.Stripe
	}
	return b.Colour
}
