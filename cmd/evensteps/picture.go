package main

import (
	"fmt"
	"slices"

	"github.com/spf13/cobra"

	"evensteps/core/machine"
	"evensteps/core/machine/mapfile"
	"evensteps/core/picture"
)

func pictureCommand() *cobra.Command {
	var face, move string
	cmd := &cobra.Command{
		Use:   "picture MAP --face FACE | --move ID",
		Short: "A face of the machine as SVG, as the screens draw it",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			m, err := mapfile.ReadFile(args[0])
			if err != nil {
				return mapError(err)
			}
			var takes map[string]machine.Level
			var lots []picture.Lot
			if move != "" {
				mv := m.Move(move)
				if mv == nil {
					return fmt.Errorf("--move %s: the map has no such move", move)
				}
				face, takes = mv.Face, mv.Takes
				for _, l := range mv.Fasteners {
					lot := picture.Lot{Hidden: l.Hidden, At: l.At}
					if k := m.Fastener(l.Kind); k != nil {
						lot.Drive = k.Drive
					}
					lots = append(lots, lot)
				}
			}
			if !slices.Contains(machine.Faces, face) {
				return fmt.Errorf("--face %q: it is one of %v", face, machine.Faces)
			}
			d := picture.Face(m, face, takes, lots, func(string) bool { return false })
			if _, err := fmt.Fprintln(cmd.OutOrStdout(), d.SVG()); err != nil {
				return fmt.Errorf("printing: %w", err)
			}
			return nil
		},
	}
	cmd.Flags().StringVar(&face, "face", "", "front, rear, left, right, top, under or inside")
	cmd.Flags().StringVar(&move, "move", "", "the face of this move, with what it takes lit and its fasteners")
	return cmd
}
