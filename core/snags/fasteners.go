package snags

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/tray"
	"evensteps/core/view"
)

func lotSnags(sc *scene.Scene, t *record.Turn, mv *machine.Move, i int, out string, add func(Snag)) {
	l := &mv.Fasteners[i]
	id := named.LotID(mv, i)
	noun, where := lotWords(sc, mv, i)
	letter := sc.Letters[id]
	n, known, differs := t.Total(id, l.Count, "out")
	if differs {
		add(countsDiffer(sc, t, id, "out", out, where))
	}
	if !known {
		n = l.Count
	}
	unsettled(sc, t, mv, i, add)
	if t.Back == nil {
		if !known && !t.Found && scene.MustCount(sc, l) {
			add(uncounted(sc, id, "out", out, mv, fmt.Sprintf("%s: not counted as they came out.", where), l.Count))
		}
		return
	}
	back, counted, differs := t.Total(id, n, "back")
	if differs {
		add(countsDiffer(sc, t, id, "back", t.Back.ID, where))
	}
	if !counted {
		if scene.MustCount(sc, l) || t.Found {
			add(uncounted(sc, id, "back", t.Back.ID, mv, fmt.Sprintf("%s: not counted back in.", where), n))
		}
		return
	}
	short := n - back
	for _, f := range t.Settled[id] {
		switch b := f.Of.(*record.LotSettled); b.As {
		case "replaced", "as-found":
			short = max(min(short, 0), short-b.Count)
		case "over":
			short = min(max(short, 0), short+b.Count)
		}
	}
	if short != 0 {
		switch {
		case short > 0 && t.Astray(id) > 0: // said already
		case short > 0:
			add(Snag{
				ID: "fastener-short:" + id + ":" + t.Back.ID, Kind: "fastener-short", On: id, Rung: mv.ID,
				Say: fmt.Sprintf("%d of %s back in %s.", back, english.Count(n, noun), where), Do: fmt.Sprintf("%s still in tray %s, or say what became of it.", english.Upper(english.Count(short, noun)), letter),
				Touches: []view.Touch{
					view.Button("All "+fmt.Sprint(n)+" are in", "", view.Made("lot.counted", map[string]any{"lot": id, "side": "back", "count": n})),
					settle(id, "replaced", short, "New "+english.Plural(short, noun)+" fitted"),
					settle(id, "lost", short, "Lost"),
				},
			})
		case short < 0:
			add(Snag{
				ID: "fastener-over:" + id + ":" + t.Back.ID, Kind: "fastener-over", On: id, Rung: mv.ID,
				Say: fmt.Sprintf("%s: %d put back in, %d were removed.", where, back, n), Do: "Where is it from?",
				Touches: []view.Touch{settle(id, "over", -short, "It was missing before")},
			})
		}
	}
}

// lotWords are what one counts of a lot, and how the lot is called.
func lotWords(sc *scene.Scene, mv *machine.Move, i int) (noun, where string) {
	kind := sc.Map.Fastener(mv.Fasteners[i].Kind)
	return tray.Noun(kind), mv.Name() + ", " + tray.KindName(kind)
}

// unsettled: fasteners that were said to be dropped, lost or in another place,
// until they are found again or replaced. Where a dropped one may lie, the way to
// it can be planned.
func unsettled(sc *scene.Scene, t *record.Turn, mv *machine.Move, i int, add func(Snag)) {
	id := named.LotID(mv, i)
	noun, where := lotWords(sc, mv, i)
	n := t.Astray(id)
	if n == 0 {
		return
	}
	var last *record.Fact
	for _, f := range t.Settled[id] {
		if b := f.Of.(*record.LotSettled); b.As == "dropped" || b.As == "lost" || b.As == "swapped" {
			last = f
		}
	}
	b := last.Of.(*record.LotSettled)
	say, found := fmt.Sprintf("%s: %s %s", where, english.Count(n, noun), b.As), "Found again"
	if b.As == "swapped" {
		say, found = fmt.Sprintf("%s: %s in another place", where, english.Count(n, noun)), "Put right"
	}
	s := Snag{
		ID: "fastener-unsettled:" + id + ":" + last.ID, Kind: "fastener-unsettled", On: id, Rung: t.Move,
		Say: say + ".", Do: "Find it, or fit a new one and say so.",
		Touches: []view.Touch{settle(id, "found", n, found), settle(id, "replaced", n, "New "+english.Plural(n, noun)+" fitted")},
	}
	if it := sc.Map.Item(b.Where); it != nil {
		s.Say = fmt.Sprintf("%s, perhaps into the %s.", say, english.Lower(it.Name))
		goal := "item:" + it.ID + "=" + string(machine.Away)
		if sc.Level[it.ID] != machine.Away && !slices.ContainsFunc(sc.Goals, func(g *record.Goal) bool { return g.Goal == goal && g.Open }) {
			s.Touches = append(s.Touches, view.Button("Plan the way to it", "opens the "+english.Lower(it.Name), view.Made("goal.added", record.GoalAdded{Goal: goal})))
		}
	} else if b.Where != "" {
		s.Say = fmt.Sprintf("%s: %s.", say, b.Where)
	}
	add(s)
}

func settle(lot, as string, n int, label string) view.Touch {
	return view.Button(label, "", view.Made("lot.settled", map[string]any{"lot": lot, "as": as, "count": n}))
}

func countsDiffer(sc *scene.Scene, t *record.Turn, lot, side, event, where string) Snag {
	var says []string
	var ids []string
	counts := t.Counts[lot+"|"+side]
	for _, person := range slices.Sorted(maps.Keys(counts)) {
		f := counts[person]
		says = append(says, fmt.Sprintf("%s counted %d", sc.Name(person), f.Of.(*record.LotCounted).Count))
		ids = append(ids, f.ID)
	}
	s := Snag{
		ID: "count-differs:" + lot + "|" + side + ":" + event, Kind: "count-differs", On: lot, Rung: named.Head(lot),
		Say: where + ": " + strings.Join(says, ", ") + ".", Do: "Count the tray together.",
	}
	for _, person := range slices.Sorted(maps.Keys(counts)) {
		n := counts[person].Of.(*record.LotCounted).Count
		s.Touches = append(s.Touches, view.Button(fmt.Sprintf("It is %d", n), "", view.Made("lot.counted", map[string]any{"lot": lot, "side": side, "count": n, "settles": ids})))
	}
	return s
}

func uncounted(sc *scene.Scene, lot, side, event string, mv *machine.Move, say string, n int) Snag {
	return Snag{
		ID: "fastener-uncounted:" + lot + "|" + side + ":" + event, Kind: "fastener-uncounted", On: lot, Rung: mv.ID, Say: say, Do: "Count them.",
		Touches: []view.Touch{view.Button(fmt.Sprintf("%d counted", n), "", view.Made("lot.counted", map[string]any{"lot": lot, "side": side, "count": n}))},
	}
}
