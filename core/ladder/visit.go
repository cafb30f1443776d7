package ladder

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"evensteps/core/fault"
	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/record"
	"evensteps/core/tray"
)

// Visit is what lists across jobs say of one: how it stands, what to bring to
// it and where somebody without a ticket stops.
type Visit struct {
	Stage  Stage        `json:"stage"`
	Opened *time.Time   `json:"opened"` // since when something is off the machine
	Bring  []string     `json:"bring"`
	Stops  []TicketStop `json:"stops"`
	Mended []string     `json:"mended"` // faults of the complaint that were proven mended
	Did    []string     `json:"did"`    // what was done, for who comes to this machine next
	Whose  []string     `json:"whose"`  // ids of the people whose job it is
	Signed *time.Time   `json:"signed"` // when it was signed or called off, where it stays so
}

// Stage is where a job is in its life.
type Stage string

// The stages: nothing was done yet; something is off the machine; it is closed
// and not signed off; closed and waiting for a part; signed off; made in error, or
// no longer wanted.
const (
	NotBegun  Stage = "new"
	LeftOpen  Stage = "open"
	Closed    Stage = "closed"
	Waiting   Stage = "waiting"
	SignedOff Stage = "signed"
	CalledOff Stage = "called-off"
)

// TicketStop is a rung that needs a ticket.
type TicketStop struct {
	Rung   int      `json:"rung"` // counted from 1, down the ladder; 0 for a check
	Name   string   `json:"name"`
	Ticket string   `json:"ticket"`
	Who    []string `json:"who"`  // the names of those who hold it
	More   int      `json:"more"` // how many steps after it need it too
}

func (v *viewing) visit() {
	w := v.view
	out := Visit{Stage: NotBegun, Bring: []string{}, Stops: []TicketStop{}, Mended: []string{}, Did: []string{}, Whose: v.whose()}
	off := v.toComeBack()
	for _, t := range v.Turns {
		if !t.Open() || !slices.Contains(off, t.Move) {
			continue
		}
		if at := t.Outs[0].When(); out.Opened == nil || at.Before(*out.Opened) {
			out.Opened = &at
		}
	}
	waits := slices.ContainsFunc(v.Goals, func(g *record.Goal) bool { return g.Reason == "waiting" }) &&
		!slices.ContainsFunc(v.Goals, func(g *record.Goal) bool { return g.Open })
	switch {
	case len(off) > 0:
		out.Stage = LeftOpen
	case v.off():
		at := v.Off.When()
		out.Stage, out.Signed = CalledOff, &at
	case waits:
		out.Stage = Waiting
	case v.SignedBy != nil:
		at := v.SignedBy.When()
		out.Stage, out.Signed = SignedOff, &at
	case len(v.Turns) > 0:
		out.Stage = Closed
	}
	if out.Stage != LeftOpen {
		out.Opened = nil
	}
	if p := v.planned.plan; p != nil && out.Stage != SignedOff && out.Stage != CalledOff && out.Stage != Waiting {
		out.Bring = v.bring(p)
		out.Stops = v.ticketStops(p)
	}
	w.Visit = out
}

// whose job it is: of those to whom it was given and those who came to the machine,
// until somebody takes it over, or it is given to others.
func (v *viewing) whose() []string {
	out := []string{}
	company := v.book.company()
	for i := range v.Facts {
		f := &v.Facts[i]
		switch b := f.Of.(type) {
		case *record.JobGiven:
			out = append([]string{}, b.To...)
		case *record.TookOver:
			out = []string{}
		}
		for _, came := range company.Came(f) {
			if !slices.Contains(out, came) {
				out = append(out, came)
			}
		}
	}
	return out
}

// past adds what a job that is signed off leaves for those that come after it.
func (v *viewing) past() {
	if v.SignedBy == nil {
		return
	}
	out := &v.view.Visit
	out.Did = append(out.Did, v.view.Headline)
	for _, f := range v.Facts {
		if n, is := f.Of.(*record.Note); is && n.Text != "" {
			out.Did = append(out.Did, v.fullName(f.By)+": "+n.Text)
		}
	}
	out.Did = append(out.Did, v.mendedLines()...)
	if v.view.Even && !v.looking() {
		out.Mended = v.proven()
	}
}

// proven are the faults of the call's complaint whose mending the finals have proven: of each part that
// was fitted the likeliest of its faults, and those mended with nothing opened.
func (v *viewing) proven() []string {
	out := []string{}
	c, _ := v.weighed()
	chances := fault.Chances(c)
	for _, key := range sorted(v.Pieces) {
		b := v.Pieces[key].Of.(*record.PartFitted)
		best, at := 0.0, ""
		for i := range v.Map.Faults {
			if f := &v.Map.Faults[i]; f.Part == b.Part && chances[f.ID] > best {
				best, at = chances[f.ID], f.ID
			}
		}
		if at != "" && fittedAs(v.Pieces[key]) == "fitted" && !slices.Contains(out, at) {
			out = append(out, at)
		}
	}
	if v.Decided != nil {
		out = append(out, mended(v.Decided.Of.(*record.Decided))...)
	}
	return v.ofTheCall(out)
}

// ofTheCall leaves of the mended faults those that the call's complaint can be of,
// where there are others: what they teach is counted for that complaint.
func (v *viewing) ofTheCall(faults []string) []string {
	if all := v.complaints(); len(all) > 1 {
		return slices.DeleteFunc(faults, func(id string) bool { return all[0].Faults[id] <= 0 })
	}
	return faults
}

// bring is what the plan needs: the new parts first, then people, tools and
// what is used up.
func (v *viewing) bring(p *plan.Plan) []string {
	rows := v.partsToBring(v.rest)
	if p.People > 1 {
		rows = append(rows, Row{What: "two people"})
	}
	rows = append(rows, v.kitToBring(p)...)
	if n := len(v.view.Trays); n > 0 {
		rows = append(rows, Row{What: count(n, "tray")})
	}
	out := []string{}
	for _, r := range unlike(rows) {
		out = append(out, lower(r.What))
	}
	return out
}

// unlike leaves of rows that name the same thing the first.
func unlike(rows []Row) []Row {
	out := []Row{}
	for _, r := range rows {
		if !slices.ContainsFunc(out, func(o Row) bool { return strings.EqualFold(o.What, r.What) }) {
			out = append(out, r)
		}
	}
	return out
}

// partsToBring are the parts that goals fit, each with what is ordered with it.
func (v *viewing) partsToBring(goals []string) (rows []Row) {
	for _, goal := range goals {
		if part := v.Map.Part(strings.TrimPrefix(goal, "replace:")); part != nil {
			rows = append(rows, Row{What: part.Name + " " + part.Number, Say: "to fit"})
			for _, also := range part.With {
				rows = append(rows, Row{What: upper(spaced(also)), Say: "goes with it"})
			}
		}
	}
	return rows
}

// kitToBring are the tools of both ways, with the drivers that the fasteners ask
// for whether a move names them or not, and what is used up.
func (v *viewing) kitToBring(p *plan.Plan) (rows []Row) {
	for _, tool := range p.Tools {
		rows = append(rows, Row{What: upper(tool), Say: "tool"})
	}
	for _, d := range v.drivers(p) {
		if !slices.ContainsFunc(p.Tools, func(what string) bool { return tray.Serves(what, d) }) {
			rows = append(rows, Row{What: upper(d.String()), Say: "driver"})
		}
	}
	for _, what := range p.Consumes {
		rows = append(rows, Row{What: upper(spaced(what)), Say: "used up"})
	}
	for _, mv := range v.movesOf(p) {
		for _, in := range mv.Inspect {
			if in.With != "" {
				rows = append(rows, Row{What: upper(in.With), Say: "to " + in.Do + " " + lower(in.Say)})
			}
		}
	}
	return rows
}

// movesOf are the moves of a plan, both ways.
func (v *viewing) movesOf(p *plan.Plan) (moves []*machine.Move) {
	for _, id := range slices.Concat(p.WayIn, v.Standing) {
		if mv := v.Map.Move(id); mv != nil {
			moves = append(moves, mv)
		}
	}
	return moves
}

// drivers are what the fasteners of a plan's moves, both ways, are undone with,
// whether a move names the tool or not.
func (v *viewing) drivers(p *plan.Plan) (out []tray.Driver) {
	for _, mv := range v.movesOf(p) {
		for _, l := range mv.Fasteners {
			kind := v.Map.Fastener(l.Kind)
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

// ticketStops says for each ticket of both ways where it is first needed. Today,
// the ladder and the decision all ask here.
func (v *viewing) ticketStops(p *plan.Plan) []TicketStop {
	stops := []TicketStop{}
	if len(v.order) == 0 {
		v.rows()
	}
	made := 0 // rungs that stand above those to come
	for _, id := range v.order {
		if !slices.Contains(v.wayIn(), id) {
			made++
		}
	}
	add := func(rung int, name, ticket string) {
		if ticket == "" {
			return
		}
		if k := slices.IndexFunc(stops, func(s TicketStop) bool { return s.Ticket == ticket }); k >= 0 {
			stops[k].More++
			return
		}
		stops = append(stops, TicketStop{Rung: rung, Name: name, Ticket: ticket, Who: v.holders(ticket)})
	}
	for k, id := range p.WayIn {
		mv := v.Map.Move(id)
		add(made+k+1, mv.Name(), mv.Ticket)
	}
	for _, s := range p.WayBack {
		if c := v.Map.Check(s.Check); c != nil {
			add(0, c.Title, c.Ticket)
			continue
		}
		mv := v.Map.Move(s.Undo)
		rung := slices.Index(p.WayIn, s.Undo) + 1
		if rung > 0 {
			rung += made
		} else {
			rung = slices.Index(v.order, s.Undo) + 1
		}
		add(rung, mv.Name()+" back", mv.BackTicket())
	}
	return stops
}

// StopsAt says where somebody who holds these tickets has to stop; empty where
// nowhere.
func StopsAt(stops []TicketStop, tickets []string) string {
	for _, s := range stops {
		if !slices.Contains(tickets, s.Ticket) {
			return s.say()
		}
	}
	return ""
}

func (s TicketStop) say() string {
	at := fmt.Sprintf("rung %d", s.Rung)
	if s.Rung == 0 { // a check has no number
		at = "“" + s.Name + "” on the way back"
	}
	say := fmt.Sprintf("Stops at %s: %s ticket", at, spaced(s.Ticket))
	if len(s.Who) > 0 {
		say += ". " + haveOne(s.Who)
	}
	return say
}

// OpenFor says for how long a machine has been open: by the clock today, by
// days after that. Days are counted by the calendar of now's place.
func OpenFor(opened *time.Time, now time.Time) string {
	if opened == nil {
		return ""
	}
	at := opened.In(now.Location())
	day := func(t time.Time) time.Time { return time.Date(t.Year(), t.Month(), t.Day(), 12, 0, 0, 0, time.UTC) }
	switch days := int(day(now).Sub(day(at)).Hours() / 24); days {
	case 0:
		return "open since " + at.Format("15:04")
	case 1:
		return "open since yesterday"
	default:
		return fmt.Sprintf("open %d days", days)
	}
}
