package steps

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/reading"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// compare are the lines of the work: the new part held beside the old one, what
// is carried over to it, and what becomes of the old one.
func compare(sc *scene.Scene, part *machine.Part) []view.Line {
	lines := []view.Line{numberLine(sc, part)}
	for k := range part.Compare {
		lines = append(lines, compareLine(sc, part, k))
	}
	for _, id := range part.CarryOver {
		lines = append(lines, workTick(sc, part.ID+"/carry/"+id, english.Upper(sc.Names.Item(id))+" moved to the new part", "carry"))
	}
	return append(lines, oldLine(sc, part))
}

// workTick is one thing that is ticked at the work.
func workTick(sc *scene.Scene, id, say, kind string) view.Line {
	l := view.Line{Line: id, Kind: kind, Say: say, Tick: view.Made("confirmed", map[string]string{"confirm": id}), Or: []view.Choice{}}
	if f := sc.Compared[id]; f != nil {
		l.Event, l.Value, l.Ticked = f.ID, f.Of.(*record.Confirmed).Value, true
	}
	return l
}

// numberLine asks for the number that is printed on the new part. It may be left
// out; one that is not this part's is said.
func numberLine(sc *scene.Scene, part *machine.Part) view.Line {
	l := workTick(sc, part.ID+"/compare/number", "Number on the new part", "number")
	l.Ask, l.May = part.Number, true
	if !l.Ticked {
		l.Said = "as printed; may be left out"
		return l
	}
	switch {
	case strings.EqualFold(l.Value, part.Number):
	case slices.ContainsFunc(part.Was, func(old string) bool { return strings.EqualFold(old, l.Value) }):
		l.Said = fmt.Sprintf("An older number: %s replaces it.", part.Number)
	default:
		l.Ticked, l.Bad = false, true
		l.Said = fmt.Sprintf("Not for this machine: the map has %s for the %s. Lay it aside, or correct the number.", part.Number, english.Lower(part.Name))
	}
	return l
}

// compareLine is one thing that must be alike in old and new. A length may be
// shorter by what the map allows.
func compareLine(sc *scene.Scene, part *machine.Part, k int) view.Line {
	c := part.Compare[k]
	id := fmt.Sprintf("%s/compare/%d", part.ID, k+1)
	want := fmt.Sprint(c.Value)
	if c.ShorterByPercent == nil {
		l := workTick(sc, id, fmt.Sprintf("%s of the new one: %s", english.Upper(c.What), want), "compare")
		differs := view.Made("confirmed", map[string]string{"confirm": id, "value": "differs"})
		if l.Value == "differs" {
			l.Ticked, l.Bad, l.Said = false, true, "Different. Do not fit it until a supervisor approves it."
		} else if !l.Ticked {
			l.Or = []view.Choice{{Label: "Differs", Makes: []view.Make{differs}}}
		}
		return l
	}
	l := workTick(sc, id, fmt.Sprintf("%s of the new one", english.Upper(c.What)), "compare")
	l.Ask = want
	full, err := strconv.ParseFloat(want, 64)
	if err != nil {
		return l
	}
	least := full * (1 - *c.ShorterByPercent/100)
	l.Said = fmt.Sprintf("%s, or up to %g %% shorter", want, *c.ShorterByPercent)
	if l.Ticked {
		got, err := measured(l.Value, c.What)
		switch {
		case err != nil:
			l.Ticked, l.Bad, l.Said = false, true, err.Error()
		case got > full || got < least:
			l.Ticked, l.Bad = false, true
			l.Said = fmt.Sprintf("%g to %g will do; this one does not.", least, full)
		}
	}
	return l
}

// measured reads a plain number or, of something in millimetres, a length as
// people write it, inches with fractions too.
func measured(text, what string) (float64, error) {
	if n, err := strconv.ParseFloat(strings.TrimSpace(text), 64); err == nil {
		return n, nil
	}
	if strings.Contains(what, "mm") {
		return reading.Parse(reading.Length, text)
	}
	return 0, fmt.Errorf("%q is no number: write it as it is measured, such as 1930", text)
}

// oldLine says what becomes of the part that came off. It may be left out.
func oldLine(sc *scene.Scene, part *machine.Part) view.Line {
	l := view.Line{Line: part.ID + "/old", Kind: "old", May: true, Say: "The old one goes", Or: []view.Choice{}, Tick: view.Made("old-part", record.OldPart{Part: part.ID, To: "company"})}
	for _, to := range []struct{ to, label string }{{"customer", "to the customer"}, {"company", "with us"}, {"scrap", "to scrap"}} {
		l.Or = append(l.Or, view.Choice{Label: to.label, Makes: []view.Make{view.Made("old-part", record.OldPart{Part: part.ID, To: to.to})}})
	}
	if f := sc.OldParts[part.ID]; f != nil {
		l.Ticked, l.Event, l.Said, l.Or = true, f.ID, record.OldTo[f.Of.(*record.OldPart).To], []view.Choice{}
	}
	return l
}

// comparedOf lists what was compared and carried over, for the record.
func comparedOf(part *machine.Part, lines []view.Line) (number string, compared, carried []string) {
	number = part.Number
	for _, l := range lines {
		switch {
		case l.Kind == "number" && l.Ticked && l.Value != "":
			number = l.Value
		case l.Kind == "compare" && l.Ticked:
			compared = append(compared, strings.TrimSpace(l.Say+" "+l.Value))
		case l.Kind == "carry" && l.Ticked:
			_, item, _ := strings.Cut(l.Line, "/carry/")
			carried = append(carried, item)
		}
	}
	return number, compared, carried
}
