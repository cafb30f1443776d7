package tray

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"evensteps/core/machine"
)

// By how much a driver is the larger, over the flats in millimetres; one inch is
// 25.4 mm exactly.
func TestHowMuchADriverIsTheLarger(t *testing.T) {
	hex := func(size string) *machine.Fastener { return &machine.Fastener{Drive: "hex", Size: size} }
	for _, c := range []struct {
		driver Driver
		on     *machine.Fastener
		fit    Fit
		over   float64
	}{
		{Driver{"hex", "1/4 in"}, hex("6.35 mm"), Exact, 0},
		{Driver{"hex", "6.5 mm"}, hex("1/4 in"), Close, 0.15},
		{Driver{"hex", "6.51 mm"}, hex("1/4 in"), Not, 0.16},
		{Driver{"nut", "6 mm"}, hex("1/4 in"), Not, -0.35},
		{Driver{"hex", "wide"}, hex("1/4 in"), Not, 0},
		{Driver{"hex", "1/4 in"}, hex(""), Not, 0},
		{Driver{"phillips", ""}, &machine.Fastener{Drive: "phillips"}, Not, 0},
		{Driver{"phillips", "1"}, &machine.Fastener{Drive: "phillips", Size: "2"}, Not, 0},
		{Driver{"phillips", "2"}, &machine.Fastener{Drive: "torx", Size: "2"}, Not, 0},
		{Driver{"phillips", "2"}, &machine.Fastener{Drive: "phillips", Size: "2"}, Exact, 0},
		{Driver{"torx", "20"}, &machine.Fastener{Drive: "torx-pin", Size: "20"}, Not, 0},
		{Driver{"torx-pin", "20"}, &machine.Fastener{Drive: "torx", Size: "20"}, Exact, 0},
	} {
		fit, over := c.driver.Over(c.on)
		assert.Equal(t, c.fit, fit, "%s on %s %s", c.driver, c.on.Drive, c.on.Size)
		assert.InDelta(t, c.over, over, 1e-9, "%s on %s %s", c.driver, c.on.Drive, c.on.Size)
	}
}

func TestTheBestDrivers(t *testing.T) {
	bolt := &machine.Fastener{Drive: "hex", Size: "10 mm"}
	loose, tight, exact, small := Driver{"hex", "10.14 mm"}, Driver{"nut", "10.05 mm"}, Driver{"hex", "10 mm"}, Driver{"hex", "9.9 mm"}
	best, fit := Best([]Driver{loose, exact, tight, small, exact}, bolt)
	assert.Equal(t, Exact, fit)
	assert.Equal(t, []Driver{exact, exact}, best)
	best, fit = Best([]Driver{loose, small, tight}, bolt)
	assert.Equal(t, Close, fit)
	assert.Equal(t, []Driver{tight, loose}, best, "the tightest first")
	best, fit = Best([]Driver{tight, loose}, bolt)
	assert.Equal(t, Close, fit)
	assert.Equal(t, []Driver{tight, loose}, best)
	best, fit = Best([]Driver{small}, bolt)
	assert.Equal(t, Not, fit)
	assert.Empty(t, best)
	best, fit = Best(nil, &machine.Fastener{Drive: "clip"})
	assert.Equal(t, Exact, fit, "a clip needs none")
	assert.Empty(t, best)
}

func TestWhatIsTakenForWhat(t *testing.T) {
	kind := func(id, drive, size string) *machine.Fastener {
		return &machine.Fastener{ID: id, Name: "K " + id, Drive: drive, Size: size}
	}
	for _, c := range []struct {
		a, b  *machine.Fastener
		alike bool
	}{
		{kind("a", "hex", "6 mm"), kind("b", "hex", "6.5 mm"), true},
		{kind("a", "hex", "6 mm"), kind("b", "hex", "6.6 mm"), false},
		{kind("a", "nut", "6 mm"), kind("b", "nut", "7 mm"), false},
		{kind("a", "nut", "6 mm"), kind("b", "nut", "6.2 mm"), true},
		{kind("a", "hex", "6 mm"), kind("b", "hex", "middling"), true}, // nobody knows
		{kind("a", "hex", "large"), kind("b", "hex", "small"), true},
		{kind("a", "hex", "7 mm"), kind("b", "hex", ""), true},
		{kind("a", "phillips", "1"), kind("b", "phillips", "2"), false},
		{kind("a", "torx", "T20"), kind("b", "torx", "t20"), true},
		{kind("a", "torx", "20"), kind("a", "torx", "20"), false}, // itself
		{kind("a", "phillips", "2"), kind("b", "hex", "2"), false},
	} {
		assert.Equal(t, c.alike, LookAlike(c.a, c.b), "%s %s, %s %s", c.a.Drive, c.a.Size, c.b.Drive, c.b.Size)
		assert.Equal(t, c.alike, LookAlike(c.b, c.a))
	}
	m := &machine.Map{Fasteners: []machine.Fastener{*kind("a", "hex", "6 mm"), *kind("b", "phillips", "2")}}
	assert.False(t, MustCount(m, machine.Lot{Kind: "a"}))
	assert.True(t, MustCount(m, machine.Lot{Kind: "a", DropsInto: "base"}), "one that drops is lost")
	assert.True(t, MustCount(m, machine.Lot{Kind: "z"}), "nobody knows what it is")
	m.Fasteners = append(m.Fasteners, *kind("c", "hex", "6.2 mm"))
	assert.True(t, MustCount(m, machine.Lot{Kind: "a"}))
}

func TestTheNameOfAKind(t *testing.T) {
	for want, f := range map[string]*machine.Fastener{
		"unknown": nil, "roller ring": {Name: "Roller ring", Drive: "spring-ring", Size: "9 mm"}, "shaft washer": {Name: "Shaft washer", Drive: "loose", Length: "2 mm"},
		"edge clip": {Name: "Edge clip", Drive: "clip"}, "side tab": {Name: "Side tab", Drive: "tab"}, "": {Drive: "clip"},
		"hex 1/4 in, 1 in long": {Name: "Toe screw", Drive: "hex", Size: "1/4 in", Length: "1 in"}, "Phillips 2": {Name: "x", Drive: "phillips", Size: "2"}, "Torx": {Name: "x", Drive: "torx"},
	} {
		assert.Equal(t, want, KindName(f))
	}
	for text, want := range map[string]float64{"1/2 in": 12.7, "1 1/2 in": 38.1, "0 mm": 0, "0.5/2 in": 6.35} {
		got, ok := Millimetres(text)
		assert.True(t, ok, text)
		assert.InDelta(t, want, got, 1e-9, text)
	}
	for _, text := range []string{"", "in", "7", "1/0 in", "1/-2 in", "-1 mm", "1/x in", "x mm", "7 cm"} {
		got, ok := Millimetres(text)
		assert.False(t, ok, text)
		assert.Zero(t, got, text)
	}
}
