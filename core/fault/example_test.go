package fault_test

import (
	"fmt"

	"evensteps/core/fault"
	"evensteps/library"
)

// What is wrong, and which test is worth most now.
func ExampleFind() {
	m, err := library.Map("tidemoor-tv6")
	if err != nil {
		panic(err)
	}
	advice, known := fault.Find(fault.Case{Map: m, Complaint: "no-heat", Rate: 1})
	fmt.Println("the map knows the complaint:", known)
	for _, s := range advice.Suspects[:3] {
		fmt.Printf("%s %.2f\n", s.Fault, s.P)
	}
	// Output:
	// the map knows the complaint: true
	// element-open 0.38
	// cutoff-open 0.27
	// stat-open 0.09
}
