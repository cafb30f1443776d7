package server_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/call"
	"evensteps/core/company"
	"evensteps/core/scene"
	"evensteps/server"
)

// change sends a change and returns the status and what was said.
func (d *device) change(path string, body any) (int, string) {
	status, text, _ := d.call(http.MethodPut, path, body)
	return status, string(text)
}

// file sends a file of rows.
func (d *device) file(t *testing.T, table string, text []byte, trial bool) (int, server.Imported, string) {
	t.Helper()
	status, said, _ := d.call(http.MethodPost, fmt.Sprintf("/api/tables/%s?trial=%t", table, trial), string(text), "Content-Type", "text/csv")
	var out server.Imported
	if status == http.StatusOK {
		require.NoError(t, json.Unmarshal(said, &out))
	}
	return status, out, string(said)
}

// A supervisor looks after sites, machines, meters and the company itself; of two
// at once the second is told who was first, and nothing of the first is lost.
func TestASupervisorLooksAfterTheCompany(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 100})
	mira, benno, jonna := s.as(t, "mira"), s.as(t, "benno"), s.jonna(t)
	site := map[string]any{"id": "", "name": " The mill ", "address": "Quay 2\r\n10900 Ankarvik", "island": "Lillan", "ferry": "", "contact": "Bo", "phone": "+00 (0)12-34 ext. 5", "access": "Key at the shop"}
	add := func(table string, body map[string]any) (int, string) {
		status, said, _ := mira.call(http.MethodPost, "/api/"+table, body)
		return status, string(said)
	}
	status, said := add("sites", site)
	require.Equal(t, http.StatusNoContent, status, said)
	status, said = add("sites", site)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, said, "one of this name already")
	var all struct{ Places []server.Place }
	find := func(id string) server.Place {
		require.Equal(t, http.StatusOK, jonna.get("/api/places", &all))
		for _, p := range all.Places {
			if p.ID == id {
				return p
			}
		}
		return server.Place{}
	}
	mill := find("the-mill")
	assert.Equal(t, company.Site{ID: "the-mill", Name: "The mill", Address: "Quay 2\n10900 Ankarvik", Island: "Lillan", Contact: "Bo", Phone: "+00 (0)12-34 ext. 5", Access: "Key at the shop"}, mill.Site, "as it was written")
	site["version"], site["name"] = mill.Version.Version, "Old mill"
	status, said = benno.change("/api/sites/the-mill", site)
	require.Equal(t, http.StatusNoContent, status, said)
	site["name"] = "New mill"
	status, said = mira.change("/api/sites/the-mill", site)
	assert.Equal(t, http.StatusConflict, status)
	assert.Contains(t, said, "Benno Quaymark changed this meanwhile")
	assert.Equal(t, "Old mill", find("the-mill").Name)
	for field, wrong := range map[string]string{"name": " ", "phone": strings.Repeat("1", 201), "access": "a\x00b"} {
		bad := map[string]any{}
		for k, v := range site {
			bad[k] = v
		}
		bad[field] = wrong
		status, said = mira.change("/api/sites/the-mill", bad)
		assert.Equal(t, http.StatusUnprocessableEntity, status, said)
		assert.Contains(t, said, "body."+field)
	}

	site["version"] = 0
	status, said = mira.change("/api/sites/the-mill", site)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, said, "which version")

	machine := map[string]any{"id": "", "site": "the-mill", "name": "oven", "model": "no such", "serial": "", "map": "lanvik-bo2", "stands": "Cellar, left", "options": map[string]string{}}
	status, said = add("machines", machine)
	require.Equal(t, http.StatusNoContent, status, said)
	machine["version"] = 1
	for field, wrong := range map[string]string{"site": "moon", "map": "none"} {
		right := machine[field]
		machine[field] = wrong
		status, said = mira.change("/api/machines/the-mill-oven", machine)
		assert.Equal(t, http.StatusUnprocessableEntity, status)
		assert.Contains(t, said, "There is no "+field)
		machine[field] = right
	}
	// The map that was chosen for it holds, whatever its model says.
	var heard call.Meaning
	status, text, _ := jonna.call(http.MethodPost, "/api/calls/heard", map[string]any{"appliance": "the-mill-oven", "words": "stays cold"})
	require.Equal(t, http.StatusOK, status)
	require.NoError(t, json.Unmarshal(text, &heard))
	assert.Equal(t, "lanvik-bo2", heard.Map)
	assert.False(t, heard.Nearest)
	status, text, _ = jonna.call(http.MethodPost, "/api/calls", map[string]any{"call": "a-call-of-the-mill", "site": "the-mill", "appliance": "the-mill-oven", "map": "lanvik-bo2", "words": "stays cold"})
	assert.Equal(t, http.StatusOK, status, string(text))

	// A meter whose calibration is over says so.
	status, said = mira.change("/api/meters/m-12", map[string]any{"id": "m-12", "name": "Clamp 12", "category": "CAT III 600 V", "accuracy": map[string]string{"resistance": "1%"}, "calibrated": "2024-05-01", "due": "2025-05-01", "version": 0})
	require.Equal(t, http.StatusNoContent, status, said)
	var meters struct{ Meters []server.Gauge }
	require.Equal(t, http.StatusOK, jonna.get("/api/meters", &meters))
	overdue := map[string]bool{}
	for _, m := range meters.Meters {
		overdue[m.ID] = m.Overdue
	}
	assert.True(t, overdue["m-12"])
	assert.False(t, overdue["m-4"])
	var doc server.JobDocument
	require.Equal(t, http.StatusOK, jonna.get("/api/jobs/j-101", &doc))
	require.NotNil(t, doc.Job.Meters["m-12"].Due)
	status, said = mira.change("/api/meters/m-13", map[string]any{"id": "m-13", "name": "X", "category": "best", "accuracy": map[string]string{"resistance": "good"}, "calibrated": "", "due": "soon", "version": 0})
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, said, "such as CAT III 600 V")
	assert.Contains(t, said, "such as 0.9%+3@0.1ohm")

	// The company: its zone says when a day begins, its rate what a minute costs.
	var firm server.CompanyPage
	require.Equal(t, http.StatusOK, jonna.get("/api/company", &firm))
	assert.Equal(t, "Europe/Helsinki", firm.Zone)
	d := map[string]any{"name": "Quay", "address": "", "number": "", "zone": "Europe/Lisbon", "region": "en-GB", "units": "customary", "currency": "eur", "tax": 23, "rate": 90, "call_out": 0, "version": firm.Version.Version}
	status, said = mira.change("/api/company", d)
	require.Equal(t, http.StatusOK, status, said)
	status, said = benno.change("/api/company", d)
	assert.Equal(t, http.StatusConflict, status, said)
	doc = server.JobDocument{}
	require.Equal(t, http.StatusOK, jonna.get("/api/jobs/j-101", &doc))
	require.NotNil(t, doc.Job.Firm)
	assert.Equal(t, scene.Firm{Name: "Quay", Zone: "Europe/Lisbon", Region: "en-GB", Units: "customary", Currency: "EUR", Tax: 23}, *doc.Job.Firm)
	require.Len(t, doc.Job.Rates, 2)
	assert.InDelta(t, 1, doc.Job.Rates[0].Rate, 1e-9, "what it cost before")
	assert.InDelta(t, 1.5, doc.Job.Rates[1].Rate, 1e-9)
	assert.True(t, doc.Job.Rates[0].Until.Equal(*doc.Job.Rates[1].From))
	d["zone"], d["currency"], d["tax"] = "Moon", "ZZZ", -3
	status, said = mira.change("/api/company", d)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	for _, word := range []string{"no time zone “Moon”", "no currency “ZZZ”", "from 0 to 100"} {
		assert.Contains(t, said, word)
	}
}

// All that happened to a machine stands on its page; one that proves to be another
// brings its jobs along.
func TestOneMachinesPage(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 100})
	mira, jonna := s.as(t, "mira"), s.jonna(t)
	var page server.MachinePage
	require.Equal(t, http.StatusOK, jonna.get("/api/machines/boat-yard-dryer-2", &page))
	assert.Equal(t, "Boat-yard canteen", page.Place.Name)
	assert.NotEmpty(t, page.MapIs)
	assert.NotEmpty(t, page.Knows)
	require.NotEmpty(t, page.Jobs)
	assert.Equal(t, "j-101", page.Jobs[0].ID)
	assert.Equal(t, "thumps when it turns, worse when full", page.Jobs[0].Words)
	before := len(page.Jobs)
	var other server.MachinePage
	require.Equal(t, http.StatusOK, jonna.get("/api/machines/point-dryer", &other))
	merge := func(d *device, id, into string) (int, string) {
		status, text, _ := d.call(http.MethodPost, "/api/machines/"+id+"/merge", map[string]any{"into": into})
		return status, string(text)
	}
	status, said := merge(mira, "point-dryer", "point-dryer")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, said, "into itself")
	status, said = merge(mira, "point-dryer", "boat-yard-dryer-2")
	require.Equal(t, http.StatusNoContent, status, said)
	require.Equal(t, http.StatusOK, jonna.get("/api/machines/point-dryer", &page), "what names it finds its way")
	assert.Equal(t, "boat-yard-dryer-2", page.ID)
	assert.Len(t, page.Jobs, before+len(other.Jobs))
	require.Len(t, page.Merged, 1)
	assert.Equal(t, "point-dryer", page.Merged[0].ID)
	_, out, _ := mira.file(t, "machines", []byte("id,site,name\npoint-dryer,point,dryer\n"), false)
	assert.Equal(t, 1, out.Wrong, "a file does not bring it back")
	status, said = merge(mira, "point-dryer", "")
	require.Equal(t, http.StatusNoContent, status, said)
	require.Equal(t, http.StatusOK, jonna.get("/api/machines/point-dryer", &page))
	assert.Len(t, page.Jobs, len(other.Jobs))
	assert.Equal(t, http.StatusNotFound, jonna.get("/api/machines/none", nil))
}

// A list goes out as CSV and comes back: first as a trial that says what it would
// do, line by line, then all of it or nothing.
func TestListsAsFiles(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 100})
	mira := s.as(t, "mira")
	for _, table := range []string{"people", "sites", "machines", "meters"} {
		status, text, h := mira.call(http.MethodGet, "/api/tables/"+table, nil)
		require.Equal(t, http.StatusOK, status)
		assert.Equal(t, "text/csv; charset=utf-8", h.Get("Content-Type"))
		assert.Contains(t, h.Get("Content-Disposition"), table+".csv")
		status, out, said := mira.file(t, table, text, false)
		require.Equal(t, http.StatusOK, status, said)
		assert.Zero(t, out.Added+out.Changed+out.Wrong, "%s come back as they went: %+v", table, out.Lines)
		assert.Positive(t, out.Same)
	}
	sites := []byte("\ufeffname;island;phone\r\nThe mill;Lillan;+1\r\nSchool kitchen;Stora Lanne;+00 555 0102\r\n\"Old; barn\";Lillan;\r\n")
	_, trial, said := mira.file(t, "sites", sites, true)
	assert.Equal(t, []int{2, 0, 1, 0}, []int{trial.Added, trial.Changed, trial.Same, trial.Wrong}, said)
	assert.False(t, trial.Kept)
	var all struct{ Places []server.Place }
	require.Equal(t, http.StatusOK, mira.get("/api/places", &all))
	before := len(all.Places)
	_, done, _ := mira.file(t, "sites", sites, false)
	assert.True(t, done.Kept)
	require.Equal(t, http.StatusOK, mira.get("/api/places", &all))
	assert.Len(t, all.Places, before+2)

	wrong := []byte("sign_in,name,role,tickets\neddy,Eddy,technician,gas\nann,Ann,technician,sailing\n")
	_, out, _ := mira.file(t, "people", wrong, false)
	assert.False(t, out.Kept)
	assert.Equal(t, 1, out.Wrong)
	assert.Equal(t, 3, out.Lines[0].Line, "what is wrong comes first")
	assert.Contains(t, out.Lines[0].Says[0], "no ticket “sailing”")
	assert.Equal(t, http.StatusUnauthorized, s.device(t).signIn("eddy", "whatever-it-is"))
	var people struct{ People []server.PersonRow }
	count := func() int {
		require.Equal(t, http.StatusOK, mira.get("/api/people", &people))
		return len(people.People)
	}
	n := count()
	_, out, _ = mira.file(t, "people", []byte("sign_in,name,role,tickets\neddy,Eddy,technician,gas ..2099-12-31\n"), false)
	assert.True(t, out.Kept)
	require.Equal(t, n+1, count())
	for _, p := range people.People {
		if p.ID == "eddy" {
			assert.True(t, p.None, "signs in once a code is given")
			assert.Equal(t, []string{"gas"}, p.Now)
		}
	}
	assert.Equal(t, http.StatusUnauthorized, s.device(t).signIn("eddy", "x"), "no password is not any")
	status, _, said := mira.file(t, "people", []byte("sign_in,role,closed\nmira,supervisor,yes\nbenno,supervisor,yes\n"), false)
	assert.Equal(t, http.StatusConflict, status)
	assert.Contains(t, said, "no other supervisor")

	_, out, _ = mira.file(t, "sites", []byte{0xff, 0xfe, 'n', 0}, true)
	assert.Contains(t, out.Lines[0].Says[0], "UTF-16")
	status, _, said = mira.file(t, "sites", bytes.Repeat([]byte("x"), company.MostBytes+2), true)
	assert.Equal(t, http.StatusRequestEntityTooLarge, status, said)
	status, _, _ = mira.file(t, "boats", []byte("name\n"), true)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	status, _, _ = s.jonna(t).file(t, "sites", []byte("name\nX\n"), true)
	assert.Equal(t, http.StatusForbidden, status)
}

// Fifty thousand lines are taken in one go, and others work on meanwhile.
func TestALongList(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 100})
	mira, jonna := s.as(t, "mira"), s.jonna(t)
	var b bytes.Buffer
	b.WriteString("name,island,address\n")
	for i := range company.MostLines {
		fmt.Fprintf(&b, "Cabin %d,Ytterskar,Quay %d\n", i+1000, i)
	}
	done := make(chan server.Imported)
	go func() {
		_, out, _ := mira.file(t, "sites", b.Bytes(), false)
		done <- out
	}()
	for range 5 {
		assert.Equal(t, http.StatusOK, jonna.get("/api/jobs", nil))
	}
	out := <-done
	assert.True(t, out.Kept)
	assert.Equal(t, company.MostLines, out.Added)
	assert.Equal(t, company.MostLines-1000, out.More)
	assert.Len(t, out.Lines, 1000)
}

// A closed account signs in no more, and who is in is out; what it recorded stays.
func TestAClosedAccount(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 100})
	mira, jonna := s.as(t, "mira"), s.jonna(t)
	var people struct{ People []server.PersonRow }
	require.Equal(t, http.StatusOK, mira.get("/api/people", &people))
	change := func(id string, closed bool) (int, string) {
		for _, p := range people.People {
			if p.ID == id {
				return mira.change("/api/people/"+id, map[string]any{"sign_in": id, "name": p.Name, "role": p.Role, "tickets": p.Tickets, "closed": closed, "version": p.Version.Version})
			}
		}
		return 0, ""
	}
	status, said := change("jonna", true)
	require.Equal(t, http.StatusOK, status, said)
	status, text, _ := jonna.call(http.MethodGet, "/api/jobs", nil)
	assert.Equal(t, http.StatusUnauthorized, status)
	assert.Contains(t, string(text), "This account is closed. What you recorded stays on this device")
	status, text, _ = s.device(t).call(http.MethodPost, "/api/sign-in", map[string]string{"name": "jonna", "password": "ferry-0640"})
	assert.Equal(t, http.StatusUnauthorized, status)
	assert.Contains(t, string(text), "This account is closed")
	status, text, _ = mira.call(http.MethodPost, "/api/people/jonna/code", nil)
	assert.Equal(t, http.StatusConflict, status, string(text))
	var doc server.JobDocument
	var places struct{ Goers []server.Goer }
	require.Equal(t, http.StatusOK, mira.get("/api/places", &places))
	var goers []string
	for _, g := range places.Goers {
		goers = append(goers, g.ID)
	}
	assert.Equal(t, []string{"benno", "ilse", "mira", "odda", "tuure"}, goers, "nobody sends who is gone, nor the office")
	require.Equal(t, http.StatusOK, mira.get("/api/jobs/j-102", &doc))
	assert.Equal(t, "Jonna Hallvik", doc.Job.People["jonna"].Name, "what was recorded keeps its name")
	require.Equal(t, http.StatusOK, mira.get("/api/people", &people))
	status, said = change("jonna", false)
	require.Equal(t, http.StatusOK, status, said)
	assert.Equal(t, http.StatusOK, jonna.get("/api/jobs", nil))

	status, said = change("benno", true)
	require.Equal(t, http.StatusOK, status, said)
	status, said = change("mira", true)
	assert.Equal(t, http.StatusConflict, status)
	assert.Contains(t, said, "no other supervisor")
}

// A ticket with its times is held from its first day to its last, by the company's
// calendar; one that is taken away ends now.
func TestTicketsWithTheirTimes(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 100})
	mira, tuure := s.as(t, "mira"), s.as(t, "tuure")
	zone, err := time.LoadLocation("Europe/Helsinki")
	require.NoError(t, err)
	day := func(n int) string { return time.Now().In(zone).AddDate(0, 0, n).Format(time.DateOnly) }
	version := 1
	set := func(held ...map[string]string) {
		t.Helper()
		status, said := mira.change("/api/people/tuure", map[string]any{"sign_in": "tuure", "name": "Tuure Askelo", "role": "technician", "tickets": append([]map[string]string{}, held...), "closed": false, "version": version})
		require.Equal(t, http.StatusOK, status, said)
		version++
	}
	now := func() []string {
		var me server.Me
		require.Equal(t, http.StatusOK, tuure.get("/api/me", &me))
		return me.Tickets
	}
	set(map[string]string{"ticket": "gas", "from": day(0), "until": day(0)}, map[string]string{"ticket": "live-testing", "from": day(1)}, map[string]string{"ticket": "high-voltage", "until": day(-1)})
	assert.Equal(t, []string{"gas"}, now())
	set()
	assert.Empty(t, now())
	var doc server.JobDocument
	require.Equal(t, http.StatusOK, mira.get("/api/jobs/j-101", &doc))
	held := doc.Job.People["tuure"].Held
	require.Len(t, held, 2, "what had not begun is forgotten")
	assert.WithinDuration(t, time.Now(), *held[0].Until, time.Minute)
	assert.Empty(t, doc.Job.People["tuure"].Tickets)
}

// A time zone that the system's database no longer has takes nothing from anybody:
// days are those of Greenwich until a supervisor chooses another.
func TestATimeZoneThatIsGone(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 100})
	c, err := pgx.Connect(t.Context(), s.url)
	require.NoError(t, err)
	defer func() { assert.NoError(t, c.Close(t.Context())) }()
	_, err = c.Exec(t.Context(), `update company set details = jsonb_set(details, '{zone}', '"Moon/Base"')`)
	require.NoError(t, err)
	mira := s.as(t, "mira")
	for _, path := range []string{"/api/jobs", "/api/jobs/j-102/view", "/api/people", "/api/meters", "/api/company", "/api/machines/school-dryer"} {
		assert.Equal(t, http.StatusOK, mira.get(path, nil), path)
	}
	var page server.CompanyPage
	require.Equal(t, http.StatusOK, mira.get("/api/company", &page))
	d := map[string]any{"name": page.Name, "address": "", "number": "", "zone": page.Zone, "region": "", "units": "", "currency": "", "tax": 0, "rate": 0, "call_out": 0, "version": page.Version.Version}
	status, said := mira.change("/api/company", d)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, said, "no time zone “Moon/Base”")
}
