package paper

import (
	"maps"
	"slices"

	"evensteps/core/fault"
	"evensteps/core/findings"
	"evensteps/core/record"
	"evensteps/core/scene"
)

// Past is what a job that is signed off leaves for those that come after it: what
// was done, and which faults were proven mended.
func Past(sc *scene.Scene, from From) (did, mended []string) {
	did, mended = []string{}, []string{}
	if sc.SignedBy == nil {
		return did, mended
	}
	did = append(did, from.Headline)
	for _, f := range sc.Facts {
		if n, is := f.Of.(*record.Note); is && n.Text != "" {
			did = append(did, sc.FullName(f.By)+": "+n.Text)
		}
	}
	did = append(did, Mended(sc)...)
	if from.Even && !sc.Looking() {
		mended = proven(sc)
	}
	return did, mended
}

// proven are the faults of the call's complaint whose mending the finals have proven: of each part that
// was fitted the likeliest of its faults, and those mended with nothing opened.
func proven(sc *scene.Scene) []string {
	out := []string{}
	c, _ := findings.Case(sc)
	chances := fault.Chances(c)
	for _, key := range slices.Sorted(maps.Keys(sc.Pieces)) {
		b := sc.Pieces[key].Of.(*record.PartFitted)
		best, at := 0.0, ""
		for i := range sc.Map.Faults {
			if f := &sc.Map.Faults[i]; f.Part == b.Part && chances[f.ID] > best {
				best, at = chances[f.ID], f.ID
			}
		}
		if at != "" && scene.FittedAs(sc.Pieces[key]) == "fitted" && !slices.Contains(out, at) {
			out = append(out, at)
		}
	}
	if sc.Decided != nil {
		out = append(out, scene.Mended(sc.Decided.Of.(*record.Decided))...)
	}
	return ofTheCall(sc, out)
}

// ofTheCall leaves of the mended faults those that the call's complaint can be of,
// where there are others: what they teach is counted for that complaint.
func ofTheCall(sc *scene.Scene, faults []string) []string {
	if all := sc.Complaints(); len(all) > 1 {
		return slices.DeleteFunc(faults, func(id string) bool { return all[0].Faults[id] <= 0 })
	}
	return faults
}
