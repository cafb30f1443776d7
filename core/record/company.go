package record

import (
	"time"

	"evensteps/core/energy"
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
