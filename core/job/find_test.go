package job_test

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/diagnosis"
	"evensteps/core/job"
	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/paper"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/snags"
	"evensteps/core/steps"
	"evensteps/core/view"
	"evensteps/demo"
)

func searching(t testing.TB) *demo.Player {
	t.Helper()
	p := demo.NewPlayer(dryer(t), scene.Job{ID: "j-1", Complaint: "no-heat", Words: "cold"}, "jonna", "tab-1", nine, 1)
	require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
	take(t, p, p.View().Current.Task.Choices[2].Makes) // not now
	require.NoError(t, p.Record("option.answered", record.OptionAnswered{Option: "fuel", Value: "electric"}))
	surveyed(t, p)
	return p
}

// surveyed measures the supply and passes over what else is asked on arrival.
func surveyed(t testing.TB, p *demo.Player) {
	t.Helper()
	require.NoError(t, p.Record("reading.taken", record.ReadingTaken{Test: "legs", Value: "231 V"}))
	for range 5 {
		c := p.View().Current
		if c.Kind != "survey" {
			return
		}
		skip := c.Task.Choices[len(c.Task.Choices)-1]
		require.Equal(t, "Skip", skip.Label)
		take(t, p, skip.Makes)
	}
}

// On arrival the map's survey is asked in its order, before anything is opened.
func TestTheSurveyOnArrival(t *testing.T) {
	p := demo.NewPlayer(dryer(t), scene.Job{ID: "j-1", Complaint: "no-heat"}, "jonna", "tab-1", nine, 1)
	require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
	v := p.View()
	require.Equal(t, "As found", v.Current.Task.Title)
	take(t, p, v.Current.Task.Choices[1].Makes) // whole
	v = p.View()
	require.Equal(t, steps.Current{On: scene.On{Kind: "survey", Goal: "option:fuel"}, Task: v.Current.Task}, v.Current)
	assert.Equal(t, "Gas or electric?", v.Current.Task.Title)
	require.Len(t, v.Current.Task.Choices, 2)
	take(t, p, v.Current.Task.Choices[1].Makes) // gas
	v = p.View()
	assert.Len(t, v.Energies, 2, "a gas machine has two things that can hurt")
	assert.Equal(t, "test:vent-run", v.Current.Goal)
	surveyed(t, p)
	v = p.View()
	assert.Equal(t, "find", v.Current.Kind)
	for _, s := range find(p).Suspects {
		assert.NotEqual(t, "element-open", s.Fault, "a gas machine has no element")
	}
	// What is opened already is past asking: the search goes on.
	q := demo.NewPlayer(dryer(t), scene.Job{ID: "j-1", Complaint: "no-heat"}, "jonna", "tab-1", nine, 1)
	require.NoError(t, q.Record("rung.out", record.RungOut{Move: "isolator-off"}))
	assert.Equal(t, "find", q.View().Current.Kind)
}

func find(p *demo.Player) *diagnosis.Find {
	return p.Book.Find(scene.Viewer{Person: p.By, Device: p.Device}, p.Clock)
}

// proposed is the test of this id among the advice and its alternatives.
func proposed(t testing.TB, f *diagnosis.Find, test string) diagnosis.Proposal {
	t.Helper()
	for _, p := range append([]diagnosis.Proposal{*f.Advice}, f.Others...) {
		if p.Test == test {
			return p
		}
	}
	require.Fail(t, test+" is not proposed")
	return diagnosis.Proposal{}
}

func take(t testing.TB, p *demo.Player, makes []view.Make) {
	t.Helper()
	for _, m := range makes {
		require.NoError(t, p.Record(m.Kind, m.Body))
	}
}

// From the complaint to the part: the test that is advised opens the ladder as
// far as it needs, its reading moves the suspects, and the fix becomes the goal.
func TestFromTheComplaintToThePart(t *testing.T) {
	p := searching(t)
	require.Equal(t, "find", p.View().Current.Kind)
	f := find(p)
	assert.Equal(t, "Turns but does not heat", f.Complaint)
	require.NotNil(t, f.Advice)
	assert.Contains(t, f.Advice.Why, "saves about")
	ohms := proposed(t, f, "element-ohms")
	assert.False(t, ohms.Ready)
	assert.Contains(t, ohms.Access, "Rear cover")
	take(t, p, ohms.Accept.Makes)

	v := until(t, p, "test", "")
	assert.Equal(t, "Element resistance", v.Current.Task.Title)
	require.NoError(t, p.Record("reading.taken", record.ReadingTaken{Test: "element-ohms", Value: "OL", Meter: "m-4"}))
	v = p.View()
	assert.Equal(t, "find", v.Current.Kind, "and not yet the way back")
	f = find(p)
	require.Len(t, f.Results, 3, "the supply, what was seen of the vent hose on the way, and the element")
	assert.Equal(t, "Lint in the hose or the wall duct?", f.Results[1].Title)
	assert.Equal(t, "open", f.Results[2].Verdict)
	assert.Contains(t, f.Results[2].Say, "OL: open circuit")
	assert.Equal(t, "element-open", f.Suspects[0].Fault)
	assert.Greater(t, f.Suspects[0].P, f.Suspects[0].Was, "the result moved it")
	require.Equal(t, []string{"element-open"}, f.Advice.Fix)
	assert.Equal(t, "Fix: heating element open", f.Advice.Title)
	take(t, p, f.Advice.Accept.Makes)

	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	v = p.View()
	assert.True(t, v.Even, irregular(v))
	assert.Contains(t, v.Sheet.Parts[0].Part, "Heating element")
}

// A continuity test between two points of a circuit is derived, not written; it
// opens the ladder as far as its two points need.
func TestAlongACircuit(t *testing.T) {
	p := searching(t)
	f := find(p)
	half := proposed(t, f, "circuit:heat-line/block/cutoff")
	assert.Equal(t, "Continuity: terminal block to thermal cutoff", half.Title)
	take(t, p, half.Accept.Makes)
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Kind == "find" }))
	f = find(p)
	half = proposed(t, f, "circuit:heat-line/block/cutoff")
	require.True(t, half.Ready)
	require.NotNil(t, half.Task)
	assert.Contains(t, half.Task.Do, "Selector on warm.")
	assert.Contains(t, half.Task.Said, "nothing of a contact that opens warm")
	assert.Equal(t, "at most 2 Ω", half.Task.Done.Says)
	require.NotNil(t, half.Task.Meter, "a meter that is joined can take it")
	require.Len(t, f.Lines, 2, "the live side and the neutral")
	assert.Equal(t, []string{"reach", "far", "reach", "reach"}, states(f.Lines[0]))
	take(t, p, half.Task.Choices[0].Makes) // closed: what is wrong lies beyond
	f = find(p)
	assert.Equal(t, "element-open", f.Suspects[0].Fault)
	assert.Equal(t, []string{"cleared", "cleared", "suspect"}, f.Lines[0].Gaps)
}

// A live test is led to: what is open beyond it is closed, the mains are restored,
// and only then is it the step. What was proven has ended, and no stop is raised.
func TestALiveTestIsLedTo(t *testing.T) {
	p := searching(t)
	take(t, p, proposed(t, find(p), "element-ohms").Accept.Makes)
	until(t, p, "test", "")
	require.NoError(t, p.Record("reading.taken", record.ReadingTaken{Test: "element-ohms", Value: "10.2 ohm", Meter: "m-4"}))
	require.Equal(t, "find", p.View().Current.Kind)
	var live diagnosis.Proposal
	f := find(p)
	for _, one := range append([]diagnosis.Proposal{*f.Advice}, f.Others...) {
		if one.Accept != nil && one.Accept.Label == "Take me to it" {
			live = one
			break
		}
	}
	require.NotEmpty(t, live.Test, "a live test is among them")
	assert.Contains(t, live.First, "the power on")
	take(t, p, live.Accept.Makes)
	var backs []string
	v := p.View()
	for ; v.Current.Kind == "back" || v.Current.Kind == "check"; v = p.View() {
		assert.Contains(t, v.Current.Say, "For the test")
		backs = append(backs, v.Current.Move)
		_, err := p.Step()
		require.NoError(t, err)
	}
	require.Equal(t, "test", v.Current.Kind, "%v %v %v %v", live.Test, backs, v.Plan.WayIn, p.Book.Map.Test(live.Test).Needs)
	assert.Equal(t, "test:"+live.Test, v.Current.Goal)
	assert.Equal(t, "isolator-off", backs[len(backs)-1], "the mains last")
	for _, e := range v.Energies {
		if e.Energy == "mains" {
			assert.Equal(t, machine.Live, e.Level)
		}
	}
	test := p.Book.Map.Test(live.Test)
	if test.Measure != nil {
		require.NoError(t, p.Record("reading.taken", record.ReadingTaken{Test: live.Test, Value: v.Current.Task.Value}))
	} else {
		take(t, p, v.Current.Task.Choices[0].Makes)
	}
	v = p.View()
	assert.Equal(t, "find", v.Current.Kind)
	for _, s := range v.Snags {
		assert.NotEqual(t, snags.StopGrade, s.Grade, s.Say)
	}
}

// What a live test asks to be open stays open; the mains come on before it is
// closed, and are shut and proven again before it is.
func TestALiveTestOnAnOpenCover(t *testing.T) {
	p := searching(t)
	take(t, p, proposed(t, find(p), "element-ohms").Accept.Makes)
	until(t, p, "test", "")
	require.NoError(t, p.Record("reading.taken", record.ReadingTaken{Test: "element-ohms", Value: "10.2 ohm", Meter: "m-4"}))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "test:legs"}))
	var backs []string
	v := p.View()
	for ; v.Current.Kind == "back"; v = p.View() {
		backs = append(backs, v.Current.Move)
		_, err := p.Step()
		require.NoError(t, err)
	}
	require.Equal(t, "test", v.Current.Kind, "%v", backs)
	assert.Equal(t, "isolator-off", backs[len(backs)-1])
	assert.NotContains(t, backs, "cover-off")
	assert.Equal(t, steps.Due, rung(t, v, "cover-off").Back)
	require.NoError(t, p.Record("reading.taken", record.ReadingTaken{Test: "legs", Value: "231 V", Meter: "m-4"}))
	v = p.View()
	assert.Equal(t, "out", v.Current.Kind, "nobody goes on beside an open live cover")
	assert.Equal(t, "isolator-off", v.Current.Move)
	for _, s := range v.Snags {
		assert.NotEqual(t, snags.StopGrade, s.Grade, s.Say)
	}
}

// Nobody without the ticket of a live test is led to restore the mains for it: the
// step says to stop, and whoever looks for a test is told so.
func TestALiveTestStopsWhoHasNoTicket(t *testing.T) {
	m := *dryer(t)
	m.Tests = slices.Clone(m.Tests)
	m.Test("legs").Ticket = "live-testing"
	people := map[string]scene.Person{"jonna": {Name: "Jonna"}, "ilse": {Name: "Ilse", Tickets: []string{"live-testing"}}}
	p := demo.NewPlayer(&m, scene.Job{ID: "j-1", Complaint: "no-heat", People: people}, "jonna", "tab-1", nine, 1)
	require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
	require.NoError(t, p.Answer(nil))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "test:element-ohms"}))
	until(t, p, "test", "")
	require.NoError(t, p.Record("reading.taken", record.ReadingTaken{Test: "element-ohms", Value: "10.2 ohm", Meter: "m-4"}))
	f := find(p)
	for _, one := range append([]diagnosis.Proposal{*f.Advice}, f.Others...) {
		if one.Test == "legs" {
			assert.Nil(t, one.Accept)
			assert.Contains(t, one.First, "live testing ticket needed")
		}
	}
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "test:legs"}))
	v := p.View()
	require.Equal(t, "test", v.Current.Kind, "not led to the isolator")
	assert.Contains(t, v.Current.Task.Ticket, "Ilse has one")
	assert.Nil(t, v.Current.Task.Done)
	other := *p
	other.By, other.Device = "ilse", "tab-2"
	assert.Equal(t, "back", other.View().Current.Kind, "who has it is")
}

// A value along a circuit is held against what lies in it: a load of its own
// ohms is no open path, and a poor joint neither open nor closed.
func TestAReadingAlongACircuit(t *testing.T) {
	for _, c := range []struct{ id, value, outcome, verdict string }{
		{"circuit:heat-line/block/cutoff", "0.4 ohm", "closed", "pass"},
		{"circuit:heat-line/block/cutoff", "OL", "open", "open"},
		{"circuit:heat-line/block/cutoff", "14 ohm", "", "high"},
		{"circuit:heat-line/cutoff/element", "12 ohm", "closed", "pass"},
		{"circuit:heat-line/cutoff/element", "OL", "open", "open"},
	} {
		p := searching(t)
		require.NoError(t, p.Record("reading.taken", record.ReadingTaken{Test: c.id, Value: c.value, Meter: "m-4"}))
		f := find(p)
		last := f.Results[len(f.Results)-1]
		assert.Equal(t, c.verdict, last.Verdict, "%s %s: %s", c.id, c.value, last.Say)
		cleared := slices.Contains(f.Lines[0].Gaps, "cleared")
		assert.Equal(t, c.outcome == "closed", cleared, "%s %s", c.id, c.value)
		s := snag(t, p.View(), "guard-unmet")
		assert.Contains(t, s.Say, "Continuity: ", "it is made dead, and nothing was proven")
		assert.Equal(t, snags.StopGrade, s.Grade)
	}
}

// The earth path is walked with a circuit; one that reads too much stays a snag
// until it is mended and measured again.
func TestTheEarthPathIsWalkedWithACircuit(t *testing.T) {
	p := searching(t)
	take(t, p, proposed(t, find(p), "circuit:heat-line/block/cutoff").Accept.Makes)
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Kind == "find" }))
	l := line(t, proposed(t, find(p), "circuit:heat-line/block/cutoff").Task, named.EarthPath)
	assert.True(t, l.May)
	require.NoError(t, p.Record("reading.taken", record.ReadingTaken{Test: named.EarthPath, Value: "3 ohm"}))
	s := snag(t, p.View(), "earth-unmeasured")
	assert.False(t, s.Regular)
	assert.Contains(t, s.Say, "The frame to the earth pin")
	require.NoError(t, p.Record("reading.taken", record.ReadingTaken{Test: named.EarthPath, Value: "0.1 ohm"}))
	v := p.View()
	assert.NotContains(t, irregular(v), "earth-unmeasured")
	assert.True(t, slices.ContainsFunc(v.Sheet.Measured, func(m paper.Figure) bool {
		return m.Value == "0.1 Ω" && strings.HasPrefix(m.What, "The frame to the earth pin")
	}))
	assert.NotContains(t, irregular(v), "hangs")
}

func states(l diagnosis.CircuitLine) (out []string) {
	for _, p := range l.Points {
		out = append(out, p.State)
	}
	return out
}

func TestAResultIsTakenBack(t *testing.T) {
	p := searching(t)
	before := find(p).Suspects
	require.NoError(t, p.Record("test.result", record.TestResult{Test: "vent-air", Outcome: "strong", Evidence: "seen"}))
	f := find(p)
	require.Len(t, f.Results, 2)
	assert.Equal(t, "Strong", f.Results[1].Say)
	require.NoError(t, p.Record("withdrawn", record.Withdrawn{Event: f.Results[1].Event}))
	f = find(p)
	assert.Len(t, f.Results, 1)
	assert.Equal(t, before, f.Suspects)
}

func TestAReadingThatCannotTellMovesNothing(t *testing.T) {
	p := searching(t)
	before := find(p).Suspects
	require.NoError(t, p.Record("reading.taken", record.ReadingTaken{Test: "element-ohms", Value: "21 ohm", Fitted: true}))
	f := find(p)
	assert.Equal(t, "unsure", f.Results[1].Verdict)
	assert.Contains(t, f.Results[1].Say, "Lift one end")
	for i := range before {
		assert.InDelta(t, before[i].P, f.Suspects[i].P, 1e-12)
	}
	// What cannot be read at all is kept, and says how to write it.
	require.NoError(t, p.Record("reading.taken", record.ReadingTaken{Test: "element-ohms", Value: "11 V"}))
	f = find(p)
	assert.Contains(t, f.Results[2].Say, "write it like")
}

// What must be lifted for a reading is said with it while it is still wired in,
// and no longer once it is off.
func TestAReadingBesideWhatIsStillWiredIn(t *testing.T) {
	m := *dryer(t)
	m.Tests = slices.Clone(m.Tests)
	m.Test("element-ohms").Lift = []string{"timer"}
	body := func(before ...string) string {
		p := demo.NewPlayer(&m, scene.Job{ID: "j-1", Complaint: "no-heat"}, "jonna", "tab-1", nine, 1)
		for _, goal := range append(before, "test:element-ohms") {
			require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: goal}))
		}
		v := until(t, p, "test", "")
		require.Equal(t, "test:element-ohms", v.Current.Goal)
		return string(v.Current.Task.Done.Makes[0].Body)
	}
	assert.JSONEq(t, `{"test":"element-ohms","fitted":true}`, body())
	assert.JSONEq(t, `{"test":"element-ohms"}`, body("item:timer=away"))
}

// A final that fails reopens the search, with the fix as evidence.
func TestAFinalThatFailsReopensTheSearch(t *testing.T) {
	p := searching(t)
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:element-kit"}))
	until(t, p, "final", "vent-warm")
	cold := "20 C"
	require.NoError(t, p.Record("final.result", record.FinalResult{Final: "vent-warm", Passed: true, Value: &cold}))
	f := find(p)
	for _, s := range f.Suspects {
		if s.Fault == "element-open" {
			assert.Less(t, s.P, 0.05, "it was mended, and that did not help")
		}
	}
	assert.NotEqual(t, []string{"element-open"}, f.Advice.Fix)
}

func TestNoComplaintNoAdvice(t *testing.T) {
	p := demo.NewPlayer(dryer(t), scene.Job{ID: "j-1"}, "jonna", "tab-1", nine, 1)
	f := find(p)
	assert.Nil(t, f.Advice)
	assert.NotEmpty(t, f.Say)
	out, err := json.Marshal(f)
	require.NoError(t, err)
	assert.NotContains(t, string(out), `"suspects":null`)
}

// A fix says what it takes: each part once though it mends two faults, people
// only where one cannot do it, and the rungs.
func TestWhatAFixTakes(t *testing.T) {
	takes := func(machine, complaint string) (what []string, rows []view.Row) {
		f := find(onMap(t, machine, scene.Job{ID: "j-1", Complaint: complaint}))
		require.NotNil(t, f.Advice)
		for _, p := range append([]diagnosis.Proposal{*f.Advice}, f.Others...) {
			if len(p.Fix) > 0 {
				for _, r := range p.Takes {
					what = append(what, r.What)
				}
				return what, p.Takes
			}
		}
		require.Fail(t, "no fix is proposed")
		return nil, nil
	}
	what, rows := takes("sundmarr-sd1", "burnt")
	assert.Equal(t, []string{"Loom with joints", "In and out again", "Tools"}, what)
	assert.Contains(t, rows[1].Say, "22 steps more")
	what, rows = takes("lanvik-bo2", "no-heat")
	assert.Equal(t, []string{"Ring element", "In and out again", "People", "Tools"}, what)
	assert.Equal(t, "two", rows[2].Say)
}

// An option that shows only once the machine is open is asked there, before the
// next step; until then it is planned as usual. Answered otherwise it is planned
// anew, and at its rung it can be mended.
func TestAnOptionIsAskedWhereItShows(t *testing.T) {
	p := onMap(t, "lanvik-bo2", scene.Job{ID: "j-1", Complaint: "dead", People: map[string]scene.Person{"jonna": {Name: "Jonna"}}})
	require.NoError(t, p.Record("person.here", record.PersonHere{Person: "tuure"}))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:clock"}))
	rungs := func() (out []string) {
		for _, r := range p.View().Rungs {
			out = append(out, r.ID)
		}
		return out
	}
	assert.Contains(t, rungs(), "clock-clips", "planned as usual")
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Kind == "survey" }))
	v := p.View()
	require.Equal(t, "option:clock-mount", v.Current.Goal)
	assert.Equal(t, "How is the clock held?", v.Current.Task.Title)
	assert.Equal(t, "Look now.", v.Current.Task.Stand)
	require.Len(t, v.Current.Task.Choices, 2)
	answer := v.Current.Task.Choices[1].Makes[0]
	require.NoError(t, p.Record(answer.Kind, answer.Body))
	v = p.View()
	assert.Equal(t, "out", v.Current.Kind, "asked once")
	assert.Contains(t, rungs(), "clock-bracket")
	assert.NotContains(t, rungs(), "clock-clips")

	v = until(t, p, "out", "clock-bracket")
	side := v.Rungs[slices.IndexFunc(v.Rungs, func(r steps.Rung) bool { return r.ID == "clock-bracket" })].OutSide
	require.Len(t, side.Mend, 1)
	assert.Equal(t, "Clips", side.Mend[0].Label)
	require.NoError(t, p.Record(side.Mend[0].Makes[0].Kind, side.Mend[0].Makes[0].Body))
	assert.Equal(t, "clock-clips", p.View().Current.Move, "planned anew")
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Kind == "work" }))

	// Mended once it is out: what was done stands, and the contradiction is told.
	require.NoError(t, p.Record("option.answered", record.OptionAnswered{Option: "clock-mount", Value: "bracket"}))
	assert.Contains(t, rungs(), "clock-clips")
	assert.Contains(t, irregular(p.View()), "option-contradicts")
}
