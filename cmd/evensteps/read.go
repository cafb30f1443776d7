package main

import (
	"fmt"
	"math"
	"strings"

	"github.com/spf13/cobra"

	"evensteps/core/machine"
	"evensteps/core/machine/mapfile"
	"evensteps/core/reading"
)

// verdict is the JSON of a reading judged. A limit or value without end is left
// out as null, since JSON knows no infinity.
type verdict struct {
	Verdict  string      `json:"verdict"`
	Value    *float64    `json:"value"`
	Unit     string      `json:"unit"`
	Low      *float64    `json:"low"`
	High     *float64    `json:"high"`
	Interval [2]*float64 `json:"interval"`
	Why      string      `json:"why"`
}

func readCommand() *cobra.Command {
	var test, value, supply, ambient, leads, accuracy string
	var fitted, asJSON bool
	cmd := &cobra.Command{
		Use:   "read MAP --test ID --value V",
		Short: "The verdict on a reading",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			m, err := mapfile.ReadFile(args[0])
			if err != nil {
				return mapError(err)
			}
			t := m.Test(test)
			if t == nil {
				return fmt.Errorf("--test %s: the map has no such test; it has %s", test, strings.Join(testIDs(m), ", "))
			}
			if t.Measure == nil || t.Expect == nil {
				return fmt.Errorf("--test %s: it is answered by looking, not by a reading", test)
			}
			s := reading.Setting{Fitted: fitted}
			for _, one := range []struct {
				flag, text string
				q          reading.Quantity
				into       **float64
			}{{"supply", supply, reading.Voltage, &s.Supply}, {"ambient", ambient, reading.Temperature, &s.Ambient}, {"leads", leads, reading.Resistance, &s.Leads}} {
				if one.text == "" {
					continue
				}
				v, err := reading.Parse(one.q, one.text)
				if err != nil {
					return fmt.Errorf("--%s: %w", one.flag, err)
				}
				*one.into = &v
			}
			l, err := reading.Within(t.Expect, s)
			if err != nil {
				return fmt.Errorf("%w: use --ambient", err)
			}
			if accuracy != "" {
				a, err := reading.ParseAccuracy(l.Quantity, accuracy)
				if err != nil {
					return fmt.Errorf("--accuracy: %w", err)
				}
				s.Accuracy = &a
			}
			v, err := reading.Judge(t.Expect, value, s)
			if err != nil {
				return fmt.Errorf("--value: %w", err)
			}
			if !asJSON {
				fmt.Fprintf(cmd.OutOrStdout(), "%s\n%s\n", v.Verdict, v.Why)
				return nil
			}
			return printJSON(cmd.OutOrStdout(), verdict{
				Verdict: v.Verdict, Value: shown(v.Value), Unit: v.Quantity.Word(), Low: shown(v.Low), High: shown(v.High),
				Interval: [2]*float64{shown(v.Interval[0]), shown(v.Interval[1])}, Why: v.Why,
			})
		},
	}
	f := cmd.Flags()
	f.StringVar(&test, "test", "", "the test whose reading it is")
	f.StringVar(&value, "value", "", `the reading as it was written, such as "11.4 ohm" or OL`)
	f.StringVar(&supply, "supply", "", "supply voltage, where it matters")
	f.StringVar(&ambient, "ambient", "", "how warm the part is")
	f.StringVar(&leads, "leads", "", "what the leads add")
	f.StringVar(&accuracy, "accuracy", "", "the meter's, such as 0.9%+3@0.1ohm")
	f.BoolVar(&fitted, "fitted", false, "the part was still wired in")
	f.BoolVar(&asJSON, "json", false, "as JSON")
	return cmd
}

// shown rounds to nearest for reading; verdicts are made from unrounded values.
func shown(v float64) *float64 {
	if math.IsInf(v, 0) {
		return nil
	}
	r := math.Round(v*100) / 100
	return &r
}

func testIDs(m *machine.Map) (ids []string) {
	for i := range m.Tests {
		ids = append(ids, m.Tests[i].ID)
	}
	return ids
}
