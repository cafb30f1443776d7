package main

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/job"
	"evensteps/core/machine/mapfile"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/steps"
	"evensteps/demo"
)

const (
	example = "../../core/machine/testdata/example-map.yaml"
	dryer   = "../../library/dryer/tidemoor-tv6.yaml"
)

// call runs the program and returns its exit code and what it printed.
func call(t *testing.T, args ...string) (code int, out, complaint string) {
	t.Helper()
	read := func(to **os.File) func() string {
		old := *to
		r, w, err := os.Pipe()
		require.NoError(t, err)
		*to = w
		text := make(chan string)
		go func() {
			var b bytes.Buffer
			_, _ = b.ReadFrom(r)
			text <- b.String()
		}()
		return func() string {
			*to = old
			require.NoError(t, w.Close())
			return <-text
		}
	}
	stdout, stderr := read(&os.Stdout), read(&os.Stderr)
	code = run(args)
	return code, stdout(), stderr()
}

func TestCheck(t *testing.T) {
	code, out, _ := call(t, "check", example, dryer)
	assert.Equal(t, 0, code)
	assert.Contains(t, out, "sound: 10 items, 15 moves")
	broken := filepath.Join(t.TempDir(), "broken.yaml")
	data, err := os.ReadFile(example)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(broken, []byte(strings.ReplaceAll(string(data), "drum: away", "drom: away")), 0o600))
	code, out, complaint := call(t, "check", broken)
	assert.Equal(t, 1, code)
	assert.Contains(t, out, `broken.yaml:41:`)
	assert.Contains(t, out, `there is no item or energy "drom"`)
	assert.Equal(t, 1, strings.Count(complaint, "\n"), "one line says what to do")
	code, _, _ = call(t, "check", "no-such.yaml")
	assert.Equal(t, 2, code)
}

func TestPlan(t *testing.T) {
	code, out, _ := call(t, "plan", example, "--goal", "replace:rollers", "--people", "2", "--json")
	require.Equal(t, 0, code)
	var p struct {
		WayIn   []string `json:"way_in"`
		WayBack []struct{ Undo, Check string }
		Minutes struct{ Total float64 }
		Proven  bool
		Ask     []struct {
			Option, If string
			Adds       []string
			Minutes    float64
		} `json:"ask_first"`
	}
	require.NoError(t, json.Unmarshal([]byte(out), &p))
	assert.Equal(t, 42.15, p.Minutes.Total)
	assert.Len(t, p.WayIn, 10)
	assert.True(t, p.Proven)
	require.Len(t, p.Ask, 1)
	assert.Equal(t, "gas", p.Ask[0].If)
	assert.Equal(t, []string{"gas-shut", "gas-prove"}, p.Ask[0].Adds)
	assert.Equal(t, 3.0, p.Ask[0].Minutes)

	code, out, _ = call(t, "plan", example, "--goal", "replace:rollers", "--people", "2", "--made", "dead,top-off")
	assert.Equal(t, 0, code)
	assert.Contains(t, out, "total 38.50 min (shown to be the least)")

	code, out, complaint := call(t, "plan", example, "--goal", "replace:valve", "--json")
	assert.Equal(t, 1, code, "the valve exists only on gas machines")
	assert.Contains(t, out, `"code": "unknown-goal"`)
	assert.Equal(t, 1, strings.Count(complaint, "\n"))
	for _, wrong := range [][]string{
		{"plan", example, "--option", "fuel=coal"},
		{"plan", example, "--found", "x"},
		{"plan", example, "--made", "jump"},
		{"plan", example, "--people", "3"},
		{"plan"},
		{"dance"},
		{"plan", example, "--colour", "red"},
	} {
		code, _, complaint := call(t, wrong...)
		assert.Equal(t, 2, code, wrong)
		assert.Contains(t, complaint, "evensteps: ", wrong)
	}
}

func TestRead(t *testing.T) {
	code, out, _ := call(t, "read", dryer, "--test", "element-ohms", "--value", "21.4 ohm", "--leads", "0.2ohm", "--accuracy", "0.9%+3@0.1ohm", "--json")
	require.Equal(t, 0, code)
	var v struct {
		Verdict, Unit, Why string
		Value, Low, High   float64
		Interval           [2]float64
	}
	require.NoError(t, json.Unmarshal([]byte(out), &v))
	assert.Equal(t, "pass", v.Verdict)
	assert.Equal(t, "ohm", v.Unit)
	assert.Equal(t, []float64{21.2, 19.47, 22.85, 20.71, 21.69}, []float64{v.Value, v.Low, v.High, v.Interval[0], v.Interval[1]})
	code, out, _ = call(t, "read", dryer, "--test", "element-ohms", "--value", "OL", "--json")
	assert.Equal(t, 0, code)
	assert.Contains(t, out, `"value": null`, "JSON knows no infinity")
	assert.Contains(t, out, `"verdict": "open"`)
	for _, wrong := range [][]string{
		{"--test", "sail", "--value", "1"},
		{"--test", "drum-by-hand", "--value", "1"},
		{"--test", "element-ohms", "--value", "11 V"},
		{"--test", "element-ohms", "--value", "."},
		{"--test", "element-ohms", "--value", "1", "--accuracy", "good"},
		{"--test", "element-ohms", "--value", "1", "--leads", "x"},
	} {
		code, _, complaint := call(t, append([]string{"read", dryer}, wrong...)...)
		assert.Equal(t, 2, code, wrong)
		assert.Equal(t, 1, strings.Count(complaint, "\n"), wrong)
	}
}

func TestFind(t *testing.T) {
	code, out, _ := call(t, "find", dryer, "--complaint", "no-heat", "--json")
	require.Equal(t, 0, code)
	var a struct {
		Suspects []struct {
			Fault string
			P     float64
		}
		Next []struct {
			Test, Why     string
			Fix, Access   []string
			Gain, Minutes float64
		}
		Contradiction bool
	}
	require.NoError(t, json.Unmarshal([]byte(out), &a))
	assert.Equal(t, "element-open", a.Suspects[0].Fault)
	assert.Equal(t, "element-ohms", a.Next[0].Test)
	assert.Equal(t, "isolator-off", a.Next[0].Access[0])
	assert.Greater(t, a.Next[0].Gain, 10.0)
	code, out, _ = call(t, "find", dryer, "--complaint", "no-heat", "--result", "element-ohms=open", "--made", "isolator-off,cover-off,prove-dead,vent-off,rear-cover-off,heater-leads-apart")
	assert.Equal(t, 0, code)
	assert.Contains(t, out, "fix element-open")
	for _, wrong := range [][]string{
		{"--complaint", "sings"},
		{"--complaint", "no-heat", "--result", "x=y"},
		{"--complaint", "no-heat", "--result", "element-ohms=fine"},
		{"--complaint", "no-heat", "--result", "circuit:heat-line/block/moon=open"},
		{"--complaint", "no-heat", "--result", "circuit:heat-line/block/cutoff=fine"},
		{"--complaint", "no-heat", "--tried", "sail"},
		{"--complaint", "no-heat", "--rate", "-1"},
	} {
		code, _, complaint := call(t, append([]string{"find", dryer}, wrong...)...)
		assert.Equal(t, 2, code, wrong)
		assert.Equal(t, 1, strings.Count(complaint, "\n"), wrong)
	}
}

func TestTrial(t *testing.T) {
	const oven = "../../library/oven/lanvik-bo2.yaml"
	code, out, _ := call(t, "trial", oven, "--jobs", "120")
	require.Equal(t, 0, code)
	assert.Contains(t, out, "likeliest part")
	assert.Contains(t, out, "of the better simple")
	code, again, _ := call(t, "trial", oven, "--jobs", "120")
	assert.Equal(t, 0, code)
	assert.Equal(t, out, again, "the same seed plays the same jobs")
	assert.Contains(t, out, "optimum", "the door that drops has one suspect and the unknown")
	assert.Contains(t, out, "program, worked out")
	code, _, _ = call(t, "trial", dryer, "--jobs", "0")
	assert.Equal(t, 2, code)
}

func TestFold(t *testing.T) {
	m, err := mapfile.ReadFile(dryer)
	require.NoError(t, err)
	p := demo.NewPlayer(m, scene.Job{ID: "j-1"}, "jonna", "tab-1", time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC), 3)
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:rollers"}))
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Move == "front-off" && v.Current.Kind == "back" }))
	var lines bytes.Buffer
	for _, e := range p.Events() {
		e.Num, e.T = 0, nil
		require.NoError(t, json.NewEncoder(&lines).Encode(e))
	}
	path := filepath.Join(t.TempDir(), "events.jsonl")
	require.NoError(t, os.WriteFile(path, lines.Bytes(), 0o600))
	code, out, _ := call(t, "fold", dryer, "--events", path, "--json")
	require.Equal(t, 0, code)
	var v job.View
	require.NoError(t, json.Unmarshal([]byte(out), &v))
	assert.Equal(t, steps.Current{On: scene.On{Kind: "back", Move: "front-off", Side: "back"}}, v.Current)
	assert.Equal(t, []string{"cover-off", "front-off"}, v.Possible, "what waits for nothing else may come back too")
	assert.False(t, v.Even)
	code, out, _ = call(t, "fold", dryer, "--events", path)
	assert.Equal(t, 0, code)
	assert.Contains(t, out, "> done    Front")

	require.NoError(t, os.WriteFile(path, []byte(strings.Replace(lines.String(), `"count":1`, `"count":-1`, 1)), 0o600))
	code, _, complaint := call(t, "fold", dryer, "--events", path)
	assert.Equal(t, 1, code)
	assert.Contains(t, complaint, "a count runs from 0 to 1000, not -1")
	code, _, _ = call(t, "fold", dryer)
	assert.Equal(t, 2, code)
}

func TestTrays(t *testing.T) {
	code, out, _ := call(t, "trays", dryer, "--made", "isolator-off,cover-off,top-off,toe-off,sensor-apart,front-off", "--trays", "3", "--driver", "hex 7 mm", "--driver", "phillips 2", "--json")
	require.Equal(t, 0, code)
	var got kept
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.Equal(t, 2, got.Fewest, "the two lengths of the hex screw alone are alike")
	assert.True(t, got.Proven)
	assert.Len(t, got.Trays, 3)
	assert.Empty(t, got.Bags)
	rules := map[string]string{}
	for _, c := range got.Tags {
		rules[c.Item] = string(c.Rule)
	}
	assert.Equal(t, map[string]string{"sensor-plug": "tag", "door-plug": "none", "lamp-plug": "none"}, rules)
	fits := map[string]string{}
	for _, d := range got.Drivers {
		fits[d.Kind] = d.Fit
	}
	assert.Equal(t, "not", fits["hex-short"], "7 mm does not go on 1/4 in")
	assert.Equal(t, "exact", fits["ph-pan"])

	code, out, _ = call(t, "trays", dryer, "--made", "isolator-off,cover-off,top-off,toe-off", "--trays", "0")
	assert.Equal(t, 0, code)
	assert.Contains(t, out, "Home: Toe panel")
	for _, wrong := range [][]string{{"trays", dryer}, {"trays", dryer, "--made", "nowhere"}, {"trays", dryer, "--made", "top-off", "--trays", "-3"}, {"trays", dryer, "--made", "top-off", "--driver", "hammer"}} {
		code, _, complaint := call(t, wrong...)
		assert.Equal(t, 2, code, wrong)
		assert.NotEmpty(t, complaint)
	}
}

func TestPicture(t *testing.T) {
	code, out, _ := call(t, "picture", dryer, "--move", "front-off")
	require.Equal(t, 0, code)
	assert.True(t, strings.HasPrefix(out, "<svg "))
	assert.Contains(t, out, "Front panel")
	code, _, _ = call(t, "picture", dryer, "--face", "front")
	assert.Equal(t, 0, code)
	for _, wrong := range [][]string{{"picture", dryer}, {"picture", dryer, "--face", "belly"}, {"picture", dryer, "--move", "nowhere"}} {
		code, _, _ := call(t, wrong...)
		assert.Equal(t, 2, code, wrong)
	}
}

func TestProve(t *testing.T) {
	code, out, _ := call(t, "prove", dryer, "--move", "prove-dead")
	assert.Equal(t, 0, code)
	assert.Contains(t, out, "Set the meter to AC volts")
	assert.Contains(t, out, "still open: Meter")
	whole := []string{"prove", dryer, "--move", "prove-dead", "--meter", "CAT III 600 V", "--set", "meter=4", "--set", "before=230", "--set", "L-N=0.3", "--set", "L-PE=0", "--set", "N-PE=0"}
	code, out, complaint := call(t, append(whole, "--set", "after=231")...)
	assert.Equal(t, 0, code, complaint)
	assert.Contains(t, out, "proven: Highest reading 0.3 V")
	code, _, complaint = call(t, append(whole, "--set", "after=115")...)
	assert.Equal(t, 1, code)
	assert.Contains(t, complaint, "more than 10 % apart")
	code, out, _ = call(t, "prove", dryer, "--move", "gas-prove", "--way", "detector", "--json")
	assert.Equal(t, 0, code)
	assert.Contains(t, out, `"joint-air"`)
	for _, wrong := range [][]string{{"--move", "front-off"}, {"--move", "gas-prove", "--way", "burn-off"}, {"--move", "prove-dead", "--set", "x"}, {"--move", "prove-dead", "--meter", "good"}} {
		code, _, complaint = call(t, append([]string{"prove", dryer}, wrong...)...)
		assert.Equal(t, 2, code, wrong)
		assert.NotEmpty(t, complaint)
	}
	code, out, _ = call(t, "prove", dryer, "--move", "gas-prove", "--way", "burn-off", "--flame")
	assert.Equal(t, 0, code)
	assert.Contains(t, out, "[died|burns]")
}

func TestHeard(t *testing.T) {
	code, out, _ := call(t, "heard", dryer, "--words", "It squeals when it turns. And there is a smell of GAS!")
	assert.Equal(t, 0, code)
	assert.True(t, strings.HasPrefix(out, "EMERGENCY: Gas smell"), out)
	assert.Contains(t, out, "Touch no switch")
	assert.Contains(t, out, "squeals  Squeals when it turns")
	code, out, _ = call(t, "heard", dryer, "--words", "it sings at night, like a bird", "--json")
	assert.Equal(t, 0, code)
	assert.JSONEq(t, `{"emergency": null, "complaints": [], "unknown": true}`, out)
	code, _, _ = call(t, "heard", dryer)
	assert.Equal(t, 2, code)
}

// What was found and what was tried stand in the order in which they are given.
func TestFindInOrder(t *testing.T) {
	offered := func(args ...string) bool {
		code, out, complaint := call(t, append([]string{"find", dryer, "--complaint", "rattles", "--json"}, args...)...)
		require.Equal(t, 0, code, complaint)
		return strings.Contains(out, `"test": "listen"`)
	}
	assert.True(t, offered("--result", "listen=rattle", "--tried", "blower-debris"), "it spoke for what was fitted: made again")
	assert.False(t, offered("--tried", "blower-debris", "--result", "listen=rattle"))
	assert.False(t, offered("--result", "listen=rattle", "--tried", "other"))
	code, _, complaint := call(t, "find", dryer, "--complaint", "rattles", "--tried", "nothing-such")
	assert.Equal(t, 2, code)
	assert.Contains(t, complaint, "no such fault")
}
