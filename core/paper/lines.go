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
	"evensteps/core/machine"
	"evensteps/core/named"
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
	fitted, how := map[string][]string{}, map[string]string{}
	for _, key := range slices.Sorted(maps.Keys(sc.Pieces)) {
		b := sc.Pieces[key].Of.(*record.PartFitted)
		if scene.FittedAs(sc.Pieces[key]) != "fitted" {
			continue
		}
		fitted[b.Part] = append(fitted[b.Part], english.Lower(sc.Names.Item(b.Piece)))
		if sc.Map.Part(b.Part) != nil {
			how[b.Part] = evidenceSays(b.Evidence)
		} else if b.Number != "" { // a part that no map knows
			how[b.Part] = " Number " + b.Number + "."
		}
	}
	for _, id := range slices.Sorted(maps.Keys(fitted)) {
		name, number := id, ""
		if p := sc.Map.Part(id); p != nil {
			name, number = p.Name, ", number "+p.Number
		}
		lines = append(lines, fmt.Sprintf("%s replaced (%s)%s.%s", name, strings.Join(fitted[id], ", "), number, how[id]))
	}
	if sc.Decided != nil {
		for _, id := range scene.Mended(sc.Decided.Of.(*record.Decided)) {
			lines = append(lines, fault.Name(sc.Map, id)+": fixed, nothing was opened.")
		}
	}
	return lines
}

// evidenceSays is how it was known that a part was at fault.
func evidenceSays(grade string) string {
	switch grade {
	case "measured", "seen", "told":
		return " At fault: " + grade + "."
	case "assumed":
		return " At fault: assumed, nothing was measured or seen that shows it."
	}
	return ""
}

// pieceLine is a piece of a kit or set that was not fitted.
func pieceLine(sc *scene.Scene, b *record.PartFitted) string {
	say := fmt.Sprintf("%s %s", sc.Names.Item(b.Piece), b.As)
	if b.Reason != "" {
		say += ": " + b.Reason
	}
	return say + "."
}

// confirmWords is what a confirmation says.
func confirmWords(sc *scene.Scene, id string) string {
	move, n, _ := strings.Cut(id, "/confirm/")
	mv := sc.Map.Move(move)
	if k, err := strconv.Atoi(n); mv != nil && mv.Back != nil && err == nil && k >= 1 && k <= len(mv.Back.Confirm) {
		return mv.Back.Confirm[k-1].Say
	}
	return id
}
