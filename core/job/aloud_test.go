package job_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"os"
	"path/filepath"
	"reflect"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/goccy/go-yaml"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/diagnosis"
	"evensteps/core/job"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/steps"
	"evensteps/demo"
)

// aloud plays a job and writes down all that its view says: the step that is on,
// and of all else what is new and how many lines are gone.
type aloud struct {
	*demo.Player
	t    testing.TB
	text bytes.Buffer
	was  map[string]string
	told int // events
	hear func(name string, part any)
}

func (a *aloud) must(kind string, body any) {
	a.t.Helper()
	require.NoError(a.t, a.Record(kind, body))
	a.say()
}

func (a *aloud) as(by, device string) { a.By, a.Device = by, device }

// until plays on to a step and writes down each.
func (a *aloud) until(kind, on string) *job.View {
	a.t.Helper()
	for range 200 {
		if v := a.View(); v.Current.Kind == kind && (v.Current.Move == on || v.Current.Goal == on) {
			return v
		}
		more, err := a.Step()
		require.NoError(a.t, err)
		a.say()
		if !more {
			break
		}
	}
	v := a.View()
	require.Equal(a.t, kind+" "+on, v.Current.Kind+" "+v.Current.Move, v.Snags)
	return v
}

func (a *aloud) say() {
	v := a.View()
	a.text.WriteString("\n")
	for _, e := range a.Events()[a.told:] {
		fmt.Fprintf(&a.text, "# %s: %s %s\n", e.By, e.Kind, unseen.ReplaceAllString(string(e.Body), "…"))
	}
	a.told = len(a.Events())
	parts := map[string]any{}
	for name, part := range plain(v).(map[string]any) {
		if !slices.Contains([]string{"rungs", "plan", "job", "title", "place", "words", "machine", "stops"}, name) {
			parts[name] = part
		}
	}
	for _, r := range v.Rungs {
		one := map[string]any{"title": r.Title, "sub": r.Sub, "out": r.Out, "back": r.Back, "kept": r.Kept}
		if r.Current && v.Current.Side == "back" {
			one["side"] = r.Home
		} else if r.Current {
			one["side"] = r.OutSide
		}
		parts["rung "+r.ID] = plain(one)
	}
	a.write(parts)
}

func (a *aloud) write(parts map[string]any) {
	for _, name := range slices.Sorted(maps.Keys(parts)) {
		if a.hear != nil {
			a.hear(name, parts[name])
			continue
		}
		text := ""
		if parts[name] != nil {
			data, err := yaml.Marshal(parts[name])
			require.NoError(a.t, err)
			text = unseen.ReplaceAllString(string(data), "…")
		}
		if a.was[name] == text {
			continue
		}
		gone := map[string]int{}
		for line := range strings.Lines(a.was[name]) {
			gone[line]++
		}
		fmt.Fprintf(&a.text, "%s\n", name)
		for line := range strings.Lines(text) {
			if gone[line] > 0 {
				gone[line]--
				continue
			}
			a.text.WriteString("  " + line)
		}
		n := 0
		for _, k := range gone {
			n += k
		}
		if n > 0 {
			fmt.Fprintf(&a.text, "  (%d lines gone)\n", n)
		}
		a.was[name] = text
	}
}

// unseen is what says nothing to a reader: ids of events, and parts of a second.
var unseen = regexp.MustCompile(`[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[0-9a-f]{4}-[0-9a-f]{12}|\.\d{6}Z`)

// plain is a value as its JSON says it, without drawings and what is empty;
// a record is one line, a number has two decimals.
func plain(v any) any {
	data, err := json.Marshal(v)
	if err != nil {
		panic(err)
	}
	var out any
	if err := json.Unmarshal(data, &out); err != nil {
		panic(err)
	}
	return trimmed(out)
}

func trimmed(v any) any {
	switch v := v.(type) {
	case map[string]any:
		if body, is := v["body"]; is && len(v) == 2 {
			line, _ := json.Marshal(body)
			return fmt.Sprintf("%v %s", v["kind"], line)
		}
		out := map[string]any{}
		for k, x := range v {
			x = trimmed(x)
			if x != nil && !reflect.ValueOf(x).IsZero() && !slices.Contains([]string{"picture", "markdown", "last"}, k) {
				out[k] = x
			}
		}
		if len(out) > 0 {
			return out
		}
	case []any:
		var out []any
		for _, x := range v {
			if x = trimmed(x); x != nil {
				out = append(out, x)
			}
		}
		if out != nil {
			return out
		}
	case float64:
		return fmt.Sprintf("%.4g", v)
	case string, bool:
		return v
	}
	return nil
}

var three, single = 3, 1

// played are the jobs that are read aloud.
var played = map[string]struct {
	machine, complaint string
	trays              *int
	play               func(a *aloud)
}{
	"rollers, as they come":  {"tidemoor-tv6", "thumps", &three, rollersAsTheyCome},
	"gas valve":              {"tidemoor-tv6", "no-heat", nil, gasValve},
	"from complaint to part": {"tidemoor-tv6", "no-heat", nil, fromComplaintToPart},
	"high voltage":           {"halvarsk-mw9", "hums", nil, highVoltage},
	"no map":                 {"plain-oven", "", nil, noMap},
	"kit, one tray":          {"brennvik-fr4", "zone-dead", &single, kitOneTray},
	"nothing opened":         {"tidemoor-tv6", "no-heat", nil, nothingOpened},
	"no way":                 {"sundmarr-sd1", "burnt", nil, noWay},
}

// Jobs read aloud: all that is said and recorded on the way through some jobs is
// as it stands in testdata/aloud. Where something is meant to read otherwise,
// EVENSTEPS_WRITE=1 writes the files again and fails, and what changed in them is
// to be read as a technician would before it is kept.
func TestJobsReadAloud(t *testing.T) {
	people := map[string]scene.Person{"jonna": {Name: "Jonna Vale", Tickets: []string{"gas", "high-voltage"}}, "ilse": {Name: "Ilse Orm"}}
	for name, one := range played {
		t.Run(name, func(t *testing.T) {
			p := onMap(t, one.machine, scene.Job{ID: "j-1", Title: "Canteen, machine 2", Complaint: one.complaint, Words: "as before", People: people, Trays: one.trays})
			a := &aloud{Player: p, t: t, was: map[string]string{}}
			a.must("visit.began", record.VisitBegan{})
			one.play(a)
			file := filepath.Join("testdata", "aloud", strings.ReplaceAll(strings.ReplaceAll(name, ",", ""), " ", "-")+".txt")
			want, err := os.ReadFile(file)
			if os.Getenv("EVENSTEPS_WRITE") != "" && !bytes.Equal(want, a.text.Bytes()) {
				require.NoError(t, os.MkdirAll(filepath.Dir(file), 0o755))
				require.NoError(t, os.WriteFile(file, a.text.Bytes(), 0o644))
				t.Fatalf("%s is written again: read what changed in it", file)
			}
			require.NoError(t, err)
			if !bytes.Equal(want, a.text.Bytes()) {
				then, now := strings.Split(string(want), "\n"), strings.Split(a.text.String(), "\n")
				for i := range now {
					if i >= len(then) || now[i] != then[i] {
						t.Fatalf("%s, line %d\nsays  %s\nwas   %s", file, i+1, strings.Join(now[max(0, i-6):min(len(now), i+6)], "\n      "), strings.Join(then[min(len(then), max(0, i-6)):min(len(then), i+6)], "\n      "))
					}
				}
				t.Fatalf("%s ends early", file)
			}
		})
	}
}

// Two at the machine, three trays, and much that goes otherwise.
func rollersAsTheyCome(a *aloud) {
	a.must("person.here", record.PersonHere{Person: "ilse"})
	a.must("goal.added", record.GoalAdded{Goal: "replace:rollers"})
	a.must("rung.half", record.RungHalf{Move: "isolator-off", Side: "out"})
	a.until("out", "prove-dead")
	a.must("rung.out", record.RungOut{Move: "prove-dead", Proof: &record.Proof{Way: "meter", Meter: "4", Before: "230 V", After: "230 V", Readings: []record.PointReading{{Between: []string{"L", "N"}, Value: "228 V"}}}})
	a.until("out", "console-up")
	a.must("rung.out", record.RungOut{Move: "front-off", Accepts: []string{"front-off/2", "door-plug", "lamp-plug"}})
	a.must("withdrawn", record.Withdrawn{Event: a.Events()[len(a.Events())-1].ID})
	a.as("ilse", "tab-2")
	a.until("out", "sensor-apart")
	a.must("wire.said", record.WireSaid{Wire: "sensor-plug/left", Colour: "orange", Tag: 1})
	a.must("wire.said", record.WireSaid{Wire: "sensor-plug/left", Colour: "pink"})
	a.must("wire.said", record.WireSaid{Wire: "sensor-plug/left", Colour: "orange"})
	a.until("out", "front-off")
	a.must("lot.counted", record.LotCounted{Lot: "front-off/1", Side: "out", Count: 3, Tray: "D"})
	a.as("jonna", "tab-1")
	a.must("lot.counted", record.LotCounted{Lot: "front-off/1", Side: "out", Count: 4})
	a.must("lot.settled", record.LotSettled{Lot: "front-off/1", As: "dropped", Count: 1, Where: "under the drum"})
	a.must("note", record.Note{On: "front-off", Text: "A clip is bent."})
	a.must("left", record.Left{})
	a.must("temporary.in", record.TemporaryIn{Name: "cord on the lid"})
	a.until("work", "replace:rollers")
	a.must("part.fitted", record.PartFitted{Part: "rollers", Piece: "roller-l", Number: "TM-11902", Evidence: "seen"})
	a.until("check", "drum-turns")
	a.must("check.result", record.CheckResult{Check: "drum-turns"})
	a.until("back", "front-off")
	a.must("rung.back", record.RungBack{Move: "front-off"})
	a.must("lot.counted", record.LotCounted{Lot: "front-off/1", Side: "back", Count: 2})
	a.until("final", "run-warm")
	a.must("final.result", record.FinalResult{Final: "run-warm"})
	a.must("stopped", record.Stopped{Why: "smoke"})
	a.write(map[string]any{"list": plain(a.Book.Lists(scene.Viewer{Person: a.By, Device: a.Device}, a.Clock))})
}

func gasValve(a *aloud) {
	a.must("option.answered", record.OptionAnswered{Option: "fuel", Value: "gas"})
	a.must("goal.added", record.GoalAdded{Goal: "replace:gas-valve"})
	a.as("ilse", "tab-2")
	for a.View().Current.Move != "gas-prove" { // as far as one without the ticket may
		_, err := a.Step()
		require.NoError(a.t, err)
		a.say()
	}
	a.as("jonna", "tab-1")
	a.say()
	a.until("sign-off", "")
	assert.True(a.t, a.View().Even)
}

func fromComplaintToPart(a *aloud) {
	tell := func() {
		viewer := scene.Viewer{Person: a.By, Device: a.Device}
		a.write(map[string]any{"find": plain(a.Book.Find(viewer, a.Clock)), "decide": plain(a.Book.Decide(viewer, a.Clock, nil))})
	}
	a.must("option.answered", record.OptionAnswered{Option: "fuel", Value: "electric"})
	surveyed(a.t, a.Player)
	a.say()
	tell()
	a.must("test.result", record.TestResult{Test: "circuit:heater-line/block/cutoff", Outcome: "closed", Evidence: "measured"})
	tell()
	a.must("reading.taken", record.ReadingTaken{Test: "element-ohms", Value: "OL", Meter: "4"})
	tell()
	a.write(map[string]any{"worth": plain(a.Book.Decide(scene.Viewer{Person: a.By, Device: a.Device}, a.Clock, diagnosis.Typed{"new": "900"}))})
	a.must("goal.added", record.GoalAdded{Goal: "replace:element-kit"})
	a.until("work", "replace:element-kit")
	tell()
}

func highVoltage(a *aloud) {
	a.must("goal.added", record.GoalAdded{Goal: "replace:capacitor"})
	a.until("sign-off", "")
	assert.True(a.t, a.View().Even)
}

func noMap(a *aloud) {
	a.must("goal.added", record.GoalAdded{Goal: record.Work})
	do(a.t, a.Player, a.View().Current.Task.Choices[0].Makes)
	a.until("own", record.Work)
	a.must("rung.own", record.RungOwn{ID: "own-rear", Title: "Rear panel", Face: "rear", Type: "cover", Lots: []record.OwnLot{{Drive: "torx", Size: "T20", Count: 6}}, Minutes: machine.Minutes{Out: 2, Back: 3}})
	a.must("lot.counted", record.LotCounted{Lot: "own-rear/1", Side: "out", Count: 5, Tray: "A"})
	a.must("rung.out", record.RungOut{Move: "own-rear"})
	a.must("rung.own", record.RungOwn{ID: "own-plug", Title: "Fan leads", Face: "rear", Type: "connector", Needs: machine.Needs{"own-rear": machine.Away}, Wires: []record.OwnWire{{Terminal: "1", Colour: "red"}, {Terminal: "2", Colour: "red"}}, Minutes: machine.Minutes{Out: 1, Back: 1}})
	a.must("goal.added", record.GoalAdded{Goal: "item:own-plug=away"})
	a.until("own", record.Work)
	a.must("part.fitted", record.PartFitted{Part: "Fan", Piece: "Fan", Number: "F-1", Evidence: "seen"})
	do(a.t, a.Player, a.View().Current.Task.Done.Makes)
	a.until("sign-off", "")
	assert.True(a.t, a.View().Even)
}

// A kit of which one piece is kept, photos on all sorts of things, lots without a
// tray, counts that come right in the end, things used up.
func kitOneTray(a *aloud) {
	a.must("test.result", record.TestResult{Test: "zones-try", Outcome: "one", Evidence: "seen"})
	a.write(map[string]any{"decide": plain(a.Book.Decide(scene.Viewer{Person: a.By, Device: a.Device}, a.Clock, nil))})
	a.must("goal.added", record.GoalAdded{Goal: "replace:socket"})
	v := a.until("work", "replace:socket")
	lot := ""
	for _, r := range v.Rungs {
		if r.OutSide != nil && len(r.OutSide.Lots) > 0 && r.Out == steps.Done {
			lot = r.OutSide.Lots[0].Lot
		}
	}
	require.NotEmpty(a.t, lot)
	for _, on := range []string{"", lot, "socket", "coil-socket", "zones-try", "nowhere"} {
		a.must("photo", record.Photo{SHA256: strings.Repeat("a", 64), On: on, Pins: []record.Pin{{X: 0.5, Y: 0.5, Say: "black"}}})
	}
	a.must("used", record.Used{What: "heat paste"})
	a.must("used", record.Used{What: "cable tie", Count: 2})
	a.must("old-part", record.OldPart{Part: "socket", To: "customer"})
	a.must("part.fitted", record.PartFitted{Part: "socket", Piece: "coil-socket", Number: "BF-1", Evidence: "seen", Compared: []string{"Four pins"}})
	a.must("part.fitted", record.PartFitted{Part: "socket", Piece: "coil", As: "kept", Reason: "heats elsewhere"})
	move, _, _ := strings.Cut(lot, "/")
	a.until("back", move)
	a.must("lot.counted", record.LotCounted{Lot: lot, Side: "back", Count: 0})
	a.must("rung.back", record.RungBack{Move: move})
	a.must("lot.settled", record.LotSettled{Lot: lot, As: "replaced", Count: 9})
	a.must("belonging", record.Belonging{What: "a spoon", Where: "behind the drawer"})
	a.until("sign-off", "")
	a.as("ilse", "tab-2")
	a.must("withdrawn", record.Withdrawn{Event: a.Events()[3].ID})
	a.must("withdrawn", record.Withdrawn{Event: "01a20000-0000-7000-8000-000000000099"})
}

// A job that is mended without a tool, and what the next visit hears of it.
func nothingOpened(a *aloud) {
	a.must("option.answered", record.OptionAnswered{Option: "fuel", Value: "electric"})
	surveyed(a.t, a.Player)
	a.must("note", record.Note{Text: "The flap outside was shut by paint."})
	a.must("decided", record.Decided{Choice: "repair", Figures: map[string]any{"mended": []string{"air-blocked"}}})
	a.until("sign-off", "")
	a.must("signed-off", record.SignedOff{Customer: "cook", NotTested: []string{"with a full load"}})
}

// The only way is barred: no go, and the ladder says so.
func noWay(a *aloud) {
	a.must("goal.added", record.GoalAdded{Goal: "replace:loom"})
	viewer := scene.Viewer{Person: a.By, Device: a.Device}
	a.write(map[string]any{"decide": plain(a.Book.Decide(viewer, a.Clock, nil))})
	way := a.View().Plan.WayIn
	a.must("rung.not-done", record.RungNotDone{Move: way[len(way)-1], Side: "out", Reason: "seized", Bars: true})
	a.write(map[string]any{"decide": plain(a.Book.Decide(viewer, a.Clock, nil)), "find": plain(a.Book.Find(viewer, a.Clock))})
	a.must("goal.dropped", record.GoalDropped{Goal: "replace:loom", Reason: "waiting"})
	a.must("visit.ended", record.VisitEnded{})
}
