package english

import (
	"regexp"
	"strings"
	"sync"
)

// Region is which of the two Englishes the trade is spoken in.
type Region string

// The regions, as BCP 47 names them.
const (
	British  Region = "en-GB"
	American Region = "en-US"
)

// Regions are all of them.
var Regions = []string{string(British), string(American)}

// words are what the two regions call differently: British, American (common
// practice, no source). A row that holds one way only stands for what a word means
// besides: a timer is not always a programme switch.
var words = []struct {
	british, american string
	oneWay            bool
}{
	{"gas cock", "gas shutoff valve", false},
	{"isolating cock", "shutoff valve", false},
	{"cock", "shutoff valve", true},
	{"cocks", "shutoff valves", true},
	{"worktop", "countertop", false},
	{"worktops", "countertops", false},
	{"cooker hood", "vent hood", false},
	{"programme switch", "timer", true},
	{"programme", "program", false},
	{"fuse box", "breaker panel", false},
	{"consumer unit", "breaker panel", true},
	{"joint box", "junction box", true},
	{"spanner", "wrench", false},
	{"spanners", "wrenches", false},
	{"torch", "flashlight", false},
	{"earth lead", "ground wire", false},
	{"earth pin", "ground pin", false},
	{"earth path", "ground path", false},
	{"earth terminal", "ground terminal", false},
	{"earth screw", "ground screw", false},
	{"earth", "ground", true},
	{"earths", "grounds", true},
	{"earthed", "grounded", false},
	{"earthing", "grounding", false},
	{"colour", "color", false},
	{"colours", "colors", false},
	{"grey", "gray", false},
	{"aluminium", "aluminum", false},
	{"litre", "liter", false},
	{"litres", "liters", false},
}

// Mixed names a word of each region that a text uses, where it uses both.
func Mixed(text string) (british, american string) {
	low := strings.ToLower(text)
	for _, w := range words {
		if w.oneWay {
			continue
		}
		if british == "" && whole(low, w.british) {
			british = w.british
		}
		if american == "" && whole(low, w.american) {
			american = w.american
		}
	}
	if british == "" || american == "" {
		return "", ""
	}
	return british, american
}

func whole(text, word string) bool {
	return regexp.MustCompile(`\b` + regexp.QuoteMeta(word) + `\b`).MatchString(text)
}

// speaker puts texts into one region's words, and remembers them: screens say the
// same again and again.
type speaker struct {
	find *regexp.Regexp
	to   map[string]string

	lock sync.Mutex
	said map[string]string
}

// mostSaid is how many texts a speaker remembers.
const mostSaid = 10_000

var speakers = map[Region]func() *speaker{
	American: sync.OnceValue(func() *speaker { return newSpeaker(true) }),
	British:  sync.OnceValue(func() *speaker { return newSpeaker(false) }),
}

func newSpeaker(american bool) *speaker {
	s := &speaker{to: map[string]string{}, said: map[string]string{}}
	var all []string
	for _, w := range words { // longer ones stand first in the table
		from, to := w.american, w.british
		if american {
			from, to = w.british, w.american
		} else if w.oneWay {
			continue
		}
		all = append(all, regexp.QuoteMeta(from))
		s.to[from] = to
	}
	s.find = regexp.MustCompile(`(?i)\b(?:` + strings.Join(all, "|") + `)\b`)
	return s
}

// In says a text in the region's words; as it is where no region is chosen.
func (r Region) In(text string) string {
	of := speakers[r]
	if of == nil || text == "" {
		return text
	}
	s := of()
	s.lock.Lock()
	defer s.lock.Unlock()
	if said, known := s.said[text]; known {
		return said
	}
	said := s.find.ReplaceAllStringFunc(text, func(word string) string {
		to := s.to[strings.ToLower(word)]
		if word != strings.ToLower(word) {
			return Upper(to)
		}
		return to
	})
	if len(s.said) >= mostSaid {
		clear(s.said)
	}
	s.said[text] = said
	return said
}
