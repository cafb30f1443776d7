// Package bench holds the benchmarks: run them with make bench. Figures are
// compared as ratios within one run; docs/performance.md keeps the last ones.
package bench

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"evensteps/core/fault"
	"evensteps/core/job"
	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/plan/plantest"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/tray"
	"evensteps/demo"
	"evensteps/library"
)

func dryer(b *testing.B) *machine.Map {
	b.Helper()
	m, err := library.Map("tidemoor-tv6")
	require.NoError(b, err)
	return m
}

// Planning any part of a library map from cold, on electric machines and on
// gas ones.
func BenchmarkPlanLibrary(b *testing.B) {
	m := dryer(b)
	for _, fuel := range m.Option("fuel").Values {
		answers := map[string]string{"fuel": fuel}
		for _, part := range m.With(answers).Parts {
			b.Run(fuel+"/"+part.ID, func(b *testing.B) {
				for b.Loop() {
					_, err := plan.Make(m, plan.Request{Goals: []string{"replace:" + part.ID}, Answers: answers})
					require.NoError(b, err)
				}
			})
		}
	}
}

// The same little maps by the planner and by a plain pseudo-Boolean
// formulation, solved with gophersat.
func BenchmarkAgainstPseudoBoolean(b *testing.B) {
	const maps, moves = 10, 8
	each := func(b *testing.B, solve func(m *machine.Map, goal string)) {
		for b.Loop() {
			for seed := range uint64(maps) {
				solve(plantest.Small(seed, moves))
			}
		}
	}
	b.Run("planner", func(b *testing.B) {
		each(b, func(m *machine.Map, goal string) {
			_, err := plan.Make(m, plan.Request{Goals: []string{goal}})
			require.NoError(b, err)
		})
	})
	b.Run("pseudo-boolean", func(b *testing.B) {
		each(b, func(m *machine.Map, goal string) { plantest.PseudoBoolean(m, goal) })
	})
}

// Random maps of sixty moves, and of two hundred: the median, the 99th
// percentile, and how many plans are shown to be the least.
func BenchmarkPlanSixtyMoves(b *testing.B) { randomMaps(b, 60, 200) }

func BenchmarkPlanTwoHundredMoves(b *testing.B) { randomMaps(b, 200, 100) }

func randomMaps(b *testing.B, moves, maps int) {
	var took []time.Duration
	proven := 0
	for b.Loop() {
		took, proven = nil, 0
		for seed := range uint64(maps) {
			m, goals := plantest.RandomOf(seed, moves)
			began := time.Now()
			p, err := plan.Make(m, plan.Request{Goals: goals})
			took = append(took, time.Since(began))
			require.NoError(b, err)
			if p.Proven {
				proven++
			}
		}
	}
	slices.Sort(took)
	b.ReportMetric(float64(took[maps/2].Microseconds())/1000, "ms-median")
	b.ReportMetric(float64(took[maps*99/100].Microseconds())/1000, "ms-p99")
	b.ReportMetric(float64(proven)*100/float64(maps), "%proven")
}

// The next test for each complaint of the library's dryer, from a closed
// machine, nothing remembered.
func BenchmarkNextTest(b *testing.B) {
	m := dryer(b)
	for _, c := range m.With(nil).Complaints {
		b.Run(c.ID, func(b *testing.B) {
			for b.Loop() {
				_, ok := fault.Find(fault.Case{Map: m, Complaint: c.ID})
				require.True(b, ok)
			}
		})
	}
}

// Folding a job's events and making its view, its plan known already.
func BenchmarkFoldAndView(b *testing.B) {
	m := dryer(b)
	for _, events := range []int{50, 500} {
		b.Run(fmt.Sprint(events), func(b *testing.B) {
			book := filled(b, m, events)
			viewer := scene.Viewer{Person: "jonna", Device: "tab"}
			for b.Loop() {
				book.View(viewer, time.Now())
			}
		})
	}
}

// Trays for forty lots, each of a kind of its own that is like about a third of
// the others: the fewest, shown to be so.
func BenchmarkTraysForFortyLots(b *testing.B) {
	r := rand.New(rand.NewPCG(1, 40))
	m := &machine.Map{}
	var lots []tray.Lot
	for i := range 40 {
		f := machine.Fastener{ID: fmt.Sprintf("k%d", i), Name: "Screw", Drive: "hex", Size: fmt.Sprintf("%.1f mm", 4+6*r.Float64()), Head: []string{"pan", "hex-washer"}[r.IntN(2)], Length: fmt.Sprintf("%d mm", 10+i)}
		m.Fasteners = append(m.Fasteners, f)
		mv := machine.Move{ID: fmt.Sprintf("m%d", i), Title: f.ID, Fasteners: []machine.Lot{{Kind: f.ID, Count: 2}}}
		m.Moves = append(m.Moves, mv)
		lots = append(lots, tray.LotsOf(&mv)...)
	}
	for _, have := range []int{tray.Enough, 6, 3} {
		b.Run(fmt.Sprint(have), func(b *testing.B) {
			for b.Loop() {
				a := tray.Arrange(m, lots, have)
				require.True(b, a.Proven)
				b.ReportMetric(float64(a.Fewest), "fewest")
			}
		})
	}
}

// The view as the browser gets it, over its JSON.
func BenchmarkViewAsJSON(b *testing.B) {
	book := filled(b, dryer(b), 50)
	v := book.View(scene.Viewer{Person: "jonna", Device: "tab"}, time.Now())
	for b.Loop() {
		out, err := json.Marshal(v)
		require.NoError(b, err)
		b.ReportMetric(float64(len(out)), "bytes")
	}
}

// filled plays the job to the work at the bottom, then counts one lot again and
// again until there are so many events.
func filled(b *testing.B, m *machine.Map, events int) *job.Book {
	b.Helper()
	p := demo.NewPlayer(m, scene.Job{ID: "j-1", Complaint: "thumps"}, "jonna", "tab", time.Now().Add(-time.Hour), 1)
	require.NoError(b, p.Record("goal.added", record.GoalAdded{Goal: "replace:rollers"}))
	require.NoError(b, p.Until(func(v *job.View) bool {
		return v.Current.Kind == "back" && v.Current.Move == "toe-off" || len(p.Events()) >= events
	}))
	for len(p.Events()) < events {
		require.NoError(b, p.Record("lot.counted", record.LotCounted{Lot: "toe-off/1", Side: "back", Count: 2}))
	}
	return p.Book
}
