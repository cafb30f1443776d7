// Package lead says which leads have to be tagged before a connector is parted,
// so that each finds its terminal again.
//
// Colour never places a lead alone: it fades, it is called by two names, and one
// colour recurs on several devices of one machine.
package lead

import (
	"fmt"
	"slices"
	"strings"

	"evensteps/core/machine"
)

// Rule is how a connector's leads are kept apart while it is off.
type Rule string

// The rules: nothing is needed; a photo before; a tag on each that is named.
const (
	None  Rule = "none"
	Photo Rule = "photo"
	Tag   Rule = "tag"
)

// Whole is the terminal that stands for a plug as a whole, where it is the plug
// that is tagged.
const Whole = "plug"

// Card is the rule for one connector, why, and which terminals are tagged.
type Card struct {
	Rule Rule     `json:"rule"`
	Why  string   `json:"why"`
	Tags []string `json:"tags"`
}

// For is the rule for a connector while all of apart, itself among them, are off
// at the same time. blind tells that it is parted where the hand is not seen.
func For(it *machine.Item, apart []*machine.Item, blind bool) Card {
	if o := twin(it, apart); o != nil {
		return Card{Tag, fmt.Sprintf("%s is like it and is off too: tag both connectors", o.Name), []string{Whole}}
	}
	if it.Loose {
		if c := loose(it, apart); c.Rule == Tag {
			return c
		}
	}
	switch {
	case it.Keyed:
		return Card{None, "keyed: goes on one way", []string{}}
	case len(it.Wires) < 2:
		return Card{None, "one lead", []string{}}
	case blind:
		return Card{Tag, "parted by feel: tag each lead", terminals(it.Wires)}
	}
	for i, w := range it.Wires {
		if w.Colour == "" {
			return Card{Tag, "a colour is not known: tag each lead", terminals(it.Wires)}
		}
		if slices.ContainsFunc(it.Wires[:i], func(o machine.Wire) bool { return Alike(o, w) }) {
			return Card{Tag, fmt.Sprintf("two are %s: tag each lead", Colours(w)), terminals(it.Wires)}
		}
	}
	return Card{Photo, "not keyed, all colours differ: a photo before", []string{}}
}

// twin finds a plug of the same housing with as many ways that is off as well.
// Where a map names no housing nothing is known of it.
func twin(it *machine.Item, apart []*machine.Item) *machine.Item {
	for _, o := range apart {
		if o.ID != it.ID && it.Housing != "" && o.Housing == it.Housing && len(o.Wires) == len(it.Wires) {
			return o
		}
	}
	return nil
}

// loose looks at a connector each of whose wires is a lead of its own: one whose
// colour sits on another such that is off too is tagged by its position, and so
// are those alike within it.
func loose(it *machine.Item, apart []*machine.Item) Card {
	var tags []string
	why, each := "", false
	for i, w := range it.Wires {
		for k, o := range it.Wires {
			if k != i && (w.Colour == "" || Alike(o, w)) && why == "" {
				each = true
				why = fmt.Sprintf("two are %s: tag each lead by its terminal", Colours(w))
				if w.Colour == "" {
					why = "a colour is not known: tag each lead by its terminal"
				}
			}
		}
		for _, other := range apart {
			if other.ID == it.ID || !other.Loose || w.Colour == "" {
				continue
			}
			if slices.ContainsFunc(other.Wires, func(o machine.Wire) bool { return Alike(o, w) }) {
				tags = append(tags, w.Terminal)
				if why == "" {
					why = fmt.Sprintf("%s is on %s too: tag it by its terminal", Colours(w), strings.ToLower(other.Name))
				}
				break
			}
		}
	}
	if why == "" {
		return Card{Rule: None}
	}
	if each {
		tags = terminals(it.Wires)
	}
	return Card{Tag, why, tags}
}

// Alike tells whether two leads have the same colour and stripe, as far as that
// is written.
func Alike(a, b machine.Wire) bool {
	return strings.EqualFold(a.Colour, b.Colour) && strings.EqualFold(a.Stripe, b.Stripe)
}

// Colours is how a lead's colours are said.
func Colours(w machine.Wire) string {
	switch {
	case w.Colour == "":
		return "not known"
	case w.Stripe == "":
		return w.Colour
	}
	return w.Colour + " with " + w.Stripe + " stripe"
}

func terminals(wires []machine.Wire) []string {
	out := []string{}
	for _, w := range wires {
		out = append(out, w.Terminal)
	}
	return out
}
