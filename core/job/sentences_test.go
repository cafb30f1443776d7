package job_test

import (
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
)

// notSaid are the parts of an answer that nobody reads: ids, records, kinds.
var notSaid = []string{
	"id", "job", "move", "item", "energy", "event", "events", "lot", "wire", "line", "test", "goal", "snag", "fault", "kind", "key", "makes", "half", "tick", "tally", "confirm", "instead",
	"grade", "on", "out", "back", "side", "rung", "region", "zone", "stage", "whose", "role", "units", "money", "level", "way", "rule", "region", "mended", "reason", "possible", "photo_on",
	"worst", "temporaries", "lots", "accepts", "body", "sha256", "verdict", "into", "at", "opened", "signed", "when", "markdown", "words", "text", "by", "value", "was", "drive", "size", "colour", "stripe", "terminal", "not_done", "arrive", "again", "decided", "say_make", "temporary", "fix", "state", "turns", "quantity", "between_points",
}

// sayings are all that an answer says, with the part in which it is said.
func sayings(name string, part any, hear func(name, text string)) {
	switch part := part.(type) {
	case string:
		hear(name, part)
	case []any:
		for _, one := range part {
			sayings(name, one, hear)
		}
	case map[string]any:
		for key, one := range part {
			if _, line := one.(string); key == "say" && line && strings.HasPrefix(one.(string), "wire.said") {
				continue
			}
			if !slices.Contains(notSaid, key) || key == "kind" && name == "trays" {
				sayings(key, one, hear)
			}
		}
	}
}

// mapText is all that a map says, longest first.
func mapText(m *machine.Map) (texts []string) {
	sayings("", plain(m), func(_, text string) { texts = append(texts, text) })
	slices.SortFunc(texts, func(a, b string) int { return len(b) - len(a) })
	return texts
}

// rules are those of a sentence that a program can hold, each with what breaks it.
var rules = map[string]*regexp.Regexp{
	"a chance of nought":              regexp.MustCompile(`(^|[^\d.])0 %( likely|\)|$)`),
	"a lone full stop":                regexp.MustCompile(`\s\.|\.\.|^\.|: \.`),
	"two spaces":                      regexp.MustCompile(`  `),
	"a number in words":               regexp.MustCompile(`(?i)\b(three|four|five|six|seven|eight|nine) (things|steps|screws)\b`),
	"about so many in so many":        regexp.MustCompile(`about \d+ in \d+`),
	"a word of the program's own":     regexp.MustCompile(`(?i)\b(rungs?|snags?|passed over|short of even|the ladder|at the knee|led on)\b`),
	"a level as the format has it":    regexp.MustCompile(`=(away|aside|shut|proven|fitted)\b`),
	"a kind of event":                 regexp.MustCompile(`\b(rung|lot|test|goal|wire|visit|part|check|final)\.[a-z]+`),
	"an outcome as the format has it": regexp.MustCompile(`\b(not-done|second-visit|look-wider|as-found)\b`),
	"nothing of something":            regexp.MustCompile(`\b0 of 0\b`),
}

// hyphened are words of English that are written with a hyphen.
var hyphened = []string{"cold-source", "call-out", "look-alikes", "two-pole", "push-on", "re-lit", "low-voltage", "hand-over", "break-even", "half-way", "one-way", "re-check", "over-range", "quarter-turn", "non-contact", "torx-pin", "re-enter"}

var hyphen = regexp.MustCompile(`\b[a-z]+(?:-[a-z]+)+\b`)

// longest is how many words a sentence of the core may have, its names counted as
// one.
const longest = 14

// Every sentence that the core says in a library of jobs keeps the rules that a
// program can hold it to, in both regions.
func TestSentences(t *testing.T) {
	people := map[string]scene.Person{"jonna": {Name: "Jonna Vale", Tickets: []string{"gas", "high-voltage"}}, "ilse": {Name: "Ilse Orm"}}
	for _, firm := range []scene.Firm{{Name: "Firm", Region: string(english.British), Units: "metric", Currency: "EUR", CallOut: 90, Tax: 25}, {Name: "Firm", Region: string(english.American), Units: "customary", Currency: "USD"}} {
		said := map[string]string{}
		for name, one := range played {
			p := onMap(t, one.machine, scene.Job{ID: "j-1", Title: "Canteen, machine 2", Complaint: one.complaint, Words: "as before", People: people, Trays: one.trays, Firm: &firm})
			a := &aloud{Player: p, t: t, was: map[string]string{}}
			theirs := mapText(p.Book.Map)
			for i, text := range theirs {
				theirs[i] = english.Region(firm.Region).In(text)
			}
			a.hear = func(part string, v any) {
				if slices.Contains(notSaid, part) {
					return
				}
				sayings(part, v, func(key, text string) {
					if said[text] == "" {
						said[text] = one.machine + ", " + name + ", " + key
						keep(t, text, said[text], theirs, english.Region(firm.Region))
					}
				})
			}
			a.must("visit.began", record.VisitBegan{})
			one.play(a)
		}
		require.Greater(t, len(said), 1000, "the jobs say much")
	}
}

// keep holds one text to the rules. theirs is what the map says: its words are its
// author's, its ids nobody's.
func keep(t *testing.T, text, where string, theirs []string, region english.Region) {
	t.Helper()
	own := text
	for _, one := range theirs {
		if len(one) > 3 && strings.Contains(strings.ToLower(own), strings.ToLower(one)) {
			own = regexp.MustCompile(`(?i)`+regexp.QuoteMeta(one)).ReplaceAllString(own, "X")
		}
	}
	for rule, breaks := range rules {
		assert.NotRegexp(t, breaks, own, "%s (%s): %s", rule, where, text)
	}
	for _, band := range regexp.MustCompile(`\b(\d+) to (\d+) min`).FindAllStringSubmatch(own, -1) {
		assert.NotEqual(t, band[1], band[2], "a band with one end (%s): %s", where, text)
	}
	for _, word := range hyphen.FindAllString(own, -1) {
		assert.Contains(t, hyphened, word, "an id or a word of the format (%s): %s", where, text)
	}
	for _, sentence := range regexp.MustCompile(`[.?!:;] |\n| · `).Split(own, -1) {
		assert.LessOrEqual(t, len(strings.Fields(sentence)), longest, "%s: %s", where, text)
	}
	if strings.Contains(own, ". ") {
		assert.Regexp(t, `[.?!:”")…]$`, own, "sentences end with a full stop (%s)", where)
	}
	assert.NotRegexp(t, `(costs|cheaper by) \d`, own, "money without its currency (%s)", where)
	if region == english.American {
		assert.Equal(t, region.In(text), text, "a word of the other region (%s)", where)
		if !regexp.MustCompile(`, (reading|sub|say)$`).MatchString(where) { // what somebody typed stays as it is
			assert.NotRegexp(t, `\d °C|mbar`, own, "a unit of the other region (%s)", where)
		}
	}
}
