// Package call makes a job of what a customer says on the telephone: which map
// their machine has, which of its complaints their words mean, and what should
// be asked before anybody sets out.
package call

import (
	"cmp"
	"path"
	"slices"
	"strings"

	"evensteps/core/machine"
	"evensteps/core/plan"
)

// Found is the map for a model number.
type Found struct {
	Map *machine.Map
	// Pattern is the pattern that covers the model; empty where none does and
	// this is only the nearest of its kind.
	Pattern string
}

// MapFor finds the map that covers a model number: of all patterns that fit,
// the most specific, which is the one with most letters that are no wildcard;
// of equals the newer revision, then the map's id. Where none fits, it is the
// map of that kind whose patterns begin most like the model; the caller must
// say so. It is false where there is none of the kind either.
func MapFor(maps []*machine.Map, model, kind string) (Found, bool) {
	model = plain(model)
	var best Found
	most := -1
	for _, m := range maps {
		for _, pattern := range m.Covers {
			fits, err := path.Match(plain(pattern), model)
			if err != nil || !fits || model == "" {
				continue
			}
			n := len(strings.Trim(plain(pattern), "*?"))
			if n > most || n == most && newer(m, best.Map) {
				best, most = Found{m, pattern}, n
			}
		}
	}
	if best.Map != nil {
		return best, true
	}
	for _, m := range maps {
		if m.Kind != kind || m.Plain() {
			continue
		}
		n := 0
		for _, pattern := range m.Covers {
			n = max(n, alike(plain(pattern), model))
		}
		if n > most || n == most && newer(m, best.Map) {
			best, most = Found{Map: m}, n
		}
	}
	if best.Map == nil {
		if m := PlainFor(maps, kind); m != nil {
			best = Found{Map: m}
		}
	}
	return best, best.Map != nil
}

// PlainFor is the map of a kind's energies alone, on which a machine without a
// map is worked; nil where there is none.
func PlainFor(maps []*machine.Map, kind string) *machine.Map {
	for _, m := range maps {
		if m.Kind == kind && m.Plain() {
			return m
		}
	}
	return nil
}

func newer(a, b *machine.Map) bool {
	if a.ID == b.ID {
		return a.Revision > b.Revision
	}
	return a.ID < b.ID
}

// plain is a model number as it is compared: capitals, without spaces.
func plain(model string) string {
	return strings.ToUpper(strings.Join(strings.Fields(model), ""))
}

// alike is how many letters two model numbers begin with alike.
func alike(a, b string) (n int) {
	for n < len(a) && n < len(b) && a[n] == b[n] {
		n++
	}
	return n
}

// Match is a complaint with how well the customer's words mean it, and the
// words that say so.
type Match struct {
	Complaint *machine.Complaint
	Score     float64
	By        []string
}

// Complaints matches what a customer says to the complaints of a map, the best
// first. A phrase of the map counts when all its words were said, in any order
// and inflection; more words count more; words of the complaint's name count
// half. Those that no word means come last, in the map's order.
func Complaints(m *machine.Map, said string) []Match {
	heard := map[string]bool{}
	for _, w := range words(said, vocabulary(m)...) {
		heard[w] = true
	}
	out := make([]Match, 0, len(m.Complaints))
	for i := range m.Complaints {
		c := &m.Complaints[i]
		match := Match{Complaint: c, By: []string{}}
		for _, phrase := range c.Words {
			parts := words(phrase)
			if len(parts) > 0 && !slices.ContainsFunc(parts, func(w string) bool { return !heard[w] }) {
				match.Score += float64(2*len(parts) - 1)
				match.By = append(match.By, phrase)
			}
		}
		name := 0
		for _, w := range words(c.Name) {
			if heard[w] {
				name++
			}
		}
		if name > 1 || len(match.By) > 0 { // one word of a name means nothing by itself
			match.Score += 0.5 * float64(name)
		}
		out = append(out, match)
	}
	slices.SortStableFunc(out, func(a, b Match) int { return cmp.Compare(b.Score, a.Score) })
	return out
}

// Heard is what a caller's words mean on a machine.
type Heard struct {
	Emergency  *Emergency `json:"emergency"`
	Complaints []Meant    `json:"complaints"` // all that were said, the best first
	Unknown    bool       `json:"unknown"`    // the words mean none that the map has
}

// Meant is one complaint that was said, with the words that say so.
type Meant struct {
	Complaint string   `json:"complaint"`
	Name      string   `json:"name"`
	Said      []string `json:"said"`
}

// Hear makes of a caller's words what they mean: an emergency before all else,
// then the complaints of the map, as it is with its options applied.
func Hear(m *machine.Map, said string) Heard {
	h := Heard{Emergency: Urgent(said, m.Kind), Complaints: []Meant{}}
	for k, c := range Complaints(m, said) {
		if c.Score > 0 && (k == 0 || len(c.By) > 0) {
			h.Complaints = append(h.Complaints, Meant{c.Complaint.ID, c.Complaint.Name, c.By})
		}
	}
	h.Unknown = len(h.Complaints) == 0 && strings.TrimSpace(said) != ""
	return h
}

// Covers tells whether a map's patterns cover a model number.
func Covers(m *machine.Map, model string) bool {
	found, ok := MapFor([]*machine.Map{m}, model, "")
	return ok && found.Pattern != ""
}

// vocabulary are the stems that a map's complaints are told by, and their synonyms.
func vocabulary(m *machine.Map) (out []string) {
	for i := range m.Complaints {
		c := &m.Complaints[i]
		for _, w := range strings.Fields(strings.ToLower(c.Name + " " + strings.Join(c.Words, " "))) {
			if w = stem(strings.Trim(w, ",.")); !slices.Contains(out, w) {
				out = append(out, w)
			}
		}
	}
	for w := range synonyms {
		if !slices.Contains(out, w) {
			out = append(out, w)
		}
	}
	return out
}

// Matters are the options of a map that should be asked before the journey: on
// which a suspect of this complaint hangs, or the way in to the part of a likely
// one. answers are those that are known; they are not asked again.
func Matters(m *machine.Map, complaint string, answers map[string]string) []machine.Option {
	asked := map[string]bool{}
	sum := 0.0
	c := m.Complaint(complaint)
	if c == nil {
		return nil
	}
	for _, w := range c.Faults {
		sum += w
	}
	for id, w := range c.Faults {
		f := m.Fault(id)
		if f == nil {
			continue
		}
		for option := range f.When {
			asked[option] = true
		}
		if w < likely*sum || f.Part == "" {
			continue
		}
		r := plan.Request{Goals: []string{"replace:" + f.Part}, Answers: answers, People: 2}
		p, err := plan.Make(m, r)
		if err != nil {
			continue
		}
		for _, q := range plan.AskFirst(m, r, p) {
			asked[q.Option] = true
		}
	}
	var out []machine.Option
	for _, o := range m.Options {
		_, known := answers[o.ID]
		// What only the opened machine tells nobody can say on the telephone.
		if asked[o.ID] && !known && len(o.Needs) == 0 && m.Agrees(o.When, answers) {
			out = append(out, o)
		}
	}
	return out
}

// likely is the share of a complaint's weights from which a fault's part counts.
const likely = 0.1
