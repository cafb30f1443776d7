package paper

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
	"time"

	"evensteps/core/english"
	"evensteps/core/fault"
	"evensteps/core/findings"
	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/reading"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/steps"
)

// asFound is what was so before the record began.
func asFound(sc *scene.Scene) []string {
	out := []string{}
	for _, f := range sc.AsFound {
		b := f.Of.(*record.Found)
		say := ""
		if b.Move != "" {
			say = sc.Names.Move(b.Move) + ": off already"
			if b.By != "" && b.By != f.By {
				say += ", by " + sc.FullName(b.By)
			}
		} else {
			say = sc.Names.Item(b.Item) + ": " + b.State
		}
		if b.Photo != "" {
			say += ", with a photo"
		}
		out = append(out, fmt.Sprintf("%s (%s, %s).", say, sc.FullName(f.By), f.When().UTC().Format(time.DateOnly)))
	}
	if f := sc.Results["as-found"]; f != nil && f.Of.(*record.TestResult).Outcome != named.NotDone {
		if t := sc.Map.Test("as-found"); t != nil {
			say := sc.Names.Outcome("as-found", f.Of.(*record.TestResult).Outcome)
			if n := len(steps.PhotosOf(sc, func(on string) bool { return on == "as-found" }, nil)); n > 0 {
				say += ", with " + english.Count(n, "photo")
			}
			out = append(out, say+" ("+sc.FullName(f.By)+").")
		}
	}
	return out
}

// looked tells for the sheet what was seen and done, and what was left.
func looked(sc *scene.Scene) (seen, done, left []string) {
	for i := range sc.Map.Moves {
		mv := &sc.Map.Moves[i]
		for k, in := range mv.Inspect {
			f := sc.Looks[machine.LookID(mv.ID, k)]
			if f == nil {
				continue
			}
			b := f.Of.(*record.Looked)
			say := named.Look(in)
			if in.Looks() {
				say = in.Say
			}
			if b.Finding != "" {
				say += " (" + b.Finding + ")"
			}
			switch b.As {
			case record.LookedFound:
				seen = append(seen, "Seen: "+english.Lower(say)+" ("+sc.FullName(f.By)+").")
			case record.LookedDone:
				done = append(done, say+".")
			case record.LookedSkipped:
				left = append(left, "Left for another time: "+english.Lower(say)+".")
			}
		}
	}
	return seen, done, left
}

// usedUp is what the refits that were made use up, and what people said besides.
func usedUp(sc *scene.Scene) []string {
	counts := map[string]int{}
	for _, t := range sc.Turns {
		mv := sc.Map.Move(t.Move)
		if mv == nil || t.Back == nil || t.ByEnergy {
			continue
		}
		for _, what := range mv.Consumes {
			counts[english.Spaced(what)]++
		}
	}
	for _, f := range sc.Used {
		b := f.Of.(*record.Used)
		counts[b.What] += max(1, b.Count)
	}
	var out []string
	for _, what := range slices.Sorted(maps.Keys(counts)) {
		if counts[what] > 1 {
			what = fmt.Sprintf("%s (%d)", what, counts[what])
		}
		out = append(out, what)
	}
	return out
}

// Mended are what was renewed or mended, a sentence each.
func Mended(sc *scene.Scene) []string {
	lines := []string{}
	for _, p := range partsFitted(sc) {
		line := p.Part + " replaced"
		if p.Number != "" {
			line += ", number " + p.Number
		}
		lines = append(lines, line+".")
	}
	return append(lines, mendedSo(sc)...)
}

// mendedSo are what was mended with nothing opened.
func mendedSo(sc *scene.Scene) (lines []string) {
	if sc.Decided != nil {
		for _, id := range scene.Mended(sc.Decided.Of.(*record.Decided)) {
			lines = append(lines, fault.Name(sc.Map, id)+": fixed, nothing was opened.")
		}
	}
	return lines
}

// partsFitted are the parts that were fitted, each with its pieces.
func partsFitted(sc *scene.Scene) []Fitted {
	out := []Fitted{}
	pieces := map[string][]string{}
	var order []string
	for _, key := range slices.Sorted(maps.Keys(sc.Pieces)) {
		b := sc.Pieces[key].Of.(*record.PartFitted)
		if scene.FittedAs(sc.Pieces[key]) != "fitted" {
			continue
		}
		if len(pieces[b.Part]) == 0 {
			order = append(order, b.Part)
			one := Fitted{Part: b.Part, Number: b.Number, Why: evidenceSays(b.Evidence)}
			if p := sc.Map.Part(b.Part); p != nil {
				one.Part = p.Name
				if one.Number == "" {
					one.Number = p.Number
				}
			}
			if f := sc.OldParts[b.Part]; f != nil {
				one.Old = record.OldTo[f.Of.(*record.OldPart).To]
			}
			out = append(out, one)
		}
		pieces[b.Part] = append(pieces[b.Part], english.Lower(sc.Names.Item(b.Piece)))
	}
	for i, id := range order {
		if p := sc.Map.Part(id); p != nil && len(p.Pieces()) > 1 {
			out[i].Part += " (" + english.And(pieces[id]) + ")"
		}
	}
	return out
}

// found is what was found, and how it is known: what was so before, what was seen,
// what spoke for the parts that were fitted, and why they had failed.
func found(sc *scene.Scene) []string {
	out := asFound(sc)
	seen, _, _ := looked(sc)
	out = append(out, seen...)
	if len(sc.Pieces) == 0 {
		return out
	}
	c, shown := findings.Case(sc)
	if speaks := fault.Speaks(c); speaks != nil {
		for i := range sc.Map.Faults {
			f := &sc.Map.Faults[i]
			if !slices.ContainsFunc(slices.Collect(maps.Values(sc.Pieces)), func(fact *record.Fact) bool {
				return scene.FittedAs(fact) == "fitted" && sc.Map.Renews(sc.Map.Part(fact.Of.(*record.PartFitted).Part), f)
			}) {
				continue
			}
			for _, r := range c.Results {
				k := slices.IndexFunc(shown, func(s findings.Finding) bool { return s.Test == r.Test })
				if k < 0 || !speaks(r, f.ID) {
					continue
				}
				line := shown[k].Title + ": " + english.Lower(strings.TrimSuffix(shown[k].Say, ".")) + "."
				if !slices.Contains(out, line) {
					out = append(out, line)
				}
			}
		}
	}
	for i := range sc.Map.Faults {
		failed := &sc.Map.Faults[i]
		for _, c := range failed.Because {
			if f := sc.Causes[failed.ID+"/"+c.ID]; f != nil {
				out = append(out, fmt.Sprintf("%s: cause looked for. %s %s.", failed.Name, c.Ask, english.Upper(f.Of.(*record.CauseAnswered).Answer)))
			}
		}
	}
	return out
}

// todo is what the customer should do, or wait for: what reads as it should not and
// is of no part that was fitted since, parts that are to come, what was left off.
func todo(sc *scene.Scene) []string {
	out := []string{}
	last := map[string]int{}
	for i := range sc.Facts {
		if b, is := sc.Facts[i].Of.(*record.ReadingTaken); is {
			last[b.Test] = i
		}
	}
	var shown []findings.Finding
	if len(last) > 0 {
		_, shown = findings.Results(sc, make([]int, len(sc.Facts)))
	}
	for _, s := range shown {
		k, is := last[s.Test]
		if !is || sc.Facts[k].ID != s.Event || s.Verdict != reading.High && s.Verdict != reading.Low {
			continue
		}
		mended := slices.ContainsFunc(sc.Facts[k:], func(f record.Fact) bool { _, fitted := f.Of.(*record.PartFitted); return fitted })
		if !mended {
			out = append(out, s.Title+": "+english.Lower(strings.TrimSuffix(s.Say, "."))+". Have it put right.")
		}
	}
	for _, g := range sc.Goals {
		if g.Reason == "waiting" {
			out = append(out, sc.Names.Goal(g.Goal)+": we come again with the part.")
		}
	}
	if len(sc.Stays) > 0 {
		out = append(out, "It was left shut off. Do not use it.")
	}
	return out
}

// evidenceSays is how it was known that a part was at fault.
func evidenceSays(grade string) string {
	if grade == "assumed" {
		return "assumed: nothing measured or seen"
	}
	return grade
}

// pieceLine is a piece of a kit or set that was not fitted.
func pieceLine(sc *scene.Scene, b *record.PartFitted) string {
	say := fmt.Sprintf("%s %s", sc.Names.Item(b.Piece), b.As)
	if b.Reason != "" {
		say += ": " + b.Reason
	}
	return say + "."
}

// confirmOf is a confirmation of the map; one that says its id where there is none.
func confirmOf(sc *scene.Scene, id string) machine.Confirm {
	move, n, _ := strings.Cut(id, "/confirm/")
	mv := sc.Map.Move(move)
	if k, err := strconv.Atoi(n); mv != nil && mv.Back != nil && err == nil && k >= 1 && k <= len(mv.Back.Confirm) {
		return mv.Back.Confirm[k-1]
	}
	return machine.Confirm{Say: id}
}
