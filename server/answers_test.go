package server_test

import (
	"encoding/json"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/server"
)

var (
	// ids and days are other ones each time that the demo data is made.
	ids  = regexp.MustCompile(`[0-9a-f]{8}-[0-9a-f]{4}-[1-7][0-9a-f]{3}-[0-9a-f]{4}-[0-9a-f]{12}`)
	days = regexp.MustCompile(`20\d\d-\d\d-\d\d(T[0-9:.]+(Z|[+-]\d\d:\d\d))?`)
)

// The tests of the pages are answered as the server really answers: its answers are
// kept beside them, and this test fails when they are no longer what it says.
func TestAnswersThatThePagesAreTestedWith(t *testing.T) {
	d := begin(t, server.Options{}).as(t, "mira")
	for _, at := range []struct {
		name, method, path string
		body               any
	}{
		{"me", http.MethodGet, "/api/me", nil},
		{"places", http.MethodGet, "/api/places", nil},
		{"people", http.MethodGet, "/api/people", nil},
		{"company", http.MethodGet, "/api/company", nil},
		{"machine", http.MethodGet, "/api/machines/school-dryer", nil},
		{"heard", http.MethodPost, "/api/calls/heard", map[string]any{"appliance": "school-dryer", "words": "it thumps and squeals"}},
		{"heard-gas", http.MethodPost, "/api/calls/heard", map[string]any{"appliance": "school-dryer", "words": "it smells of gas"}},
	} {
		status, body, _ := d.call(at.method, at.path, at.body)
		require.Equal(t, http.StatusOK, status, "%s: %s", at.path, body)
		var whole any
		require.NoError(t, json.Unmarshal(body, &whole))
		data, err := json.MarshalIndent(whole, "", " ")
		require.NoError(t, err)
		data = append(days.ReplaceAll(ids.ReplaceAll(data, []byte("…")), []byte("2026-03-02")), '\n')
		file := filepath.Join("../web/src/testing/answers", at.name+".json")
		if was, err := os.ReadFile(file); err == nil && string(was) == string(data) {
			continue
		}
		if os.Getenv("EVENSTEPS_WRITE") != "" {
			require.NoError(t, os.MkdirAll(filepath.Dir(file), 0o755))
			require.NoError(t, os.WriteFile(file, data, 0o644))
		}
		assert.Fail(t, "the answer has changed", "%s: look at what the pages make of it; EVENSTEPS_WRITE=1 writes it", at.name)
	}
}
