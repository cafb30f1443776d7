package lint

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
)

// Warnings finds what a sound map should think of again: a check that sets
// mains or gas live while wiring or the gas train could still stand open (the
// move belongs in the check's after; or aware says why it does not), an energy
// restored too early on the way back, and what a whole map has and this one has
// not.
func Warnings(m *machine.Map) []Flaw {
	var out []Flaw
	for i := range m.Checks {
		c := &m.Checks[i]
		if c.Aware != "" {
			continue
		}
		for _, e := range m.Energies {
			if c.Energy[e.ID] != machine.Live || e.Kind != "mains" && e.Kind != "gas" {
				continue
			}
			var open []string
			for k := range m.Moves {
				if mv := &m.Moves[k]; opens(m, mv, e) && !slices.Contains(c.After, mv.ID) {
					open = append(open, mv.ID)
				}
			}
			if len(open) > 0 {
				out = append(out, Flaw{fmt.Sprintf("checks[%d].energy", i), fmt.Sprintf("%s is live in this check while %s could still stand; name them in after, or say in aware why not", e.ID, strings.Join(open, ", "))})
			}
		}
	}
	out = append(out, energyOrder(m)...)
	out = append(out, lacking(m)...)
	return append(out, mixed(m)...)
}

// mixed finds a map that is written in both Englishes: its words are put into those
// of the reader's region, and one thing must not have two names.
func mixed(m *machine.Map) []Flaw {
	text, err := json.Marshal(m)
	if err != nil {
		return nil // a map holds only words and numbers
	}
	if british, american := english.Mixed(string(text)); british != "" {
		return []Flaw{{"title", fmt.Sprintf("the map says both %q and %q; write it in the words of one region, the program puts them into the other's", british, american)}}
	}
	return nil
}

// energyOrder finds what an isolating move would restore too early on the way
// back: while what carries that energy, or hides its live parts, could still be
// off, or a check that wants it off still to come. Such moves belong in the
// closure of the isolating move's back.after, unless their refit needs the energy
// off anyway; or aware says why not.
func energyOrder(m *machine.Map) []Flaw {
	var out []Flaw
	for k := range m.Energies {
		e := &m.Energies[k]
		for i := range m.Moves {
			shuts := &m.Moves[i]
			if shuts.OneWay || shuts.Takes[e.ID] != machine.Shut || shuts.Aware != "" {
				continue
			}
			first := homeBefore(m, shuts.ID)
			for n := range m.Moves {
				mv := &m.Moves[n]
				if mv.OneWay || mv.Aware != "" || first[mv.ID] || !slices.Contains(mv.LiveOK, e.ID) || m.BackNeeds(mv)[e.ID].Rank() > 0 {
					continue
				}
				for id := range mv.Takes {
					if it := m.Item(id); it != nil && (slices.Contains(it.Carries, e.ID) || slices.Contains(it.Hides, e.ID)) {
						out = append(out, Flaw{fmt.Sprintf("moves[%d].back.after", i), fmt.Sprintf("%s is restored by %s while %s could still be off; name that in back.after, or say in aware why not", e.ID, shuts.ID, mv.ID)})
						break
					}
				}
			}
			for n := range m.Checks {
				c := &m.Checks[n]
				// What guards a check keeps it before the energy is restored by itself.
				if c.Aware != "" || c.Energy[e.ID].Rank() < 1 || slices.Contains(c.Before, shuts.ID) || slices.ContainsFunc(c.Before, func(id string) bool { return first[id] }) {
					continue
				}
				out = append(out, Flaw{fmt.Sprintf("moves[%d].back.after", i), fmt.Sprintf("%s is restored by %s while the check %s, which wants it off, could still be due; let the check stand before a move of back.after, or say in aware why not", e.ID, shuts.ID, c.ID)})
			}
		}
	}
	return out
}

// homeBefore are the moves that must be back before this one's refit, by
// back.after and what that leads to.
func homeBefore(m *machine.Map, move string) map[string]bool {
	out := map[string]bool{}
	var look func(id string)
	look = func(id string) {
		mv := m.Move(id)
		if mv == nil || mv.Back == nil {
			return
		}
		for _, o := range mv.Back.After {
			if !out[o] {
				out[o] = true
				look(o)
			}
		}
	}
	look(move)
	return out
}

// lacking is what a map does not have yet that a whole one has. One that was
// begun on a job lacks most of it.
func lacking(m *machine.Map) []Flaw {
	var out []Flaw
	if m.Plain() {
		return nil // it has no more on purpose
	}
	lacks := func(path, what string, n int) {
		if n == 0 {
			out = append(out, Flaw{path, what})
		}
	}
	lacks("maker", "says nobody as the maker", len(m.Maker))
	lacks("parts", "has no part: nothing can be ordered or planned for", len(m.Parts))
	lacks("complaints", "has no complaint: no search can begin", len(m.Complaints))
	lacks("faults", "has no fault: a complaint has nothing to weigh", len(m.Faults))
	lacks("tests", "has no test: nothing can be found out", len(m.Tests))
	lacks("finals", "has no final: nothing proves a repair", len(m.Finals))
	general := 0
	for i := range m.Finals {
		if len(m.Finals[i].Proves) == 0 {
			general++
		}
	}
	if len(m.Finals) > 0 {
		lacks("finals", "has no final that names no complaint: what the map does not know would be proven by nothing", general)
	}
	for i := range m.Moves {
		mv := &m.Moves[i]
		path := fmt.Sprintf("moves[%d]", i)
		if !strings.HasPrefix(mv.ID, "own-") {
			continue
		}
		out = append(out, Flaw{path + ".id", fmt.Sprintf("%s was begun on a job: give it an id, and its item a place on the face", mv.ID)})
		if mv.Back == nil && !mv.OneWay {
			out = append(out, Flaw{path + ".back", "says nothing of the way back: what must be true before it counts as home?"})
		}
		for k, l := range mv.Fasteners {
			if len(l.At) == 0 {
				out = append(out, Flaw{fmt.Sprintf("%s.fasteners[%d].at", path, k), "sits nowhere yet: where on the face?"})
			}
		}
	}
	return out
}

// opens tells whether a move opens what carries an energy: connectors for
// mains; pipes, and what takes a gas ticket, for gas. A move that may be made
// with the energy live opens nothing of it.
func opens(m *machine.Map, mv *machine.Move, e machine.Energy) bool {
	if mv.OneWay || slices.Contains(mv.LiveOK, e.ID) {
		return false
	}
	if e.Kind == "gas" && mv.Ticket == "gas" {
		return true
	}
	for id := range mv.Takes {
		if it := m.Item(id); it != nil && (e.Kind == "mains" && it.Type == "connector" || e.Kind == "gas" && it.Type == "pipe") {
			return true
		}
	}
	return false
}
