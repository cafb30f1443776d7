package record

import (
	"evensteps/core/machine"
)

type folder struct {
	*State
	whole     *machine.Map
	strange   map[string]string  // own rung -> what it names that is not there
	restored  map[string][]*Fact // energy -> facts that restored it
	unguarded []*Raised          // guards unmet by the last rung, if proven before the next
	unmet     []*Raised          // needs met by no record yet
	void      map[string][]*Fact // fact -> withdrawals of it that do not count
	byID      map[string]*Fact   // all facts, those taken back too; nil where nothing is
	answered  map[string]*Fact   // option -> its last answer
	lots      map[string]bool    // lots that were looked for, and are there
}

func (g *folder) raise(kind, on string, by *Fact) *Raised {
	r := &Raised{Kind: kind, On: on, By: by}
	g.Raised = append(g.Raised, r)
	return r
}

// turn is the turn that a fact about a rung speaks of: the open one; or else,
// for the way out, a new one that is only begun, and for the way back the last.
func (g *folder) turn(move, side string) *Turn {
	var last *Turn
	for _, t := range g.Turns {
		if t.Move == move {
			last = t
		}
	}
	if last != nil && (last.Back == nil || side == "back") {
		return last
	}
	t := &Turn{
		Move: move, Half: map[string]bool{}, Counts: map[string]map[string]*Fact{}, Accepts: map[string]bool{},
		Settled: map[string][]*Fact{}, Confirms: map[string]*Fact{}, Wires: map[string]*Fact{}, Earths: map[string]*Fact{}, Trays: map[string]string{},
	}
	g.Turns = append(g.Turns, t)
	return t
}

func (g *folder) check(id string) *CheckState {
	if g.Checks[id] == nil {
		g.Checks[id] = &CheckState{}
	}
	return g.Checks[id]
}
