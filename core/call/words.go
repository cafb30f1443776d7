package call

import (
	"slices"
	"strings"
	"unicode"
)

// How what a customer says is taken apart into words.

// tokens are the words of a text in small letters, without apostrophes; "." and
// "?" stand where a sentence or a part of one ends.
func tokens(text string) (out []string) {
	var w strings.Builder
	end := func() {
		if w.Len() > 0 {
			out = append(out, w.String())
			w.Reset()
		}
	}
	for _, r := range strings.ToLower(text) {
		switch {
		case unicode.IsLetter(r) || unicode.IsDigit(r):
			w.WriteRune(r)
		case r == '\'' || r == '’':
		case r == '?':
			end()
			out = append(out, "?")
		case strings.ContainsRune(".;:!,()\n", r):
			end()
			out = append(out, ".")
		default:
			end()
		}
	}
	end()
	return out
}

// words are the words of a text as they are compared: small letters, without
// endings, each synonym as the first of its group, a slip of the pen as the known
// word that it is nearest to. "no" and "not" bind to the word behind them, since
// "not warm" is not "warm".
func words(text string, known ...string) (out []string) {
	not := false
	for _, w := range tokens(text) {
		switch {
		case w == "." || w == "?":
			not = false
			continue
		case negations[w]:
			not = true
			continue
		case filler[w]:
			continue
		}
		w = slip(stem(w), known)
		if first, known := synonyms[w]; known {
			w = first
		}
		if w == "cold" { // not hot, in whatever words
			w, not = "heat", true
		}
		if not {
			w, not = "no "+w, false
		}
		out = append(out, w)
	}
	return out
}

// slip is the known word that a misspelt one was meant for: the same first letter,
// and one letter too many or too few, or two that changed places; in long words
// another letter, or two slips. One other letter in a short word makes another
// word mostly (small, smell). A known word stays, and one that two are equally
// near to.
func slip(w string, known []string) string {
	if len(w) < 4 || slices.Contains(known, w) {
		return w
	}
	least, nearest := 3, w
	for _, k := range known {
		if len(k) < 4 || k[0] != w[0] {
			continue
		}
		d := distance(w, k)
		near := d == 1 && (len(k) != len(w) || len(w) >= 7) || d == 2 && (len(w) >= 8 || sameLetters(w, k))
		switch {
		case near && d < least:
			least, nearest = d, k
		case near && d == least:
			nearest = w
		}
	}
	return nearest
}

// distance is how many letters must be changed, added or left out to make one word
// of another (Levenshtein).
func distance(a, b string) int {
	x, y := []rune(a), []rune(b)
	row := make([]int, len(y)+1)
	for j := range row {
		row[j] = j
	}
	for i, c := range x {
		before := row[0]
		row[0] = i + 1
		for j, d := range y {
			change := before
			if c != d {
				change++
			}
			before = row[j+1]
			row[j+1] = min(change, row[j]+1, row[j+1]+1)
		}
	}
	return row[len(y)]
}

func sameLetters(a, b string) bool {
	x, y := []rune(a), []rune(b)
	slices.Sort(x)
	slices.Sort(y)
	return slices.Equal(x, y)
}

// stem takes the common endings off an English word.
func stem(w string) string {
	for _, end := range []string{"ing", "ed", "es", "s", "e"} {
		if cut := strings.TrimSuffix(w, end); cut != w && len(cut) >= 3 {
			if n := len(cut); n > 3 && cut[n-1] == cut[n-2] {
				cut = cut[:n-1] // running, tripped
			}
			return cut
		}
	}
	return w
}

var negations = map[string]bool{
	"no": true, "not": true, "never": true, "without": true, "dont": true, "doesnt": true, "didnt": true, "wont": true, "cant": true, "isnt": true, "wasnt": true,
	"cannot": true, "couldnt": true, "wouldnt": true, "arent": true, "hasnt": true, "havent": true, "nor": true,
}

// filler are words that mean nothing by themselves.
var filler = func() map[string]bool {
	of := map[string]bool{}
	for _, w := range strings.Fields("a an the it is are was and or but of to in on at my our its this that very when with after does do did has have be by for up") {
		of[w] = true
	}
	return of
}()

// synonyms are words that customers use for each other; each group counts as its
// first (common usage, no source).
var synonyms = func() map[string]string {
	of := map[string]string{}
	for _, group := range []string{
		"turn spin tumble rotate revolve", "heat warm hot warmth", "trip fuse breaker", "dead nothing dark", "slow long ages forever",
		"smell stink reek", "squeal screech whistle scream squeak", "thump knock bang bump", "rattle clatter", "scrape grind grate rub",
		"door lid", "ring hotplate burner zone element", "damp wet moist", "loud noisy noise", "shock tingle prickle", "leak drip",
	} {
		names := strings.Fields(group)
		for _, w := range names {
			of[stem(w)] = stem(names[0])
		}
	}
	return of
}()
