package server_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/job"
	"evensteps/core/record"
	"evensteps/server"
)

// What cannot be kept is refused event by event, each with its problem, and
// stops nothing beside it: a letter of number 0, half a letter, bytes that are
// none, numbers beyond all measure.
func TestPoisonedEvents(t *testing.T) {
	d := begin(t, server.Options{}).jonna(t)
	n := 0
	event := func(with string) string {
		n++
		fields := map[string]string{"job": `"j-101"`, "by": `"jonna"`, "device": `"tab-9"`, "run": `"r"`, "seen": `0`, "kind": `"note"`, "n": fmt.Sprint(n), "body": `{"text":"x"}`}
		for _, pair := range strings.Split(with, ";;") {
			if name, value, is := strings.Cut(pair, "="); is {
				fields[name] = value
			}
		}
		out := fmt.Sprintf(`{"id":%q,"wall":%q,"since":1`, uuid.Must(uuid.NewV7()), time.Now().Format(time.RFC3339))
		for _, name := range []string{"job", "by", "device", "run", "seen", "kind", "n", "body"} {
			out += `,"` + name + `":` + fields[name]
		}
		return out + "}"
	}
	bad := []string{
		`body={"text":"a\u0000b"}`, `body={"text":"half \ud83d"}`, "body={\"text\":\"\xff\"}", `body={"text":"x","on":1e200000}`,
		`kind="robot.helped";;body={"arm":1e-300}`, `kind="robot.helped";;body={"arm":1e16400}`, `kind="robot.helped";;body=` + strings.Repeat("[", 5000) + strings.Repeat("]", 5000),
		`kind="note\u0000"`, `device="tab\u0000"`, `run="\ud83d"`, `seen=2147483648`, `n=2147483648`, `n=99999999999999999999`,
		`body={"text":"` + strings.Repeat("x", 3000) + `"}`, `body={"text":"` + strings.Repeat("x", 20000) + `"}`,
	}
	for _, one := range bad {
		status, body, _ := d.call(http.MethodPost, "/api/jobs/j-101/events", `{"run":"r","since":1,"events":[`+event("")+","+event(one)+","+event("")+`]}`)
		require.Equal(t, http.StatusOK, status, "%.60s: %.300s", one, body)
		var a answers
		require.NoError(t, json.Unmarshal(body, &a))
		require.Len(t, a.Answers, 3)
		assert.Equal(t, []string{"kept", "refused", "kept"}, []string{a.Answers[0].Outcome, a.Answers[1].Outcome, a.Answers[2].Outcome}, "%.60s", one)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Answers[1].Status, "%.60s", one)
		assert.NotEmpty(t, a.Answers[1].Problem)
	}
	status, _, _ := d.send("j-101", d.event("note", record.Note{Text: "😀 é \\u0000 as text"}))
	assert.Equal(t, http.StatusOK, status)
	assert.Equal(t, http.StatusOK, d.get("/api/jobs/j-101/view", nil))
}

// Addresses and other fields with what no database keeps.
func TestPoisonedRequests(t *testing.T) {
	d := begin(t, server.Options{}).jonna(t)
	lead := d.site.as(t, "pell")
	for _, path := range []string{"/api/jobs/%00", "/api/jobs/%ff", "/api/jobs/j-101?x=%00", "/api/jobs/j-101?x=%ff", "/api/jobs/j-101?x=%zz"} {
		status, body, h := d.call(http.MethodGet, path, nil)
		assert.Equal(t, http.StatusBadRequest, status, "%s: %s", path, body)
		assert.Equal(t, "application/problem+json", h.Get("Content-Type"), path)
	}
	for path, want := range map[string]int{"/api/jobs/j-101/events?after=99999999999": 422, "/api/maps/tidemoor-tv6/99999999999": 422, "/api/maps/tidemoor-tv6/2147483647": 404} {
		status, body, _ := d.call(http.MethodGet, path, nil)
		assert.Equal(t, want, status, "%s: %s", path, body)
	}
	for _, c := range []struct {
		who          *device
		method, path string
		body         string
	}{
		{d, http.MethodPost, "/api/sign-in", `{"name":"jon\u0000na","password":"x"}`},
		{lead, http.MethodPost, "/api/calls", `{"call":"c\u0000","map":"tidemoor-tv6","appliance":"m-101","words":"x\u0000"}`},
	} {
		status, body, _ := c.who.call(c.method, c.path, c.body)
		assert.Less(t, status, 500, "%s %s: %s", c.method, c.path, body)
		assert.GreaterOrEqual(t, status, 400, "%s %s: %s", c.method, c.path, body)
	}
}

// However an event came to be kept, it can be read for ever: Today, the job and
// its events answer, and what cannot be read is a snag of its own job.
func TestWhatIsKeptCanBeRead(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	pins := make([]map[string]any, 60)
	for i := range pins {
		pins[i] = map[string]any{"x": 0.123456789, "y": 0.987654321, "wire": "timer/C", "say": strings.Repeat("é", 60)}
	}
	_, a, _ := d.send("j-101", d.event("photo", map[string]any{"sha256": strings.Repeat("a", 64), "on": "front-off", "pins": pins}))
	require.Equal(t, "kept", a.Answers[0].Outcome, a.Answers[0].Problem)

	// Kept by another version, or before a limit was drawn closer.
	c, err := pgx.Connect(t.Context(), s.url)
	require.NoError(t, err)
	defer func() { assert.NoError(t, c.Close(t.Context())) }()
	for i, one := range [][2]string{
		{"rung.out", `{"move":"isolator-off","felt":"loose"}`},
		{"rung.out", `{"move":7}`},
		{"note", `{"text":"` + strings.Repeat("x", 40000) + `"}`},
		{"photo", `{"sha256":"` + strings.Repeat("a", 64) + `","x":1e-300}`},
		{"robot.helped", `{"arm":1e300}`},
	} {
		_, err = c.Exec(t.Context(), `with j as (update jobs set last_num = last_num + 1 where id = 'j-101' returning last_num)
			insert into events (id, job_id, num, t, t_max, by, device, n, wall, since, run, seen, kind, body, received)
			select $1, 'j-101', last_num, now(), now(), 'jonna', 'tab-x', $2, '2026-11-28T09:00:00Z', 0, '', 0, $3, $4::jsonb, now() from j`, uuid.Must(uuid.NewV7()).String(), i+1, one[0], one[1])
		require.NoError(t, err)
	}
	var rows struct{ Jobs []server.JobRow }
	require.Equal(t, http.StatusOK, d.get("/api/jobs", &rows))
	assert.NotEmpty(t, rows.Jobs)
	for _, r := range rows.Jobs {
		assert.NotEqual(t, "This job cannot be shown", r.Headline, r.ID)
	}
	var v job.View
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-101/view", &v))
	var kinds []string
	for _, one := range v.Snags {
		if !one.Regular {
			kinds = append(kinds, one.Kind)
		}
	}
	assert.ElementsMatch(t, []string{"unreadable", "unreadable", "unreadable", "newer-kind"}, kinds)
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-101/events", nil))
}

// The browser cuts its batches by the numbers of the core.
func TestTheLimitsOfABatchAreOne(t *testing.T) {
	want := fmt.Sprintf("{ \"batch\": %d, \"batch_bytes\": %d }\n", record.MostBatch, record.MostBatchBytes)
	const file = "../web/src/api/limits.json"
	if os.Getenv("EVENSTEPS_WRITE") != "" {
		require.NoError(t, os.WriteFile(file, []byte(want), 0o644))
	}
	got, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.JSONEq(t, want, string(got), "run: make api")
	doc, err := os.ReadFile("openapi.json")
	require.NoError(t, err)
	assert.Contains(t, string(doc), fmt.Sprintf(`"maxItems": %d`, record.MostBatch), "and the document says it")
}
