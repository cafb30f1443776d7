package job_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/bench"
	"evensteps/core/diagnosis"
	"evensteps/core/job"
	"evensteps/core/journey"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/demo"
)

var crew = map[string]scene.Person{
	"jonna": {Name: "Jonna", Role: "technician", Tickets: []string{"gas"}}, "ilse": {Name: "Ilse", Role: "technician"}, "pell": {Name: "Pell", Role: "office"}, "old": {Name: "Old", Role: "technician", Closed: true},
}

// A job is for whoever it was given to and whoever works on it; nobody is at a
// machine for having looked at its job, or for working at a desk.
func TestWhoGoes(t *testing.T) {
	p := demo.NewPlayer(dryer(t), scene.Job{ID: "j-1", People: crew, Where: &scene.Where{Site: "Canteen", Access: "Key at the shop"}}, "pell", "desk", nine, 1)
	v := p.View()
	assert.Equal(t, "nobody is named yet", v.About.Goes)
	assert.Equal(t, "Key at the shop", v.About.Where.Access)
	assert.Empty(t, v.Arrive, "an office is at no machine")
	var can []string
	for _, n := range v.About.People {
		can = append(can, n.ID)
	}
	assert.Equal(t, []string{"ilse", "jonna"}, can, "who works at a desk does not go, nor whose account is closed")
	require.NoError(t, p.Record("job.given", record.JobGiven{To: []string{"ilse"}}))
	v = p.View()
	assert.Equal(t, "Ilse goes", v.About.Goes)
	assert.Equal(t, []string{"ilse"}, v.Visit.Whose)
	assert.False(t, v.About.Mine)
	assert.Empty(t, v.Here)
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:rollers"}))
	require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
	assert.Empty(t, p.View().Here)

	p.By = "jonna"
	v = p.View()
	assert.NotEmpty(t, v.Arrive, "she can say that she is there")
	require.NoError(t, p.Record("note", record.Note{Text: "I looked at it at home"}))
	assert.Empty(t, p.View().Here)
	require.NoError(t, p.Until(func(v *job.View) bool {
		return v.Current.Kind == "out" && v.Current.Move != "plug-out" && len(v.Here) > 0
	}))
	v = p.View()
	assert.Equal(t, []string{"you"}, v.Here, "she recorded a step there")
	assert.Equal(t, []string{"ilse", "jonna"}, v.Visit.Whose)
	assert.Equal(t, "Ilse and you go", v.About.Goes)
	assert.Empty(t, v.Arrive)
	require.NoError(t, p.Record("job.given", record.JobGiven{To: []string{}}))
	assert.Equal(t, "nobody is named yet", p.View().About.Goes)
	require.NoError(t, p.Record("took-over", record.TookOver{}))
	assert.Equal(t, []string{"jonna"}, p.View().Visit.Whose)
}

// A job made in error is called off with a reason while nobody has worked on it,
// and taken up again; whoever works on it all the same opens it again.
func TestAJobThatIsCalledOff(t *testing.T) {
	p := demo.NewPlayer(dryer(t), scene.Job{ID: "j-1", People: crew, Complaint: "thumps"}, "pell", "desk", nine, 1)
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:rollers"}))
	v := p.View()
	assert.NotEmpty(t, v.About.Reasons)
	require.NoError(t, p.Record("job.called-off", record.JobCalledOff{Reason: "made twice", Instead: "j-9"}))
	v = p.View()
	assert.Equal(t, journey.CalledOff, v.Visit.Stage)
	assert.Equal(t, "called-off", v.Current.Kind)
	assert.Equal(t, "Called off", v.Headline)
	require.NotNil(t, v.About.CalledOff)
	assert.Equal(t, "made twice", v.About.CalledOff.Text)
	assert.Empty(t, v.About.Reasons)
	assert.Empty(t, v.Visit.Bring)
	require.NoError(t, p.Record("note", record.Note{Text: "told the customer"}))
	assert.Equal(t, journey.CalledOff, p.View().Visit.Stage, "a word about it changes nothing")
	require.NoError(t, p.Record("withdrawn", record.Withdrawn{Event: v.About.Again[0]}))
	v = p.View()
	assert.Equal(t, journey.NotBegun, v.Visit.Stage)
	assert.Nil(t, v.About.CalledOff)

	require.NoError(t, p.Record("job.called-off", record.JobCalledOff{Reason: "made twice"}))
	p.By = "jonna"
	require.NoError(t, p.Record("rung.half", record.RungHalf{Move: "top-off", Side: "out"}))
	v = p.View()
	assert.NotEqual(t, journey.CalledOff, v.Visit.Stage)
	assert.Empty(t, v.About.Reasons, "work on it has begun")
	// Called off on another device while the machine is open: it stays open.
	p = begin(t)
	until(t, p, "back", "front-off")
	require.NoError(t, p.Record("job.called-off", record.JobCalledOff{Reason: "made twice"}))
	v = p.View()
	assert.Equal(t, journey.LeftOpen, v.Visit.Stage)
	assert.Equal(t, "back", v.Current.Kind)
	assert.Nil(t, v.About.CalledOff)
}

// A meter whose calibration was over says so beside what was read with it, by the
// calibration of its time.
func TestAMeterThatIsOverdue(t *testing.T) {
	due, later := nine.Add(-24*time.Hour), nine.AddDate(1, 0, 0)
	again := nine.Add(100 * time.Hour)
	for name, c := range map[string]struct {
		meter scene.Meter
		says  string
	}{
		"never calibrated, as far as is known": {scene.Meter{}, ""},
		"good":                                 {scene.Meter{Due: &later}, ""},
		"over":                                 {scene.Meter{Due: &due}, "The calibration of meter m-4 ended on "},
		"over then, calibrated since":          {scene.Meter{Due: &later, From: &again, Was: []scene.Meter{{Category: "CAT III 600 V", Due: &due, Until: &again}}}, "The calibration of meter m-4 ended on "},
	} {
		c.meter.Category = "CAT III 600 V"
		p := demo.NewPlayer(dryer(t), scene.Job{ID: "j-1", People: crew, Complaint: "no-heat", Meters: map[string]scene.Meter{"m-4": c.meter}}, "jonna", "tab-1", nine, 1)
		require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:rollers"}))
		require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Move == "prove-dead" }))
		_, err := p.Step()
		require.NoError(t, err)
		v := p.View()
		e := v.Energies[slices.IndexFunc(v.Energies, func(e bench.Energy) bool { return e.Kind == "mains" })]
		fig := v.Sheet.Measured[0]
		if c.says == "" {
			assert.NotContains(t, e.Note, "calibration", name)
			assert.NotContains(t, fig.Note, "calibration", name)
			continue
		}
		assert.Contains(t, e.Note, c.says, name)
		assert.Contains(t, fig.Note, c.says, name)
		assert.Contains(t, v.Sheet.Markdown, c.says, name)
	}

	p := demo.NewPlayer(dryer(t), scene.Job{ID: "j-1", Complaint: "no-heat", Meters: map[string]scene.Meter{"m-4": {Due: &due}}, Firm: &scene.Firm{Region: "en-US"}}, "jonna", "tab-1", nine, 1)
	asked, err := p.Book.Prove(scene.Viewer{Person: "jonna"}, nine, "prove-dead", map[string]string{"meter": "m-4"})
	require.NoError(t, err)
	assert.Contains(t, asked.Proof.Note, "ended on November 24, 2026.", "before it is used, too")
}

// The company's currency and tax stand in what a repair costs; its call-out comes
// either way.
func TestWhatTheCompanyAsks(t *testing.T) {
	cost := func(firm *scene.Firm) *diagnosis.Worth {
		p := demo.NewPlayer(dryer(t), scene.Job{ID: "j-1", Complaint: "thumps", Firm: firm}, "jonna", "tab-1", nine, 1)
		require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:rollers"}))
		return p.Book.Decide(scene.Viewer{Person: "jonna"}, nine, nil).Worth
	}
	bare, asked := cost(nil), cost(&scene.Firm{Currency: "EUR", Tax: 25, CallOut: 40})
	require.Positive(t, bare.Cost)
	assert.InDelta(t, 1.25*bare.Cost, asked.Cost, 1e-9)
	assert.Equal(t, "EUR", asked.Money)
	assert.Equal(t, "With 25 % tax. The call-out, EUR 50, comes either way.", asked.Note)
	assert.Empty(t, bare.Note)
}

// What is asked for bears an example in the company's units.
func TestExamplesInTheCompanysUnits(t *testing.T) {
	asked := func(units string) string {
		p := demo.NewPlayer(dryer(t), scene.Job{ID: "j-1", Complaint: "no-heat", Firm: &scene.Firm{Units: units}}, "jonna", "tab-1", nine, 1)
		require.NoError(t, p.Answer(nil))
		require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:drum-belt"}))
		for _, r := range p.View().Rungs {
			if r.OutSide == nil {
				continue
			}
			for _, l := range r.OutSide.Lines {
				if strings.HasSuffix(l.Line, "/belt-mark") {
					return l.Ask
				}
			}
		}
		return ""
	}
	assert.Equal(t, "368 mm", asked("metric"))
	assert.Equal(t, "14 1/2 in", asked("customary"))
}
