package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"evensteps/core/machine"
	"evensteps/core/machine/mapfile"
	"evensteps/core/plan"
)

// state is the part of the flags that says which state to plan from.
type state struct {
	options, made, found []string
	people               int
	json                 bool
}

func (s *state) flags(cmd *cobra.Command) {
	cmd.Flags().StringArrayVar(&s.options, "option", nil, "an option stated, ID=VALUE (repeatable)")
	cmd.Flags().StringSliceVar(&s.made, "made", nil, "moves that stand already, in order, comma separated")
	cmd.Flags().StringArrayVar(&s.found, "found", nil, "missing from the start, ITEM=LEVEL (repeatable)")
	cmd.Flags().IntVar(&s.people, "people", 0, "people there are, 1 or 2 (default 1; where that has no way, 2 is planned and said)")
	cmd.Flags().BoolVar(&s.json, "json", false, "print JSON")
}

// read reads the map in a file, and the state to plan from on it.
func (s *state) read(path string) (*machine.Map, plan.Request, error) {
	m, err := mapfile.ReadFile(path)
	if err != nil {
		return nil, plan.Request{}, mapError(err)
	}
	r, err := s.request(m)
	return m, r, err
}

func (s *state) request(m *machine.Map) (plan.Request, error) {
	r := plan.Request{Answers: map[string]string{}, Found: map[string]machine.Level{}, People: s.people}
	if s.people < 0 || s.people > 2 {
		return r, fmt.Errorf("--people is 1 or 2, not %d", s.people)
	}
	for _, o := range s.options {
		id, value, ok := strings.Cut(o, "=")
		option := m.Option(id)
		if !ok || option == nil {
			return r, fmt.Errorf("--option %s: the map has no such option; write ID=VALUE", o)
		}
		if !slices.Contains(option.Values, value) {
			return r, fmt.Errorf("--option %s: %s is one of %s", o, id, strings.Join(option.Values, ", "))
		}
		r.Answers[id] = value
	}
	for _, f := range s.found {
		id, level, ok := strings.Cut(f, "=")
		if !ok || m.Item(id) == nil && m.Energy(id) == nil || machine.Level(level).Rank() < 0 {
			return r, fmt.Errorf("--found %s: write ITEM=LEVEL with an item of the map", f)
		}
		r.Found[id] = machine.Level(level)
	}
	standing, err := plan.Standing(m.With(r.Answers, s.made...), s.made, r.Found)
	if err != nil {
		return r, fmt.Errorf("--made: %w", err)
	}
	r.Standing = standing
	return r, nil
}

func planCommand() *cobra.Command {
	var s state
	var goals []string
	cmd := &cobra.Command{
		Use:   "plan MAP --goal G [--goal G]",
		Short: "The way in and the way back",
		Long:  "The way in and the way back, of least total minutes.\nGoals: item:ID=LEVEL, replace:PART, test:TEST.",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			m, r, err := s.read(args[0])
			if err != nil {
				return err
			}
			r.Goals = goals
			p, err := plan.Make(m, r)
			var none *plan.NoPlan
			if errors.As(err, &none) {
				if s.json {
					if err := printJSON(cmd.OutOrStdout(), map[string]*plan.NoPlan{"error": none}); err != nil {
						return err
					}
				}
				return no{none}
			}
			p.AskFirst = plan.AskFirst(m, r, p)
			p.OtherWays = plan.OtherWays(m, r, p)
			if s.json {
				return printJSON(cmd.OutOrStdout(), p)
			}
			return printPlan(cmd.OutOrStdout(), m, p)
		},
	}
	s.flags(cmd)
	cmd.Flags().StringArrayVar(&goals, "goal", nil, "what to reach (repeatable)")
	return cmd
}

// mapError keeps an unsound map an answer, and a missing file wrong use.
func mapError(err error) error {
	var faults mapfile.Faults
	if errors.As(err, &faults) {
		return no{fmt.Errorf("the map is not sound: %w", faults[0])}
	}
	return err
}

func printJSON(w io.Writer, v any) error {
	e := json.NewEncoder(w)
	e.SetEscapeHTML(false)
	e.SetIndent("", "  ")
	if err := e.Encode(v); err != nil {
		return fmt.Errorf("printing: %w", err)
	}
	return nil
}

func printPlan(w io.Writer, m *machine.Map, p *plan.Plan) error {
	t := tabwriter.NewWriter(w, 0, 0, 2, ' ', 0)
	fmt.Fprintf(t, "%s, %s\n\nway in\n", m.Title, people(p.People))
	for i, id := range p.WayIn {
		mv := m.Move(id)
		fmt.Fprintf(t, "%3d\t%s\t%s\t%g min\t%s\n", i+1, mv.Title, mv.Face, mv.Minutes.Out, strings.Join(mv.Tools, ", "))
	}
	fmt.Fprintln(t, "\nway back")
	for i, s := range p.WayBack {
		if s.Check != "" {
			c := m.Check(s.Check)
			fmt.Fprintf(t, "%3d\tcheck: %s\t%s\t%g min\t%s\n", i+1, c.Title, c.Face, c.Minutes, strings.Join(c.Tools, ", "))
			continue
		}
		by := m.Move(s.Undo)
		if s.By != "" {
			by = m.Move(s.By)
		}
		title := by.Title + ", undone"
		if by.Back != nil && by.Back.Title != "" {
			title = by.Back.Title
		}
		face, _, tools := plan.RefitPlace(by)
		fmt.Fprintf(t, "%3d\t%s\t%s\t%g min\t%s\n", i+1, title, face, by.Minutes.Back, strings.Join(tools, ", "))
	}
	fmt.Fprintf(t, "\nhandling %.2f, turns and tools in %.2f, back %.2f, total %.2f min", p.Minutes.Handling, p.Minutes.TurnsAndToolsIn, p.Minutes.TurnsAndToolsBack, p.Minutes.Total)
	if p.Proven {
		fmt.Fprintln(t, " (shown to be the least)")
	} else {
		fmt.Fprintf(t, " (at most %.2f min above the least)\n", p.Gap)
	}
	for _, a := range p.AskFirst {
		if a.NoPlan {
			fmt.Fprintf(t, "ask first: %s If %s, there is no way.\n", a.Ask, a.If)
		} else {
			fmt.Fprintf(t, "ask first: %s If %s, %+.1f min.\n", a.Ask, a.If, a.Minutes)
		}
	}
	for _, w := range p.OtherWays {
		fmt.Fprintf(t, "other way: %s, %.2f min, %s%s\n", strings.Join(w.Differs, ", "), w.Minutes.Total, people(w.People), blind(w.Blind))
	}
	for _, kit := range []struct {
		what string
		list []string
	}{{"tools", p.Tools}, {"tickets", p.Tickets}, {"used up", p.Consumes}} {
		if len(kit.list) > 0 {
			fmt.Fprintf(t, "%s: %s\n", kit.what, strings.Join(kit.list, ", "))
		}
	}
	if err := t.Flush(); err != nil {
		return fmt.Errorf("printing: %w", err)
	}
	return nil
}

func people(n int) string {
	if n == 1 {
		return "1 person"
	}
	return fmt.Sprintf("%d people", n)
}

func blind(moves []string) string {
	if len(moves) == 0 {
		return ""
	}
	return ", by feel: " + strings.Join(moves, ", ")
}
