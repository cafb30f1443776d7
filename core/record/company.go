package record

import (
	"slices"
	"time"

	"evensteps/core/energy"
	"evensteps/core/named"
)

// Company is what the company knows, as it was at the time of a fact. Fields may
// be nil: then nothing is known of it.
type Company struct {
	// Meter is what stands on a meter, by its number.
	Meter func(id string, at time.Time) energy.Rating
	// Supervisor tells whether a person is one.
	Supervisor func(person string, at time.Time) bool
	// Office tells whether a person works at a desk: what they record puts them at no
	// machine.
	Office func(person string) bool
	// Holds tells whether a person holds a ticket.
	Holds func(person, ticket string, at time.Time) bool
}

// FromADesk tells whether an office may record such a fact: who goes, what a caller
// says, and what it takes back of its own. What happens at a machine is recorded by
// who is there.
func FromADesk(kind string) bool { return kinds[kind].where == desk }

// Came are those whom a fact puts at the machine: who says so, or records what is
// only done there, and who works along with them. There is nobody for a word from
// afar, and for what an office records.
func (c Company) Came(f *Fact) []string {
	who := []string{f.By}
	switch b := f.Of.(type) {
	case *PersonHere:
		if b.Person != f.By {
			who = append(who, b.Person)
		}
	case *TestResult:
		if b.Evidence == "told" || b.Outcome == named.NotDone {
			return nil
		}
	default:
		if kinds[f.Kind].where != machineside || f.Of == nil {
			return nil
		}
	}
	return slices.DeleteFunc(who, func(p string) bool { return c.Office != nil && c.Office(p) })
}
