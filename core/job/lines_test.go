package job_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/bench"
	"evensteps/core/job"
	"evensteps/core/journey"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/snags"
	"evensteps/core/steps"
	"evensteps/core/view"
	"evensteps/demo"
)

// beginFor is a job with another goal, on this or another machine of the family.
func beginFor(t testing.TB, goal string, answers map[string]string, people map[string]scene.Person) *demo.Player {
	t.Helper()
	p := demo.NewPlayer(dryer(t), scene.Job{ID: "j-1", Complaint: "no-heat", People: people}, "jonna", "tab-1", nine, 1)
	require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
	require.NoError(t, p.Answer(answers))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: goal}))
	return p
}

func line(t testing.TB, s *steps.Side, id string) view.Line {
	t.Helper()
	for _, l := range s.Lines {
		if l.Line == id {
			return l
		}
	}
	require.Failf(t, "no such line", "%s among %v", id, s.Lines)
	return view.Line{}
}

func TestWhatWasMeasuredComingOffIsComparedGoingBack(t *testing.T) {
	p := beginFor(t, "replace:drum-belt", nil, nil)
	v := until(t, p, "out", "belt-off")
	side := rung(t, v, "belt-off").OutSide
	assert.Equal(t, "14 1/2 in", line(t, side, "belt-off/belt-mark").Ask, "it says how a length may be written")
	assert.NotEmpty(t, side.Done.Open, "not done before it is measured")
	require.NoError(t, p.Record("recorded", record.Recorded{Record: "belt-off/belt-mark", Value: "about there"}))
	l := line(t, rung(t, p.View(), "belt-off").OutSide, "belt-off/belt-mark")
	assert.True(t, l.Bad)
	assert.Contains(t, l.Said, "write it like")
	require.NoError(t, p.Record("recorded", record.Recorded{Record: "belt-off/belt-mark", Value: "14 1/2 in"}))

	v = until(t, p, "back", "belt-off")
	l = line(t, rung(t, v, "belt-off").Home, "belt-off/confirm/1")
	assert.Equal(t, "14 1/2 in", l.Was)
	assert.Equal(t, "came off at 14 1/2 in, that is 368.3 mm", l.Said, "in both systems, as it was written first")
	require.NoError(t, p.Record("confirmed", record.Confirmed{Confirm: "belt-off/confirm/1", Value: "372 mm"}))
	l = line(t, rung(t, p.View(), "belt-off").Home, "belt-off/confirm/1")
	assert.True(t, l.Bad, "3.7 mm off, 3 mm at most")
	require.NoError(t, p.Record("rung.back", record.RungBack{Move: "belt-off"}))
	assert.Equal(t, []string{"confirm-failed"}, irregular(p.View()))
	require.NoError(t, p.Record("confirmed", record.Confirmed{Confirm: "belt-off/confirm/1", Value: "370 mm"}))
	assert.Empty(t, irregular(p.View()))
}

func TestATemporaryIsCutToMeasureAndCountedOut(t *testing.T) {
	p := beginFor(t, "replace:drum-belt", nil, nil)
	until(t, p, "out", "drum-hook")
	require.NoError(t, p.Record("recorded", record.Recorded{Record: "drum-hook/hook-gap", Value: "8 1/16 in"}))
	v := p.View()
	require.Len(t, v.Cuts, 1)
	assert.Equal(t, "Cut it to 279.8 mm (11.02 in).", line(t, rung(t, v, "drum-hook").OutSide, "drum-hook-wire").Said, "on the rung, too")
	assert.InDelta(t, 8.0625*25.4+75, v.Cuts[0].MM, 1e-9, "the gap and its allowance")
	require.NoError(t, p.Record("temporary.in", record.TemporaryIn{Temporary: "drum-hook-wire"}))
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "drum-hook"}))
	v = p.View()
	assert.Equal(t, []string{"drum-hook-wire"}, v.Temporaries)
	assert.True(t, snag(t, v, "temporary-in").Regular)

	v = until(t, p, "back", "front-off")
	assert.Contains(t, rung(t, v, "front-off").Home.Done.Open, "wire hook is out")
	require.NoError(t, p.Record("rung.back", record.RungBack{Move: "front-off"}))
	s := snag(t, p.View(), "temporary-in")
	assert.False(t, s.Regular, "the front shuts it in")
	assert.Equal(t, "Wire hook is still in the machine, and front is back already.", s.Say)
	require.NoError(t, p.Record(s.Touches[0].Makes[0].Kind, s.Touches[0].Makes[0].Body))
	assert.Empty(t, p.View().Temporaries)
}

func TestATemporaryThatIsNotUsedStopsNobody(t *testing.T) {
	p := beginFor(t, "replace:cycling-stat", nil, nil)
	v := until(t, p, "out", "stat-off")
	l := line(t, rung(t, v, "stat-off").OutSide, "lint-rag")
	require.NoError(t, p.Record(l.Or[0].Makes[0].Kind, l.Or[0].Makes[0].Body))
	v = p.View()
	l = line(t, rung(t, v, "stat-off").OutSide, "lint-rag")
	assert.True(t, l.Ticked)
	assert.Equal(t, "not used", l.Said)
	assert.Empty(t, v.Temporaries)
}

func TestAnEarthIsCountedBackByItsReading(t *testing.T) {
	p := begin(t)
	v := until(t, p, "back", "earth-apart")
	assert.True(t, snag(t, v, "earth-unmeasured").Regular)
	require.NoError(t, p.Record("rung.back", record.RungBack{Move: "earth-apart", Accepts: []string{"front-earth"}}))
	require.NoError(t, p.Record("lot.counted", record.LotCounted{Lot: "earth-apart/1", Side: "back", Count: 1}))
	assert.Contains(t, irregular(p.View()), "earth-unmeasured")
	leads := "0.3 ohm"
	require.NoError(t, p.Record("reading.taken", record.ReadingTaken{Test: "earth:front-earth", Value: "1.4 ohm", Leads: &leads}))
	assert.Contains(t, snag(t, p.View(), "earth-unmeasured").Say, "1.1 Ω: too high")
	require.NoError(t, p.Record("reading.taken", record.ReadingTaken{Test: "earth:front-earth", Value: "0.5 ohm", Leads: &leads}))
	v = p.View()
	assert.NotContains(t, irregular(v), "earth-unmeasured")
	last := v.Sheet.Measured[len(v.Sheet.Measured)-1]
	assert.Equal(t, []string{"Front earth lead to the frame", "0.5 Ω"}, []string{last.What, last.Value}, "and it is on the sheet")
}

func TestABelongingGoesBackToItsOwner(t *testing.T) {
	p := begin(t)
	require.NoError(t, p.Record("belonging", record.Belonging{What: "Coins, 2.30", Where: "base"}))
	s := snag(t, p.View(), "belonging-open")
	require.NoError(t, p.Record(s.Touches[0].Makes[0].Kind, s.Touches[0].Makes[0].Body))
	v := p.View()
	assert.Equal(t, []bench.Own{{What: "Coins, 2.30", Where: "base", To: "customer"}}, v.Belongings)
	assert.NotContains(t, irregular(v), "belonging-open")
}

func TestAnOwnRungTakesPartBothWays(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "toe-off")
	before := p.View().Plan.Minutes.Total
	require.NoError(t, p.Record("rung.own", record.RungOwn{
		ID: "own-1", Title: "Hidden screw behind the filter", Face: "front", Needs: machine.Needs{"toe": machine.Away}, Before: []string{"front-off"},
		Lots: []record.OwnLot{{Drive: "hex", Size: "1/4 in", Count: 1}}, Minutes: machine.Minutes{Out: 1, Back: 1},
	}))
	v := p.View()
	r := rung(t, v, "own-1")
	assert.Equal(t, "own", r.Kind)
	assert.InDelta(t, before+2, v.Plan.Minutes.Total, 0.31, "its minutes each way, and perhaps a tool")
	assert.True(t, r.OutSide.Lots[0].MustCount, "a hex 1/4 in of unknown length looks like all the others")
	in := v.Plan.WayIn
	assert.Less(t, indexOf(in, "own-1"), indexOf(in, "front-off"))
	assert.Greater(t, indexOf(in, "own-1"), indexOf(in, "toe-off"))

	v = until(t, p, "back", "front-off")
	var back []string
	for _, s := range v.Plan.WayBack {
		back = append(back, s.Undo)
	}
	assert.Greater(t, indexOf(back, "own-1"), indexOf(back, "front-off"), "the front hangs before its hidden screw goes in")
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	assert.True(t, p.View().Even, irregular(p.View()))
}

func indexOf(list []string, id string) int {
	for i, v := range list {
		if v == id {
			return i
		}
	}
	return -1
}

func TestAnOwnRungThatNamesNothingIsKeptWithANote(t *testing.T) {
	p := begin(t)
	require.NoError(t, p.Record("rung.own", record.RungOwn{ID: "own-1", Title: "Bracket", Face: "front", Needs: machine.Needs{"sail": machine.Away}, Before: []string{"mast-off"}}))
	v := p.View()
	assert.Equal(t, snags.NoteGrade, snag(t, v, "hangs").Grade)
	assert.Equal(t, "out", v.Current.Kind, "the plan goes on without it")
}

func TestOneLeadCalledByTwoColours(t *testing.T) {
	p := begin(t)
	say := func(by, device, colour string) {
		p.By, p.Device = by, device
		require.NoError(t, p.Record("wire.said", record.WireSaid{Wire: "sensor-plug/left", Colour: colour}))
	}
	say("jonna", "tab-1", "orange")
	say("jonna", "tab-1", "red")
	assert.NotContains(t, irregular(p.View()), "wire-differs", "ticked as the map says, then looked at more closely")
	say("jonna", "tab-1", "pink")
	assert.Contains(t, irregular(p.View()), "wire-differs", "one person, two colours")
	say("jonna", "tab-1", "red")
	assert.NotContains(t, irregular(p.View()), "wire-differs", "settled by saying which")
	say("ilse", "tab-2", "brown")
	s := snag(t, p.View(), "wire-differs")
	assert.Contains(t, s.Say, "Damp sensor leads, left terminal")
	require.Len(t, s.Touches, 2)
	say("jonna", "tab-1", "brown")
	assert.NotContains(t, irregular(p.View()), "wire-differs")
}

func TestWorkThatNeedsATicket(t *testing.T) {
	people := map[string]scene.Person{"jonna": {Name: "Jonna"}, "ilse": {Name: "Ilse", Tickets: []string{"gas"}}, "mira": {Name: "Mira", Tickets: []string{"gas"}}}
	p := beginFor(t, "replace:gas-valve", map[string]string{"fuel": "gas"}, people)
	v := until(t, p, "out", "gas-prove")
	side := rung(t, v, "gas-prove").OutSide
	assert.Equal(t, "Stop: gas ticket needed. Leave this as it is. Ilse and Mira have one.", side.Ticket)
	assert.Empty(t, side.Do, "nobody without the ticket is led into it")
	assert.Nil(t, side.Done)

	// It happened all the same: kept, with a snag that only a ticket holder's own look settles.
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "union-part"}))
	s := snag(t, p.View(), "ticket-missing")
	assert.Equal(t, snags.StopGrade, s.Grade)
	assert.False(t, s.Explain)
	p.By, p.Device = "ilse", "tab-2"
	assert.NotEmpty(t, rung(t, p.View(), "gas-prove").OutSide.Do, "who holds the ticket is led on")
	require.NoError(t, p.Record("inspected", record.Inspected{Snag: s.ID, Finding: "Cock was shut, union capped."}))
	assert.NotContains(t, irregular(p.View()), "ticket-missing")
}

func TestGasIsProvenByItsGauge(t *testing.T) {
	p := beginFor(t, "replace:gas-valve", map[string]string{"fuel": "gas"}, nil)
	until(t, p, "out", "gas-prove")
	proof := record.Proof{Way: "let-by", Meter: "g-2", Standing: "20 mbar", Rise: "3 mbar"}
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "gas-prove", Proof: &proof}))
	v := p.View()
	assert.Equal(t, "gas-prove", v.Current.Move)
	assert.Contains(t, rung(t, v, "gas-prove").OutSide.Said, "the cock lets by")
}

func TestAPartThatFailsOfSomethingElseAsksWhy(t *testing.T) {
	p := beginFor(t, "replace:cutoff", nil, nil)
	v := until(t, p, "back", "limit-off")
	s := snag(t, v, "cause-open")
	assert.True(t, s.Regular)
	assert.Contains(t, s.Say, "Is the air path clear")
	require.NoError(t, p.Record("cause.answered", record.CauseAnswered{Fault: "cutoff-open", Cause: "air-path", Answer: "not found"}))
	v = p.View()
	assert.NotContains(t, v.Between, "cause-open")
	for _, s := range v.Snags {
		assert.NotEqual(t, "cause-open", s.Kind)
	}
	assert.Contains(t, v.Sheet.Found, "Thermal cutoff open: cause looked for. Is the air path clear from drum to outside? Not found.")
}

// Two faults of a kit that ask the same are asked once; a question of what or
// which is answered in words; the test that the map names for it is one touch away.
func TestTheSameCauseIsAskedOnce(t *testing.T) {
	m := *dryer(t)
	m.Faults = slices.Clone(m.Faults)
	m.Fault("limit-open").Because = m.Fault("cutoff-open").Because
	p := demo.NewPlayer(&m, scene.Job{ID: "j-1"}, "jonna", "tab-1", nine, 1)
	require.NoError(t, p.Answer(nil))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:cutoff"}))
	v := until(t, p, "back", "limit-off")
	var causes []snags.Snag
	asked := map[string]int{}
	for _, s := range v.Snags {
		if s.Kind == "cause-open" {
			causes = append(causes, s)
			_, ask, _ := strings.Cut(s.Say, "why? ")
			asked[ask]++
		}
	}
	require.Len(t, causes, 1, "a kit asks for what its pieces failed of")
	for ask, n := range asked {
		assert.Equal(t, 1, n, ask)
	}
	var labels []string
	for _, t := range causes[0].Touches {
		labels = append(labels, t.Label)
	}
	assert.Equal(t, []string{"Yes", "No", "Not found", "Test it"}, labels)
	assert.Equal(t, "answer", causes[0].Line.Into)

	q := onMap(t, "brennvik-fr4", scene.Job{ID: "j-2"})
	require.NoError(t, q.Record("goal.added", record.GoalAdded{Goal: "replace:block"}))
	for v = q.View(); v.Current.Kind != "back"; v = q.View() {
		_, err := q.Step()
		require.NoError(t, err)
	}
	s := snag(t, v, "cause-open")
	assert.Contains(t, s.Say, "Which lug was loose")
	assert.Equal(t, "Not found", s.Touches[0].Label, "which is not answered with yes")
}

// One of a pair stays by one touch at the work, with its reason; the other is
// fitted, and nothing is asked for afterwards.
func TestOneOfAPairIsKept(t *testing.T) {
	p := begin(t)
	v := until(t, p, "work", "")
	var keep view.Choice
	for _, c := range v.Current.Task.Keep {
		if c.Label == "Keep: left drum roller" {
			keep = c
		}
	}
	require.NotEmpty(t, keep.Makes)
	take(t, p, keep.Makes)
	v = p.View()
	assert.Equal(t, "kept, you", v.Current.Task.Choices[0].Says)
	assert.NotContains(t, v.Current.Task.Done.Says, "left")
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Kind == "back" }))
	assert.NotContains(t, irregular(p.View()), "piece-open")
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	v = p.View()
	assert.True(t, v.Even, irregular(v))
	assert.Contains(t, v.Sheet.Done, "Left drum roller kept: tried and looked at: sound.")
	assert.Contains(t, v.Sheet.Parts[0].Part, "Drum rollers (right drum roller)")
}

func TestAPieceOfASetIsNotForgotten(t *testing.T) {
	p := begin(t)
	until(t, p, "work", "")
	require.NoError(t, p.Record("part.fitted", record.PartFitted{Part: "rollers", Piece: "roller-l"}))
	assert.True(t, snag(t, p.View(), "piece-open").Regular)
	require.NoError(t, p.Record("part.fitted", record.PartFitted{Part: "rollers", Piece: "roller-r", As: "kept"}))
	s := snag(t, p.View(), "piece-open")
	assert.False(t, s.Regular)
	assert.Contains(t, s.Say, "belong together")
	require.NoError(t, p.Record("part.fitted", record.PartFitted{Part: "rollers", Piece: "roller-r", As: "kept", Reason: "fitted new last month"}))
	for _, s := range p.View().Snags {
		assert.NotEqual(t, "piece-open", s.Kind)
	}
}

func TestAMeasuredFinalIsJudgedByTheCore(t *testing.T) {
	p := beginFor(t, "replace:element-kit", nil, nil)
	v := until(t, p, "final", "vent-warm")
	assert.Equal(t, "54 C", v.Current.Task.Value)
	cold := "21 C"
	require.NoError(t, p.Record("final.result", record.FinalResult{Final: "vent-warm", Passed: true, Value: &cold}))
	assert.Equal(t, "final-failed", irregular(p.View())[0], "21 °C is no pass, whoever says so")
	warm := "130 F"
	require.NoError(t, p.Record("final.result", record.FinalResult{Final: "vent-warm", Passed: true, Value: &warm}))
	assert.Equal(t, "sign-off", p.View().Current.Kind)
}

func TestATestAsAGoalEndsWithItsResult(t *testing.T) {
	p := beginFor(t, "test:element-ohms", nil, nil)
	v := until(t, p, "test", "")
	assert.Equal(t, "19.47 to 22.85 Ω", v.Current.Task.Done.Says)
	require.NoError(t, p.Record("reading.taken", record.ReadingTaken{Test: "element-ohms", Value: "OL", Meter: "m-4"}))
	v = p.View()
	assert.False(t, v.Goals[0].Open)
	assert.Equal(t, "find", v.Current.Kind, "what is wrong is still to be found")
	require.NoError(t, p.Record("decided", record.Decided{Choice: "leave", By: "customer"}))
	assert.Equal(t, "back", p.View().Current.Kind)
}

func TestWhatIsMissingFromTheStartHasNoRefit(t *testing.T) {
	p := beginFor(t, "replace:element-kit", nil, nil)
	before := len(p.View().Plan.WayIn)
	require.NoError(t, p.Record("found", record.Found{Item: "vent-hose", Level: machine.Away, State: "missing"}))
	v := p.View()
	assert.Len(t, v.Plan.WayIn, before-1, "what is not there need not come off")
	s := snag(t, v, "missing-part")
	require.NoError(t, p.Record("snag.explained", record.SnagExplained{Snag: s.ID, Reason: "The customer fits a new hose."}))
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	assert.True(t, p.View().Even, irregular(p.View()))
}

func TestAnEnergyMayBeLeftOffOnPurpose(t *testing.T) {
	p := begin(t)
	v := until(t, p, "back", "isolator-off")
	s := snag(t, v, "energy-off")
	assert.True(t, s.Explain)
	assert.False(t, v.Even)
	require.NoError(t, p.Record("snag.explained", record.SnagExplained{Snag: s.ID, Reason: "Locked and tagged until the wall socket is mended."}))
	v = p.View()
	assert.False(t, v.Even, "what was repaired is still to be proven")
	for _, s := range v.Snags {
		if s.Kind == "final-due" {
			require.True(t, s.Explain, "it cannot be run: that may be said")
			require.NoError(t, p.Record("snag.explained", record.SnagExplained{Snag: s.ID, Reason: "Left off."}))
		}
	}
	v = p.View()
	assert.True(t, v.Even, irregular(v))
	assert.Equal(t, "sign-off", v.Current.Kind)
	assert.Contains(t, strings.Join(v.Sheet.Explained, " "), "until the wall socket is mended")
	assert.Contains(t, strings.Join(v.Sheet.NotTested, " "), "Run it warm")
	require.NoError(t, p.Record("signed-off", record.SignedOff{}))
	v = p.View()
	assert.Equal(t, "Even: all back and proven. Signed off", v.Headline)
	assert.Empty(t, v.Between, "nothing is to come back that stays off on purpose")
	assert.Equal(t, journey.SignedOff, v.Visit.Stage)
	assert.Nil(t, v.Visit.Opened)
	require.NotNil(t, v.Visit.Signed)
	assert.Zero(t, v.Foot.Off)
}

// A job is of those who went to the machine, until somebody takes it over.
func TestWhoseJobItIs(t *testing.T) {
	p := begin(t)
	require.Equal(t, []string{"jonna"}, p.View().Visit.Whose, "she began the visit")
	p.By = "pell"
	require.NoError(t, p.Record("note", record.Note{Text: "the key hangs by the door"}))
	assert.Len(t, p.View().Visit.Whose, 1, "a word about it is no visit")
	p.By = "jonna"
	require.NoError(t, p.Record("person.here", record.PersonHere{Person: "ilse"}))
	first := p.View().Visit.Whose
	require.Len(t, first, 2)
	assert.Contains(t, first, "ilse")
	require.NoError(t, p.Record("left", record.Left{Tag: "on the door"}))
	assert.Equal(t, first, p.View().Visit.Whose, "who leaves has it still")
	p.By = "odda"
	require.NoError(t, p.Record("took-over", record.TookOver{}))
	assert.Equal(t, []string{"odda"}, p.View().Visit.Whose)
}

func TestShuttingThatHadNotSeenARestoringDoesNotCount(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "isolator-off")
	facts := p.Book.Facts()
	seen := facts[len(facts)-1].Num
	p.By, p.Device = "ilse", "tab-2"
	require.NoError(t, p.Record("energy.restored", record.EnergyRestored{Energy: "mains", How: "tried the machine"}))
	out := p.Events()[len(p.Events())-1]
	at := p.Clock.UTC().Add(time.Second)
	out.ID, out.By, out.Device, out.N, out.Seen, out.Num, out.Kind, out.Body, out.T = "01a211ee-ea80-73f2-a0c1-c2a5cdac7c99", "jonna", "tab-1", 99, seen, out.Num+1, "rung.out", []byte(`{"move":"isolator-off"}`), &at
	f, err := record.Read(out)
	require.NoError(t, err)
	p.Book.Add(f)
	v := p.View()
	assert.Equal(t, machine.Live, v.Energies[0].Level)
	assert.Contains(t, rung(t, v, "isolator-off").OutSide.Said, "Treat as live")
}
