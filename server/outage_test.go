package server_test

import (
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"net/url"
	"sync"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/record"
	"evensteps/server"
	"evensteps/store"
)

// cable lies between the server and its database; it can be cut and mended.
type cable struct {
	net.Listener
	to    string
	mu    sync.Mutex
	isCut bool
	stall chan struct{} // nothing passes until it is closed
	open  []net.Conn
}

func newCable(t *testing.T, to string) *cable {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	c := &cable{Listener: l, to: to}
	t.Cleanup(func() { _ = l.Close() })
	go func() {
		for {
			in, err := l.Accept()
			if err != nil {
				return
			}
			c.carry(in)
		}
	}()
	return c
}

func (c *cable) carry(in net.Conn) {
	c.mu.Lock()
	defer c.mu.Unlock()
	out, err := net.Dial("tcp", c.to)
	if c.isCut || err != nil {
		_ = in.Close()
		return
	}
	c.open = append(c.open, in, out)
	for _, way := range [][2]net.Conn{{in, out}, {out, in}} {
		go func() { _, _ = io.Copy(way[0], c.through(way[1])) }()
	}
}

// through passes on what comes, unless the line is stalled.
func (c *cable) through(from io.Reader) io.Reader {
	return readerFunc(func(p []byte) (int, error) {
		n, err := from.Read(p)
		c.mu.Lock()
		stall := c.stall
		c.mu.Unlock()
		if stall != nil {
			<-stall
		}
		return n, err
	})
}

type readerFunc func([]byte) (int, error)

func (f readerFunc) Read(p []byte) (int, error) { return f(p) }

// hold lets nothing pass until what it returns is called.
func (c *cable) hold() (release func()) {
	stall := make(chan struct{})
	c.mu.Lock()
	c.stall = stall
	c.mu.Unlock()
	return func() {
		c.mu.Lock()
		c.stall = nil
		c.mu.Unlock()
		close(stall)
	}
}

func (c *cable) cut(isCut bool) {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.isCut = isCut
	for _, one := range c.open {
		_ = one.Close()
	}
	c.open = nil
}

// overACable is a server whose database lies at the end of a cable.
func overACable(t *testing.T, o server.Options) (*site, *cable) {
	t.Helper()
	from, err := filled()
	require.NoError(t, err)
	at, err := db.Database(t.Context(), from)
	require.NoError(t, err)
	u, err := url.Parse(at)
	require.NoError(t, err)
	line := newCable(t, u.Host)
	u.Host = line.Addr().String()
	o.Store, err = store.Open(t.Context(), u.String())
	require.NoError(t, err)
	web := httptest.NewServer(server.New(o))
	t.Cleanup(web.Close)
	return &site{Server: web, store: o.Store, url: at}, line
}

// The database gone for a while: a clear answer, nothing that was kept is lost,
// and it goes on by itself once the database is back.
func TestTheDatabaseGoneForAWhile(t *testing.T) {
	s, line := overACable(t, server.Options{})
	d := s.jonna(t)
	first := d.event("rung.out", record.RungOut{Move: "isolator-off"})
	_, a, _ := d.send("j-101", first)
	require.Equal(t, "kept", a.Answers[0].Outcome)

	line.cut(true)
	second := d.event("rung.half", record.RungHalf{Move: "cover-off", Side: "out"})
	for range 5 {
		status, body, _ := d.call(http.MethodPost, "/api/jobs/j-101/events", map[string]any{"run": "r", "since": 1, "wall": time.Now(), "events": []any{second}})
		assert.Equal(t, http.StatusServiceUnavailable, status)
		assert.Contains(t, string(body), "What you recorded is on this device")
	}
	assert.Equal(t, http.StatusServiceUnavailable, d.get("/readyz", nil))
	assert.Equal(t, http.StatusOK, d.get("/healthz", nil))

	line.cut(false)
	require.Eventually(t, func() bool { return d.get("/readyz", nil) == http.StatusOK }, 20*time.Second, 50*time.Millisecond)
	_, a, _ = d.send("j-101", first, second)
	require.Len(t, a.Answers, 2)
	assert.Equal(t, []string{"known", "kept"}, []string{a.Answers[0].Outcome, a.Answers[1].Outcome})
}

// A database that says nothing at all: a clear answer in time, with when to come
// again, and nothing lost.
func TestADatabaseThatSaysNothing(t *testing.T) {
	s, line := overACable(t, server.Options{Timeout: time.Second})
	d := s.jonna(t)
	release := line.hold()
	began := time.Now()
	event := d.event("note", record.Note{Text: "while it slept"})
	for _, c := range []struct {
		method, path string
		body         any
	}{{http.MethodGet, "/api/jobs", nil}, {http.MethodGet, "/api/jobs/j-101/view", nil}, {http.MethodPost, "/api/jobs/j-101/events", map[string]any{"events": []any{event}}}} {
		status, body, h := d.call(c.method, c.path, c.body)
		assert.Equal(t, http.StatusServiceUnavailable, status, "%s: %s", c.path, body)
		assert.Equal(t, "5", h.Get("Retry-After"), c.path)
	}
	assert.Equal(t, http.StatusServiceUnavailable, d.get("/readyz", nil))
	assert.Less(t, time.Since(began), 15*time.Second, "each within its time")
	release()
	require.Eventually(t, func() bool { return d.get("/readyz", nil) == http.StatusOK }, 20*time.Second, 50*time.Millisecond)
	_, a, _ := d.send("j-101", event)
	require.Len(t, a.Answers, 1)
	assert.Contains(t, []string{"kept", "known"}, a.Answers[0].Outcome)
}

// A database that takes nothing: what is there is still read, what is recorded
// waits, and whoever asks whether all is well is told.
func TestADatabaseThatIsReadOnly(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	require.Equal(t, http.StatusOK, d.get("/readyz", nil))
	require.Equal(t, http.StatusOK, d.get("/api/jobs", nil))
	c, err := pgx.Connect(t.Context(), s.url)
	require.NoError(t, err)
	defer func() { assert.NoError(t, c.Close(t.Context())) }()
	for _, sql := range []string{
		`do $$ begin execute format('alter database %I set default_transaction_read_only = on', current_database()); end $$`,
		`select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()`,
	} {
		_, err = c.Exec(t.Context(), sql)
		require.NoError(t, err)
	}
	require.Eventually(t, func() bool { return d.get("/readyz", nil) == http.StatusServiceUnavailable }, 10*time.Second, 50*time.Millisecond)
	assert.Equal(t, http.StatusOK, d.get("/api/jobs", nil), "the list is read")
	status, body, h := d.call(http.MethodPost, "/api/jobs/j-101/events", map[string]any{"events": []any{d.event("note", record.Note{Text: "x"})}})
	assert.Equal(t, http.StatusServiceUnavailable, status, string(body))
	assert.NotEmpty(t, h.Get("Retry-After"))
}
