package server_test

import (
	"encoding/json"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/demo"
	"evensteps/server"
)

// A one-time code is good for one sign-in, and that for nothing but choosing a
// password of one's own.
func TestAOneTimeCode(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 100})
	const code, own = "h7kq-3m2x-r9tb-e4wn", "violet otter quays"
	hash, err := server.HashPassword(code)
	require.NoError(t, err)
	require.NoError(t, s.store.SetCode(t.Context(), "odda", hash, time.Now().Add(time.Hour)))

	d := s.device(t)
	require.Equal(t, http.StatusOK, d.signIn("odda", code))
	var me server.Me
	require.Equal(t, http.StatusOK, d.get("/api/me", &me))
	assert.True(t, me.Choose)
	other := s.device(t)
	status, body, _ := other.call(http.MethodPost, "/api/sign-in", map[string]string{"name": "odda", "password": code})
	assert.Equal(t, http.StatusUnauthorized, status, "it was used")
	assert.Contains(t, string(body), "used before, or has run out")
	assert.Equal(t, http.StatusUnauthorized, other.get("/api/me", nil))

	for _, path := range []string{"/api/jobs", "/api/jobs/j-101", "/api/places", "/api/jobs/j-101/events"} {
		status, body, _ := d.call(http.MethodGet, path, nil)
		assert.Equal(t, http.StatusUnauthorized, status, path)
		assert.Contains(t, string(body), "Choose a password of your own first", path)
	}
	choose := func(password string) int {
		status, _, _ := d.call(http.MethodPost, "/api/me/password", map[string]string{"new": password})
		return status
	}
	assert.Equal(t, http.StatusUnprocessableEntity, choose(code), "the code is no password")
	assert.Equal(t, http.StatusUnprocessableEntity, choose("1234567890"))
	require.Equal(t, http.StatusNoContent, choose(own))
	require.Equal(t, http.StatusOK, d.get("/api/me", &me))
	assert.False(t, me.Choose)
	assert.Equal(t, http.StatusOK, d.get("/api/jobs", nil))
	assert.Equal(t, http.StatusForbidden, choose("another otter quays"), "from now on by the old one")
	assert.Equal(t, http.StatusUnauthorized, other.signIn("odda", code))
	assert.Equal(t, http.StatusOK, other.signIn("odda", own))

	require.NoError(t, s.store.SetCode(t.Context(), "odda", hash, time.Now().Add(-time.Minute)))
	assert.Equal(t, http.StatusUnauthorized, s.device(t).signIn("odda", code), "it has run out")
	assert.Equal(t, http.StatusUnauthorized, d.get("/api/jobs", nil), "and whoever was in is out")
}

func tickets(names ...string) []map[string]string {
	out := []map[string]string{}
	for _, n := range names {
		out = append(out, map[string]string{"ticket": n})
	}
	return out
}

type given struct {
	Person server.Me
	Code   string
}

// A supervisor adds somebody, changes what they may and hold, and gives a code to who
// lost a password; nobody else does, and the last supervisor stays one.
func TestASupervisorLooksAfterPeople(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 100})
	d, supervisor := s.jonna(t), s.as(t, "mira")
	for _, c := range []struct{ method, path string }{{http.MethodGet, "/api/people"}, {http.MethodPost, "/api/people"}, {http.MethodPut, "/api/people/mira"}, {http.MethodPost, "/api/people/mira/code"}} {
		status, body, _ := d.call(c.method, c.path, map[string]any{"name": "X", "sign_in": "x", "role": "supervisor", "tickets": []string{}, "closed": false, "version": 1})
		assert.Equal(t, http.StatusForbidden, status, c.path)
		assert.Contains(t, string(body), "for supervisors")
	}
	var all struct {
		People  []server.PersonRow
		Tickets []string
	}
	require.Equal(t, http.StatusOK, supervisor.get("/api/people", &all))
	assert.Len(t, all.People, len(demo.People))
	assert.Contains(t, all.Tickets, "gas")
	assert.NotContains(t, string(mustBody(supervisor, "/api/people")), "argon2", "no hash leaves the server")

	say := func(method, path string, body any) (int, given, string) {
		status, text, _ := supervisor.call(method, path, body)
		var g given
		if status == http.StatusOK {
			require.NoError(t, json.Unmarshal(text, &g))
		}
		return status, g, string(text)
	}
	eddy := map[string]any{"name": " Eddy Strand ", "sign_in": "eddy", "role": "technician", "tickets": tickets("gas", "gas"), "closed": false}
	status, g, text := say(http.MethodPost, "/api/people", eddy)
	require.Equal(t, http.StatusOK, status, text)
	assert.Regexp(t, "^([a-z0-9]{4}-){3}[a-z0-9]{4}$", g.Code)
	assert.Equal(t, "Eddy Strand", g.Person.Name)
	assert.Equal(t, []string{"gas"}, g.Person.Tickets)
	fresh := s.device(t)
	assert.Equal(t, http.StatusOK, fresh.signIn("eddy", g.Code))
	status, _, text = say(http.MethodPost, "/api/people", eddy)
	assert.Equal(t, http.StatusConflict, status, text)
	for name, wrong := range map[string]map[string]any{
		"no name": {"name": " "}, "capitals": {"sign_in": "Eddy S"}, "a role that is none": {"role": "captain"}, "a ticket that is none": {"tickets": tickets("sailing")}, "a day that is none": {"tickets": []map[string]string{{"ticket": "gas", "from": "1.2.2026"}}}, "a name too long": {"name": strings.Repeat("x", 201)},
	} {
		body := map[string]any{"name": "Else", "sign_in": "else", "role": "technician", "tickets": []string{}, "closed": false}
		for k, v := range wrong {
			body[k] = v
		}
		status, _, text := say(http.MethodPost, "/api/people", body)
		assert.Equal(t, http.StatusUnprocessableEntity, status, "%s: %s", name, text)
	}

	// Another role and ticket, at once: what she may changes under her hands.
	status, _, text = say(http.MethodPut, "/api/people/jonna", map[string]any{"sign_in": "jonna", "name": "Jonna Hallvik", "role": "office", "tickets": []string{}, "closed": false, "version": 1})
	require.Equal(t, http.StatusOK, status, text)
	var me server.Me
	require.Equal(t, http.StatusOK, d.get("/api/me", &me))
	assert.Equal(t, "office", me.Role)
	status, _, _ = say(http.MethodPut, "/api/people/nobody", map[string]any{"sign_in": "nobody", "name": "X", "role": "office", "tickets": []string{}, "closed": false, "version": 1})
	assert.Equal(t, http.StatusNotFound, status)

	status, g, _ = say(http.MethodPost, "/api/people/jonna/code", nil)
	require.Equal(t, http.StatusOK, status)
	assert.Equal(t, http.StatusUnauthorized, d.get("/api/me", nil), "her old sessions have ended")
	assert.Equal(t, http.StatusOK, s.device(t).signIn("jonna", g.Code))
	status, _, _ = say(http.MethodPost, "/api/people/nobody/code", nil)
	assert.Equal(t, http.StatusNotFound, status)

	// Two supervisors: one may become something else, the last one not.
	status, _, text = say(http.MethodPut, "/api/people/benno", map[string]any{"sign_in": "benno", "name": "Benno", "role": "technician", "tickets": []string{}, "closed": false, "version": 1})
	require.Equal(t, http.StatusOK, status, text)
	status, _, text = say(http.MethodPut, "/api/people/mira", map[string]any{"sign_in": "mira", "name": "Mira", "role": "technician", "tickets": []string{}, "closed": false, "version": 1})
	assert.Equal(t, http.StatusConflict, status)
	assert.Contains(t, text, "no other supervisor")
}

func TestACodeIsNobodysGuess(t *testing.T) {
	seen := map[string]bool{}
	for range 5 {
		code, hash, until, err := server.NewCode()
		require.NoError(t, err)
		assert.Len(t, code, 19)
		assert.False(t, seen[code])
		assert.NotContains(t, hash, code)
		assert.WithinDuration(t, time.Now().Add(24*time.Hour), until, time.Minute)
		seen[code] = true
	}
}
