// Package journey is what there is to know of a job before setting out: which way
// in, what to bring, who has to come along, where a ticket stops one. Lists, the
// ladder and the decision all ask here.
package journey

import (
	"fmt"
	"slices"
	"time"

	"evensteps/core/record"
	"evensteps/core/scene"
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

// Of is the job as a list shows it.
func Of(sc *scene.Scene) Visit {
	out := Visit{Stage: NotBegun, Bring: []string{}, Stops: []TicketStop{}, Mended: []string{}, Did: []string{}, Whose: whose(sc)}
	off := sc.ToComeBack()
	for _, t := range sc.Turns {
		if !t.Open() || !slices.Contains(off, t.Move) {
			continue
		}
		if at := t.Outs[0].When(); out.Opened == nil || at.Before(*out.Opened) {
			out.Opened = &at
		}
	}
	waits := slices.ContainsFunc(sc.Goals, func(g *record.Goal) bool { return g.Reason == "waiting" }) &&
		!slices.ContainsFunc(sc.Goals, func(g *record.Goal) bool { return g.Open })
	switch {
	case len(off) > 0:
		out.Stage = LeftOpen
	case sc.CalledOff():
		at := sc.Off.When()
		out.Stage, out.Signed = CalledOff, &at
	case waits:
		out.Stage = Waiting
	case sc.SignedBy != nil:
		at := sc.SignedBy.When()
		out.Stage, out.Signed = SignedOff, &at
	case len(sc.Turns) > 0:
		out.Stage = Closed
	}
	if out.Stage != LeftOpen {
		out.Opened = nil
	}
	if p := sc.Plan; p != nil && out.Stage != SignedOff && out.Stage != CalledOff && out.Stage != Waiting {
		out.Bring = bring(sc, p)
		out.Stops = TicketStops(sc, p)
	}
	return out
}

// whose job it is: of those to whom it was given and those who came to the machine,
// until somebody takes it over, or it is given to others.
func whose(sc *scene.Scene) []string {
	out := []string{}
	company := sc.Job.Company()
	for i := range sc.Facts {
		f := &sc.Facts[i]
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
