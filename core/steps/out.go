package steps

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"evensteps/core/energy"
	"evensteps/core/english"
	"evensteps/core/lead"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// otherAnswers are the answers that an answered option of a move could have
// instead: at its rung one sees that it is otherwise.
func otherAnswers(sc *scene.Scene, mv *machine.Move) []view.Choice {
	out := []view.Choice{}
	for i := range sc.Whole.Options {
		o := &sc.Whole.Options[i]
		is, answered := sc.Answers[o.ID]
		if _, hangs := mv.When[o.ID]; !hangs || !answered {
			continue
		}
		for _, value := range o.Values {
			if value != is {
				out = append(out, view.Choice{Label: english.Upper(english.Spaced(value)), Says: o.Ask + " It was answered: " + english.Spaced(is) + ".", Makes: []view.Make{Answering(o, value)}})
			}
		}
	}
	return out
}

// Answering records one answer to an option.
func Answering(o *machine.Option, value string) view.Make {
	return view.Made("option.answered", record.OptionAnswered{Option: o.ID, Value: value})
}

func outSide(sc *scene.Scene, mv *machine.Move, t *record.Turn) *Side {
	s := side(sc, mv.Title, mv.Face, mv.Pose, mv.Hazards, mv.Do, mv.Tools, mv.PPE, mv.People)
	s.Blind = mv.Blind
	s.Said = sc.Said[mv.ID]
	if t != nil && t.Back != nil {
		t = nil // a new turn begins with nothing counted
	}
	s.Lots = lots(sc, mv, t, "out")
	s.Plugs = Plugs(sc, mv, nil, "out")
	if slices.ContainsFunc(s.Plugs, func(p Plug) bool { return p.OneByOne != "" }) {
		s.Do = []string{"Hang the new one beside the old, both in reach of the leads.", "One lead off the old, on to the new, *tugged*. Only then the next."}
	}
	s.Picture = drawing(sc, mv, mv.Face, s.Lots)
	s.ways(mv.Turn, mv.Schools)
	s.Lines = append(linesOut(sc, mv, t), looks(sc, mv, "out")...)
	s.Done = doneOut(sc, mv, s)
	prove(sc, s, provingOf(sc, mv), nil)
	flame(sc, s, mv)
	remember(sc, s, mv)
	return ticketed(sc, s, mv.Ticket)
}

// doneOut is Done of a way out, but for what it proves.
func doneOut(sc *scene.Scene, mv *machine.Move, s *Side) *view.Touch {
	accepts := []string{}
	d := &view.Touch{Label: "Done: " + outcome(sc, mv), Open: []string{}}
	d.Open = append(d.Open, view.Open(s.Lines)...)
	for i := range s.Lots {
		l := &s.Lots[i]
		switch {
		case l.Loosen || l.Counted != nil:
		case l.MustCount:
			d.Open = append(d.Open, fmt.Sprintf("%d %s to count into %s", l.Count, english.Plural(l.Count, l.Noun), l.Box()))
		default:
			accepts = append(accepts, l.Lot)
		}
	}
	d.Open = append(d.Open, OpenLeads(s.Plugs)...)
	for _, p := range s.Plugs {
		if p.Keyed && p.Rule == lead.None {
			accepts = append(accepts, p.Item)
		}
	}
	out := map[string]any{"move": mv.ID}
	if len(accepts) > 0 {
		out["accepts"] = accepts
	}
	trays := map[string]string{}
	for _, l := range s.Lots {
		if l.Tray != "" && slices.Contains(accepts, l.Lot) {
			trays[l.Lot] = l.Tray
		}
	}
	if len(trays) > 0 {
		out["trays"] = trays
	}
	d.Says = says(sc, s, accepts)
	d.Makes = []view.Make{view.Made("rung.out", out)}
	d.Half = []view.Make{view.Made("rung.half", map[string]string{"move": mv.ID, "side": "out"})}
	return d
}

// flame asks, as the gas is shut, whether a flame was burning: without one that
// was seen, none can prove it off.
func flame(sc *scene.Scene, s *Side, mv *machine.Move) {
	for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
		e := sc.Map.Energy(id)
		if e == nil || e.Kind != "gas" || mv.Takes[id] != machine.Shut || s.Done == nil || !burnsOff(sc, id) {
			continue
		}
		if slices.ContainsFunc(mv.WhileLive, func(o string) bool { return sc.Level[o].Rank() > 0 }) {
			return // what makes the flame is off already
		}
		seen := withFlame(s.Done.Makes[0])
		s.Do = append([]string{"Light a burner, or call for heat. *Watch the flame* as the gas cock shuts."}, s.Do...)
		s.Choices = append(s.Choices, view.Choice{Label: "A flame was burning as I shut it", Says: "the flame can show that the gas is off", Makes: []view.Make{seen}})
		s.Done.Says = "no flame was seen: another way proves it off"
	}
}

// burnsOff tells whether the flame is one of the ways of proving this gas off.
func burnsOff(sc *scene.Scene, id string) bool {
	return slices.ContainsFunc(sc.Map.Moves, func(mv machine.Move) bool {
		return mv.Takes[id] == machine.Proven && slices.Contains(mv.Proof, energy.BurnOff)
	})
}

func withFlame(m view.Make) view.Make {
	var body map[string]any
	if json.Unmarshal(m.Body, &body) != nil {
		return m
	}
	body["proof"] = record.Proof{Way: energy.BurnOff, Flame: "seen"}
	return view.Made(m.Kind, body)
}

// says is what Done says on itself that it will record.
func says(sc *scene.Scene, s *Side, accepts []string) string {
	var words []string
	last := ""
	for _, l := range s.Lots {
		n := l.Count
		if l.Counted != nil {
			n = *l.Counted
		}
		word := brief(n, l.Noun, &last)
		if l.Loosen {
			word += " loosened"
		} else {
			word += " to " + l.short()
		}
		words = append(words, word)
	}
	words = append(words, plugWords(s.Plugs, "apart")...)
	if len(accepts) > 0 {
		words = append(words, "as the map says")
	}
	return strings.Join(words, ", ")
}

// brief counts, and leaves the noun out where it is the same as just before.
func brief(n int, noun string, last *string) string {
	if noun == *last {
		return fmt.Sprint(n)
	}
	*last = noun
	return english.Count(n, noun)
}

func plugWords(plugs []Plug, what string) []string {
	switch len(plugs) {
	case 0:
		return nil
	case 1:
		return []string{english.Lower(plugs[0].Name) + " " + what}
	}
	return []string{fmt.Sprintf("%d connectors %s", len(plugs), what)}
}

// offAlready are the faults that leave a move undone by themselves: a broken belt
// is off its pulleys. Where one is seen, the move stands and has to come back.
func offAlready(sc *scene.Scene, mv *machine.Move) (out []view.Choice) {
	for i := range sc.Map.Faults {
		f := &sc.Map.Faults[i]
		suspect := slices.ContainsFunc(sc.Complaints(), func(c *machine.Complaint) bool { return c.Faults[f.ID] > 0 })
		fits := slices.ContainsFunc(sc.Goals, func(g *record.Goal) bool { return g.Goal == "replace:"+f.Part })
		if slices.Contains(f.Leaves, mv.ID) && (suspect || fits) {
			out = append(out, view.Choice{Label: "Off already", Says: f.Name + ". It has to come back.", Makes: []view.Make{view.Made("found", record.Found{Move: mv.ID, By: "the fault"})}})
		}
	}
	return out
}
