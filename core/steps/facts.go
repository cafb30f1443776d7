package steps

import (
	"strings"

	"evensteps/core/english"
	"evensteps/core/lead"
)

// wear is what protective equipment is called; any other word says itself.
var wear = map[string]string{"gloves": "cut gloves", "eye": "eye protection", "insulated-gloves": "insulated gloves"}

// plain tells a connector that needs no card: it goes on one way, and nothing is
// asked about its leads.
func (p *Plug) plain() bool { return p.Keyed && p.Rule == lead.None && p.OneByOne == "" }

// sum says what a side takes: tools, people, connectors that need no card, the lots
// that nobody has to count, and what is asked of it.
func (s *Side) sum(back bool) {
	if s == nil {
		return
	}
	s.Facts = []Fact{}
	add := func(name, say, lot string) { s.Facts = append(s.Facts, Fact{name, say, lot}) }
	tools := append([]string{}, s.Tools...)
	for _, word := range s.PPE {
		if is := wear[word]; is != "" {
			word = is
		}
		tools = append(tools, word)
	}
	if len(tools) > 0 {
		add("Tools", strings.Join(tools, ", "), "")
	}
	if s.People > 1 {
		add("People", "two", "")
	}
	var keyed []string
	for i := range s.Plugs {
		p := &s.Plugs[i]
		if p.Card = !p.plain(); !p.Card {
			name := p.Name
			if len(keyed) > 0 {
				name = english.Lower(name)
			}
			keyed = append(keyed, name)
		}
	}
	if len(keyed) > 0 {
		add("Plugs", english.Listed(keyed...)+": keyed, no tag", "")
	}
	for i := range s.Lots {
		if l := &s.Lots[i]; !l.MustCount && l.Counted == nil {
			lot := l.Lot
			if l.Loosen {
				lot = ""
			}
			add(l.place(), l.words(back), lot)
		}
	}
	for _, l := range s.Lots {
		if l.Renew != "" {
			add("Renewed", l.Renew, "")
		}
		if l.Fit != "" {
			add("Driver", l.Driver+"; "+l.Fit, "")
		}
	}
	if s.Pass != "" && s.Value == "" {
		add("Passes", s.Pass, "")
	}
}

// place is where what holds goes, in a word.
func (l *Lot) place() string {
	switch {
	case l.Renew != "":
		return "Out"
	case l.Tray != "":
		return "Tray " + l.Tray
	case l.Loosen:
		return "Loosen"
	}
	return "Bag"
}

func (l *Lot) words(back bool) string {
	words := []string{english.Count(l.Count, l.Noun)}
	if l.Kind != l.Noun {
		words = append(words, l.Kind)
	}
	if l.Hidden {
		words = append(words, "out of sight")
	}
	if back && l.Empties && l.Tray != "" {
		words = append(words, "empty?")
	}
	return strings.Join(words, ", ")
}
