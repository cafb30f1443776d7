package job_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/job"
	"evensteps/core/journey"
	"evensteps/core/record"
	"evensteps/core/scene"
)

func TestTheStagesOfAJob(t *testing.T) {
	p := begin(t)
	v := p.View()
	assert.Equal(t, journey.NotBegun, v.Visit.Stage)
	assert.Equal(t, "drum rollers TM-11902", v.Visit.Bring[0])
	assert.Contains(t, v.Visit.Bring, "multimeter")
	until(t, p, "out", "toe-off")
	v = p.View()
	assert.Equal(t, journey.LeftOpen, v.Visit.Stage)
	require.NotNil(t, v.Visit.Opened)
	require.NoError(t, p.Record("goal.dropped", record.GoalDropped{Goal: "replace:rollers", Reason: "waiting"}))
	assert.Equal(t, journey.LeftOpen, p.View().Visit.Stage, "it is open, whatever it waits for")
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	assert.Equal(t, journey.Waiting, p.View().Visit.Stage)
	require.NoError(t, p.Record("signed-off", record.SignedOff{}))
	assert.Equal(t, journey.Waiting, p.View().Visit.Stage)
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:rollers"}))
	assert.Equal(t, journey.Closed, p.View().Visit.Stage)
}

func TestWhereOneWithoutATicketStops(t *testing.T) {
	people := map[string]scene.Person{"jonna": {Name: "Jonna"}, "ilse": {Name: "Ilse", Tickets: []string{"gas"}}}
	p := beginFor(t, "replace:gas-valve", map[string]string{"fuel": "gas"}, people)
	stops := p.View().Visit.Stops
	assert.Equal(t, "Stop at step 7: gas ticket needed. Ilse has one", journey.StopsAt(stops, nil))
	assert.Empty(t, journey.StopsAt(stops, []string{"gas"}))
}

func TestOpenFor(t *testing.T) {
	now := time.Date(2026, 11, 25, 7, 0, 0, 0, time.FixedZone("", 2*3600))
	for ago, want := range map[time.Duration]string{
		30 * time.Minute: "open since 06:30", 7 * time.Hour: "open since 00:00", 8 * time.Hour: "open since yesterday", 60 * time.Hour: "open 3 days",
	} {
		at := now.Add(-ago).UTC()
		assert.Equal(t, want, journey.OpenFor(&at, now))
	}
	assert.Empty(t, journey.OpenFor(nil, now))
}
