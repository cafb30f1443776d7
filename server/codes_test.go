package server_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

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
