package job

import (
	"slices"
	"strconv"
	"strings"

	"evensteps/core/english"
	"evensteps/core/lead"
	"evensteps/core/machine"
	"evensteps/core/record"
)

// foundCounts are the counts of lots on the way in, as they were found.
func foundCounts(s *record.State) map[string]int {
	out := map[string]int{}
	for _, t := range s.Turns {
		for key := range t.Counts {
			lot, side, _ := strings.Cut(key, "|")
			if n, known, differs := t.Total(lot, 0, side); side == "out" && known && !differs && n > 0 {
				out[lot] = n
			}
		}
	}
	return out
}

// slug is a model number as part of an id.
func slug(text string) string {
	var b strings.Builder
	for _, r := range strings.ToLower(text) {
		if r >= 'a' && r <= 'z' || r >= '0' && r <= '9' {
			b.WriteRune(r)
		} else if b.Len() > 0 && !strings.HasSuffix(b.String(), "-") {
			b.WriteByte('-')
		}
	}
	return strings.Trim(b.String(), "-")
}

// Draft is the job's map as it was found: its own rungs and corrections written
// in, as the beginning of a map for its model. What is still missing is said by
// the map's check.
func (b *Book) Draft(model string) *machine.Map {
	s := b.folds.Fold(b.Map, b.facts)
	m := *s.Whole
	m.Items, m.Moves, m.Fasteners = slices.Clone(m.Items), slices.Clone(m.Moves), slices.Clone(m.Fasteners)
	if b.Map.Plain() {
		name := slug(model)
		if name == "" {
			name = "new"
		}
		m.ID = m.Kind + "-" + name
		m.Title = strings.TrimSpace(english.Upper(m.Kind) + " " + model)
		if model != "" {
			m.Covers = []string{strings.ToUpper(strings.Join(strings.Fields(model), ""))}
		}
		m.Summary = "Begun on a job: " + b.Job.Title + ". To be completed."
		m.Sources = []string{"found on job " + b.Job.ID}
	}
	m.Revision = b.Map.Revision + 1
	kinds := map[string]string{} // a lot's own kind -> its id in the map
	for i := range m.Fasteners {
		f := &m.Fasteners[i]
		if strings.Contains(f.ID, "/") {
			kinds[f.ID] = strings.ReplaceAll(f.ID, "/", "-")
			f.ID = kinds[f.ID]
		}
	}
	counts := foundCounts(s)
	for i := range m.Moves {
		mv := &m.Moves[i]
		mv.Fasteners = slices.Clone(mv.Fasteners)
		for k := range mv.Fasteners {
			l := &mv.Fasteners[k]
			if id := kinds[l.Kind]; id != "" {
				l.Kind = id
			}
			if n, known := counts[mv.ID+"/"+strconv.Itoa(k+1)]; known {
				l.Count = n
			}
		}
		if len(mv.Do) == 0 && b.Map.Move(mv.ID) == nil {
			mv.Do = []string{mv.Title + "."}
		}
	}
	for i := range m.Items {
		it := &m.Items[i]
		it.Wires = slices.Clone(it.Wires)
		for k := range it.Wires {
			w := &it.Wires[k]
			if said := s.Wires[it.ID+"/"+w.Terminal]; len(said) > 0 {
				if b := said[len(said)-1].Of.(*record.WireSaid); b.Colour != lead.Whole {
					w.Colour, w.Stripe = b.Colour, b.Stripe
				}
			}
		}
	}
	return &m
}
