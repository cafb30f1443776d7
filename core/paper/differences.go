package paper

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/lead"
	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/tray"
)

// Differs is one thing that was found other than the map says. It belongs to
// the job at once and is kept for the map.
type Differs struct {
	On   string `json:"on"`
	What string `json:"what"`
	Says string `json:"says"` // what the map says
	Is   string `json:"is"`
	By   string `json:"by"`
}

// Differences are those that somebody wrote down, and those that follow from a
// count, a lead's colour or a rung of the technician's own.
func Differences(sc *scene.Scene) []Differs {
	out := []Differs{}
	for _, f := range sc.Differs {
		b := f.Of.(*record.Difference)
		out = append(out, Differs{b.On, sc.Names.On(b.On), b.Says, b.Is, sc.Name(f.By)})
	}
	for _, t := range sc.Turns {
		mv := sc.Map.Move(t.Move)
		if mv == nil {
			continue
		}
		for i := range mv.Fasteners {
			l := &mv.Fasteners[i]
			id := named.LotID(mv, i)
			for _, person := range slices.Sorted(maps.Keys(t.Counts[id+"|out"])) {
				f := t.Counts[id+"|out"][person]
				if n := f.Of.(*record.LotCounted).Count; n != l.Count {
					noun := tray.Noun(sc.Names.Kind(id))
					out = append(out, Differs{id, sc.Names.On(id), english.Count(l.Count, noun), english.Count(n, noun), sc.Name(f.By)})
				}
			}
		}
	}
	for _, wire := range slices.Sorted(maps.Keys(sc.Wires)) {
		facts := sc.Wires[wire]
		f := facts[len(facts)-1]
		b := f.Of.(*record.WireSaid)
		w := mapWire(sc, wire)
		said := machine.Wire{Colour: b.Colour, Stripe: b.Stripe}
		if w != nil && b.Colour != lead.Whole && !lead.Alike(*w, said) && w.Colour != "" {
			out = append(out, Differs{wire, sc.Names.On(wire), lead.Colours(*w), lead.Colours(said), sc.Name(f.By)})
		}
	}
	for _, id := range slices.Sorted(maps.Keys(sc.OwnRungs)) {
		f := sc.OwnRungs[id]
		b := f.Of.(*record.RungOwn)
		is := []string{"on the " + b.Face}
		for _, l := range b.Lots {
			is = append(is, fmt.Sprintf("%d %s", l.Count, tray.KindName(&machine.Fastener{Name: l.Drive, Drive: l.Drive, Size: l.Size, Length: l.Length})))
		}
		out = append(out, Differs{id, b.Title, "not in the map", strings.Join(is, ", "), sc.Name(f.By)})
	}
	return out
}

// mapWire is a lead as the map has it, nil where it does not know it.
func mapWire(sc *scene.Scene, wire string) *machine.Wire {
	it := sc.Map.Item(named.Head(wire))
	if it == nil {
		return nil
	}
	for i := range it.Wires {
		if it.ID+"/"+it.Wires[i].Terminal == wire {
			return &it.Wires[i]
		}
	}
	return nil
}
