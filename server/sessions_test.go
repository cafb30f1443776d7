package server_test

import (
	"bytes"
	"context"
	"encoding/json"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/url"
	"runtime"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/record"
	"evensteps/demo"
	"evensteps/server"
	"evensteps/store"
)

// token is the session that a device holds.
func (d *device) token() string {
	d.t.Helper()
	at, err := url.Parse(d.site.URL)
	require.NoError(d.t, err)
	cookies := d.http.Jar.Cookies(at)
	require.Len(d.t, cookies, 1)
	return cookies[0].Value
}

// with asks who is signed in by a session.
func (s *site) with(t *testing.T, token string) int {
	t.Helper()
	status, _, _ := s.device(t).call(http.MethodGet, "/api/me", nil, "Cookie", "evensteps="+token)
	return status
}

// Signing in and a new password each begin a session of a new name; the one
// before is nobody's, and what was signed out does not come back.
func TestASessionIsNamedAnew(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 100})
	d := s.jonna(t)
	first := d.token()
	require.Equal(t, http.StatusOK, s.with(t, first))
	require.Equal(t, http.StatusOK, d.signIn("mira", demo.Password))
	second := d.token()
	assert.NotEqual(t, first, second)
	assert.Equal(t, http.StatusUnauthorized, s.with(t, first))
	status, _, _ := d.call(http.MethodPost, "/api/me/password", map[string]string{"old": demo.Password, "new": "violet otter quays"})
	require.Equal(t, http.StatusNoContent, status)
	third := d.token()
	assert.NotEqual(t, second, third)
	assert.Equal(t, []int{http.StatusUnauthorized, http.StatusOK}, []int{s.with(t, second), s.with(t, third)})
	_, _, _ = d.call(http.MethodPost, "/api/sign-out", nil)
	assert.Equal(t, http.StatusUnauthorized, s.with(t, third))
}

// A session ends after twelve hours.
func TestASessionEnds(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	c, err := pgx.Connect(t.Context(), s.url)
	require.NoError(t, err)
	defer func() { assert.NoError(t, c.Close(context.Background())) }()
	var expiry time.Time
	require.NoError(t, c.QueryRow(t.Context(), "select max(expiry) from sessions").Scan(&expiry))
	assert.WithinDuration(t, time.Now().Add(12*time.Hour), expiry, 5*time.Minute)
	_, err = c.Exec(t.Context(), "update sessions set expiry = now() - interval '1 second'")
	require.NoError(t, err)
	status, body, _ := d.call(http.MethodGet, "/api/me", nil)
	assert.Equal(t, http.StatusUnauthorized, status)
	assert.Contains(t, string(body), "stays on this device")
}

// Whose account is gone is told so, and what they send is not taken.
func TestAnAccountThatIsGone(t *testing.T) {
	s := begin(t, server.Options{})
	require.NoError(t, s.store.PutPerson(t.Context(), store.Person{ID: "temp", Name: "Temp", SignIn: "temp", PasswordHash: hashed(t), Role: "technician"}))
	d := s.as(t, "temp")
	c, err := pgx.Connect(t.Context(), s.url)
	require.NoError(t, err)
	defer func() { assert.NoError(t, c.Close(context.Background())) }()
	_, err = c.Exec(t.Context(), "delete from people where id = 'temp'")
	require.NoError(t, err)
	status, body, _ := d.call(http.MethodGet, "/api/me", nil)
	assert.Equal(t, http.StatusUnauthorized, status, "%s", body)
}

func hashed(t *testing.T) string {
	t.Helper()
	hash, err := server.HashPassword(demo.Password)
	require.NoError(t, err)
	return hash
}

// A name that is nobody's costs the same work as one that is somebody's, so that
// the time taken does not tell: a password is compared all the same, over 19 MiB.
func TestANameThatIsNobodysIsComparedToo(t *testing.T) {
	d := begin(t, server.Options{SignInsPerMinute: 100}).device(t)
	for _, name := range []string{"jonna", "nobody-at-all"} {
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		require.Equal(t, http.StatusUnauthorized, d.signIn(name, "wrong"))
		runtime.ReadMemStats(&after)
		assert.Greater(t, after.TotalAlloc-before.TotalAlloc, uint64(19<<20), name)
	}
}

// Every answer forbids to be framed, to be sniffed and to run anything.
func TestWhatEveryAnswerForbids(t *testing.T) {
	s := begin(t, server.Options{SecureCookies: true})
	d := s.device(t)
	for _, path := range []string{"/", "/healthz", "/api/me", "/api/nothing", "/assets/none.js"} {
		_, _, h := d.call(http.MethodGet, path, nil)
		for name, want := range map[string]string{
			"X-Frame-Options": "DENY", "X-Content-Type-Options": "nosniff", "Referrer-Policy": "same-origin", "Cross-Origin-Opener-Policy": "same-origin",
			"Permissions-Policy": "geolocation=(), microphone=()", "Strict-Transport-Security": "max-age=31536000",
		} {
			assert.Equal(t, want, h.Get(name), "%s of %s", name, path)
		}
		assert.Contains(t, h.Get("Content-Security-Policy"), "default-src 'none'", path)
		assert.Contains(t, h.Get("Content-Security-Policy"), "frame-ancestors 'none'", path)
		assert.NoError(t, uuid.Validate(h.Get("X-Request-Id")), path)
	}
}

// What goes wrong inside is an answer in the usual form, not a broken line; the
// next request is answered.
func TestAPanicIsAnAnswer(t *testing.T) {
	var log bytes.Buffer
	web := httptest.NewServer(server.New(server.Options{Store: &store.Store{}, Log: slog.New(slog.NewTextHandler(&log, nil))})) // without a database: everything panics
	defer web.Close()
	d := (&site{Server: web}).device(t)
	for range 2 {
		status, body, h := d.call(http.MethodPost, "/api/sign-in", map[string]string{"name": "jonna", "password": "x"})
		assert.Equal(t, http.StatusInternalServerError, status)
		assert.Equal(t, "application/problem+json", h.Get("Content-Type"))
		assert.Contains(t, string(body), "try again")
	}
	status, _, _ := d.call(http.MethodGet, "/healthz", nil)
	assert.Equal(t, http.StatusOK, status)
	web.Close() // nothing writes to the log any more
	assert.Contains(t, log.String(), "msg=panic")
	assert.Contains(t, log.String(), "signing.go", "and where it was")
}

// A batch that says nothing of its clock is taken as of now; an event that is of
// another shape is refused by itself, and says why.
func TestABatchWithoutItsTime(t *testing.T) {
	d := begin(t, server.Options{}).jonna(t)
	e := d.event("note", record.Note{Text: "x"})
	e.Wall = time.Now().Add(-time.Hour)
	e.Run = "an earlier start"
	status, body, _ := d.call(http.MethodPost, "/api/jobs/j-101/events", map[string]any{"run": "r", "since": 100, "events": []any{e, map[string]any{"id": e.ID, "n": "one"}}})
	require.Equal(t, http.StatusOK, status, string(body))
	var a answers
	require.NoError(t, json.Unmarshal(body, &a))
	require.Equal(t, "kept", a.Answers[0].Outcome)
	assert.WithinDuration(t, e.Wall, *a.Answers[0].T, time.Minute)
	assert.Contains(t, a.Answers[1].Problem, "cannot be read")
}

// A job with more facts than one answer holds comes in parts, none twice and none
// left out; a batch with more than it may hold is not taken at all.
func TestMoreFactsThanOneAnswerHolds(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	type part struct {
		Events []record.Event
		More   bool
		Last   int
	}
	var before part
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-101/events", &before))
	facts := make([]any, 0, 520)
	for range 520 {
		facts = append(facts, d.event("note", record.Note{Text: "one of many"}))
	}
	status, _, said := d.send("j-101", facts[:record.MostBatch+1]...)
	assert.Equal(t, http.StatusRequestEntityTooLarge, status)
	assert.Contains(t, said, "100 events at most")
	for at := 0; at < len(facts); at += record.MostBatch {
		status, a, _ := d.send("j-101", facts[at:min(at+record.MostBatch, len(facts))]...)
		require.Equal(t, http.StatusOK, status)
		for _, one := range a.Answers {
			require.Equal(t, "kept", one.Outcome, one.Problem)
		}
	}
	var first, rest part
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-101/events", &first))
	assert.Len(t, first.Events, 500)
	assert.True(t, first.More)
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-101/events?after=500", &rest))
	assert.Len(t, rest.Events, 20+len(before.Events))
	assert.False(t, rest.More)
	assert.Equal(t, rest.Events[len(rest.Events)-1].Num, rest.Last)
	assert.Equal(t, 501, rest.Events[0].Num)
}
