package scene

import (
	"maps"
	"slices"
	"time"

	"evensteps/core/english"
	"evensteps/core/reading"
)

// Overdue says that a meter's calibration was over at a time; empty where it was
// not, or nobody knows.
func (sc *Scene) Overdue(meter string, at time.Time) string {
	m, known := sc.Job.Meter(meter, at)
	if !known || m.Due == nil || at.Before(*m.Due) {
		return ""
	}
	return "The calibration of meter " + meter + " ended on " + sc.Day(m.Due.Add(-time.Second)) + "."
}

// Day is a date as the company writes it, in the time zone that it came in.
func (sc *Scene) Day(at time.Time) string {
	if sc.Region() == english.American {
		return at.Format("January 2, 2006")
	}
	return at.Format("2 January 2006")
}

// Units are those that values are said in: the viewer's, or the company's.
func (sc *Scene) Units() reading.System {
	if u := sc.Viewer.Units; u != "" {
		return reading.System(u)
	}
	if f := sc.Job.Firm; f != nil {
		return reading.System(f.Units)
	}
	return ""
}

// Region is whose words are said: the viewer's, or the company's.
func (sc *Scene) Region() english.Region {
	if r := sc.Viewer.Region; r != "" {
		return english.Region(r)
	}
	if f := sc.Job.Firm; f != nil {
		return english.Region(f.Region)
	}
	return ""
}

// Rate is what a minute of the company's work costs now.
func (sc *Scene) Rate() float64 { return sc.Job.rateAt(sc.Now) }

// Name is what a person is called: "you" for the viewer.
func (sc *Scene) Name(person string) string {
	if person == sc.Viewer.Person {
		return "you"
	}
	return sc.FullName(person)
}

func (sc *Scene) FullName(person string) string {
	if p, known := sc.Job.People[person]; known && p.Name != "" {
		return p.Name
	}
	return person
}

// Has tells whether a person holds a ticket. Where the job names no people,
// everyone is taken to have every ticket.
func (sc *Scene) Has(person, ticket string) bool {
	return sc.Job.HeldBy(person, ticket, sc.Now)
}

// Holders are the names of those of the company who hold a ticket.
func (sc *Scene) Holders(ticket string) []string {
	who := []string{}
	for _, id := range slices.Sorted(maps.Keys(sc.Job.People)) {
		if sc.Has(id, ticket) && !sc.Job.People[id].Closed {
			who = append(who, sc.FullName(id))
		}
	}
	return who
}

func HaveOne(who []string) string {
	if len(who) == 1 {
		return english.And(who) + " has one"
	}
	return english.And(who) + " have one"
}
