package main

import (
	"errors"
	"fmt"
	"io"
	"math/rand/v2"
	"slices"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"evensteps/core/fault"
)

func trialCommand() *cobra.Command {
	var s state
	var jobs int
	var seed uint64
	var rate float64
	var w worlds
	cmd := &cobra.Command{
		Use:   "trial MAP",
		Short: "How good the advice is: simulated jobs under several policies",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			m, r, err := s.read(args[0])
			if err != nil {
				return err
			}
			if !(w.off >= 1 && w.off <= 100) || !(w.double >= 0 && w.double <= 1) {
				return errors.New("--off runs from 1 to 100, --double from 0 to 1")
			}
			if jobs < 1 {
				return fmt.Errorf("--jobs %d: play one at least", jobs)
			}
			t := &fault.Trial{Map: m, Answers: r.Answers, Rate: rate}
			var names []string
			for _, c := range m.With(r.Answers).Complaints {
				names = append(names, c.ID)
			}
			if len(names) == 0 {
				return no{fmt.Errorf("the map %s has no complaint to try", m.ID)}
			}
			return playAll(cmd.OutOrStdout(), t, names, jobs, seed, w)
		},
	}
	s.flags(cmd)
	cmd.Flags().IntVar(&jobs, "jobs", 1000, "simulated jobs, shared among the complaints")
	cmd.Flags().Uint64Var(&seed, "seed", 1, "the same seed plays the same jobs")
	cmd.Flags().Float64Var(&w.off, "off", 1, "how far weights and likelihoods are off in truth: each by a factor of up to so many")
	cmd.Flags().Float64Var(&w.double, "double", 0, "share of jobs with two faults at once")
	cmd.Flags().Float64Var(&rate, "rate", 1, "price of a minute, to reckon parts in minutes")
	return cmd
}

// worlds are what the simulated jobs are played in.
type worlds struct {
	off    float64
	double float64
}

// played are the jobs of one complaint under one policy.
type played []fault.Played

func (p played) mean(of func(fault.Played) float64) float64 {
	sum := 0.0
	for _, one := range p {
		sum += of(one)
	}
	return sum / float64(max(1, len(p)))
}

func (p played) p90() float64 {
	var m []float64
	for _, one := range p {
		m = append(m, one.Minutes)
	}
	slices.Sort(m)
	return m[len(m)*9/10]
}

func playAll(out io.Writer, t *fault.Trial, complaints []string, jobs int, seed uint64, in worlds) error {
	all, two := map[fault.Policy]played{}, map[fault.Policy]played{}
	w := tabwriter.NewWriter(out, 0, 0, 2, ' ', tabwriter.AlignRight)
	fmt.Fprintln(w, "complaint\tpolicy\tmean min\tP90\ttests\twasted\tof the better simple\t")
	for _, complaint := range complaints {
		of := map[fault.Policy]played{}
		for k := range jobs / len(complaints) {
			for _, policy := range fault.Policies { // every policy meets the same fault and the same luck
				random := rand.New(rand.NewPCG(seed, uint64(k)))
				world := fault.World{Off: in.off, Seed: seed<<32 + uint64(k)} // a truth of its own for each job
				faults := []string{t.DrawIn(world, complaint, random.Float64())}
				if in.double > 0 && random.Float64() < in.double {
					faults = append(faults, t.DrawIn(world, complaint, random.Float64(), faults...))
				}
				one := t.PlayIn(world, policy, complaint, faults, random.Float64)
				if len(faults) == 2 {
					two[policy] = append(two[policy], one)
				}
				of[policy] = append(of[policy], one)
			}
		}
		printPolicies(w, complaint, of)
		for policy, p := range of {
			all[policy] = append(all[policy], p...)
		}
		if in.off > 1 || in.double > 0 {
			continue // the optimum is worked out for the map's own world
		}
		if best, err := t.Optimum(complaint); err == nil { // worked out where that is small enough
			ours, err := t.Expected(fault.Program, complaint)
			if err != nil {
				return err
			}
			fmt.Fprintf(w, "%s\toptimum\t%.1f\t\t\t\t\t\n%s\tprogram, worked out\t%.1f\t\t\t\t%.3f of it\t\n", complaint, best, complaint, ours, ours/best)
		}
	}
	printPolicies(w, "all", all)
	printPolicies(w, "two faults", two)
	if err := w.Flush(); err != nil {
		return fmt.Errorf("printing: %w", err)
	}
	fmt.Fprintln(out, "\nchances that were claimed for the first fix, and how many came true")
	for _, from := range []float64{0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9} {
		n, right := 0, 0
		for _, one := range all[fault.Program] {
			if one.Claimed >= from && one.Claimed < from+0.1 {
				n++
				if one.Right {
					right++
				}
			}
		}
		if n >= 20 {
			fmt.Fprintf(out, "  %.1f to %.1f: %.2f of %d\n", from, from+0.1, float64(right)/float64(n), n)
		}
	}
	return nil
}

func printPolicies(w io.Writer, name string, of map[fault.Policy]played) {
	minutes := func(p fault.Played) float64 { return p.Minutes }
	simple := min(of[fault.Likeliest].mean(minutes), of[fault.Chart].mean(minutes))
	for _, policy := range fault.Policies {
		p := of[policy]
		if len(p) == 0 {
			continue
		}
		fmt.Fprintf(w, "%s\t%s\t%.1f\t%.1f\t%.2f\t%.2f\t%.2f\t\n", name, policy, p.mean(minutes), p.p90(),
			p.mean(func(one fault.Played) float64 { return float64(one.Tests) }), p.mean(func(one fault.Played) float64 { return float64(one.Wasted) }), p.mean(minutes)/simple)
	}
}
