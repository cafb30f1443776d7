package mapfile_test

import (
	"errors"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/machine/mapfile"
)

const example = "../testdata/example-map.yaml"

func TestTheExampleIsSound(t *testing.T) {
	m, err := mapfile.ReadFile(example)
	require.NoError(t, err)
	assert.Len(t, m.Moves, 15)
	assert.Equal(t, "gas", m.Move("gas-shut").When["fuel"][0])
	assert.True(t, m.Move("dead").OneWay)
	assert.Equal(t, 3.0, m.Check("leak-test").Minutes)
}

// Each spoiling of the example gives a clear message at its own place.
func TestFaultsSayWhereAndWhat(t *testing.T) {
	data, err := os.ReadFile(example)
	require.NoError(t, err)
	for _, c := range []struct{ from, to, says string }{
		{"format: evensteps/map/1", "format: evensteps/map/9", `m.yaml:2:1: format: "evensteps/map/9" is not a format`},
		{"id: example-small-dryer", "id: Example Dryer", "is not an id"},
		{"kind: dryer", "kind: drier", `"drier" is not a kind of machine; write one of: dryer`},
		{"revision: 1", "revision: 0", "counts from 1"},
		{"revision: 1", "revision: one", "m.yaml:8:11: expected a whole number here, found a text"},
		{"one_way: true, when", "oneway: true, when", `unknown key "oneway"`},
		{`title: "Slip the belt off from below, by feel"`, "title: Slip the belt off from below, by feel", "put the text with its comma in quotes"},
		{"usual: electric", "usual: oil", `usual is "oil", which is not among the values`},
		{"kind: mains, name", "kind: main, name", "is not a kind of energy"},
		{"drive: phillips", "drive: philips", "is not a drive"},
		{"{id: toe, name", "{id: top, name", `the id "top" is already taken by an item`},
		{"name: Drum belt, type: belt", "name: Drum belt, type: strap", "is not a type of item"},
		{"name: Drum belt, type: belt, face: inside", "name: Drum belt, type: belt, face: within", "is not a face"},
		{"takes: {mains: shut}, live_ok", "takes: {mains: away}, live_ok", `mains is an energy, and "away" is no level of it`},
		{"takes: {top: away}", "takes: {top: up}", `"up" is not a level`},
		{"takes: {top: away}", "takes: {top: fitted}", "where it already is"},
		{"needs: {drum: away}, face: inside, tools: [screwdriver 3 mm]", "needs: {drumm: away}, face: inside, tools: [screwdriver 3 mm]", `m.yaml:43:90: moves[12].needs.drumm: there is no item or energy "drumm"`},
		{"when: {fuel: gas}, face: rear, minutes: {out: 1, back: 1}", "when: {fuel: coal}, face: rear, minutes: {out: 1, back: 1}", `option fuel has no value "coal"`},
		{"{kind: hex-long, count: 2}", "{kind: hex-lung, count: 2}", `there is no fastener "hex-lung"`},
		{"{kind: hex-long, count: 2}", "{kind: hex-long, count: 0}", "1 to 200 fasteners, not 0"},
		{"people: 2", "people: 3", "1 or 2 people, not 3"},
		{"minutes: {out: 4, back: 6}", "minutes: {out: -4, back: 6}", "minutes run from 0 to 600"},
		{"minutes: {out: 4, back: 6}", "minutes: {out: quick, back: 6}", "expected a number here, found a text"},
		{"ticket: gas, face: inside, tools: [screwdriver PH2]", "ticket: plumber, face: inside, tools: [screwdriver PH2]", "is not a ticket"},
		{"takes: {mains: proven}, needs: {mains: shut}, live_ok: [mains, gas], one_way: true", "takes: {mains: proven}, needs: {mains: shut}, live_ok: [mains, gas]", "write one_way: true"},
		{"needs: {console: aside, toe: away}", "needs: {console: aside, toe: away, drum: away}", "front-off can never be made"},
		{"needs: {console: aside, toe: away}", "needs: {console: away, toe: away}", "no move takes console to away"},
		{"for: [valve-out]", "for: [valve-gone]", `there is no move "valve-gone"`},
		{"before: [front-off]", "before: [dead]", "dead is one-way"},
		{"pass: No bubbles for one minute", "minutes: 3", "already defined"},
		{"id: rollers, item: roller-l", "id: rollers, item: roller", `there is no item "roller"`},
		{"set_of: 2", "set_of: 4", "a set of 4, but item and also name 2"},
		{"do: [Measure.]}", "do: [Measure.], back: {after: [dead]}}", "a one-way move has no refit"},
		{"do: [Slide it back.]}", "do: [Slide it back.], back: {after: [toe-off]}}\n  - {id: odd, title: Odd, takes: {belt: away}, face: front, minutes: {out: 1, back: 1}, back: {after: [odd2]}}\n  - {id: odd2, title: Odd, takes: {belt: away}, face: front, minutes: {out: 1, back: 1}, back: {after: [odd]}}", "odd can never come back"},
		{"options:", "options: [", "m.yaml:"},
	} {
		text := string(data)
		require.Contains(t, text, c.from)
		_, err := mapfile.Read("m.yaml", []byte(strings.Replace(text, c.from, c.to, 1)))
		var faults mapfile.Faults
		if assert.True(t, errors.As(err, &faults), "%s", c.to) {
			assert.Contains(t, err.Error(), c.says, "%s", c.to)
			assert.Regexp(t, `^m\.yaml:\d+:\d+: `, err.Error())
		}
	}
}

func TestOddFiles(t *testing.T) {
	for name, data := range map[string]string{
		"empty": "", "only a comment": "# nothing\n", "a list": "- a\n- b\n", "two documents": "a: 1\n---\nb: 2\n", "a word": "dryer",
		"too large": strings.Repeat("# filler\n", mapfile.MostBytes/9+1),
	} {
		_, err := mapfile.Read("m.yaml", []byte(data))
		assert.ErrorContains(t, err, "m.yaml:", name)
	}
	_, err := mapfile.ReadFile("no-such-map.yaml")
	assert.ErrorIs(t, err, os.ErrNotExist)
}

// The small map that the docs work through is sound.
func TestTheMapOfTheDocsIsSound(t *testing.T) {
	text, err := os.ReadFile("../../../docs/map-format.md")
	require.NoError(t, err)
	_, rest, found := strings.Cut(string(text), "```yaml\n")
	require.True(t, found)
	yaml, _, found := strings.Cut(rest, "```")
	require.True(t, found)
	m, err := mapfile.Read("docs/map-format.md", []byte(yaml))
	require.NoError(t, err)
	assert.Len(t, m.Moves, 5)
}

// Nesting that no map has is refused before a parser pays for it.
func TestAFileNestedTooDeep(t *testing.T) {
	var steps strings.Builder
	for i := range 200 {
		steps.WriteString(strings.Repeat(" ", i) + "a:\n")
	}
	for name, text := range map[string]string{
		"dashes": strings.Repeat("- ", 60_000), "questions": strings.Repeat("? ", 60_000), "lists": strings.Repeat("[", 40_000), "objects": strings.Repeat("{a: ", 10_000),
		"mixed": "moves:\n  - x: " + strings.Repeat("[{a: ", 5_000), "steps": steps.String(), "lists over lines": strings.Repeat("[\n", 10_000),
	} {
		_, err := mapfile.Read("deep.yaml", []byte(text))
		assert.ErrorContains(t, err, "nested deeper", name)
		assert.ErrorContains(t, err, "deep.yaml:", name)
	}
	for _, text := range []string{"title: \"a [ in a text\"\n", strings.Repeat("a: [1]\n", 3), "# " + strings.Repeat("- ", 100)} {
		_, err := mapfile.Read("flat.yaml", []byte(text))
		require.Error(t, err)
		assert.NotContains(t, err.Error(), "nested deeper")
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte("format: evensteps/1\nid: x\nmoves:\n  - {id: a, title: A, takes: {b: away}}\n"))
	f.Add([]byte(strings.Repeat("- ", 200)))
	f.Add([]byte("a: &a [x, x]\nb: &b [*a, *a]\nc: [*b, *b]\n"))
	f.Add([]byte("{}"))
	f.Fuzz(func(t *testing.T, data []byte) {
		hangs := time.AfterFunc(5*time.Second, func() { panic("it hangs") })
		defer hangs.Stop()
		m, err := mapfile.Read("fuzz.yaml", data)
		if err == nil {
			_, err = mapfile.Write(m)
			require.NoError(t, err)
		}
	})
}
