package server_test

import (
	"bufio"
	"context"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/record"
	"evensteps/server"
	"evensteps/store"
)

// told is one event of a stream, as WHATWG's HTML standard, 9.2.6, has it read: lines
// of field and value, an empty line after each event.
type told struct{ event, data string }

// hears reads a stream until it ends.
func (d *device) hears(ctx context.Context, path string) <-chan told {
	d.t.Helper()
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, d.site.URL+path, nil)
	require.NoError(d.t, err)
	answer, err := d.http.Do(r)
	require.NoError(d.t, err)
	require.Equal(d.t, http.StatusOK, answer.StatusCode)
	require.Equal(d.t, "text/event-stream", answer.Header.Get("Content-Type"))
	out := make(chan told, 100)
	go func() {
		defer close(out)
		defer answer.Body.Close()
		var one told
		for lines := bufio.NewScanner(answer.Body); lines.Scan(); {
			field, value, _ := strings.Cut(lines.Text(), ":")
			value = strings.TrimPrefix(value, " ")
			switch field {
			case "event":
				one.event = value
			case "data":
				one.data += value
			case "":
				out <- one
				one = told{}
			}
		}
	}()
	return out
}

// until waits for an event that is what is asked for.
func until(t *testing.T, heard <-chan told, event string, is func(data string) bool) {
	t.Helper()
	for end := time.After(10 * time.Second); ; {
		select {
		case one, goesOn := <-heard:
			require.True(t, goesOn, "the stream ended")
			if one.event == event && is(one.data) {
				return
			}
		case <-end:
			require.Fail(t, "not told: "+event)
		}
	}
}

func anything(string) bool { return true }

// another is one more process on the same database.
func (s *site) another(t *testing.T) *site {
	t.Helper()
	other, err := store.Open(t.Context(), s.url)
	require.NoError(t, err)
	one := server.New(server.Options{Store: other, RowsFor: -1})
	web := httptest.NewServer(one)
	t.Cleanup(func() {
		web.Close()
		assert.NoError(t, other.Close())
	})
	return &site{web, one, other, s.url}
}

// at are who stands on the job and where, of one "here".
func at(t *testing.T, data string) map[string]string {
	t.Helper()
	var here server.WhoIsHere
	require.NoError(t, json.Unmarshal([]byte(data), &here))
	out := map[string]string{}
	for _, d := range here.Devices {
		out[d.Person] = d.Step
	}
	return out
}

// Two devices on one job, each joined to a process of its own: what one records, at
// which step it is, and that it goes, the other is told.
func TestWhatOneRecordsTheOtherIsTold(t *testing.T) {
	one := begin(t, server.Options{})
	two := one.another(t)
	ctx, end := context.WithCancel(t.Context())
	defer end()
	go one.server.Hear(ctx)
	go two.server.Hear(ctx)
	jonna, ilse := one.jonna(t), two.as(t, "ilse")
	mine, gone := context.WithCancel(ctx)
	his := jonna.hears(mine, "/api/jobs/j-101/live?device=tab-9&step=front")
	hers := ilse.hears(ctx, "/api/jobs/j-101/live?device=tab-2")
	until(t, hers, "here", func(data string) bool { return at(t, data)["jonna"] == "front" })
	until(t, his, "here", func(data string) bool { return len(at(t, data)) == 2 })

	status, _, _ := jonna.send("j-101", jonna.event("note", record.Note{Text: "the front hangs"}))
	require.Equal(t, http.StatusOK, status)
	until(t, hers, "facts", anything)
	status, body, _ := jonna.call(http.MethodPut, "/api/jobs/j-101/here", map[string]string{"device": "tab-9", "step": "drum"})
	require.Equal(t, http.StatusNoContent, status, string(body))
	until(t, hers, "here", func(data string) bool { return at(t, data)["jonna"] == "drum" })
	gone()
	until(t, hers, "here", func(data string) bool { _, is := at(t, data)["jonna"]; return !is })
}

// The line to the database breaks, and news with it: once it is there again, all are
// told to look.
func TestNewsThatWasMissed(t *testing.T) {
	s := begin(t, server.Options{})
	ctx, end := context.WithCancel(t.Context())
	defer end()
	go s.server.Hear(ctx)
	heard := s.as(t, "ilse").hears(ctx, "/api/jobs/j-101/live?device=tab-2")
	until(t, heard, "facts", anything)
	c, err := pgx.Connect(t.Context(), s.url)
	require.NoError(t, err)
	defer func() { assert.NoError(t, c.Close(t.Context())) }()
	cut := func() (n int) {
		require.NoError(t, c.QueryRow(t.Context(), "select count(pg_terminate_backend(pid)) from pg_stat_activity where datname = current_database() and query like 'listen%'").Scan(&n))
		return n
	}
	require.Eventually(t, func() bool { return cut() > 0 }, 10*time.Second, 50*time.Millisecond)
	until(t, heard, "facts", anything)
}

// What cannot be told is no harm: a stream of a job that is not there ends, and one
// person's lines are counted.
func TestLinesHaveTheirLimits(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	for range d.hears(t.Context(), "/api/jobs/no-such-job/live?device=tab-9") {
	}
	status, _, _ := d.call(http.MethodGet, "/api/jobs/j-101/live", nil)
	assert.Equal(t, http.StatusUnprocessableEntity, status, "no device is named")
	first := d.hears(t.Context(), "/api/jobs/j-101/live?device=tab-0")
	until(t, first, "here", anything)
	ctx, end := context.WithCancel(t.Context())
	defer end()
	for range 20 {
		until(t, d.hears(ctx, "/api/jobs/j-101/live?device=tab-9"), "here", anything)
	}
	assert.Eventually(t, func() bool {
		select {
		case _, goesOn := <-first:
			return !goesOn
		default:
			return false
		}
	}, 10*time.Second, 10*time.Millisecond, "the oldest ends")
}
