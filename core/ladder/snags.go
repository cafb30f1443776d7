package ladder

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/record"
	"evensteps/core/tray"
)

// Grade says how a snag can be settled: a stop only by another person's own
// inspection, a count by the missing fact or a reason, a note by either.
type Grade string

// The grades.
const (
	StopGrade  Grade = "stop"
	CountGrade Grade = "count"
	NoteGrade  Grade = "note"
)

// Snag is one thing that stands between the job and even. What is merely still
// to come is regular.
type Snag struct {
	ID        string  `json:"id"`
	Kind      string  `json:"kind"`
	Grade     Grade   `json:"grade"`
	On        string  `json:"on"`
	Rung      string  `json:"rung"`
	Regular   bool    `json:"regular"`
	Say       string  `json:"say"`
	Do        string  `json:"do"`
	Explained *Reason `json:"explained"`
	// Touches settle it; Explain says that a reason would.
	Touches []Touch `json:"touches"`
	Explain bool    `json:"explain"`
	Line    *Line   `json:"line"`  // the value that settles it, to be typed here
	Event   string  `json:"event"` // the fact that raised it, empty where none did
}

// Reason is an explanation with who gave it.
type Reason struct {
	Text string `json:"text"`
	By   string `json:"by"`
}

// snags collects all that stands between the job and even.
func (v *viewing) snags() {
	v.view.Snags, v.view.OutOfUse = []Snag{}, []OutOfUse{}
	explained := v.explained()
	add := func(s Snag) {
		s.Regular = s.Regular && v.SignedBy == nil // nothing is still to come once it is signed off
		free := s.Grade != StopGrade && (!s.Regular || s.Kind == "energy-off" && v.allElseBack())
		if f := explained[s.ID]; f != nil && free {
			s.Explained = &Reason{f.Of.(*record.SnagExplained).Reason, v.name(f.By)}
		}
		s.Explain = free && s.Explained == nil
		if s.Touches == nil {
			s.Touches = []Touch{}
		}
		v.view.Snags = append(v.view.Snags, s)
	}
	for _, f := range v.Stops {
		add(Snag{ID: "stopped::" + f.ID, Kind: "stopped", Grade: StopGrade, Say: "Stopped: " + f.Of.(*record.Stopped).Why, Do: "Lift the stop, and say by what."})
	}
	for _, f := range v.Told {
		v.outOfUse(f, add)
	}
	for _, r := range v.Raised {
		if !r.Done {
			add(v.raised(r))
		}
	}
	v.earthPathSnag(add)
	v.ticketSnags(add)
	for _, id := range v.toComeBack() {
		v.stillOff(id, add)
	}
	for _, f := range v.LeftOver {
		b := f.Of.(*record.LeftOver)
		what := strings.TrimSpace(b.Drive + " " + b.Size)
		if what == "" {
			what = "fastener"
		}
		s := Snag{ID: "over-unknown:" + what + ":" + f.ID, Kind: "over-unknown", Grade: CountGrade, On: v.book.Job.ID, Say: fmt.Sprintf("Left over, home unknown: %d of %s.", b.Count, what), Do: "Look where one is missing, or say why it may stay out."}
		if b.Where != "" {
			s.Say = strings.TrimSuffix(s.Say, ".") + ", " + b.Where + "."
		}
		add(s)
	}
	for _, t := range v.Turns {
		if len(t.Outs) > 0 {
			v.turnSnags(t, add)
		} else if mv := v.Map.Move(t.Move); mv != nil { // only begun, and one dropped already
			for i := range mv.Fasteners {
				v.unsettled(t, mv, i, add)
			}
		}
	}
	for _, id := range sorted(v.Checks) {
		v.checkSnags(id, v.Checks[id], add)
	}
	for _, id := range v.finalsDue() {
		f := v.Map.Final(id)
		s := Snag{Kind: "final-due", Grade: CountGrade, On: id, Regular: len(v.stays) == 0, Say: f.Title, Do: f.Pass}
		if r := v.Finals[id]; r != nil {
			s.Kind, s.Regular, s.Say = "final-failed", false, f.Title+": it failed."
			s.ID = "final-failed:" + id + ":" + r.ID
			s.Do = "Find out why, mend it, and run it again."
		} else {
			s.ID = "final-due:" + id + ":"
		}
		add(s)
	}
	for _, g := range v.Goals {
		if g.Open {
			add(Snag{ID: "goal-open:" + g.Goal + ":" + g.AddedBy.ID, Kind: "goal-open", Grade: CountGrade, On: g.Goal, Regular: true, Say: v.goalName(g.Goal), Do: "Fit it, or say why not."})
		}
	}
	v.insideSnags(add)
	v.wireSnags(add)
	v.partSnags(add)
	for i := range v.Map.Energies {
		e := &v.Map.Energies[i]
		if level := plan.Levels(v.Map, v.Standing, v.Found)[e.ID]; level.Rank() > 0 && v.comesBack(e.ID) {
			add(Snag{ID: "energy-off:" + e.ID + ":", Kind: "energy-off", Grade: CountGrade, On: e.ID, Regular: true, Say: e.Name + " is off.", Do: "Restore it on the way back."})
		}
	}
}

// comesBack tells whether an energy is there to be restored: what cooled down or
// was drawn off is not.
func (v *viewing) comesBack(id string) bool {
	return slices.ContainsFunc(v.Map.Moves, func(mv machine.Move) bool { return !mv.OneWay && mv.Takes[id] != "" })
}

func (v *viewing) raised(r *record.Raised) Snag {
	s := Snag{ID: r.ID(), Kind: r.Kind, Grade: CountGrade, On: r.On, Event: r.By.ID}
	who := upper(v.name(r.By.By))
	switch r.Kind {
	case "guard-unmet":
		s.Grade, s.Rung = StopGrade, r.On
		s.Say = fmt.Sprintf("%s: done while %s was not proven.", v.moveName(r.On), lower(v.itemName(r.Other)))
		s.Do = "Somebody else looks at what was done and records what they find."
		if r.Note {
			s.Grade = NoteGrade
			s.Say = fmt.Sprintf("%s: %s was proven late, before the next rung.", v.moveName(r.On), lower(v.itemName(r.Other)))
			s.Do = "Say why."
		}
	case "proof-lapsed":
		s.Grade = StopGrade
		s.Say = fmt.Sprintf("Work went on after the proof of %s had ended: %s.", lower(v.itemName(r.On)), v.saidShort(r.By))
		s.Do = "Somebody else looks at what was done and records what they find."
		if r.Note {
			s.Grade, s.Do = NoteGrade, "Measured again before the next rung. Say why so late."
		}
	case "out-of-order":
		id, level, _ := strings.Cut(r.Other, "=")
		s.Rung = r.On
		s.Say = fmt.Sprintf("%s: recorded, with no record of %s %s.", v.moveName(r.On), lower(v.itemName(id)), level)
		s.Do = "If that was so, record it; if not, say why."
		for _, mv := range v.Map.Moves {
			if r.Side == "out" && mv.Takes[id].Rank() >= machine.Level(level).Rank() && mv.Takes[id] != "" && !v.stands(mv.ID) {
				s.Touches = append(s.Touches, Touch{Label: mv.Name() + " was off", Open: []string{}, Makes: []Make{made("found", map[string]string{"move": mv.ID, "by": v.viewer.Person})}, Half: []Make{}})
				break
			}
		}
	case "back-without-out":
		s.Rung = r.On
		s.Say = fmt.Sprintf("%s: put back, though it was not out.", v.moveName(r.On))
		s.Do = "Say what was put back."
	case "off-again":
		s.Rung = r.On
		s.Say = fmt.Sprintf("%s recorded %s as out, not knowing that it was back. Off again?", who, lower(v.moveName(r.On)))
		s.Do = "If it is off again, record it; if not, say so."
		s.Touches = []Touch{{Label: "Off again", Open: []string{}, Makes: []Make{made("rung.out", map[string]string{"move": r.On})}, Half: []Make{}}}
	case "fitted-unsure":
		s.Say = fmt.Sprintf("%s came back before it was fitted. Fitted?", v.itemName(r.Other))
		s.Do = "Record the part, or say why not."
	case "missing-part":
		s.Say = fmt.Sprintf("%s was found %s.", v.itemName(r.On), r.Other)
		s.Do = "Replace it, or say what becomes of it."
	case "barred":
		s.Rung, s.Grade = r.On, NoteGrade
		s.Say = fmt.Sprintf("%s cannot be done: %s", v.moveName(r.On), r.By.Of.(*record.RungNotDone).Reason)
		s.Do = "Withdraw it when it can."
		if v.planned.err != nil {
			s.Grade = CountGrade
		}
	case "option-contradicts":
		s.Grade = NoteGrade
		s.Do = "Answer it again."
		s.Say = fmt.Sprintf("The map has no such answer to %q.", r.On)
		if r.Other != "" {
			s.ID, s.Rung = r.ID()+":"+r.Other, r.Other
			s.Say = fmt.Sprintf("%s answered %q, but a machine of that sort has no such rung, and it was made: %s.", who, spaced(v.Answers[r.On]), lower(v.wholeName(r.Other)))
			s.Do = "Answer it as the machine is, or say what was done."
		}
		if o := v.Whole.Option(r.On); o != nil {
			for _, value := range o.Values {
				if value != v.Answers[r.On] {
					s.Touches = append(s.Touches, Touch{Label: upper(spaced(value)), Says: o.Ask, Open: []string{}, Makes: []Make{answering(o, value)}, Half: []Make{}})
				}
			}
		}
	case "final-early":
		s.Grade = NoteGrade
		s.Say = fmt.Sprintf("%s: recorded too early, so it proves nothing: %s.", v.moveName(r.On), lower(r.Other))
		s.Do = "Run it again on the whole machine."
	case "live-open":
		s.Rung = r.Other
		s.Say = fmt.Sprintf("%s: made on a live machine while it was open further than the test asks: %s was off.", v.testTitle(r.On), lower(v.moveName(r.Other)))
		s.Do = "Say why it was run so."
	case "loose-fact":
		s.Grade = NoteGrade
		s.Say = fmt.Sprintf("%s speaks of %q, which nobody knows here.", upper(v.saidShort(r.By)), r.On)
		s.Do = "Say what was meant."
	case "vague-place":
		s.Grade = NoteGrade
		s.Say = fmt.Sprintf("%s: %q names no place that somebody else can find.", upper(v.saidShort(r.By)), r.Other)
		s.Do = "Say where, and as seen from where."
	case "withdrawal-void":
		s.Grade = NoteGrade
		s.Say = fmt.Sprintf("%s took a record back without ever having been at this machine: it still counts. A proof among them does not.", who)
		s.Do = "Say what is so."
	case "far-off":
		s.Grade = NoteGrade
		s.Say = fmt.Sprintf("Recorded for %s by %s, and came in on %s.", r.By.When().UTC().Format(time.DateOnly), v.name(r.By.By), r.Other)
		s.Do = "Say why so late."
	case "unreadable":
		s.Grade = NoteGrade
		s.Say = fmt.Sprintf("A record %q by %s cannot be read (%s). It is kept; every proof before it has ended.", r.On, v.name(r.By.By), r.Other)
		s.Do = "Ask them what it said, and record that."
	case "hangs":
		s.Grade = NoteGrade
		s.Say = fmt.Sprintf("%s stands on something that is not there: %s.", upper(v.saidShort(r.By)), r.Other)
		s.Do = "Say what was meant."
	case "late":
		s.Grade = NoteGrade
		s.Say = fmt.Sprintf("%s came after signing off.", upper(v.saidShort(r.By)))
		s.Do = "Sign off again when all is even."
	case "newer-kind":
		s.Grade = NoteGrade
		s.Say = fmt.Sprintf("A record %q was made by a newer version.", r.On)
		s.Do = "Open the job with that version to see it."
	}
	return s
}

// stillOff is regular until something was put back that shuts it in.
func (v *viewing) stillOff(id string, add func(Snag)) {
	t := v.OpenTurn(id)
	s := Snag{Kind: "still-off", Grade: CountGrade, On: id, Rung: id, Regular: true, Say: v.moveName(id) + " is out and not back."}
	if t != nil {
		s.ID = "still-off:" + id + ":" + t.Outs[0].ID
	}
	mv := v.Map.Move(id)
	if mv == nil {
		s.Regular, s.Say, s.Do = false, fmt.Sprintf("%q is out, and this map does not know it.", id), "Put back what came off, and record it."
		add(s)
		return
	}
	without := slices.DeleteFunc(slices.Clone(v.Standing), func(o string) bool { return o == id })
	at := plan.Levels(v.Map, without, v.Found)
	for _, need := range sorted(v.Map.BackNeeds(mv)) {
		if v.Map.Energy(need) == nil && at[need].Rank() < v.Map.BackNeeds(mv)[need].Rank() && !v.neverMet(id, need) {
			s.Regular = false
			s.Say = fmt.Sprintf("%s is still off, and %s shuts it in.", mv.Name(), lower(v.itemName(need)))
			s.Do = "Open that again, and bring it back."
			break
		}
	}
	add(s)
}

// neverMet tells whether a rung was recorded out though a need of it was met by
// no record; then nothing was shut since.
func (v *viewing) neverMet(id, need string) bool {
	return slices.ContainsFunc(v.Raised, func(r *record.Raised) bool {
		return r.Kind == "out-of-order" && !r.Done && r.On == id && strings.HasPrefix(r.Other, need+"=")
	})
}

// turnSnags are what one turn leaves open: fasteners that do not add up,
// confirmations and leads passed over.
func (v *viewing) turnSnags(t *record.Turn, add func(Snag)) {
	mv := v.Map.Move(t.Move)
	if mv == nil {
		return
	}
	out := t.Outs[0].ID
	for i := range mv.Fasteners {
		if l := &mv.Fasteners[i]; !l.Loosen {
			v.lotSnags(t, mv, i, out, add)
		}
	}
	for i := range v.Map.Items {
		if it := &v.Map.Items[i]; it.Earth && mv.Takes[it.ID] != "" {
			v.earthSnag(t, mv, it, add)
		}
	}
	if t.Back == nil || t.ByEnergy {
		return
	}
	back := t.Back.ID
	for _, l := range v.linesBack(mv, t) {
		if l.Kind == "confirm" && !l.Ticked {
			add(v.unconfirmed(mv, l, back))
		}
	}
	v.leadSnags(t, mv, back, add)
}

func (v *viewing) unconfirmed(mv *machine.Move, l Line, back string) Snag {
	s := Snag{
		ID: "confirm-open:" + l.Line + ":" + back, Kind: "confirm-open", Grade: CountGrade, On: l.Line, Rung: mv.ID,
		Say: fmt.Sprintf("%s: not confirmed that %s.", mv.Name(), lower(l.Say)), Do: "Look, and tick it.",
	}
	if l.Ask == "" {
		s.Touches = []Touch{{Label: "It is so", Open: []string{}, Makes: []Make{l.Tick}, Half: []Make{}}}
	}
	if l.Ask != "" {
		s.Do, s.Line = "Measure it.", &l
	}
	if l.Bad {
		s.ID, s.Kind = "confirm-failed:"+l.Line+":"+l.Event, "confirm-failed"
		s.Say, s.Do = fmt.Sprintf("%s, %s: %s", mv.Name(), lower(l.Say), l.Said), "Put it right and measure again, or say why it may stay."
	}
	return s
}

// earthSnag: an earth that came off is counted back by its reading.
func (v *viewing) earthSnag(t *record.Turn, mv *machine.Move, it *machine.Item, add func(Snag)) {
	s := Snag{
		ID: "earth-unmeasured:" + it.ID + ":" + t.Outs[0].ID, Kind: "earth-unmeasured", Grade: CountGrade, On: it.ID, Rung: mv.ID, Regular: t.Back == nil,
		Say: fmt.Sprintf("%s came off, and its way to the frame is not measured.", it.Name), Do: "Measure it: " + earthLimit.Say() + ", the leads taken off.",
	}
	l := earthLine("earth:"+it.ID, it.Name+" to the frame", t.Earths[it.ID])
	s.Line = &l
	if f := t.Earths[it.ID]; f != nil {
		ok, why := earth(f)
		if ok {
			return
		}
		s.ID, s.Regular, s.Say = "earth-unmeasured:"+it.ID+":"+f.ID, false, it.Name+": "+why
		s.Do = "Clean it, make it fast and measure again."
	}
	add(s)
}

// earthPathSnag: the way from the frame to the earth pin was measured, and is not
// as it must be.
func (v *viewing) earthPathSnag(add func(Snag)) {
	if l := v.earthPath(); l.Bad {
		add(Snag{ID: "earth-unmeasured:" + l.Line + ":" + l.Event, Kind: "earth-unmeasured", Grade: CountGrade, On: l.Line, Say: l.Say + ": " + l.Said, Do: "Find where it is broken, mend it and measure again.", Line: &l})
	}
}

// ticketSnags: a step that needs a ticket, recorded by somebody without it.
// Only the inspection of a person who holds it settles that.
func (v *viewing) ticketSnags(add func(Snag)) {
	ticket := func(f *record.Fact) (on, need string) {
		task := func(t *machine.Task) (string, string) { return t.ID, t.Ticket }
		switch b := f.Of.(type) {
		case *record.RungOut:
			on = b.Move
		case *record.RungBack:
			if mv := v.Map.Move(b.Move); mv != nil {
				return b.Move, mv.BackTicket()
			}
		case *record.PartFitted:
			if p := v.Map.Part(b.Part); p != nil && fittedAs(f) == "fitted" {
				return b.Part, p.Ticket
			}
		case *record.CheckResult:
			if c := v.Map.Check(b.Check); c != nil {
				return task(&c.Task)
			}
		case *record.FinalResult:
			if c := v.Map.Final(b.Final); c != nil {
				return task(&c.Task)
			}
		case *record.TestResult:
			if c := v.Map.Test(b.Test); c != nil && b.Outcome != record.NotDone {
				return task(&c.Task)
			}
		case *record.ReadingTaken:
			if c := v.Map.Test(b.Test); c != nil {
				return task(&c.Task)
			}
		}
		if mv := v.Map.Move(on); mv != nil {
			need = mv.Ticket
		}
		return on, need
	}
	for i := range v.Facts {
		f := &v.Facts[i]
		on, need := ticket(f)
		if v.book.Job.heldBy(f.By, need, f.When()) {
			continue
		}
		s := Snag{
			ID: "ticket-missing:" + on + ":" + f.ID, Kind: "ticket-missing", Grade: StopGrade, On: on, Rung: on,
			Say: fmt.Sprintf("%s: done by %s, who has no %s ticket.", v.moveName(on), v.name(f.By), spaced(need)),
			Do:  "Somebody who holds that ticket looks at what was done and records what they find.",
		}
		if !v.inspected(s.ID, f, need) {
			add(s)
		}
	}
}

// inspected tells whether another person than the one who raised a snag looked at
// it, and held the ticket that it needs.
func (v *viewing) inspected(snag string, raised *record.Fact, ticket string) bool {
	return slices.ContainsFunc(v.Facts, func(o record.Fact) bool {
		b, is := o.Of.(*record.Inspected)
		return is && b.Snag == snag && o.By != raised.By && v.book.Job.heldBy(o.By, ticket, o.When())
	})
}

// outOfUse is an emergency that was told of on the telephone: nobody uses the
// machine until somebody has looked at that first, with the ticket where it is gas.
func (v *viewing) outOfUse(f *record.Fact, add func(Snag)) {
	b := f.Of.(*record.Told)
	s := Snag{ID: "out-of-use:" + b.Emergency + ":" + f.ID, Kind: "out-of-use", Grade: StopGrade, On: v.book.Job.ID, Event: f.ID, Say: "Out of use. Told by telephone: " + lower(b.Name) + ".", Do: "Look at that first, and record what you find."}
	ticket := ""
	if b.Emergency == "gas" {
		ticket = "gas"
		s.Do = "Somebody with a gas ticket looks at that first, and records what they find."
	}
	if v.inspected(s.ID, f, ticket) {
		return
	}
	v.view.OutOfUse = append(v.view.OutOfUse, OutOfUse{Snag: s.ID, Name: b.Name, Do: s.Do, Told: append([]string{}, b.Say...), By: v.fullName(f.By)})
	add(s)
}

// insideSnags are what must not stay inside: temporaries and belongings.
func (v *viewing) insideSnags(add func(Snag)) {
	for _, t := range v.Temps {
		if !t.Inside() {
			continue
		}
		s := Snag{
			ID: "temporary-in:" + t.ID + ":" + t.In.ID, Kind: "temporary-in", Grade: CountGrade, On: t.ID, Regular: true, Say: t.Name + " is in the machine.", Do: "Take it out and record it.",
			Touches: []Touch{{Label: "It is out", Open: []string{}, Makes: []Make{made("temporary.out", named(t))}, Half: []Make{}}},
		}
		for _, id := range v.outBefore(t.ID) {
			if turn := v.turnOf(id); turn != nil && turn.Back != nil && v.later(turn.Back, t.In) {
				s.Regular, s.Rung = false, id
				s.Say = fmt.Sprintf("%s is still in the machine, and %s is back already.", t.Name, lower(v.moveName(id)))
				s.Do = "Open that again and take it out."
			}
		}
		if p := v.Map.Temporary(t.ID); p != nil && p.Stays == "ask" {
			s.Regular, s.Do = false, "Take it out, or say that it is meant to stay."
		}
		add(s)
	}
	for _, f := range v.Belongings {
		b := f.Of.(*record.Belonging)
		if b.To != "" {
			continue
		}
		add(Snag{
			ID: "belonging-open:" + lower(b.What) + ":" + f.ID, Kind: "belonging-open", Grade: CountGrade, On: b.What, Say: fmt.Sprintf("Found inside: %s.", b.What), Do: "Give it to the customer and record it.",
			Touches: []Touch{{Label: "Given to the customer", Open: []string{}, Makes: []Make{made("belonging", record.Belonging{What: b.What, Where: b.Where, To: "customer"})}, Half: []Make{}}},
		})
	}
}

// later tells whether one fact counts after another.
func (v *viewing) later(f, than *record.Fact) bool {
	at := func(o *record.Fact) int {
		return slices.IndexFunc(v.Facts, func(x record.Fact) bool { return x.ID == o.ID })
	}
	return at(f) > at(than)
}

// partSnags: pieces of a set or kit left without a word, and why a fitted part
// had failed.
func (v *viewing) partSnags(add func(Snag)) {
	asked := map[[2]string]bool{}
	for i := range v.Map.Parts {
		p := &v.Map.Parts[i]
		var fitted *record.Fact
		for _, piece := range p.Pieces() {
			if f := v.Pieces[p.ID+"/"+piece]; f != nil && fittedAs(f) == "fitted" {
				fitted = f
			}
		}
		if fitted == nil {
			continue
		}
		for _, piece := range p.Pieces() {
			f := v.Pieces[p.ID+"/"+piece]
			s := Snag{ID: "piece-open:" + p.ID + "/" + piece + ":" + fitted.ID, Kind: "piece-open", Grade: CountGrade, On: p.ID, Regular: v.at[piece] == machine.Away}
			switch {
			case f == nil:
				s.Say = fmt.Sprintf("%s: %s was neither fitted, kept nor returned.", p.Name, lower(v.itemName(piece)))
				s.Do = "Say which."
				for _, as := range []string{"fitted", "kept", "returned"} {
					s.Touches = append(s.Touches, Touch{Label: upper(as), Open: []string{}, Makes: []Make{made("part.fitted", record.PartFitted{Part: p.ID, Piece: piece, As: as})}, Half: []Make{}})
				}
			case p.FitTogether && fittedAs(f) != "fitted" && f.Of.(*record.PartFitted).Reason == "":
				s.Say, s.Regular = fmt.Sprintf("%s belong together, and %s was %s.", p.Name, lower(v.itemName(piece)), fittedAs(f)), false
				s.Do = "Say why."
			default:
				continue
			}
			add(s)
		}
		v.causeSnags(p, asked, add)
	}
}

func fittedAs(f *record.Fact) string {
	if as := f.Of.(*record.PartFitted).As; as != "" {
		return as
	}
	return "fitted"
}

// causeSnags: a part that fails of something else fails again, so the job asks
// for what made it fail before it is even.
func (v *viewing) causeSnags(p *machine.Part, asked map[[2]string]bool, add func(Snag)) {
	for i := range v.Map.Faults {
		fault := &v.Map.Faults[i]
		own := v.Map.Part(fault.Part)
		if own == nil || !slices.Contains(p.Pieces(), own.Item) {
			continue
		}
		fitted := v.Pieces[p.ID+"/"+own.Item]
		if fitted == nil || fittedAs(fitted) != "fitted" {
			continue
		}
		for _, c := range fault.Because {
			if key := [2]string{c.ID, c.Ask}; v.causeOf(c) == nil && !asked[key] { // several faults of a kit may share it
				asked[key] = true
				add(v.causeSnag(fault, c, fitted))
			}
		}
	}
}

// causeOf is the answer to a cause, whichever fault it was asked of; nil where
// nobody has answered.
func (v *viewing) causeOf(c machine.Cause) *record.Fact {
	for i := range v.Map.Faults {
		f := &v.Map.Faults[i]
		for _, o := range f.Because {
			if o.ID == c.ID && o.Ask == c.Ask && v.Causes[f.ID+"/"+o.ID] != nil {
				return v.Causes[f.ID+"/"+o.ID]
			}
		}
	}
	return nil
}

func (v *viewing) causeSnag(fault *machine.Fault, c machine.Cause, fitted *record.Fact) Snag {
	body := record.CauseAnswered{Fault: fault.ID, Cause: c.ID}
	answer := func(label, text string) Touch {
		b := body
		b.Answer = text
		return Touch{Label: label, Open: []string{}, Makes: []Make{made("cause.answered", b)}, Half: []Make{}}
	}
	s := Snag{
		ID: "cause-open:" + fault.ID + "/" + c.ID + ":" + fitted.ID, Kind: "cause-open", Grade: CountGrade, On: fault.ID, Regular: true,
		Say: fmt.Sprintf("%s: why? %s", fault.Name, c.Ask), Do: "Look, and answer. Not found is an answer.", Touches: []Touch{},
		Line: &Line{Line: "cause:" + fault.ID + "/" + c.ID, Kind: "record", Say: "The answer", Ask: "in your words", Into: "answer", Tick: made("cause.answered", map[string]string{"fault": fault.ID, "cause": c.ID}), Or: []Choice{}},
	}
	if yesOrNo(c.Ask) {
		s.Touches = append(s.Touches, answer("Yes", "yes"), answer("No", "no"))
	}
	s.Touches = append(s.Touches, answer("Not found", "not found"))
	if t := v.Map.Test(c.Test); t != nil {
		if said := v.lastResult(t.ID); said != "" {
			s.Do = t.Title + " said: " + lower(said) + ". " + s.Do
		} else if goal := "test:" + t.ID; !slices.ContainsFunc(v.Goals, func(g *record.Goal) bool { return g.Goal == goal }) {
			s.Touches = append(s.Touches, Touch{Label: "Test it", Says: lower(t.Title), Open: []string{}, Makes: added([]string{goal}), Half: []Make{}})
		}
	}
	return s
}

// yesOrNo tells whether a question is answered with yes or no, rather than in
// words.
func yesOrNo(ask string) bool {
	first, _, _ := strings.Cut(strings.ToLower(ask), " ")
	return !slices.Contains([]string{"what", "which", "who", "whose", "where", "when", "why", "how"}, first)
}

// lastResult is what a test showed last, in words; empty where it was not made.
func (v *viewing) lastResult(id string) string {
	_, shown := v.results(make([]int, len(v.Facts)))
	for i := len(shown) - 1; i >= 0; i-- {
		if shown[i].Test == id {
			return strings.TrimRight(shown[i].Say, ".")
		}
	}
	return ""
}

// toComeBack are the moves that are off the machine and have to come back, in the
// order in which they were made. What shuts an energy off that stays off on
// purpose is not among them. Everything that says what is off asks here.
func (v *viewing) toComeBack() []string {
	var out []string
	for _, id := range v.Standing {
		if mv := v.Map.Move(id); mv == nil || !mv.OneWay && !slices.Contains(v.stays, id) {
			out = append(out, id)
		}
	}
	return out
}

// leftOff are the moves that did nothing but shut off what stays off on purpose,
// with a reason; they are there once all else is back.
func (v *viewing) leftOff() []string {
	if !v.allElseBack() {
		return nil
	}
	explained := v.explained()
	var out []string
	for _, id := range v.Standing {
		mv := v.Map.Move(id)
		if !mv.OneWay && !slices.ContainsFunc(sorted(mv.Takes), func(e string) bool { return explained["energy-off:"+e+":"] == nil }) {
			out = append(out, id)
		}
	}
	return out
}

// allElseBack tells whether nothing stands but what shuts an energy off, so
// that it may be left off on purpose, with a reason.
func (v *viewing) allElseBack() bool {
	return !slices.ContainsFunc(v.Standing, func(id string) bool {
		mv := v.Map.Move(id)
		return mv == nil || !mv.OneWay && slices.ContainsFunc(sorted(mv.Takes), func(it string) bool { return v.Map.Energy(it) == nil })
	})
}

func (v *viewing) lotSnags(t *record.Turn, mv *machine.Move, i int, out string, add func(Snag)) {
	l := &mv.Fasteners[i]
	id := lotID(mv, i)
	noun, where := v.lotWords(mv, i)
	letter := v.letters[id]
	n, known, differs := t.Total(id, l.Count, "out")
	if differs {
		add(v.differs(t, id, "out", out, where))
	}
	if !known {
		n = l.Count
	}
	v.unsettled(t, mv, i, add)
	if t.Back == nil {
		if !known && !t.Found && v.mustCount(l) {
			add(v.uncounted(id, "out", out, mv, fmt.Sprintf("%s: not counted as they came out.", where), l.Count))
		}
		return
	}
	back, counted, differs := t.Total(id, n, "back")
	if differs {
		add(v.differs(t, id, "back", t.Back.ID, where))
	}
	if !counted {
		if v.mustCount(l) || t.Found {
			add(v.uncounted(id, "back", t.Back.ID, mv, fmt.Sprintf("%s: not counted home.", where), n))
		}
		return
	}
	short := n - back
	for _, f := range t.Settled[id] {
		switch b := f.Of.(*record.LotSettled); b.As {
		case "replaced", "as-found":
			short = max(min(short, 0), short-b.Count)
		case "over":
			short = min(max(short, 0), short+b.Count)
		}
	}
	if short != 0 {
		switch {
		case short > 0 && t.Astray(id) > 0: // said already
		case short > 0:
			add(Snag{
				ID: "fastener-short:" + id + ":" + t.Back.ID, Kind: "fastener-short", Grade: CountGrade, On: id, Rung: mv.ID,
				Say: fmt.Sprintf("%d of %s back in %s.", back, count(n, noun), where), Do: fmt.Sprintf("%s still in tray %s, or say what became of it.", upper(count(short, noun)), letter),
				Touches: []Touch{
					{Label: "All " + fmt.Sprint(n) + " are in", Open: []string{}, Makes: []Make{made("lot.counted", map[string]any{"lot": id, "side": "back", "count": n})}, Half: []Make{}},
					settle(id, "replaced", short, "New "+plural(short, noun)+" fitted"),
					settle(id, "lost", short, "Lost"),
				},
			})
		case short < 0:
			add(Snag{
				ID: "fastener-over:" + id + ":" + t.Back.ID, Kind: "fastener-over", Grade: CountGrade, On: id, Rung: mv.ID,
				Say: fmt.Sprintf("%s went home in %s, %d came out.", upper(count(back, noun)), where, n), Do: "Where is it from?",
				Touches: []Touch{settle(id, "over", -short, "It was missing before")},
			})
		}
	}
}

// lotWords are what one counts of a lot, and how the lot is called.
func (v *viewing) lotWords(mv *machine.Move, i int) (noun, where string) {
	kind := v.Map.Fastener(mv.Fasteners[i].Kind)
	return tray.Noun(kind), mv.Name() + ", " + tray.KindName(kind)
}

// unsettled: fasteners that were said to be dropped, lost or in another place,
// until they are found again or replaced. Where a dropped one may lie, the way to
// it can be planned.
func (v *viewing) unsettled(t *record.Turn, mv *machine.Move, i int, add func(Snag)) {
	id := lotID(mv, i)
	noun, where := v.lotWords(mv, i)
	n := t.Astray(id)
	if n == 0 {
		return
	}
	var last *record.Fact
	for _, f := range t.Settled[id] {
		if b := f.Of.(*record.LotSettled); b.As == "dropped" || b.As == "lost" || b.As == "swapped" {
			last = f
		}
	}
	b := last.Of.(*record.LotSettled)
	say, found := fmt.Sprintf("%s: %s %s", where, count(n, noun), b.As), "Found again"
	if b.As == "swapped" {
		say, found = fmt.Sprintf("%s: %s in another place", where, count(n, noun)), "Put right"
	}
	s := Snag{
		ID: "fastener-unsettled:" + id + ":" + last.ID, Kind: "fastener-unsettled", Grade: CountGrade, On: id, Rung: t.Move,
		Say: say + ".", Do: "Find it, or fit a new one and say so.",
		Touches: []Touch{settle(id, "found", n, found), settle(id, "replaced", n, "New "+plural(n, noun)+" fitted")},
	}
	if it := v.Map.Item(b.Where); it != nil {
		s.Say = fmt.Sprintf("%s, perhaps into the %s.", say, lower(it.Name))
		goal := "item:" + it.ID + "=" + string(machine.Away)
		if v.at[it.ID] != machine.Away && !slices.ContainsFunc(v.Goals, func(g *record.Goal) bool { return g.Goal == goal && g.Open }) {
			s.Touches = append(s.Touches, Touch{Label: "Plan the way to it", Says: "opens the " + lower(it.Name), Open: []string{}, Makes: []Make{made("goal.added", record.GoalAdded{Goal: goal})}, Half: []Make{}})
		}
	} else if b.Where != "" {
		s.Say = fmt.Sprintf("%s: %s.", say, b.Where)
	}
	add(s)
}

func settle(lot, as string, n int, label string) Touch {
	return Touch{Label: label, Open: []string{}, Makes: []Make{made("lot.settled", map[string]any{"lot": lot, "as": as, "count": n})}, Half: []Make{}}
}

func (v *viewing) differs(t *record.Turn, lot, side, event, where string) Snag {
	var says []string
	var ids []string
	counts := t.Counts[lot+"|"+side]
	for _, person := range sorted(counts) {
		f := counts[person]
		says = append(says, fmt.Sprintf("%s counted %d", v.name(person), f.Of.(*record.LotCounted).Count))
		ids = append(ids, f.ID)
	}
	s := Snag{
		ID: "count-differs:" + lot + "|" + side + ":" + event, Kind: "count-differs", Grade: CountGrade, On: lot, Rung: moveOf(lot),
		Say: where + ": " + strings.Join(says, ", ") + ".", Do: "Count the tray together.",
	}
	for _, person := range sorted(counts) {
		n := counts[person].Of.(*record.LotCounted).Count
		s.Touches = append(s.Touches, Touch{Label: fmt.Sprintf("It is %d", n), Open: []string{}, Makes: []Make{made("lot.counted", map[string]any{"lot": lot, "side": side, "count": n, "settles": ids})}, Half: []Make{}})
	}
	return s
}

func (v *viewing) uncounted(lot, side, event string, mv *machine.Move, say string, n int) Snag {
	return Snag{
		ID: "fastener-uncounted:" + lot + "|" + side + ":" + event, Kind: "fastener-uncounted", Grade: CountGrade, On: lot, Rung: mv.ID, Say: say, Do: "Count them.",
		Touches: []Touch{{Label: fmt.Sprintf("%d counted", n), Open: []string{}, Makes: []Make{made("lot.counted", map[string]any{"lot": lot, "side": side, "count": n})}, Half: []Make{}}},
	}
}

func (v *viewing) checkSnags(id string, st *record.CheckState, add func(Snag)) {
	c := v.Map.Check(id)
	if c == nil || len(st.Since) == 0 && st.Failed == nil {
		return
	}
	s := Snag{ID: "check-due:" + id + ":" + strings.Join(st.Since, ","), Kind: "check-due", Grade: CountGrade, On: id, Rung: id, Regular: true, Say: c.Title, Do: c.Pass}
	if st.Failed != nil {
		s.ID, s.Kind, s.Regular = "check-failed:"+id+":"+st.Failed.ID, "check-failed", false
		s.Say, s.Do = c.Title+": it failed.", "Find out why, mend it, and make it again."
	}
	if len(st.Lost) > 0 {
		if s.Kind == "check-due" {
			s.Regular = false
			s.Say = fmt.Sprintf("%s was left out, and %s is back already.", c.Title, lower(v.moveName(st.Lost[0])))
			s.Do = "Open that again and make it, or record it as passed with the reason."
		}
		add(Snag{
			ID: "check-place-lost:" + id + ":" + strings.Join(st.Lost, ","), Kind: "check-place-lost", Grade: NoteGrade, On: id, Rung: id,
			Say: fmt.Sprintf("%s belongs before %s, which was put back first.", c.Title, lower(v.moveName(st.Lost[0]))), Do: "The plan opens it again.",
		})
	}
	add(s)
}
