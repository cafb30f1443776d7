package record

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/machine"
)

// many repeats one part of a list.
func many(n int, one string) string {
	return "[" + strings.TrimSuffix(strings.Repeat(one+",", n), ",") + "]"
}

// Each door is open at its limit and shut just past it.
func TestLimitsOfABody(t *testing.T) {
	own := func(more string) string { return `{"id":"own-1","title":"x","face":"front",` + more + `}` }
	proof := func(n int) string {
		return `{"way":"meter","readings":` + many(n, `{"between":["L","N"],"value":"0 V"}`) + `}`
	}
	long, text := strings.Repeat("x", MostID), strings.Repeat("x", MostText)
	var needs, proofs []string
	for k := range mostReadings + 1 {
		proofs = append(proofs, fmt.Sprintf(`"e%d":{"way":"meter"}`, k))
	}
	for k := range mostWires + 1 {
		needs = append(needs, fmt.Sprintf(`"i%d":"away"`, k))
	}
	object := func(list []string, n int) string { return "{" + strings.Join(list[:n], ",") + "}" }
	for _, c := range []struct{ kind, open, shut string }{
		{"rung.out", `{"move":"` + long + `"}`, `{"move":"` + long + `x"}`},
		{"rung.out", `{"move":"m","proof":` + proof(mostReadings) + `}`, `{"move":"m","proof":` + proof(mostReadings+1) + `}`},
		{"rung.out", `{"move":"m","proof":{"way":"meter"}}`, `{"move":"m","proof":{"way":"meter","readings":[{"between":["L"],"value":"0 V"}]}}`},
		{"rung.out", `{"move":"m","proof":{"way":"meter","again":` + many(mostReadings, `{"between":["L","N"],"value":"0 V"}`) + `}}`, `{"move":"m","proof":{"way":"meter","again":` + many(mostReadings+1, `{"between":["L","N"],"value":"0 V"}`) + `}}`},
		{"rung.out", `{"move":"m","proof":{"way":"meter","source":"` + text + `"}}`, `{"move":"m","proof":{"way":"meter","source":"` + text + `x"}}`},
		{"rung.out", `{"move":"m","proof":{"way":"meter","readings":[{"between":["L","N"],"value":"` + text + `"}]}}`, `{"move":"m","proof":{"way":"meter","readings":[{"between":["L","N"],"value":"` + text + `x"}]}}`},
		{"check.result", `{"check":"c","passed":true,"proofs":` + object(proofs, mostReadings) + `}`, `{"check":"c","passed":true,"proofs":` + object(proofs, mostReadings+1) + `}`},
		{"check.result", `{"check":"c","passed":true,"proofs":{"mains":{"way":"meter"}}}`, `{"check":"c","passed":true,"proofs":{"mains":{"way":"nose"}}}`},
		{"check.result", `{"check":"c","passed":true,"proofs":{}}`, `{"check":"c","passed":true,"proofs":{"mains":null}}`},
		{"check.result", `{"check":"c","passed":true,"value":"` + text + `"}`, `{"check":"c","passed":true,"value":"` + text + `x"}`},
		{"final.result", `{"final":"c","passed":true,"value":"` + text + `"}`, `{"final":"c","passed":true,"value":"` + text + `x"}`},
		{"lot.counted", `{"lot":"a/1","side":"out","count":1000}`, `{"lot":"a/1","side":"out","count":1001}`},
		{"rung.own", own(`"lots":` + many(mostLots, `{"drive":"hex","count":1}`)), own(`"lots":` + many(mostLots+1, `{"drive":"hex","count":1}`))},
		{"rung.own", own(`"wires":` + many(mostWires, `{"terminal":"1"}`)), own(`"wires":` + many(mostWires+1, `{"terminal":"1"}`))},
		{"rung.own", own(`"wires":[{"terminal":"1","colour":"` + text + `"}]`), own(`"wires":[{"terminal":"1","colour":"` + text + `x"}]`)},
		{"rung.own", own(`"before":` + many(mostWires, `"m"`)), own(`"before":` + many(mostWires+1, `"m"`))},
		{"rung.own", own(`"needs":` + object(needs, mostWires)), own(`"needs":` + object(needs, mostWires+1))},
		{"rung.own", own(`"type":"part"`), own(`"type":"soup"`)},
		{"rung.own", own(`"minutes":{"out":600,"back":600}`), own(`"minutes":{"out":1,"back":601}`)},
		{"rung.own", own(`"minutes":{"out":0,"back":0}`), own(`"minutes":{"out":601,"back":1}`)},
		{"rung.own", own(`"minutes":{"out":1,"back":0}`), own(`"minutes":{"out":1,"back":-1}`)},
		{"reading.taken", `{"test":"` + strings.Repeat("t", 2*MostID) + `","value":"1","supply":"` + long + `"}`, `{"test":"` + strings.Repeat("t", 2*MostID+1) + `","value":"1"}`},
		{"reading.taken", `{"test":"t","value":"1","ambient":"` + long + `"}`, `{"test":"t","value":"1","ambient":"` + long + `x"}`},
		{"photo", `{"sha256":"` + strings.Repeat("0", 64) + `","pins":` + many(mostPins, `{"x":1,"y":0}`) + `}`, `{"sha256":"` + strings.Repeat("0", 64) + `","pins":` + many(mostPins+1, `{"x":1,"y":0}`) + `}`},
		{"photo", `{"sha256":"` + strings.Repeat("0", 64) + `","pins":[{"x":0,"y":1,"say":"` + text + `"}]}`, `{"sha256":"` + strings.Repeat("0", 64) + `","pins":[{"x":0,"y":1,"say":"` + text + `x"}]}`},
		{"photo", `{"sha256":"` + strings.Repeat("a", 64) + `","pins":[{"x":1,"y":1}]}`, `{"sha256":"` + strings.Repeat("a", 64) + `","pins":[{"x":0,"y":1.01}]}`},
		{"difference", `{"on":"a","is":"4","drive":"hex"}`, `{"on":"a","is":"4","drive":"glue"}`},
		{"difference", `{"on":"a","is":"4"}`, `{"on":"a","is":" "}`},
		{"bench.has", `{"trays":60}`, `{"trays":61}`},
		{"bench.has", `{"trays":0}`, `{"trays":-1}`},
		{"bench.has", `{"drivers":` + many(mostWires, `"a"`) + `}`, `{"drivers":` + many(mostWires+1, `"a"`) + `}`},
		{"left-over", `{"count":1}`, `{"count":0}`},
		{"left-over", `{"count":1,"drive":"hex"}`, `{"count":1,"drive":"glue"}`},
		{"inspected", `{"snag":"` + strings.Repeat("s", 4*MostID) + `","finding":"f"}`, `{"snag":"` + strings.Repeat("s", 4*MostID+1) + `","finding":"f"}`},
		{"note", `{"text":"` + text + `"}`, `{"text":"` + text + `x"}`},
		{"test.result", `{"test":"t","outcome":"` + long + `"}`, `{"test":"t","outcome":"` + long + `x"}`},
		{"temporary.in", `{"temporary":"` + long + `"}`, `{"temporary":"` + long + `x"}`},
		{"wire.said", `{"wire":"a/1","colour":"red","tag":1000}`, `{"wire":"a/1","colour":"red","tag":1001}`},
	} {
		_, err := Read(event(c.kind, c.open))
		require.NoError(t, err, "%s %s", c.kind, c.open)
		_, err = Read(event(c.kind, c.shut))
		var refused *Refused
		assert.ErrorAs(t, err, &refused, "%s %s", c.kind, c.shut)
	}
}

// So are the doors of what stands around a body.
func TestLimitsOfAnEvent(t *testing.T) {
	for name, c := range map[string]struct {
		open, shut func(*Event)
		says       string
	}{
		"since": {func(e *Event) { e.Since = 1e10 }, func(e *Event) { e.Since = 1.1e10 }, "since"},
		"wall, early": {func(e *Event) { e.Wall = time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC) }, func(e *Event) {
			e.Wall = time.Date(1999, 12, 31, 23, 59, 59, 0, time.UTC)
		}, "clock"},
		"wall, late": {func(e *Event) { e.Wall = time.Date(2200, 12, 31, 0, 0, 0, 0, time.UTC) }, func(e *Event) {
			e.Wall = time.Date(2201, 1, 1, 0, 0, 0, 0, time.UTC)
		}, "clock"},
		"job":    {func(e *Event) { e.Job = strings.Repeat("j", MostID) }, func(e *Event) { e.Job = strings.Repeat("j", MostID+1) }, "job"},
		"by":     {func(e *Event) { e.By = strings.Repeat("j", MostID) }, func(e *Event) { e.By = strings.Repeat("j", MostID+1) }, "person"},
		"device": {func(e *Event) { e.Device = strings.Repeat("j", MostID) }, func(e *Event) { e.Device = strings.Repeat("j", MostID+1) }, "device"},
		"run":    {func(e *Event) { e.Run = strings.Repeat("j", MostID) }, func(e *Event) { e.Run = strings.Repeat("j", MostID+1) }, "run"},
		"kind": {func(e *Event) { e.Kind, e.Body = strings.Repeat("k", MostID), json.RawMessage(`{}`) }, func(e *Event) {
			e.Kind, e.Body = strings.Repeat("k", MostID+1), json.RawMessage(`{}`)
		}, "kind"},
		"n":         {func(e *Event) { e.N = 1 }, func(e *Event) { e.N = -1 }, "from 1"},
		"n, large":  {func(e *Event) { e.N = 1<<31 - 1 }, func(e *Event) { e.N = 1 << 31 }, "from 1"},
		"seen":      {func(e *Event) { e.Seen = 0 }, func(e *Event) { e.Seen = -1 }, "seen"},
		"seen more": {func(e *Event) { e.Seen = 1<<31 - 1 }, func(e *Event) { e.Seen = 1 << 31 }, "seen"},
		"NUL":       {func(e *Event) { e.Device = "tab é" }, func(e *Event) { e.Device = "tab\x00" }, "cannot be kept"},
		"bytes":     {func(e *Event) { e.Run = "" }, func(e *Event) { e.Run = "r\xff" }, "cannot be kept"},
		"lost":      {func(e *Event) { e.Kind = "rung.out" }, func(e *Event) { e.Kind = "rung\ufffd" }, "cannot be kept"},
		"no body":   {func(e *Event) { e.Kind, e.Body = "paused", nil }, func(e *Event) { e.Kind, e.Body = "", nil }, "no kind"},
	} {
		e := event("rung.out", `{"move":"top-off"}`)
		c.open(&e)
		_, err := Read(e)
		require.NoError(t, err, name)
		c.shut(&e)
		_, err = Read(e)
		assert.ErrorContains(t, err, c.says, name)
	}
}

// What a body may not hold, whatever its kind: each as somebody pasted it, or as
// a program that fails wrote it.
func TestABodyThatCannotBeKept(t *testing.T) {
	for body, says := range map[string]string{
		`{"text":"a\u0000b"}`:                               "NUL",
		`{"text":"half \ud83d"}`:                            "half a letter",
		`{"text":"half \ud83dx"}`:                           "half a letter",
		`{"text":"half \ud83d\u0041"}`:                      "half a letter",
		`{"text":"the other \ude00"}`:                       "half a letter",
		"{\"text\":\"\xff\"}":                               "no letters",
		`{"text":"x","on":1e200000}`:                        "which nothing here counts",
		`{"text":"x","on":1e-300}`:                          "which nothing here counts",
		`{"text":"x","on":-1e16400}`:                        "which nothing here counts",
		`{"text":"x","on":1e99999999999}`:                   "which nothing here counts",
		`{"text":"x","on":` + strings.Repeat("9", 31) + `}`: "which nothing here counts",
		strings.Repeat("[", 21) + strings.Repeat("]", 21):   "nested",
		`{"text":"x"`:                                       "no JSON",
		`{"text":"` + strings.Repeat(" ", 17<<10) + `"}`:    "as it is kept",
		strings.Repeat(" ", 70<<10) + `{}`:                  "are taken at most",
		"[" + strings.Repeat("1,", 6000) + "1]":             "as it is kept", // 12 kB as sent, 24 kB as jsonb writes it
	} {
		for _, kind := range []string{"note", "later.kind"} {
			_, err := Read(event(kind, body))
			var refused *Refused
			require.ErrorAs(t, err, &refused, "%.60s", body)
			assert.ErrorContains(t, err, says, "%.60s", body)
		}
	}
	for _, body := range []string{
		`{"text":"\ud83d\ude00 and \u00e9 \\u0000 \"\\"}`, `{"text":"😀 é"}`, "{\"text\":\n\t\"x\"}", `{"text":"x` + strings.Repeat("\\n", MostText-1) + `"}`,
		`{"text":"` + strings.Repeat("é", MostText) + `"}`,
	} {
		_, err := Read(event("note", body))
		assert.NoError(t, err, "%.60s", body)
	}
	for _, number := range []string{"0", "-0.5", "1e3", "1E+29", "1e-29", "123456789.25", strings.Repeat("9", 30)} {
		_, err := Read(event("later.kind", `{"x":`+number+`,"y":[true,null,false]}`))
		assert.NoError(t, err, number)
	}
}

// What is kept is read for ever: no limit of the door holds for it, and one that
// says what this version does not know has a problem, and is no error.
func TestWhatIsKeptIsReadForEver(t *testing.T) {
	pins := `{"sha256":"` + strings.Repeat("a", 64) + `","pins":` + many(2*mostPins, `{"x": 0.5, "y": 0.5, "wire": "timer/C", "say": "`+strings.Repeat("x", 300)+`"}`) + `}`
	require.Greater(t, len(pins), MostBody)
	for kind, body := range map[string]string{
		"photo": pins, "note": `{"text":"` + strings.Repeat("x", 3*MostText) + `"}`, "rung.out": `{"move":"` + strings.Repeat("m", 2*MostID) + `"}`,
		"lot.counted": `{"lot":"` + strings.Repeat("m", 2*MostID) + `","side":"out","count":5000}`, "bench.has": `{"drivers":` + many(mostWires+1, `"a"`) + `}`,
	} {
		_, err := Read(event(kind, body))
		require.Error(t, err, kind)
		f := ReadKept(event(kind, body))
		assert.NotNil(t, f.Of, kind)
		assert.Empty(t, f.Problem, kind)
	}
	for body, says := range map[string]string{
		`{"move":"top-off","felt":"loose"}`: "unknown field", `{"move":7}`: "cannot be number", `{"move":""}`: "move is missing", `[`: "cannot be read",
		`{"move":"` + strings.Repeat("m", 2*MostID) + `","proof":{"way":"nose"}}`: "proof.way",
	} {
		f := ReadKept(event("rung.out", body))
		assert.Nil(t, f.Of, body)
		assert.Contains(t, f.Problem, says, body)
	}
	e := event("rung.out", `{"move":"top-off"}`)
	e.N, e.Device, e.Since, e.Wall = 0, strings.Repeat("d", 200), -1, time.Time{}
	assert.NotNil(t, ReadKept(e).Of, "what stands around it is not asked again")
	assert.Nil(t, ReadKept(event("later.kind", `{"x":1}`)).Of)
	assert.Empty(t, ReadKept(event("later.kind", `{"x":1}`)).Problem, "newer, and no problem")
}

// A batch of one event always fits, however its letters are written.
func TestABatchOfOneFits(t *testing.T) {
	assert.Less(t, 4*MostBody+8*MostID, MostBatchBytes)
}

// A fact that we recorded and that comes back with its stamp is one fact, with
// the stamp, the number and the receipt that it came back with.
func TestAFactThatComesBackStamped(t *testing.T) {
	at, received := nine, nine.Add(time.Minute)
	own := Fact{Event: event("note", `{"text":"x"}`)}
	back := own
	back.Num, back.T, back.Received = 7, &at, &received
	for _, list := range [][]Fact{{own, back}, {back, own}} {
		out := Order(list)
		require.Len(t, out, 1)
		assert.Equal(t, 7, out[0].Num)
		assert.Equal(t, &at, out[0].T)
		assert.Equal(t, &received, out[0].Received)
	}
}

// A stamp holds no more than the microseconds that the store keeps, or what a
// device folds and what the server folds would differ.
func TestAStampIsOfWholeMicroseconds(t *testing.T) {
	e := event("note", `{}`)
	sent := Sent{Run: "r", Wall: nine, Received: nine.Add(time.Hour + 1999*time.Nanosecond)}
	assert.Equal(t, nine.Add(time.Hour+time.Microsecond), Stamp(&e, sent, time.Time{}))
	late := nine.Add(2*time.Hour + 1999*time.Nanosecond)
	assert.Equal(t, nine.Add(2*time.Hour+2*time.Microsecond), Stamp(&e, sent, late))
}

// An own rung stands in the machine as any move: what it takes off, with which
// screws and leads, what it needs, and what needs it.
func TestAnOwnRungInTheMachine(t *testing.T) {
	m := &machine.Map{
		Energies: []machine.Energy{{ID: "mains", Kind: "mains"}, {ID: "charge", Kind: "charge"}, {ID: "spring", Kind: "charge"}},
		Items:    []machine.Item{{ID: "lid"}, {ID: "fan"}},
		Moves: []machine.Move{
			{ID: "lid-off", Takes: map[string]machine.Level{"lid": machine.Away}},
			{ID: "fan-off", Title: "Take the fan out", Takes: map[string]machine.Level{"fan": machine.Away}, Needs: machine.Needs{"lid": machine.Away}},
		},
	}
	own := []*RungOwn{
		{
			ID: "own-1", Title: "Brace", Face: "inside", Keyed: true, LiveOK: []string{"spring"}, Minutes: machine.Minutes{Out: 1, Back: 2},
			Needs: machine.Needs{"lid": machine.Away, "mains": machine.Proven}, Before: []string{"fan-off"},
			Lots: []OwnLot{{Drive: "hex", Size: "1/4 in", Length: "1 in", Count: 2}, {Drive: "torx", Size: "20", Count: 1}},
		},
		{ID: "own-2", Title: "Plug", Face: "front", Type: "cover", Wires: []OwnWire{{Terminal: "1", Colour: "red"}}},
		{ID: "own-3", Title: "Trim", Face: "front", Type: "cover", Needs: machine.Needs{"lid": "sideways", "roof": machine.Away, "fan": machine.Proven}},
	}
	out, strange := withOwn(m, own)
	mv, item := out.Move("own-1"), out.Item("own-1")
	require.NotNil(t, mv)
	assert.Equal(t, machine.Needs{"lid": machine.Away, "mains": machine.Proven, "charge": machine.Proven}, mv.Needs, "inside, a charge is proven gone; but for what it may be live at")
	assert.Equal(t, map[string]machine.Level{"own-1": machine.Away}, mv.Takes)
	assert.Equal(t, []machine.Lot{{Kind: "own-1/1", Count: 2}, {Kind: "own-1/2", Count: 1}}, mv.Fasteners)
	assert.Equal(t, []machine.Fastener{
		{ID: "own-1/1", Name: "hex 1/4 in", Drive: "hex", Size: "1/4 in", Length: "1 in"}, {ID: "own-1/2", Name: "torx 20", Drive: "torx", Size: "20"},
	}, out.Fasteners)
	assert.Equal(t, machine.Item{ID: "own-1", Name: "Brace", Type: "part", Face: "inside", Keyed: true}, *item)
	assert.Equal(t, machine.Needs{"lid": machine.Away, "own-1": machine.Away}, out.Move("fan-off").Needs)
	assert.Empty(t, out.Move("own-2").Needs, "in front no charge is met")
	assert.Equal(t, "connector", out.Item("own-2").Type, "what has leads is a connector")
	assert.Equal(t, []machine.Wire{{Terminal: "1", Colour: "red"}}, out.Item("own-2").Wires)
	assert.Equal(t, "cover", out.Item("own-3").Type)
	assert.Empty(t, out.Move("own-3").Needs, "what names nothing here, or no level of it, is left out")
	assert.NotEmpty(t, strange["own-3"])
	assert.NotContains(t, strange, "own-1")
	assert.Equal(t, machine.Needs{"lid": machine.Away}, m.Move("fan-off").Needs, "the library's map stays as it is")
	assert.Len(t, m.Moves, 2)
}

// An own rung that can be out only after what it is to be out before has no
// place: that order is left out, and it is said.
func TestAnOwnRungThatLeadsToItself(t *testing.T) {
	m := &machine.Map{
		Items: []machine.Item{{ID: "lid"}, {ID: "fan"}, {ID: "belt"}},
		Moves: []machine.Move{
			{ID: "lid-off", Title: "Lid", Takes: map[string]machine.Level{"lid": machine.Away}},
			{ID: "lid-up", Title: "Lid up", Takes: map[string]machine.Level{"lid": machine.Aside}},
			{ID: "fan-off", Title: "Fan", Takes: map[string]machine.Level{"fan": machine.Away}, Needs: machine.Needs{"lid": machine.Away}},
			{ID: "belt-a", Title: "Belt", Takes: map[string]machine.Level{"belt": machine.Away}, Needs: machine.Needs{"fan": machine.Away}},
			{ID: "belt-b", Title: "Belt from below", Takes: map[string]machine.Level{"belt": machine.Away}},
		},
	}
	for _, c := range []struct {
		needs  machine.Needs
		before string
		wrong  bool
	}{
		{machine.Needs{"fan": machine.Away}, "lid-off", true},   // the fan needs the lid away
		{machine.Needs{"fan": machine.Away}, "lid-up", false},   // which that does not do
		{machine.Needs{"lid": machine.Aside}, "lid-off", false}, // aside by the other move
		{machine.Needs{"belt": machine.Away}, "lid-off", false}, // from below
		{machine.Needs{"belt": machine.Away}, "belt-a", false},
		{machine.Needs{"lid": machine.Away}, "lid-off", true},
		{machine.Needs{"lid": machine.Away}, "own-1", true}, // before itself
		{machine.Needs{"lid": machine.Away}, "hatch", true}, // before what is not there
	} {
		_, strange := withOwn(m, []*RungOwn{{ID: "own-1", Title: "x", Face: "front", Needs: c.needs, Before: []string{c.before}}})
		assert.Equal(t, c.wrong, len(strange) == 1, "%v before %s: %v", c.needs, c.before, strange)
	}
}

// Whatever comes to the door is refused or kept; what is kept is read again as
// the same.
func FuzzRead(f *testing.F) {
	for _, seed := range [][2]string{
		{"rung.out", `{"move":"a","proof":{"way":"meter","readings":[{"between":["L","N"],"value":"0 V"}]}}`},
		{"note", `{"text":"half \ud83d"}`},
		{"later.kind", `{"x":[1e30,-0.5]}`},
		{"photo", `{"sha256":"","pins":[{"x":0.5,"y":1e-300}]}`},
		{"check.result", `{"check":"c","passed":true,"proofs":{"mains":null}}`},
		{"rung.own", `{"id":"own-1","title":"x","face":"front","needs":{"a":"away"}}`},
	} {
		f.Add(seed[0], []byte(seed[1]))
	}
	f.Fuzz(func(t *testing.T, kind string, body []byte) {
		fact, err := Read(event(kind, string(body)))
		if err != nil {
			return
		}
		kept := ReadKept(fact.Event)
		require.Equal(t, fact.Of, kept.Of)
		require.Empty(t, kept.Problem)
	})
}
