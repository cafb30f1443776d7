package server_test

import (
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/company"
	"evensteps/core/job"
	"evensteps/core/record"
	"evensteps/server"
	"evensteps/store"
)

// What cannot be read is an error that says so, or stands as it was known before:
// never a shorter answer that looks whole. Each table in turn cannot be read.
func TestWhatCannotBeReadIsNeverLeftOut(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 1000, KnownFor: 1})
	d := s.as(t, "mira")
	c, err := pgx.Connect(t.Context(), s.url)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, c.Close(t.Context())) })
	asks := []struct {
		method, path string
		body         any
	}{
		{http.MethodGet, "/api/me", nil},
		{http.MethodGet, "/api/jobs", nil},
		{http.MethodGet, "/api/jobs/j-106", nil},
		{http.MethodGet, "/api/jobs/j-106/map", nil},
		{http.MethodGet, "/api/jobs/j-106/events", nil},
		{http.MethodGet, "/api/jobs/j-106/view", nil},
		{http.MethodGet, "/api/jobs/j-106/find", nil},
		{http.MethodGet, "/api/jobs/j-106/decide", nil},
		{http.MethodGet, "/api/people", nil},
		{http.MethodGet, "/api/places", nil},
		{http.MethodGet, "/api/machines/school-dryer", nil},
		{http.MethodGet, "/api/meters", nil},
		{http.MethodGet, "/api/company", nil},
		{http.MethodGet, "/api/tables/machines", nil},
		{http.MethodPost, "/api/jobs/j-106/try", map[string]any{"makes": []any{}}},
		{http.MethodPost, "/api/calls/heard", map[string]any{"appliance": "school-dryer", "words": "it stays cold"}},
	}
	first := map[string]string{}
	known := func(status int, body []byte) string {
		return http.StatusText(status) + " " + string(body)
	}
	for _, a := range asks {
		status, body, _ := d.call(a.method, a.path, a.body)
		require.Less(t, status, 300, "%s %s: %s", a.method, a.path, body)
		first[a.path] = known(status, body)
	}
	failed := map[string]bool{}
	for _, table := range []string{"people", "meters", "sites", "appliances", "jobs", "events", "map_revisions", "today_rows", "epoch", "company"} {
		_, err := c.Exec(t.Context(), "alter table "+table+" rename to gone")
		require.NoError(t, err)
		for _, a := range asks {
			status, body, h := d.call(a.method, a.path, a.body)
			if status >= 500 {
				failed[table] = true
				assert.Equal(t, "application/problem+json", h.Get("Content-Type"))
				assert.NotContains(t, string(body), "gone", "nothing of the database is told")
				continue
			}
			assert.Equal(t, first[a.path], known(status, body), "%s %s without %s", a.method, a.path, table)
		}
		_, err = c.Exec(t.Context(), "alter table gone rename to "+table)
		require.NoError(t, err)
	}
	for _, table := range []string{"people", "meters", "jobs", "events", "map_revisions", "today_rows"} {
		assert.True(t, failed[table], "nobody missed "+table)
	}
	for _, a := range asks {
		status, body, _ := d.call(a.method, a.path, a.body)
		assert.Equal(t, first[a.path], known(status, body), "and all is well again: "+strings.TrimPrefix(a.path, "/api/"))
	}
}

// What somebody recorded who no longer can send it: a supervisor hands it in, with its
// author's name on it. Nobody else's is handed in, and by nobody else.
func TestRecordsOfWhoNoLongerSigns(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 1000})
	mira, ilse := s.as(t, "mira"), s.as(t, "ilse")
	left := mira.event("note", record.Note{Text: "before the account was closed"})
	outcome := func(d *device, e record.Event) string {
		status, a, text := d.send("j-101", e)
		require.Equal(t, http.StatusOK, status, text)
		return a.Answers[0].Outcome
	}
	assert.Equal(t, "refused", outcome(mira, left), "jonna can send it herself")
	require.NoError(t, s.store.ChangePerson(t.Context(), company.Person{SignIn: "jonna", Name: "Jonna Hallvik", Role: "technician", Closed: true}, store.Seen{Version: versionOf(t, s, "jonna"), By: "mira"}, time.UTC))
	assert.Equal(t, "refused", outcome(ilse, left), "a technician hands nothing in")
	assert.Equal(t, "kept", outcome(mira, left))
	assert.Equal(t, "known", outcome(mira, left), "and once")
	events, err := s.store.Events(t.Context(), "j-101", 0, 1000)
	require.NoError(t, err)
	assert.Equal(t, "jonna", events[len(events)-1].By)
	lines, err := s.store.AuditBefore(t.Context(), 0, 1)
	require.NoError(t, err)
	assert.Equal(t, []string{"mira", "record handed in", "jonna"}, []string{lines[0].By, lines[0].What, lines[0].Whom})

	atTheDesk := mira.event("rung.out", record.RungOut{Move: "top-off"})
	atTheDesk.By = "pell"
	assert.Equal(t, "kept", outcome(mira, atTheDesk), "pell is at a desk by now, and cannot send it")
	aCall := mira.event("note", record.Note{Text: "pell can send this"})
	aCall.By = "pell"
	assert.Equal(t, "refused", outcome(mira, aCall))
	nobody := mira.event("note", record.Note{Text: "by nobody"})
	nobody.By = "nobody-here"
	assert.Equal(t, "refused", outcome(mira, nobody))
}

func versionOf(t *testing.T, s *site, who string) int {
	t.Helper()
	p, err := s.store.Person(t.Context(), who)
	require.NoError(t, err)
	return p.Version
}

// A device that was away for sixty days, with the revision of the map that its job was
// begun with: what it has is kept, where it belongs in time, and the job goes on.
func TestADeviceThatWasAwayForSixtyDays(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	long := time.Now().AddDate(0, 0, -60)
	var away []any
	for i := range 3 {
		e := d.event("note", record.Note{Text: "in the far cabin"})
		e.Wall, e.Run, e.Since = long.Add(time.Duration(i)*time.Minute), "another start", float64(60*i)
		away = append(away, e)
	}
	status, a, text := d.send("j-101", away...)
	require.Equal(t, http.StatusOK, status, text)
	for i, one := range a.Answers {
		require.Equal(t, "kept", one.Outcome, one.Problem)
		assert.WithinDuration(t, long.Add(time.Duration(i)*time.Minute), *one.T, 2*time.Second)
	}
	var v job.View
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-101/view", &v))
	assert.NotEmpty(t, v.Rungs)
}
