package main

import (
	"fmt"
	"io"
	"slices"
	"strings"
	"text/tabwriter"

	"evensteps/core/english"

	"github.com/spf13/cobra"

	"evensteps/core/fault"
	"evensteps/core/machine"
)

// foundJSON is the JSON of an advice.
type foundJSON struct {
	Suspects      []suspectJSON `json:"suspects"`
	Next          []any         `json:"next"`
	Expected      float64       `json:"expected_minutes"`
	Contradiction bool          `json:"contradiction"`
}

type suspectJSON struct {
	Fault string  `json:"fault"`
	P     float64 `json:"p"`
}

type testJSON struct {
	Test    string   `json:"test"`
	Gain    float64  `json:"gain"`
	Minutes float64  `json:"minutes"`
	Access  []string `json:"access"`
	Ticket  string   `json:"ticket,omitempty"`
	Why     string   `json:"why"`
}

type fixJSON struct {
	Fix     []string `json:"fix"`
	P       float64  `json:"p"`
	Minutes float64  `json:"minutes"`
	Prices  float64  `json:"prices"`
	Why     string   `json:"why"`
}

func findCommand() *cobra.Command {
	var s state
	var complaint string
	var course course
	var rate float64
	cmd := &cobra.Command{
		Use:   "find MAP --complaint ID",
		Short: "Suspects and the next test",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			m, r, err := s.read(args[0])
			if err != nil {
				return err
			}
			c := fault.Case{Map: m, Answers: r.Answers, Complaint: complaint, Standing: r.Standing, Found: r.Found, People: r.People, Rate: rate}
			if c.Results, c.Tried, err = course.read(m); err != nil {
				return err
			}
			if rate < 0 {
				return fmt.Errorf("--rate %g: a price of a minute is more than nothing", rate)
			}
			a, ok := fault.Find(c)
			if !ok {
				var ids []string
				for _, k := range m.Complaints {
					ids = append(ids, k.ID)
				}
				return fmt.Errorf("--complaint %s: the map has no such complaint; it has %s", complaint, strings.Join(ids, ", "))
			}
			if s.json {
				return printJSON(cmd.OutOrStdout(), asJSON(a))
			}
			return printAdvice(cmd.OutOrStdout(), a)
		},
	}
	s.flags(cmd)
	f := cmd.Flags()
	f.StringVar(&complaint, "complaint", "", "what the customer complains of")
	f.Var(step{&course, false}, "result", "what a test showed, TEST=OUTCOME (repeatable, in order)")
	f.Var(step{&course, true}, "tried", "a fix that was made and did not help, or other where one looked wider (repeatable, in order with the results)")
	f.Float64Var(&rate, "rate", 1, "price of a minute, to reckon parts in minutes")
	return cmd
}

// course is what was found and what was tried, in the order in which it was given.
type course []struct {
	text  string
	tried bool
}

// step is a flag that adds to a course.
type step struct {
	to    *course
	tried bool
}

func (s step) String() string { return "" }
func (s step) Type() string   { return map[bool]string{false: "TEST=OUTCOME", true: "FAULT"}[s.tried] }

func (s step) Set(text string) error {
	*s.to = append(*s.to, struct {
		text  string
		tried bool
	}{text, s.tried})
	return nil
}

// read reads a course: TEST=OUTCOME and faults. An outcome "unsure" is kept as a
// reading and changes no chance.
func (c course) read(m *machine.Map) (results []fault.Result, tried []string, err error) {
	for _, s := range c {
		if s.tried {
			if m.Fault(s.text) == nil && s.text != fault.Other {
				return nil, nil, fmt.Errorf("--tried %s: the map has no such fault", s.text)
			}
			tried = append(tried, s.text)
			continue
		}
		id, outcome, ok := strings.Cut(s.text, "=")
		var known []string // outcomes
		if t := m.Test(id); t != nil {
			for _, o := range t.Outcomes {
				known = append(known, o.ID)
			}
		} else if _, is := m.Stretch(id); is {
			known = []string{"closed", "open"}
		} else {
			ok = false
		}
		if !ok {
			return nil, nil, fmt.Errorf("--result %s: write TEST=OUTCOME with a test of the map", s.text)
		}
		if outcome != "unsure" && !slices.Contains(known, outcome) {
			return nil, nil, fmt.Errorf("--result %s: the outcome is one of %s", s.text, strings.Join(known, ", "))
		}
		results = append(results, fault.Result{Test: id, Outcome: outcome, Tried: len(tried)})
	}
	return results, tried, nil
}

func asJSON(a *fault.Advice) foundJSON {
	out := foundJSON{Suspects: []suspectJSON{}, Next: []any{}, Expected: a.Expected, Contradiction: a.Contradiction}
	for _, s := range a.Suspects {
		out.Suspects = append(out.Suspects, suspectJSON{s.Fault, s.P})
	}
	for _, n := range a.Next {
		if n.Test != "" {
			out.Next = append(out.Next, testJSON{n.Test, n.Gain, n.Minutes, n.Access, n.Ticket, n.Why})
		} else {
			out.Next = append(out.Next, fixJSON{n.Fix, n.P, n.Minutes, n.Prices, n.Why})
		}
	}
	return out
}

func printAdvice(w io.Writer, a *fault.Advice) error {
	t := tabwriter.NewWriter(w, 0, 0, 2, ' ', 0)
	fmt.Fprintln(t, "suspects")
	for _, s := range a.Suspects {
		fmt.Fprintf(t, "  %s\t%.3f\t%s\n", s.Fault, s.P, english.Chance(s.P))
	}
	fmt.Fprintln(t, "\nnext")
	for i, n := range a.Next[:min(6, len(a.Next))] {
		what := n.Test
		if what == "" {
			what = "fix " + strings.Join(n.Fix, ", ")
		}
		fmt.Fprintf(t, "%3d\t%s\t%.1f min\t%s\n", i+1, what, n.Minutes, n.Why)
	}
	fmt.Fprintf(t, "\n%.1f min to a proven repair are expected\n", a.Expected)
	if a.Contradiction {
		fmt.Fprintln(t, "The last result contradicts the rest: repeat it, or look wider.")
	}
	if err := t.Flush(); err != nil {
		return fmt.Errorf("printing: %w", err)
	}
	return nil
}
