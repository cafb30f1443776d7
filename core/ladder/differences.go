package ladder

import (
	"fmt"
	"strings"

	"evensteps/core/lead"
	"evensteps/core/machine"
	"evensteps/core/record"
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

func (v *viewing) lotName(id string) string { return tray.KindName(v.lotKind(id)) }

// differences are those that somebody wrote down, and those that follow from a
// count, a lead's colour or a rung of the technician's own.
func (v *viewing) differences() {
	out := []Differs{}
	for _, f := range v.Differs {
		b := f.Of.(*record.Difference)
		out = append(out, Differs{b.On, v.onName(b.On), b.Says, b.Is, v.name(f.By)})
	}
	for _, t := range v.Turns {
		mv := v.Map.Move(t.Move)
		if mv == nil {
			continue
		}
		for i := range mv.Fasteners {
			l := &mv.Fasteners[i]
			id := lotID(mv, i)
			for _, person := range sorted(t.Counts[id+"|out"]) {
				f := t.Counts[id+"|out"][person]
				if n := f.Of.(*record.LotCounted).Count; n != l.Count {
					noun := tray.Noun(v.lotKind(id))
					out = append(out, Differs{id, v.onName(id), count(l.Count, noun), count(n, noun), v.name(f.By)})
				}
			}
		}
	}
	for _, wire := range sorted(v.Wires) {
		facts := v.Wires[wire]
		f := facts[len(facts)-1]
		b := f.Of.(*record.WireSaid)
		w := v.mapWire(wire)
		said := machine.Wire{Colour: b.Colour, Stripe: b.Stripe}
		if w != nil && b.Colour != lead.Whole && !lead.Alike(*w, said) && w.Colour != "" {
			out = append(out, Differs{wire, v.onName(wire), lead.Colours(*w), lead.Colours(said), v.name(f.By)})
		}
	}
	for _, id := range sorted(v.OwnRungs) {
		f := v.OwnRungs[id]
		b := f.Of.(*record.RungOwn)
		is := []string{"on the " + b.Face}
		for _, l := range b.Lots {
			is = append(is, fmt.Sprintf("%d %s", l.Count, tray.KindName(&machine.Fastener{Name: l.Drive, Drive: l.Drive, Size: l.Size, Length: l.Length})))
		}
		out = append(out, Differs{id, b.Title, "not in the map", strings.Join(is, ", "), v.name(f.By)})
	}
	v.view.Differences = out
}

// mapWire is a lead as the map has it, nil where it does not know it.
func (v *viewing) mapWire(wire string) *machine.Wire {
	it := v.Map.Item(moveOf(wire))
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
