package ladder

import (
	"fmt"
	"slices"

	"evensteps/core/machine"
	"evensteps/core/reading"
	"evensteps/core/record"
)

// Line is one thing that is ticked or given its value before a side counts as
// done: a confirmation, a record, a temporary counted in or out, an earth.
type Line struct {
	Line   string   `json:"line"`   // its id: MOVE/confirm/N, MOVE/ID, a temporary, earth:ITEM
	Kind   string   `json:"kind"`   // confirm, record, temporary, earth
	Say    string   `json:"say"`    // what must be so
	Ask    string   `json:"ask"`    // how a value is written; empty where it is ticked
	Was    string   `json:"was"`    // what was recorded on the way in
	Value  string   `json:"value"`  // what is recorded
	Said   string   `json:"said"`   // what the core says of it
	Ticked bool     `json:"ticked"` // recorded, and as it must be
	May    bool     `json:"may"`    // it may be left out
	Bad    bool     `json:"bad"`    // recorded, and not as it must be
	Event  string   `json:"event"`  // the fact that recorded it
	Tick   Make     `json:"tick"`   // what a touch records; a value goes into its body
	Into   string   `json:"into"`   // the field of the body that takes the value; empty for value
	Or     []Choice `json:"or"`     // what else may be so
}

func openLines(lines []Line) (open []string) {
	for _, l := range lines {
		if !l.Ticked && (!l.May || l.Bad) {
			open = append(open, lower(l.Say))
		}
	}
	return open
}

// linesOut are what is recorded and put in on the way in.
func (v *viewing) linesOut(mv *machine.Move, t *record.Turn) []Line {
	lines := []Line{}
	for _, r := range mv.Record {
		id := mv.ID + "/" + r.ID
		l := Line{Line: id, Kind: "record", Say: r.Ask, Ask: v.units().Example(reading.Quantity(r.Quantity)), Tick: made("recorded", map[string]string{"record": id}), Or: []Choice{}}
		if l.Ask == "" {
			l.Ask = "in your words"
		}
		if f := v.Records[id]; f != nil && (t == nil || len(t.Outs) == 0 || t.Back == nil) {
			l.Value, l.Event, l.Ticked = f.Of.(*record.Recorded).Value, f.ID, true
			q := reading.Quantity(r.Quantity)
			if _, err := reading.Parse(q, l.Value); q.Unit() != "" && err != nil {
				l.Ticked, l.Bad, l.Said = false, true, err.Error()
			} else if other := reading.InTheOther(q, l.Value); other != "" {
				l.Said = "that is " + other
			}
		}
		lines = append(lines, l)
	}
	for _, p := range mv.PutsIn {
		l := Line{
			Line: p.ID, Kind: "temporary", Say: p.Name + " is in", Tick: made("temporary.in", map[string]string{"temporary": p.ID}),
			Or: []Choice{{Label: "Not used", Makes: []Make{made("temporary.out", map[string]string{"temporary": p.ID})}}},
		}
		if said := v.Temp(p.ID); said != nil && (t == nil || t.Back == nil) {
			l.Ticked = true
			if said.In != nil {
				l.Event = said.In.ID
			} else {
				l.Event, l.Said = said.Out.ID, "not used"
			}
			l.Or = []Choice{}
		}
		if mm := v.cut(p); mm > 0 {
			l.Said = "Cut it to " + reading.Say(reading.Length, mm) + "."
		}
		lines = append(lines, l)
	}
	return lines
}

// linesBack are what must be so before a refit counts as done.
func (v *viewing) linesBack(mv *machine.Move, t *record.Turn) []Line {
	lines := []Line{}
	for _, temp := range v.Temps {
		if !temp.Inside() || !slices.Contains(v.outBefore(temp.ID), mv.ID) {
			continue
		}
		lines = append(lines, Line{Line: temp.ID, Kind: "temporary", Say: temp.Name + " is out", Tick: made("temporary.out", named(temp)), Or: []Choice{}})
	}
	if mv.Back != nil {
		for k, c := range mv.Back.Confirm {
			lines = append(lines, v.confirm(mv, t, k, c))
		}
	}
	for i := range v.Map.Items {
		it := &v.Map.Items[i]
		if !it.Earth || mv.Takes[it.ID] == "" {
			continue
		}
		var read *record.Fact
		if t != nil {
			read = t.Earths[it.ID]
		}
		lines = append(lines, earthLine("earth:"+it.ID, it.Name+" to the frame", read))
	}
	return lines
}

// earthLine is an earth to be measured, with its reading where there is one: one
// that came off and is back, or the way from the frame to the earth pin.
func earthLine(id, say string, read *record.Fact) Line {
	l := Line{Line: id, Kind: "earth", Say: say, Ask: "0.1 ohm", Said: "Asked: " + earthLimit.Say() + ", the leads taken off.", Tick: made("reading.taken", map[string]string{"test": id}), Or: []Choice{}}
	if read != nil {
		l.Value, l.Event = read.Of.(*record.ReadingTaken).Value, read.ID
		l.Ticked, l.Said = earth(read)
		l.Bad = !l.Ticked
	}
	return l
}

// earth judges the reading of an earth that came off, its leads taken off.
func earth(f *record.Fact) (ok bool, why string) {
	b := f.Of.(*record.ReadingTaken)
	leads := ""
	if b.Leads != nil {
		leads = *b.Leads
	}
	return earthLimit.Judge(b.Value, leads)
}

// earthLimit is what an earth may read where the map says nothing else.
var earthLimit = reading.Limits{Quantity: reading.Resistance, Low: 0, High: reading.EarthOhms}

// confirm is one confirmation of a refit: ticked, or its value judged.
func (v *viewing) confirm(mv *machine.Move, t *record.Turn, k int, c machine.Confirm) Line {
	id := fmt.Sprintf("%s/confirm/%d", mv.ID, k+1)
	l := Line{Line: id, Kind: "confirm", Say: c.Say, Tick: made("confirmed", map[string]string{"confirm": id}), Or: []Choice{}}
	quantity, was := v.recorded(mv, c.SameAs)
	limits, err := reading.Within(c.Expect, reading.Setting{})
	measured := err == nil
	switch {
	case c.SameAs != "":
		l.Ask, l.Was = v.units().Example(quantity), was
		if other := reading.InTheOther(quantity, was); other != "" {
			l.Said = "came off at " + was + ", that is " + other
		}
		if l.Ask == "" {
			l.Ask = "in your words"
		}
	case measured:
		l.Ask, l.Said = v.units().Example(limits.Quantity), "Asked: "+limits.Say()+"."
	}
	if t == nil || t.Confirms[id] == nil {
		return l
	}
	f := t.Confirms[id]
	l.Event, l.Value = f.ID, f.Of.(*record.Confirmed).Value
	switch {
	case c.SameAs != "" && was == "":
		l.Ticked, l.Said = true, "Nothing was recorded on the way in to compare it with."
	case c.SameAs != "":
		l.Ticked, l.Said = reading.SameAs(quantity, was, l.Value, c.Within)
	case measured:
		l.Ticked, l.Said = limits.Judge(l.Value, "")
	default:
		l.Ticked = true
	}
	l.Bad = !l.Ticked
	return l
}

// recorded is what stands for a same_as: of the move itself, or of another.
func (v *viewing) recorded(mv *machine.Move, id string) (reading.Quantity, string) {
	find := func(m *machine.Move) (reading.Quantity, string, bool) {
		for _, r := range m.Record {
			if r.ID == id {
				value := ""
				if f := v.Records[m.ID+"/"+id]; f != nil {
					value = f.Of.(*record.Recorded).Value
				}
				return reading.Quantity(r.Quantity), value, true
			}
		}
		return "", "", false
	}
	if q, value, ok := find(mv); ok {
		return q, value
	}
	var quantity reading.Quantity
	for i := range v.Map.Moves {
		if q, value, ok := find(&v.Map.Moves[i]); ok {
			if quantity = q; value != "" {
				return q, value
			}
		}
	}
	return quantity, ""
}

func (v *viewing) outBefore(id string) []string {
	if p := v.Map.Temporary(id); p != nil {
		return p.OutBefore
	}
	if t := v.Temp(id); t != nil && t.In != nil {
		if b := t.In.Of.(*record.TemporaryIn); b.Before != "" {
			return []string{b.Before}
		}
	}
	return nil
}

// named is the body that speaks of a temporary, the map's or one of their own.
func named(t *record.Temp) map[string]string {
	if t.Name == t.ID {
		return map[string]string{"name": t.Name}
	}
	return map[string]string{"temporary": t.ID}
}

// Cut is how long a temporary that is cut to measure has to be.
type Cut struct {
	Temporary string  `json:"temporary"`
	MM        float64 `json:"mm"`
	Say       string  `json:"say"`
}

// cut is the length of a temporary in millimetres, 0 where it is not cut or
// what it is cut from is not recorded.
func (v *viewing) cut(p machine.Temporary) float64 {
	if p.Cut == nil {
		return 0
	}
	for i := range v.Map.Moves {
		mv := &v.Map.Moves[i]
		for _, r := range mv.Record {
			f := v.Records[mv.ID+"/"+r.ID]
			if r.ID != p.Cut.From || f == nil {
				continue
			}
			from, err := reading.Parse(reading.Length, f.Of.(*record.Recorded).Value)
			add, err2 := reading.Parse(reading.Length, p.Cut.Add)
			if err == nil && err2 == nil {
				return from + add
			}
		}
	}
	return 0
}

// Own is a belonging found inside, and to whom it went.
type Own struct {
	What  string `json:"what"`
	Where string `json:"where"`
	To    string `json:"to"`
}

// inside lists what was put in and is not out, what has to be cut, and what was
// found that is not the company's.
func (v *viewing) inside() {
	w := v.view
	w.Temporaries, w.Cuts, w.Belongings, w.Inside = []string{}, []Cut{}, []Own{}, []Row{}
	for _, t := range v.Temps {
		if t.Inside() {
			w.Temporaries = append(w.Temporaries, t.ID)
			w.Inside = append(w.Inside, Row{What: t.Name, Say: "put in by " + v.name(t.In.By)})
		}
	}
	for i := range v.Map.Moves {
		for _, p := range v.Map.Moves[i].PutsIn {
			if mm := v.cut(p); mm > 0 {
				w.Cuts = append(w.Cuts, Cut{p.ID, mm, reading.Say(reading.Length, mm)})
			}
		}
	}
	for _, f := range v.Belongings {
		b := f.Of.(*record.Belonging)
		w.Belongings = append(w.Belongings, Own{b.What, b.Where, b.To})
		if b.To == "" {
			w.Inside = append(w.Inside, Row{What: b.What, Say: "the customer's"})
		}
	}
}
