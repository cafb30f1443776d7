package snags

import (
	"fmt"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/record"
	"evensteps/core/scene"
)

// ticketSnags: a step that needs a ticket, recorded by somebody without it.
// Only the inspection of a person who holds it settles that.
func ticketSnags(sc *scene.Scene, add func(Snag)) {
	ticket := func(f *record.Fact) (on, need string) {
		task := func(t *machine.Task) (string, string) { return t.ID, t.Ticket }
		switch b := f.Of.(type) {
		case *record.RungOut:
			on = b.Move
		case *record.RungBack:
			if mv := sc.Map.Move(b.Move); mv != nil {
				return b.Move, mv.BackTicket()
			}
		case *record.PartFitted:
			if p := sc.Map.Part(b.Part); p != nil && scene.FittedAs(f) == "fitted" {
				return b.Part, p.Ticket
			}
		case *record.CheckResult:
			if c := sc.Map.Check(b.Check); c != nil {
				return task(&c.Task)
			}
		case *record.FinalResult:
			if c := sc.Map.Final(b.Final); c != nil {
				return task(&c.Task)
			}
		case *record.TestResult:
			if c := sc.Map.Test(b.Test); c != nil && b.Outcome != named.NotDone {
				return task(&c.Task)
			}
		case *record.ReadingTaken:
			if c := sc.Map.Test(b.Test); c != nil {
				return task(&c.Task)
			}
		}
		if mv := sc.Map.Move(on); mv != nil {
			need = mv.Ticket
		}
		return on, need
	}
	for i := range sc.Facts {
		f := &sc.Facts[i]
		on, need := ticket(f)
		if sc.Job.HeldBy(f.By, need, f.When()) {
			continue
		}
		s := Snag{
			ID: "ticket-missing:" + on + ":" + f.ID, Kind: "ticket-missing", On: on, Rung: on,
			Say: fmt.Sprintf("%s: done by %s, who has no %s ticket.", sc.Names.Move(on), sc.Name(f.By), english.Spaced(need)),
			Do:  "Somebody with that ticket looks at the work and records what they find.",
		}
		if !inspected(sc, s.ID, f, need) {
			add(s)
		}
	}
}
