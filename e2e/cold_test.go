package e2e

import (
	"slices"
	"strings"
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
		t.Logf("Today stands %.0f ms after the page was asked for", h.Page.MustEval(`() => performance.now()`).Num())
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

// known are the ids of all that the device has of a job, in order.
const known = `async job => {
	const db = await new Promise((ok, no) => { const r = indexedDB.open("evensteps"); r.onsuccess = () => ok(r.result); r.onerror = () => no(r.error); });
	const all = await new Promise(ok => { const r = db.transaction("events").objectStore("events").getAll(); r.onsuccess = () => ok(r.result); });
	db.close();
	return all.filter(e => e.job === job).map(e => e.id).sort().join(" ");
}`

// A whole job without the server, from cold to signed off, with a photo of the leads on
// the way. With the server back every record is there once, and the photo.
func TestAWholeJobWithoutTheServer(t *testing.T) {
	s := open(t)
	picture := aPhoto(t, 800, 600)
	s.play("/", func(h stage.Hands) {
		h.As("jonna")
		require.True(t, h.Page.MustEval(ahead, "j-101").Bool())
		before := len(s.events("j-101"))
		require.NoError(t, s.End(syscall.SIGKILL))
		h.Page.MustNavigate(s.At() + "/")
		h.Touch("Open: Boat-yard canteen")
		h.Until("Lift the front off")
		take(h, picture)
		h.Says("your picture")
		h.Until("Run it warm for five minutes")
		h.Done()
		h.Touch("To sign-off")
		h.On("Even: all back and proven")
		h.Touch("Sign off")
		h.Says("signed off")
		h.Says("no signal")
		require.NoError(t, s.Start(t.Context()))
		h.Page.MustEval(`() => window.dispatchEvent(new Event("online"))`)
		h.Says("all sent")
		assert.Greater(t, len(s.events("j-101")), before+50)
		assert.Equal(t, h.Page.MustEval(known, "j-101").Str(), s.ids("j-101"), "all that was recorded, each once")
		require.Eventually(t, func() bool { return len(s.photo("j-101")) > 0 }, 20*time.Second, 200*time.Millisecond)
	})
}

// ids are those of a job's events, in order.
func (s set) ids(job string) string {
	s.t.Helper()
	var out []string
	for _, e := range s.events(job) {
		out = append(out, e.ID)
	}
	slices.Sort(out)
	return strings.Join(out, " ")
}

// listed waits until the library and the lists lie on the device.
const listed = `async () => {
	await navigator.serviceWorker.ready;
	for (;;) {
		const db = await new Promise((ok, no) => { const r = indexedDB.open("evensteps"); r.onsuccess = () => ok(r.result); r.onerror = () => no(r.error); });
		const lists = await new Promise(ok => { const r = db.transaction("settings").objectStore("settings").get("lists"); r.onsuccess = () => ok(r.result); });
		db.close();
		if (lists) return true;
		await new Promise(ok => setTimeout(ok, 100));
	}
}`

// A call is taken in the cellar: from cold, with the server gone. Its job is worked at
// once, photos included, from the call to the first steps, over a reload. With the server
// back it is one job there, with all that was recorded, once, the photos too.
func TestACallFromColdWithoutTheServer(t *testing.T) {
	s := open(t)
	picture := aPhoto(t, 800, 600)
	s.play("/", func(h stage.Hands) {
		h.As("ilse")
		require.True(t, h.Page.MustEval(listed).Bool())
		require.NoError(t, s.End(syscall.SIGKILL))
		h.Page.MustNavigate(s.At() + "/call")
		h.On("Take a call")
		h.Says("No signal. Sites and machines are as they stood")
		h.Field("Site, machine, model").MustInput("school dryer")
		h.Touch("School kitchen")
		h.Field("In the customer").MustInput("it thumps and squeals")
		h.Says("said: thump")
		h.Page.MustElement(`input[type="file"]`).MustSetFiles(picture)
		h.Page.MustElement(`img[alt="The rating plate"]`)
		h.Touch("Make the job")
		h.Says("School kitchen, dryer")
		h.Says("no signal")
		h.On("As found")
		take(h, picture)
		h.Page.MustWait(`() => Number(document.body.innerText.match(/no signal, (\d+) waiting/)?.[1]) >= 3`)
		h.Touch("Whole, nothing missing")
		h.Page.MustWait(`() => document.querySelector("h1")?.innerText !== "As found"`)
		h.Page.MustReload()
		h.Says("School kitchen, dryer")
		job := h.Page.MustEval(`() => location.pathname.split("/")[2]`).Str()
		require.Regexp(t, "^c-[0-9a-f]{12}$", job)
		h.Page.MustNavigate(s.At() + "/")
		h.On("Today")
		h.Says("Begun on this device")
		h.Page.MustElement(`section[aria-label="Begun on this device"] a`)

		require.NoError(t, s.Start(t.Context()))
		h.Page.MustEval(`() => window.dispatchEvent(new Event("online"))`)
		h.Says("all sent")
		assert.GreaterOrEqual(t, len(s.events(job)), 3)
		assert.Equal(t, h.Page.MustEval(known, job).Str(), s.ids(job), "all that was recorded, each once")
		assert.Equal(t, 2, kinds(s.events(job))["photo"], "of the plate and of the machine")
		require.Eventually(t, func() bool { return len(s.photo(job)) > 0 }, 20*time.Second, 100*time.Millisecond)
		h.Page.MustNavigate(s.At() + "/")
		h.On("Today")
		h.Says("it thumps and squeals")
	})
}
