package main

import (
	"bufio"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"time"

	"github.com/spf13/cobra"

	"evensteps/core/job"
	"evensteps/core/machine/mapfile"
	"evensteps/core/record"
	"evensteps/core/scene"
)

func foldCommand() *cobra.Command {
	var events, known, viewer string
	var asJSON bool
	cmd := &cobra.Command{
		Use:   "fold MAP --events FILE",
		Short: "The state of a job from its events (JSON Lines)",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			m, err := mapfile.ReadFile(args[0])
			if err != nil {
				return mapError(err)
			}
			if events == "" {
				return fmt.Errorf("--events names the file of events, one JSON object a line")
			}
			list, err := readEvents(events)
			if err != nil {
				return err
			}
			j := scene.Job{ID: "job"}
			if len(list) > 0 {
				j.ID = list[0].Job
			}
			if known != "" {
				data, err := os.ReadFile(known)
				if err != nil {
					return fmt.Errorf("reading the job: %w", err)
				}
				if err := json.Unmarshal(data, &j); err != nil {
					return fmt.Errorf("reading the job %s: %w", known, err)
				}
			}
			book := job.Open(m, j)
			var now time.Time
			for i, e := range record.InFileOrder(list) {
				f, err := record.Read(e)
				if err != nil {
					return no{fmt.Errorf("%s:%d: %w", events, i+1, err)}
				}
				book.Add(f)
				now = f.When()
			}
			v := book.View(scene.Viewer{Person: viewer}, now)
			if asJSON {
				return printJSON(cmd.OutOrStdout(), v)
			}
			printView(cmd.OutOrStdout(), v)
			return nil
		},
	}
	cmd.Flags().StringVar(&events, "events", "", "the events, JSON Lines; - for standard input")
	cmd.Flags().StringVar(&known, "job", "", "what is known of the job, JSON")
	cmd.Flags().StringVar(&viewer, "viewer", "", "whose eyes it is seen with: a person of the job, and their tickets")
	cmd.Flags().BoolVar(&asJSON, "json", false, "print JSON")
	return cmd
}

func readEvents(path string) ([]record.Event, error) {
	var in io.Reader = os.Stdin
	if path != "-" {
		f, err := os.Open(path)
		if err != nil {
			return nil, fmt.Errorf("reading events: %w", err)
		}
		defer f.Close()
		in = f
	}
	var out []record.Event
	lines := bufio.NewScanner(in)
	lines.Buffer(nil, 4*record.MostBody)
	for n := 1; lines.Scan(); n++ {
		if len(lines.Bytes()) == 0 {
			continue
		}
		var e record.Event
		if err := json.Unmarshal(lines.Bytes(), &e); err != nil {
			return nil, no{fmt.Errorf("%s:%d: %w", path, n, err)}
		}
		out = append(out, e)
	}
	if err := lines.Err(); err != nil {
		return nil, fmt.Errorf("reading events: %w", err)
	}
	return out, nil
}

func printView(w io.Writer, v *job.View) {
	fmt.Fprintf(w, "%s\n%s\nnow: %s %s\n\n", v.Headline, v.Standing, v.Current.Kind, v.Current.Move)
	for _, r := range v.Rungs {
		here := " "
		if r.Current {
			here = ">"
		}
		fmt.Fprintf(w, "%s %-7s %-28s %-7s %s\n", here, r.Out, r.Title, r.Back, r.Sub)
	}
	for _, s := range v.Snags {
		if !s.Regular {
			fmt.Fprintf(w, "\n%s %s: %s %s", s.Grade, s.Kind, s.Say, s.Do)
		}
	}
	fmt.Fprintln(w)
}
