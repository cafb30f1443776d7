package server_test

import (
	"context"
	"encoding/json"
	"net"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/call"
	"evensteps/core/diagnosis"
	"evensteps/core/job"
	"evensteps/core/journey"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/demo"
	"evensteps/server"
)

// post sends a body and reads the answer.
func post[T any](t *testing.T, d *device, path string, body any) (int, T) {
	t.Helper()
	var out T
	status, text, _ := d.call(http.MethodPost, path, body)
	if status < 300 {
		require.NoError(t, json.Unmarshal(text, &out), string(text))
	}
	return status, out
}

// A call is understood before anything is kept, and makes one job however often
// it is sent.
func TestTakingACall(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.as(t, "pell")

	require.Equal(t, http.StatusOK, d.get("/api/jobs", nil)) // as a browser does first; what Today shows is made
	_, heard := post[call.Meaning](t, d, "/api/calls/heard", call.Said{Appliance: "boat-yard-dryer-1", Words: "it spins but the towels stay cold"})
	assert.Equal(t, "tidemoor-tv6", heard.Map)
	assert.Equal(t, "covers TV6*", heard.How)
	assert.Equal(t, "no-heat", heard.Complaint)
	require.Len(t, heard.Asks, 1)
	assert.Equal(t, "fuel", heard.Asks[0].ID)
	assert.NotEmpty(t, heard.Before, "what was done on this machine")

	_, heard = post[call.Meaning](t, d, "/api/calls/heard", call.Said{Model: "ZZ-9", Kind: "oven", Words: "no heat"})
	assert.True(t, heard.Nearest)
	assert.Contains(t, heard.How, "nearest of its kind")
	_, heard = post[call.Meaning](t, d, "/api/calls/heard", call.Said{Model: "ZZ-9"})
	assert.Empty(t, heard.Map)
	assert.Contains(t, heard.How, "Say what kind")

	one := call.Call{
		Call: "0193-a-call", Appliance: "boat-yard-dryer-1", Map: "tidemoor-tv6", Complaint: "no-heat", Also: []string{"squeals", "no-heat"}, Words: "stays <b>cold</b>",
		Answers: map[string]string{"fuel": "electric", "sails": "two"}, Plate: strings.Repeat("ab", 32),
	}
	status, made := post[struct{ Job string }](t, d, "/api/calls", one)
	require.Equal(t, http.StatusOK, status)
	status, again := post[struct{ Job string }](t, d, "/api/calls", one)
	require.Equal(t, http.StatusOK, status)
	assert.Equal(t, made.Job, again.Job, "a double tap makes one job")
	var v job.View
	require.Equal(t, http.StatusOK, d.get("/api/jobs/"+made.Job+"/view", &v))
	assert.Equal(t, "stays <b>cold</b>", v.Words)
	assert.Equal(t, "test:as-found", v.Current.Goal)
	var sent struct{ Events []record.Event }
	require.Equal(t, http.StatusOK, d.get("/api/jobs/"+made.Job+"/events", &sent))
	require.Len(t, sent.Events, 3, "the second complaint, the option and the plate, each once")
	assert.Equal(t, []string{"complaint.added", "option.answered", "photo"}, []string{sent.Events[0].Kind, sent.Events[1].Kind, sent.Events[2].Kind})
	assert.Equal(t, []string{"“stays <b>cold</b>”", "Turns but does not heat.", "Squeals when it turns."}, v.Sheet.Wrong)
	rows := all(t, d)
	n := 0
	for _, r := range rows {
		if r.ID == made.Job {
			n++
		}
	}
	assert.Equal(t, 1, n, "and it stands in Today")

	// A machine that is new here.
	one = call.Call{Call: "0193-another", Site: "school", Name: "range", Model: "FR4-240", Serial: "K-1", Map: "brennvik-fr4", Complaint: "zone-dead"}
	status, made = post[struct{ Job string }](t, d, "/api/calls", one)
	require.Equal(t, http.StatusOK, status)
	_, again = post[struct{ Job string }](t, d, "/api/calls", one)
	assert.Equal(t, made.Job, again.Job)
	require.Equal(t, http.StatusOK, d.get("/api/jobs/"+made.Job+"/view", &v))
	assert.Equal(t, "School kitchen, range", v.Title)
	var places struct{ Places []server.Place }
	require.Equal(t, http.StatusOK, d.get("/api/places", &places))
	ranges := 0
	for _, p := range places.Places {
		for _, m := range p.Machines {
			if m.Serial == "K-1" {
				ranges++
			}
		}
	}
	assert.Equal(t, 1, ranges)

	for name, wrong := range map[string]call.Call{
		"no map":       {Call: "0193-wrong-1", Appliance: "boat-yard-dryer-1", Map: "sail"},
		"no complaint": {Call: "0193-wrong-2", Appliance: "boat-yard-dryer-1", Map: "tidemoor-tv6", Complaint: "sings"},
		"not also":     {Call: "0193-wrong-7", Appliance: "boat-yard-dryer-1", Map: "tidemoor-tv6", Complaint: "no-heat", Also: []string{"sings"}},
		"hidden":       {Call: "0193-wrong-3", Appliance: "boat-yard-range", Map: "brennvik-fr4", Complaint: "hot-light", Answers: map[string]string{"cooktop": "coil"}},
		"no name":      {Call: "0193-wrong-4", Site: "school", Map: "tidemoor-tv6"},
		"no site":      {Call: "0193-wrong-5", Site: "moon", Name: "dryer", Map: "tidemoor-tv6"},
	} {
		status, _ := post[struct{}](t, d, "/api/calls", wrong)
		assert.Equal(t, http.StatusUnprocessableEntity, status, name)
	}
	status, _ = post[struct{}](t, d, "/api/calls", call.Call{Call: "0193-wrong-6", Appliance: "no-such", Map: "tidemoor-tv6"})
	assert.Equal(t, http.StatusNotFound, status)
	status, _ = post[struct{}](t, s.device(t), "/api/calls", one)
	assert.Equal(t, http.StatusUnauthorized, status)
}

// An emergency on the telephone is heard before it is known what machine it is; no
// job is made of it until the caller was told what to do, and the machine is out
// of use until somebody with the ticket has looked at it.
func TestAnEmergencyOnTheTelephone(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.as(t, "pell")
	const said = "It runs, but there is a smell of gas in the laundry"
	_, heard := post[call.Meaning](t, d, "/api/calls/heard", call.Said{Words: said})
	require.NotNil(t, heard.Emergency)
	assert.Equal(t, "gas", heard.Emergency.Kind)
	_, heard = post[call.Meaning](t, d, "/api/calls/heard", call.Said{Appliance: "boat-yard-dryer-1", Words: said})
	require.NotNil(t, heard.Emergency)
	one := call.Call{Call: "0193-gas-call", Appliance: "boat-yard-dryer-1", Map: heard.Map, Complaint: heard.Complaint, Words: said}
	for _, told := range []string{"", "glass"} {
		one.Told = told
		status, text, _ := d.call(http.MethodPost, "/api/calls", one)
		assert.Equal(t, http.StatusUnprocessableEntity, status)
		assert.Contains(t, string(text), "Touch no switch")
	}
	one.Told = "gas"
	_, made := post[struct{ Job string }](t, d, "/api/calls", one)
	_, again := post[struct{ Job string }](t, d, "/api/calls", one)
	require.NotEmpty(t, made.Job)
	assert.Equal(t, made, again)
	v := func() (v job.View) {
		require.Equal(t, http.StatusOK, d.get("/api/jobs/"+made.Job+"/view", &v))
		return v
	}
	require.Len(t, v().OutOfUse, 1)
	assert.Equal(t, "Pell Ostmarker", v().OutOfUse[0].By)
	assert.NotEmpty(t, v().OutOfUse[0].Told)
	assert.Equal(t, "Out of use: Gas smell", rowOf(t, d, made.Job).Warn)
	snag := v().OutOfUse[0].Snag
	inspect := func(who string) {
		one := s.as(t, who)
		e := one.event("inspected", record.Inspected{Snag: snag, Finding: "the union at the cock leaked; made up and tested"})
		e.Job, e.By, e.Device = made.Job, who, "tab-"+who
		_, a, _ := one.send(made.Job, e)
		require.Equal(t, "kept", a.Answers[0].Outcome, a.Answers[0].Problem)
	}
	inspect("jonna")
	assert.Len(t, v().OutOfUse, 1, "Jonna has no gas ticket")
	inspect("ilse")
	assert.Empty(t, v().OutOfUse)
	assert.Empty(t, rowOf(t, d, made.Job).Warn)
}

// A map that does not cover the machine is not taken by mistake: another one was
// chosen meanwhile.
func TestAMapOfAnotherMachineIsNotTakenByMistake(t *testing.T) {
	d := begin(t, server.Options{}).as(t, "pell")
	one := call.Call{Call: "0193-other-map", Appliance: "boat-yard-dryer-1", Map: "lanvik-bo2"}
	status, text, _ := d.call(http.MethodPost, "/api/calls", one)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, string(text), "does not cover")
	one.Uncovered = true
	status, _, _ = d.call(http.MethodPost, "/api/calls", one)
	assert.Equal(t, http.StatusOK, status)
}

// The office takes calls; what happens at a machine is recorded by who is there.
func TestTheOfficeRecordsNothingAtAMachine(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.as(t, "pell")
	e := d.event("stopped", record.Stopped{Why: "gas smell"})
	e.By = "pell"
	_, a, _ := d.send("j-101", e)
	assert.Equal(t, "refused", a.Answers[0].Outcome)
	assert.Contains(t, a.Answers[0].Problem, "recorded by who is there")
	e = d.event("note", record.Note{Text: "They are in from nine."})
	e.By = "pell"
	_, a, _ = d.send("j-101", e)
	assert.Equal(t, "kept", a.Answers[0].Outcome, a.Answers[0].Problem)
}

// What the company proved on other machines weighs in on the next of its kind.
func TestClosedJobsWeighIn(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	rows := all(t, d)
	var doc server.JobDocument
	found := map[string]map[string]int{}
	for _, r := range rows {
		doc = server.JobDocument{}
		require.Equal(t, http.StatusOK, d.get("/api/jobs/"+r.ID, &doc))
		if len(doc.Job.Closed) > 0 {
			found[r.ID+" "+doc.Job.Complaint] = doc.Job.Closed
		}
	}
	rollers, cutoff := map[string]int{"rollers-worn": 1}, map[string]int{"cutoff-open": 1}
	assert.Equal(t, map[string]map[string]int{
		"j-101 thumps": rollers, "j-102 thumps": rollers, "j-107 no-heat": cutoff, "j-108 no-heat": cutoff, "j-113 no-heat": cutoff,
	}, found, "proven jobs of the demo count for the others of their complaint, and for no other")
}

func TestAMeterOnTheNetwork(t *testing.T) {
	meter, err := demo.Meter()
	require.NoError(t, err)
	meter.DropEvery = 2 // every other line drops
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, stop := context.WithCancel(t.Context())
	defer stop()
	go func() { _ = meter.Serve(ctx, l) }()
	s := begin(t, server.Options{Meter: l.Addr().String()})
	d := s.jonna(t)
	var joined struct{ Joined bool }
	require.Equal(t, http.StatusOK, d.get("/api/meter", &joined))
	assert.True(t, joined.Joined)
	type ask struct {
		Quantity string   `json:"quantity"`
		Between  []string `json:"between"`
	}
	type got struct{ Value, Meter string }
	status, r := post[got](t, d, "/api/meter/reading", ask{"resistance", []string{"element 1", "element 2"}})
	require.Equal(t, http.StatusOK, status)
	assert.Equal(t, got{"OL", "sim-1"}, r)
	status, text, _ := d.call(http.MethodPost, "/api/meter/reading", ask{"pressure", []string{}})
	assert.Equal(t, http.StatusBadGateway, status)
	assert.Contains(t, string(text), "does not measure that")

	// Its accuracy is the company's own record of it: across a limit it is unsure.
	e := d.event("reading.taken", record.ReadingTaken{Test: "element-ohms", Value: "22.86 ohm", Meter: "sim-1"})
	_, a, _ := d.send("j-101", e)
	require.Equal(t, "kept", a.Answers[0].Outcome, a.Answers[0].Problem)
	var f diagnosis.Find
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-101/find", &f))
	require.NotEmpty(t, f.Results)
	assert.Equal(t, "unsure", f.Results[len(f.Results)-1].Verdict)

	stop()
	status, text, _ = d.call(http.MethodPost, "/api/meter/reading", ask{"voltage", []string{"L", "N"}})
	assert.Equal(t, http.StatusBadGateway, status)
	assert.Contains(t, string(text), "does not answer")
	status, _, _ = begin(t, server.Options{}).jonna(t).call(http.MethodPost, "/api/meter/reading", ask{"voltage", []string{}})
	assert.Equal(t, http.StatusNotFound, status, "none is joined")
}

// A job on the wrong machine is moved to the right one while nobody has worked on
// it: another is made, and the first is called off and says why. Sent twice, it is
// one. Who goes is said with the call, and goes along.
func TestAJobOnTheWrongMachine(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 100})
	pell, tuure := s.as(t, "pell"), s.as(t, "tuure")
	take := func(call map[string]any) (int, string) {
		status, text, _ := pell.call(http.MethodPost, "/api/calls", call)
		var out struct{ Job, Detail string }
		require.NoError(t, json.Unmarshal(text, &out))
		return status, out.Job + out.Detail
	}
	status, first := take(map[string]any{"call": "the-first-call", "site": "school", "appliance": "school-dryer", "map": "tidemoor-tv6", "words": "stays cold", "goes": []string{"tuure"}})
	require.Equal(t, http.StatusOK, status, first)
	mine := func() (ids []string) {
		var rows struct{ Jobs []server.JobRow }
		require.Equal(t, http.StatusOK, tuure.get("/api/jobs", &rows))
		for _, j := range rows.Jobs {
			if j.Mine {
				ids = append(ids, j.ID)
			}
		}
		return ids
	}
	assert.Contains(t, mine(), first, "it is his from the call on")
	var page server.MachinePage
	require.Equal(t, http.StatusOK, pell.get("/api/machines/school-dryer", &page))
	assert.Equal(t, []string{"Tuure Askelo"}, page.Jobs[0].Whose)

	moved := map[string]any{"call": "the-right-call", "site": "school", "appliance": "school-oven", "map": "lanvik-bo2", "words": "stays cold", "instead": first}
	status, second := take(moved)
	require.Equal(t, http.StatusOK, status, second)
	status, again := take(moved)
	require.Equal(t, http.StatusOK, status, again)
	assert.Equal(t, second, again)
	assert.NotContains(t, mine(), first)
	assert.Contains(t, mine(), second, "who went goes along")
	var v job.View
	require.Equal(t, http.StatusOK, pell.get("/api/jobs/"+first+"/view", &v))
	require.NotNil(t, v.About.CalledOff)
	assert.Equal(t, "on the wrong machine", v.About.CalledOff.Text)
	var rows struct{ Jobs []server.JobRow }
	require.Equal(t, http.StatusOK, pell.get("/api/jobs?list=earlier", &rows))
	assert.True(t, slices.ContainsFunc(rows.Jobs, func(j server.JobRow) bool { return j.ID == first && j.Stage == journey.CalledOff }), "it stands with the earlier ones")

	// Work on j-102 has begun.
	moved["call"], moved["instead"] = "another-call-yet", "j-102"
	status, said := take(moved)
	assert.Equal(t, http.StatusConflict, status)
	assert.Contains(t, said, "has begun: it stays on its machine")
	moved["instead"] = "j-none"
	status, _ = take(moved)
	assert.Equal(t, http.StatusNotFound, status)
}

// A call that was taken without signal: the device begins its job under an id of its
// own, from what it kept, and records on it. Sent later it is the same job, with the
// same facts, once each, and what was recorded stands on it.
func TestACallThatWasTakenWithoutSignal(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	var around scene.Job
	require.Equal(t, http.StatusOK, d.get("/api/around", &around))
	assert.NotEmpty(t, around.People)
	assert.Nil(t, around.Where)
	m, err := s.store.Map(t.Context(), "tidemoor-tv6", 7)
	require.NoError(t, err)

	one := call.Call{
		Call: "0193-cellar-1", Job: "c-0123456789ab", Site: "school", Name: "dryer 9", Model: "TV6-230", Map: "tidemoor-tv6", Revision: 7,
		Complaint: "no-heat", Words: "stays cold and smells of gas", Told: "gas", Goes: []string{"jonna"}, Answers: map[string]string{m.Options[0].ID: m.Options[0].Values[0]},
	}
	named := func(of string) string { return uuid.NewSHA1(uuid.NameSpaceURL, []byte(of)).String() }
	taken, err := job.Taken(m, job.TakenIn{Call: one, By: "jonna", At: time.Now(), On: call.Machine{Model: one.Model}, Around: around, Where: scene.Where{Site: "School kitchen", Name: one.Name}}, named)
	require.NoError(t, err)
	assert.Equal(t, "School kitchen, dryer 9", taken.Job.Title)
	require.Len(t, taken.Events, 3, "who goes, what the caller was told, one answer")
	book := job.Open(m, taken.Job)
	for _, e := range taken.Events {
		f, err := record.Read(e)
		require.NoError(t, err)
		book.Add(f)
	}
	alone := book.View(scene.Viewer{Person: "jonna"}, time.Now())
	assert.NotEmpty(t, alone.OutOfUse)

	status, made := post[struct{ Job string }](t, d, "/api/calls", one)
	require.Equal(t, http.StatusOK, status)
	assert.Equal(t, one.Job, made.Job)
	var own []any
	for _, e := range taken.Events {
		own = append(own, e)
	}
	note := d.event("note", record.Note{Text: "recorded in the cellar"})
	note.Job = one.Job
	status, answers, text := d.send(one.Job, append(own, note)...)
	require.Equal(t, http.StatusOK, status, text)
	for i, a := range answers.Answers {
		assert.Equal(t, i < len(own), a.Outcome == "known", "%s: %s", a.Outcome, a.Problem)
		assert.NotZero(t, a.Num)
	}
	events, err := s.store.Events(t.Context(), one.Job, 0, 100)
	require.NoError(t, err)
	assert.Len(t, events, 4)
	var v job.View
	require.Equal(t, http.StatusOK, d.get("/api/jobs/"+one.Job+"/view", &v))
	assert.Equal(t, alone.Title, v.Title)
	assert.Equal(t, alone.OutOfUse, v.OutOfUse)

	_, again := post[struct{ Job string }](t, d, "/api/calls", one)
	assert.Equal(t, one.Job, again.Job, "sent twice it is one")
	other := one
	other.Call = "0193-somebody-else"
	status, _ = post[struct{}](t, d, "/api/calls", other)
	assert.Equal(t, http.StatusConflict, status, "the id is another call's")
	for _, id := range []string{"j-101", "c-XYZ", "c-0123456789abc"} {
		other.Job = id
		status, _ = post[struct{}](t, d, "/api/calls", other)
		assert.Equal(t, http.StatusUnprocessableEntity, status, "no device makes the id %s", id)
	}
	_, err = job.Taken(m, job.TakenIn{Call: call.Call{Map: m.ID, Name: "dryer", Words: "smells of gas"}}, named)
	assert.ErrorContains(t, err, "Tell the caller first")
}
