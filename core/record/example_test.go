package record_test

import (
	"encoding/json"
	"fmt"
	"time"

	"evensteps/core/record"
	"evensteps/library"
)

// A job's state is what its facts come to: here a toe panel is off and its screws
// are counted, but nothing was shut off before.
func ExampleFold() {
	m, err := library.Map("tidemoor-tv6")
	if err != nil {
		panic(err)
	}
	var facts []record.Fact
	for i, body := range []struct{ kind, json string }{
		{"rung.out", `{"move": "toe-off"}`},
		{"lot.counted", `{"lot": "toe-off/1", "side": "out", "count": 2}`},
	} {
		fact, err := record.Read(record.Event{
			ID: fmt.Sprintf("01970000-0000-7000-8000-00000000000%d", i), Job: "j-1", By: "jonna", Device: "tab-1", N: i + 1,
			Wall: time.Date(2026, 11, 25, 9, i, 0, 0, time.UTC), Run: "r-1", Kind: body.kind, Body: json.RawMessage(body.json),
		})
		if err != nil {
			panic(err)
		}
		facts = append(facts, fact)
	}
	state := record.Fold(m, record.Order(facts))
	for _, turn := range state.Turns {
		fmt.Println(turn.Move, "is out:", len(turn.Outs) > 0, "is back:", turn.Back != nil)
	}
	for _, raised := range state.Raised {
		fmt.Println("to settle:", raised.Kind, raised.On)
	}
	// Output:
	// toe-off is out: true is back: false
	// to settle: guard-unmet toe-off
}
