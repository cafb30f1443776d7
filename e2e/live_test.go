package e2e

import (
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/e2e/stage"
)

// second opens another browser before the same database, at a process of its own.
func (s set) second(who string) stage.Hands {
	s.t.Helper()
	other, err := s.Another()
	require.NoError(s.t, err)
	require.NoError(s.t, other.Start(s.t.Context()))
	s.t.Cleanup(func() { _ = other.End(syscall.SIGTERM) })
	at := &stage.Stage{Program: other, Browser: s.Browser}
	page, err := at.Page("/", 1280, 800)
	require.NoError(s.t, err)
	h := stage.Hands{Page: page.CancelTimeout().Timeout(longest)}
	h.As(who)
	return h
}

// soon is within a second, and a good deal more where the machine is busy with other
// tests: without a line it would be a quarter of a minute.
const soon = 10 * time.Second

// Two technicians on one machine, each joined to a process of its own. What one does
// the other sees, and where the other is. One loses the signal for a while and does
// what the other does, too: both end alike, the same Done by two is one, nothing is lost.
func TestTwoOnOneMachine(t *testing.T) {
	s := open(t)
	s.play("/", func(ilse stage.Hands) {
		ilse.As("ilse")
		ilse.Touch("Go on: Guest house on the point")
		ilse.On("Hang the front")
		jonna := s.second("jonna")
		jonna.Touch("Go on: Guest house on the point")
		jonna.On("Hang the front")
		jonna.Says("Ilse Brandmo")
		ilse.Says("Jonna Hallvik")

		began := time.Now()
		ilse.Done()
		next := ilse.Title()
		jonna.On(next)
		assert.Less(t, time.Since(began), soon, "the other's Done")
		t.Logf("the other's Done was seen after %s", time.Since(began))
		jonna.Says("Ilse Brandmo\nat: Earth lead")

		require.NoError(t, jonna.Offline(true))
		ilse.Done()
		then := ilse.Title()
		jonna.Done() // the same, not knowing of it
		require.Equal(t, then, jonna.Title())
		jonna.Says("no signal")
		before := len(s.events("j-102"))
		require.NoError(t, jonna.Offline(false))
		jonna.Page.MustEval(`() => window.dispatchEvent(new Event("online"))`)
		assert.Eventually(t, func() bool { return len(s.events("j-102")) > before }, 20*time.Second, 100*time.Millisecond, "what was recorded without signal is sent")
		for _, h := range []stage.Hands{ilse, jonna} {
			h.Says("all sent")
			h.On(then)
		}
		ilse.Done()
		jonna.On(ilse.Title())
		ilse.Touch("Even")
		jonna.Touch("Even")
		standing := func(h stage.Hands) string { return h.Page.MustElement("main").MustText() }
		assert.Eventually(t, func() bool { return standing(ilse) == standing(jonna) }, 20*time.Second, 200*time.Millisecond, "both say the same of what is open:\n%s\n---\n%s", standing(ilse), standing(jonna))
	})
}
