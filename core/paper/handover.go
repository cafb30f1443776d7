package paper

import (
	"fmt"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/steps"
	"evensteps/core/tray"
	"evensteps/core/view"
)

// HandOver is the state of the open machine on one page, so that anyone can take
// it up: what can hurt, what is off and where it lies, which leads bear which
// tags, what is inside, what is next and what to bring.
type HandOver struct {
	Title   string        `json:"title"`
	Machine string        `json:"machine"`
	State   string        `json:"state"`
	Hurts   []view.Row    `json:"hurts"`
	Off     []view.Row    `json:"off"`
	Trays   []view.Row    `json:"trays"`
	Leads   []view.Row    `json:"leads"`
	Inside  []view.Row    `json:"inside"`
	Next    []string      `json:"next"`
	Open    []string      `json:"open"` // what is to be settled
	Bring   []string      `json:"bring"`
	Notes   []view.Remark `json:"notes"`
	Tag     []string      `json:"tag"` // the lines of the tag for the machine
	// Since is what others recorded since this viewer last did.
	Since []view.Remark `json:"since"`
	Last  *view.Stamp   `json:"last"` // when this viewer last recorded
}

// mostSince is how many records are told to who takes over; the newest count.
const mostSince = 40

// HandOverOf writes it.
func HandOverOf(sc *scene.Scene, w From) HandOver {
	h := HandOver{
		Title: sc.Job.Title, Machine: sc.Map.Title, State: w.Headline + ". " + w.Standing + ".", Hurts: []view.Row{}, Off: []view.Row{}, Trays: []view.Row{}, Leads: []view.Row{}, Inside: w.Inside.Rows,
		Next: []string{}, Open: []string{}, Bring: w.Bring, Notes: []view.Remark{}, Tag: []string{}, Since: []view.Remark{},
	}
	for _, o := range w.OutOfUse {
		h.Hurts = append(h.Hurts, view.Row{What: "Out of use", Say: english.Lower(o.Name) + ", told by telephone. Nobody uses it."})
	}
	for _, e := range w.Energies {
		say := e.Say
		if e.Reading != "" {
			say += ", " + e.Reading
		}
		if e.Level == machine.Proven {
			if p := sc.Proofs[e.Energy]; p != nil {
				say += " by " + sc.FullName(p.Fact.By)
			}
			say += ". Ends when the job is left or taken over: measure again"
		} else if e.How != "" {
			say += ". " + strings.TrimSuffix(e.How, ".")
		}
		h.Hurts = append(h.Hurts, view.Row{What: e.Name, Say: say + "."})
	}
	for _, l := range w.Loose {
		h.Hurts = append(h.Hurts, view.Row{What: l.Say, Say: "since " + english.Lower(l.Move) + " off."})
	}
	for _, o := range w.Off {
		h.Off = append(h.Off, view.Row{What: o.Name, Say: o.Where})
	}
	for _, t := range w.Trays {
		for _, l := range t.Lots {
			h.Trays = append(h.Trays, view.Row{What: "Tray " + t.Tray, Say: fmt.Sprintf("%s, %s. Goes back at: %s.", english.Count(l.Count, tray.Noun(sc.Names.Kind(l.Lot))), sc.Names.Lot(l.Lot), l.Home)})
		}
	}
	for _, b := range sc.Bags {
		if t := sc.TurnOf(named.Head(b.Lot)); t != nil && t.Open() {
			h.Trays = append(h.Trays, view.Row{What: "Bag", Say: b.Label})
		}
	}
	for _, p := range w.Plugs {
		for _, l := range p.Wires {
			if l.Tag > 0 {
				h.Leads = append(h.Leads, view.Row{What: fmt.Sprintf("Tag %d", l.Tag), Say: fmt.Sprintf("%s, %s: %s", p.Name, l.Label(), l.Says)})
			}
		}
		if len(h.Leads) == 0 || !slices.ContainsFunc(p.Wires, func(l steps.Wire) bool { return l.Tag > 0 }) {
			h.Leads = append(h.Leads, view.Row{What: p.Name, Say: "apart, " + p.Note})
		}
	}
	switch c := w.Current; {
	case c.Task != nil:
		h.Next = append(h.Next, c.Task.Title)
	case c.Move != "":
		h.Next = append(h.Next, nextSay(sc, w, c))
	case c.Say != "":
		h.Next = append(h.Next, c.Say)
	}
	for _, g := range sc.Goals {
		if name := sc.Names.Goal(g.Goal); g.Open && !slices.Contains(h.Next, name) {
			h.Next = append(h.Next, "To do: "+name)
		}
	}
	for _, s := range w.Snags {
		if !s.Regular && s.Explained == nil {
			h.Open = append(h.Open, s.Say)
		}
	}
	for _, f := range sc.Notes {
		h.Notes = append(h.Notes, view.Remark{Text: f.Of.(*record.Note).Text, By: sc.FullName(f.By), At: f.When()})
	}
	h.Tag = tag(w, &h)
	since(sc, &h)
	return h
}

func nextSay(sc *scene.Scene, w From, c steps.Current) string {
	if s := steps.SideOf(w.Rungs, c.Move, c.Side); s != nil {
		return s.Title
	}
	return sc.Names.Move(c.Move)
}

// tag is what hangs on the machine while nobody is there.
func tag(w From, h *HandOver) []string {
	lines := []string{"DO NOT USE. Opened for repair.", h.Title}
	for _, e := range w.Energies {
		if e.Level != machine.Live {
			lines = append(lines, e.Name+" off. Treat it as live until you have measured.")
		}
	}
	for _, l := range w.Loose {
		lines = append(lines, l.Say+".")
	}
	if n := len(h.Off); n > 0 {
		lines = append(lines, english.Count(n, "piece")+" off the machine.")
	}
	for _, r := range h.Inside {
		lines = append(lines, "Inside: "+r.What+".")
	}
	return lines
}

// since lists what others recorded after this viewer's last own record, the
// newest first.
func since(sc *scene.Scene, h *HandOver) {
	last := -1
	for i := range sc.Facts {
		f := &sc.Facts[i]
		if f.By != sc.Viewer.Person {
			continue
		}
		switch f.Of.(type) {
		case *record.TookOver, *record.VisitBegan:
		default:
			last = i
			h.Last = &view.Stamp{By: sc.FullName(f.By), At: f.When()}
		}
	}
	for i := len(sc.Facts) - 1; i > last && len(h.Since) < mostSince; i-- {
		f := &sc.Facts[i]
		if f.By == sc.Viewer.Person {
			continue
		}
		switch f.Of.(type) {
		case *record.VisitBegan, *record.VisitEnded, *record.Withdrawn:
			continue
		}
		h.Since = append(h.Since, view.Remark{Text: english.Upper(sc.Short(f)), By: sc.FullName(f.By), At: f.When()})
	}
}
