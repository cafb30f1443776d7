package energy

import (
	"strings"
	"unicode"

	"evensteps/core/reading"
)

// Proof is how an energy was shown to be off, as it was written down.
type Proof struct {
	By       string    `json:"by,omitempty"`  // as Way, in records of older versions
	Way      string    `json:"way,omitempty"` // one of the ways of the energy
	Meter    string    `json:"meter,omitempty"`
	Category string    `json:"category,omitempty"` // what stands on a meter that the company's list does not know: "CAT III 600 V"
	Rated    string    `json:"rated,omitempty"`    // volts for which the meter is rated, of stored charge
	Source   string    `json:"source,omitempty"`   // what the known DC source gives; a 9 V cell where nothing is said
	Before   string    `json:"before,omitempty"`   // the instrument on a known source
	Readings []Reading `json:"readings,omitempty"`
	Again    []Reading `json:"again,omitempty"` // on a low-impedance range, or under a load
	After    string    `json:"after,omitempty"`
	Flame    string    `json:"flame,omitempty"`    // seen (of the cock's own move); died or burns
	Tried    string    `json:"tried,omitempty"`    // a new try: no-light or lit; or of what holds: holds or moves
	Standing string    `json:"standing,omitempty"` // pressure with the cock open
	Rise     string    `json:"rise,omitempty"`     // in two minutes with the cock shut
	Stopped  string    `json:"stopped,omitempty"`  // stopped or runs
	Came     string    `json:"came,omitempty"`     // in two minutes: nothing or drips
	Held     string    `json:"held,omitempty"`     // what holds it
}

// Reading is one value between two points, as it was written.
type Reading struct {
	Between []string `json:"between"`
	Value   string   `json:"value"`
}

// Ask is what a proof has to hold for one energy in one way.
type Ask struct {
	Kind   string // of the energy
	Way    string
	At     string      // where the instrument goes, as the map says
	Points [][2]string // the pairs to read between
	Peak   float64     // volts that may stand at stored charge; 0 where the map does not say
	Volts  float64     // of the supply
}

// SafeVolts is the voltage below which a point counts as dead: 34 V, the limit
// for plug pins one second after unplugging (IEC 60335-1, clause 22.5, from
// memory; check your edition and local codes).
const SafeVolts = 34.0

func withUnit(q reading.Quantity, text string) string {
	if strings.ContainsFunc(text, unicode.IsLetter) || strings.ContainsAny(text, "%~") {
		return strings.TrimSpace(text)
	}
	return strings.TrimSpace(text) + " " + q.Unit()
}

// What is asked of the instruments and of what they show (common practice, no
// source, where nothing else is said).
const (
	// liveVolts is the least that a known live source shows: above extra-low
	// voltage, 50 V AC (IEC 61140, from memory).
	liveVolts, mostVolts = 50.0, 1000.0
	// ghostVolts may stand on a dead lead beside a live one, and a meter of high
	// impedance shows them.
	ghostVolts = 10.0
	// agree is how far the two checks of an instrument may be apart.
	agree = 0.10
	// cellVolts is what a 9 V cell shows.
	cellVolts = 9.0
	// A cock that holds lets the pressure rise by no more than that in two
	// minutes, and the gauge has shown at least so much while it was open.
	riseMillibars, standingMillibars = 0.5, 5.0
	coolCelsius                      = 48.0
	// A detector shows at least so much on its known source, and less than that
	// where there is no gas; in % of the lower explosive limit.
	sourceLEL, noneLEL = 5.0, 1.0
)

// How is the way in which it was proven.
func (p *Proof) How() string {
	if p.Way != "" {
		return p.Way
	}
	return p.By
}

// Judgement is what a proof shows.
type Judgement struct {
	Off     bool
	Highest string // the highest reading as it was written, or what was seen
	Why     string // why it shows the energy off; or why not, and what to do
	Note    string // what stands beside a proof that holds
	Missing bool   // something of it was not written down yet
}
