package main

import (
	"errors"
	"fmt"

	"github.com/spf13/cobra"

	"evensteps/core/machine/lint"
	"evensteps/core/machine/mapfile"
)

func checkCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "check MAP...",
		Short: "Are these maps sound? Faults as file:line:column: message",
		Args:  cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, paths []string) error {
			faults := 0
			for _, path := range paths {
				m, err := mapfile.ReadFile(path)
				var found mapfile.Faults
				switch {
				case errors.As(err, &found):
					faults += len(found)
					fmt.Fprintln(cmd.OutOrStdout(), found.Error())
				case err != nil:
					return err
				default:
					for _, w := range lint.Warnings(m) {
						fmt.Fprintf(cmd.OutOrStdout(), "%s: warning: %s\n", path, w.Error())
					}
					fmt.Fprintf(cmd.OutOrStdout(), "%s: sound: %d items, %d moves, %d checks, %d parts\n", path, len(m.Items), len(m.Moves), len(m.Checks), len(m.Parts))
				}
			}
			if faults > 0 {
				return no{fmt.Errorf("%d faults: mend them where the lines above say", faults)}
			}
			return nil
		},
	}
}
