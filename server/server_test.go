package server_test

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"reflect"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/job"
	"evensteps/core/journey"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/snags"
	"evensteps/demo"
	"evensteps/server"
	"evensteps/store"
	"evensteps/store/cluster"
)

var db *cluster.Cluster

func TestMain(m *testing.M) {
	os.Exit(cluster.ForTests(m.Run, func(c *cluster.Cluster) { db = c }))
}

// site is a server with the demo data.
type site struct {
	*httptest.Server
	server *server.Server
	store  *store.Store
	url    string // of the database
}

// filled is a database with the demo data, filled once and copied for each test.
var filled = sync.OnceValues(func() (string, error) {
	ctx := context.Background()
	url, err := db.Database(ctx)
	if err != nil {
		return "", err
	}
	s, err := store.Open(ctx, url)
	if err != nil {
		return "", err
	}
	return url, errors.Join(demo.Fill(ctx, s, server.HashPassword, time.Now()), s.Close())
})

func begin(t *testing.T, o server.Options) *site {
	t.Helper()
	from, err := filled()
	require.NoError(t, err)
	url, err := db.Database(t.Context(), from)
	require.NoError(t, err)
	s, err := store.Open(t.Context(), url)
	require.NoError(t, err)
	o.Store, o.RowsFor = s, cmp.Or(o.RowsFor, -1)
	one := server.New(o)
	web := httptest.NewServer(one)
	t.Cleanup(func() {
		web.Close()
		assert.NoError(t, s.Close())
	})
	return &site{web, one, s, url}
}

// withoutAMap spoils the database as nobody should: a map that jobs are pinned to
// is gone.
func withoutAMap(t *testing.T, url string) {
	t.Helper()
	c, err := pgx.Connect(t.Context(), url)
	require.NoError(t, err)
	defer func() { assert.NoError(t, c.Close(t.Context())) }()
	for _, sql := range []string{"alter table jobs drop constraint jobs_map_id_map_revision_fkey", "delete from map_revisions where id = 'lanvik-bo2'", "delete from today_rows"} {
		_, err = c.Exec(t.Context(), sql)
		require.NoError(t, err)
	}
}

// device is a browser: it keeps cookies.
type device struct {
	t    *testing.T
	site *site
	http http.Client
	n    int
}

func (s *site) device(t *testing.T) *device {
	t.Helper()
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	return &device{t: t, site: s, http: http.Client{Jar: jar}}
}

func (d *device) call(method, path string, body any, headers ...string) (int, []byte, http.Header) {
	d.t.Helper()
	var in io.Reader
	if raw, ok := body.(string); ok {
		in = strings.NewReader(raw)
	} else if body != nil {
		b, err := json.Marshal(body)
		require.NoError(d.t, err)
		in = bytes.NewReader(b)
	}
	r, err := http.NewRequestWithContext(d.t.Context(), method, d.site.URL+path, in)
	require.NoError(d.t, err)
	r.Header.Set("Content-Type", "application/json")
	for i := 0; i < len(headers); i += 2 {
		r.Header.Set(headers[i], headers[i+1])
	}
	answer, err := d.http.Do(r)
	require.NoError(d.t, err)
	defer answer.Body.Close()
	out, err := io.ReadAll(answer.Body)
	require.NoError(d.t, err)
	return answer.StatusCode, out, answer.Header
}

func (d *device) get(path string, into any) int {
	d.t.Helper()
	status, body, _ := d.call(http.MethodGet, path, nil)
	if into != nil && status == http.StatusOK {
		require.NoError(d.t, json.Unmarshal(body, into))
	}
	return status
}

func (d *device) signIn(name, password string) int {
	status, _, _ := d.call(http.MethodPost, "/api/sign-in", map[string]string{"name": name, "password": password})
	return status
}

func (s *site) jonna(t *testing.T) *device {
	t.Helper()
	return s.as(t, "jonna")
}

func (s *site) as(t *testing.T, who string) *device {
	t.Helper()
	d := s.device(t)
	require.Equal(t, http.StatusOK, d.signIn(who, demo.Password))
	return d
}

func (d *device) event(kind string, body any) record.Event {
	d.n++
	raw, err := json.Marshal(body)
	require.NoError(d.t, err)
	return record.Event{ID: uuid.Must(uuid.NewV7()).String(), Job: "j-101", By: "jonna", Device: "tab-9", N: d.n, Wall: time.Now(), Run: "r", Since: float64(d.n), Kind: kind, Body: raw}
}

type answers struct {
	Answers []server.Answer `json:"answers"`
}

func (d *device) send(job string, events ...any) (int, answers, string) {
	d.t.Helper()
	status, body, _ := d.call(http.MethodPost, "/api/jobs/"+job+"/events", map[string]any{"run": "r", "since": 100, "wall": time.Now(), "events": events})
	var a answers
	if status == http.StatusOK {
		require.NoError(d.t, json.Unmarshal(body, &a))
	}
	return status, a, string(body)
}

func TestNothingIsShownWithoutSigningIn(t *testing.T) {
	d := begin(t, server.Options{}).device(t)
	for _, path := range []string{"/api/jobs", "/api/me", "/api/jobs/j-101", "/api/jobs/j-101/view", "/api/jobs/j-101/events", "/api/maps/tidemoor-tv6/7"} {
		status, body, h := d.call(http.MethodGet, path, nil)
		assert.Equal(t, http.StatusUnauthorized, status, path)
		assert.Equal(t, "application/problem+json", h.Get("Content-Type"))
		assert.Contains(t, string(body), "Sign in first")
	}
	status, _, _ := d.call(http.MethodPost, "/api/jobs/j-101/events", map[string]any{})
	assert.Equal(t, http.StatusUnauthorized, status)
}

func TestSigningInAndOut(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 100})
	d := s.device(t)
	assert.Equal(t, http.StatusUnauthorized, d.signIn("jonna", "wrong"))
	assert.Equal(t, http.StatusUnauthorized, d.signIn("nobody", demo.Password))
	assert.Equal(t, http.StatusUnauthorized, d.signIn("' or 1=1 --", demo.Password))
	assert.Equal(t, http.StatusUnprocessableEntity, d.signIn("", ""))
	assert.Equal(t, http.StatusUnprocessableEntity, d.signIn("jonna", strings.Repeat("x", 100_000)))
	assert.Equal(t, http.StatusOK, d.signIn(" Jonna ", demo.Password))
	var me server.Me
	require.Equal(t, http.StatusOK, d.get("/api/me", &me))
	assert.Equal(t, "Jonna Hallvik", me.Name)
	status, _, _ := d.call(http.MethodPost, "/api/sign-out", nil)
	assert.Equal(t, http.StatusNoContent, status)
	assert.Equal(t, http.StatusUnauthorized, d.get("/api/me", nil))
}

func TestChangingOnesPasswordEndsTheOtherSessions(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 100})
	here, there := s.jonna(t), s.jonna(t)
	change := func(old, now string) int {
		status, _, _ := here.call(http.MethodPost, "/api/me/password", map[string]string{"old": old, "new": now})
		return status
	}
	assert.Equal(t, http.StatusForbidden, change("wrong", "violet otter quays"))
	assert.Equal(t, http.StatusUnprocessableEntity, change(demo.Password, "short"))
	assert.Equal(t, http.StatusNoContent, change(demo.Password, "violet otter quays"))
	assert.Equal(t, http.StatusOK, here.get("/api/me", nil))
	assert.Equal(t, http.StatusUnauthorized, there.get("/api/me", nil))
	assert.Equal(t, http.StatusUnauthorized, there.signIn("jonna", demo.Password))
	assert.Equal(t, http.StatusOK, there.signIn("jonna", "violet otter quays"))
}

// Wrong passwords of one account at one address are counted, and nothing else:
// whoever knows theirs signs in, from the same address, too.
func TestFiftyWrongPasswords(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 5, TrustedProxies: []string{"127.0.0.0/8"}})
	d := s.device(t)
	counts := map[int]int{}
	for range 50 {
		counts[d.signIn("jonna", "wrong")]++
	}
	assert.LessOrEqual(t, counts[http.StatusUnauthorized], 7, "five, and what a minute gives back meanwhile")
	assert.GreaterOrEqual(t, counts[http.StatusTooManyRequests], 43)
	status, body, h := d.call(http.MethodPost, "/api/sign-in", map[string]string{"name": "Jonna ", "password": demo.Password})
	assert.Equal(t, http.StatusTooManyRequests, status, "also the right one waits")
	assert.Contains(t, string(body), "Wait a minute")
	assert.Equal(t, "60", h.Get("Retry-After"))
	for range 30 {
		require.Equal(t, http.StatusOK, s.device(t).signIn("mira", demo.Password), "another account; a right one costs nothing")
	}
	from := func(address string) int {
		status, _, _ := s.device(t).call(http.MethodPost, "/api/sign-in", map[string]string{"name": "jonna", "password": demo.Password}, "X-Forwarded-For", address)
		return status
	}
	assert.Equal(t, http.StatusOK, from("192.0.2.7"), "and nobody is locked out everywhere")

	for i := range 60 { // one address that tries many accounts
		d.call(http.MethodPost, "/api/sign-in", map[string]string{"name": fmt.Sprint("nobody", i), "password": "x"}, "X-Forwarded-For", "192.0.2.66")
	}
	assert.Equal(t, http.StatusTooManyRequests, from("192.0.2.66"))
	assert.Equal(t, http.StatusOK, from("192.0.2.7"))
}

// Without a proxy that is trusted nobody says where they come from.
func TestNobodySaysWhereTheyComeFrom(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 3})
	for i := range 3 {
		s.device(t).call(http.MethodPost, "/api/sign-in", map[string]string{"name": "jonna", "password": "x"}, "X-Forwarded-For", fmt.Sprintf("192.0.2.%d", i))
	}
	status, _, _ := s.device(t).call(http.MethodPost, "/api/sign-in", map[string]string{"name": "jonna", "password": demo.Password}, "X-Forwarded-For", "192.0.2.77")
	assert.Equal(t, http.StatusTooManyRequests, status)
}

// One's own old password is guessed no more often; easy new ones are not taken,
// by whomever they are given.
func TestPasswords(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 3})
	d := s.jonna(t)
	change := func(old, now string) int {
		status, _, _ := d.call(http.MethodPost, "/api/me/password", map[string]string{"old": old, "new": now})
		return status
	}
	for _, easy := range []string{"1234567890", "          ", "jonnajonna", "password12", "aaaaaaaaaaaa", "evensteps1"} {
		assert.Equal(t, http.StatusUnprocessableEntity, change(demo.Password, easy), easy)
	}
	for range 3 {
		assert.Equal(t, http.StatusForbidden, change("wrong", "violet otter quays"))
	}
	assert.Equal(t, http.StatusTooManyRequests, change(demo.Password, "violet otter quays"))
}

func TestTheSessionCookieIsHttpOnlyAndKeptHashed(t *testing.T) {
	s := begin(t, server.Options{SecureCookies: true})
	d := s.device(t)
	_, _, h := d.call(http.MethodPost, "/api/sign-in", map[string]string{"name": "jonna", "password": demo.Password})
	cookie := h.Get("Set-Cookie")
	for _, word := range []string{"HttpOnly", "SameSite=Lax", "Secure"} {
		assert.Contains(t, cookie, word)
	}
	token := strings.TrimPrefix(strings.Split(cookie, ";")[0], "evensteps=")
	_, found, err := s.store.Sessions().Find(token)
	require.NoError(t, err)
	assert.False(t, found, "what is in the database does not sign anybody in")
}

func TestOtherSitesCannotPost(t *testing.T) {
	d := begin(t, server.Options{}).jonna(t)
	status, _, _ := d.call(http.MethodPost, "/api/sign-out", nil, "Origin", "https://elsewhere.example", "Sec-Fetch-Site", "cross-site")
	assert.Equal(t, http.StatusForbidden, status)
	assert.Equal(t, http.StatusOK, d.get("/api/me", nil))
}

func TestAJobIsWorkedOverTheAPI(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	jobs := all(t, d)
	require.Len(t, jobs, 18)
	rows := map[string]server.JobRow{}
	for _, r := range jobs {
		rows[r.ID] = r
	}
	assert.Equal(t, "Guest house on the point, dryer", rows["j-102"].Title)
	assert.Equal(t, journey.LeftOpen, rows["j-102"].Stage)
	assert.Contains(t, rows["j-102"].Since, "open since")
	assert.Len(t, rows["j-102"].Marks, 15)
	assert.Equal(t, journey.Waiting, rows["j-111"].Stage)
	assert.Contains(t, rows["j-107"].Stops, "gas ticket", "Jonna has none")

	var doc server.JobDocument
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-101", &doc))
	assert.Equal(t, "tidemoor-tv6", doc.Map)
	assert.Equal(t, "Jonna Hallvik", doc.Job.People["jonna"].Name)
	status, body, h := d.call(http.MethodGet, "/api/maps/tidemoor-tv6/7", nil)
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, h.Get("Cache-Control"), "immutable")
	assert.NotContains(t, string(body), "$schema")

	status, a, _ := d.send("j-101", d.event("visit.began", struct{}{}), d.event("rung.out", record.RungOut{Move: "isolator-off"}))
	require.Equal(t, http.StatusOK, status)
	assert.Equal(t, []string{"kept", "kept"}, []string{a.Answers[0].Outcome, a.Answers[1].Outcome})
	assert.Equal(t, 6, a.Answers[1].Num)
	var v job.View
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-101/view", &v))
	assert.Equal(t, "drawn-forward", v.Current.Move)
	var got struct{ Events []record.Event }
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-101/events?after=4", &got))
	require.Len(t, got.Events, 2)
	assert.NotNil(t, got.Events[0].T)
}

// Each event of a batch is answered by itself; a refused one stops nothing.
func TestABatchWithBadEvents(t *testing.T) {
	d := begin(t, server.Options{}).jonna(t)
	good := d.event("rung.out", record.RungOut{Move: "isolator-off"})
	other := d.event("note", record.Note{Text: "x"})
	other.Job = "j-102"
	stranger := d.event("note", record.Note{Text: "x"})
	stranger.By = "ilse"
	negative := d.event("lot.counted", record.LotCounted{Lot: "top-off/1", Side: "out", Count: -3})
	changed := good
	changed.Body = json.RawMessage(`{"move":"top-off"}`)
	future := d.event("note", record.Note{Text: "from the future"})
	future.Wall, future.Since = time.Now().AddDate(1, 0, 0), 1e6
	unknown := d.event("rung.out", record.RungOut{Move: "no-such-rung"})
	newer := d.event("robot.helped", map[string]int{"arm": 1})
	status, a, _ := d.send("j-101", good, other, stranger, negative, changed, "no event", map[string]any{"id": 7}, good, future, unknown, newer)
	require.Equal(t, http.StatusOK, status)
	var outcomes []string
	var codes []int
	for _, one := range a.Answers {
		outcomes = append(outcomes, one.Outcome)
		codes = append(codes, one.Status)
	}
	assert.Equal(t, []string{"kept", "refused", "refused", "refused", "refused", "refused", "refused", "known", "kept", "kept", "kept"}, outcomes)
	assert.Equal(t, []int{0, 422, 403, 422, 409, 422, 422, 0, 0, 0, 0}, codes)
	assert.Contains(t, a.Answers[3].Problem, "from 0 to 1000, not -3")
	assert.False(t, a.Answers[8].T.After(time.Now()), "never later than its receipt")
	var v job.View
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-101/view", &v))
	var kinds []string
	for _, s := range v.Snags {
		if !s.Regular {
			kinds = append(kinds, s.Kind)
		}
	}
	assert.ElementsMatch(t, []string{"still-off", "newer-kind"}, kinds, "what is inconvenient is kept, with a snag")
}

func TestBadRequests(t *testing.T) {
	d := begin(t, server.Options{}).jonna(t)
	for _, c := range []struct {
		method, path string
		body         any
		status       int
	}{
		{http.MethodGet, "/api/jobs/j-999", nil, 404},
		{http.MethodGet, "/api/jobs/j-999/events", nil, 404},
		{http.MethodGet, "/api/jobs/" + strings.Repeat("j", 200), nil, 422},
		{http.MethodGet, "/api/jobs/j-101/events?after=-1", nil, 422},
		{http.MethodGet, "/api/maps/tidemoor-tv6/9", nil, 404},
		{http.MethodGet, "/api/nothing", nil, 404},
		{http.MethodPost, "/api/jobs/j-101/events", "{", 422},
		{http.MethodPost, "/api/jobs/j-999/events", map[string]any{"events": []any{}}, 404},
		{http.MethodPost, "/api/jobs/j-101/events", `{"events":["` + strings.Repeat("x", 2<<20) + `"]}`, 413},
		{http.MethodPost, "/api/jobs/j-101/events", map[string]any{"events": make([]int, 501)}, 413},
		{http.MethodPost, "/nothing", nil, 405},
	} {
		status, body, h := d.call(c.method, c.path, c.body)
		assert.Equal(t, c.status, status, "%s %s: %.200s", c.method, c.path, body)
		assert.Equal(t, "application/problem+json", h.Get("Content-Type"), c.path)
	}
}

func TestPagesAndHealth(t *testing.T) {
	d := begin(t, server.Options{}).device(t)
	for _, path := range []string{"/healthz", "/readyz"} {
		assert.Equal(t, http.StatusOK, d.get(path, nil), path)
	}
	_, first, h := d.call(http.MethodGet, "/jobs/j-101", nil)
	policy := h.Get("Content-Security-Policy")
	assert.Contains(t, policy, "default-src 'none'")
	assert.NotContains(t, policy, "unsafe-inline")
	assert.NotContains(t, policy, "'unsafe-eval'")
	assert.Equal(t, "nosniff", h.Get("X-Content-Type-Options"))
	if strings.Contains(string(first), "nonce") { // the pages are built
		_, second, _ := d.call(http.MethodGet, "/", nil)
		assert.NotContains(t, string(first), "__NONCE__")
		assert.NotEqual(t, string(first), string(second), "a fresh nonce for each page")
		_, outside, _ := d.call(http.MethodGet, "/../../etc/passwd", nil)
		assert.Contains(t, string(outside), "<title>Even Steps</title>", "any other path is the one page")
	} else {
		assert.Contains(t, string(first), "make build", "pages that are not built are said, not left out")
	}
	assert.Equal(t, http.StatusNotFound, d.get("/assets/no-such.js", nil))
}

// An answer that is still the same is not sent again; who it is for is looked up
// all the same.
func TestAnswersThatAreStillTheSame(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	status, _, h := d.call(http.MethodGet, "/api/jobs/j-101/lists", nil)
	require.Equal(t, http.StatusOK, status)
	tag := h.Get("ETag")
	require.NotEmpty(t, tag)
	assert.Equal(t, "private, no-cache", h.Get("Cache-Control"))
	status, body, _ := d.call(http.MethodGet, "/api/jobs/j-101/lists", nil, "If-None-Match", tag)
	assert.Equal(t, http.StatusNotModified, status)
	assert.Empty(t, body)
	status, _, _ = d.call(http.MethodGet, "/api/jobs/j-102/lists", nil, "If-None-Match", `W/"of something else"`)
	assert.Equal(t, http.StatusOK, status)
	status, _, h = s.device(t).call(http.MethodGet, "/api/jobs/j-101/lists", nil, "If-None-Match", tag)
	assert.Equal(t, http.StatusUnauthorized, status)
	assert.Equal(t, "no-store", h.Get("Cache-Control"))
	_, _, h = d.call(http.MethodPost, "/api/jobs/j-101/events", map[string]any{"run": "r", "wall": time.Now(), "events": []any{}})
	assert.Equal(t, "no-store", h.Get("Cache-Control"))
}

// Every answer says which database it is of. One that was restored is another
// one; who has heard of facts that are gone sees that, too.
func TestARestoredDatabaseIsAnotherOne(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	epoch := func() string {
		status, _, h := d.call(http.MethodGet, "/api/jobs", nil)
		require.Equal(t, http.StatusOK, status)
		return h.Get(server.EpochHeader)
	}
	before := epoch()
	require.Len(t, before, 16)
	assert.Equal(t, before, epoch())
	_, _, h := d.call(http.MethodGet, "/api/jobs/none", nil)
	assert.Equal(t, before, h.Get(server.EpochHeader), "in what went wrong, too")
	require.NoError(t, s.store.Restored(t.Context()))
	assert.Eventually(t, func() bool { return epoch() != before }, 10*time.Second, 100*time.Millisecond)

	var told struct{ Last int }
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-102/events?after=100000", &told))
	assert.Greater(t, told.Last, 30)
	assert.Less(t, told.Last, 100000)
	other := begin(t, server.Options{}).jonna(t) // a copy: another database of the same server
	_, _, h = other.call(http.MethodGet, "/api/jobs", nil)
	assert.NotEqual(t, before, h.Get(server.EpochHeader))
}

// What each operation of the document asks of who calls it. One that is not named
// here fails the test: a route needs a rule.
var rights = map[string]string{
	"sign-in": "anybody", "sign-out": "anybody",
	"me": "signed in", "change-password": "signed in", "list-jobs": "signed in", "get-job": "signed in", "get-job-map": "signed in", "get-view": "signed in", "get-find": "signed in",
	"get-lists": "signed in", "get-decide": "signed in", "try": "signed in", "prove": "signed in", "judge": "signed in", "own": "signed in", "get-events": "signed in", "send-events": "signed in", "get-map": "signed in",
	"live": "signed in", "here": "signed in", "get-around": "signed in", "account": "signed in", "begin-second": "signed in", "confirm-second": "signed in", "end-second": "signed in", "end-session": "signed in", "list-maps": "signed in",
	"take-call": "signed in", "hear-call": "signed in", "list-places": "signed in", "get-meter": "signed in", "take-reading": "signed in", "get-photo": "signed in", "put-photo": "signed in",
	"get-company": "signed in", "list-meters": "signed in", "get-machine": "signed in",
	"change-company": "supervisor", "save-meter": "supervisor", "save-site": "supervisor", "add-site": "supervisor", "add-machine": "supervisor", "save-machine": "supervisor", "merge-machine": "supervisor", "export-table": "supervisor", "import-table": "supervisor",
	"list-people": "supervisor", "add-person": "supervisor", "change-person": "supervisor", "give-code": "supervisor", "list-audit": "supervisor", "end-sessions": "supervisor",
}

// Every route of the document by every role, without a session, too.
func TestEveryRouteHasARule(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 1000})
	text, err := s.server.OpenAPI()
	require.NoError(t, err)
	var doc struct {
		Paths map[string]map[string]struct {
			OperationID string                 `json:"operationId"`
			Security    *[]map[string][]string `json:"security"`
		} `json:"paths"`
		Security   []map[string][]string
		Components struct {
			SecuritySchemes map[string]struct{ In, Name string }
		}
	}
	require.NoError(t, json.Unmarshal(text, &doc))
	assert.Equal(t, []map[string][]string{{"session": {}}}, doc.Security)
	assert.Equal(t, "cookie", doc.Components.SecuritySchemes["session"].In)
	roles := map[string]*device{"nobody": s.device(t), "technician": s.as(t, "jonna"), "supervisor": s.as(t, "mira"), "office": s.as(t, "pell")}
	at := strings.NewReplacer("{job}", "j-101", "{id}", "tidemoor-tv6", "{map}", "tidemoor-tv6", "{revision}", "6", "{person}", "tuure", "{sha256}", strings.Repeat("0", 64), "{meter}", "4", "{site}", "school", "{machine}", "school-dryer", "{table}", "sites", "{session}", "none")
	walked := 0
	for path, ways := range doc.Paths {
		for method, op := range ways {
			rule, is := rights[op.OperationID]
			require.True(t, is, "%s (%s %s) has no rule", op.OperationID, method, path)
			assert.Equal(t, rule == "anybody", op.Security != nil && len(*op.Security) == 0, op.OperationID)
			for role, d := range roles {
				if op.OperationID == "sign-out" && role != "nobody" {
					continue // it would end what the others need
				}
				status, body, _ := d.call(strings.ToUpper(method), "/api"+at.Replace(path), map[string]any{})
				may := rule == "anybody" || role != "nobody" && (rule == "signed in" || strings.Contains(rule, role))
				want := may
				got := status != http.StatusForbidden && status != http.StatusUnauthorized
				if op.OperationID == "sign-in" {
					got = status != http.StatusForbidden
				}
				assert.Equal(t, want, got, "%s by %s: %d %s", op.OperationID, role, status, body)
				walked++
			}
		}
	}
	assert.Greater(t, walked, 80)
}

// While a new version comes, pages of the old one talk to the new server, and the
// other way: what one side does not know yet is no error.
func TestPagesOfAnotherVersion(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	var page struct{ Jobs []server.JobRow }
	require.Equal(t, http.StatusOK, d.get("/api/jobs", &page), "as before there were pages")
	assert.NotEmpty(t, page.Jobs)
	assert.Equal(t, http.StatusOK, d.get("/api/jobs?list=now&near=59.9", nil), "a question that is not known yet")
	e := d.event("note", record.Note{Text: "as a newer page sends it"})
	raw, err := json.Marshal(e)
	require.NoError(t, err)
	newer := strings.Replace(string(raw), `{`, `{"weather":"fog",`, 1)
	status, body, _ := d.call(http.MethodPost, "/api/jobs/j-101/events", `{"run":"r","since":5,"wall":"`+time.Now().Format(time.RFC3339)+`","build":"next","events":[`+newer+`]}`)
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, string(body), `"kept"`)
	later := strings.NewReplacer(`"kind":"note"`, `"kind":"robot.helped"`, e.ID, uuid.NewString(), `"n":1`, `"n":2`).Replace(string(raw))
	_, body, _ = d.call(http.MethodPost, "/api/jobs/j-101/events", `{"run":"r","since":5,"wall":"`+time.Now().Format(time.RFC3339)+`","events":[`+later+`]}`)
	assert.Contains(t, string(body), `"kept"`, "a kind that this version does not know is kept, and shown as such")
	var v job.View
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-101/view", &v))
	assert.True(t, slices.ContainsFunc(v.Snags, func(s snags.Snag) bool { return s.Kind == "newer-kind" }))
}

// The document that the web client is generated from is the server's own.
func TestTheOpenAPIDocumentIsCurrent(t *testing.T) {
	want, err := server.New(server.Options{Store: &store.Store{}}).OpenAPI()
	require.NoError(t, err)
	got, err := os.ReadFile("openapi.json")
	require.NoError(t, err)
	var is, kept any
	require.NoError(t, errors.Join(json.Unmarshal(want, &is), json.Unmarshal(got, &kept)))
	assert.True(t, reflect.DeepEqual(is, kept), "run: make api")
	assert.Contains(t, string(got), `"openapi": "3.1`)
}

// The view over the API is the one that the core makes anywhere.
func TestTheViewIsTheCores(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	var over job.View
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-102/view", &over))
	m, err := s.store.Map(t.Context(), "tidemoor-tv6", 7)
	require.NoError(t, err)
	var doc server.JobDocument
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-102", &doc))
	book := job.Open(m, doc.Job)
	events, err := s.store.Events(t.Context(), "j-102", 0, 1000)
	require.NoError(t, err)
	for _, e := range events {
		f, err := record.Read(e)
		require.NoError(t, err)
		book.Add(f)
	}
	want, err := json.Marshal(book.Shown(scene.Viewer{Person: "jonna"}, time.Now()))
	require.NoError(t, err)
	got, err := json.Marshal(over)
	require.NoError(t, err)
	assert.JSONEq(t, string(want), string(got))
}

// withDatabase speaks to the database itself.
func withDatabase(t *testing.T, url string, use func(exec func(string) error)) {
	t.Helper()
	c, err := pgx.Connect(t.Context(), url)
	require.NoError(t, err)
	defer func() { assert.NoError(t, c.Close(t.Context())) }()
	use(func(sql string) error {
		_, err := c.Exec(t.Context(), sql)
		return err
	})
}
