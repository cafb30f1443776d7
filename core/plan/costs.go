package plan

import (
	"errors"
	"maps"
	"slices"

	"evensteps/core/machine"
)

// Costs tells quickly, and many times from one state, about how long it takes
// to reach goals and close again. It is for weighing chances: the minutes are
// those of the first set of moves that does it, ordered no further than its
// bound; the plan that is shown to people is Make's.
type Costs struct{ pr *problem }

// CostsFrom makes ready for asking from the state of a request; its goals are
// left aside.
func CostsFrom(m *machine.Map, r Request) (*Costs, error) {
	people := max(r.People, 1)
	r.Goals = nil
	pr, err := compile(m.With(r.Answers, r.Standing...), r, people)
	if err != nil {
		return nil, err
	}
	return &Costs{pr}, nil
}

// To is the minutes of reaching these levels and closing again; the error says
// that there is no way, or what the map does not have.
func (c *Costs) To(targets ...Target) (float64, error) {
	c.pr.goals = c.pr.goals[:0]
	for _, t := range targets {
		for _, id := range slices.Sorted(maps.Keys(t.Needs)) {
			level := t.Needs[id]
			e, known := c.pr.ents[id]
			if !known {
				return 0, &NoPlan{Code: "unknown-goal", Message: "the map has nothing called " + id, Missing: []string{id}}
			}
			c.pr.goals = append(c.pr.goals, goal{req{e, level.Rank()}, t.ByMove})
		}
	}
	if s, can := c.pr.cheapest(c.pr.all()); can {
		return float64(c.pr.lower(s)) / 1000, nil
	}
	return 0, errNoWay
}

var errNoWay = errors.New("there is no way to that and back")
