package ladder

import (
	"slices"
	"time"

	"evensteps/core/energy"
	"evensteps/core/record"
)

// Meter is a meter with its accuracy for each quantity, as its maker prints it:
// "0.9%+3@0.1ohm", and what stands on it: "CAT III 600 V".
type Meter struct {
	Name     string            `json:"name"`
	Accuracy map[string]string `json:"accuracy"`
	Category string            `json:"category,omitempty"`
	Due      *time.Time        `json:"due,omitempty"` // until when its calibration is good
	From     *time.Time        `json:"from,omitempty"`
	Until    *time.Time        `json:"until,omitempty"`
	// Was is how it was before: each with its times.
	Was []Meter `json:"was,omitempty"`
}

// Person is one of the company's people, by id.
type Person struct {
	Name    string   `json:"name"`
	Role    string   `json:"role,omitempty"`   // technician, supervisor or office
	Closed  bool     `json:"closed,omitempty"` // no longer signs in
	Tickets []string `json:"tickets,omitempty"`
	// Held are tickets with their times. Where a ticket has some, they decide.
	Held []Held `json:"held,omitempty"`
}

// Held is a ticket for a time; no beginning or no end where nothing is said.
type Held struct {
	Ticket string     `json:"ticket"`
	From   *time.Time `json:"from,omitempty"`
	Until  *time.Time `json:"until,omitempty"`
}

// Firm is the company itself.
type Firm struct {
	Name     string  `json:"name"`
	Address  string  `json:"address,omitempty"`
	Number   string  `json:"number,omitempty"`   // as it is registered
	Zone     string  `json:"zone,omitempty"`     // its time zone, by the system's database
	Region   string  `json:"region,omitempty"`   // how dates and figures are written: en-GB, en-US
	Units    string  `json:"units,omitempty"`    // that values are written in: metric, customary
	Currency string  `json:"currency,omitempty"` // ISO 4217
	Tax      float64 `json:"tax,omitempty"`      // per cent
	CallOut  float64 `json:"call_out,omitempty"` // of one visit, without tax
}

// Price is what a minute of the company's work costs for a time.
type Price struct {
	Rate  float64    `json:"rate"`
	From  *time.Time `json:"from,omitempty"`
	Until *time.Time `json:"until,omitempty"`
}

func during(from, until *time.Time, at time.Time) bool {
	return (from == nil || !at.Before(*from)) && (until == nil || at.Before(*until))
}

// holds tells whether somebody has a ticket at a time.
func (p Person) holds(ticket string, at time.Time) bool {
	timed := false
	for _, h := range p.Held {
		if h.Ticket != ticket {
			continue
		}
		if timed = true; during(h.From, h.Until, at) {
			return true
		}
	}
	return !timed && slices.Contains(p.Tickets, ticket)
}

// meter is a meter as it was at a time. known is false where the company has none
// of that number, or had none then.
func (j *Job) meter(id string, at time.Time) (m Meter, known bool) {
	now, known := j.Meters[id]
	if !known {
		return m, false
	}
	for _, one := range append([]Meter{now}, now.Was...) {
		if during(one.From, one.Until, at) {
			return one, true
		}
	}
	return m, false
}

// rate is the price of a minute at a time; 1 where nobody has said.
func (j *Job) rate(at time.Time) float64 {
	for _, p := range j.Rates {
		if p.Rate > 0 && during(p.From, p.Until, at) {
			return p.Rate
		}
	}
	if j.Rate > 0 {
		return j.Rate
	}
	return 1
}

// heldBy tells whether a person held a ticket at a time. Where the job names no
// people, everyone is taken to have every ticket.
func (j *Job) heldBy(person, ticket string, at time.Time) bool {
	return ticket == "" || len(j.People) == 0 || j.People[person].holds(ticket, at)
}

// company is what facts are judged by.
func (b *Book) company() record.Company {
	return record.Company{
		Meter: func(id string, at time.Time) energy.Rating {
			m, _ := b.Job.meter(id, at)
			r, _ := energy.ReadRating(m.Category)
			return r
		},
		Supervisor: func(person string, _ time.Time) bool { return b.Job.People[person].Role == "supervisor" },
		Office:     func(person string) bool { return b.Job.People[person].Role == office },
		Holds:      b.Job.heldBy,
	}
}
