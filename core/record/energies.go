package record

import (
	"maps"
	"slices"
	"time"

	"evensteps/core/energy"
	"evensteps/core/machine"
)

// Energies: proven off, restored, set live.

// Rating is what is known of a meter: by the company's list, or by what was read
// off it once on this job.
func (s *State) Rating(meter string, at time.Time) energy.Rating {
	if s.company.Meter != nil {
		if r := s.company.Meter(meter, at); r != (energy.Rating{}) {
			return r
		}
	}
	return s.meters[meter]
}

// FlameSeen tells whether a flame was seen burning as the gas was shut.
func (s *State) FlameSeen(id string) bool {
	for _, t := range s.Turns {
		mv := s.Map.Move(t.Move)
		if mv == nil || mv.Takes[id] != machine.Shut || !t.Open() {
			continue
		}
		for _, f := range t.Outs {
			if b, is := f.Of.(interface{ brings() *Proof }); is && b.brings() != nil && b.brings().Flame == "seen" {
				return true
			}
		}
	}
	return false
}

// Judge judges a proof of an energy at a moment, in the ways that its move has.
func (s *State) Judge(mv *machine.Move, id string, p *Proof, at time.Time) energy.Judgement {
	e := s.Map.Energy(id)
	if p == nil {
		return energy.Judgement{Why: "No proof was recorded. Prove it, and record it.", Missing: true}
	}
	if e == nil || !slices.Contains(energy.Offered(e, mv, s.FlameSeen(id)), p.How()) {
		return energy.Judgement{Why: "It cannot be tested off in that way here."}
	}
	return energy.For(e, s.Map.Supply, p.How(), mv.ProveAt).Judge(*p, s.Rating(p.Meter, at))
}

// measuring is a move that proves an energy by meter, whatever its own ways are.
func measuring(id string) *machine.Move {
	return &machine.Move{Takes: map[string]machine.Level{id: machine.Proven}, Proof: machine.Values{energy.Meter}}
}

// meter remembers what was read off a meter.
func (g *folder) meter(p *Proof) {
	if p == nil || p.Meter == "" {
		return
	}
	if r, ok := energy.ReadRating(p.Category); ok {
		g.meters[p.Meter] = r
	}
}

// guard raises the energies that should have been proven and were not.
func (g *folder) guard(on string, energies []string, f *Fact) {
	at := g.Levels()
	for _, id := range energies {
		if at[id] != machine.Proven {
			g.unsafe(on, id, f)
		}
	}
}

func (g *folder) unsafe(on, id string, f *Fact) {
	kind, subject := "guard-unmet", on
	if p := g.Proofs[id]; p != nil && !p.Stands {
		kind, subject = "proof-lapsed", id
	}
	if slices.ContainsFunc(g.Raised, func(r *Raised) bool { return r.By == f && r.Other == id && r.On == subject }) {
		return
	}
	r := g.raise(kind, subject, f)
	r.Other = id
	g.unguarded = append(g.unguarded, r)
}

// measured judges the readings at the first terminals that a move opens. The
// move stands without them, but then it was made unproven.
func (g *folder) measured(mv *machine.Move, p *Proof, f *Fact) {
	id := mv.MeasureFirst
	if g.Map.Energy(id) == nil {
		return
	}
	j := g.Judge(measuring(id), id, p, f.When())
	g.meter(p)
	if !j.Off || g.revoked(f) {
		g.Said[mv.ID] = j.Why
		g.unsafe(mv.ID, id, f)
		return
	}
	if old := g.Proofs[id]; old != nil && old.Stands {
		g.Proofs[id] = &Proven{Fact: f, Proof: p, Move: old.Move, How: p.How(), Highest: j.Highest, Note: j.Note, Stands: true}
	}
}

// proof takes what a prove move brings; the move stands only with its proof.
// Where another device restored the energy and neither had seen the other, the
// more dangerous counts. So it does where somebody took the proof back, whoever
// it was.
func (g *folder) proof(mv *machine.Move, id string, p *Proof, f *Fact) bool {
	j := g.Judge(mv, id, p, f.When())
	g.meter(p)
	switch {
	case j.Off && g.revoked(f):
		j.Off, j.Why = false, "Somebody took this test back. Treat as live, and test again."
	case j.Off && restoredMeanwhile(g, id, f):
		j.Off, j.Why = false, "Somebody restored it meanwhile. Treat as live, and test again."
	}
	if !j.Off {
		g.Said[mv.ID] = j.Why
		return false
	}
	delete(g.SetLive, id)
	g.Proofs[id] = &Proven{Fact: f, Proof: p, Move: mv.ID, How: p.How(), Highest: j.Highest, Note: j.Note, Stands: true}
	for _, r := range g.unguarded {
		if r.Other == id {
			r.Note = true
		}
	}
	g.unguarded = nil
	return true
}

func (g *folder) revoked(f *Fact) bool { return len(g.void[f.ID]) > 0 }

// restoredMeanwhile tells whether another device restored an energy and
// neither fact had seen the other.
func restoredMeanwhile(g *folder, id string, f *Fact) bool {
	return slices.ContainsFunc(g.restored[id], func(r *Fact) bool {
		return r.Device != f.Device && r.Num > f.Seen && (f.Num == 0 || r.Seen < f.Num)
	})
}

// end ends the proof of one energy; endAll those of all.
func (g *folder) end(id string, f *Fact) {
	if p := g.Proofs[id]; p != nil && p.Stands {
		p.Stands, p.Ended = false, f
		g.Standing = slices.DeleteFunc(slices.Clone(g.Standing), func(mv string) bool {
			m := g.Map.Move(mv)
			return m != nil && m.OneWay && m.Takes[id] == machine.Proven
		})
		for _, t := range g.Turns {
			if m := g.Map.Move(t.Move); m != nil && m.OneWay && m.Takes[id] == machine.Proven && t.Open() {
				t.Back = f
			}
		}
	}
}

func (g *folder) endAll(f *Fact) {
	for _, id := range slices.Sorted(maps.Keys(g.Proofs)) {
		g.end(id, f)
	}
}

func (g *folder) remember(id string, f *Fact) {
	if g.restored == nil {
		g.restored = map[string][]*Fact{}
	}
	g.restored[id] = append(g.restored[id], f)
}

// setsLive plays what a check, final or test does to the energies that it sets
// live: their proof ends, and they count as live until their isolating move, or
// readings that show them off, are recorded. on is what Said speaks of.
func (g *folder) setsLive(on string, energies []string, proofs map[string]*Proof, f *Fact) {
	at := g.Levels()
	for _, id := range energies {
		if at[id].Rank() <= 0 {
			continue
		}
		g.remember(id, f)
		old := g.Proofs[id]
		if p := proofs[id]; p != nil {
			mv := measuring(id)
			if old != nil && g.Map.Move(old.Move) != nil {
				mv = g.Map.Move(old.Move)
			}
			j := g.Judge(mv, id, p, f.When())
			g.meter(p)
			if j.Off && !g.revoked(f) {
				if old != nil && old.Stands {
					g.Proofs[id] = &Proven{Fact: f, Proof: p, Move: old.Move, How: p.How(), Highest: j.Highest, Note: j.Note, Stands: true}
				}
				continue
			}
			g.Said[on] = j.Why
		}
		g.end(id, f)
		g.SetLive[id] = f
	}
}

// liveIn are the energies that a task sets live, in the map's order.
func (g *folder) liveIn(t *machine.Task, mains bool) []string {
	var out []string
	for i := range g.Map.Energies {
		e := &g.Map.Energies[i]
		if t.Energy[e.ID] == machine.Live || mains && e.Kind == "mains" {
			out = append(out, e.ID)
		}
	}
	return out
}

// stillLive ends the proofs of what a fact that was taken back had set live: the
// meter was put away since.
func (g *folder) stillLive(energies []string, f *Fact) {
	for _, id := range energies {
		g.end(id, f)
	}
}
