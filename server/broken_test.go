package server_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/server"
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
