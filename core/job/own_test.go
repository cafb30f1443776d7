package job_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/job"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// A screw that the map does not know: the button says its tray, and the record has
// the same tray; then it has its way back like any other.
func TestAStepOfOnesOwn(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "front-off")
	me := scene.Viewer{Person: p.By, Device: p.Device}
	in := job.OwnStepIn{ID: "own-1", Sort: "screw", Title: " Hidden screw ", Before: "front-off", Driver: "phillips 2", Count: 2}
	own, err := p.Book.Own(me, p.Clock, in)
	require.NoError(t, err)
	require.Len(t, own.Tried.Trays, 1)
	assert.Equal(t, "It is out: "+own.Tried.Trays[0].Say, own.Now.Label)
	assert.Equal(t, []string{"rung.own", "lot.counted", "rung.out"}, kindsOf(own.Now.Makes))
	assert.Equal(t, []string{"rung.own"}, kindsOf(own.Later.Makes), "the front needs it out: no goal of its own")
	var body record.RungOwn
	require.NoError(t, json.Unmarshal(own.Now.Makes[0].Body, &body))
	assert.Equal(t, []record.OwnLot{{Drive: "phillips", Size: "2", Count: 2}}, body.Lots)
	assert.Equal(t, "Hidden screw", body.Title)
	assert.Equal(t, "front", body.Face)
	var counted record.LotCounted
	require.NoError(t, json.Unmarshal(own.Now.Makes[1].Body, &counted))
	assert.Equal(t, own.Tried.Trays[0].Tray, counted.Tray)

	for _, m := range own.Now.Makes {
		require.NoError(t, p.Record(m.Kind, m.Body))
	}
	r := rung(t, p.View(), "own-1")
	assert.EqualValues(t, "done", r.Out)
	assert.EqualValues(t, "due", r.Back)
}

func TestEachSortOfOnesOwn(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "top-off")
	me := scene.Viewer{Person: p.By, Device: p.Device}
	for _, c := range []struct {
		in   job.OwnStepIn
		want record.RungOwn
	}{
		{job.OwnStepIn{Sort: "clip", Count: 3}, record.RungOwn{Title: "Clip that the map does not know", Type: "part", Lots: []record.OwnLot{{Drive: "clip", Count: 3}}}},
		{job.OwnStepIn{Sort: "cover", Count: 1, Driver: "torx T20", Face: "rear"}, record.RungOwn{Title: "Cover that the map does not know", Face: "rear", Type: "cover", Lots: []record.OwnLot{{Drive: "torx", Size: "T20", Count: 1}}}},
		{job.OwnStepIn{Sort: "belt", Count: 4, Leads: "red"}, record.RungOwn{Title: "Belt that the map does not know", Type: "belt"}},
		{job.OwnStepIn{Sort: "plug", Leads: " red, ,blue ", Keyed: true, Earth: true}, record.RungOwn{Title: "Plug that the map does not know", Type: "connector", Keyed: true, Earth: true, Wires: []record.OwnWire{{Terminal: "1", Colour: "red"}, {Terminal: "3", Colour: "blue"}}}},
		{job.OwnStepIn{Sort: "other", Count: 0, Keyed: true}, record.RungOwn{Title: "Other that the map does not know", Type: "part"}},
	} {
		c.in.ID = "own-2"
		own, err := p.Book.Own(me, p.Clock, c.in)
		require.NoError(t, err, c.in.Sort)
		var got record.RungOwn
		require.NoError(t, json.Unmarshal(own.Later.Makes[0].Body, &got))
		assert.Equal(t, 1.0, got.Minutes.Out)
		got.ID, got.Minutes = "", c.want.Minutes
		if c.want.Face == "" {
			c.want.Face = "front"
		}
		assert.Equal(t, c.want, got, c.in.Sort)
		assert.Equal(t, []string{"rung.own", "goal.added"}, kindsOf(own.Later.Makes), "nothing else needs it out")
	}
}

// Leads that look alike are tagged before the plug is out; a photo goes with either.
func TestLeadsOfOnesOwnPlugComeFirst(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "top-off")
	me := scene.Viewer{Person: p.By, Device: p.Device}
	photo := "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad" // of "abc", FIPS 180-2
	own, err := p.Book.Own(me, p.Clock, job.OwnStepIn{ID: "own-3", Sort: "plug", Leads: "red, blue, blue", Photo: photo})
	require.NoError(t, err)
	assert.NotEmpty(t, own.Tried.Leads)
	assert.Contains(t, own.Now.Label, "First its leads: ")
	assert.Equal(t, []string{"rung.own", "goal.added", "photo"}, kindsOf(own.Now.Makes))
}

func TestWhatCannotBeAStepOfOnesOwn(t *testing.T) {
	p := begin(t)
	for says, in := range map[string]job.OwnStepIn{
		`nothing is held by "glue"`: {ID: "own-1", Sort: "glue"},
		"own rung is called own-1":  {ID: "top-off", Sort: "screw", Count: 1},
		"face":                      {ID: "own-1", Sort: "screw", Count: 1, Face: "inner"},
	} {
		_, err := p.Book.Own(scene.Viewer{Person: p.By, Device: p.Device}, p.Clock, in)
		assert.ErrorContains(t, err, says)
	}
}

func kindsOf(makes []view.Make) (kinds []string) {
	for _, m := range makes {
		kinds = append(kinds, m.Kind)
	}
	return kinds
}
