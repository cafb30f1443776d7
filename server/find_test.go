package server_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/diagnosis"
	"evensteps/core/record"
	"evensteps/server"
)

// The search over the API is the one that devices make: it moves with a result,
// and goes back when that is withdrawn.
func TestFindingOverTheAPI(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	look := func() (f diagnosis.Find) {
		require.Equal(t, http.StatusOK, d.get("/api/jobs/j-114/find", &f))
		return f
	}
	first := look()
	assert.Equal(t, "Does nothing at all", first.Complaint)
	require.NotNil(t, first.Advice)
	assert.Equal(t, "clock-unset", first.Suspects[0].Fault)

	of := func(kind string, body any) record.Event {
		e := d.event(kind, body)
		e.Job = "j-114"
		return e
	}
	made := of("test.result", record.TestResult{Test: "set-clock", Outcome: "starts", Evidence: "seen"})
	_, a, _ := d.send("j-114", made)
	require.Equal(t, "kept", a.Answers[0].Outcome, a.Answers[0].Problem)
	then := look()
	assert.Greater(t, then.Suspects[0].P, first.Suspects[0].P)
	assert.Equal(t, []string{"clock-unset"}, then.Advice.Fix)
	require.NotNil(t, then.Advice.Accept)
	assert.Equal(t, "Fixed", then.Advice.Accept.Label)

	_, _, _ = d.send("j-114", of("withdrawn", record.Withdrawn{Event: made.ID}))
	back := look()
	assert.Equal(t, first.Suspects, back.Suspects)
	assert.Empty(t, back.Results)
	assert.Equal(t, http.StatusNotFound, d.get("/api/jobs/j-999/find", nil))
	assert.Equal(t, http.StatusUnauthorized, s.device(t).get("/api/jobs/j-114/find", nil))
}
