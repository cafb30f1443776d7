package steps

import (
	"fmt"
	"slices"

	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/reading"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// EarthPath is the way from the frame to the earth pin: nothing else shows that it
// is broken before somebody is hurt. It may be left out.
func EarthPath(sc *scene.Scene) view.Line {
	l := EarthLine(named.EarthPath, "The frame to the earth pin", sc.Readings[named.EarthPath])
	l.May = true
	return l
}

// linesOut are what is recorded and put in on the way in.
func linesOut(sc *scene.Scene, mv *machine.Move, t *record.Turn) []view.Line {
	lines := []view.Line{}
	for _, r := range mv.Record {
		id := mv.ID + "/" + r.ID
		l := view.Line{Line: id, Kind: "record", Say: r.Ask, Ask: sc.Units().Example(reading.Quantity(r.Quantity)), Tick: view.Made("recorded", map[string]string{"record": id}), Or: []view.Choice{}}
		if l.Ask == "" {
			l.Ask = "in your words"
		}
		if f := sc.Records[id]; f != nil && (t == nil || len(t.Outs) == 0 || t.Back == nil) {
			l.Value, l.Event, l.Ticked = f.Of.(*record.Recorded).Value, f.ID, true
			q := reading.Quantity(r.Quantity)
			if _, err := reading.Parse(q, l.Value); q.Unit() != "" && err != nil {
				l.Ticked, l.Bad, l.Said = false, true, err.Error()
			} else if other := sc.Units().InTheOther(q, l.Value); other != "" {
				l.Said = "that is " + other
			}
		}
		lines = append(lines, l)
	}
	for _, p := range mv.PutsIn {
		l := view.Line{
			Line: p.ID, Kind: "temporary", Say: p.Name + " is in", Tick: view.Made("temporary.in", map[string]string{"temporary": p.ID}),
			Or: []view.Choice{{Label: "Not used", Makes: []view.Make{view.Made("temporary.out", map[string]string{"temporary": p.ID})}}},
		}
		if said := sc.Temp(p.ID); said != nil && (t == nil || t.Back == nil) {
			l.Ticked = true
			if said.In != nil {
				l.Event = said.In.ID
			} else {
				l.Event, l.Said = said.Out.ID, "not used"
			}
			l.Or = []view.Choice{}
		}
		if mm := Cut(sc, p); mm > 0 {
			l.Said = "Cut it to " + sc.Units().Say(reading.Length, mm) + "."
		}
		lines = append(lines, l)
	}
	return lines
}

// LinesBack are what must be so before a refit counts as done.
func LinesBack(sc *scene.Scene, mv *machine.Move, t *record.Turn) []view.Line {
	lines := []view.Line{}
	for _, temp := range sc.Temps {
		if !temp.Inside() || !slices.Contains(OutBefore(sc, temp.ID), mv.ID) {
			continue
		}
		lines = append(lines, view.Line{Line: temp.ID, Kind: "temporary", Say: temp.Name + " is out", Tick: view.Made("temporary.out", TemporaryOf(temp)), Or: []view.Choice{}})
	}
	if mv.Back != nil {
		for k, c := range mv.Back.Confirm {
			lines = append(lines, confirm(sc, mv, t, k, c))
		}
	}
	for i := range sc.Map.Items {
		it := &sc.Map.Items[i]
		if !it.Earth || mv.Takes[it.ID] == "" {
			continue
		}
		var read *record.Fact
		if t != nil {
			read = t.Earths[it.ID]
		}
		lines = append(lines, EarthLine("earth:"+it.ID, it.Name+" to the frame", read))
	}
	return lines
}

// EarthLine is an earth to be measured, with its reading where there is one: one
// that came off and is back, or the way from the frame to the earth pin.
func EarthLine(id, say string, read *record.Fact) view.Line {
	l := view.Line{Line: id, Kind: "earth", Say: say, Ask: "0.1 ohm", Said: "Asked: " + EarthLimit.Say() + ", the leads taken off.", Tick: view.Made("reading.taken", map[string]string{"test": id}), Or: []view.Choice{}}
	if read != nil {
		l.Value, l.Event = read.Of.(*record.ReadingTaken).Value, read.ID
		l.Ticked, l.Said = Earth(read)
		l.Bad = !l.Ticked
	}
	return l
}

// Earth judges the reading of an earth that came off, its leads taken off.
func Earth(f *record.Fact) (ok bool, why string) {
	b := f.Of.(*record.ReadingTaken)
	leads := ""
	if b.Leads != nil {
		leads = *b.Leads
	}
	return EarthLimit.Judge(b.Value, leads)
}

// EarthLimit is what an earth may read where the map says nothing else.
var EarthLimit = reading.Limits{Quantity: reading.Resistance, Low: 0, High: reading.EarthOhms}

// confirm is one confirmation of a refit: ticked, or its value judged.
func confirm(sc *scene.Scene, mv *machine.Move, t *record.Turn, k int, c machine.Confirm) view.Line {
	id := fmt.Sprintf("%s/confirm/%d", mv.ID, k+1)
	l := view.Line{Line: id, Kind: "confirm", Say: c.Say, Tick: view.Made("confirmed", map[string]string{"confirm": id}), Or: []view.Choice{}}
	quantity, was := recorded(sc, mv, c.SameAs)
	limits, err := reading.Within(c.Expect, reading.Setting{Units: sc.Units()})
	measured := err == nil
	switch {
	case c.SameAs != "":
		l.Ask, l.Was = sc.Units().Example(quantity), was
		if other := sc.Units().InTheOther(quantity, was); other != "" {
			l.Said = "came off at " + was + ", that is " + other
		}
		if l.Ask == "" {
			l.Ask = "in your words"
		}
	case measured:
		l.Ask, l.Said = sc.Units().Example(limits.Quantity), "Asked: "+limits.Say()+"."
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
		l.Ticked, l.Said = sc.Units().SameAs(quantity, was, l.Value, c.Within)
	case measured:
		l.Ticked, l.Said = limits.Judge(l.Value, "")
	default:
		l.Ticked = true
	}
	l.Bad = !l.Ticked
	return l
}

// recorded is what stands for a same_as: of the move itself, or of another.
func recorded(sc *scene.Scene, mv *machine.Move, id string) (reading.Quantity, string) {
	find := func(m *machine.Move) (reading.Quantity, string, bool) {
		for _, r := range m.Record {
			if r.ID == id {
				value := ""
				if f := sc.Records[m.ID+"/"+id]; f != nil {
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
	for i := range sc.Map.Moves {
		if q, value, ok := find(&sc.Map.Moves[i]); ok {
			if quantity = q; value != "" {
				return q, value
			}
		}
	}
	return quantity, ""
}

func OutBefore(sc *scene.Scene, id string) []string {
	if p := sc.Map.Temporary(id); p != nil {
		return p.OutBefore
	}
	if t := sc.Temp(id); t != nil && t.In != nil {
		if b := t.In.Of.(*record.TemporaryIn); b.Before != "" {
			return []string{b.Before}
		}
	}
	return nil
}

// TemporaryOf is the body that speaks of a temporary, the map's or one of their own.
func TemporaryOf(t *record.Temp) map[string]string {
	if t.Name == t.ID {
		return map[string]string{"name": t.Name}
	}
	return map[string]string{"temporary": t.ID}
}

// Cut is the length of a temporary in millimetres, 0 where it is not cut or
// what it is cut from is not recorded.
func Cut(sc *scene.Scene, p machine.Temporary) float64 {
	if p.Cut == nil {
		return 0
	}
	for i := range sc.Map.Moves {
		mv := &sc.Map.Moves[i]
		for _, r := range mv.Record {
			f := sc.Records[mv.ID+"/"+r.ID]
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
