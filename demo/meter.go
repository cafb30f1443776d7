package demo

import (
	"evensteps/library"
	"evensteps/stand-ins/multimeter"
)

// Meter is the simulated multimeter of the demo: it stands before a dryer whose
// heating element is open, half a percent out, and drops its line now and then.
func Meter() (*multimeter.Meter, error) {
	m, err := library.Map("tidemoor-tv6")
	if err != nil {
		return nil, err
	}
	return &multimeter.Meter{Map: m, Fault: "element-open", Percent: 0.5, DropEvery: 7, Seed: 1}, nil
}
