package snags

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/steps"
	"evensteps/core/view"
)

// stillOff is regular until something was put back that shuts it in.
func stillOff(sc *scene.Scene, id string, add func(Snag)) {
	t := sc.OpenTurn(id)
	s := Snag{Kind: "still-off", On: id, Rung: id, Regular: true, Say: sc.Names.Move(id) + " is out and not back."}
	if t != nil {
		s.ID = "still-off:" + id + ":" + t.Outs[0].ID
	}
	mv := sc.Map.Move(id)
	if mv == nil {
		s.Regular, s.Say, s.Do = false, fmt.Sprintf("%q is out, and this map does not know it.", id), "Put back what came off, and record it."
		add(s)
		return
	}
	without := slices.DeleteFunc(slices.Clone(sc.Standing), func(o string) bool { return o == id })
	at := plan.Levels(sc.Map, without, sc.Found)
	for _, need := range slices.Sorted(maps.Keys(sc.Map.BackNeeds(mv))) {
		if sc.Map.Energy(need) == nil && at[need].Rank() < sc.Map.BackNeeds(mv)[need].Rank() && !neverMet(sc, id, need) {
			s.Regular = false
			s.Say = fmt.Sprintf("%s is off, and %s already covers it.", mv.Name(), english.Lower(sc.Names.Item(need)))
			s.Do = "Open that again, and bring it back."
			break
		}
	}
	add(s)
}

// neverMet tells whether a rung was recorded out though a need of it was met by
// no record; then nothing was shut since.
func neverMet(sc *scene.Scene, id, need string) bool {
	return slices.ContainsFunc(sc.Raised, func(r *record.Raised) bool {
		return r.Kind == "out-of-order" && !r.Done && r.On == id && strings.HasPrefix(r.Other, need+"=")
	})
}

// turnSnags are what one turn leaves open: fasteners that do not add up,
// confirmations and leads passed over.
func turnSnags(sc *scene.Scene, t *record.Turn, add func(Snag)) {
	mv := sc.Map.Move(t.Move)
	if mv == nil {
		return
	}
	out := t.Outs[0].ID
	for i := range mv.Fasteners {
		if l := &mv.Fasteners[i]; !l.Loosen {
			lotSnags(sc, t, mv, i, out, add)
		}
	}
	for i := range sc.Map.Items {
		if it := &sc.Map.Items[i]; it.Earth && mv.Takes[it.ID] != "" {
			earthSnag(sc, t, mv, it, add)
		}
	}
	if t.Back == nil || t.ByEnergy {
		return
	}
	back := t.Back.ID
	for _, l := range steps.LinesBack(sc, mv, t) {
		if l.Kind == "confirm" && !l.Ticked {
			add(unconfirmed(sc, mv, l, back))
		}
	}
	leadSnags(sc, t, mv, back, add)
}

func unconfirmed(sc *scene.Scene, mv *machine.Move, l view.Line, back string) Snag {
	s := Snag{
		ID: "confirm-open:" + l.Line + ":" + back, Kind: "confirm-open", On: l.Line, Rung: mv.ID,
		Say: fmt.Sprintf("%s: not confirmed that %s.", mv.Name(), english.Lower(l.Say)), Do: "Look, and tick it.",
	}
	if l.Ask == "" {
		s.Touches = []view.Touch{view.Button("It is so", "", l.Tick)}
	}
	if l.Ask != "" {
		s.Do, s.Line = "Measure it.", &l
	}
	if l.Bad {
		s.ID, s.Kind = "confirm-failed:"+l.Line+":"+l.Event, "confirm-failed"
		s.Say, s.Do = fmt.Sprintf("%s, %s: %s", mv.Name(), english.Lower(l.Say), l.Said), "Put it right and measure again, or say why it may stay."
	}
	return s
}

// earthSnag: an earth that came off is counted back by its reading.
func earthSnag(sc *scene.Scene, t *record.Turn, mv *machine.Move, it *machine.Item, add func(Snag)) {
	s := Snag{
		ID: "earth-unmeasured:" + it.ID + ":" + t.Outs[0].ID, Kind: "earth-unmeasured", On: it.ID, Rung: mv.ID, Regular: t.Back == nil,
		Say: fmt.Sprintf("%s came off, and its way to the frame is not measured.", it.Name), Do: "Measure it: " + steps.EarthLimit.Say() + ", the leads taken off.",
	}
	l := steps.EarthLine("earth:"+it.ID, it.Name+" to the frame", t.Earths[it.ID])
	s.Line = &l
	if f := t.Earths[it.ID]; f != nil {
		ok, why := steps.Earth(f)
		if ok {
			return
		}
		s.ID, s.Regular, s.Say = "earth-unmeasured:"+it.ID+":"+f.ID, false, it.Name+": "+why
		s.Do = "Clean it, make it fast and measure again."
	}
	add(s)
}

// earthPathSnag: the way from the frame to the earth pin was measured, and is not
// as it must be.
func earthPathSnag(sc *scene.Scene, add func(Snag)) {
	if l := steps.EarthPath(sc); l.Bad {
		add(Snag{ID: "earth-unmeasured:" + l.Line + ":" + l.Event, Kind: "earth-unmeasured", On: l.Line, Say: l.Say + ": " + l.Said, Do: "Find where it is broken, repair it and measure again.", Line: &l})
	}
}

// insideSnags are what must not stay inside: temporaries and belongings.
func insideSnags(sc *scene.Scene, add func(Snag)) {
	for _, t := range sc.Temps {
		if !t.Inside() {
			continue
		}
		s := Snag{
			ID: "temporary-in:" + t.ID + ":" + t.In.ID, Kind: "temporary-in", On: t.ID, Regular: true, Say: t.Name + " is in the machine.", Do: "Take it out and record it.",
			Touches: []view.Touch{view.Button("It is out", "", view.Made("temporary.out", steps.TemporaryOf(t)))},
		}
		for _, id := range steps.OutBefore(sc, t.ID) {
			if turn := sc.TurnOf(id); turn != nil && turn.Back != nil && sc.Later(turn.Back, t.In) {
				s.Regular, s.Rung = false, id
				s.Say = fmt.Sprintf("%s is still in the machine, and %s is back already.", t.Name, english.Lower(sc.Names.Move(id)))
				s.Do = "Open that again and take it out."
			}
		}
		if p := sc.Map.Temporary(t.ID); p != nil && p.Stays == "ask" {
			s.Regular, s.Do = false, "Take it out, or say that it is meant to stay."
		}
		add(s)
	}
	for _, f := range sc.Belongings {
		b := f.Of.(*record.Belonging)
		if b.To != "" {
			continue
		}
		add(Snag{
			ID: "belonging-open:" + english.Lower(b.What) + ":" + f.ID, Kind: "belonging-open", On: b.What, Say: fmt.Sprintf("Found inside: %s.", b.What), Do: "Give it to the customer and record it.",
			Touches: []view.Touch{view.Button("Given to the customer", "", view.Made("belonging", record.Belonging{What: b.What, Where: b.Where, To: "customer"}))},
		})
	}
}

func checkSnags(sc *scene.Scene, id string, st *record.CheckState, add func(Snag)) {
	c := sc.Map.Check(id)
	if c == nil || len(st.Since) == 0 && st.Failed == nil {
		return
	}
	s := Snag{ID: "check-due:" + id + ":" + strings.Join(st.Since, ","), Kind: "check-due", On: id, Rung: id, Regular: true, Say: c.Title, Do: c.Pass}
	if st.Failed != nil {
		s.ID, s.Kind, s.Regular = "check-failed:"+id+":"+st.Failed.ID, "check-failed", false
		s.Say, s.Do = c.Title+": it failed.", "Find out why, fix it, and make it again."
	}
	if len(st.Lost) > 0 {
		if s.Kind == "check-due" {
			s.Regular = false
			s.Say = fmt.Sprintf("%s was left out, and %s is back already.", c.Title, english.Lower(sc.Names.Move(st.Lost[0])))
			s.Do = "Open that again and make it, or record it as passed with the reason."
		}
		add(Snag{
			ID: "check-place-lost:" + id + ":" + strings.Join(st.Lost, ","), Kind: "check-place-lost", On: id, Rung: id,
			Say: fmt.Sprintf("%s belongs before %s, which was put back first.", c.Title, english.Lower(sc.Names.Move(st.Lost[0]))), Do: "The plan opens it again.",
		})
	}
	add(s)
}
