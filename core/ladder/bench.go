package ladder

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/record"
	"evensteps/core/tray"
	"evensteps/core/worth"
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

// Tray is one tray on the bench.
type Tray struct {
	Tray   string  `json:"tray"`
	Kind   string  `json:"kind"` // what lies in it, or is to come into it
	Noun   string  `json:"noun"`
	Holds  int     `json:"holds"`   // lies in it now
	ToCome int     `json:"to_come"` // comes into it at this rung
	GoHome int     `json:"go_home"` // leaves it at this rung
	From   string  `json:"from"`
	Lit    bool    `json:"lit"`
	Lots   []LotIn `json:"lots"`
}

// LotIn is a lot that lies in a tray.
type LotIn struct {
	Lot   string `json:"lot"`
	Count int    `json:"count"`
	Home  string `json:"home"` // the rung where it goes home
}

// Row is one line of what is between here and even.
type Row struct {
	What string `json:"what"`
	Say  string `json:"say"`
	Snag string `json:"snag"` // the snag it speaks of, if it is one
}

func (v *viewing) mustCount(l *machine.Lot) bool { return !l.Loosen && tray.MustCount(v.Map, *l) }

// energies says of each what is known, and never more.
func (v *viewing) energies() {
	v.view.Energies = []Energy{}
	for i := range v.Map.Energies {
		e := &v.Map.Energies[i]
		out := Energy{Energy: e.ID, Name: e.Name, Kind: e.Kind, Level: v.at[e.ID]}
		if out.Level == "" {
			out.Level = machine.Live
		}
		p := v.Proofs[e.ID]
		switch live := v.SetLive[e.ID]; {
		case out.Level == machine.Proven && p != nil:
			at := p.Fact.When()
			out.Say, out.By, out.At, out.Reading, out.How, out.Note = "proven dead", v.name(p.Fact.By), &at, p.Highest, p.How, p.Note
			if e.Kind != "mains" && e.Kind != "charge" && e.Kind != "heat" {
				out.Say = "proven off"
			}
			if p.Proof != nil {
				out.Meter = p.Proof.Meter
				out.Note = noted(out.Note, v.overdue(p.Proof.Meter, at))
			}
		case live != nil:
			at := live.When()
			out.Say, out.How, out.By, out.At, out.Warn = "on", "Set live: "+v.saidShort(live)+". It counts as live until it is shut off again.", v.name(live.By), &at, true
		case out.Level.Rank() > 0:
			out.Say, out.How, out.Warn = "off, not proven", "Treat as live until measured.", true
			if p != nil && p.Ended != nil {
				out.How = "The proof has ended. Prove it again."
			}
		default:
			out.Say, out.How, out.Warn = "live", "As the machine runs.", true
			if p != nil {
				out.Say = "on again"
				if p.Ended != nil {
					at := p.Ended.When()
					out.By, out.At, out.How = v.name(p.Ended.By), &at, ""
				}
			}
		}
		v.view.Energies = append(v.view.Energies, out)
	}
	least := 3
	for _, e := range v.view.Energies {
		if rank := e.Level.Rank(); rank < least {
			least, v.view.Worst = rank, e.Energy
		}
	}
}

// trays says which lot goes into which tray, and what lies in each. What was
// put into a tray stays in it, whatever comes later.
func (v *viewing) trays() {
	v.letters = map[string]string{}
	v.view.Trays, v.view.Bags = []Tray{}, []tray.Bag{}
	have := tray.Enough
	if t := v.book.Job.Trays; t != nil {
		have = *t
	}
	if t := v.Bench.Trays; t != nil {
		have = *t
	}
	var lots []tray.Lot
	was := map[string]string{} // trays that are empty again
	for _, id := range v.order {
		mv := v.Map.Move(id)
		if mv == nil {
			continue
		}
		turn := v.turnOf(id)
		for _, lot := range tray.LotsOf(mv) {
			if v.thrownAway(mv, lot.ID) && (turn == nil || turn.Trays[lot.ID] == "") {
				continue
			}
			if turn != nil {
				lot.In = turn.Trays[lot.ID]
				if turn.Back != nil && lot.In != "" && !slices.Contains(v.wayIn(), id) {
					was[lot.ID] = lot.In
					continue
				}
				if turn.Back != nil {
					lot.In = ""
				}
			}
			lots = append(lots, lot)
		}
	}
	arranged := tray.Arrange(v.Map, lots, have)
	v.view.Bags = arranged.Bags
	for _, t := range arranged.Trays {
		v.view.Trays = append(v.view.Trays, v.tray(t))
	}
	for _, lot := range sorted(was) {
		v.letters[lot] = was[lot]
		if !slices.ContainsFunc(v.view.Trays, func(t Tray) bool { return t.Tray == was[lot] }) {
			kind := v.lotKind(lot)
			v.view.Trays = append(v.view.Trays, Tray{Tray: was[lot], Kind: tray.KindName(kind), Noun: tray.Noun(kind), Lots: []LotIn{}})
		}
	}
	slices.SortStableFunc(v.view.Trays, func(a, b Tray) int {
		return cmp.Or(cmp.Compare(len(a.Tray), len(b.Tray)), cmp.Compare(a.Tray, b.Tray))
	})
}

// lotKind is the kind of a lot, nil where the map does not know it.
func (v *viewing) lotKind(id string) *machine.Fastener {
	mv := v.Map.Move(moveOf(id))
	if mv == nil {
		return nil
	}
	for i := range mv.Fasteners {
		if lotID(mv, i) == id {
			return v.Map.Fastener(mv.Fasteners[i].Kind)
		}
	}
	return nil
}

// tray is one tray as it stands: what lies in it, and where that goes home.
func (v *viewing) tray(t tray.Tray) Tray {
	out := Tray{Tray: t.Letter, Lots: []LotIn{}}
	var kinds []string
	for _, id := range t.Kinds {
		kind := v.Map.Fastener(id)
		kinds = append(kinds, tray.KindName(kind))
		out.Noun = tray.Noun(kind)
	}
	out.Kind = strings.Join(kinds, "; ")
	var from []string
	for _, lot := range t.Lots {
		v.letters[lot.ID] = t.Letter
		turn := v.turnOf(lot.Move())
		if turn == nil || turn.Back != nil {
			continue
		}
		if n := v.lies(turn, lot); n > 0 {
			out.Holds += n
			out.Lots = append(out.Lots, LotIn{lot.ID, n, v.moveName(lot.Move())})
			from = append(from, lower(v.moveName(lot.Move())))
		}
	}
	out.From = strings.Join(from, ", ")
	return out
}

// lies is how many of a lot lie in its tray: those that came out and neither
// went home nor were dropped or lost on the way.
func (v *viewing) lies(turn *record.Turn, lot tray.Lot) int {
	n, known, _ := turn.Total(lot.ID, lot.Count, "out")
	if !known && len(turn.Outs) > 0 && !turn.Found {
		n = lot.Count
	}
	home, _, _ := turn.Total(lot.ID, n, "back")
	return max(0, n-home-turn.Astray(lot.ID))
}

// bench lights the trays of the present rung and lists what is off.
func (v *viewing) bench() {
	w := v.view
	w.Off, w.Plugs = []Off{}, []Plug{}
	if mv := v.Map.Move(w.Current.Move); mv != nil {
		turn := v.turnOf(mv.ID)
		if turn != nil && turn.Back != nil {
			turn = nil
		}
		for i := range mv.Fasteners {
			l := &mv.Fasteners[i]
			k := slices.IndexFunc(w.Trays, func(t Tray) bool { return t.Tray == v.letters[lotID(mv, i)] })
			if l.Loosen || k < 0 {
				continue
			}
			w.Trays[k].Lit = true
			in := 0
			for _, lot := range w.Trays[k].Lots {
				if lot.Lot == lotID(mv, i) {
					in = lot.Count
				}
			}
			if w.Current.Side == "back" {
				w.Trays[k].GoHome += in
			} else {
				w.Trays[k].ToCome += max(0, l.Count-in)
			}
		}
	}
	for i := len(v.Standing) - 1; i >= 0; i-- { // what comes back first stands first
		mv := v.Map.Move(v.Standing[i])
		if mv == nil {
			w.Off = append(w.Off, Off{Item: v.Standing[i], Name: v.Standing[i], Level: machine.Away, Move: v.Standing[i], Where: "not in the map"})
			continue
		}
		for k := range v.Map.Items {
			it := &v.Map.Items[k]
			level := mv.Takes[it.ID]
			if level == "" || it.Type == "state" {
				continue
			}
			if it.Type == "connector" {
				w.Plugs = append(w.Plugs, v.plug(mv, it, v.turnOf(mv.ID), "back"))
				continue
			}
			if slices.ContainsFunc(w.Off, func(o Off) bool { return o.Item == it.ID }) {
				continue // loosened first, then off: once is enough
			}
			w.Off = append(w.Off, Off{Item: it.ID, Name: it.Name, Level: level, Move: mv.ID, Where: v.where(mv)})
		}
	}
}

func (v *viewing) where(mv *machine.Move) string {
	if v.view.Current.Kind == "back" && v.view.Current.Move == mv.ID {
		return "in your hands"
	}
	var words []string
	if mv.Lay != "" {
		words = append(words, mv.Lay)
	}
	var letters []string
	for i := range mv.Fasteners {
		if l := v.letters[lotID(mv, i)]; l != "" && !slices.Contains(letters, l) {
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

// tally counts by kind: 39 screws, 1 nut, 2 washers.
type tally struct {
	nouns  []string
	counts map[string]int
}

func (t *tally) add(n int, noun string) {
	if t.counts == nil {
		t.counts = map[string]int{}
	}
	if n > 0 && t.counts[noun] == 0 {
		t.nouns = append(t.nouns, noun)
	}
	t.counts[noun] += n
}

func (t *tally) String() string {
	var words []string
	for _, noun := range t.nouns {
		words = append(words, count(t.counts[noun], noun))
	}
	return strings.Join(words, ", ")
}

// summary says in a few lines what is between here and even.
func (v *viewing) summary() {
	w := v.view
	rungs := len(v.toComeBack())
	var held tally
	for _, t := range w.Trays {
		for _, l := range t.Lots {
			held.add(l.Count, tray.Noun(v.lotKind(l.Lot)))
		}
	}
	fasteners := held.String()
	w.Between = []Row{}
	if rungs > 0 {
		say := count(rungs, "rung")
		if fasteners != "" {
			say += ", " + fasteners
		}
		w.Between = append(w.Between, Row{What: "To come back", Say: say})
	}
	open := 0
	for _, s := range w.Snags {
		if s.Explained != nil {
			continue
		}
		open++
		switch {
		case !s.Regular:
			w.Between = append(w.Between, Row{snagWord(s.Grade), s.Say, s.ID})
		case s.Kind == "check-due":
			w.Between = append(w.Between, Row{"Check", lower(s.Say), s.ID})
		case s.Kind == "energy-off":
			w.Between = append(w.Between, Row{"Restore", lower(v.itemName(s.On)), s.ID})
		case s.Kind == "final-due":
			w.Between = append(w.Between, Row{"Final", lower(s.Say), s.ID})
		case s.Kind == "temporary-in":
			w.Between = append(w.Between, Row{"Inside", lower(s.Say), s.ID})
		case s.Kind == "earth-unmeasured":
			w.Between = append(w.Between, Row{"Earth", lower(v.itemName(s.On)) + ", to measure", s.ID})
		case s.Kind == "cause-open":
			w.Between = append(w.Between, Row{"Cause", lower(s.Say), s.ID})
		case s.Kind == "piece-open":
			w.Between = append(w.Between, Row{"Part", lower(s.Say), s.ID})
		case s.Kind == "goal-open":
			w.Between = append(w.Between, Row{"Work", lower(s.Say), s.ID})
		}
	}
	w.Closed = rungs == 0 && len(v.Goals) > 0 && !v.repaired()
	w.Even = open == 0 && !w.Closed
	if v.SignedBy != nil {
		w.Signed = &Stamp{v.fullName(v.SignedBy.By), v.SignedBy.When()}
	}
	out, back := 0, 0
	for _, r := range w.Rungs {
		if r.Kind != "check" && r.Back != None {
			if r.Out == Done {
				out++
			}
			if r.Back == Done {
				back++
			}
		}
	}
	switch {
	case v.off():
		w.Headline = "Called off"
	case w.Even && v.SignedBy != nil:
		w.Headline = "Even, signed off"
	case w.Even:
		w.Headline = "Even"
	case w.Closed:
		w.Headline = "Closed, not repaired"
	default:
		w.Headline = short(len(w.Between)) + " short of even"
	}
	words := []string{fmt.Sprintf("%d of %s back", back, count(out, "rung"))}
	if fasteners != "" {
		words = append(words, fasteners+" still out")
	} else if out > 0 {
		words = append(words, "no fastener out")
	}
	w.Standing = strings.Join(words, " · ")
	w.SignOff = Touch{Label: "Sign off", Says: "all that came off is back, counted and proven", Open: []string{}, Makes: []Make{made("signed-off", map[string]any{})}, Half: []Make{}}
	switch {
	case w.Closed:
		w.SignOff.Says = "closed, not repaired"
	case !w.Even:
		w.SignOff.Label, w.SignOff.Says = "Sign off when even", lower(w.Headline)
		for _, r := range w.Between {
			w.SignOff.Open = append(w.SignOff.Open, r.What+": "+r.Say)
		}
	}
	v.foot(rungs)
}

func snagWord(g Grade) string {
	switch g {
	case StopGrade:
		return "Stop"
	case NoteGrade:
		return "Note"
	}
	return "Snag"
}

func short(n int) string {
	words := []string{"Nothing", "One thing", "Two things", "Three things", "Four things", "Five things", "Six things", "Seven things", "Eight things", "Nine things"}
	if n < len(words) {
		return words[n]
	}
	return count(n, "thing")
}

func (v *viewing) foot(off int) {
	f := &v.view.Foot
	f.Off, f.Made = off, 0
	for _, r := range v.view.Rungs {
		if r.Kind != "check" {
			f.Rungs++
			if r.Out == Done {
				f.Made++
			}
		}
	}
	switch {
	case len(v.rest) > 0:
		f.Title = v.goalName(v.rest[0])
		if len(v.rest) > 1 {
			f.Title += fmt.Sprintf(", and %d more", len(v.rest)-1)
		}
	case v.looking():
		f.Title = "What is wrong is still to be found"
	case len(v.Goals) > 0:
		g := v.Goals[len(v.Goals)-1]
		if w := v.ownWork(); w != nil {
			g = w
		}
		f.Title = v.goalName(g.Goal) + ": " + g.Reason
		if g.Open {
			f.Title = v.goalName(g.Goal)
		} else if g.Reason == "" {
			f.Title = v.goalDone(g.Goal)
		}
	default:
		f.Title = "No goal yet"
	}
	if p := v.planned.plan; p != nil && !v.looking() {
		var steps []float64
		for _, id := range p.WayIn {
			steps = append(steps, v.Map.Move(id).Minutes.Out)
		}
		for _, s := range p.WayBack {
			steps = append(steps, v.stepMinutes(s))
		}
		for _, id := range v.finalsDue() {
			steps = append(steps, v.Map.Final(id).Minutes)
		}
		f.P50, f.P80 = worth.Band(steps, p.Minutes.TurnsAndToolsIn+p.Minutes.TurnsAndToolsBack)
		f.Doubt = p.Doubt()
	}
}

func (v *viewing) stepMinutes(s plan.Step) float64 {
	switch {
	case s.Check != "":
		return v.Map.Check(s.Check).Minutes
	case s.By != "":
		return v.Map.Move(s.By).Minutes.Back
	}
	return v.Map.Move(s.Undo).Minutes.Back
}
