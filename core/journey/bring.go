package journey

import (
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/scene"
	"evensteps/core/tray"
	"evensteps/core/view"
)

// FewestTrays is how many trays these moves need at the least.
func FewestTrays(sc *scene.Scene, moves []string) int {
	var lots []tray.Lot
	for _, id := range moves {
		if mv := sc.Map.Move(id); mv != nil {
			lots = append(lots, tray.LotsOf(mv)...)
		}
	}
	return tray.Arrange(sc.Map, lots, tray.Enough).Fewest
}

// bring is what the plan needs: the new parts first, then people, tools and
// what is used up.
func bring(sc *scene.Scene, p *plan.Plan) []string {
	rows := PartsToBring(sc, sc.Rest)
	if p.People > 1 {
		rows = append(rows, view.Row{What: "two people"})
	}
	rows = append(rows, KitToBring(sc, p)...)
	if n := len(sc.Trays); n > 0 {
		rows = append(rows, view.Row{What: english.Count(n, "tray")})
	}
	out := []string{}
	for _, r := range Unlike(rows) {
		out = append(out, english.Lower(r.What))
	}
	return out
}

// Unlike leaves of rows that name the same thing the first.
func Unlike(rows []view.Row) []view.Row {
	out := []view.Row{}
	for _, r := range rows {
		if !slices.ContainsFunc(out, func(o view.Row) bool { return strings.EqualFold(o.What, r.What) }) {
			out = append(out, r)
		}
	}
	return out
}

// PartsToBring are the parts that goals fit, each with what is ordered with it.
func PartsToBring(sc *scene.Scene, goals []string) (rows []view.Row) {
	for _, goal := range goals {
		if part := sc.Map.Part(strings.TrimPrefix(goal, "replace:")); part != nil {
			rows = append(rows, view.Row{What: part.Name + " " + part.Number, Say: "to fit"})
			for _, also := range part.With {
				rows = append(rows, view.Row{What: english.Upper(english.Spaced(also)), Say: "goes with it"})
			}
		}
	}
	return rows
}

// KitToBring are the tools of both ways, with the drivers that the fasteners ask
// for whether a move names them or not, and what is used up.
func KitToBring(sc *scene.Scene, p *plan.Plan) (rows []view.Row) {
	for _, tool := range p.Tools {
		rows = append(rows, view.Row{What: english.Upper(tool), Say: "tool"})
	}
	for _, d := range drivers(sc, p) {
		if !slices.ContainsFunc(p.Tools, func(what string) bool { return tray.Serves(what, d) }) {
			rows = append(rows, view.Row{What: english.Upper(d.String()), Say: "driver"})
		}
	}
	for _, what := range p.Consumes {
		rows = append(rows, view.Row{What: english.Upper(english.Spaced(what)), Say: "used up"})
	}
	for _, mv := range movesOf(sc, p) {
		for _, in := range mv.Inspect {
			if in.With != "" {
				rows = append(rows, view.Row{What: english.Upper(in.With), Say: "to " + in.Do + " " + english.Lower(in.Say)})
			}
		}
	}
	return rows
}

// movesOf are the moves of a plan, both ways.
func movesOf(sc *scene.Scene, p *plan.Plan) (moves []*machine.Move) {
	for _, id := range slices.Concat(p.WayIn, sc.Standing) {
		if mv := sc.Map.Move(id); mv != nil {
			moves = append(moves, mv)
		}
	}
	return moves
}

// drivers are what the fasteners of a plan's moves, both ways, are undone with,
// whether a move names the tool or not.
func drivers(sc *scene.Scene, p *plan.Plan) (out []tray.Driver) {
	for _, mv := range movesOf(sc, p) {
		for _, l := range mv.Fasteners {
			kind := sc.Map.Fastener(l.Kind)
			if kind == nil {
				continue
			}
			if d, err := tray.ReadDriver(kind.Drive + " " + kind.Size); err == nil && !slices.Contains(out, d) {
				out = append(out, d)
			}
		}
	}
	return out
}
