package paper

import (
	"fmt"
	"strings"
)

// markdown is the sheet as CommonMark. What people typed is escaped, so that it
// stays text.
func (s *Sheet) markdown() string {
	var b strings.Builder
	fmt.Fprintf(&b, "# %s\n\n%s\n", plainText(s.Title), plainText(s.State))
	part := func(title string, lines []string) {
		if len(lines) == 0 {
			return
		}
		fmt.Fprintf(&b, "\n## %s\n\n", title)
		for _, l := range lines {
			fmt.Fprintf(&b, "- %s\n", plainText(l))
		}
	}
	table := func(title string, heads []string, rows [][]string) {
		if len(rows) == 0 {
			return
		}
		fmt.Fprintf(&b, "\n## %s\n\n| %s |\n|%s\n", title, strings.Join(heads, " | "), strings.Repeat("---|", len(heads)))
		for _, row := range rows {
			for i := range row {
				row[i] = plainText(row[i])
			}
			fmt.Fprintf(&b, "| %s |\n", strings.Join(row, " | "))
		}
	}
	if len(s.Firm) > 0 {
		fmt.Fprintf(&b, "\n%s\n", plainText(strings.Join(s.Firm, ", ")))
	}
	about := []string{}
	for _, r := range s.About {
		about = append(about, r.What+": "+r.Say)
	}
	part("Machine and job", about)
	part("What was wrong", s.Wrong)
	part("What we found, and how we know", s.Found)
	var parts, measured [][]string
	for _, p := range s.Parts {
		parts = append(parts, []string{p.Part, p.Number, p.Why, p.Old})
	}
	table("Parts fitted", []string{"part", "number", "why", "old part"}, parts)
	part("What we did", s.Done)
	for _, m := range s.Measured {
		value := m.Value
		if m.Note != "" {
			value += ". " + m.Note
		}
		measured = append(measured, []string{m.What, value, m.Limit, m.Meter, m.By, m.At.UTC().Format("2006-01-02 15:04")})
	}
	table("What we measured", []string{"what", "read", "limit", "meter", "by", "when (UTC)"}, measured)
	part("Tried at the end", s.Tried)
	part("Not tested", s.NotTested)
	part("For you to do", s.Todo)
	part("Left as it is, and why", s.Explained)
	if s.Signed != nil {
		fmt.Fprintf(&b, "\nSigned for the company: %s, %s (UTC)\n", plainText(s.Signed.By), s.Signed.At.UTC().Format("2006-01-02 15:04"))
	}
	if s.Customer != "" {
		fmt.Fprintf(&b, "\nTold and shown to: %s\n", plainText(s.Customer))
	}
	fmt.Fprintf(&b, "\n%s\n", s.Note)
	return b.String()
}

// plainText keeps text from being read as markup or breaking its line.
func plainText(s string) string {
	s = strings.Join(strings.Fields(s), " ")
	return markup.Replace(s)
}

var markup = strings.NewReplacer(`\`, `\\`, "*", `\*`, "_", `\_`, "`", "\\`", "[", `\[`, "]", `\]`, "<", "&lt;", ">", "&gt;", "&", "&amp;", "|", `\|`, "#", `\#`)
