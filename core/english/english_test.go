package english

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestNumbersAsPeopleSayThem(t *testing.T) {
	assert.Equal(t, "7 min", Minutes(7, 7.2))
	assert.Equal(t, "1 min", Minutes(0.2, 0.4))
	assert.Equal(t, "1 to 2 min", Minutes(0.2, 2))
	assert.Equal(t, "25 to 40 min", Minutes(25.2, 40.4))
	for p, want := range map[float64]string{0: "very unlikely", 0.019: "very unlikely", 0.02: "2 %", 0.385: "38 %", 0.97: "97 %", 0.971: "almost certain", 1: "almost certain"} {
		assert.Equal(t, want, Chance(p))
	}
	var held Tally
	held.Add(0, "nut")
	held.Add(38, "screw")
	held.Add(1, "nut")
	held.Add(1, "screw")
	assert.Equal(t, "39 screws, 1 nut", held.String())
}

func TestNamesInASentence(t *testing.T) {
	assert.Equal(t, "main top", Lower("Main top"))
	assert.Equal(t, "NTC probe", Lower("NTC probe"), "an abbreviation stays")
	assert.Equal(t, "", Lower(""))
	assert.Equal(t, "Second visit", Upper(Spaced("second-visit")))
	assert.Equal(t, "red, blue and green", And([]string{"red", "blue", "green"}))
	assert.Equal(t, "red", And([]string{"red"}))
	assert.Equal(t, "One. Two.", Sentences("One.", "", "Two."))
}

func TestTheWordsOfTheRegions(t *testing.T) {
	for british, american := range map[string]string{
		"Earth lead out, gas cock shut.":           "Ground wire out, gas shutoff valve shut.",
		"Lift the worktop; earthing is measured.":  "Lift the countertop; grounding is measured.",
		"A torch and a spanner.":                   "A flashlight and a wrench.",
		"Both programme switches":                  "Both program switches", // a switch that the table does not have
		"Peacocks stay, and unearthed things too.": "Peacocks stay, and unearthed things too.",
	} {
		assert.Equal(t, american, American.In(british))
		assert.Equal(t, british, British.In(british), "what is British stays")
		assert.Equal(t, american, American.In(american), "what is American stays")
	}
	assert.Equal(t, "Open the fuse box with a spanner.", British.In("Open the breaker panel with a wrench."))
	assert.Equal(t, "Set the timer on the ground.", British.In("Set the timer on the ground."), "what a word means besides stays")
	assert.Equal(t, "colour", Region("").In("colour"), "no region is chosen")
	british, american := Mixed("Take the spanner to the countertop.")
	assert.Equal(t, "spanner", british)
	assert.Equal(t, "countertop", american)
	british, american = Mixed("Take the spanner to the worktop.")
	assert.Empty(t, british+american)
}
