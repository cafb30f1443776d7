package main

import (
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	calls "evensteps/core/call"
)

func heardCommand() *cobra.Command {
	var s state
	var said string
	cmd := &cobra.Command{
		Use:   "heard MAP --words TEXT",
		Short: "What a caller's words mean on this machine: an emergency first, then its complaints",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			m, r, err := s.read(args[0])
			if err != nil {
				return err
			}
			h := calls.Hear(m.With(r.Answers), said)
			out := cmd.OutOrStdout()
			if s.json {
				return printJSON(out, h)
			}
			if e := h.Emergency; e != nil {
				fmt.Fprintf(out, "EMERGENCY: %s (said: %s). Tell them now:\n", e.Name, strings.Join(e.By, ", "))
				for _, s := range e.Say {
					fmt.Fprintf(out, "  %s\n", s)
				}
			}
			for _, c := range h.Complaints {
				fmt.Fprintf(out, "%s  %s  (said: %s)\n", c.Complaint, c.Name, strings.Join(c.Said, ", "))
			}
			if h.Unknown {
				fmt.Fprintln(out, "None of the complaints that the map has.")
			}
			return nil
		},
	}
	s.flags(cmd)
	cmd.Flags().StringVar(&said, "words", "", "what the caller says")
	_ = cmd.MarkFlagRequired("words")
	return cmd
}
