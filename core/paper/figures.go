package paper

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"evensteps/core/energy"
	"evensteps/core/english"
	"evensteps/core/findings"
	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/reading"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/steps"
)

// proofs are what was measured before the work, of each energy its last.
func proofs(sc *scene.Scene) []Figure {
	out := []Figure{}
	for _, id := range slices.Sorted(maps.Keys(sc.Proofs)) {
		p := sc.Proofs[id]
		at := p.Fact.When()
		fig := Figure{What: sc.Names.Item(id) + " off, before work", Value: p.Highest, By: sc.FullName(p.Fact.By), At: &at, Note: p.Note}
		if e := sc.Map.Energy(id); e != nil && p.How == energy.Meter && (e.Kind == "mains" || e.Kind == "charge") {
			fig.Limit = fmt.Sprintf("under %.0f V", energy.SafeVolts)
		}
		if p.Proof != nil {
			fig.Meter = p.Proof.Meter
			fig.Note = english.Sentences(fig.Note, sc.Overdue(fig.Meter, at))
		}
		out = append(out, fig)
	}
	return out
}

// neat is a value as it was read, with the sign of its unit: no digit changes.
var neat = strings.NewReplacer(" ohms", " Ω", " ohm", " Ω", " uF", " µF", " degC", " °C", " degF", " °F").Replace

// limit is what an expectation asks for, in few words; empty where it cannot tell
// from the reading alone.
func limit(sc *scene.Scene, e *machine.Expect, s reading.Setting) string {
	s.Units = sc.Units()
	l, err := reading.Within(e, s)
	if err != nil {
		return ""
	}
	return l.Short()
}

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
		limits := steps.EarthLimit.Short()
		if t := findings.TestOf(sc, b.Test); t != nil {
			with, _ := findings.Setting(sc, b) // what cannot be read gives no limit
			limits = limit(sc, t.Expect, with)
		}
		out = append(out, Figure{What: what, Value: neat(b.Value), Limit: limits, Meter: b.Meter, By: sc.FullName(sc.Facts[i].By), At: &at, Note: sc.Overdue(b.Meter, at)})
	}
	return out
}

// measuredBack are the values taken on the way back and in the finals.
func measuredBack(sc *scene.Scene) []Figure {
	var out []Figure
	add := func(what, value, limits, meter string, f *record.Fact) {
		at := f.When()
		out = append(out, Figure{What: what, Value: neat(value), Limit: limits, Meter: meter, By: sc.FullName(f.By), At: &at, Note: sc.Overdue(meter, at)})
	}
	for _, t := range sc.Turns {
		for _, id := range slices.Sorted(maps.Keys(t.Earths)) {
			b := t.Earths[id].Of.(*record.ReadingTaken)
			add(sc.Names.Item(id)+" to the frame", b.Value, steps.EarthLimit.Short(), b.Meter, t.Earths[id])
		}
		for _, id := range slices.Sorted(maps.Keys(t.Confirms)) {
			if b := t.Confirms[id].Of.(*record.Confirmed); b.Value != "" {
				c := confirmOf(sc, id)
				add(c.Say, b.Value, limit(sc, c.Expect, reading.Setting{}), "", t.Confirms[id])
			}
		}
	}
	for _, id := range slices.Sorted(maps.Keys(sc.Finals)) {
		if b := sc.Finals[id].Of.(*record.FinalResult); b.Value != nil {
			limits := ""
			if f := sc.Map.Final(id); f != nil {
				limits = limit(sc, f.Expect, reading.Setting{})
			}
			add(sc.Names.Move(id), *b.Value, limits, "", sc.Finals[id])
		}
	}
	return out
}
