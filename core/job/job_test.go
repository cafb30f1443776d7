package job_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"reflect"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"evensteps/core/bench"
	"evensteps/core/job"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/snags"
	"evensteps/core/steps"
	"evensteps/demo"
	"evensteps/library"
)

var nine = time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC)

func dryer(t testing.TB) *machine.Map {
	t.Helper()
	m, err := library.Map("tidemoor-tv6")
	require.NoError(t, err)
	return m
}

func begin(t testing.TB) *demo.Player {
	t.Helper()
	job := scene.Job{ID: "j-1", Title: "Canteen, dryer 2", Complaint: "thumps", People: map[string]scene.Person{"jonna": {Name: "Jonna"}, "ilse": {Name: "Ilse"}}}
	p := demo.NewPlayer(dryer(t), job, "jonna", "tab-1", nine, 1)
	require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
	require.NoError(t, p.Answer(nil))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:rollers"}))
	return p
}

// until plays on until a move is the current step.
func until(t testing.TB, p *demo.Player, kind, move string) *job.View {
	t.Helper()
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Kind == kind && v.Current.Move == move }))
	v := p.View()
	require.Equal(t, kind, v.Current.Kind)
	return v
}

func irregular(v *job.View) (kinds []string) {
	for _, s := range v.Snags {
		if !s.Regular && s.Explained == nil {
			kinds = append(kinds, s.Kind)
		}
	}
	return kinds
}

func snag(t testing.TB, v *job.View, kind string) snags.Snag {
	t.Helper()
	for _, s := range v.Snags {
		if s.Kind == kind {
			return s
		}
	}
	require.Failf(t, "no such snag", "%s among %v", kind, irregular(v))
	return snags.Snag{}
}

func rung(t testing.TB, v *job.View, id string) steps.Rung {
	t.Helper()
	for _, r := range v.Rungs {
		if r.ID == id {
			return r
		}
	}
	require.Failf(t, "no such rung", "%s", id)
	return steps.Rung{}
}

func TestAWholeJobComesOutEven(t *testing.T) {
	p := begin(t)
	v := p.View()
	assert.Equal(t, "out", v.Current.Kind)
	assert.Equal(t, "isolator-off", v.Current.Move)
	assert.Len(t, v.Rungs, 15, "fourteen moves and one check")
	assert.False(t, v.Even)

	v = until(t, p, "work", "")
	assert.Equal(t, "replace:rollers", v.Current.Goal)
	assert.Equal(t, "tested dead", v.Energies[0].Say)
	assert.Equal(t, "0.3 V", v.Energies[0].Reading)
	assert.Equal(t, "you", v.Energies[0].By)
	assert.Empty(t, v.Loose, "the drum is out, so it cannot tip")
	assert.Len(t, v.Plugs, 4)

	v = until(t, p, "check", "drum-turns")
	front := rung(t, v, "front-off")
	assert.Equal(t, steps.Due, front.Back)
	assert.Equal(t, []bench.Loose{{Say: "The drum is loose", Move: "Front"}}, v.Loose)
	for i, r := range v.Rungs {
		if r.ID == "drum-turns" {
			assert.Equal(t, "front-off", v.Rungs[i-1].ID, "the check stands between the front and the belt")
			assert.Equal(t, "belt-slack-front", v.Rungs[i+1].ID)
		}
	}

	v = until(t, p, "final", "run-warm")
	assert.Equal(t, "on again", v.Energies[0].Say)
	v = until(t, p, "sign-off", "")
	assert.True(t, v.Even)
	assert.Equal(t, "Even: all back and proven", v.Headline)
	assert.Empty(t, v.Snags)
	require.NoError(t, p.Record("signed-off", record.SignedOff{}))
	v = p.View()
	assert.True(t, v.Even)
	assert.Equal(t, "Jonna", v.Signed.By)
	assert.Contains(t, v.Sheet.Parts[0].Part, "Drum rollers")
	assert.Equal(t, "m-4", v.Sheet.Measured[0].Meter)
}

// Every part of the library can be reached, fitted and closed again, on every
// machine of its family, by one person and by two.
func TestEveryPartOfTheLibraryComesOutEven(t *testing.T) {
	machines, err := library.Maps()
	require.NoError(t, err)
	for _, m := range machines {
		for _, answers := range everyAnswer(m) {
			t.Run(fmt.Sprint(m.ID, answers), func(t *testing.T) {
				t.Parallel()
				for _, part := range m.With(answers).Parts {
					for _, people := range []string{"", "ilse"} {
						p := demo.NewPlayer(m, scene.Job{ID: "j-1"}, "jonna", "tab-1", nine, 1)
						require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
						for option, value := range answers {
							require.NoError(t, p.Record("option.answered", record.OptionAnswered{Option: option, Value: value}))
						}
						if people != "" {
							require.NoError(t, p.Record("person.here", record.PersonHere{Person: people}))
						}
						require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:" + part.ID}))
						require.NoError(t, p.Until(func(*job.View) bool { return false }), "%s, people %q", part.ID, people)
						v := p.View()
						assert.True(t, v.Even, "%s, people %q: %v", part.ID, people, v.Snags)
						assert.Equal(t, 0, v.Foot.Off)
					}
				}
			})
		}
	}
}

// A rung's second line: what came off with it and where it lies, or its face; the
// headline counts in words as far as words go.
func TestWhatARungSaysOfItself(t *testing.T) {
	p := begin(t)
	v := until(t, p, "work", "")
	subs := map[string]string{}
	for _, r := range v.Rungs {
		subs[r.ID] = r.Sub
	}
	assert.Equal(t, "6 screws · F, G", subs["front-off"], "of two trays")
	assert.Equal(t, "1 ring, 1 piece · H, I", subs["roller-l-off"])
	assert.Equal(t, "front", subs["belt-slack-front"], "nothing came off")
	assert.Equal(t, "0.3 V, stands", subs["prove-dead"])
	assert.Equal(t, "check, before front", subs["drum-turns"])
	assert.Equal(t, "Not even yet: 7 things left", v.Headline)
	for _, goal := range []string{"drum-belt", "idler-wheel", "door-switch", "felt"} {
		require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:" + goal}))
	}
	assert.Regexp(t, `^Not even yet: 1\d things left$`, p.View().Headline)
}

// Home without a count, where one has to be counted, is asked for.
func TestALotThatWasNotCountedHome(t *testing.T) {
	p := begin(t)
	v := until(t, p, "back", "front-off")
	out := rung(t, v, "front-off").Home.Done.Makes[0].Body
	require.NoError(t, p.Record("rung.back", out))
	s := snag(t, p.View(), "fastener-uncounted")
	assert.Equal(t, "front-off/1", s.On)
	assert.Contains(t, s.Say, "not counted back in")
	require.NoError(t, p.Record("lot.counted", record.LotCounted{Lot: "front-off/1", Side: "back", Count: 4}))
	assert.NotContains(t, irregular(p.View()), "fastener-uncounted")
}

// everyAnswer is every way of answering a map's options.
func everyAnswer(m *machine.Map) []map[string]string {
	all := []map[string]string{{}}
	for _, o := range m.Options {
		var more []map[string]string
		for _, answers := range all {
			for _, value := range o.Values {
				with := maps.Clone(answers)
				with[o.ID] = value
				more = append(more, with)
			}
		}
		all = more
	}
	return all
}

// Facts in any order, repeated, split into any batches, give the same view.
func TestOrderAndRepetitionDoNotMatter(t *testing.T) {
	p := begin(t)
	until(t, p, "back", "front-off")
	require.NoError(t, p.Record("lot.counted", record.LotCounted{Lot: "front-off/1", Side: "back", Count: 3}))
	require.NoError(t, p.Record("withdrawn", record.Withdrawn{Event: p.Events()[len(p.Events())-1].ID}))
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "idler-off"}))
	require.NoError(t, p.Record("left", record.Left{}))
	want, err := json.Marshal(p.View())
	require.NoError(t, err)
	events := p.Events()
	rapid.Check(t, func(t *rapid.T) {
		book := job.Open(p.Book.Map, p.Book.Job)
		order := rapid.Permutation(events).Draw(t, "order")
		for len(order) > 0 {
			n := rapid.IntRange(1, len(order)).Draw(t, "batch")
			for _, e := range append(order[:n:n], rapid.SampledFrom(events).Draw(t, "again")) {
				f, err := record.Read(e)
				require.NoError(t, err)
				book.Add(f)
			}
			order = order[n:]
		}
		got, err := json.Marshal(book.View(scene.Viewer{Person: p.By, Device: p.Device}, p.Clock))
		require.NoError(t, err)
		require.JSONEq(t, string(want), string(got))
	})
}

func TestARungOutOfOrderIsKeptWithASnag(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "console-up")
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "front-off", Accepts: []string{"front-off/2", "door-plug", "lamp-plug"}}))
	v := p.View()
	assert.Equal(t, steps.Done, rung(t, v, "front-off").Out)
	assert.ElementsMatch(t, []string{"out-of-order", "out-of-order", "out-of-order", "out-of-order", "fastener-uncounted"}, irregular(v))
	s := snag(t, v, "out-of-order")
	assert.Equal(t, "Front: recorded, with no record of console aside.", s.Say)
	assert.Equal(t, "Console was off", s.Touches[0].Label)
	assert.Equal(t, snags.CountGrade, s.Grade)
	// The missing facts settle it.
	for _, move := range []string{"console-up", "toe-off", "sensor-apart", "earth-apart"} {
		require.NoError(t, p.Record("found", record.Found{Move: move, By: "jonna"}))
	}
	assert.NotContains(t, irregular(p.View()), "out-of-order")
}

func TestWorkWithoutProof(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "prove-dead")
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "top-off"}))
	v := p.View()
	s := snag(t, v, "guard-unmet")
	assert.Equal(t, snags.StopGrade, s.Grade)
	assert.False(t, s.Explain, "never explained away")
	assert.Equal(t, "off, not tested", v.Energies[0].Say)

	require.NoError(t, p.Record("snag.explained", record.SnagExplained{Snag: s.ID, Reason: "in a hurry"}))
	assert.Contains(t, irregular(p.View()), "guard-unmet")
	require.NoError(t, p.Record("inspected", record.Inspected{Snag: s.ID, Finding: "all good"}))
	assert.Contains(t, irregular(p.View()), "guard-unmet", "not by the person who raised it")
	p.By, p.Device = "ilse", "tab-2"
	require.NoError(t, p.Record("inspected", record.Inspected{Snag: s.ID, Finding: "leads whole, cover back"}))
	assert.NotContains(t, irregular(p.View()), "guard-unmet")
}

func TestAGuardProvenBeforeTheNextRungLeavesANote(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "prove-dead")
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "top-off"}))
	_, err := p.Step()
	require.NoError(t, err)
	s := snag(t, p.View(), "guard-unmet")
	assert.Equal(t, snags.NoteGrade, s.Grade)
	require.NoError(t, p.Record("snag.explained", record.SnagExplained{Snag: s.ID, Reason: "the top was only loosened"}))
	v := p.View()
	assert.NotContains(t, irregular(v), "guard-unmet")
	assert.Contains(t, strings.Join(v.Sheet.Explained, " "), "only loosened", "what is explained is printed")
}

func TestAProofThatReadsLiveDoesNotStand(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "prove-dead")
	proof := record.Proof{By: "meter", Meter: "m-4", Before: "230 V", After: "230 V", Readings: []record.PointReading{
		{Between: []string{"L", "N"}, Value: "228 V"}, {Between: []string{"L", "PE"}, Value: "0 V"}, {Between: []string{"N", "PE"}, Value: "0 V"},
	}}
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "prove-dead", Proof: &proof}))
	v := p.View()
	assert.Equal(t, "prove-dead", v.Current.Move)
	assert.Contains(t, rung(t, v, "prove-dead").OutSide.Said, "L to N reads 228 V. Not dead")
	assert.Equal(t, steps.Half, rung(t, v, "prove-dead").Out)
	assert.Equal(t, machine.Shut, v.Energies[0].Level)
}

// A proof ends when the job is left or the energy restored, and a correction
// never brings it back.
func TestProofsLapse(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "front-off")
	require.NoError(t, p.Record("paused", record.Paused{}))
	assert.Equal(t, "tested dead", p.View().Energies[0].Say, "never by a pause")
	require.NoError(t, p.Record("left", record.Left{}))
	left := p.Events()[len(p.Events())-1].ID
	v := p.View()
	assert.Equal(t, "off, not tested", v.Energies[0].Say)
	assert.Equal(t, "Test expired. Test again.", v.Energies[0].How)
	assert.Equal(t, "prove-dead", v.Current.Move, "measured again before the next rung")
	require.NoError(t, p.Record("withdrawn", record.Withdrawn{Event: left}))
	assert.Equal(t, "off, not tested", p.View().Energies[0].Say, "down to not proven, never up")
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "front-off"}))
	assert.Contains(t, irregular(p.View()), "proof-lapsed")
}

func TestRestoringOutsideTheLadderUndoesTheIsolatingRung(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "front-off")
	require.NoError(t, p.Record("energy.restored", record.EnergyRestored{Energy: "mains", How: "the caretaker switched it on"}))
	v := p.View()
	assert.Equal(t, machine.Live, v.Energies[0].Level)
	assert.Equal(t, "isolator-off", v.Current.Move)
	assert.NotContains(t, irregular(v), "back-without-out")
}

// Two devices that had not heard of each other: the more dangerous counts.
func TestAProofThatHadNotSeenARestoringDoesNotCount(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "prove-dead")
	seen := len(p.Events())
	p.Device, p.By = "tab-2", "ilse"
	require.NoError(t, p.Record("energy.restored", record.EnergyRestored{Energy: "mains", How: "switched on to try it"}))
	p.Device, p.By = "tab-1", "jonna"
	e := p.Events()[0]
	at := nine.Add(time.Hour)
	e.ID, e.N, e.Kind, e.Seen, e.Num, e.T = "019300aa-0000-7000-8000-00000000000f", 90, "rung.out", seen, seen+2, &at
	e.Body = json.RawMessage(`{"move":"prove-dead","proof":{"by":"meter","meter":"m-4","before":"230 V","after":"230 V","readings":[{"between":["L","N"],"value":"0"},{"between":["L","PE"],"value":"0"},{"between":["N","PE"],"value":"0"}]}}`)
	f, err := record.Read(e)
	require.NoError(t, err)
	p.Book.Add(f)
	v := p.View()
	assert.NotEqual(t, machine.Proven, v.Energies[0].Level)
	assert.Contains(t, rung(t, v, "prove-dead").OutSide.Said, "restored it meanwhile")
}

func TestCountsThatDoNotAddUp(t *testing.T) {
	p := begin(t)
	until(t, p, "back", "toe-off")
	require.NoError(t, p.Record("lot.counted", record.LotCounted{Lot: "toe-off/1", Side: "back", Count: 1}))
	require.NoError(t, p.Record("rung.back", record.RungBack{Move: "toe-off"}))
	v := p.View()
	assert.ElementsMatch(t, []string{"fastener-short", "confirm-open"}, irregular(v))
	s := snag(t, v, "fastener-short")
	assert.Equal(t, "1 of 2 screws back in Toe panel, hex 1/4 in, 1 in long.", s.Say)
	assert.Contains(t, s.Do, "still in tray D")

	require.NoError(t, p.Record("lot.settled", record.LotSettled{Lot: "toe-off/1", As: "lost", Count: 1}))
	assert.Contains(t, irregular(p.View()), "fastener-unsettled")
	require.NoError(t, p.Record("lot.settled", record.LotSettled{Lot: "toe-off/1", As: "replaced", Count: 1}))
	assert.NotContains(t, irregular(p.View()), "fastener-unsettled")
	require.NoError(t, p.Record("confirmed", record.Confirmed{Confirm: "toe-off/confirm/1"}))
	assert.Empty(t, irregular(p.View()))

	until(t, p, "back", "top-off")
	require.NoError(t, p.Record("lot.counted", record.LotCounted{Lot: "top-off/1", Side: "back", Count: 3}))
	require.NoError(t, p.Record("rung.back", record.RungBack{Move: "top-off"}))
	assert.Contains(t, irregular(p.View()), "fastener-over")
}

func TestTwoPeopleCountDifferently(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "toe-off")
	require.NoError(t, p.Record("lot.counted", record.LotCounted{Lot: "toe-off/1", Side: "out", Count: 2}))
	p.By, p.Device = "ilse", "tab-2"
	require.NoError(t, p.Record("lot.counted", record.LotCounted{Lot: "toe-off/1", Side: "out", Count: 3}))
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "toe-off"}))
	s := snag(t, p.View(), "count-differs")
	assert.Contains(t, s.Say, "you counted 3, Jonna counted 2")
	require.Len(t, s.Touches, 2)
	require.NoError(t, p.Record("lot.counted", json.RawMessage(s.Touches[0].Makes[0].Body)))
	assert.NotContains(t, irregular(p.View()), "count-differs")
}

func TestACheckThatLostItsPlaceIsOpenedForAgain(t *testing.T) {
	p := begin(t)
	until(t, p, "check", "drum-turns")
	require.NoError(t, p.Record("rung.back", record.RungBack{Move: "front-off", Accepts: []string{"front-off/2"}}))
	v := p.View()
	assert.Contains(t, irregular(v), "check-place-lost")
	assert.Equal(t, "front-off", v.Current.Move)
	assert.Equal(t, "out", v.Current.Kind, "the front comes off again")
	why := "turned through the door before the front was hung"
	require.NoError(t, p.Record("check.result", record.CheckResult{Check: "drum-turns", Passed: true, Without: &why}))
	v = p.View()
	assert.NotContains(t, irregular(v), "check-place-lost")
	assert.Equal(t, "back", v.Current.Kind)
}

func TestAFailedCheckStaysDue(t *testing.T) {
	p := begin(t)
	until(t, p, "check", "drum-turns")
	require.NoError(t, p.Record("check.result", record.CheckResult{Check: "drum-turns", Passed: false}))
	v := p.View()
	assert.Contains(t, irregular(v), "check-failed")
	assert.Equal(t, "drum-turns", v.Current.Move)
}

func TestWhatIsShutInIsIrregular(t *testing.T) {
	p := begin(t)
	until(t, p, "back", "roller-l-off")
	require.NoError(t, p.Record("rung.back", record.RungBack{Move: "drum-out-alone"}))
	v := p.View()
	assert.Contains(t, irregular(v), "still-off")
	for _, s := range v.Snags {
		if s.Kind == "still-off" && s.On == "roller-l-off" {
			assert.Equal(t, "Left roller is off, and drum already covers it.", s.Say)
		}
	}
	assert.Equal(t, "out", v.Current.Kind)
	assert.Contains(t, []string{"drum-out", "drum-out-alone"}, v.Current.Move, "the drum comes out again")
}

func TestBringingAPartBackUnfittedAsks(t *testing.T) {
	p := begin(t)
	until(t, p, "work", "")
	require.NoError(t, p.Record("rung.back", record.RungBack{Move: "roller-l-off"}))
	s := snag(t, p.View(), "fitted-unsure")
	assert.Equal(t, "Left drum roller came back before it was fitted. Fitted?", s.Say)
	require.NoError(t, p.Record("part.fitted", record.PartFitted{Part: "rollers", Piece: "roller-l"}))
	assert.NotContains(t, irregular(p.View()), "fitted-unsure")
}

func TestADeclinedJobIsClosedNotEven(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "toe-off")
	require.NoError(t, p.Record("goal.dropped", record.GoalDropped{Goal: "replace:rollers", Reason: "declined"}))
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	v := p.View()
	assert.False(t, v.Even)
	assert.True(t, v.Closed)
	assert.Equal(t, "Closed, not repaired", v.Headline)
	assert.Contains(t, strings.Join(v.Sheet.Done, " "), "not done, declined")
}

func TestABarredSideIsPlannedRound(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "belt-slack-front")
	require.NoError(t, p.Record("rung.not-done", record.RungNotDone{Move: "belt-slack-front", Side: "out", Reason: "the idler is jammed", Bars: true}))
	v := p.View()
	assert.Equal(t, "belt-slack-toe", v.Current.Move)
	require.NoError(t, p.Record("rung.not-done", record.RungNotDone{Move: "belt-slack-toe", Side: "out", Reason: "no room", Bars: true}))
	v = p.View()
	assert.Equal(t, "stuck", v.Current.Kind)
	assert.Contains(t, v.Current.Say, "belt")
}

func TestStopHoldsTheJob(t *testing.T) {
	p := begin(t)
	require.NoError(t, p.Record("stopped", record.Stopped{Why: "gas smell"}))
	v := p.View()
	assert.Equal(t, "stopped", v.Current.Kind)
	assert.Contains(t, strings.Join(v.Current.Task.Do, " "), "No switch, no flame.")
	assert.Equal(t, snags.StopGrade, snag(t, v, "stopped").Grade)
	require.NoError(t, p.Record("stop.lifted", record.StopLifted{ByWhat: "aired, supplier found no leak"}))
	assert.Equal(t, "out", p.View().Current.Kind)
}

func TestWhatTheMapDoesNotKnowIsKept(t *testing.T) {
	p := begin(t)
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "hatch-off"}))
	require.NoError(t, p.Record("robot.helped", map[string]int{"arm": 2}))
	v := p.View()
	assert.ElementsMatch(t, []string{"still-off", "newer-kind"}, irregular(v))
	assert.Equal(t, "hatch-off", v.Off[0].Name)
	require.NoError(t, p.Record("rung.back", record.RungBack{Move: "hatch-off"}))
	assert.NotContains(t, irregular(p.View()), "still-off")
	require.NoError(t, p.Record("rung.back", record.RungBack{Move: "hatch-off"}))
	assert.Contains(t, irregular(p.View()), "back-without-out")
}

func TestFactsAfterSigningOffOpenTheJobAgain(t *testing.T) {
	p := begin(t)
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	require.NoError(t, p.Record("signed-off", record.SignedOff{}))
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "toe-off"}))
	v := p.View()
	assert.Nil(t, v.Signed)
	assert.False(t, v.Even)
	assert.Contains(t, irregular(v), "late")
}

func TestUndoTakesBackOneTouch(t *testing.T) {
	p := begin(t)
	until(t, p, "back", "roller-r-off")
	u := p.View().Undo
	require.NotNil(t, u)
	assert.Len(t, u.Events, 2, "both rollers were fitted by one touch")
	for _, id := range u.Events {
		require.NoError(t, p.Record("withdrawn", record.Withdrawn{Event: id}))
	}
	v := p.View()
	assert.Equal(t, "work", v.Current.Kind)
	assert.Equal(t, "compared, drum rollers", v.Undo.Say, "what was compared stands")
}

func TestHalfDone(t *testing.T) {
	p := begin(t)
	v := until(t, p, "out", "toe-off")
	done := rung(t, v, "toe-off").OutSide.Done
	assert.Equal(t, []string{"2 screws to count into tray D"}, done.Open, "look-alikes are never accepted in passing")
	require.NoError(t, p.Record(done.Half[0].Kind, done.Half[0].Body))
	assert.Equal(t, steps.Half, rung(t, p.View(), "toe-off").Out)
	require.NoError(t, p.Record("lot.counted", record.LotCounted{Lot: "toe-off/1", Side: "out", Count: 2}))
	v = p.View()
	done = rung(t, v, "toe-off").OutSide.Done
	assert.Empty(t, done.Open)
	assert.Equal(t, "Done: toe panel off", done.Label)
	assert.Equal(t, "2 screws to D", done.Says)
}

func TestTheSheetAsMarkdownKeepsTextAsText(t *testing.T) {
	p := begin(t)
	p.Book.Job.Words = "it <b>thumps</b> | [loud](x)\n# and *smells*"
	until(t, p, "out", "top-off")
	text := p.View().Sheet.Markdown
	assert.Contains(t, text, "- Job: j-1, Canteen, dryer 2\n")
	assert.Contains(t, text, `it &lt;b&gt;thumps&lt;/b&gt; \| \[loud\](x) \# and \*smells\*`)
	assert.Contains(t, text, "| Mains off, before work | 0.3 V. The meter's category is not known; CAT III is wanted here. | under 34 V | m-4 | Jonna | 2026-11-25")
	assert.Contains(t, text, "- Run it warm for five minutes.", "what was not tested is said")
}

// The screens are promised lists, never null.
func TestNoListOfAViewIsNull(t *testing.T) {
	p := begin(t)
	for {
		nilLists(t, reflect.ValueOf(p.View()), "view")
		more, err := p.Step()
		require.NoError(t, err)
		if !more {
			return
		}
	}
}

func nilLists(t *testing.T, v reflect.Value, path string) {
	t.Helper()
	switch v.Kind() {
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			nilLists(t, v.Elem(), path)
		}
	case reflect.Struct:
		if v.Type() == reflect.TypeFor[time.Time]() {
			return
		}
		for i := range v.NumField() {
			nilLists(t, v.Field(i), path+"."+v.Type().Field(i).Name)
		}
	case reflect.Slice:
		require.False(t, v.IsNil(), path)
		for i := range v.Len() {
			nilLists(t, v.Index(i), path)
		}
	}
}
