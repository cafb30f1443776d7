package machine

import (
	"encoding/json"
)

// How far things are off, and what hangs on an option.

// Level says how far an item has come off, or how far an energy is shut off.
// Items know fitted < aside < away, energies live < shut < proven.
type Level string

// The levels of items and of energies.
const (
	Fitted Level = "fitted"
	Aside  Level = "aside"
	Away   Level = "away"
	Live   Level = "live"
	Shut   Level = "shut"
	Proven Level = "proven"
)

// Rank orders levels: 0 for fitted, live and where nothing is said, 1 for aside
// and shut, 2 for away and proven, -1 for a word that is no level.
func (l Level) Rank() int {
	switch l {
	case Fitted, Live, "":
		return 0
	case Aside, Shut:
		return 1
	case Away, Proven:
		return 2
	}
	return -1
}

// OfEnergy tells whether the level is one of an energy.
func (l Level) OfEnergy() bool { return l == Live || l == Shut || l == Proven }

// Values is what an option must be for a thing to exist: any one of them.
// YAML may give a single word.
type Values []string

// UnmarshalYAML takes one word or a list of words.
func (v *Values) UnmarshalYAML(unmarshal func(any) error) error {
	var many []string
	if unmarshal(&many) == nil {
		*v = many
		return nil
	}
	var one string
	if err := unmarshal(&one); err != nil {
		return err
	}
	*v = Values{one}
	return nil
}

// UnmarshalJSON takes one word or a list of words, as older maps hold them.
func (v *Values) UnmarshalJSON(data []byte) error {
	var many []string
	if json.Unmarshal(data, &many) == nil {
		*v = many
		return nil
	}
	var one string
	if err := json.Unmarshal(data, &one); err != nil {
		return err
	}
	*v = Values{one}
	return nil
}

// When names the options under which a thing exists: all of them must agree.
type When map[string]Values

// Needs says what must already be at a level or beyond it.
type Needs map[string]Level
