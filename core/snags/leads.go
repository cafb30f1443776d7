package snags

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/steps"
	"evensteps/core/view"
)

// leadSnags are leads passed over, or on another terminal than their own, once
// their rung is back.
func leadSnags(sc *scene.Scene, t *record.Turn, mv *machine.Move, back string, add func(Snag)) {
	for _, p := range steps.Plugs(sc, mv, t, "back") {
		for _, w := range p.Wires {
			f := t.Wires[w.Wire]
			switch {
			case f != nil && !w.Confirmed:
				s := Snag{
					ID: "wire-mismatch:" + w.Wire + ":" + f.ID, Kind: "wire-mismatch", On: w.Wire, Rung: mv.ID,
					Say: fmt.Sprintf("%s, %s lead: on terminal %s, came off %s.", p.Name, w.Says, f.Of.(*record.WireConfirmed).On, w.Terminal),
					Do:  "Put it on its own terminal and confirm it.",
				}
				if w.Confirm != nil {
					s.Touches = []view.Touch{view.Button("On "+steps.HomeOf(sc, w.Wire, w.Terminal)+" now, tugged", "", *w.Confirm)}
				}
				add(s)
			case f == nil && w.Confirm != nil:
				add(Snag{
					ID: "wire-unconfirmed:" + w.Wire + ":" + back, Kind: "wire-unconfirmed", On: w.Wire, Rung: mv.ID,
					Say: fmt.Sprintf("%s, %s: not confirmed.", p.Name, w.Label()), Do: "Look, tug, and tick it.",
					Touches: []view.Touch{view.Button("On and tugged", "", *w.Confirm)},
				})
			}
		}
	}
}

// wireSnags: one lead that was called two ways, by two people or by one at two
// times.
func wireSnags(sc *scene.Scene, add func(Snag)) {
	for _, wire := range slices.Sorted(maps.Keys(sc.Wires)) {
		rivals := steps.Rivals(sc, wire)
		if rivals == nil {
			continue
		}
		last := rivals[len(rivals)-1]
		s := Snag{ID: "wire-differs:" + wire + ":" + last.ID, Kind: "wire-differs", On: wire, Do: "Look at it together, and say which."}
		var says []string
		for _, f := range rivals {
			b := f.Of.(*record.WireSaid)
			says = append(says, fmt.Sprintf("%s says %s", sc.Name(f.By), b.Words()))
			again := *b
			s.Touches = append(s.Touches, view.Button("It is "+b.Words(), "", view.Made("wire.said", again)))
		}
		item, terminal, _ := strings.Cut(wire, "/")
		s.Say = fmt.Sprintf("%s, %s terminal: %s.", sc.Names.Item(item), terminal, strings.Join(says, ", "))
		add(s)
	}
}
