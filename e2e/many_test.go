package e2e

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"evensteps/e2e/stage"
)

// many lets so many notes wait on the device, as weeks without signal leave them.
const many = `async (job, person, n) => {
	const db = await new Promise((ok, no) => { const r = indexedDB.open("evensteps"); r.onsuccess = () => ok(r.result); r.onerror = () => no(r.error); });
	const device = "dev-far-cabin";
	const tx = db.transaction("events", "readwrite");
	const hex = (v, digits) => v.toString(16).padStart(digits, "0");
	const first = Date.now() - 60 * 24 * 3600_000;
	for (let i = 0; i < n; i++) {
		const at = first + i * 500;
		const stamp = hex(at, 12);
		const id = stamp.slice(0, 8) + "-" + stamp.slice(8) + "-7" + hex(i % 4096, 3) + "-8000-" + hex(i, 12);
		const event = { id, job, by: person, device, n: 1000 + i, wall: new Date(at).toISOString(), since: i, run: "a start long ago", seen: 0, kind: "note", body: { text: "note " + i } };
		tx.objectStore("events").put({ id, job, by: person, device, state: "waiting", event });
	}
	await new Promise(ok => tx.oncomplete = ok);
	db.close();
}`

// Ten thousand records wait on a device that comes back after sixty days: all are sent
// behind, each once, in their order.
func TestTenThousandRecordsWait(t *testing.T) {
	s := open(t)
	const records = 10_000
	s.play("/", func(h stage.Hands) {
		h.As("jonna")
		h.Page.MustEval(ahead, "j-101")
		before := len(s.events("j-101"))
		h.Page.MustEval(many, "j-101", "jonna", records)
		h.Page.MustNavigate(s.At() + "/device")
		h.On("This device")
		h.Says("10000 records wait")
		began := time.Now()
		h.Touch("Send now")
		h.Says("All sent. Nothing waits.")
		t.Logf("%d records sent in %s", records, time.Since(began).Round(100*time.Millisecond))
		got := s.all("j-101")
		assert.Len(t, got, before+records)
		for i := 1; i < records; i++ {
			assert.Less(t, got[before+i-1].N, got[before+i].N, "in the order in which they were recorded")
			if t.Failed() {
				break
			}
		}
	})
}
