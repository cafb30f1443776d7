package fault

import (
	"slices"
	"strings"
)

// What is known in a trial, whatever the search believes.

func (t *Trial) begun(complaint string) Case {
	if t.advice == nil {
		t.advice, t.exact, t.memory = map[string]Step{}, map[string]float64{}, map[string]*memory{}
	}
	c := Case{Map: t.Map, Answers: t.Answers, Complaint: complaint, Rate: t.Rate, People: 2, memory: t.memory[complaint]}
	if c.memory == nil {
		c = Remember(c)
		t.memory[complaint] = c.memory
	}
	return c
}

func (y *played) after(did string, p []float64) *played {
	done := append(slices.Clone(y.done), did)
	slices.Sort(done) // the order changes nothing
	return &played{y.exact, done, p}
}

// showed is what a test showed before, -1 where it was not made yet.
func (y *played) showed(t *test) int {
	return slices.IndexFunc(t.outcomes, func(o string) bool { return slices.Contains(y.done, t.id+"="+o) })
}

func (y *played) key() string { return "|" + strings.Join(y.done, ",") }

// failed is a case after fixes that did not help: the machine is closed, and what
// spoke for them is void.
func failed(c Case, fix []string) Case {
	c.Tried = append(slices.Clone(c.Tried), fix...)
	c.Standing = nil
	c.Results = slices.Clone(begin(c).c.Results)
	for k := range c.Results { // what holds now, holds on
		c.Results[k].Tried = len(c.Tried)
	}
	slices.Sort(c.Tried)
	return c
}
