package tray

import (
	"fmt"
	"slices"
	"strings"

	"evensteps/core/machine"
)

// Tray is one tray with the kinds and lots that lie in it.
type Tray struct {
	Letter string   `json:"tray"`
	Kinds  []string `json:"kinds"`
	Lots   []Lot    `json:"lots"`
}

// Bag is a lot for which no tray is left that would keep it apart: it goes into
// a bag with a label.
type Bag struct {
	Lot   string `json:"lot"`
	Label string `json:"label"`
}

// Arrangement says which lot goes into which tray.
type Arrangement struct {
	Trays []Tray `json:"trays"`
	Bags  []Bag  `json:"bags"`
	// Fewest is how many trays keep all look-alikes apart; Proven that fewer do not.
	Fewest int  `json:"fewest"`
	Proven bool `json:"proven"`
	// Alike are the pairs of kinds that can be mistaken for each other.
	Alike [][2]string `json:"alike"`
}

// Enough stands for a number of trays that nobody has stated.
const Enough = -1

// Arrange gives these lots, in the order in which they come out, to so many
// trays (Enough: as many as one likes), lettered in order of first use. What
// lies in a tray already stays there. With trays enough each kind has its own,
// and a lot has one where sharing would leave the tray not empty at its rung.
// When they are short, the fewest are used that keep look-alikes apart; with
// fewer than that, as few look-alikes as can be share one, and the later of
// such a pair goes into a bag with its label.
func Arrange(m *machine.Map, lots []Lot, have int) *Arrangement {
	a := &arranging{m: m, have: have, out: &Arrangement{Trays: []Tray{}, Bags: []Bag{}, Alike: [][2]string{}}}
	for _, l := range lots {
		if !slices.Contains(a.kinds, l.Kind) {
			a.kinds = append(a.kinds, l.Kind)
		}
	}
	near := a.graph(a.kinds)
	a.out.Fewest, _, a.out.Proven = Fewest(near)
	for i := range a.kinds {
		for k := range i {
			if near[i][k] {
				a.out.Alike = append(a.out.Alike, [2]string{a.kinds[k], a.kinds[i]})
			}
		}
	}
	var rest []Lot
	for _, l := range lots {
		if l.In != "" {
			a.put(l.In, l)
		} else {
			rest = append(rest, l)
		}
	}
	a.share(rest)
	a.letter(rest)
	// A tray stands where its first lot does.
	slices.SortStableFunc(a.out.Trays, func(x, y Tray) int {
		at := func(t Tray) int {
			return slices.IndexFunc(lots, func(l Lot) bool { return l.ID == t.Lots[0].ID })
		}
		return at(x) - at(y)
	})
	return a.out
}

type arranging struct {
	m     *machine.Map
	have  int
	kinds []string
	out   *Arrangement
	place map[string]int // lot -> its new tray, numbered from 0
	bags  map[string]bool
	taken []Tray // trays in which something lies already, by their number
}

func (a *arranging) put(letter string, l Lot) {
	k := slices.IndexFunc(a.out.Trays, func(t Tray) bool { return t.Letter == letter })
	if k < 0 {
		k = len(a.out.Trays)
		a.out.Trays = append(a.out.Trays, Tray{Letter: letter})
	}
	t := &a.out.Trays[k]
	if !slices.Contains(t.Kinds, l.Kind) {
		t.Kinds = append(t.Kinds, l.Kind)
	}
	t.Lots = append(t.Lots, l)
}

// graph tells which of these kinds can be mistaken for each other.
func (a *arranging) graph(kinds []string) [][]bool {
	near := make([][]bool, len(kinds))
	for i := range kinds {
		near[i] = make([]bool, len(kinds))
		for k := range kinds {
			x, y := a.m.Fastener(kinds[i]), a.m.Fastener(kinds[k])
			near[i][k] = x != nil && y != nil && LookAlike(x, y)
		}
	}
	return near
}

// share numbers the trays for what is still to come out. Trays in which
// something lies already have the first numbers.
func (a *arranging) share(rest []Lot) {
	a.place, a.bags = map[string]int{}, map[string]bool{}
	a.taken = slices.Clone(a.out.Trays)
	var vertices []string // kinds: those that lie in trays, once for each tray, then the others
	var fixed []int
	first := map[string]int{} // kind -> the first tray that it lies in
	for n, t := range a.taken {
		for _, kind := range t.Kinds {
			vertices, fixed = append(vertices, kind), append(fixed, n)
			if _, known := first[kind]; !known {
				first[kind] = n
			}
		}
	}
	var fresh []string
	for _, l := range rest {
		if _, known := first[l.Kind]; !known && !slices.Contains(fresh, l.Kind) {
			fresh = append(fresh, l.Kind)
			vertices, fixed = append(vertices, l.Kind), append(fixed, free)
		}
	}
	next := len(a.taken)
	if a.have == Enough || a.have >= len(a.taken)+len(fresh) {
		for _, kind := range fresh {
			first[kind] = next
			next++
		}
		a.own(rest, first, next)
		return
	}
	near := a.graph(vertices)
	colours := max(a.have, len(a.taken))
	c, _ := colourWith(near, colours, fixed)
	if c == nil && colours > 0 {
		c, _, _ = leastClashes(near, colours, fixed)
	}
	if c == nil {
		for _, l := range rest {
			a.bags[l.ID] = true
		}
		return
	}
	used := 0
	for _, x := range c {
		used = max(used, x+1)
	}
	for i, kind := range vertices {
		if _, known := first[kind]; known {
			continue
		}
		first[kind] = c[i]
		shared := slices.ContainsFunc(vertices[:i], func(o string) bool { return first[o] == c[i] })
		if shared && used < colours { // a tray to spare
			first[kind] = used
			used++
		}
	}
	clashing := map[string]bool{} // kinds whose look-alike lies in their tray
	for i, kind := range vertices {
		if fixed[i] != free {
			continue
		}
		for k, other := range vertices[:i] {
			if near[i][k] && first[other] == first[kind] && !clashing[other] {
				clashing[kind] = true
			}
		}
	}
	for _, l := range rest {
		if clashing[l.Kind] {
			a.bags[l.ID] = true
		} else {
			a.place[l.ID] = first[l.Kind]
		}
	}
}

// own gives a lot a tray of its own where it would share one that does not
// become empty when it goes home: all but the first of its kind, as long as
// there are trays.
func (a *arranging) own(rest []Lot, first map[string]int, next int) {
	mine := map[string]int{} // kind and move -> tray
	lies := map[int]bool{}
	for n := range a.taken {
		lies[n] = true
	}
	for _, l := range rest {
		key := l.Kind + " " + l.Move()
		at, known := mine[key]
		if !known {
			at = first[l.Kind]
			if lies[at] && (a.have == Enough || next < a.have) {
				at = next
				next++
			}
			mine[key] = at
		}
		lies[at] = true
		a.place[l.ID] = at
	}
}

// letter gives the new trays the next letters in the order of first use, and
// writes the labels of the bags.
func (a *arranging) letter(rest []Lot) {
	letters := map[int]string{}
	inUse := map[string]bool{}
	for n, t := range a.taken {
		letters[n], inUse[t.Letter] = t.Letter, true
	}
	next := 0
	for _, l := range rest {
		if a.bags[l.ID] {
			a.out.Bags = append(a.out.Bags, Bag{l.ID, a.label(l)})
			continue
		}
		n := a.place[l.ID]
		if letters[n] == "" {
			for inUse[letter(next)] {
				next++
			}
			letters[n], inUse[letter(next)] = letter(next), true
		}
		a.put(letters[n], l)
	}
}

// label is what is written on a bag: what it holds and where that goes home.
func (a *arranging) label(l Lot) string {
	kind := a.m.Fastener(l.Kind)
	noun := Noun(kind)
	if l.Count != 1 {
		noun += "s"
	}
	say := fmt.Sprintf("%d %s, %s", l.Count, noun, KindName(kind))
	if mv := a.m.Move(l.Move()); mv != nil {
		say += ". Home: " + mv.Name()
	}
	return strings.TrimSpace(say)
}

func letter(k int) string {
	if k < 26 {
		return string(rune('A' + k))
	}
	return letter(k/26-1) + letter(k%26)
}
