package job_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/job"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/steps"
	"evensteps/core/view"
	"evensteps/demo"
)

// said is the choice of a line with this label.
func said(t testing.TB, l view.Line, label string) []view.Make {
	t.Helper()
	i := slices.IndexFunc(l.Or, func(c view.Choice) bool { return c.Label == label })
	require.GreaterOrEqual(t, i, 0, "%s has no %q", l.Say, label)
	return l.Or[i].Makes
}

// What is seen in passing is asked for at its step, weighs as evidence and stands
// on the sheet; what is greased is asked for on the way back, ticked or left.
func TestWhatIsSeenAndGreasedAtAStep(t *testing.T) {
	p := demo.NewPlayer(dryer(t), scene.Job{ID: "j-1", Complaint: "scrapes"}, "jonna", "tab-1", nine, 1)
	require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:felt"}))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "item:sleeve=away"}))
	v := until(t, p, "out", "sleeve-off")
	weighed := func() float64 {
		for _, s := range find(p).Suspects {
			if s.Fault == "sleeve-dry" {
				return s.P
			}
		}
		return 0
	}
	before := weighed()
	side := rung(t, v, "sleeve-off").OutSide
	l := line(t, side, "sleeve-off/inspect/1")
	assert.Equal(t, "A groove on the pin, or bare dry metal?", l.Say)
	assert.Contains(t, side.Done.Open, "a groove on the pin, or bare dry metal?", "nothing is skipped in silence")
	for _, one := range side.Lines {
		assert.NotEqual(t, "sleeve-off/inspect/2", one.Line, "greased when it is about to be closed in")
	}

	do(t, p, said(t, l, "No"))
	assert.Less(t, weighed(), before)
	require.NoError(t, p.Record("withdrawn", record.Withdrawn{Event: lastOf(t, p, "looked")}))
	do(t, p, said(t, l, "Yes"))
	assert.Greater(t, weighed(), before)
	f := find(p)
	assert.Equal(t, "A groove on the pin, or bare dry metal?", f.Results[len(f.Results)-1].Title)
	l = line(t, rung(t, p.View(), "sleeve-off").OutSide, "sleeve-off/inspect/1")
	assert.True(t, l.Ticked)
	assert.Equal(t, "yes, seen, you", l.Said)
	do(t, p, said(t, l, "Fit rear sleeve too"))
	assert.True(t, slices.ContainsFunc(p.View().Goals, func(g job.Goal) bool { return g.Goal == "replace:sleeve" && g.Open }))

	v = until(t, p, "back", "sleeve-off")
	side = rung(t, v, "sleeve-off").Home
	l = line(t, side, "sleeve-off/inspect/2")
	assert.Equal(t, "Grease the pin of the rear sleeve: high-heat grease, a thin film", l.Say)
	require.Contains(t, side.Done.Open, "grease the pin of the rear sleeve: high-heat grease, a thin film")
	do(t, p, said(t, l, "Skip"))
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	v = p.View()
	assert.True(t, v.Even, irregular(v))
	assert.Contains(t, v.Sheet.Found, "Seen: a groove on the pin, or bare dry metal (jonna).")
	assert.Contains(t, v.Sheet.NotTested, "Left for another time: grease the pin of the rear sleeve: high-heat grease, a thin film.")
}

func TestWhatWasDoneInPassingIsOnTheSheet(t *testing.T) {
	p := beginFor(t, "replace:idler-wheel", nil, nil)
	assert.Contains(t, p.View().Visit.Bring, "light oil, two drops", "and it is brought along")
	until(t, p, "sign-off", "")
	assert.Contains(t, p.View().Sheet.Done, "Oil the idler shaft, wiped clean: light oil, two drops.")
}

// A look at what the map does not have is kept, and said.
func TestALookThatNobodyKnows(t *testing.T) {
	p := begin(t)
	require.NoError(t, p.Record("looked", record.Looked{On: "front-off/inspect/9", As: record.LookedDone}))
	assert.Contains(t, snag(t, p.View(), "loose-fact").Say, "front-off/inspect/9")
}

// A direction stands with its viewpoint, and the company's own way before others.
func TestDirectionsAndSchools(t *testing.T) {
	p := begin(t)
	v := until(t, p, "back", "roller-l-off")
	side := rung(t, v, "roller-l-off").Home
	require.Len(t, side.Schools, 2)
	assert.Equal(t, steps.School{Say: "Use the ring again where it grips its groove.", Why: "a sound ring of the right size holds"}, side.Schools[0])
	q := beginFor(t, "item:blower-wheel=away", nil, nil)
	v = until(t, q, "out", "blower-off")
	assert.Contains(t, rung(t, v, "blower-off").OutSide.Do, "Turn the wheel nut *clockwise*, seen from the wheel side, to loosen it.")
	assert.Contains(t, rung(t, v, "blower-off").Home.Do, "Turn the wheel nut *anticlockwise*, seen from the wheel side, to tighten it.")
}

// A broken belt is off its pulleys: its rung stands as found, and comes back.
func TestWhatAFaultLeavesUndone(t *testing.T) {
	p := beginFor(t, "replace:drum-belt", nil, nil)
	v := until(t, p, "out", "belt-slack-front")
	choices := rung(t, v, "belt-slack-front").OutSide.Mend
	require.Len(t, choices, 1)
	assert.Equal(t, "Drum belt broken. It has to come back.", choices[0].Says)
	do(t, p, choices[0].Makes)
	v = p.View()
	assert.Equal(t, steps.Due, rung(t, v, "belt-slack-front").Back)
	assert.Contains(t, v.Sheet.Found[0], "off already, by the fault")
	until(t, p, "check", "drum-turns") // and its check with it
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	assert.True(t, p.View().Even, irregular(p.View()))
	assert.Empty(t, rung(t, begin(t).View(), "belt-slack-front").OutSide.Mend, "of another job's rung nothing is said")
}

// Ties that the new loom brings are thrown away, not kept in a tray.
func TestWhatComesNewWithThePart(t *testing.T) {
	p := onMap(t, "sundmarr-sd1", scene.Job{ID: "j-1"})
	require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:loom"}))
	v := p.View()
	side := rung(t, v, "loom-out").OutSide
	assert.Equal(t, "new ones come with the loom with joints; the old are not used again", side.Lots[0].Renew)
	assert.Empty(t, side.Lots[0].Tray)
	assert.Contains(t, side.Done.Says, "6 ties to the bin")
	v = until(t, p, "back", "loom-out")
	assert.Contains(t, rung(t, v, "loom-out").Home.Done.Says, "6 new ties")
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	assert.True(t, p.View().Even, irregular(p.View()))
}

// The plate of the machine stands beside its proof.
func TestThePlateBesideTheProof(t *testing.T) {
	v := until(t, begin(t), "out", "prove-dead")
	assert.Contains(t, rung(t, v, "prove-dead").OutSide.Proof.Note, "The plate asks for 230 V, 50 Hz, 16 A.")
}

// What fits a part that needs a ticket holds it; what was fitted without is said.
func TestAPartThatNeedsATicket(t *testing.T) {
	people := map[string]scene.Person{"jonna": {Name: "Jonna"}, "ilse": {Name: "Ilse", Tickets: []string{"gas"}}}
	m := *dryer(t)
	m.Parts = slices.Clone(m.Parts)
	m.Part("rollers").Ticket = "gas"
	p := demo.NewPlayer(&m, scene.Job{ID: "j-1", People: people}, "jonna", "tab-1", nine, 1)
	require.NoError(t, p.Answer(nil))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:rollers"}))
	for v := p.View(); v.Current.Kind == "out"; v = p.View() {
		_, err := p.Step()
		require.NoError(t, err)
	}
	v := p.View()
	require.Equal(t, "work", v.Current.Kind)
	assert.Nil(t, v.Current.Task.Done)
	assert.Contains(t, v.Current.Task.Ticket, "gas ticket needed")
	require.NoError(t, p.Record("part.fitted", record.PartFitted{Part: "rollers", Piece: "roller-l"}))
	assert.Contains(t, snag(t, p.View(), "ticket-missing").Say, "no gas ticket")
}
