package bench

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"evensteps/core/job"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/demo"
	"evensteps/library"
)

// ownSteps is a job with so many own steps, each held by two screws; every third
// waits for the one before it. All are out but the last.
func ownSteps(b testing.TB, on string, n int) *demo.Player {
	b.Helper()
	m, err := library.Map(on)
	require.NoError(b, err)
	p := demo.NewPlayer(m, scene.Job{ID: "j-1"}, "ana", "d", time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC), 1)
	require.NoError(b, p.Record("goal.added", record.GoalAdded{Goal: record.Work}))
	for i := range n {
		own := record.RungOwn{
			ID: fmt.Sprintf("own-%d", i), Title: fmt.Sprintf("Panel %d", i), Face: machine.Faces[i%3], Type: "cover",
			Lots: []record.OwnLot{{Drive: "torx", Size: "T20", Count: 2}}, Minutes: machine.Minutes{Out: 1, Back: 2},
		}
		if i%3 == 2 {
			own.Needs = machine.Needs{fmt.Sprintf("own-%d", i-1): machine.Away}
		}
		if on != "plain-oven" {
			own.Before = []string{"top-off"}
		}
		require.NoError(b, p.Record("rung.own", own))
		if i < n-1 {
			require.NoError(b, p.Record("rung.out", record.RungOut{Move: own.ID}))
		}
	}
	require.NoError(b, p.Record("goal.added", record.GoalAdded{Goal: fmt.Sprintf("item:own-%d=away", n-1)}))
	return p
}

// A hundred thousand facts of one job: read, put in order, folded and shown.
func BenchmarkManyFacts(b *testing.B) {
	p := demo.NewPlayer(dryer(b), scene.Job{ID: "j-1", Complaint: "thumps"}, "jonna", "tab", time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC), 1)
	require.NoError(b, p.Record("goal.added", record.GoalAdded{Goal: "replace:rollers"}))
	require.NoError(b, p.Until(func(v *job.View) bool { return v.Current.Move == "front-off" }))
	events := p.Events()
	last := events[len(events)-1]
	for len(events) < 100_000 {
		e := last
		at := e.T.Add(time.Duration(len(events)) * time.Second)
		e.ID, e.N, e.Num, e.T, e.Wall, e.Kind = fmt.Sprintf("01a20000-0000-7000-8000-%012d", len(events)), len(events), len(events)+1, &at, at, "lot.counted"
		e.Body = []byte(`{"lot":"toe-off/1","side":"out","count":2}`)
		if len(events)%10 == 0 {
			e.Kind, e.Body = "note", []byte(`{"text":"as before","on":"toe-off"}`)
		}
		events = append(events, e)
	}
	for b.Loop() {
		var facts []record.Fact
		for _, e := range events {
			facts = append(facts, record.ReadKept(e))
		}
		book := job.Open(p.Book.Map, p.Book.Job)
		book.Add(facts...)
		book.View(scene.Viewer{Person: "jonna", Device: "tab"}, p.Clock)
	}
}

// A machine that no map covers, with few and with many own steps, and a map with
// many: a view after a touch, the plan new.
func BenchmarkOwnSteps(b *testing.B) {
	for _, c := range []struct {
		on string
		n  int
	}{{"plain-oven", 5}, {"plain-oven", 20}, {"plain-oven", 40}, {"plain-oven", 56}, {"tidemoor-tv6", 40}, {"tidemoor-tv6", 160}} {
		p := ownSteps(b, c.on, c.n)
		b.Run(fmt.Sprintf("%s-%d", c.on, c.n), func(b *testing.B) {
			for b.Loop() {
				book := job.Open(p.Book.Map, p.Book.Job)
				book.Add(p.Book.Facts()...)
				book.View(scene.Viewer{Person: "ana", Device: "d"}, p.Clock)
			}
		})
	}
}
