package snags

import (
	"fmt"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/findings"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// partSnags: pieces of a set or kit left without a word, and why a fitted part
// had failed.
func partSnags(sc *scene.Scene, add func(Snag)) {
	asked := map[[2]string]bool{}
	for i := range sc.Map.Parts {
		p := &sc.Map.Parts[i]
		var fitted *record.Fact
		for _, piece := range p.Pieces() {
			if f := sc.Pieces[p.ID+"/"+piece]; f != nil && scene.FittedAs(f) == "fitted" {
				fitted = f
			}
		}
		if fitted == nil {
			continue
		}
		for _, piece := range p.Pieces() {
			f := sc.Pieces[p.ID+"/"+piece]
			s := Snag{ID: "piece-open:" + p.ID + "/" + piece + ":" + fitted.ID, Kind: "piece-open", On: p.ID, Regular: sc.Level[piece] == machine.Away}
			switch {
			case f == nil:
				s.Say = fmt.Sprintf("%s: say what happened to the %s.", p.Name, english.Lower(sc.Names.Item(piece)))
				s.Do = "Say which."
				for _, as := range []string{"fitted", "kept", "returned"} {
					s.Touches = append(s.Touches, view.Button(english.Upper(as), "", view.Made("part.fitted", record.PartFitted{Part: p.ID, Piece: piece, As: as})))
				}
			case p.FitTogether && scene.FittedAs(f) != "fitted" && f.Of.(*record.PartFitted).Reason == "":
				s.Say, s.Regular = fmt.Sprintf("%s belong together, and %s was %s.", p.Name, english.Lower(sc.Names.Item(piece)), scene.FittedAs(f)), false
				s.Do = "Say why."
			default:
				continue
			}
			add(s)
		}
		causeSnags(sc, p, asked, add)
	}
}

// causeSnags: a part that fails of something else fails again, so the job asks
// for what made it fail before it is even.
func causeSnags(sc *scene.Scene, p *machine.Part, asked map[[2]string]bool, add func(Snag)) {
	for i := range sc.Map.Faults {
		fault := &sc.Map.Faults[i]
		own := sc.Map.Part(fault.Part)
		if own == nil || !slices.Contains(p.Pieces(), own.Item) {
			continue
		}
		fitted := sc.Pieces[p.ID+"/"+own.Item]
		if fitted == nil || scene.FittedAs(fitted) != "fitted" {
			continue
		}
		for _, c := range fault.Because {
			if key := [2]string{c.ID, c.Ask}; findings.CauseOf(sc, c) == nil && !asked[key] { // several faults of a kit may share it
				asked[key] = true
				add(causeSnag(sc, fault, c, fitted))
			}
		}
	}
}

func causeSnag(sc *scene.Scene, fault *machine.Fault, c machine.Cause, fitted *record.Fact) Snag {
	body := record.CauseAnswered{Fault: fault.ID, Cause: c.ID}
	answer := func(label, text string) view.Touch {
		b := body
		b.Answer = text
		return view.Button(label, "", view.Made("cause.answered", b))
	}
	s := Snag{
		ID: "cause-open:" + fault.ID + "/" + c.ID + ":" + fitted.ID, Kind: "cause-open", On: fault.ID, Regular: true,
		Say: fmt.Sprintf("%s: why? %s", fault.Name, c.Ask), Do: "Look, and answer. Not found is an answer.", Touches: []view.Touch{},
		Line: &view.Line{Line: "cause:" + fault.ID + "/" + c.ID, Kind: "record", Say: "The answer", Ask: "in your words", Into: "answer", Tick: view.Made("cause.answered", map[string]string{"fault": fault.ID, "cause": c.ID}), Or: []view.Choice{}},
	}
	if yesOrNo(c.Ask) {
		s.Touches = append(s.Touches, answer("Yes", "yes"), answer("No", "no"))
	}
	s.Touches = append(s.Touches, answer("Not found", "not found"))
	if t := sc.Map.Test(c.Test); t != nil {
		if said := findings.Last(sc, t.ID); said != "" {
			s.Do = t.Title + " said: " + english.Lower(said) + ". " + s.Do
		} else if goal := "test:" + t.ID; !slices.ContainsFunc(sc.Goals, func(g *record.Goal) bool { return g.Goal == goal }) {
			s.Touches = append(s.Touches, view.Button("Test it", english.Lower(t.Title), view.Added([]string{goal})...))
		}
	}
	return s
}

// yesOrNo tells whether a question is answered with yes or no, rather than in
// words.
func yesOrNo(ask string) bool {
	first, _, _ := strings.Cut(strings.ToLower(ask), " ")
	return !slices.Contains([]string{"what", "which", "who", "whose", "where", "when", "why", "how"}, first)
}
