package paper

import (
	"fmt"
	"strings"
)

// markdown is the sheet as CommonMark. What people typed is escaped, so that it
// stays text.
func (s *Sheet) markdown(from From) string {
	var b strings.Builder
	fmt.Fprintf(&b, "# %s\n\n%s. %s\n", plainText(s.Title), from.Headline, from.Standing)
	part := func(title string, lines []string) {
		if len(lines) == 0 {
			return
		}
		fmt.Fprintf(&b, "\n## %s\n\n", title)
		for _, l := range lines {
			fmt.Fprintf(&b, "- %s\n", plainText(l))
		}
	}
	if len(s.Firm) > 0 {
		fmt.Fprintf(&b, "\n%s\n", plainText(strings.Join(s.Firm, ", ")))
	}
	lines := []string{}
	for _, r := range s.About {
		lines = append(lines, r.What+": "+r.Say)
	}
	part("Machine and job", lines)
	part("What was wrong", s.Wrong)
	part("As found", s.Found)
	part("What was done", s.Done)
	if len(s.Measured) > 0 {
		b.WriteString("\n## Measured\n\n| what | value | meter | by | when (UTC) |\n|---|---|---|---|---|\n")
		for _, m := range s.Measured {
			value := plainText(m.Value)
			if m.Note != "" {
				value += ". " + plainText(m.Note)
			}
			fmt.Fprintf(&b, "| %s | %s | %s | %s | %s |\n", plainText(m.What), value, plainText(m.Meter), plainText(m.By), m.At.UTC().Format("2006-01-02 15:04"))
		}
	}
	part("Not tested", s.NotTested)
	part("Explained", s.Explained)
	part("Who", s.Who)
	fmt.Fprintf(&b, "\n%s\n", s.Note)
	return b.String()
}

// plainText keeps text from being read as markup or breaking its line.
func plainText(s string) string {
	s = strings.Join(strings.Fields(s), " ")
	return markup.Replace(s)
}

var markup = strings.NewReplacer(`\`, `\\`, "*", `\*`, "_", `\_`, "`", "\\`", "[", `\[`, "]", `\]`, "<", "&lt;", ">", "&gt;", "&", "&amp;", "|", `\|`, "#", `\#`)
