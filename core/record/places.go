package record

import (
	"slices"
	"strings"
)

// vague raises a place that nobody else can find: "this side", "there".
func (g *folder) vague(f *Fact, places ...string) {
	for _, p := range places {
		if Vague(p) {
			g.raise("vague-place", f.ID, f).Other = strings.TrimSpace(p)
			return
		}
	}
}

var (
	pointing = []string{"this", "that", "here", "there", "these", "those", "it"}
	filling  = []string{"one", "side", "end", "other", "the", "on", "at", "in", "over", "same", "place", "spot", "right", "back", "where", "was", "hole", "terminal", "to", "from"}
)

// Vague tells whether a place is named only by pointing at it: nobody who was
// not there can find it.
func Vague(place string) bool {
	words := strings.FieldsFunc(strings.ToLower(place), func(r rune) bool { return r == ' ' || r == ',' || r == '.' || r == '-' })
	points := false
	for _, w := range words {
		switch {
		case slices.Contains(pointing, w) || w == "same" || w == "other":
			points = true
		case !slices.Contains(filling, w):
			return false
		}
	}
	return points
}
