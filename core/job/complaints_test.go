package job_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/job"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/demo"
)

// Two complaints on one job: the first is looked for first, the second while the
// machine is open; the finals of both are due, and one that fails opens its own.
func TestSeveralComplaints(t *testing.T) {
	p := demo.NewPlayer(dryer(t), scene.Job{ID: "j-1", Complaint: "squeals", Closed: map[string]int{"idler-worn": 5}}, "jonna", "tab-1", nine, 1)
	require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
	require.NoError(t, p.Answer(nil))
	require.NoError(t, p.Record("complaint.added", record.ComplaintAdded{Complaint: "no-heat"}))
	require.NoError(t, p.Record("complaint.added", record.ComplaintAdded{Complaint: "no-heat"}), "said twice, it is one")
	require.NoError(t, p.Record("complaint.added", record.ComplaintAdded{Complaint: "sings"}), "one that the map does not have is kept")
	v := p.View()
	assert.Equal(t, []string{"Squeals when it turns.", "Turns but does not heat."}, v.Sheet.Wrong)
	assert.Equal(t, "Squeals when it turns", find(p).Complaint)
	for _, c := range p.Book.Lists(scene.Viewer{}, nine).Complaints {
		assert.Equal(t, c.ID == "squeals" || c.ID == "no-heat", c.On, c.ID)
	}

	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:idler-wheel"}))
	assert.Equal(t, "Turns but does not heat", find(p).Complaint, "what is mended is set")
	v = until(t, p, "find", "")
	assert.NotEmpty(t, v.Off, "the second is looked for while it is open")
	f := find(p)
	assert.Equal(t, "Turns but does not heat", f.Complaint)
	assert.NotEqual(t, "idler-worn", f.Suspects[0].Fault)

	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:element-kit"}))
	v = until(t, p, "final", "run-warm")
	var due []string
	for _, s := range v.Snags {
		if s.Kind == "final-due" {
			due = append(due, s.On)
		}
	}
	assert.Contains(t, due, "run-warm", "the first is proven, too")
	assert.Contains(t, due, "vent-warm")
	require.NoError(t, p.Record("final.result", record.FinalResult{Final: "run-warm", Passed: false}))
	v = p.View()
	assert.Equal(t, "find", v.Current.Kind)
	f = find(p)
	assert.Equal(t, "Squeals when it turns", f.Complaint, "its own search is open again")
	require.NoError(t, p.Record("withdrawn", record.Withdrawn{Event: lastOf(t, p, "final.result")}))
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	assert.True(t, p.View().Even, irregular(p.View()))
	require.NoError(t, p.Record("signed-off", record.SignedOff{}))
	assert.Equal(t, []string{"idler-worn"}, p.View().Visit.Mended, "what teaches is the call's complaint")
}

// A goal that was a mistake opens the search again.
func TestAMistakenGoalMendsNothing(t *testing.T) {
	p := searching(t)
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:rollers"}))
	assert.Equal(t, "out", until(t, p, "out", "isolator-off").Current.Kind)
	require.NoError(t, p.Record("goal.dropped", record.GoalDropped{Goal: "replace:rollers", Reason: "mistaken"}))
	assert.Equal(t, "find", p.View().Current.Kind)
}
