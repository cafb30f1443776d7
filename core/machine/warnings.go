package machine

import (
	"fmt"
	"slices"
	"strings"
)

// Warnings finds what a sound map should think of again: a check that sets
// mains or gas live while wiring or the gas train could still stand open. The
// move belongs in the check's after; or aware says why it does not.
func Warnings(m *Map) []Flaw {
	var out []Flaw
	for i := range m.Checks {
		c := &m.Checks[i]
		if c.Aware != "" {
			continue
		}
		for _, e := range m.Energies {
			if c.Energy[e.ID] != Live || e.Kind != "mains" && e.Kind != "gas" {
				continue
			}
			var open []string
			for k := range m.Moves {
				if mv := &m.Moves[k]; m.opens(mv, e) && !slices.Contains(c.After, mv.ID) {
					open = append(open, mv.ID)
				}
			}
			if len(open) > 0 {
				out = append(out, Flaw{fmt.Sprintf("checks[%d].energy", i), fmt.Sprintf("%s is live in this check while %s could still stand; name them in after, or say in aware why not", e.ID, strings.Join(open, ", "))})
			}
		}
	}
	return append(out, lacking(m)...)
}

// lacking is what a map does not have yet that a whole one has. One that was
// begun on a job lacks most of it.
func lacking(m *Map) []Flaw {
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
func (m *Map) opens(mv *Move, e Energy) bool {
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
