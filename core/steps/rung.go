package steps

import (
	"maps"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/plan"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/tray"
	"evensteps/core/view"
)

// Rungs makes the ladder's rows: moves, with the checks where they belong.
func Rungs(sc *scene.Scene) []Rung {
	rungs := []Rung{}
	shown := shown(sc)
	for _, id := range sc.Order {
		rungs = append(rungs, rung(sc, id, shown(id)))
	}
	for i := range sc.Map.Checks {
		c := &sc.Map.Checks[i]
		st := sc.Checks[c.ID]
		planned := slices.ContainsFunc(sc.WayBack(), func(s plan.Step) bool { return s.Check == c.ID })
		if !planned && (st == nil || st.Passed == nil && len(st.Since) == 0) {
			continue
		}
		at := checkPlace(rungs, c)
		check := checkRung(sc, c, st)
		if !shown(c.ID) {
			check.Home = nil
		}
		rungs = slices.Insert(rungs, at, check)
	}
	together(sc, rungs)
	for _, r := range rungs {
		r.OutSide.sum(false)
		r.Home.sum(true)
	}
	return rungs
}

// shown tells which steps are drawn with both their sides: all, or where one viewer's
// screen is made, the one that is on with those that may share its touch, and the one
// that is looked at.
func shown(sc *scene.Scene) func(id string) bool {
	if !sc.Viewer.OneScreen {
		return func(string) bool { return true }
	}
	near := append([]string{sc.On.Move, sc.Viewer.Looking}, ahead(sc)...)
	return func(id string) bool { return slices.Contains(near, id) }
}

// checkPlace finds a check's row: below the lowest rung that may come back only
// after it; or else above the highest that must be back before it.
func checkPlace(rungs []Rung, c *machine.Check) int {
	for i := len(rungs) - 1; i >= 0; i-- {
		if slices.Contains(c.Before, rungs[i].ID) {
			return i + 1
		}
	}
	for i := range rungs {
		if slices.Contains(c.After, rungs[i].ID) {
			return i
		}
	}
	return len(rungs)
}

func rung(sc *scene.Scene, id string, shown bool) Rung {
	mv := sc.Map.Move(id)
	c := sc.On
	r := Rung{ID: id, Kind: "move", Title: id, Kept: []Kept{}, Out: Todo, Back: Todo, Current: c.Move == id && (c.Kind == "out" || c.Kind == "back")}
	t := sc.TurnOf(id)
	switch {
	case t == nil || len(t.Outs) == 0:
		if t != nil && t.Half["out"] {
			r.Out = Half
		}
	case mv != nil && mv.OneWay && !sc.Stands(id):
		r.Out = Lapsed
	case slices.Contains(sc.WayIn(), id): // to be made again
		r.Out = Todo
	case slices.Contains(sc.Stays, id): // left off on purpose
		r.Out, r.Back = Done, None
	case t.Back != nil:
		r.Out, r.Back = Done, Done
	default:
		r.Out, r.Back = Done, Due
		if t.Half["back"] {
			r.Back = Half
		}
	}
	if mv == nil {
		r.Sub = "not in the map"
		return r
	}
	if sc.Base.Move(id) == nil {
		r.Kind = "own"
	}
	r.Title = mv.Name()
	if mv.OneWay {
		r.Back = None
	}
	r.Sub = sub(sc, mv, t)
	if !shown {
		return r
	}
	r.Kept = kept(sc, about(mv))
	r.OutSide = outSide(sc, mv, t)
	answers := otherAnswers(sc, mv)
	r.OutSide.Mend = append(slices.Clone(answers), offAlready(sc, mv)...)
	if !mv.OneWay {
		r.Home = backSide(sc, mv, t)
		r.Home.Mend = answers
		if r.Current && c.Side == "back" {
			r.Title = mv.Name()
		}
	}
	return r
}

// sub is the second line of a rung: what came off with it and where it lies.
func sub(sc *scene.Scene, mv *machine.Move, t *record.Turn) string {
	var letters, words []string
	var held english.Tally
	for i := range mv.Fasteners {
		l := &mv.Fasteners[i]
		n, noun := l.Count, tray.Noun(sc.Map.Fastener(l.Kind))
		if t != nil {
			if counted, known, _ := t.Total(named.LotID(mv, i), l.Count, "out"); known {
				n = counted
			}
		}
		held.Add(n, noun)
		if letter := sc.Letters[named.LotID(mv, i)]; letter != "" && !slices.Contains(letters, letter) {
			letters = append(letters, letter)
		}
	}
	if say := held.String(); say != "" {
		words = append(words, say)
	}
	if len(words) > 0 && len(letters) > 0 {
		slices.Sort(letters)
		words = []string{strings.Join(words, ", ") + " · " + strings.Join(letters, ", ")}
	}
	for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
		p := sc.Proofs[id]
		if mv.Takes[id] != machine.Proven || p == nil {
			continue
		}
		if !p.Stands {
			return "expired, test again"
		}
		if ago := sc.Unheard(p); ago != "" {
			return p.Highest + ", as heard " + ago
		}
		return p.Highest + ", stands"
	}
	if mv.People == 2 {
		words = append(words, "2 people")
	}
	if mv.Blind {
		words = append(words, "by feel")
	}
	if len(words) == 0 {
		return mv.Face
	}
	return strings.Join(words, ", ")
}

func checkRung(sc *scene.Scene, c *machine.Check, st *record.CheckState) Rung {
	r := Rung{ID: c.ID, Kind: "check", Kept: kept(sc, func(on string) bool { return on == c.ID }), Title: c.Title, Out: None, Back: Todo, Sub: "check", Current: sc.On.Kind == "check" && sc.On.Move == c.ID}
	if len(c.Before) > 0 {
		if mv := sc.Map.Move(c.Before[0]); mv != nil {
			r.Sub = "check, before " + english.Lower(mv.Name())
		}
	}
	if st != nil {
		switch {
		case st.Failed != nil:
			r.Back, r.Sub = Half, "failed, still due"
		case len(st.Since) > 0:
			r.Back = Due
		case st.Passed != nil:
			r.Back, r.Sub = Done, "passed"
		}
	}
	s := task(sc, &c.Task, c.Pass)
	passed, failed := view.Made("check.result", map[string]any{"check": c.ID, "passed": true}), view.Made("check.result", map[string]any{"check": c.ID, "passed": false})
	verdict(sc, s, &c.Task, c.Pass, passed, failed, "it stays due")
	s.Said = sc.Said[c.ID]
	prove(sc, s, provingAfter(sc, c), nil)
	r.Home = ticketed(sc, s, c.Ticket)
	return r
}

// mostKept is how many records of a rung are shown, the newest first.
const mostKept = 12

// kept are the records that speak of a rung, the newest first.
func kept(sc *scene.Scene, concerns func(string) bool) []Kept {
	out := []Kept{}
	for i := len(sc.Facts) - 1; i >= 0 && len(out) < mostKept; i-- {
		f := &sc.Facts[i]
		if on := record.Subject(f); on != "" && concerns(on) {
			out = append(out, Kept{f.ID, english.Upper(sc.Short(f)), sc.Name(f.By), f.When()})
		}
	}
	return out
}
