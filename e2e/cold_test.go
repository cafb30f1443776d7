package e2e

import (
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/e2e/stage"
)

// ahead waits until the pages and a job lie on the device.
const ahead = `job => new Promise(async done => {
	await navigator.serviceWorker.ready;
	const open = name => new Promise((ok, no) => { const r = indexedDB.open(name); r.onsuccess = () => ok(r.result); r.onerror = () => no(r.error); });
	const [{ name }] = (await indexedDB.databases()).filter(d => /even/i.test(d.name));
	for (;;) {
		const db = await open(name);
		const kept = await new Promise(ok => { const r = db.transaction("jobs").objectStore("jobs").get(job); r.onsuccess = () => ok(r.result); });
		db.close();
		if (kept && kept.cursor > 0) return done(true);
		await new Promise(ok => setTimeout(ok, 100));
	}
})`

// In the cellar there is no signal, and the phone has thrown the page away: Today, a
// job that was never opened on this device, and a record on it, with the server gone
// from before the page is loaded. It is sent once the server is back.
func TestFromColdWithoutTheServer(t *testing.T) {
	s := open(t)
	s.play("/", func(h stage.Hands) {
		h.As("ilse")
		require.True(t, h.Page.MustEval(ahead, "j-102").Bool())
		before := len(s.events("j-102"))
		require.NoError(t, s.End(syscall.SIGKILL))
		h.Page.MustNavigate(s.At() + "/")
		h.On("Today")
		h.Says("No signal. This is how it stood")
		h.Touch("Go on: Guest house on the point")
		h.On("Hang the front")
		h.Touch("The drum rim lies inside")
		h.Says("no signal, 1 waiting")
		h.Page.MustReload()
		h.On("Hang the front")
		h.Says("no signal, 1 waiting")
		require.NoError(t, s.Start(t.Context()))
		h.Page.MustEval(`() => window.dispatchEvent(new Event("online"))`)
		assert.Eventually(t, func() bool { return len(s.events("j-102")) > before }, 20*time.Second, 200*time.Millisecond, "what was recorded is sent")
		h.Says("all sent")
	})
}
