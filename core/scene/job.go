package scene

import (
	"slices"
	"time"

	"evensteps/core/energy"
	"evensteps/core/record"
)

// Where is the site and the machine of a job, as the company knows them.
type Where struct {
	Machine string `json:"machine"` // its id
	Name    string `json:"name"`
	Model   string `json:"model,omitempty"`
	Serial  string `json:"serial,omitempty"`
	Stands  string `json:"stands,omitempty"`
	Site    string `json:"site"`
	Address string `json:"address,omitempty"`
	Contact string `json:"contact,omitempty"`
	Phone   string `json:"phone,omitempty"`
	Access  string `json:"access,omitempty"` // how to get in
}

// Office is the role of those who work at a desk.
const Office = "office"

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

// Meter is a meter as it was at a time. known is false where the company has none
// of that number, or had none then.
func (j *Job) Meter(id string, at time.Time) (m Meter, known bool) {
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

// rateAt is the price of a minute at a time; 1 where nobody has said.
func (j *Job) rateAt(at time.Time) float64 {
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

// HeldBy tells whether a person held a ticket at a time. Where the job names no
// people, everyone is taken to have every ticket.
func (j *Job) HeldBy(person, ticket string, at time.Time) bool {
	return ticket == "" || len(j.People) == 0 || j.People[person].holds(ticket, at)
}

// Job is what the company knows of a job apart from its facts.
type Job struct {
	ID        string            `json:"id"`
	Title     string            `json:"title,omitempty"`
	Place     string            `json:"place,omitempty"`
	Complaint string            `json:"complaint,omitempty"` // a complaint of the map
	Words     string            `json:"words,omitempty"`     // what the customer said
	People    map[string]Person `json:"people,omitempty"`
	// Meters are the company's, by the number that is written on them.
	Meters map[string]Meter `json:"meters,omitempty"`
	Firm   *Firm            `json:"firm,omitempty"`
	Where  *Where           `json:"where,omitempty"`
	// Rate is the price of a minute of the company's work; 0 means 1.
	Rate float64 `json:"rate,omitempty"`
	// Rates are prices with their times; the first that covers a moment counts.
	Rates []Price `json:"rates,omitempty"`
	// Closed counts the company's proven repairs of this complaint on machines
	// of this map, by fault.
	Closed map[string]int `json:"closed,omitempty"`
	// Trays is how many trays a technician carries; nil where nobody has said.
	Trays *int `json:"trays,omitempty"`
	// Earlier is what was done on this very machine before, the newest first.
	Earlier []Earlier `json:"earlier,omitempty"`
}

// Earlier is one earlier job on the same machine.
type Earlier struct {
	When string `json:"when"` // the day, as 2026-11-25
	Say  string `json:"say"`
}

// Viewer decides whose name reads "you", and what Undo may take back.
type Viewer struct {
	Person string `json:"person"`
	Device string `json:"device"`
	// Looking is a rung that is looked at besides the one that is on: faces are
	// drawn for these two alone.
	Looking string `json:"looking,omitempty"`
	// Region and Units are the viewer's own; the company's where they are empty.
	Region string `json:"region,omitempty"`
	Units  string `json:"units,omitempty"`
	// Heard is when this device last heard of the others; nil where it always does.
	Heard *time.Time `json:"heard,omitempty"`
	// OneScreen makes of the steps what one screen shows, not both sides of all.
	OneScreen bool `json:"-"`
}

// UsualTrays is how many trays a technician has at the knee, until one says
// otherwise on the job (common practice, no source).
const UsualTrays = 6

// Company is what facts are judged by.
func (j *Job) Company() record.Company {
	return record.Company{
		Meter: func(id string, at time.Time) energy.Rating {
			m, _ := j.Meter(id, at)
			r, _ := energy.ReadRating(m.Category)
			return r
		},
		Supervisor: func(person string, _ time.Time) bool { return j.People[person].Role == "supervisor" },
		Office:     func(person string) bool { return j.People[person].Role == Office },
		Holds:      j.HeldBy,
	}
}
