package main

import (
	"fmt"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"evensteps/core/energy"
	"evensteps/core/machine"
	"evensteps/core/machine/mapfile"
)

// proved is the JSON of a proof as far as it is written down.
type proved struct {
	Energy  string             `json:"energy"`
	Way     string             `json:"way"`
	Ways    []string           `json:"ways"`
	Steps   []energy.ProofStep `json:"steps"`
	Open    []string           `json:"open"`
	Off     bool               `json:"off"`
	Highest string             `json:"highest"`
	Why     string             `json:"why"`
	Note    string             `json:"note"`
}

func proveCommand() *cobra.Command {
	var move, way, meter string
	var set []string
	var flame, asJSON bool
	cmd := &cobra.Command{
		Use:   "prove MAP --move ID [--set KEY=VALUE]",
		Short: "How a move proves an energy off, step by step, and whether what was written down proves it",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			m, err := mapfile.ReadFile(args[0])
			if err != nil {
				return mapError(err)
			}
			mv, e := proving(m, move)
			if e == nil {
				return fmt.Errorf("--move %s: the map has no such move that proves an energy off; it has %s", move, strings.Join(provers(m), ", "))
			}
			ways := energy.Offered(e, mv, flame)
			if way == "" && len(ways) > 0 {
				way = ways[0]
			}
			if !slices.Contains(ways, way) {
				return fmt.Errorf("--way %s: it can be proven here by %s (by the flame with --flame, where one was seen)", way, strings.Join(ways, ", "))
			}
			d := energy.Draft{}
			for _, s := range set {
				key, value, ok := strings.Cut(s, "=")
				if !ok {
					return fmt.Errorf("--set %s: write KEY=VALUE, such as before=230V", s)
				}
				d[key] = value
			}
			rating := energy.Rating{}
			if meter != "" {
				var ok bool
				if rating, ok = energy.ReadRating(meter); !ok {
					return fmt.Errorf("--meter %q: write it as it stands on the meter, such as CAT III 600 V", meter)
				}
			}
			a := energy.For(e, m.Supply, way, mv.ProveAt)
			j := a.Judge(a.Of(d), rating)
			out := proved{e.ID, way, ways, a.Steps(d, rating), a.Open(d, rating), j.Off, j.Highest, j.Why, j.Note}
			if out.Open == nil {
				out.Open = []string{}
			}
			if asJSON {
				if err := printJSON(cmd.OutOrStdout(), out); err != nil {
					return err
				}
			} else {
				printProof(cmd, out)
			}
			if len(set) > 0 && !j.Off {
				return no{fmt.Errorf("not proven: %s", j.Why)}
			}
			return nil
		},
	}
	cmd.Flags().StringVar(&move, "move", "", "the move that proves, or that measures first")
	cmd.Flags().StringVar(&way, "way", "", "the way; the best that can be had where it is left out")
	cmd.Flags().StringArrayVar(&set, "set", nil, "what was written down at a step, KEY=VALUE; repeatable")
	cmd.Flags().StringVar(&meter, "meter", "", "what stands on the meter, such as CAT III 600 V")
	cmd.Flags().BoolVar(&flame, "flame", false, "a flame was seen as the gas was shut")
	cmd.Flags().BoolVar(&asJSON, "json", false, "print JSON")
	return cmd
}

// proving is a move that proves an energy off, or measures one first, and that
// energy.
func proving(m *machine.Map, id string) (*machine.Move, *machine.Energy) {
	mv := m.Move(id)
	if mv == nil {
		return nil, nil
	}
	for it, level := range mv.Takes {
		if e := m.Energy(it); e != nil && level == machine.Proven {
			return mv, e
		}
	}
	if e := m.Energy(mv.MeasureFirst); e != nil {
		return &machine.Move{ID: mv.ID, Proof: machine.Values{energy.Meter}}, e
	}
	return mv, nil
}

func provers(m *machine.Map) []string {
	var ids []string
	for i := range m.Moves {
		if _, e := proving(m, m.Moves[i].ID); e != nil {
			ids = append(ids, m.Moves[i].ID)
		}
	}
	return ids
}

func printProof(cmd *cobra.Command, p proved) {
	w := cmd.OutOrStdout()
	fmt.Fprintf(w, "%s, %s\n", p.Energy, energy.Names[p.Way])
	for _, s := range p.Steps {
		may := ""
		if s.May {
			may = " (may be left out)"
		}
		var answers []string
		for _, a := range s.Answers {
			answers = append(answers, a.Value)
		}
		fmt.Fprintf(w, "  %-24s %s%s%s\n", s.Key, s.Do, strings.TrimSuffix(" ["+strings.Join(answers, "|")+"]", " []"), may)
	}
	if len(p.Open) > 0 {
		fmt.Fprintf(w, "still open: %s\n", strings.Join(p.Open, "; "))
	}
	if p.Off {
		fmt.Fprintf(w, "proven: %s\n", p.Why)
	}
	if p.Note != "" {
		fmt.Fprintf(w, "note: %s\n", p.Note)
	}
}
