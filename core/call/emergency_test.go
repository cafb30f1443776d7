package call

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// What callers say when somebody can be hurt (common practice, no source).
var urgent = map[string][]string{
	"gas": {
		"there is a smell of gas", "I smell gas", "Gas smell in the laundry room!", "it stinks of gas when it is on", "we can hear gas hissing behind the stove",
		"the gas is leaking I think", "smells like propane", "the range works fine but there is a faint odour of gas", "rotten egg smell near the dryer", "I SMELL GAS",
		"a smel of gas", "there is a smell, like gas, in the hall", "My mother-in-law says gas leak; she is cooking on it now", "the burnt cake smell is gone but now it smells of gas", "Es riecht nach gas, it smells of gas",
	},
	"fire": {
		"smoke is coming out of the back", "it caught fire", "there are flames inside the dryer", "the oven is on fire", "sparks from the back when it starts", "it was sparking and then bang",
		"the plug is melting", "it keeps scorching the wall", "black smoke everywhere", "there was a small fire in the drum", "smoke!! and it is still burning", "smokeing from the vent", "somke from the back",
	},
	"shock":         {"I got a shock from the door", "my wife was shocked when she touched it", "it zapped me", "felt a tingle at the handle", "electric shock off the cabinet", "the case tingles"},
	"water-live":    {"water is running into the outlet", "the plug is lying in a puddle of water", "water drips on the socket behind it", "it leaks onto the wires", "the floor is wet and there are live wires"},
	"runs-open":     {"it keeps running when I open the door", "microwave starts with the door open", "it runs with its door open", "the drum turns while the door is open and keeps turning", "does not stop when I open the door", "it still heats even if the door is open"},
	"starts-itself": {"the oven won't turn off", "I can't switch it off", "it turns itself on at night", "starts by itself", "it comes on by itself", "the burner stays on", "it cannot be switched off", "the oven heats on its own", "it will not shut off", "it doesn't stop heating"},
	"glass":         {"the glass top is cracked", "the oven door glass shattered", "the cooktop has a crack", "my ceramic hob broke", "window of the oven exploded", "the glas top is craked"},
}

// What only sounds like it, and what else callers say.
var harmless = map[string][]string{
	"":           {"", "all gas house", "it is a gas dryer and it does not heat", "no smell of gas, it just does not light", "a burnt cake", "the cake got burnt", "it smells of dust in the first minutes", "I don't smell any gas", "the small gas ring does not light", "shocked by the price of the last one", "the door frame is bent", "no smoke, no smell", "is there smoke? no", "not sparking, just dead", "we fired it up and nothing happened"},
	"range":      {"the burner flame is yellow", "the flame goes out", "it sparks but does not light", "igniter keeps clicking and sparking, no flame", "the cooling fan stays on after baking", "the oven light won't turn off", "the clock won't go off", "the burner does not fire", "smoke from the burnt pizza", "a zone is only full on", "the oven turns off by itself", "shuts itself off after ten minutes", "the drawer opens by itself"},
	"oven":       {"the lamp stays on", "the fan keeps running after it is off", "the door glass is dirty", "it heats with the door open a crack, as it should"},
	"dishwasher": {"a drip at the hose with the machine unplugged", "water on the floor", "it leaks at the door", "a glass broke in it", "smells of rotten eggs", "it won't drain and the drain plug is in", "the door won't open", "it does not stop beeping"},
	"microwave":  {"the glass plate is broken", "the light stays on with the door open", "the door won't open", "it won't run when the door is open or shut", "the fan blows smoke into the room", "the door pops open while it is running"},
	"dryer":      {"does nothing when the door is shut", "the door opens while it is running", "it only works when I hold the door, no start otherwise", "the drum light stays on with the door open", "it stops by itself too early", "burning smell", "smells of burning"},
}

func TestEmergenciesComeFirst(t *testing.T) {
	kinds := map[string]string{"runs-open": "microwave", "starts-itself": "oven", "glass": "range", "water-live": "dishwasher"}
	for kind, all := range urgent {
		for _, said := range all {
			e := Urgent(said, kinds[kind])
			if assert.NotNil(t, e, "%s: %q", kind, said) {
				assert.Equal(t, kind, e.Kind, "%q by %v", said, e.By)
				assert.NotEmpty(t, e.Say)
				assert.NotEmpty(t, e.By)
			}
		}
	}
	for kind, all := range harmless {
		for _, said := range all {
			if e := Urgent(said, kind); e != nil {
				assert.Failf(t, "no emergency", "%s: %q is taken for %s by %v", kind, said, e.Kind, e.By)
			}
		}
	}
}

// Of two the more dangerous one; what is told never sends anybody to a machine,
// and nobody is told to touch a switch where there is gas.
func TestWhatTheCallerIsTold(t *testing.T) {
	e := Urgent("The glass top cracked and now I smell gas.", "range")
	require.NotNil(t, e)
	assert.Equal(t, "gas", e.Kind)
	text := strings.Join(e.Say, " ")
	assert.Contains(t, text, "Touch no switch")
	assert.Contains(t, text, "from outside")
	assert.NotContains(t, strings.ToLower(text), "breaker")
	for _, e := range emergencies[1:] {
		assert.Contains(t, strings.ToLower(strings.Join(e.say, " ")), "breaker", e.kind)
	}
	assert.Nil(t, Urgent("it runs with the door open", "oven"), "as an oven does")
	assert.NotNil(t, Urgent("it runs with the door open", ""), "what machine it is, is not known yet")
}

// Whatever stands around an emergency does not hide it, in capitals, too; any
// text at all is read.
func TestNothingHidesAnEmergency(t *testing.T) {
	var calm []string
	for _, all := range harmless {
		calm = append(calm, all...)
	}
	rapid.Check(t, func(t *rapid.T) {
		kind := rapid.SampledFrom([]string{"gas", "shock", "glass"}).Draw(t, "kind")
		said := rapid.SampledFrom(calm).Draw(t, "before") + ". " + rapid.SampledFrom(urgent[kind]).Draw(t, "urgent") + ". " + rapid.SampledFrom(calm).Draw(t, "after")
		if rapid.Bool().Draw(t, "loud") {
			said = strings.ToUpper(said)
		}
		if Urgent(said, "range") == nil {
			t.Fatalf("not heard: %q", said)
		}
		Urgent(rapid.String().Draw(t, "any"), rapid.SampledFrom([]string{"", "dryer", "microwave"}).Draw(t, "of"))
	})
	assert.NotNil(t, Urgent(strings.Repeat("it is quite old now and rattles. ", 60)+"It smells of gas.", "dryer"))
}
