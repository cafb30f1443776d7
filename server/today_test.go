package server_test

import (
	"context"
	"net/http"
	"testing"
	"time"

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
