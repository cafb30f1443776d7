package ladder

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/tray"
)

// HandOver is the state of the open machine on one page, so that anyone can take
// it up: what can hurt, what is off and where it lies, which leads bear which
// tags, what is inside, what is next and what to bring.
type HandOver struct {
	Title   string   `json:"title"`
	Machine string   `json:"machine"`
	State   string   `json:"state"`
	Hurts   []Row    `json:"hurts"`
	Off     []Row    `json:"off"`
	Trays   []Row    `json:"trays"`
	Leads   []Row    `json:"leads"`
	Inside  []Row    `json:"inside"`
	Next    []string `json:"next"`
	Open    []string `json:"open"` // what is to be settled
	Bring   []string `json:"bring"`
	Notes   []Remark `json:"notes"`
	Tag     []string `json:"tag"` // the lines of the tag for the machine
	// Since is what others recorded since this viewer last did.
	Since []Remark `json:"since"`
	Last  *Stamp   `json:"last"` // when this viewer last recorded
}

// mostSince is how many records are told to who takes over; the newest count.
const mostSince = 40

func (v *viewing) handOver() {
	w := v.view
	h := HandOver{
		Title: w.Title, Machine: w.Machine, State: w.Headline + ". " + w.Standing + ".", Hurts: []Row{}, Off: []Row{}, Trays: []Row{}, Leads: []Row{}, Inside: w.Inside,
		Next: []string{}, Open: []string{}, Bring: w.Visit.Bring, Notes: []Remark{}, Tag: []string{}, Since: []Remark{},
	}
	for _, o := range w.OutOfUse {
		h.Hurts = append(h.Hurts, Row{What: "Out of use", Say: lower(o.Name) + ", told by telephone. Nobody uses it."})
	}
	for _, e := range w.Energies {
		say := e.Say
		if e.Reading != "" {
			say += ", " + e.Reading
		}
		if e.Level == machine.Proven {
			if p := v.Proofs[e.Energy]; p != nil {
				say += " by " + v.fullName(p.Fact.By)
			}
			say += ". Ends when the job is left or taken over: measure again"
		} else if e.How != "" {
			say += ". " + strings.TrimSuffix(e.How, ".")
		}
		h.Hurts = append(h.Hurts, Row{What: e.Name, Say: say + "."})
	}
	for _, l := range w.Loose {
		h.Hurts = append(h.Hurts, Row{What: l.Say, Say: "since: " + lower(l.Move) + " off."})
	}
	for _, o := range w.Off {
		h.Off = append(h.Off, Row{What: o.Name, Say: o.Where})
	}
	for _, t := range w.Trays {
		for _, l := range t.Lots {
			h.Trays = append(h.Trays, Row{What: "Tray " + t.Tray, Say: fmt.Sprintf("%s, %s. Home: %s", count(l.Count, tray.Noun(v.lotKind(l.Lot))), v.lotName(l.Lot), l.Home)})
		}
	}
	for _, b := range w.Bags {
		if t := v.turnOf(moveOf(b.Lot)); t != nil && t.Open() {
			h.Trays = append(h.Trays, Row{What: "Bag", Say: b.Label})
		}
	}
	for _, p := range w.Plugs {
		for _, l := range p.Wires {
			if l.Tag > 0 {
				h.Leads = append(h.Leads, Row{What: fmt.Sprintf("Tag %d", l.Tag), Say: fmt.Sprintf("%s, %s: %s", p.Name, l.label(), l.Says)})
			}
		}
		if len(h.Leads) == 0 || !slices.ContainsFunc(p.Wires, func(l Wire) bool { return l.Tag > 0 }) {
			h.Leads = append(h.Leads, Row{What: p.Name, Say: "apart, " + p.Note})
		}
	}
	switch c := w.Current; {
	case c.Task != nil:
		h.Next = append(h.Next, c.Task.Title)
	case c.Move != "":
		h.Next = append(h.Next, v.nextSay(c))
	case c.Say != "":
		h.Next = append(h.Next, c.Say)
	}
	for _, g := range w.Goals {
		if g.Open && !slices.Contains(h.Next, g.Name) {
			h.Next = append(h.Next, "To do: "+g.Name)
		}
	}
	for _, s := range w.Snags {
		if !s.Regular && s.Explained == nil {
			h.Open = append(h.Open, s.Say)
		}
	}
	for _, f := range v.Notes {
		h.Notes = append(h.Notes, Remark{f.Of.(*record.Note).Text, v.fullName(f.By), f.When()})
	}
	h.Tag = v.tag(&h)
	v.since(&h)
	w.HandOver = h
}

func (v *viewing) nextSay(c Current) string {
	if s := v.sideOf(c.Move, c.Side); s != nil {
		return s.Title
	}
	return v.moveName(c.Move)
}

// tag is what hangs on the machine while nobody is there.
func (v *viewing) tag(h *HandOver) []string {
	lines := []string{"DO NOT USE. Opened for repair.", h.Title}
	for _, e := range v.view.Energies {
		if e.Level != machine.Live {
			lines = append(lines, e.Name+" off. Treat it as live until you have measured.")
		}
	}
	for _, l := range v.view.Loose {
		lines = append(lines, l.Say+".")
	}
	if n := len(h.Off); n > 0 {
		lines = append(lines, count(n, "piece")+" off the machine.")
	}
	for _, r := range h.Inside {
		lines = append(lines, "Inside: "+r.What+".")
	}
	return lines
}

// since lists what others recorded after this viewer's last own record, the
// newest first.
func (v *viewing) since(h *HandOver) {
	last := -1
	for i := range v.Facts {
		f := &v.Facts[i]
		if f.By != v.viewer.Person {
			continue
		}
		switch f.Of.(type) {
		case *record.TookOver, *record.VisitBegan:
		default:
			last = i
			h.Last = &Stamp{v.fullName(f.By), f.When()}
		}
	}
	for i := len(v.Facts) - 1; i > last && len(h.Since) < mostSince; i-- {
		f := &v.Facts[i]
		if f.By == v.viewer.Person {
			continue
		}
		switch f.Of.(type) {
		case *record.VisitBegan, *record.VisitEnded, *record.Withdrawn:
			continue
		}
		h.Since = append(h.Since, Remark{upper(v.saidShort(f)), v.fullName(f.By), f.When()})
	}
}

// asFound is what was so before the record began.
func (v *viewing) asFound() []string {
	out := []string{}
	for _, f := range v.AsFound {
		b := f.Of.(*record.Found)
		say := ""
		if b.Move != "" {
			say = v.moveName(b.Move) + ": off already"
			if b.By != "" && b.By != f.By {
				say += ", by " + v.fullName(b.By)
			}
		} else {
			say = v.itemName(b.Item) + ": " + b.State
		}
		if b.Photo != "" {
			say += ", with a photo"
		}
		out = append(out, fmt.Sprintf("%s (%s, %s).", say, v.fullName(f.By), f.When().UTC().Format(time.DateOnly)))
	}
	if f := v.Results["as-found"]; f != nil && f.Of.(*record.TestResult).Outcome != record.NotDone {
		if t := v.Map.Test("as-found"); t != nil {
			say := v.outcomeSays("as-found", f.Of.(*record.TestResult).Outcome)
			if n := len(v.photosOf(func(on string) bool { return on == "as-found" }, nil)); n > 0 {
				say += ", with " + count(n, "photo")
			}
			out = append(out, say+" ("+v.fullName(f.By)+").")
		}
	}
	return out
}
