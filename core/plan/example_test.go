package plan_test

import (
	"fmt"

	"evensteps/core/plan"
	"evensteps/library"
)

// The way in to a part and back out, of the least total of minutes.
func ExampleMake() {
	m, err := library.Map("tidemoor-tv6")
	if err != nil {
		panic(err)
	}
	p, err := plan.Make(m, plan.Request{Goals: []string{"test:element-ohms"}, People: 1})
	if err != nil {
		panic(err)
	}
	fmt.Println("in:", p.WayIn)
	for _, s := range p.WayBack {
		fmt.Println("back:", s.Undo+s.Check)
	}
	fmt.Println("the least, shown to be so:", p.Proven)
	// Output:
	// in: [isolator-off drawn-forward cover-off prove-dead vent-off rear-cover-off heater-leads-apart]
	// back: heater-leads-apart
	// back: rear-cover-off
	// back: vent-off
	// back: cover-off
	// back: drawn-forward
	// back: isolator-off
	// the least, shown to be so: true
}
