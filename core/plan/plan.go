// Package plan computes the way into a machine and the way back out of it.
//
// A plan is one of least total minutes over both ways together: handling,
// turning from face to face, fetching tools. All costs are whole thousandths
// of a minute. The search is exact: sets of moves are taken best first, each
// need a choice among the moves that give it (sets.go); the orders of a set
// are found by A* over what is done, where one stands and what lies at hand
// (order.go), the way back from its end, where it is monotone. Every device
// finds the same plan, because no clock ends the search.
package plan

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"evensteps/core/machine"
)

// Place is where one stands, how the machine lies, and what lies at hand.
type Place struct {
	Face  string
	Pose  string
	Tools []string
}

// Request is what is to be planned, and from which state.
type Request struct {
	// Goals: "item:ID=LEVEL", "replace:PART", "test:TEST". None plans the way
	// back alone.
	Goals []string
	// Answers to options; what is not stated stands at its usual value.
	Answers map[string]string
	// People there are: 1 or 2. 0 means not stated: 1, and 2 where 1 has no way.
	People int
	// Standing are the moves that stand, in the order they were made, one-way
	// moves that hold among them (see Standing).
	Standing []string
	// Found are levels that were there from the start, with no refit.
	Found map[string]machine.Level
	// Due says which checks are due by what was done; nil derives them from
	// Standing. Moves that the plan makes add theirs in any case.
	Due map[string]bool
	// Again are moves that must be made again, whatever the goals need.
	Again []string
	// At is where the last step ended; nil means at the last standing move.
	At *Place
	// Returning says that a refit or check was the last step, so that the
	// tools of At still lie at hand for the way back.
	Returning bool
	// BarredOut and BarredBack are sides of moves that cannot be done.
	BarredOut, BarredBack []string
}

// Step is one step of the way back: a move undone (by its own refit, or by
// that of another where the map allows it) or a check.
type Step struct {
	Undo  string `json:"undo,omitempty"`
	By    string `json:"by,omitempty"`
	Check string `json:"check,omitempty"`
}

// Minutes are the parts of a plan's total.
type Minutes struct {
	Handling          float64 `json:"handling"`
	TurnsAndToolsIn   float64 `json:"turns_and_tools_in"`
	TurnsAndToolsBack float64 `json:"turns_and_tools_back"`
	Total             float64 `json:"total"`
}

// Plan is a way in and a way back.
type Plan struct {
	Map       string   `json:"map"`
	WayIn     []string `json:"way_in"`
	WayBack   []Step   `json:"way_back"`
	Minutes   Minutes  `json:"minutes"`
	Proven    bool     `json:"proven"`
	Gap       float64  `json:"gap"`
	People    int      `json:"people"`
	MadeAgain []string `json:"made_again"`
	AskFirst  []Ask    `json:"ask_first"`
	Tools     []string `json:"tools"`
	Tickets   []string `json:"tickets"`
	PPE       []string `json:"ppe"`
	Consumes  []string `json:"consumables"`
	OtherWays []Way    `json:"other_ways"` // filled where they are asked for (OtherWays)
}

// Doubt says how much shorter another way could be, where the search was ended
// before that was known; empty where the plan is the shortest.
func (p *Plan) Doubt() string {
	if p.Proven || p.Gap <= 0 {
		return ""
	}
	return fmt.Sprintf("Not every way was looked at: another could take up to %.0f min less.", math.Ceil(p.Gap))
}

// Ask is an option whose answer would change the plan.
type Ask struct {
	Option  string   `json:"option"`
	Ask     string   `json:"ask"`
	If      string   `json:"if"`
	Adds    []string `json:"adds"`
	Minutes float64  `json:"minutes"`
	NoPlan  bool     `json:"no_plan,omitempty"`
}

// NoPlan says that there is no plan, and why.
type NoPlan struct {
	// Code is no-way-in, no-way-back, unknown-goal or unknown-move.
	Code    string   `json:"code"`
	Message string   `json:"message"`
	Missing []string `json:"missing"`
}

func (e *NoPlan) Error() string { return e.Message }

// Make plans. The map is the whole one; its options are applied here. An error
// is always a *NoPlan.
func Make(m *machine.Map, r Request) (*Plan, error) {
	people := max(r.People, 1)
	p, err := with(m, r, people)
	if err != nil && r.People == 0 {
		if two, err2 := with(m, r, 2); err2 == nil {
			p, err = two, nil
		}
	}
	return p, err
}

func with(m *machine.Map, r Request, people int) (*Plan, error) {
	pr, err := compile(m.With(r.Answers, r.Standing...), r, people)
	if err != nil {
		return nil, err
	}
	best, err := pr.search()
	if err != nil {
		return nil, err
	}
	return pr.plan(best, people), nil
}

// AskFirst varies each option that nobody has stated and returns those whose
// answer changes the plan, the largest change of minutes first ("no plan"
// before all, ties in the map's order).
func AskFirst(m *machine.Map, r Request, p *Plan) []Ask {
	asks := []Ask{}
	for _, o := range m.Options {
		if _, stated := r.Answers[o.ID]; stated || !m.Agrees(o.When, r.Answers) {
			continue
		}
		var worst *Ask
		for _, v := range o.Values {
			if v == o.Usual {
				continue
			}
			q := r
			q.Answers = maps.Clone(r.Answers)
			if q.Answers == nil {
				q.Answers = map[string]string{}
			}
			q.Answers[o.ID] = v
			other, err := Make(m, q)
			a := Ask{Option: o.ID, Ask: o.Ask, If: v, Adds: []string{}}
			if err != nil {
				a.NoPlan = true
			} else if slices.Equal(other.WayIn, p.WayIn) && slices.Equal(other.WayBack, p.WayBack) {
				continue
			} else {
				a.Minutes = float64(thousandths(other.Minutes.Total)-thousandths(p.Minutes.Total)) / 1000
				for _, id := range other.WayIn {
					if !slices.Contains(p.WayIn, id) {
						a.Adds = append(a.Adds, id)
					}
				}
			}
			if worst == nil || a.before(*worst) {
				worst = &a
			}
		}
		if worst != nil {
			asks = append(asks, *worst)
		}
	}
	slices.SortStableFunc(asks, func(a, b Ask) int {
		switch {
		case a.before(b):
			return -1
		case b.before(a):
			return 1
		}
		return 0
	})
	return asks
}

func (a Ask) before(b Ask) bool {
	if a.NoPlan != b.NoPlan {
		return a.NoPlan
	}
	return abs(a.Minutes) > abs(b.Minutes)
}

func abs(v float64) float64 { return max(v, -v) }

// Standing plays moves in the order they were made and returns those that
// stand at the end. A one-way move stands only while its needs of energies and
// its guards are met without it; found energies count as shut at most.
func Standing(m *machine.Map, made []string, found map[string]machine.Level) ([]string, error) {
	var standing []string
	for _, id := range made {
		if m.Move(id) == nil {
			return nil, &NoPlan{Code: "unknown-move", Message: fmt.Sprintf("the map %s has no move %q", m.ID, id), Missing: []string{id}}
		}
		if slices.Contains(standing, id) {
			continue
		}
		standing = Lapse(m, append(standing, id), found)
	}
	return standing, nil
}

// Lapse drops from standing the one-way moves that no longer hold.
func Lapse(m *machine.Map, standing []string, found map[string]machine.Level) []string {
	for {
		dropped := slices.IndexFunc(standing, func(id string) bool {
			mv := m.Move(id)
			if mv == nil || !mv.OneWay {
				return false
			}
			at := Levels(m, slices.DeleteFunc(slices.Clone(standing), func(o string) bool { return o == id }), found)
			for e, level := range m.StandsOn(mv) {
				if at[e].Rank() < level.Rank() {
					return true
				}
			}
			return slices.ContainsFunc(m.Guards(mv.LiveOK), func(e string) bool { return at[e] != machine.Proven })
		})
		if dropped < 0 {
			return standing
		}
		standing = slices.Delete(slices.Clone(standing), dropped, dropped+1)
	}
}

// Levels are the levels above fitted and live that standing moves and what was
// found give to items and energies.
func Levels(m *machine.Map, standing []string, found map[string]machine.Level) map[string]machine.Level {
	at := map[string]machine.Level{}
	for id, level := range found {
		if level == machine.Proven {
			level = machine.Shut
		}
		at[id] = level
	}
	for _, id := range standing {
		if mv := m.Move(id); mv != nil {
			for it, level := range mv.Takes {
				if level.Rank() > at[it].Rank() {
					at[it] = level
				}
			}
		}
	}
	return at
}

// Target is what one goal asks for: levels of items and energies, by a move of
// this job where ByMove (a part cannot be fitted where it is missing).
type Target struct {
	Needs  machine.Needs
	ByMove bool
}

// ItemGoals writes levels as goals, in the order of their ids; Reads reads them.
func ItemGoals(needs machine.Needs) []string {
	var goals []string
	for _, id := range slices.Sorted(maps.Keys(needs)) {
		goals = append(goals, "item:"+id+"="+string(needs[id]))
	}
	return goals
}

// Reads parses a goal against the map with its options applied.
func Reads(m *machine.Map, goal string) (Target, error) {
	kind, rest, _ := strings.Cut(goal, ":")
	unknown := func(what, id string) (Target, error) {
		return Target{}, &NoPlan{Code: "unknown-goal", Message: fmt.Sprintf("the map %s has no %s %q for the goal %q", m.ID, what, id, goal), Missing: []string{id}}
	}
	switch kind {
	case "item":
		id, word, ok := strings.Cut(rest, "=")
		level := machine.Level(word)
		if m.Item(id) == nil && m.Energy(id) == nil {
			return unknown("item or energy", id)
		}
		if !ok || level.Rank() < 0 || level == "" || level.OfEnergy() != (m.Energy(id) != nil) {
			return Target{}, &NoPlan{Code: "unknown-goal", Message: fmt.Sprintf("the goal %q names no level of %s", goal, id), Missing: []string{id}}
		}
		return Target{Needs: machine.Needs{id: level}}, nil
	case "replace":
		part := m.Part(rest)
		if part == nil {
			return unknown("part", rest)
		}
		needs := machine.Needs{}
		for _, id := range slices.Concat(part.Pieces(), part.CarryOver) {
			needs[id] = machine.Away
		}
		return Target{Needs: needs, ByMove: true}, nil
	case "test":
		t := m.Test(rest)
		if t == nil {
			return unknown("test", rest)
		}
		needs := maps.Clone(t.Needs)
		if needs == nil {
			needs = machine.Needs{}
		}
		if t.Power == "dead" {
			for _, id := range m.Mains() {
				needs[id] = machine.Proven
			}
		}
		return Target{Needs: needs}, nil
	}
	return Target{}, &NoPlan{Code: "unknown-goal", Message: fmt.Sprintf("the goal %q is none of item:ID=LEVEL, replace:PART, test:TEST", goal)}
}

// plan says what was found in the words of the map.
func (pr *problem) plan(f *found, people int) *Plan {
	p := &Plan{Map: pr.m.ID, WayIn: []string{}, WayBack: []Step{}, MadeAgain: []string{}, AskFirst: []Ask{}, Tools: []string{}, Tickets: []string{}, PPE: []string{}, Consumes: []string{}, OtherWays: []Way{}, People: people, Proven: f.proven}
	note := func(list *[]string, words ...string) {
		for _, w := range words {
			if w != "" && !slices.Contains(*list, w) {
				*list = append(*list, w)
			}
		}
	}
	for _, i := range f.wayIn {
		mv := &pr.m.Moves[i]
		p.WayIn = append(p.WayIn, mv.ID)
		if slices.Contains(pr.r.Again, mv.ID) {
			p.MadeAgain = append(p.MadeAgain, mv.ID)
		}
		note(&p.Tools, mv.Tools...)
		note(&p.Tickets, mv.Ticket)
		note(&p.PPE, mv.PPE...)
	}
	for _, s := range f.wayBack {
		if s.move < 0 {
			c := &pr.m.Checks[s.check]
			p.WayBack = append(p.WayBack, Step{Check: c.ID})
			note(&p.Tools, c.Tools...)
			note(&p.Tickets, c.Ticket)
			note(&p.PPE, c.PPE...)
			continue
		}
		step := Step{Undo: pr.m.Moves[s.move].ID}
		if s.via != s.move {
			step.By = pr.m.Moves[s.via].ID
		}
		p.WayBack = append(p.WayBack, step)
		_, _, tools := RefitPlace(&pr.m.Moves[s.via])
		note(&p.Tools, tools...)
		note(&p.Tickets, pr.m.Moves[s.move].BackTicket())
		note(&p.Consumes, pr.m.Moves[s.via].Consumes...)
	}
	p.Minutes = Minutes{Handling: float64(f.handling) / 1000, TurnsAndToolsIn: float64(f.in) / 1000, TurnsAndToolsBack: float64(f.back) / 1000, Total: float64(f.total) / 1000}
	if !f.proven && f.lower < f.total {
		p.Gap = float64(f.total-f.lower) / 1000
	}
	return p
}

// Next lists the steps of the way back that are possible next: a complete way
// back can begin with each of them. Moves come in the map's order, then checks.
func Next(m *machine.Map, r Request) []Step {
	pr, err := compile(m.With(r.Answers, r.Standing...), r, 2)
	if err != nil {
		return nil
	}
	w := pr.outOf(pr.start)
	var whole set
	for c := range w.chores {
		whole.add(c)
	}
	var steps []Step
	for c, ch := range w.chores {
		var done set // all the others, placed from the end as far as they go
		for {
			ready := slices.DeleteFunc(w.ready(done), func(o int) bool { return o == c })
			if len(ready) == 0 {
				break
			}
			for _, o := range ready {
				done.add(o)
			}
		}
		if done.with(c) != whole || !slices.Contains(w.ready(done), c) {
			continue
		}
		if ch.move >= 0 {
			steps = append(steps, Step{Undo: pr.m.Moves[ch.move].ID})
		} else {
			steps = append(steps, Step{Check: pr.m.Checks[ch.check].ID})
		}
	}
	return steps
}
