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
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
	"evensteps/demo"
	"evensteps/library"
)

func decide(p *demo.Player, f diagnosis.Typed) *diagnosis.Decide {
	return p.Book.Decide(scene.Viewer{Person: p.By, Device: p.Device}, p.Clock, f)
}

func onMap(t testing.TB, id string, job scene.Job) *demo.Player {
	t.Helper()
	m, err := library.Map(id)
	require.NoError(t, err)
	return demo.NewPlayer(m, job, "jonna", "tab-1", nine, 1)
}

func fit(t testing.TB, d *diagnosis.Decide, title string) diagnosis.Fit {
	t.Helper()
	var all []string
	for _, f := range d.Fits {
		if f.Title == title {
			return f
		}
		all = append(all, f.Title)
	}
	require.Fail(t, title+" is not among "+strings.Join(all, "; "))
	return diagnosis.Fit{}
}

// A kit holds several suspects: to fit it, to fit the part alone, and to test
// first stand beside each other, in minutes and money to a proven repair.
func TestTestOrSwap(t *testing.T) {
	p := onMap(t, "brennvik-fr4", scene.Job{ID: "j-1", Complaint: "zone-dead"})
	require.NoError(t, p.Record("test.result", record.TestResult{Test: "zones-try", Outcome: "one", Evidence: "seen"}))
	d := decide(p, nil)
	kit, alone := fit(t, d, "Coil socket with coil"), fit(t, d, "Surface coil")
	assert.Greater(t, kit.Holds, alone.Holds, "the kit mends more of what it may be")
	assert.Contains(t, kit.Says, "coil socket and surface coil: each fitted, kept or returned")
	assert.Contains(t, kit.Says, "fixes: surface coil open and coil socket burnt")
	assert.Equal(t, 39.0, kit.Price)
	assert.Less(t, kit.P50, kit.P80)
	require.True(t, d.Fits[0].Test, "a look into the socket is worth more than either: %+v", d.Fits[0])
	assert.Less(t, d.Fits[0].Minutes+d.Fits[0].Money, kit.Minutes+kit.Money)
	assert.Equal(t, "Surface coil open", d.Title)
	assert.Equal(t, "Assumed", d.Known[1].What)

	// Once a coil of another zone heats there, the coil alone is the better buy.
	require.NoError(t, p.Record("test.result", record.TestResult{Test: "coil-swap", Outcome: "heats", Evidence: "seen"}))
	d = decide(p, nil)
	kit, alone = fit(t, d, "Coil socket with coil"), fit(t, d, "Surface coil")
	assert.Less(t, alone.Minutes+alone.Money, kit.Minutes+kit.Money)
	assert.Contains(t, d.Known, view.Row{What: "Seen", Say: "Put a coil of another zone in: it heats"})
	take(t, p, alone.Accept.Makes)
	v := p.View()
	require.Len(t, v.Goals, 1)
	require.Equal(t, "option:cooktop", v.Current.Goal, "what shows from outside and changes the way is asked before the first rung")
	require.NoError(t, p.Answer(nil))
	v = p.View()
	assert.Equal(t, "out", v.Current.Kind, "and the ladder leads there")
	assert.Equal(t, "The customer said: repair.", decide(p, nil).Decided)
}

// What is known of a part goes with it onto the sheet.
func TestHowItWasKnownThatAPartWasAtFault(t *testing.T) {
	for value, want := range map[string]string{"OL": "measured", "": "assumed: nothing measured or seen"} {
		p := searching(t)
		if value != "" {
			require.NoError(t, p.Record("reading.taken", record.ReadingTaken{Test: "element-ohms", Value: value}))
		}
		require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:element-kit"}))
		require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Kind == "back" }))
		assert.Contains(t, p.View().Sheet.Parts[0].Why, want)
	}
}

func TestRepairOrReplaceWithWhatTipsIt(t *testing.T) {
	p := searching(t)
	require.NoError(t, p.Record("reading.taken", record.ReadingTaken{Test: "element-ohms", Value: "OL"}))
	d := decide(p, nil)
	require.NotNil(t, d.Worth)
	assert.Empty(t, d.Worth.Says, "nothing is said before somebody says what a new one costs")
	d = decide(p, diagnosis.Typed{"new": "900"})
	assert.Contains(t, d.Worth.Says, "Repair is cheaper")
	assert.Contains(t, d.Worth.Says, "Break-even: it lasts")
	assert.Greater(t, d.Worth.Cost, 44.0, "the element and the work")
	assert.Equal(t, 4.0, d.Worth.Left, "the usual, where nobody says another")
	assert.Contains(t, decide(p, diagnosis.Typed{"new": "60"}).Worth.Says, "A new one is cheaper")
	assert.Equal(t, 4.5, decide(p, diagnosis.Typed{"new": "60", "years_left": "4,5"}).Worth.Left, "a comma or a point")
	assert.Contains(t, decide(p, diagnosis.Typed{"new": "60", "years_left": "0"}).Worth.Problem, "write between")
	assert.Contains(t, decide(p, diagnosis.Typed{"new": "60", "interest": "900"}).Worth.Problem, "per cent")
	assert.Contains(t, decide(p, diagnosis.Typed{"new": "cheap"}).Worth.Problem, "is no number")

	// The customer declines: it is closed, not even, and owes no proof of heat.
	d = decide(p, diagnosis.Typed{"new": "300"})
	var leave view.Touch
	for _, x := range d.Else {
		if x.Label == "Replace" {
			leave = x
		}
	}
	var body record.Decided
	require.NoError(t, json.Unmarshal(leave.Makes[0].Body, &body))
	assert.Equal(t, "replace", body.Choice)
	assert.NotZero(t, body.Figures["replace_a_year"], "kept with its figures")
	take(t, p, leave.Makes)
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Kind == "sign-off" }))
	v := p.View()
	assert.False(t, v.Even)
	for _, s := range v.Snags {
		assert.NotEqual(t, "vent-warm", s.On, "no final of the complaint is due")
	}
}

// Before the journey: what to bring, for which stretch two are needed, and where
// somebody without a ticket has to stop.
func TestBeforeTheJourney(t *testing.T) {
	p := onMap(t, "lanvik-bo2", scene.Job{ID: "j-1", Complaint: "no-heat", Earlier: []scene.Earlier{{When: "2026-08-03", Say: "Clock set."}}})
	d := decide(p, nil)
	what := map[string]string{}
	for _, r := range d.Bring {
		what[r.What] = r.Say
	}
	assert.Contains(t, what, "Ring element LV-32010")
	assert.Contains(t, what, "Multimeter")
	require.Len(t, d.Who, 1)
	assert.Contains(t, d.Who[0], "Two people from “oven out” to “oven out back”")
	assert.Equal(t, "Bring a second person.", d.Go)
	assert.Equal(t, []view.Row{{What: "2026-08-03", Say: "Clock set."}}, d.Earlier)

	people := map[string]scene.Person{"jonna": {Name: "Jonna"}, "ilse": {Name: "Ilse", Tickets: []string{"gas"}}}
	p = onMap(t, "tidemoor-tv6", scene.Job{ID: "j-2", People: people})
	require.NoError(t, p.Record("option.answered", record.OptionAnswered{Option: "fuel", Value: "gas"}))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:gas-valve"}))
	d = decide(p, nil)
	assert.Equal(t, "You have to stop for a ticket.", d.Go)
	require.NotEmpty(t, d.Stops)
	assert.Contains(t, d.Stops[0], "Stop at step 7: gas ticket needed. Ilse has one. So do 8 after it.")
	assert.Len(t, d.Stops, 1, "one line for a ticket")
	assert.Equal(t, "Fit gas valve", d.Title)
	require.NotEmpty(t, d.Ways)
	assert.Contains(t, d.Bring[0].What, "Gas valve")
}

func TestWaysBesideEachOther(t *testing.T) {
	q := onMap(t, "brennvik-fr4", scene.Job{ID: "j-1"})
	require.NoError(t, q.Record("goal.added", record.GoalAdded{Goal: "replace:surface-switch"}))
	d := decide(q, nil)
	require.GreaterOrEqual(t, len(d.Ways), 2)
	assert.Less(t, d.Ways[0].P50, d.Ways[1].P50)
	assert.Equal(t, "Plug", d.Ways[1].Title)
	// Another way is taken by one touch, and the ladder follows it; another takes the
	// shortest again. One that leads nowhere is forgotten.
	shortest := q.View().Plan.WayIn
	assert.Nil(t, d.Ways[0].Accept)
	require.NotNil(t, d.Ways[1].Accept)
	take(t, q, d.Ways[1].Accept.Makes)
	v := q.View()
	assert.Contains(t, v.Plan.WayIn, "plug-behind")
	assert.NotEqual(t, shortest, v.Plan.WayIn)
	assert.Empty(t, irregular(v), "nothing is to be explained")
	d = decide(q, nil)
	assert.Len(t, v.Plan.WayIn, d.Ways[0].Rungs)
	require.NotNil(t, d.Ways[0].Accept)
	take(t, q, d.Ways[0].Accept.Makes)
	assert.Equal(t, shortest, q.View().Plan.WayIn)
	require.NoError(t, q.Record("way.chosen", record.WayChosen{Without: slices.Concat(shortest, v.Plan.WayIn)}))
	assert.Equal(t, shortest, q.View().Plan.WayIn, "there is no other")
	assert.Empty(t, decide(onMap(t, "brennvik-fr4", scene.Job{ID: "j-2"}), nil).Fits)
	assert.NotEmpty(t, decide(onMap(t, "brennvik-fr4", scene.Job{ID: "j-2"}), nil).Say)
}

// The company's own closed jobs weigh beside the map.
func TestTheCompanysOwnJobsMoveTheSuspects(t *testing.T) {
	chance := func(closed map[string]int) float64 {
		p := onMap(t, "tidemoor-tv6", scene.Job{ID: "j-1", Complaint: "no-heat", Closed: closed})
		for _, s := range find(p).Suspects {
			if s.Fault == "cutoff-open" {
				return s.P
			}
		}
		return 0
	}
	// 25 of 93 as ten jobs, and ten of ten.
	assert.InDelta(t, (10*25.0/93+10)/20, chance(map[string]int{"cutoff-open": 10}), 1e-9)
	assert.InDelta(t, 25.0/93, chance(nil), 1e-9)
}

// Fixes are evidence only against what was fitted before a final failed.
func TestOnlyWhatWasFittedBeforeAFinalFailedHasFailed(t *testing.T) {
	p := searching(t)
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:element-kit"}))
	until(t, p, "final", "vent-warm")
	require.NoError(t, p.Record("final.result", record.FinalResult{Final: "vent-warm", Passed: false}))
	v := p.View()
	assert.Equal(t, "find", v.Current.Kind, "a final that fails reopens the search")
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:cutoff"}))
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Kind == "back" }))
	chance := map[string]float64{}
	for _, s := range find(p).Suspects {
		chance[s.Fault] = s.P
	}
	assert.Less(t, chance["element-open"], 0.05)
	assert.Greater(t, chance["cutoff-open"], 0.2, "no final has failed since the cutoff")
	until(t, p, "final", "vent-warm")
	warm := "58 C"
	require.NoError(t, p.Record("final.result", record.FinalResult{Final: "vent-warm", Passed: true, Value: &warm}))
	assert.NotEqual(t, "find", p.View().Current.Kind)
}

func TestKitsRenewWhatTheyHold(t *testing.T) {
	m, err := library.Map("brennvik-fr4")
	require.NoError(t, err)
	assert.True(t, m.Renews(m.Part("socket"), m.Fault("coil-open")))
	assert.False(t, m.Renews(m.Part("coil"), m.Fault("socket-burnt")))
	assert.False(t, m.Renews(m.Part("coil"), m.Fault("leg-missing")))
	assert.False(t, m.Renews(nil, &machine.Fault{Part: "coil"}))
}
