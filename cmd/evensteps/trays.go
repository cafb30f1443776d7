package main

import (
	"fmt"
	"io"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"evensteps/core/lead"
	"evensteps/core/machine"
	"evensteps/core/tray"
)

// kept is how the fasteners and leads of some moves are kept apart.
type kept struct {
	Map string `json:"map"`
	tray.Arrangement
	Tags    []tagged `json:"tags"`
	Drivers []driven `json:"drivers"`
}

type tagged struct {
	Item string `json:"item"`
	lead.Card
}

type driven struct {
	Kind   string   `json:"kind"`
	Driver string   `json:"driver"`
	Fit    string   `json:"fit"`
	With   []string `json:"with"`
	OverMM float64  `json:"over_mm"`
}

func traysCommand() *cobra.Command {
	var s state
	var have int
	var drivers []string
	cmd := &cobra.Command{
		Use:   "trays MAP --made ID,ID",
		Short: "Trays, tags and drivers for these moves",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			m, r, err := s.read(args[0])
			if err != nil {
				return err
			}
			if len(s.made) == 0 {
				return fmt.Errorf("--made names the moves, in the order in which they are made")
			}
			if cmd.Flags().Changed("trays") && have < 0 {
				return fmt.Errorf("--trays is 0 or more, not %d", have)
			}
			var own []tray.Driver
			for _, text := range drivers {
				d, err := tray.ReadDriver(text)
				if err != nil {
					return fmt.Errorf("--driver: %w", err)
				}
				own = append(own, d)
			}
			out := keep(m.With(r.Answers, s.made...), s.made, have, own)
			if s.json {
				return printJSON(cmd.OutOrStdout(), out)
			}
			return printKept(cmd.OutOrStdout(), m, out)
		},
	}
	s.flags(cmd)
	cmd.Flags().IntVar(&have, "trays", tray.Enough, "how many trays there are (unless stated: enough)")
	cmd.Flags().StringArrayVar(&drivers, "driver", nil, `a driver that is at hand, as "hex 8 mm" (repeatable)`)
	return cmd
}

func keep(m *machine.Map, moves []string, have int, own []tray.Driver) kept {
	out := kept{Map: m.ID, Tags: []tagged{}, Drivers: []driven{}}
	var lots []tray.Lot
	var apart []*machine.Item
	blind := map[string]bool{}
	for _, id := range moves {
		mv := m.Move(id)
		lots = append(lots, tray.LotsOf(mv)...)
		for i := range m.Items {
			if it := &m.Items[i]; it.Type == "connector" && mv.Takes[it.ID] == machine.Away {
				apart = append(apart, it)
				blind[it.ID] = mv.Blind
			}
		}
	}
	out.Arrangement = *tray.Arrange(m, lots, have)
	for _, it := range apart {
		out.Tags = append(out.Tags, tagged{it.ID, lead.For(it, apart, blind[it.ID])})
	}
	seen := map[string]bool{}
	for _, l := range lots {
		kind := m.Fastener(l.Kind)
		if kind == nil || seen[kind.ID] {
			continue
		}
		seen[kind.ID] = true
		want, err := tray.ReadDriver(kind.Drive + " " + kind.Size)
		if err != nil {
			continue // nothing goes into a clip
		}
		d := driven{Kind: kind.ID, Driver: want.String(), With: []string{}}
		if len(own) > 0 {
			best, fit := tray.Best(own, kind)
			d.Fit = string(fit)
			for _, b := range best {
				d.With = append(d.With, b.String())
			}
			if len(best) > 0 {
				_, d.OverMM = best[0].Over(kind)
			}
		}
		out.Drivers = append(out.Drivers, d)
	}
	return out
}

func printKept(w io.Writer, m *machine.Map, k kept) error {
	t := tabwriter.NewWriter(w, 0, 0, 2, ' ', 0)
	shown := "shown to be the least"
	if !k.Proven {
		shown = "the least found"
	}
	keeps := fmt.Sprintf("%d trays keep", k.Fewest)
	if k.Fewest == 1 {
		keeps = "1 tray keeps"
	}
	fmt.Fprintf(t, "%s\n%s all look-alikes apart (%s)\n\n", m.Title, keeps, shown)
	for _, one := range k.Trays {
		for _, l := range one.Lots {
			fmt.Fprintf(t, "tray %s\t%d\t%s\t%s\n", one.Letter, l.Count, tray.KindName(m.Fastener(l.Kind)), m.Move(l.Move()).Name())
		}
	}
	for _, b := range k.Bags {
		fmt.Fprintf(t, "bag\t\t%s\n", b.Label)
	}
	fmt.Fprintln(t)
	for _, c := range k.Tags {
		fmt.Fprintf(t, "%s\t%s\t%s\t%s\n", m.Item(c.Item).Name, c.Rule, strings.Join(c.Card.Tags, ", "), c.Why)
	}
	fmt.Fprintln(t)
	for _, d := range k.Drivers {
		fmt.Fprintf(t, "%s\t%s\t%s\n", d.Driver, d.Fit, strings.Join(d.With, ", "))
	}
	if err := t.Flush(); err != nil {
		return fmt.Errorf("printing: %w", err)
	}
	return nil
}
