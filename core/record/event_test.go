package record

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var nine = time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC)

func event(kind, body string) Event {
	return Event{ID: "019300aa-0000-7000-8000-000000000001", Job: "j-1", By: "jonna", Device: "tab-3", N: 1, Wall: nine, Kind: kind, Body: json.RawMessage(body)}
}

func TestReadRefusesWhatIsMalformed(t *testing.T) {
	for _, c := range []struct {
		kind, body, says string
	}{
		{"rung.out", `{"move": ""}`, "move is missing"},
		{"rung.out", `{"mvoe": "top-off"}`, "unknown field"},
		{"rung.out", `{"move": 7}`, "move cannot be number"},
		{"rung.out", `{`, "cannot be read"},
		{"rung.out", `{"move": "` + strings.Repeat("x", 100) + `"}`, "longer than"},
		{"rung.out", `{"move": "dead", "proof": {"by": "nose"}}`, `proof.way is "nose"`},
		{"rung.half", `{"move": "top-off", "side": "in"}`, "one of out, back"},
		{"lot.counted", `{"lot": "top-off/1", "side": "back", "count": -1}`, "from 0 to 1000, not -1"},
		{"lot.settled", `{"lot": "top-off/1", "as": "eaten", "count": 1}`, "one of lost"},
		{"goal.dropped", `{"goal": "replace:x", "reason": "bored"}`, "one of declined"},
		{"snag.explained", `{"snag": "x", "reason": "  "}`, "reason is missing"},
		{"note", `{"text": "` + strings.Repeat("y", 3000) + `"}`, "longer than 2000"},
		{"rung.own", `{"id": "front-off", "title": "x", "face": "front"}`, "own-1, own-2"},
		{"rung.own", `{"id": "own-1", "title": " ", "face": "front"}`, "title is missing"},
		{"rung.own", `{"id": "own-1", "title": "x", "face": "roof"}`, "face is"},
		{"rung.own", `{"id": "own-1", "title": "x", "face": "front", "lots": [{"drive": "glue", "count": 1}]}`, "drive is"},
		{"rung.own", `{"id": "own-1", "title": "x", "face": "front", "lots": [{"drive": "hex", "count": -2}]}`, "from 0 to 1000"},
		{"rung.own", `{"id": "own-1", "title": "x", "face": "front", "wires": [{"terminal": ""}]}`, "terminal is missing"},
		{"rung.own", `{"id": "own-1", "title": "x", "face": "front", "minutes": {"out": -1}}`, "from 0 to 600"},
		{"rung.own", `{"id": "own-1", "title": "x", "face": "front", "lots": [` + strings.Repeat(`{"drive":"hex","count":1},`, 30) + `{"drive":"hex","count":1}]}`, "too many"},
		{"wire.said", `{"wire": "timer/C", "colour": ""}`, "colour is missing"},
		{"wire.said", `{"wire": "timer/C", "colour": "red", "tag": -1}`, "from 0"},
		{"lead.moved", `{"from": "a/1"}`, "to is missing"},
		{"recorded", `{"record": "m/r", "value": " "}`, "value is missing"},
		{"temporary.in", `{}`, "either temporary or name"},
		{"temporary.in", `{"temporary": "a", "name": "b"}`, "either temporary or name"},
		{"temporary.out", `{}`, "either temporary or name"},
		{"belonging", `{"where": "base"}`, "what is missing"},
		{"reading.taken", `{"test": "t"}`, "value is missing"},
		{"reading.taken", `{"test": "` + strings.Repeat("t", 200) + `", "value": "1"}`, "test is too long"},
		{"reading.taken", `{"test": "t", "value": "1", "leads": "` + strings.Repeat("0", 100) + `"}`, "too long"},
		{"test.result", `{"test": "t"}`, "outcome is missing"},
		{"test.result", `{"test": "t", "outcome": "not-done"}`, "reason is missing"},
		{"test.result", `{"test": "t", "outcome": "x", "evidence": "dreamt"}`, "evidence is"},
		{"cause.answered", `{"fault": "f", "cause": "c"}`, "answer is missing"},
		{"decided", `{"choice": "burn it"}`, "choice is"},
		{"photo", `{"sha256": "FF"}`, "no SHA-256"},
		{"photo", `{"sha256": "` + strings.Repeat("0", 64) + `", "pins": [{"x": 1.2, "y": 0}]}`, "0 to 1"},
		{"difference", `{"on": "front-off"}`, "is is missing"},
		{"check.result", `{"check": "c", "passed": true, "without": " "}`, "without is missing"},
		{"found", `{"item": "cap", "level": "away", "state": "sad"}`, "state is"},
		{"inspected", `{"finding": "x"}`, "snag is missing"},
		{"later.kind", `{`, "no JSON"},
		{"", `{}`, "no kind"},
		{"note", `{"text": "` + strings.Repeat("y", MostBody) + `"}`, "bytes"},
	} {
		_, err := Read(event(c.kind, c.body))
		var refused *Refused
		assert.ErrorAs(t, err, &refused, c.body)
		assert.ErrorContains(t, err, c.says, "%s %s", c.kind, c.body)
	}
	for name, spoil := range map[string]func(*Event){
		"no UUID": func(e *Event) { e.ID = "7" }, "no job": func(e *Event) { e.Job = "" }, "no person": func(e *Event) { e.By = "" },
		"no device": func(e *Event) { e.Device = "" }, "n from 0": func(e *Event) { e.N = 0 }, "seen": func(e *Event) { e.Seen = -1 },
		"clock": func(e *Event) { e.Wall = time.Time{} }, "since": func(e *Event) { e.Since = -1 },
	} {
		e := event("rung.out", `{"move": "top-off"}`)
		spoil(&e)
		_, err := Read(e)
		assert.Error(t, err, name)
	}
}

func TestReadKeepsANewerKind(t *testing.T) {
	f, err := Read(event("robot.helped", `{"arm": 2}`))
	require.NoError(t, err)
	assert.Nil(t, f.Of)
}

// The stamp corrects a wrong clock, never puts a fact after its receipt, and
// always after what it had seen.
func TestStamp(t *testing.T) {
	received := nine.Add(10 * time.Minute)
	sent := Sent{Run: "r-1", Since: 700, Wall: nine.Add(2 * time.Hour), Received: received} // two hours wrong
	same := event("note", `{}`)
	same.Run, same.Since, same.Wall = "r-1", 640, nine.Add(2*time.Hour-time.Minute)
	assert.Equal(t, received.Add(-time.Minute), Stamp(&same, sent, time.Time{}), "of the start that sends: by the seconds gone")
	older := same
	older.Run, older.Wall = "r-0", nine.Add(2*time.Hour-5*time.Minute)
	assert.Equal(t, received.Add(-5*time.Minute), Stamp(&older, sent, time.Time{}), "of an earlier start: by how far the clock is out")
	future := same
	future.Since = 9999
	assert.Equal(t, received, Stamp(&future, sent, time.Time{}), "never later than the receipt")
	assert.Equal(t, received.Add(-time.Second+time.Microsecond), Stamp(&older, sent, received.Add(-time.Second)), "always after what it had seen")
	assert.Equal(t, received.Add(5*time.Second+time.Microsecond), Stamp(&future, sent, received.Add(5*time.Second)), "even where that passes the receipt")
}

func TestOrder(t *testing.T) {
	at := func(minute int) *time.Time { v := nine.Add(time.Duration(minute) * time.Minute); return &v }
	make := func(id, device string, n, num int, t *time.Time) Fact {
		return Fact{Event: Event{ID: id, Device: device, N: n, Num: num, T: t}}
	}
	got := Order([]Fact{
		make("e", "b", 1, 0, nil), make("d", "a", 2, 0, nil), make("b", "a", 1, 8, at(1)), make("a", "b", 9, 4, at(0)), make("c", "c", 1, 5, at(1)),
		make("g", "a", 2, 3, at(1)), make("b", "a", 1, 8, at(1)), make("f", "a", 1, 0, nil), make("f", "a", 1, 6, at(9)),
	})
	var ids []string
	for _, f := range got {
		ids = append(ids, f.ID)
	}
	assert.Equal(t, "a b g c f d e", strings.Join(ids, " "), "by stamp, device and the device's own order, never by arrival; each once; a stamp that came back counts")
}

func TestEveryKindReadsItsOwnExample(t *testing.T) {
	examples := map[string]string{
		"visit.began": `{}`, "visit.ended": `{}`, "person.here": `{"person":"ilse"}`, "person.gone": `{"person":"ilse"}`,
		"option.answered": `{"option":"fuel","value":"gas"}`, "goal.added": `{"goal":"replace:rollers"}`, "way.chosen": `{"without":["plug-out"]}`, "complaint.added": `{"complaint":"squeals"}`, "goal.dropped": `{"goal":"replace:rollers","reason":"declined"}`,
		"found": `{"move":"toe-off","by":"customer"}`, "rung.out": `{"move":"dead","proof":{"by":"meter","meter":"m-4","before":"230 V","readings":[{"between":["L","N"],"value":"0.3 V"}],"after":"231 V"}}`,
		"rung.half": `{"move":"front-off","side":"out"}`, "rung.back": `{"move":"top-off","closes":["x"]}`, "rung.not-done": `{"move":"front-off","side":"out","reason":"left screw seized","bars":true}`,
		"lot.counted": `{"lot":"front-off/1","side":"back","count":4,"settles":["a"]}`, "lot.settled": `{"lot":"front-off/1","as":"lost","count":1,"where":"lint-duct"}`,
		"wire.confirmed": `{"wire":"timer/C","on":"C","tug":true}`, "confirmed": `{"confirm":"front-off/confirm/2","value":"0.08 ohm"}`,
		"energy.restored": `{"energy":"mains","how":"a neighbour switched the breaker on"}`, "check.result": `{"check":"leak-test","passed":true,"value":null,"without":null}`,
		"final.result": `{"final":"run","passed":false,"value":"54 C"}`, "part.fitted": `{"part":"rollers","piece":"roller-l","number":"EX-1","evidence":"seen","carried":["orifice"]}`,
		"note": `{"text":"x","on":"front-off"}`, "inspected": `{"snag":"s","finding":"f"}`, "snag.explained": `{"snag":"s","reason":"r"}`, "stopped": `{"why":"gas smell"}`, "told": `{"emergency":"gas","name":"Gas smell","say":["Everybody out."]}`,
		"stop.lifted": `{"by what":"aired"}`, "left": `{"tag":"7"}`, "took-over": `{"from":"ilse"}`, "job.given": `{"to":["jonna","ilse"]}`, "job.called-off": `{"reason":"made twice","instead":"j-9"}`, "paused": `{}`, "resumed": `{}`,
		"rung.own":  `{"id":"own-1","title":"Hidden screw behind the filter","face":"front","needs":{"filter":"away"},"before":["front-off"],"lots":[{"drive":"hex","size":"1/4 in","count":1}],"wires":[],"minutes":{"out":1,"back":1}}`,
		"left-over": `{"drive":"hex","size":"1/4 in","count":1,"where":"tray C"}`, "wire.said": `{"wire":"timer/C","colour":"red","stripe":"white","tag":3,"route":"behind the brace"}`, "lead.moved": `{"from":"old-timer/3","to":"new-timer/5","proof":"one for one"}`,
		"recorded": `{"record":"belt-slack-front/belt-mark","value":"14 1/2 in"}`, "looked": `{"on":"front-off/inspect/1","as":"found","finding":"lint, a hand full"}`, "temporary.in": `{"temporary":"lint-rag"}`, "temporary.out": `{"name":"cord on the lid"}`,
		"belonging": `{"what":"coins, 2.30","where":"base","to":"customer"}`, "reading.taken": `{"test":"element-ohms","value":"11.4 ohm","meter":"m-4","leads":"0.2 ohm","ambient":"19 C","supply":null,"fitted":false}`,
		"test.result": `{"test":"drum-by-hand","outcome":"no-drag","evidence":"seen"}`, "cause.answered": `{"fault":"cutoff-open","cause":"air-path","answer":"blocked at the wall"}`,
		"decided": `{"choice":"repair","figures":{"minutes":40},"by":"customer"}`, "photo": `{"sha256":"` + strings.Repeat("0f", 32) + `","on":"front-off","pins":[{"x":0.4,"y":0.2,"wire":"timer/C"}]}`,
		"bench.has": `{"trays":6,"drivers":["hex 1/4 in","phillips 2"]}`, "old-part": `{"part":"rollers","to":"customer"}`, "used": `{"what":"cable ties","count":2}`,
		"difference": `{"on":"front-off","says":"3 screws","is":"4 screws"}`,
		"signed-off": `{"customer":"Mr A","not_tested":["heat"]}`, "withdrawn": `{"event":"x"}`,
	}
	for kind := range kinds {
		require.Contains(t, examples, kind)
		f, err := Read(event(kind, examples[kind]))
		require.NoError(t, err, kind)
		assert.Contains(t, strings.ToLower(fmt.Sprintf("%T", f.Of)), strings.NewReplacer(".", "", "-", "").Replace(kind))
	}
}

// A file of events without numbers folds in the file's order.
func TestInFileOrder(t *testing.T) {
	at := nine
	events := []Event{event("note", `{"text":"a"}`), event("note", `{"text":"b"}`), {ID: "x", Num: 7, T: &at}}
	out := InFileOrder(events)
	assert.Equal(t, []int{1, 2, 7}, []int{out[0].Num, out[1].Num, out[2].Num})
	assert.True(t, out[0].T.Before(*out[1].T))
	assert.Nil(t, events[0].T, "what was handed in stays as it is")
}
