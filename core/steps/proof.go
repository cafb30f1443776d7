package steps

import (
	"encoding/json"
	"maps"
	"slices"
	"strings"

	"evensteps/core/energy"
	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// Proving is a proof as far as it is typed: what is still to be done, and what
// Done would record.
type Proving struct {
	Proof ProofAsk   `json:"proof"`
	Done  view.Touch `json:"done"`
	// Why says what the proof shows so far; empty while something is missing.
	Why string `json:"why"`
	Off bool   `json:"off"`
}

// proving is an energy with the move whose ways it is proven in.
type proving struct {
	energy *machine.Energy
	move   *machine.Move
	on     string
}

// proofAsk is what a proof asks for, with what is typed of it so far.
func proofAsk(sc *scene.Scene, p proving, d energy.Draft) (*ProofAsk, energy.Ask, energy.Rating) {
	ways := energy.Offered(p.energy, p.move, sc.FlameSeen(p.energy.ID))
	out := &ProofAsk{Energy: p.energy.ID, Name: p.energy.Name, On: p.on, Ways: []WayOf{}, Steps: []energy.ProofStep{}}
	for _, w := range ways {
		out.Ways = append(out.Ways, WayOf{w, energy.Names[w]})
	}
	if len(ways) > 0 {
		out.Way = ways[0]
	}
	if slices.Contains(ways, d["way"]) {
		out.Way = d["way"]
	}
	a := energy.For(p.energy, sc.Map.Supply, out.Way, p.move.ProveAt)
	rating := sc.Rating(d["meter"], sc.Now)
	out.Steps = a.Steps(d, rating)
	if p.energy.Kind == "mains" && out.Way == energy.Meter {
		out.Note = energy.Colours(sc.Map.Supply)
		if plate := energy.Plate(sc.Map.Supply); plate != "" {
			out.Note = "The plate asks for " + plate + ". " + out.Note
		}
	}
	if c := p.energy.Capacitor; c != nil {
		out.Note = energy.Says(c)
	}
	if mv := sc.Map.Move(p.on); mv != nil && mv.MeasureFirst == p.energy.ID {
		out.Note = strings.TrimSpace("Measure here first, before your hands go in. " + out.Note)
	}
	out.Note = english.Sentences(sc.Overdue(d["meter"], sc.Now), out.Note)
	return out, a, rating
}

// provingOf is what a move proves, or measures first; nil where it does neither.
func provingOf(sc *scene.Scene, mv *machine.Move) *proving {
	for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
		if e := sc.Map.Energy(id); e != nil && mv.Takes[id] == machine.Proven {
			return &proving{energy: e, move: mv, on: mv.ID}
		}
	}
	if e := sc.Map.Energy(mv.MeasureFirst); e != nil {
		return &proving{energy: e, on: mv.ID, move: &machine.Move{ID: mv.ID, ProveAt: mv.ProveAt, Proof: machine.Values{energy.Meter}}}
	}
	return nil
}

// provingAfter is the energy that a check sets live and that has to be proven off
// again for what still comes back; nil where there is none.
func provingAfter(sc *scene.Scene, c *machine.Check) *proving {
	for i := range sc.Map.Energies {
		e := &sc.Map.Energies[i]
		p := sc.Proofs[e.ID]
		if c.Energy[e.ID] != machine.Live || p == nil || !p.Stands || levelAfter(sc, c, e.ID) != machine.Proven {
			continue
		}
		mv := sc.Map.Move(p.Move)
		if mv == nil {
			mv = &machine.Move{Proof: machine.Values{energy.Meter}}
		}
		return &proving{energy: e, move: mv, on: c.ID}
	}
	return nil
}

// levelAfter is the level that the refits still to come after a check need of an
// energy; live where they need nothing of it.
func levelAfter(sc *scene.Scene, c *machine.Check, id string) machine.Level {
	need, after := machine.Live, false
	for _, s := range sc.WayBack() {
		if s.Check == c.ID {
			after = true
			continue
		}
		mv := sc.Map.Move(s.Undo)
		if !after || mv == nil {
			continue
		}
		if _, its := mv.Takes[id]; its {
			break // it is live from there on
		}
		if slices.Contains(sc.Map.Guards(mv.LiveOK), id) {
			return machine.Proven
		}
		if l := sc.Map.BackNeeds(mv)[id]; l.Rank() > need.Rank() {
			need = l
		}
	}
	return need
}

// prove puts a proof's steps on a side, and what Done lacks until they are done.
func prove(sc *scene.Scene, s *Side, p *proving, d energy.Draft) *Proving {
	if p == nil || s.Done == nil {
		return nil
	}
	ask, a, rating := proofAsk(sc, *p, d)
	s.Proof = ask
	out := &Proving{Proof: *ask, Done: *s.Done}
	touch := &out.Done
	open := a.Open(d, rating)
	proof := a.Of(d)
	j := a.Judge(proof, rating)
	said := touch.Says
	switch {
	case ask.Way == energy.InHand:
		touch.Says = "the plug is in your hand and in sight"
		out.Off = true
	case len(open) > 0:
		touch.Says = "with what you write down"
		touch.Open = append(slices.Clone(touch.Open), open...)
	case !j.Off && j.Missing:
		touch.Open = append(slices.Clone(touch.Open), j.Why)
	case !j.Off:
		out.Why = j.Why
		touch.Label, touch.Says = "Record it: not dead yet", j.Why
	default:
		out.Why, out.Off = j.Why, true
		touch.Says = j.Highest
		if j.Note != "" {
			touch.Says += ". " + j.Note
		}
	}
	if said != "" && !provesItself(sc, p) {
		touch.Says = said + ", " + touch.Says
	}
	for i, m := range touch.Makes {
		touch.Makes[i] = withProof(m, p, &proof)
	}
	s.Done = touch
	return out
}

// provesItself tells whether the step is the proof itself, not one that measures
// besides.
func provesItself(sc *scene.Scene, p *proving) bool {
	mv := sc.Map.Move(p.on)
	return mv != nil && mv.Takes[p.energy.ID] == machine.Proven
}

// withProof puts a proof into what a touch records.
func withProof(m view.Make, p *proving, proof *record.Proof) view.Make {
	var body map[string]any
	if m.Kind != "rung.out" && m.Kind != "check.result" || json.Unmarshal(m.Body, &body) != nil {
		return m
	}
	if m.Kind == "check.result" {
		body["proofs"] = map[string]any{p.energy.ID: proof}
	} else {
		body["proof"] = proof
	}
	return view.Made(m.Kind, body)
}
