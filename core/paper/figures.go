package paper

import (
	"maps"
	"slices"

	"evensteps/core/findings"
	"evensteps/core/named"
	"evensteps/core/record"
	"evensteps/core/scene"
)

// readings are those of the search. One that was taken again after a part was
// fitted stands as a pair, before and after.
func readings(sc *scene.Scene) []Figure {
	fitted, taken := map[int]bool{}, map[string]int{}
	after := false
	for i := range sc.Facts {
		switch b := sc.Facts[i].Of.(type) {
		case *record.PartFitted:
			after = true
		case *record.ReadingTaken:
			fitted[i] = after
			taken[b.Test]++
		}
	}
	var out []Figure
	for i := range sc.Facts {
		b, is := sc.Facts[i].Of.(*record.ReadingTaken)
		if !is || findings.TestOf(sc, b.Test) == nil && b.Test != named.EarthPath {
			continue
		}
		what := sc.Names.Test(b.Test)
		switch {
		case taken[b.Test] > 1 && fitted[i]:
			what += ", after"
		case taken[b.Test] > 1:
			what += ", before"
		}
		at := sc.Facts[i].When()
		out = append(out, Figure{What: what, Value: b.Value, Meter: b.Meter, By: sc.FullName(sc.Facts[i].By), At: &at, Note: sc.Overdue(b.Meter, at)})
	}
	return out
}

// measuredBack are the values taken on the way back and in the finals.
func measuredBack(sc *scene.Scene) []Figure {
	var out []Figure
	add := func(what, value, meter string, f *record.Fact) {
		at := f.When()
		out = append(out, Figure{What: what, Value: value, Meter: meter, By: sc.FullName(f.By), At: &at, Note: sc.Overdue(meter, at)})
	}
	for _, t := range sc.Turns {
		for _, id := range slices.Sorted(maps.Keys(t.Earths)) {
			b := t.Earths[id].Of.(*record.ReadingTaken)
			add(sc.Names.Item(id)+" to the frame", b.Value, b.Meter, t.Earths[id])
		}
		for _, id := range slices.Sorted(maps.Keys(t.Confirms)) {
			if b := t.Confirms[id].Of.(*record.Confirmed); b.Value != "" {
				add(confirmWords(sc, id), b.Value, "", t.Confirms[id])
			}
		}
	}
	for _, id := range slices.Sorted(maps.Keys(sc.Finals)) {
		if b := sc.Finals[id].Of.(*record.FinalResult); b.Value != nil {
			add(sc.Names.Move(id), *b.Value, "", sc.Finals[id])
		}
	}
	return out
}
