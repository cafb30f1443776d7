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
	go func() { _, _ = io.Copy(in, out) }()
	go func() { _, _ = io.Copy(out, in) }()
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

// The database gone for a while: a clear answer, nothing that was kept is lost,
// and it goes on by itself once the database is back.
func TestTheDatabaseGoneForAWhile(t *testing.T) {
	from, err := filled()
	require.NoError(t, err)
	at, err := db.Database(t.Context(), from)
	require.NoError(t, err)
	u, err := url.Parse(at)
	require.NoError(t, err)
	line := newCable(t, u.Host)
	u.Host = line.Addr().String()
	kept, err := store.Open(t.Context(), u.String())
	require.NoError(t, err)
	web := httptest.NewServer(server.New(server.Options{Store: kept}))
	defer web.Close()
	s := &site{Server: web, store: kept}
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
