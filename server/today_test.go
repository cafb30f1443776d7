package server_test

import (
	"cmp"
	"context"
	"encoding/base64"
	"encoding/json"
	"log/slog"
	"net/http"
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
	"evensteps/core/snags"
	"evensteps/core/steps"
	"evensteps/server"
)

// listed is the first page of a list.
func listed(t *testing.T, d *device, list string) []server.JobRow {
	t.Helper()
	var page struct{ Jobs []server.JobRow }
	require.Equal(t, http.StatusOK, d.get("/api/jobs?list="+list, &page))
	return page.Jobs
}

// all are the jobs of both lists, which hold no more than a page each.
func all(t *testing.T, d *device) []server.JobRow {
	t.Helper()
	return append(listed(t, d, "now"), listed(t, d, "earlier")...)
}

// keptRow is what is kept of a row that Today shows.
type keptRow struct {
	num  int
	made time.Time
}

func (s *site) keptRow(job string) (r keptRow, is bool) {
	c, err := pgx.Connect(context.Background(), s.url)
	if err != nil {
		return r, false
	}
	defer func() { _ = c.Close(context.Background()) }()
	err = c.QueryRow(context.Background(), "select num, made_at from today_rows where job_id = $1", job).Scan(&r.num, &r.made)
	return r, err == nil
}

func rowOf(t *testing.T, d *device, job string) server.JobRow {
	t.Helper()
	for _, list := range []string{"now", "earlier"} {
		for _, r := range listed(t, d, list) {
			if r.ID == job {
				return r
			}
		}
	}
	require.Failf(t, "no such job", job)
	return server.JobRow{}
}

// A row is kept, is stale once a fact comes in, and is made again at the latest
// when it is read.
func TestTodayKeepsItsRowsUntilAFactComesIn(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	require.Equal(t, journey.NotBegun, rowOf(t, d, "j-101").Stage)
	assert.Len(t, all(t, d), 18)
	before, is := s.keptRow("j-101")
	require.True(t, is)

	rowOf(t, d, "j-101")
	again, _ := s.keptRow("j-101")
	assert.Equal(t, before, again, "nothing came, nothing is made again")

	_, a, _ := d.send("j-101", d.event("rung.out", record.RungOut{Move: "isolator-off"}))
	require.Equal(t, "kept", a.Answers[0].Outcome)
	assert.Equal(t, journey.LeftOpen, rowOf(t, d, "j-101").Stage)
	again, _ = s.keptRow("j-101")
	assert.Equal(t, before.num+1, again.num)
}

// The worker makes a stale row again without anybody reading it; a rebuild
// makes all of them again from the events.
func TestTheWorkerAndTheRebuild(t *testing.T) {
	s := begin(t, server.Options{})
	work, stop := context.WithCancel(t.Context())
	defer stop()
	go s.server.Work(work)
	d := s.jonna(t)
	_, _, _ = d.send("j-101", d.event("rung.out", record.RungOut{Move: "isolator-off"}))
	require.Eventually(t, func() bool {
		kept, is := s.keptRow("j-101")
		return is && kept.num == 4 // two answers, the goal, and this
	}, 10*time.Second, 20*time.Millisecond)
	stop()

	before := rowOf(t, d, "j-102")
	require.NoError(t, s.store.DropTodayRows(t.Context()))
	n, err := s.server.Rebuild(t.Context())
	require.NoError(t, err)
	assert.Equal(t, 18, n)
	assert.Equal(t, before, rowOf(t, d, "j-102"))
}

// Two well-formed facts that once ended the process: the mains off, and their
// proof "found". Nothing is proven by that, and nothing ends.
func TestAFoundProofEndsNothing(t *testing.T) {
	s := begin(t, server.Options{})
	work, stop := context.WithCancel(t.Context())
	defer stop()
	go s.server.Work(work)
	d := s.jonna(t)
	_, a, _ := d.send("j-101", d.event("rung.out", record.RungOut{Move: "isolator-off"}), d.event("found", record.Found{Move: "prove-dead", By: "customer"}))
	require.Equal(t, "kept", a.Answers[1].Outcome)
	assert.Equal(t, journey.LeftOpen, rowOf(t, d, "j-101").Stage)
	var v job.View
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-101/view", &v))
	assert.Equal(t, "off, not tested", v.Energies[0].Say)
	assert.NotEmpty(t, v.HandOver.Hurts)
}

// What is stored and cannot be read any more is that job's own snag; no list
// fails for one job.
func TestOneJobThatCannotBeReadTakesNoListFromAnybody(t *testing.T) {
	s := begin(t, server.Options{})
	withoutAMap(t, s.url) // of j-114
	d := s.jonna(t)
	_, a, _ := d.send("j-101", d.event("rung.out", record.RungOut{Move: "isolator-off"}))
	kept := a.Answers[0]
	// As a newer version, or a laxer door, would have kept it.
	at := kept.T.Add(time.Second)
	require.NoError(t, s.store.AppendStamped(t.Context(), record.Event{
		ID: uuid.NewString(), Job: "j-101", By: "jonna", Device: "tab-9", N: 1, Wall: at, Run: "r", Kind: "note", Body: []byte(`{"text":"x","mood":"good"}`), Num: kept.Num + 1, T: &at,
	}))
	assert.Len(t, all(t, d), 18)
	var v job.View
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-101/view", &v))
	k := slices.IndexFunc(v.Snags, func(s snags.Snag) bool { return s.Kind == "unreadable" })
	require.GreaterOrEqual(t, k, 0, "it is shown")
	assert.Contains(t, v.Snags[k].Say, "cannot be read")

	assert.Equal(t, "This job cannot be shown", rowOf(t, d, "j-114").Headline, "it stands in the list with a sentence")
}

// A proof that is being typed is judged over the API as on the device.
func TestAProofIsJudgedAsItIsTyped(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	_, _, _ = d.send("j-101", d.event("rung.out", record.RungOut{Move: "isolator-off"}), d.event("rung.out", record.RungOut{Move: "drawn-forward"}), d.event("rung.out", record.RungOut{Move: "cover-off"}))
	status, body, _ := d.call(http.MethodPost, "/api/jobs/j-101/prove", map[string]any{"on": "prove-dead", "draft": map[string]string{"meter": "m-4", "before": "230", "L-N": "0 VDC", "L-PE": "0", "N-PE": "0", "after": "231"}})
	require.Equal(t, http.StatusOK, status, string(body))
	var p steps.Proving
	require.NoError(t, json.Unmarshal(body, &p))
	assert.False(t, p.Off)
	assert.Contains(t, p.Done.Says, "set the meter to AC volts", "said on the button, before it is touched")
	status, body, _ = d.call(http.MethodPost, "/api/jobs/j-101/prove", map[string]any{"on": "top-off", "draft": map[string]string{}})
	assert.Equal(t, http.StatusUnprocessableEntity, status, string(body))
}

// One's own jobs come first, machines that are open before the others; then the
// company's by place. Who takes a machine over has the job.
func TestTodayPutsMineFirst(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	order := func() (mine, others []server.JobRow) {
		rows := listed(t, d, "now")
		n := slices.IndexFunc(rows, func(r server.JobRow) bool { return !r.Mine })
		require.GreaterOrEqual(t, n, 0)
		for _, r := range rows[n:] {
			assert.False(t, r.Mine, r.ID)
		}
		return rows[:n], rows[n:]
	}
	mine, others := order()
	rank := func(r server.JobRow) int {
		return map[journey.Stage]int{journey.LeftOpen: 0, journey.Waiting: 2}[r.Stage] + btoi(r.Stage == journey.NotBegun || r.Stage == journey.Closed)
	}
	for _, rows := range [][]server.JobRow{mine, others} {
		assert.True(t, slices.IsSortedFunc(rows, func(a, b server.JobRow) int {
			if a.Mine {
				return cmp.Compare(rank(a), rank(b))
			}
			return cmp.Or(cmp.Compare(a.Ferry+" "+a.Place, b.Ferry+" "+b.Place), cmp.Compare(rank(a), rank(b)))
		}))
	}
	k := slices.IndexFunc(others, func(r server.JobRow) bool { return r.Stage == journey.LeftOpen })
	require.GreaterOrEqual(t, k, 0)
	job := others[k].ID
	over := d.event("took-over", record.TookOver{})
	over.Job = job
	_, a, _ := d.send(job, over)
	require.Equal(t, "kept", a.Answers[0].Outcome, a.Answers[0].Problem)
	mine, _ = order()
	assert.True(t, slices.ContainsFunc(mine, func(r server.JobRow) bool { return r.ID == job }), "taken over")
	var page struct{ All, Open int }
	require.Equal(t, http.StatusOK, d.get("/api/jobs", &page))
	assert.Equal(t, len(listed(t, d, "now")), page.All)
	assert.Positive(t, page.Open)

	earlier := listed(t, d, "earlier")
	require.NotEmpty(t, earlier)
	assert.True(t, slices.IsSortedFunc(earlier, func(a, b server.JobRow) int { return b.Signed.Compare(*a.Signed) }), "the latest first")
	for _, r := range earlier {
		assert.Equal(t, journey.SignedOff, r.Stage)
	}
}

func btoi(is bool) int {
	if is {
		return 1
	}
	return 0
}

// Page after page, each job comes once, in the order of the whole list; a place
// that cannot be read is refused.
func TestTodayComesByThePage(t *testing.T) {
	s := begin(t, server.Options{})
	c, err := pgx.Connect(t.Context(), s.url)
	require.NoError(t, err)
	defer func() { assert.NoError(t, c.Close(context.Background())) }()
	_, err = c.Exec(t.Context(), `insert into jobs (id, appliance_id, complaint, map_id, map_revision, created_at)
		select 'p-' || lpad(n::text, 3, '0'), appliance_id, complaint, map_id, map_revision, now() from jobs, generate_series(1, 120) n where id = 'j-101'`)
	require.NoError(t, err)
	_, err = s.server.Rebuild(t.Context())
	require.NoError(t, err)
	d := s.jonna(t)
	seen := map[string]int{}
	after, pages := "", 0
	for {
		var page struct {
			Jobs  []server.JobRow
			After string
			All   int
		}
		require.Equal(t, http.StatusOK, d.get("/api/jobs?after="+after, &page))
		for _, r := range page.Jobs {
			seen[r.ID]++
		}
		assert.LessOrEqual(t, len(page.Jobs), 50)
		assert.Greater(t, page.All, 120)
		pages++
		if after = page.After; after == "" {
			assert.Len(t, seen, page.All)
			break
		}
		require.Less(t, pages, 10)
	}
	assert.Equal(t, 3, pages)
	for id, n := range seen {
		assert.Equal(t, 1, n, id)
	}
	// Those that are signed, too: a page of one's own size is not asked for, so the
	// second begins behind the last of all.
	last := listed(t, d, "earlier")
	at, err := json.Marshal(map[string]any{"t": last[len(last)-1].Signed, "j": last[len(last)-1].ID})
	require.NoError(t, err)
	var rest struct{ Jobs []server.JobRow }
	require.Equal(t, http.StatusOK, d.get("/api/jobs?list=earlier&after="+base64.RawURLEncoding.EncodeToString(at), &rest))
	assert.Empty(t, rest.Jobs)
	for _, wrong := range []string{"x", "e30", "bnVsbA", "eyJqIjoieCJ9"} {
		assert.Equal(t, http.StatusBadRequest, d.get("/api/jobs?after="+wrong, nil), wrong)
	}
	assert.Equal(t, http.StatusUnprocessableEntity, d.get("/api/jobs?list=tomorrow", nil))
}

// lines are those of a log, written by many.
type lines struct {
	sync.Mutex
	text strings.Builder
}

func (l *lines) Write(line []byte) (int, error) {
	l.Lock()
	defer l.Unlock()
	return l.text.Write(line)
}

func (l *lines) count(what string) int {
	l.Lock()
	defer l.Unlock()
	return strings.Count(l.text.String(), what)
}

// Rows are made once however many ask for the list at the same time.
func TestRowsAreMadeOnce(t *testing.T) {
	var log lines
	s := begin(t, server.Options{Log: slog.New(slog.NewTextHandler(&log, &slog.HandlerOptions{Level: slog.LevelDebug}))})
	d := s.jonna(t)
	_, err := s.server.Rebuild(t.Context())
	require.NoError(t, err)
	made := func() int { return log.count("row made") }
	before := made()
	_, a, _ := d.send("j-101", d.event("rung.out", record.RungOut{Move: "isolator-off"}))
	require.Equal(t, "kept", a.Answers[0].Outcome)
	var all sync.WaitGroup
	for range 20 {
		all.Go(func() { assert.Equal(t, http.StatusOK, d.get("/api/jobs", nil)) })
	}
	all.Wait()
	assert.Equal(t, 1, made()-before)
}
