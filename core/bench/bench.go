// Package bench is what lies around the machine while it is open: energies with
// their proofs, trays, what is off, what must not stay inside.
package bench

import (
	"slices"
	"strings"
	"time"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/reading"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/steps"
	"evensteps/core/tray"
	"evensteps/core/view"
)

// Energy is what can still hurt, with who proved it off, when, with what.
type Energy struct {
	Energy  string        `json:"energy"`
	Name    string        `json:"name"`
	Kind    string        `json:"kind"`
	Level   machine.Level `json:"level"`
	Say     string        `json:"say"`
	How     string        `json:"how"`
	By      string        `json:"by"`
	At      *time.Time    `json:"at"`
	Reading string        `json:"reading"`
	Meter   string        `json:"meter"`
	Note    string        `json:"note"` // what stands beside the proof
	Warn    bool          `json:"warn"`
}

// Off is something that is off the machine now.
type Off struct {
	Item  string        `json:"item"`
	Name  string        `json:"name"`
	Level machine.Level `json:"level"`
	Move  string        `json:"move"`
	Where string        `json:"where"`
}

// Energies says of each what is known, and never more.
func Energies(sc *scene.Scene) (all []Energy, worst string) {
	all = []Energy{}
	for i := range sc.Map.Energies {
		e := &sc.Map.Energies[i]
		out := Energy{Energy: e.ID, Name: e.Name, Kind: e.Kind, Level: sc.Level[e.ID]}
		if out.Level == "" {
			out.Level = machine.Live
		}
		p := sc.Proofs[e.ID]
		switch live := sc.SetLive[e.ID]; {
		case out.Level == machine.Proven && p != nil:
			at := p.Fact.When()
			out.Say, out.By, out.At, out.Reading, out.How, out.Note = steps.Tested(e), sc.Name(p.Fact.By), &at, p.Highest, p.How, p.Note
			if p.Proof != nil {
				out.Meter = p.Proof.Meter
				out.Note = english.Sentences(out.Note, sc.Overdue(p.Proof.Meter, at))
			}
			if ago := sc.Unheard(p); ago != "" {
				out.Say, out.Warn = out.Say+", as heard "+ago, true
				out.Note = english.Sentences("No word from the other device since. Ask who is there, or test again.", out.Note)
			}
		case live != nil:
			at := live.When()
			out.Say, out.How, out.By, out.At, out.Warn = "on", "Set live: "+sc.Short(live)+". It counts as live until it is shut off again.", sc.Name(live.By), &at, true
		case out.Level.Rank() > 0:
			out.Say, out.How, out.Warn = "off, not tested", "Treat as live until measured.", true
			if p != nil && p.Ended != nil {
				out.How = "Test expired. Test again."
			}
		default:
			out.Say, out.Warn = "on", true
			if p != nil {
				out.Say = "on again"
				if p.Ended != nil {
					at := p.Ended.When()
					out.By, out.At, out.How = sc.Name(p.Ended.By), &at, ""
				}
			}
		}
		all = append(all, out)
	}
	least := 3
	for _, e := range all {
		if rank := e.Level.Rank(); rank < least {
			least, worst = rank, e.Energy
		}
	}
	return all, worst
}

// Trays are those on the bench; those of the present rung are lit.
func Trays(sc *scene.Scene) []scene.Tray {
	trays := slices.Clone(sc.Trays)
	mv := sc.Map.Move(sc.On.Move)
	if mv == nil {
		return trays
	}
	for i := range mv.Fasteners {
		l := &mv.Fasteners[i]
		id := named.LotID(mv, i)
		k := slices.IndexFunc(trays, func(t scene.Tray) bool { return t.Tray == sc.Letters[id] })
		if l.Loosen || k < 0 {
			continue
		}
		trays[k].Lit = true
		in := 0
		for _, lot := range trays[k].Lots {
			if lot.Lot == id {
				in = lot.Count
			}
		}
		if sc.On.Side == "back" {
			trays[k].GoHome += in
		} else {
			trays[k].ToCome += max(0, l.Count-in)
		}
	}
	return trays
}

// Lying is what lies in trays, by kind: "39 screws, 1 nut".
func Lying(sc *scene.Scene) string {
	var held english.Tally
	for _, t := range sc.Trays {
		for _, l := range t.Lots {
			held.Add(l.Count, tray.Noun(sc.Names.Kind(l.Lot)))
		}
	}
	return held.String()
}

// Away is what is off the machine, what comes back first standing first, and the
// connectors that are apart.
func Away(sc *scene.Scene) (off []Off, plugs []steps.Plug) {
	off, plugs = []Off{}, []steps.Plug{}
	for i := len(sc.Standing) - 1; i >= 0; i-- {
		mv := sc.Map.Move(sc.Standing[i])
		if mv == nil {
			off = append(off, Off{Item: sc.Standing[i], Name: sc.Standing[i], Level: machine.Away, Move: sc.Standing[i], Where: "not in the map"})
			continue
		}
		for k := range sc.Map.Items {
			it := &sc.Map.Items[k]
			level := mv.Takes[it.ID]
			if level == "" || it.Type == "state" {
				continue
			}
			if it.Type == "connector" {
				plugs = append(plugs, steps.PlugOf(sc, mv, it, sc.TurnOf(mv.ID), "back"))
				continue
			}
			if slices.ContainsFunc(off, func(o Off) bool { return o.Item == it.ID }) {
				continue // loosened first, then off: once is enough
			}
			off = append(off, Off{Item: it.ID, Name: it.Name, Level: level, Move: mv.ID, Where: where(sc, mv)})
		}
	}
	return off, plugs
}

func where(sc *scene.Scene, mv *machine.Move) string {
	if sc.On.Kind == "back" && sc.On.Move == mv.ID {
		return "in your hands"
	}
	var words []string
	if mv.Lay != "" {
		words = append(words, mv.Lay)
	}
	var letters []string
	for i := range mv.Fasteners {
		if l := sc.Letters[named.LotID(mv, i)]; l != "" && !slices.Contains(letters, l) {
			letters = append(letters, l)
		}
	}
	if len(letters) > 0 {
		slices.Sort(letters)
		words = append(words, "tray "+strings.Join(letters, ", "))
	}
	if len(words) == 0 {
		return "on the bench"
	}
	return strings.Join(words, ", ")
}

// Loose is what is no longer held.
type Loose struct {
	Say  string `json:"say"`
	Move string `json:"move"`
}

// CutTo is how long a temporary that is cut to measure has to be.
type CutTo struct {
	Temporary string  `json:"temporary"`
	MM        float64 `json:"mm"`
	Say       string  `json:"say"`
}

// Own is a belonging found inside, and to whom it went.
type Own struct {
	What  string `json:"what"`
	Where string `json:"where"`
	To    string `json:"to"`
}

// NoLonger is what is no longer held by anything, by what stands.
func NoLonger(sc *scene.Scene) []Loose {
	out := []Loose{}
	for _, id := range sc.Standing {
		mv := sc.Map.Move(id)
		if mv != nil && mv.LeavesLoose != nil && !slices.ContainsFunc(mv.LeavesLoose.Unless, sc.Stands) {
			out = append(out, Loose{mv.LeavesLoose.Say, mv.Name()})
		}
	}
	return out
}

// Within is what was put in and is not out, what has to be cut, and what was found
// that is not the company's.
type Within struct {
	Temporaries []string
	Cuts        []CutTo
	Belongings  []Own
	Rows        []view.Row // what must not stay, by name
}

// Inside lists it.
func Inside(sc *scene.Scene) Within {
	w := Within{[]string{}, []CutTo{}, []Own{}, []view.Row{}}
	for _, t := range sc.Temps {
		if t.Inside() {
			w.Temporaries = append(w.Temporaries, t.ID)
			w.Rows = append(w.Rows, view.Row{What: t.Name, Say: "put in by " + sc.Name(t.In.By)})
		}
	}
	for i := range sc.Map.Moves {
		for _, p := range sc.Map.Moves[i].PutsIn {
			if mm := steps.Cut(sc, p); mm > 0 {
				w.Cuts = append(w.Cuts, CutTo{p.ID, mm, sc.Units().Say(reading.Length, mm)})
			}
		}
	}
	for _, f := range sc.Belongings {
		b := f.Of.(*record.Belonging)
		w.Belongings = append(w.Belongings, Own{b.What, b.Where, b.To})
		if b.To == "" {
			w.Rows = append(w.Rows, view.Row{What: b.What, Say: "the customer's"})
		}
	}
	return w
}
