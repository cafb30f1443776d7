package server_test

import (
	"context"
	"encoding/json"
	"net/http"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/ladder"
	"evensteps/core/record"
	"evensteps/server"
)

func rowOf(t *testing.T, d *device, job string) server.JobRow {
	t.Helper()
	var jobs struct{ Jobs []server.JobRow }
	require.Equal(t, http.StatusOK, d.get("/api/jobs", &jobs))
	for _, r := range jobs.Jobs {
		if r.ID == job {
			return r
		}
	}
	require.Failf(t, "no such job", job)
	return server.JobRow{}
}

// A row is kept, is stale once a fact comes in, and is made again at the latest
// when it is read.
func TestTodayKeepsItsRowsUntilAFactComesIn(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	require.Equal(t, ladder.NotBegun, rowOf(t, d, "j-101").Stage)
	kept, err := s.store.TodayRows(t.Context())
	require.NoError(t, err)
	require.Len(t, kept, 18)
	before := kept["j-101"]

	rowOf(t, d, "j-101")
	kept, err = s.store.TodayRows(t.Context())
	require.NoError(t, err)
	assert.Equal(t, before.MadeAt, kept["j-101"].MadeAt, "nothing came, nothing is made again")

	_, a, _ := d.send("j-101", d.event("rung.out", record.RungOut{Move: "isolator-off"}))
	require.Equal(t, "kept", a.Answers[0].Outcome)
	assert.Equal(t, ladder.LeftOpen, rowOf(t, d, "j-101").Stage)
	kept, err = s.store.TodayRows(t.Context())
	require.NoError(t, err)
	assert.Equal(t, before.Num+1, kept["j-101"].Num)
}

// The worker makes a stale row again without anybody reading it; a rebuild
// makes all of them again from the events.
func TestTheWorkerAndTheRebuild(t *testing.T) {
	s := begin(t, server.Options{})
	work, stop := context.WithCancel(t.Context())
	defer stop()
	go s.server.Work(work)
	d := s.jonna(t)
	_, _, _ = d.send("j-101", d.event("rung.out", record.RungOut{Move: "isolator-off"}))
	require.Eventually(t, func() bool {
		kept, err := s.store.TodayRows(context.Background())
		return err == nil && kept["j-101"].Num == 2
	}, 10*time.Second, 20*time.Millisecond)
	stop()

	before := rowOf(t, d, "j-102")
	require.NoError(t, s.store.DropTodayRows(t.Context()))
	n, err := s.server.Rebuild(t.Context())
	require.NoError(t, err)
	assert.Equal(t, 18, n)
	assert.Equal(t, before, rowOf(t, d, "j-102"))
}

// Two well-formed facts that once ended the process: the mains off, and their
// proof "found". Nothing is proven by that, and nothing ends.
func TestAFoundProofEndsNothing(t *testing.T) {
	s := begin(t, server.Options{})
	work, stop := context.WithCancel(t.Context())
	defer stop()
	go s.server.Work(work)
	d := s.jonna(t)
	_, a, _ := d.send("j-101", d.event("rung.out", record.RungOut{Move: "isolator-off"}), d.event("found", record.Found{Move: "prove-dead", By: "customer"}))
	require.Equal(t, "kept", a.Answers[1].Outcome)
	assert.Equal(t, ladder.LeftOpen, rowOf(t, d, "j-101").Stage)
	var v ladder.View
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-101/view", &v))
	assert.Equal(t, "off, not proven", v.Energies[0].Say)
	assert.NotEmpty(t, v.HandOver.Hurts)
}

// What is stored and cannot be read any more is that job's own snag; no list
// fails for one job.
func TestOneJobThatCannotBeReadTakesNoListFromAnybody(t *testing.T) {
	s := begin(t, server.Options{})
	withoutAMap(t, s.url) // of j-114
	d := s.jonna(t)
	_, a, _ := d.send("j-101", d.event("rung.out", record.RungOut{Move: "isolator-off"}))
	kept := a.Answers[0]
	// As a newer version, or a laxer door, would have kept it.
	at := kept.T.Add(time.Second)
	require.NoError(t, s.store.AppendStamped(t.Context(), record.Event{
		ID: uuid.NewString(), Job: "j-101", By: "jonna", Device: "tab-9", N: 1, Wall: at, Run: "r", Kind: "note", Body: []byte(`{"text":"x","mood":"good"}`), Num: kept.Num + 1, T: &at,
	}))
	var jobs struct{ Jobs []server.JobRow }
	require.Equal(t, http.StatusOK, d.get("/api/jobs", &jobs))
	assert.Len(t, jobs.Jobs, 18)
	var v ladder.View
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-101/view", &v))
	k := slices.IndexFunc(v.Snags, func(s ladder.Snag) bool { return s.Kind == "unreadable" })
	require.GreaterOrEqual(t, k, 0, "it is shown")
	assert.Contains(t, v.Snags[k].Say, "cannot be read")

	assert.Equal(t, "This job cannot be shown", rowOf(t, d, "j-114").Headline, "it stands in the list with a sentence")
}

// A proof that is being typed is judged over the API as on the device.
func TestAProofIsJudgedAsItIsTyped(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	_, _, _ = d.send("j-101", d.event("rung.out", record.RungOut{Move: "isolator-off"}), d.event("rung.out", record.RungOut{Move: "drawn-forward"}), d.event("rung.out", record.RungOut{Move: "cover-off"}))
	status, body, _ := d.call(http.MethodPost, "/api/jobs/j-101/prove", map[string]any{"on": "prove-dead", "draft": map[string]string{"meter": "m-4", "before": "230", "L-N": "0 VDC", "L-PE": "0", "N-PE": "0", "after": "231"}})
	require.Equal(t, http.StatusOK, status, string(body))
	var p ladder.Proving
	require.NoError(t, json.Unmarshal(body, &p))
	assert.False(t, p.Off)
	assert.Contains(t, p.Done.Says, "set the meter to AC volts", "said on the button, before it is touched")
	status, body, _ = d.call(http.MethodPost, "/api/jobs/j-101/prove", map[string]any{"on": "top-off", "draft": map[string]string{}})
	assert.Equal(t, http.StatusUnprocessableEntity, status, string(body))
}
