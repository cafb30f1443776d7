package demo_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	corejob "evensteps/core/job"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/demo"
	"evensteps/library"
	"evensteps/server"
	"evensteps/store"
	"evensteps/store/cluster"
)

func TestFillingTwiceChangesNothing(t *testing.T) {
	ctx := t.Context()
	db, remove, err := cluster.Throwaway(ctx)
	require.NoError(t, err)
	defer remove()
	s, err := store.Open(ctx, db.URL)
	require.NoError(t, err)
	defer func() { assert.NoError(t, s.Close()) }()
	now := time.Now()
	require.NoError(t, demo.Fill(ctx, s, server.HashPassword, now))
	first, err := s.Events(ctx, "j-102", 0, 1000)
	require.NoError(t, err)
	assert.Greater(t, len(first), 30)
	require.NoError(t, demo.Fill(ctx, s, server.HashPassword, now.Add(time.Hour)))
	again, err := s.Events(ctx, "j-102", 0, 1000)
	require.NoError(t, err)
	assert.Equal(t, first, again)
	jobs, err := s.StaleJobs(ctx, 100) // nobody looked at Today yet
	require.NoError(t, err)
	assert.Len(t, jobs, 18)
	m, err := library.Map("tidemoor-tv6")
	require.NoError(t, err)
	for job, want := range map[string]struct{ headline, current string }{
		"j-101": {"Not even yet: 3 things left", "out"},
		"j-102": {"Not even yet: 5 things left", "back"},
		"j-103": {"Not even yet: 3 things left", "out"},
		"j-104": {"Not even yet: 7 things left", "out"}, // the proof has ended: measured again before the work goes on
		"j-105": {"Even: all back and proven. Signed off", "signed"},
		"j-106": {"Closed, not repaired", "signed"},
		"j-107": {"Not even yet: 5 things left", "out"},
		"j-108": {"Not even yet: 5 things left", "out"},
		"j-109": {"Not even yet: 7 things left", "work"},
		"j-110": {"Even: all back and proven", "sign-off"},
		"j-111": {"Closed, not repaired", "sign-off"},
		"j-112": {"Even: all back and proven. Signed off", "signed"},
	} {
		kept, err := s.Job(ctx, job)
		require.NoError(t, err)
		book := corejob.Open(m, scene.Job{ID: job, Complaint: kept.Complaint})
		events, err := s.Events(ctx, job, 0, 1000)
		require.NoError(t, err)
		for _, e := range events {
			f, err := record.Read(e)
			require.NoError(t, err)
			book.Add(f)
		}
		v := book.View(scene.Viewer{}, now)
		assert.Equal(t, want.headline, v.Headline, job)
		assert.Equal(t, want.current, v.Current.Kind, job)
	}
}

func TestThePlayerTellsWhatIsMissing(t *testing.T) {
	maps, err := library.Maps()
	require.NoError(t, err)
	p := demo.NewPlayer(maps[len(maps)-1], scene.Job{ID: "j-1"}, "jonna", "tab", time.Now(), 1)
	assert.ErrorContains(t, p.Record("rung.out", record.RungOut{}), "move is missing")
	require.NoError(t, p.Record("stopped", record.Stopped{Why: "gas smell"}))
	_, err = p.Step()
	assert.ErrorContains(t, err, "the job is stopped")
}
