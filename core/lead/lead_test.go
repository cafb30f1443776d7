package lead

import (
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"

	"evensteps/core/machine"
)

func plug(id string, loose bool, colours ...string) *machine.Item {
	it := &machine.Item{ID: id, Name: "Plug " + id, Type: "connector", Loose: loose}
	for i, c := range colours {
		it.Wires = append(it.Wires, machine.Wire{Terminal: strconv.Itoa(i + 1), Colour: c})
	}
	return it
}

// What is written down before leads are parted, by the habits of the trade:
// common practice, no source.
func TestTheTagRule(t *testing.T) {
	keyed := plug("k", false, "red", "red")
	keyed.Keyed = true
	white := func(id string, colours ...string) *machine.Item {
		it := plug(id, false, colours...)
		it.Keyed, it.Housing = true, "two-way white"
		return it
	}
	for name, c := range map[string]struct {
		it    *machine.Item
		with  []*machine.Item
		blind bool
		rule  Rule
		tags  []string
	}{
		"keyed":                       {it: keyed, rule: None, tags: []string{}},
		"one lead":                    {it: plug("a", false, "red"), rule: None, tags: []string{}},
		"all colours differ":          {it: plug("a", false, "red", "blue"), rule: Photo, tags: []string{}},
		"two alike":                   {it: plug("a", false, "red", "blue", "RED"), rule: Tag, tags: []string{"1", "2", "3"}},
		"a colour not known":          {it: plug("a", false, "red", ""), rule: Tag, tags: []string{"1", "2"}},
		"by feel":                     {it: plug("a", false, "red", "blue"), blind: true, rule: Tag, tags: []string{"1", "2"}},
		"ten of one colour":           {it: plug("a", false, "red", "red", "red", "red", "red", "red", "red", "red", "red", "red"), rule: Tag, tags: []string{"1", "2", "3", "4", "5", "6", "7", "8", "9", "10"}},
		"the same housing":            {it: white("a", "red", "blue"), with: []*machine.Item{white("b", "grey", "pink")}, rule: Tag, tags: []string{Whole}},
		"the same housing, more ways": {it: white("a", "red", "blue"), with: []*machine.Item{white("b", "grey", "pink", "white")}, rule: None, tags: []string{}},
		"loose, elsewhere too":        {it: plug("a", true, "red", "blue"), with: []*machine.Item{plug("b", true, "red", "white")}, rule: Tag, tags: []string{"1"}},
		"loose, two alike":            {it: plug("a", true, "red", "red", "blue"), rule: Tag, tags: []string{"1", "2", "3"}},
		"loose, one lead, elsewhere":  {it: plug("a", true, "red"), with: []*machine.Item{plug("b", true, "red")}, rule: Tag, tags: []string{"1"}},
		"loose, nothing alike":        {it: plug("a", true, "red", "blue"), with: []*machine.Item{plug("b", true, "grey")}, rule: Photo, tags: []string{}},
		"not loose, elsewhere too":    {it: plug("a", false, "red", "blue"), with: []*machine.Item{plug("b", true, "red")}, rule: Photo, tags: []string{}},
	} {
		got := For(c.it, append(c.with, c.it), c.blind)
		assert.Equal(t, c.rule, got.Rule, name)
		assert.Equal(t, c.tags, got.Tags, name)
		assert.NotEmpty(t, got.Why, name)
	}
}

func TestAStripeTellsTwoLeadsApart(t *testing.T) {
	it := &machine.Item{ID: "a", Name: "A", Wires: []machine.Wire{{Terminal: "1", Colour: "brown"}, {Terminal: "2", Colour: "brown", Stripe: "white"}}}
	assert.Equal(t, Photo, For(it, []*machine.Item{it}, false).Rule)
	assert.Equal(t, "brown with white stripe", Colours(it.Wires[1]))
}

// Why leads are tagged: what is said on the card.
func TestWhyLeadsAreTagged(t *testing.T) {
	why := func(it *machine.Item, with ...*machine.Item) string { return For(it, append(with, it), false).Why }
	assert.Equal(t, "two are red: tag each lead by its terminal", why(plug("a", true, "red", "red")))
	assert.Equal(t, "a colour is not known: tag each lead by its terminal", why(plug("a", true, "", "red")))
	assert.Equal(t, "red is on plug b too: tag it by its terminal", why(plug("a", true, "red", "blue"), plug("b", true, "red")))
	assert.Equal(t, "two are red: tag each lead by its terminal", why(plug("a", true, "red", "red"), plug("b", true, "red")), "the nearer reason")
	both := For(plug("a", true, "red", "blue"), []*machine.Item{plug("b", true, "red"), plug("c", true, "red")}, false)
	assert.Equal(t, []string{"1"}, both.Tags, "tagged once, however many are like it")
	assert.Equal(t, "red is on plug b too: tag it by its terminal", both.Why)
	two := For(plug("a", true, "red", "blue"), []*machine.Item{plug("b", true, "red", "blue")}, false)
	assert.Equal(t, []string{"1", "2"}, two.Tags)
	assert.Equal(t, "red is on plug b too: tag it by its terminal", two.Why)
	assert.Equal(t, "not known", Colours(machine.Wire{Stripe: "white"}))
	three := For(plug("a", true, "red", "blue", "blue"), []*machine.Item{}, false)
	assert.Equal(t, "two are blue: tag each lead by its terminal", three.Why, "the first is alone, the others are alike")
	assert.Equal(t, Tag, For(plug("a", true, "red", "blue", ""), nil, false).Rule)
}
