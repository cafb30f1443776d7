package reading_test

import (
	"fmt"

	"evensteps/core/reading"
	"evensteps/library"
)

// A reading as somebody wrote it, held against what the map expects.
func ExampleJudge() {
	m, err := library.Map("tidemoor-tv6")
	if err != nil {
		panic(err)
	}
	supply, leads := 230.0, 0.2
	element := m.Test("element-ohms")
	for _, written := range []string{"21.3 ohm", "0.L", "9,4 Ω"} {
		v, err := reading.Judge(element.Expect, written, reading.Setting{Supply: &supply, Leads: &leads})
		fmt.Println(written, v.Verdict, err)
	}
	_, err = reading.Judge(element.Expect, "21 V", reading.Setting{})
	fmt.Println(err)
	// Output:
	// 21.3 ohm pass <nil>
	// 0.L open <nil>
	// 9,4 Ω low <nil>
	// "21 V" cannot be read; write it like 11.4 ohm
}

// Values are written as people write them, in the units of either side.
func ExampleParse() {
	for _, text := range []string{"7 in. w.c.", "0.5 psi", "17,4 mbar"} {
		mbar, err := reading.Parse(reading.Pressure, text)
		fmt.Printf("%s = %.1f mbar %v\n", text, mbar, err)
	}
	// Output:
	// 7 in. w.c. = 17.4 mbar <nil>
	// 0.5 psi = 34.5 mbar <nil>
	// 17,4 mbar = 17.4 mbar <nil>
}
