package tray

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"evensteps/core/machine"
)

func TestMillimetres(t *testing.T) {
	// Inch sizes in millimetres: 25.4 mm to the inch, exactly (international inch, 1959).
	for text, want := range map[string]float64{"1/4 in": 6.35, "5/16 in": 7.9375, "1 1/2 in": 38.1, "7 mm": 7, "0.5 in": 12.7} {
		got, ok := Millimetres(text)
		assert.True(t, ok, text)
		assert.InDelta(t, want, got, 1e-9, text)
	}
	for _, text := range []string{"", "2", "T20", "1/0 in", "-1 mm", "3 ft"} {
		_, ok := Millimetres(text)
		assert.False(t, ok, text)
	}
}

func TestLookAlikes(t *testing.T) {
	short := machine.Fastener{ID: "short", Name: "Screw", Drive: "hex", Size: "1/4 in", Head: "hex-washer", Finish: "zinc", Length: "1/2 in"}
	with := func(change func(*machine.Fastener)) *machine.Fastener {
		f := short
		f.ID = "other"
		change(&f)
		return &f
	}
	assert.False(t, LookAlike(&short, &short), "one kind is not like itself")
	assert.True(t, LookAlike(&short, with(func(f *machine.Fastener) { f.Length = "1 in" })), "two lengths")
	assert.True(t, LookAlike(&short, with(func(f *machine.Fastener) { f.Size = "6.5 mm" })), "within 0.5 mm")
	assert.False(t, LookAlike(&short, with(func(f *machine.Fastener) { f.Size = "7 mm" })), "7 mm is not 1/4 in")
	assert.False(t, LookAlike(&short, with(func(f *machine.Fastener) { f.Finish = "black" })), "told by eye")
	assert.True(t, LookAlike(&short, with(func(f *machine.Fastener) { f.Finish = "" })), "not known")
	ph := machine.Fastener{ID: "ph", Drive: "phillips", Size: "2", Head: "pan", Finish: "zinc"}
	pz := machine.Fastener{ID: "pz", Drive: "pozidriv", Size: "2", Head: "pan", Finish: "zinc"}
	assert.True(t, LookAlike(&ph, &pz), "one driver goes into both")
	assert.False(t, LookAlike(&short, &ph))
	ring := machine.Fastener{ID: "r1", Name: "Ring", Drive: "spring-ring"}
	cap := machine.Fastener{ID: "r2", Name: "Cap", Drive: "spring-ring"}
	assert.False(t, LookAlike(&ring, &cap), "by name")
}

func TestLookAlikesNeverShareATray(t *testing.T) {
	m := &machine.Map{
		Fasteners: []machine.Fastener{{ID: "short", Drive: "hex", Size: "1/4 in"}, {ID: "long", Drive: "hex", Size: "1/4 in"}, {ID: "ph", Drive: "phillips", Size: "2"}},
		Moves: []machine.Move{
			{ID: "top", Title: "top", Fasteners: []machine.Lot{{Kind: "short", Count: 2}}},
			{ID: "front", Title: "front", Fasteners: []machine.Lot{{Kind: "long", Count: 4}, {Kind: "ph", Count: 2}}},
			{ID: "toe", Fasteners: []machine.Lot{{Kind: "short", Count: 2}, {Kind: "ph", Count: 1, Loosen: true}}},
		},
	}
	lots := func(moves ...string) (all []Lot) {
		for _, id := range moves {
			all = append(all, LotsOf(m.Move(id))...)
		}
		return all
	}
	in := func(a *Arrangement) map[string]string {
		out := map[string]string{}
		for _, t := range a.Trays {
			for _, l := range t.Lots {
				out[l.ID] = t.Letter
			}
		}
		return out
	}
	all := lots("top", "front", "toe")
	enough := Arrange(m, all, Enough)
	assert.Equal(t, map[string]string{"top/1": "A", "front/1": "B", "front/2": "C", "toe/1": "D"}, in(enough), "each lot its own, so that a tray is empty at its rung")
	assert.Equal(t, 2, enough.Fewest)
	assert.True(t, enough.Proven)
	assert.Equal(t, [][2]string{{"short", "long"}}, enough.Alike)
	assert.Equal(t, map[string]string{"top/1": "A", "front/1": "B", "front/2": "C", "toe/1": "A"}, in(Arrange(m, all, 3)), "one for each kind")
	assert.Equal(t, map[string]string{"top/1": "A", "front/1": "B", "front/2": "A", "toe/1": "A"}, in(Arrange(m, all, 2)), "look-alikes apart")
	one := Arrange(m, all, 1)
	assert.Equal(t, map[string]string{"top/1": "A", "front/2": "A", "toe/1": "A"}, in(one), "what can be told by eye shares")
	assert.Equal(t, []Bag{{"front/1", "4 screws, hex 1/4 in. Home: front"}}, one.Bags)
	none := Arrange(m, all, 0)
	assert.Empty(t, none.Trays)
	assert.Len(t, none.Bags, 4)

	all[1].In, all[0].In = "B", "A" // what lies in a tray stays there
	stays := in(Arrange(m, all, 2))
	assert.Equal(t, "A", stays["top/1"])
	assert.Equal(t, "B", stays["front/1"])
	assert.Equal(t, "A", stays["toe/1"])
	assert.True(t, MustCount(m, machine.Lot{Kind: "short"}))
	assert.False(t, MustCount(m, machine.Lot{Kind: "ph"}))
	assert.True(t, MustCount(m, machine.Lot{Kind: "ph", DropsInto: "duct"}))
	assert.Equal(t, []string{"A", "Z", "AA", "AB"}, []string{letter(0), letter(25), letter(26), letter(27)})
}
