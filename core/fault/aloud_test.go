package fault

import (
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/library"
)

// The first three advices for each complaint of each map stand in docs/maps as
// the screen says them, each after the likeliest result of the one before, so that
// who knows the trade can read them. EVENSTEPS_WRITE=1 writes them anew, and fails.
func TestAdviceReadAloud(t *testing.T) {
	all, err := library.Maps()
	require.NoError(t, err)
	for _, m := range all {
		if m.Plain() {
			continue
		}
		path := filepath.Join("../../docs/maps", m.ID+".md")
		text := aloud(m)
		if os.Getenv("EVENSTEPS_WRITE") != "" {
			require.NoError(t, os.WriteFile(path, []byte(text), 0o644))
			t.Errorf("%s is written anew: read what changed", path)
			continue
		}
		kept, err := os.ReadFile(path)
		require.NoError(t, err)
		assert.Equal(t, string(kept), text, "%s: EVENSTEPS_WRITE=1 writes it anew", path)
	}
}

func aloud(m *machine.Map) string {
	var b strings.Builder
	fmt.Fprintf(&b, "# What is advised first: %s\n\n", m.Title)
	fmt.Fprintf(&b, "Made from the map by `core/fault/aloud_test.go`, two people, options as usual: the first three advices for each\n")
	fmt.Fprintf(&b, "complaint, each after the likeliest result of the one before. The machine and its figures are invented.\n")
	answers := map[string]string{}
	for _, o := range m.Options {
		answers[o.ID] = o.Usual
	}
	whole := m.With(answers)
	for _, k := range whole.Complaints {
		fmt.Fprintf(&b, "\n## %s\n\n", k.Name)
		c := Case{Map: m, Answers: answers, Complaint: k.ID, People: 2}
		for n := 1; n <= 3; n++ {
			a, ok := Find(c)
			if !ok {
				break
			}
			step := a.Next[0]
			if step.Test == "" {
				fmt.Fprintf(&b, "%d. **Fix.** %s\n", n, step.Why)
				break
			}
			s := begin(c)
			title := step.Test
			if t := whole.Test(step.Test); t != nil {
				title = t.Title
			} else if w, is := whole.Stretch(step.Test); is {
				title = "Continuity: " + english.Lower(w.Circuit.Points[w.From].Name) + " to " + english.Lower(w.Circuit.Points[w.To].Name)
			}
			if !strings.HasSuffix(title, "?") {
				title += "."
			}
			fmt.Fprintf(&b, "%d. **%s** %s\n", n, title, step.Why)
			likeliest := slices.MaxFunc(step.Shows, func(x, y Shows) int {
				if x.P < y.P {
					return -1
				}
				return 1
			})
			_, _, c.Standing, _ = s.to(s.test(step.Test))
			c.Results = append(slices.Clone(c.Results), Result{Test: step.Test, Outcome: likeliest.Outcome})
		}
	}
	return b.String()
}
