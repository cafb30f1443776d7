package journey

import (
	"fmt"
	"slices"

	"evensteps/core/english"
	"evensteps/core/plan"
	"evensteps/core/scene"
)

// TicketStop is a rung that needs a ticket.
type TicketStop struct {
	Rung   int      `json:"rung"` // counted from 1, down the ladder; 0 for a check
	Name   string   `json:"name"`
	Ticket string   `json:"ticket"`
	Who    []string `json:"who"`  // the names of those who hold it
	More   int      `json:"more"` // how many steps after it need it too
}

// TicketStops says for each ticket of both ways where it is first needed. Today,
// the ladder and the decision all ask here.
func TicketStops(sc *scene.Scene, p *plan.Plan) []TicketStop {
	stops := []TicketStop{}
	made := 0 // rungs that stand above those to come
	for _, id := range sc.Order {
		if !slices.Contains(sc.WayIn(), id) {
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
		stops = append(stops, TicketStop{Rung: rung, Name: name, Ticket: ticket, Who: sc.Holders(ticket)})
	}
	for k, id := range p.WayIn {
		mv := sc.Map.Move(id)
		add(made+k+1, mv.Name(), mv.Ticket)
	}
	for _, s := range p.WayBack {
		if c := sc.Map.Check(s.Check); c != nil {
			add(0, c.Title, c.Ticket)
			continue
		}
		mv := sc.Map.Move(s.Undo)
		rung := slices.Index(p.WayIn, s.Undo) + 1
		if rung > 0 {
			rung += made
		} else {
			rung = slices.Index(sc.Order, s.Undo) + 1
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
			return s.Say()
		}
	}
	return ""
}

func (s TicketStop) Say() string {
	at := fmt.Sprintf("step %d", s.Rung)
	if s.Rung == 0 { // a check has no number
		at = "“" + s.Name + "” on the way back"
	}
	say := fmt.Sprintf("Stop at %s: %s ticket needed", at, english.Spaced(s.Ticket))
	if len(s.Who) > 0 {
		say += ". " + scene.HaveOne(s.Who)
	}
	return say
}
