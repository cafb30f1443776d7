// Package english holds the few rules by which the program makes sentences: how a
// name stands within one, how things are counted and listed. Whatever says
// something says it with these.
package english

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"unicode"
)

// Lower begins a name with a small letter, unless it is an abbreviation.
func Lower(s string) string {
	r := []rune(s)
	if len(r) == 0 || len(r) > 1 && unicode.IsUpper(r[1]) {
		return s
	}
	r[0] = unicode.ToLower(r[0])
	return string(r)
}

// Upper begins a sentence with a capital.
func Upper(s string) string {
	r := []rune(s)
	if len(r) == 0 {
		return s
	}
	r[0] = unicode.ToUpper(r[0])
	return string(r)
}

// Spaced is a word of a format as people write it: "look-wider" is "look wider".
func Spaced(word string) string { return strings.ReplaceAll(word, "-", " ") }

// Plural is a noun as it stands after a number.
func Plural(n int, noun string) string {
	if n == 1 {
		return noun
	}
	return noun + "s"
}

// Count is a number of things: "1 screw", "3 screws".
func Count(n int, noun string) string { return fmt.Sprintf("%d %s", n, Plural(n, noun)) }

// And lists words in a sentence: "red, blue and green".
func And(words []string) string {
	if len(words) < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:len(words)-1], ", ") + " and " + words[len(words)-1]
}

// Listed puts what there is of these after a comma each.
func Listed(words ...string) string {
	return strings.Join(slices.DeleteFunc(words, func(s string) bool { return s == "" }), ", ")
}

// Sentences puts sentences one after the other and leaves out what is empty.
func Sentences(says ...string) string {
	return strings.Join(slices.DeleteFunc(says, func(s string) bool { return s == "" }), " ")
}

// Minutes is a band of time: one number where both ends are the same.
func Minutes(p50, p80 float64) string {
	low, high := math.Round(p50), math.Round(p80)
	if high <= low {
		return fmt.Sprintf("%.0f min", max(high, 1))
	}
	return fmt.Sprintf("%.0f to %.0f min", max(low, 1), high)
}

// Chance is a probability in per cent; at its ends in words, so that nothing is said
// to be sure or out of the question by rounding.
func Chance(p float64) string {
	switch {
	case p > 0.97:
		return "almost certain"
	case p < 0.02:
		return "very unlikely"
	}
	return fmt.Sprintf("%.0f %%", 100*p)
}

// Tally counts by kind: 39 screws, 1 nut, 2 washers. The first kind added stands
// first.
type Tally struct {
	nouns  []string
	counts map[string]int
}

// Add adds so many of a kind.
func (t *Tally) Add(n int, noun string) {
	if t.counts == nil {
		t.counts = map[string]int{}
	}
	if n > 0 && t.counts[noun] == 0 {
		t.nouns = append(t.nouns, noun)
	}
	t.counts[noun] += n
}

// String lists the kinds that there are any of; empty for none.
func (t *Tally) String() string {
	var words []string
	for _, noun := range t.nouns {
		words = append(words, Count(t.counts[noun], noun))
	}
	return strings.Join(words, ", ")
}
