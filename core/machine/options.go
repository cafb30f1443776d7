package machine

import (
	"maps"
	"slices"
)

// Agrees tells whether the answers meet the conditions; an option that nobody
// has stated stands at its usual value.
func (m *Map) Agrees(when When, answers map[string]string) bool {
	for id, values := range when {
		value, stated := answers[id]
		if !stated {
			if o := m.Option(id); o != nil {
				value = o.Usual
			}
		}
		if !slices.Contains(values, value) {
			return false
		}
	}
	return true
}

// With returns the map as it is for these answers: what an option hides is as
// if it had not been written, and every reference to it is dropped. A move
// that stands always exists, and so do its items, its energies and the checks
// due for it, whatever was answered. The map itself is not changed; one that is
// for these answers already is returned as it is.
func (m *Map) With(answers map[string]string, standing ...string) *Map {
	if m.applied != nil && maps.Equal(m.applied.answers, answers) && slices.Equal(m.applied.standing, standing) {
		return m
	}
	out := *m
	out.applied = &applied{maps.Clone(answers), slices.Clone(standing)}
	kept := map[string]bool{} // items and energies, and moves that stand
	for _, id := range standing {
		if mv := m.Move(id); mv != nil {
			kept[id] = true
			for it := range mv.Takes {
				kept[it] = true
			}
		}
	}
	seen := map[string]bool{} // items and energies that exist
	out.Options = filter(m.Options, func(o Option) bool { return m.Agrees(o.When, answers) })
	out.Energies = filter(m.Energies, func(e Energy) bool { return kept[e.ID] || m.Agrees(e.When, answers) })
	out.Items = filter(m.Items, func(i Item) bool { return kept[i.ID] || m.Agrees(i.When, answers) })
	for _, e := range out.Energies {
		seen[e.ID] = true
	}
	energy := func(id string) bool { return seen[id] } // the items are not in it yet
	out.Items = slices.Clone(out.Items)
	for i := range out.Items {
		out.Items[i].Carries, out.Items[i].Hides = filter(out.Items[i].Carries, energy), filter(out.Items[i].Hides, energy)
	}
	for _, i := range out.Items {
		seen[i.ID] = true
	}
	needs := func(n Needs) Needs { return keys(n, seen) }

	moves := map[string]bool{}
	out.Moves = make([]Move, 0, len(m.Moves))
	for _, mv := range m.Moves {
		mv.Takes = keys(mv.Takes, seen)
		if !kept[mv.ID] && (!m.Agrees(mv.When, answers) || len(mv.Takes) == 0) {
			continue
		}
		mv.Needs = needs(mv.Needs)
		exists := func(id string) bool { return seen[id] }
		mv.LiveOK, mv.WhileLive = filter(mv.LiveOK, exists), filter(mv.WhileLive, exists)
		moves[mv.ID] = true
		out.Moves = append(out.Moves, mv)
	}
	isMove := func(id string) bool { return moves[id] }
	for i := range out.Moves {
		mv := &out.Moves[i]
		if mv.Back != nil {
			back := *mv.Back
			back.Or, back.After = filter(back.Or, isMove), filter(back.After, isMove)
			if back.Needs != nil {
				n := needs(*back.Needs)
				back.Needs = &n
			}
			mv.Back = &back
		}
		if mv.LeavesLoose != nil {
			loose := *mv.LeavesLoose
			loose.Unless = filter(loose.Unless, isMove)
			mv.LeavesLoose = &loose
		}
	}
	if m.Poses != nil {
		out.Poses = map[string]Pose{}
		for name, p := range m.Poses {
			p.Needs = needs(p.Needs)
			out.Poses[name] = p
		}
	}
	task := func(t *Task) {
		t.Needs, t.Energy = needs(t.Needs), keys(t.Energy, seen)
		t.LiveOK = filter(t.LiveOK, func(id string) bool { return seen[id] })
	}
	complaints := map[string]bool{}
	out.Complaints = filter(m.Complaints, func(c Complaint) bool { return m.Agrees(c.When, answers) })
	for _, c := range out.Complaints {
		complaints[c.ID] = true
	}
	isComplaint := func(id string) bool { return complaints[id] }
	out.Checks = make([]Check, 0, len(m.Checks))
	for _, c := range m.Checks {
		due := slices.ContainsFunc(c.For, func(id string) bool { return kept[id] })
		c.For = filter(c.For, isMove)
		if len(c.For) == 0 || !due && !m.Agrees(c.When, answers) {
			continue
		}
		c.After, c.Before = filter(c.After, isMove), filter(c.Before, isMove)
		c.Proves = filter(c.Proves, isComplaint)
		task(&c.Task)
		out.Checks = append(out.Checks, c)
	}
	out.Finals = make([]Final, 0, len(m.Finals))
	for _, f := range m.Finals {
		proves := filter(f.Proves, isComplaint)
		if !m.Agrees(f.When, answers) || len(f.Proves) > 0 && len(proves) == 0 {
			continue
		}
		f.Proves = proves
		task(&f.Task)
		out.Finals = append(out.Finals, f)
	}
	out.Tests = make([]Test, 0, len(m.Tests))
	for _, t := range m.Tests {
		if m.Agrees(t.When, answers) {
			task(&t.Task)
			out.Tests = append(out.Tests, t)
		}
	}
	out.Parts = make([]Part, 0, len(m.Parts))
	for _, p := range m.Parts {
		exists := func(id string) bool { return seen[id] }
		if !m.Agrees(p.When, answers) || !seen[p.Item] {
			continue
		}
		p.Also, p.Kit, p.CarryOver = filter(p.Also, exists), filter(p.Kit, exists), filter(p.CarryOver, exists)
		out.Parts = append(out.Parts, p)
	}
	out.Faults = filter(m.Faults, func(f Fault) bool { return m.Agrees(f.When, answers) })
	out.Circuits = filter(m.Circuits, func(c Circuit) bool { return m.Agrees(c.When, answers) })
	return &out
}

// Guards lists the energies that must be proven off for a step: every energy
// that guards, less those that may be live during it.
func (m *Map) Guards(liveOK []string) []string {
	var guards []string
	for _, e := range m.Energies {
		if e.Guards() && !slices.Contains(liveOK, e.ID) {
			guards = append(guards, e.ID)
		}
	}
	return guards
}

// TaskGuards lists the energies that must be proven off for a check, final or
// test: those that it neither sets nor lets be live.
func (m *Map) TaskGuards(t *Task) []string {
	free := slices.Clone(t.LiveOK)
	for id := range t.Energy {
		free = append(free, id)
	}
	return m.Guards(free)
}

// filter returns what is to be kept. Where that is all of it, as almost always,
// the list itself is returned: the search for the next test applies the answers
// some hundred times. It is clipped, so that an append copies it.
func filter[T any](list []T, keep func(T) bool) []T {
	for n, v := range list {
		if keep(v) {
			continue
		}
		out := slices.Clone(list[:n])
		for _, v := range list[n+1:] {
			if keep(v) {
				out = append(out, v)
			}
		}
		if len(out) == 0 {
			return nil
		}
		return out
	}
	if len(list) == 0 {
		return nil
	}
	return slices.Clip(list)
}

// keys returns what is said of things that exist, the same map where all do.
func keys[V any, M ~map[string]V](in M, seen map[string]bool) M {
	for k := range in {
		if seen[k] {
			continue
		}
		out := make(M, len(in))
		for k, v := range in {
			if seen[k] {
				out[k] = v
			}
		}
		return out
	}
	return in
}
