package steps

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/lead"
	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

func backSide(sc *scene.Scene, mv *machine.Move, t *record.Turn) *Side {
	b := mv.Back
	if b == nil {
		b = &machine.Back{}
	}
	face, pose, tools := plan.RefitPlace(mv)
	hazards, people, title := mv.Hazards, mv.People, b.Title
	if b.Hazards != nil {
		hazards = *b.Hazards
	}
	if b.People != nil {
		people = *b.People
	}
	if title == "" {
		title = mv.Name() + " back"
	}
	s := side(sc, title, face, pose, hazards, b.Do, tools, mv.PPE, people)
	s.Blind = mv.Blind
	s.Lots = lots(sc, mv, t, "back")
	s.Plugs = Plugs(sc, mv, t, "back")
	s.Picture = drawing(sc, mv, face, s.Lots)
	d := &view.Touch{Label: "Done: " + homecoming(sc, mv), Open: []string{}}
	accepts := []string{}
	var words []string
	var keyed []Plug
	var emptied []string
	for _, p := range s.Plugs {
		if p.Keyed && p.Rule == lead.None {
			accepts = append(accepts, p.Item)
			keyed = append(keyed, p)
		}
	}
	d.Open = append(d.Open, OpenLeads(s.Plugs)...)
	words = append(words, plugWords(keyed, "on")...)
	last := ""
	for i := range s.Lots {
		l := &s.Lots[i]
		switch {
		case l.Loosen:
		case l.Renew != "":
			accepts = append(accepts, l.Lot)
			words = append(words, english.Count(l.Count, "new "+l.Noun))
		case l.Counted != nil:
			words = append(words, brief(*l.Counted, l.Noun, &last)+" back from "+l.short())
		case l.MustCount:
			d.Open = append(d.Open, fmt.Sprintf("%d %s to count back from %s", l.Count, english.Plural(l.Count, l.Noun), l.Box()))
		default:
			accepts = append(accepts, l.Lot)
			words = append(words, brief(l.Count, l.Noun, &last)+" back from "+l.short())
		}
		if l.Empties && l.Counted == nil && !l.MustCount && l.Tray != "" {
			emptied = append(emptied, l.Tray)
		}
	}
	if len(emptied) > 0 {
		words = append(words, trayWords(emptied)+" empty")
	}
	if len(s.Do) == 0 && sc.Base.Move(mv.ID) == nil {
		s.Do = []string{"The other way round, as it came off. What held it goes back *where it was*."}
	}
	s.ways(b.Turn, b.Schools)
	s.Lines = append(looks(sc, mv, "back"), LinesBack(sc, mv, t)...)
	d.Open = append(d.Open, view.Open(s.Lines)...)
	for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
		if e := sc.Map.Energy(id); e != nil {
			words = append(words, powerBack(e))
		}
	}
	d.Says = strings.Join(words, ", ")
	back := map[string]any{"move": mv.ID}
	if t != nil {
		var closes []string
		for _, o := range t.Outs {
			closes = append(closes, o.ID)
		}
		if len(closes) > 0 {
			back["closes"] = closes
		}
	}
	if len(accepts) > 0 {
		back["accepts"] = accepts
	}
	d.Makes = []view.Make{view.Made("rung.back", back)}
	d.Half = []view.Make{view.Made("rung.half", map[string]string{"move": mv.ID, "side": "back"})}
	s.Done = d
	remember(sc, s, mv)
	return ticketed(sc, s, mv.BackTicket())
}
