package job

import (
	"fmt"
	"slices"

	"evensteps/core/bench"
	"evensteps/core/english"
	"evensteps/core/journey"
	"evensteps/core/paper"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/snags"
	"evensteps/core/steps"
	"evensteps/core/view"
)

// Of makes the view of a scene.
func Of(sc *scene.Scene) *View {
	w := &View{
		Job: sc.Job.ID, Title: sc.Job.Title, Place: sc.Job.Place, Words: sc.Job.Words, Machine: sc.Map.Title,
		Current: steps.Now(sc), PhotoOn: sc.On.Photo(), Possible: append([]string{}, sc.Possible...), Goals: goals(sc), Here: here(sc), Arrive: arrive(sc),
		Bags: sc.Bags, Trays: bench.Trays(sc), Loose: bench.NoLonger(sc), Rungs: steps.Rungs(sc), Stops: stops(),
		Visit: journey.Of(sc), Undo: undo(sc), TakenBack: takenBack(sc), Differences: paper.Differences(sc), Plan: &PlanOut{Error: sc.NoPlan},
	}
	if sc.Plan != nil {
		w.Plan = &PlanOut{Plan: *sc.Plan}
	}
	inside := bench.Inside(sc)
	w.Temporaries, w.Cuts, w.Belongings, w.Inside = inside.Temporaries, inside.Cuts, inside.Belongings, inside.Rows
	w.Energies, w.Worst = bench.Energies(sc)
	w.Off, w.Plugs = bench.Away(sc)
	w.Snags, w.OutOfUse = snags.Of(sc)
	w.Between = snags.Still(sc, w.Snags, bench.Lying(sc))
	if sc.SignedBy != nil {
		w.Signed = &view.Stamp{By: sc.FullName(sc.SignedBy.By), At: sc.SignedBy.When()}
	}
	sum(sc, w)
	w.Foot = foot(sc, w.Rungs)
	w.About = about(sc, w.Visit.Whose)
	from := paper.From{
		Headline: w.Headline, Standing: w.Standing, Even: w.Even, Closed: w.Closed, Rungs: w.Rungs, Current: w.Current, Energies: w.Energies, Loose: w.Loose, Off: w.Off,
		Plugs: w.Plugs, Trays: w.Trays, Inside: inside, Snags: w.Snags, OutOfUse: w.OutOfUse, Bring: w.Visit.Bring,
	}
	w.Sheet, w.HandOver = paper.SheetOf(sc, from), paper.HandOverOf(sc, from)
	w.Visit.Did, w.Visit.Mended = paper.Past(sc, from)
	return w
}

func goals(sc *scene.Scene) []Goal {
	out := []Goal{}
	for _, g := range sc.Goals {
		out = append(out, Goal{g.Goal, sc.Names.Goal(g.Goal), g.Open, g.Reason})
	}
	return out
}

// here are the names of those at the machine, the viewer first.
func here(sc *scene.Scene) []string {
	out := []string{}
	for _, p := range sc.Here {
		if p == sc.Viewer.Person {
			out = append([]string{sc.Name(p)}, out...)
		} else {
			out = append(out, sc.Name(p))
		}
	}
	return out
}

// arrive is how this viewer says that they are at the machine.
func arrive(sc *scene.Scene) []view.Make {
	me := sc.Viewer.Person
	if me == "" || slices.Contains(sc.Here, me) || sc.SignedBy != nil || sc.Job.People[me].Role == scene.Office {
		return []view.Make{}
	}
	return []view.Make{view.Made("visit.began", record.VisitBegan{})}
}

// stops are the reasons to stop, each with what to do first.
func stops() []view.Choice {
	out := []view.Choice{}
	for _, r := range steps.Stops {
		out = append(out, view.Choice{Label: english.Upper(r.Why), Says: r.First, Makes: []view.Make{view.Made("stopped", map[string]string{"why": r.Why})}})
	}
	return out
}

// takenBack are others' records that somebody took back.
func takenBack(sc *scene.Scene) []view.Remark {
	out := []view.Remark{}
	for _, f := range sc.TakenBack {
		out = append(out, view.Remark{Text: takenBackSay(sc, f), By: sc.FullName(f.By), At: f.When()})
	}
	return out
}

// undo finds this viewer's last touch: the facts of one device that bear the
// same moment, none of them withdrawn.
func undo(sc *scene.Scene) *Undo {
	var last *record.Fact
	var ids []string
	for i := len(sc.Facts) - 1; i >= 0; i-- {
		f := &sc.Facts[i]
		if f.By != sc.Viewer.Person || f.Device != sc.Viewer.Device {
			continue
		}
		switch f.Of.(type) {
		case *record.Withdrawn, *record.VisitBegan, *record.GoalAdded, *record.TookOver:
			continue
		}
		if last == nil {
			last = f
		} else if f.Since != last.Since || f.Run != last.Run || !f.Wall.Equal(last.Wall) {
			break
		}
		ids = append(ids, f.ID)
	}
	if last == nil {
		return nil
	}
	return &Undo{Say: sc.Short(last), Events: ids}
}

// takenBackSay names what somebody took back of another's.
func takenBackSay(sc *scene.Scene, f *record.Fact) string {
	o := sc.Withdrawn(f.Of.(*record.Withdrawn).Event)
	if o == nil {
		return "A record"
	}
	return fmt.Sprintf("%s, recorded by %s", english.Upper(sc.Short(o)), sc.FullName(o.By))
}
