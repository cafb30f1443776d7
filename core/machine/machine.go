// Package machine holds the machine map: what a model family of appliance is
// made of, what holds it, what must come away before what.
//
// A map is data only. Ways in and ways back are computed from it (package
// plan), never written in it. The types here are format 1 whole; their JSON
// form is what goes to the browser. Reading YAML is the work of package
// mapfile, so that the browser's build needs no YAML reader.
package machine

import (
	"encoding/json"
	"slices"
)

// Format is the first line of every map that this package understands.
const Format = "evensteps/map/1"

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

// Map is one machine map.
type Map struct {
	Format   string   `json:"format" yaml:"format"`
	ID       string   `json:"id" yaml:"id"`
	Title    string   `json:"title" yaml:"title"`
	Kind     string   `json:"kind" yaml:"kind"`
	Maker    string   `json:"maker,omitempty" yaml:"maker"`
	Covers   []string `json:"covers,omitempty" yaml:"covers"`
	Revision int      `json:"revision" yaml:"revision"`
	Summary  string   `json:"summary,omitempty" yaml:"summary"`
	Cabinet  *Cabinet `json:"cabinet,omitempty" yaml:"cabinet"`
	Supply   *Supply  `json:"supply,omitempty" yaml:"supply"`
	Sources  []string `json:"sources,omitempty" yaml:"sources"`

	Options    []Option        `json:"options,omitempty" yaml:"options"`
	Energies   []Energy        `json:"energies,omitempty" yaml:"energies"`
	Fasteners  []Fastener      `json:"fasteners,omitempty" yaml:"fasteners"`
	Poses      map[string]Pose `json:"poses,omitempty" yaml:"poses"`
	Items      []Item          `json:"items,omitempty" yaml:"items"`
	Moves      []Move          `json:"moves,omitempty" yaml:"moves"`
	Checks     []Check         `json:"checks,omitempty" yaml:"checks"`
	Finals     []Final         `json:"finals,omitempty" yaml:"finals"`
	Tests      []Test          `json:"tests,omitempty" yaml:"tests"`
	Survey     []string        `json:"survey,omitempty" yaml:"survey"`
	Faults     []Fault         `json:"faults,omitempty" yaml:"faults"`
	Complaints []Complaint     `json:"complaints,omitempty" yaml:"complaints"`
	Circuits   []Circuit       `json:"circuits,omitempty" yaml:"circuits"`
	Parts      []Part          `json:"parts,omitempty" yaml:"parts"`

	applied *applied // where With made it
}

// Plain tells whether a map stands for no model at all: it has the energies of a
// kind and nothing else, for machines that no map covers.
func (m *Map) Plain() bool { return len(m.Covers) == 0 && len(m.Parts) == 0 }

// Cabinet is the outer size in millimetres.
type Cabinet struct {
	WidthMM  float64 `json:"width_mm" yaml:"width_mm"`
	HeightMM float64 `json:"height_mm" yaml:"height_mm"`
	DepthMM  float64 `json:"depth_mm" yaml:"depth_mm"`
}

// Supply is what the rating plate asks for: volts, hertz, amperes.
type Supply struct {
	System string  `json:"system" yaml:"system"`
	Volts  float64 `json:"volts" yaml:"volts"`
	Hertz  float64 `json:"hertz,omitempty" yaml:"hertz"`
	Amps   float64 `json:"amps,omitempty" yaml:"amps"`
}

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

// Option is a way in which machines of one family differ.
type Option struct {
	ID     string   `json:"id" yaml:"id"`
	Ask    string   `json:"ask" yaml:"ask"`
	Tell   string   `json:"tell,omitempty" yaml:"tell"`
	Values []string `json:"values" yaml:"values"`
	Usual  string   `json:"usual" yaml:"usual"`
	Needs  Needs    `json:"needs,omitempty" yaml:"needs"`
	When   When     `json:"when,omitempty" yaml:"when"`
}

// Energy is something that can hurt.
type Energy struct {
	ID        string     `json:"id" yaml:"id"`
	Kind      string     `json:"kind" yaml:"kind"`
	Name      string     `json:"name" yaml:"name"`
	When      When       `json:"when,omitempty" yaml:"when"`
	Capacitor *Capacitor `json:"capacitor,omitempty" yaml:"capacitor"`
}

// Ways are the ways in which an energy of this kind can be proven off, the usual
// one first.
func Ways(kind string) []string {
	switch kind {
	case "mains":
		return []string{"meter", "in-hand"}
	case "gas":
		return []string{"let-by", "burn-off", "detector"}
	case "water":
		return []string{"runs-dry"}
	case "heat":
		return []string{"touch-warm"}
	case "spring", "weight":
		return []string{"held"}
	}
	return []string{"meter"}
}

// Guards tells whether every move needs this energy proven off (mains, gas,
// water); the other kinds guard only the moves that name them.
func (e Energy) Guards() bool {
	return e.Kind == "mains" || e.Kind == "gas" || e.Kind == "water"
}

// Capacitor holds a charge: microfarads, volts, bleed resistor in megohms.
type Capacitor struct {
	Microfarads  float64 `json:"microfarads" yaml:"microfarads"`
	Volts        float64 `json:"volts" yaml:"volts"`
	BleedMegohms float64 `json:"bleed_megohms,omitempty" yaml:"bleed_megohms"`
}

// Fastener is a kind of screw, clip, ring or nut. Size and lengths are kept
// exactly as written.
type Fastener struct {
	ID     string `json:"id" yaml:"id"`
	Name   string `json:"name" yaml:"name"`
	Drive  string `json:"drive" yaml:"drive"`
	Size   string `json:"size,omitempty" yaml:"size"`
	Head   string `json:"head,omitempty" yaml:"head"`
	Thread string `json:"thread,omitempty" yaml:"thread"`
	Length string `json:"length,omitempty" yaml:"length"`
	Finish string `json:"finish,omitempty" yaml:"finish"`
}

// Pose is what it takes to lay the machine so: minutes, people, needs.
type Pose struct {
	Minutes *float64 `json:"minutes,omitempty" yaml:"minutes"`
	People  int      `json:"people,omitempty" yaml:"people"`
	Needs   Needs    `json:"needs,omitempty" yaml:"needs"`
}

// Item is anything on the machine that can be fitted or away.
type Item struct {
	ID      string    `json:"id" yaml:"id"`
	Name    string    `json:"name" yaml:"name"`
	Type    string    `json:"type" yaml:"type"`
	Face    string    `json:"face,omitempty" yaml:"face"`
	Aka     []string  `json:"aka,omitempty" yaml:"aka"`
	Area    []float64 `json:"area,omitempty" yaml:"area"`
	At      []float64 `json:"at,omitempty" yaml:"at"`
	Keyed   bool      `json:"keyed,omitempty" yaml:"keyed"`
	Earth   bool      `json:"earth,omitempty" yaml:"earth"`
	Housing string    `json:"housing,omitempty" yaml:"housing"`
	Loose   bool      `json:"loose,omitempty" yaml:"loose"`
	Wires   []Wire    `json:"wires,omitempty" yaml:"wires"`
	// Carries are the energies that run through it (water in a hose, gas in a
	// pipe), Hides those whose live parts lie behind it.
	Carries []string `json:"carries,omitempty" yaml:"carries"`
	Hides   []string `json:"hides,omitempty" yaml:"hides"`
	When    When     `json:"when,omitempty" yaml:"when"`
}

// Wire is one lead of a connector.
type Wire struct {
	Terminal string `json:"terminal" yaml:"terminal"`
	Colour   string `json:"colour,omitempty" yaml:"colour"`
	Stripe   string `json:"stripe,omitempty" yaml:"stripe"`
}

// Minutes is how long a move takes each way.
type Minutes struct {
	Out  float64 `json:"out" yaml:"out"`
	Back float64 `json:"back" yaml:"back"`
}

// Hazard is a word of the format, and a sentence where the map has one.
type Hazard struct {
	Kind string `json:"kind" yaml:"kind"`
	Say  string `json:"say,omitempty" yaml:"say"`
}

// UnmarshalYAML takes a word or {kind, say}.
func (h *Hazard) UnmarshalYAML(unmarshal func(any) error) error {
	if unmarshal(&h.Kind) == nil {
		return nil
	}
	type plain Hazard
	return unmarshal((*plain)(h))
}

// Lot is the fasteners of one kind that one move undoes.
type Lot struct {
	Kind      string      `json:"kind" yaml:"kind"`
	Count     int         `json:"count" yaml:"count"`
	At        [][]float64 `json:"at,omitempty" yaml:"at"`
	Loosen    bool        `json:"loosen,omitempty" yaml:"loosen"`
	Hidden    bool        `json:"hidden,omitempty" yaml:"hidden"`
	DropsInto string      `json:"drops_into,omitempty" yaml:"drops_into"`
	Renew     string      `json:"renew,omitempty" yaml:"renew"`
}

// Temporary is a thing put in for the work that must come out again.
type Temporary struct {
	ID        string   `json:"id" yaml:"id"`
	Name      string   `json:"name" yaml:"name"`
	OutBefore []string `json:"out_before,omitempty" yaml:"out_before"`
	Stays     string   `json:"stays,omitempty" yaml:"stays"`
	Cut       *Cut     `json:"cut,omitempty" yaml:"cut"`
}

// Cut says how long a temporary is cut: a recorded length plus an allowance.
type Cut struct {
	From string `json:"from" yaml:"from"`
	Add  string `json:"add" yaml:"add"`
}

// Record is what is measured as a thing comes off.
type Record struct {
	ID       string `json:"id" yaml:"id"`
	Ask      string `json:"ask" yaml:"ask"`
	Quantity string `json:"quantity" yaml:"quantity"`
}

// LeavesLoose is what is no longer held while a move stands.
type LeavesLoose struct {
	Say    string   `json:"say" yaml:"say"`
	Unless []string `json:"unless,omitempty" yaml:"unless"`
}

// Confirm is what must be true before a refit counts as done: a sentence to
// tick, a value compared with a record, or a reading judged like a test.
type Confirm struct {
	Say    string  `json:"say" yaml:"say"`
	SameAs string  `json:"same_as,omitempty" yaml:"same_as"`
	Within string  `json:"within,omitempty" yaml:"within"`
	Expect *Expect `json:"expect,omitempty" yaml:"expect"`
}

// UnmarshalYAML takes a sentence or {say, same_as, within, expect}.
func (c *Confirm) UnmarshalYAML(unmarshal func(any) error) error {
	if unmarshal(&c.Say) == nil {
		return nil
	}
	type plain Confirm
	return unmarshal((*plain)(c))
}

// What one does while one is there: look, and what is done on the way back, when
// it is about to be closed in again.
const (
	Look   = "look"
	Clean  = "clean"
	Oil    = "oil"
	Grease = "grease"
	Renew  = "renew"
)

// Cares are the words of Inspect.Do.
var Cares = []string{Look, Clean, Oil, Grease, Renew}

// Inspect is something to look at, clean, oil, grease or renew while one is there.
type Inspect struct {
	Say   string `json:"say" yaml:"say"`
	Fault string `json:"fault,omitempty" yaml:"fault"` // what it speaks for where it is so
	Do    string `json:"do,omitempty" yaml:"do"`       // one of Cares; look where nothing is said
	With  string `json:"with,omitempty" yaml:"with"`   // what and how much: "bearing grease, a smear"
}

// Looks tells whether there is something to see, which may be so or not; all else
// is done or left.
func (i Inspect) Looks() bool { return i.Do == "" || i.Do == Look }

// Turn is a direction that matters, as seen from somewhere, and what for.
type Turn struct {
	What     string `json:"what" yaml:"what"`
	Way      string `json:"way" yaml:"way"`
	SeenFrom string `json:"seen_from" yaml:"seen_from"`
	Why      string `json:"why,omitempty" yaml:"why"`
}

// School is one of several ways that practitioners hold to, with its reason. The
// first of a list is the company's own.
type School struct {
	Say string `json:"say" yaml:"say"`
	Why string `json:"why" yaml:"why"`
}

// Back is how a refit differs from its move. A pointer that is present
// replaces the move's own, also when it is empty.
type Back struct {
	Title  string    `json:"title,omitempty" yaml:"title"`
	Do     []string  `json:"do,omitempty" yaml:"do"`
	Needs  *Needs    `json:"needs,omitempty" yaml:"needs"`
	Face   *string   `json:"face,omitempty" yaml:"face"`
	Pose   *string   `json:"pose,omitempty" yaml:"pose"`
	Tools  *[]string `json:"tools,omitempty" yaml:"tools"`
	People *int      `json:"people,omitempty" yaml:"people"`
	// Ticket is needed for the refit besides the move's own.
	Ticket  string    `json:"ticket,omitempty" yaml:"ticket"`
	Hazards *[]Hazard `json:"hazards,omitempty" yaml:"hazards"`
	Or      []string  `json:"or,omitempty" yaml:"or"`
	Confirm []Confirm `json:"confirm,omitempty" yaml:"confirm"`
	After   []string  `json:"after,omitempty" yaml:"after"`
	Turn    *Turn     `json:"turn,omitempty" yaml:"turn"`
	Schools []School  `json:"schools,omitempty" yaml:"schools"`
}

// Move is one thing a technician does on the way in, with its undoing.
type Move struct {
	ID          string           `json:"id" yaml:"id"`
	Title       string           `json:"title" yaml:"title"`
	Short       string           `json:"short,omitempty" yaml:"short"`
	Takes       map[string]Level `json:"takes" yaml:"takes"`
	Needs       Needs            `json:"needs,omitempty" yaml:"needs"`
	LiveOK      []string         `json:"live_ok,omitempty" yaml:"live_ok"`
	When        When             `json:"when,omitempty" yaml:"when"`
	OneWay      bool             `json:"one_way,omitempty" yaml:"one_way"`
	People      int              `json:"people,omitempty" yaml:"people"`
	Ticket      string           `json:"ticket,omitempty" yaml:"ticket"`
	Face        string           `json:"face" yaml:"face"`
	Pose        string           `json:"pose,omitempty" yaml:"pose"`
	Tools       []string         `json:"tools,omitempty" yaml:"tools"`
	PPE         []string         `json:"ppe,omitempty" yaml:"ppe"`
	Minutes     Minutes          `json:"minutes" yaml:"minutes"`
	Lay         string           `json:"lay,omitempty" yaml:"lay"`
	LeavesLoose *LeavesLoose     `json:"leaves_loose,omitempty" yaml:"leaves_loose"`
	// Proof are the ways in which a move proves an energy off, the best first;
	// ProveAt where its instrument goes.
	Proof   Values `json:"proof,omitempty" yaml:"proof"`
	ProveAt string `json:"prove_at,omitempty" yaml:"prove_at"`
	// WhileLive are energies that must still be live as this move is made, where
	// the first way of proving needs them (the flame before the isolator).
	WhileLive []string `json:"while_live,omitempty" yaml:"while_live"`
	// Aware says why the order of energies on the way back is right all the same.
	Aware        string      `json:"aware,omitempty" yaml:"aware"`
	MeasureFirst string      `json:"measure_first,omitempty" yaml:"measure_first"`
	PutsIn       []Temporary `json:"puts_in,omitempty" yaml:"puts_in"`
	Record       []Record    `json:"record,omitempty" yaml:"record"`
	Fasteners    []Lot       `json:"fasteners,omitempty" yaml:"fasteners"`
	Hazards      []Hazard    `json:"hazards,omitempty" yaml:"hazards"`
	Blind        bool        `json:"blind,omitempty" yaml:"blind"`
	Consumes     []string    `json:"consumes,omitempty" yaml:"consumes"`
	Do           []string    `json:"do,omitempty" yaml:"do"`
	Back         *Back       `json:"back,omitempty" yaml:"back"`
	Inspect      []Inspect   `json:"inspect,omitempty" yaml:"inspect"`
	Turn         *Turn       `json:"turn,omitempty" yaml:"turn"`
	Schools      []School    `json:"schools,omitempty" yaml:"schools"`
}

// Name is what the ladder and Done call the move.
func (m *Move) Name() string {
	if m.Short != "" {
		return m.Short
	}
	return m.Title
}

// BackTicket is the ticket that the refit needs.
func (m *Move) BackTicket() string {
	if m.Ticket == "" && m.Back != nil {
		return m.Back.Ticket
	}
	return m.Ticket
}

// Task is what checks, finals and tests have in common: where and with what
// something is tried, and how it is judged.
type Task struct {
	ID      string           `json:"id" yaml:"id"`
	Title   string           `json:"title" yaml:"title"`
	When    When             `json:"when,omitempty" yaml:"when"`
	Energy  map[string]Level `json:"energy,omitempty" yaml:"energy"`
	Needs   Needs            `json:"needs,omitempty" yaml:"needs"`
	LiveOK  []string         `json:"live_ok,omitempty" yaml:"live_ok"`
	Hold    []string         `json:"hold,omitempty" yaml:"hold"`
	Face    string           `json:"face,omitempty" yaml:"face"`
	Pose    string           `json:"pose,omitempty" yaml:"pose"`
	Tools   []string         `json:"tools,omitempty" yaml:"tools"`
	Ticket  string           `json:"ticket,omitempty" yaml:"ticket"`
	People  int              `json:"people,omitempty" yaml:"people"`
	Hazards []Hazard         `json:"hazards,omitempty" yaml:"hazards"`
	PPE     []string         `json:"ppe,omitempty" yaml:"ppe"`
	Minutes float64          `json:"minutes" yaml:"minutes"`
	Do      []string         `json:"do,omitempty" yaml:"do"`
	Measure *Measure         `json:"measure,omitempty" yaml:"measure"`
	Expect  *Expect          `json:"expect,omitempty" yaml:"expect"`
}

// Check is something to prove on the way back, between two refits.
type Check struct {
	Task   `yaml:",inline"`
	For    []string `json:"for,omitempty" yaml:"for"`
	After  []string `json:"after,omitempty" yaml:"after"`
	Before []string `json:"before,omitempty" yaml:"before"`
	Pass   string   `json:"pass,omitempty" yaml:"pass"`
	Proves []string `json:"proves,omitempty" yaml:"proves"`
	Aware  string   `json:"aware,omitempty" yaml:"aware"`
}

// Final is something to prove with the machine closed and running.
type Final struct {
	Task   `yaml:",inline"`
	Pass   string   `json:"pass,omitempty" yaml:"pass"`
	Proves []string `json:"proves,omitempty" yaml:"proves"`
}

// Concerns tells whether a final belongs to the proof of a complaint: it names
// that one, or none at all.
func (f *Final) Concerns(complaint string) bool {
	return len(f.Proves) == 0 || slices.Contains(f.Proves, complaint)
}

// Test is something to try or measure while finding the fault.
type Test struct {
	Task     `yaml:",inline"`
	Power    string    `json:"power,omitempty" yaml:"power"`
	Fitted   []string  `json:"fitted,omitempty" yaml:"fitted"`
	Lift     []string  `json:"lift,omitempty" yaml:"lift"`
	Once     bool      `json:"once,omitempty" yaml:"once"`
	Runs     bool      `json:"runs,omitempty" yaml:"runs"` // it needs a machine that runs
	Limits   string    `json:"limits,omitempty" yaml:"limits"`
	Ask      string    `json:"ask,omitempty" yaml:"ask"`
	Outcomes []Outcome `json:"outcomes,omitempty" yaml:"outcomes"`
}

// Outcome is one answer that a test can give, with P(outcome | fault).
type Outcome struct {
	ID      string             `json:"id" yaml:"id"`
	Say     string             `json:"say,omitempty" yaml:"say"`
	Verdict Values             `json:"verdict,omitempty" yaml:"verdict"`
	Given   map[string]float64 `json:"given,omitempty" yaml:"given"`
	Else    *float64           `json:"else,omitempty" yaml:"else"`
	Rest    bool               `json:"rest,omitempty" yaml:"rest"`
	Mends   string             `json:"mends,omitempty" yaml:"mends"`
}

// Measure is what is read, and between which points.
type Measure struct {
	Quantity string   `json:"quantity" yaml:"quantity"`
	Between  []string `json:"between,omitempty" yaml:"between"`
}

// Expect is what a reading should be: one of its fields.
type Expect struct {
	Ohms        []float64    `json:"ohms,omitempty" yaml:"ohms"`
	Element     *Element     `json:"element,omitempty" yaml:"element"`
	Platinum    *Platinum    `json:"platinum,omitempty" yaml:"platinum"`
	Thermistor  *Thermistor  `json:"thermistor,omitempty" yaml:"thermistor"`
	Winding     *Winding     `json:"winding,omitempty" yaml:"winding"`
	Continuity  string       `json:"continuity,omitempty" yaml:"continuity"`
	Volts       *Nominal     `json:"volts,omitempty" yaml:"volts"`
	Capacitance *Capacitance `json:"capacitance,omitempty" yaml:"capacitance"`
	Insulation  *Insulation  `json:"insulation,omitempty" yaml:"insulation"`
	Temperature []float64    `json:"temperature,omitempty" yaml:"temperature"`
	Amps        []float64    `json:"amps,omitempty" yaml:"amps"`
	Mbar        []float64    `json:"mbar,omitempty" yaml:"mbar"`
	Seconds     []float64    `json:"seconds,omitempty" yaml:"seconds"`
	Length      []float64    `json:"length,omitempty" yaml:"length"`
	Leakage     *Leakage     `json:"leakage,omitempty" yaml:"leakage"`
	WaterHeated *WaterHeated `json:"water_heated,omitempty" yaml:"water_heated"`
	VentRun     *VentRun     `json:"vent_run,omitempty" yaml:"vent_run"`
}

// Element is a heating element by its rating: watts at volts.
type Element struct {
	Watts                 float64   `json:"watts" yaml:"watts"`
	Volts                 float64   `json:"volts" yaml:"volts"`
	TolerancePercent      float64   `json:"tolerance_percent,omitempty" yaml:"tolerance_percent"`
	PowerTolerancePercent []float64 `json:"power_tolerance_percent,omitempty" yaml:"power_tolerance_percent"`
}

// Platinum is a platinum probe: ohms at 0 °C and its curve.
type Platinum struct {
	R0               float64 `json:"r0" yaml:"r0"`
	Curve            string  `json:"curve" yaml:"curve"`
	TolerancePercent float64 `json:"tolerance_percent,omitempty" yaml:"tolerance_percent"`
}

// Thermistor is an NTC probe: ohms at 25 °C and beta in kelvin.
type Thermistor struct {
	R25              float64 `json:"r25" yaml:"r25"`
	Beta             float64 `json:"beta" yaml:"beta"`
	TolerancePercent float64 `json:"tolerance_percent,omitempty" yaml:"tolerance_percent"`
}

// Winding is a copper winding: ohms at 20 °C.
type Winding struct {
	OhmsAt20         float64 `json:"ohms_at_20" yaml:"ohms_at_20"`
	TolerancePercent float64 `json:"tolerance_percent,omitempty" yaml:"tolerance_percent"`
}

// Nominal is a supply voltage with its tolerance.
type Nominal struct {
	Nominal          float64 `json:"nominal" yaml:"nominal"`
	TolerancePercent float64 `json:"tolerance_percent,omitempty" yaml:"tolerance_percent"`
}

// Capacitance is a capacitor in microfarads.
type Capacitance struct {
	Microfarads      float64 `json:"microfarads" yaml:"microfarads"`
	TolerancePercent float64 `json:"tolerance_percent,omitempty" yaml:"tolerance_percent"`
}

// Insulation is a least insulation resistance in megohms.
type Insulation struct {
	MegohmsAtLeast float64 `json:"megohms_at_least" yaml:"megohms_at_least"`
}

// Leakage is a greatest microwave leakage in mW/cm².
type Leakage struct {
	MWPerCM2AtMost float64 `json:"mw_per_cm2_at_most" yaml:"mw_per_cm2_at_most"`
}

// WaterHeated judges a temperature rise in kelvin as watts.
type WaterHeated struct {
	Litres  float64   `json:"litres" yaml:"litres"`
	Seconds float64   `json:"seconds" yaml:"seconds"`
	Watts   []float64 `json:"watts" yaml:"watts"`
}

// VentRun judges a vent by its straight metres and bends.
type VentRun struct {
	MetresAtMost  float64 `json:"metres_at_most" yaml:"metres_at_most"`
	MetresPerBend float64 `json:"metres_per_bend" yaml:"metres_per_bend"`
}

// Fault is something that can be wrong.
type Fault struct {
	ID          string   `json:"id" yaml:"id"`
	Name        string   `json:"name" yaml:"name"`
	Part        string   `json:"part,omitempty" yaml:"part"`
	Reach       Needs    `json:"reach,omitempty" yaml:"reach"`
	SwapMinutes float64  `json:"swap_minutes,omitempty" yaml:"swap_minutes"`
	Leaves      []string `json:"leaves,omitempty" yaml:"leaves"`
	Because     []Cause  `json:"because,omitempty" yaml:"because"`
	When        When     `json:"when,omitempty" yaml:"when"`
}

// Cause is why a part may have failed.
type Cause struct {
	ID   string `json:"id" yaml:"id"`
	Ask  string `json:"ask" yaml:"ask"`
	Test string `json:"test,omitempty" yaml:"test"`
}

// Complaint is what customers say, with the weights of its faults.
type Complaint struct {
	ID           string             `json:"id" yaml:"id"`
	Name         string             `json:"name" yaml:"name"`
	Words        []string           `json:"words,omitempty" yaml:"words"`
	Faults       map[string]float64 `json:"faults,omitempty" yaml:"faults"`
	OtherMinutes *float64           `json:"other_minutes,omitempty" yaml:"other_minutes"`
	Dead         bool               `json:"dead,omitempty" yaml:"dead"` // nothing of the machine runs
	When         When               `json:"when,omitempty" yaml:"when"`
}

// Nothing is the outcome of a test that needs a machine that runs, where it does
// not.
const Nothing = "nothing"

// Circuit is a series path with points that can be probed.
type Circuit struct {
	ID      string     `json:"id" yaml:"id"`
	Name    string     `json:"name" yaml:"name"`
	Hold    []string   `json:"hold,omitempty" yaml:"hold"`
	Points  []Point    `json:"points" yaml:"points"`
	Between [][]string `json:"between" yaml:"between"`
	When    When       `json:"when,omitempty" yaml:"when"`
}

// Point is a place to put a probe, with what must be open to reach it.
type Point struct {
	ID    string `json:"id" yaml:"id"`
	Name  string `json:"name" yaml:"name"`
	Reach Needs  `json:"reach" yaml:"reach"`
}

// Part is what can be ordered and fitted.
type Part struct {
	ID          string    `json:"id" yaml:"id"`
	Item        string    `json:"item" yaml:"item"`
	Also        []string  `json:"also,omitempty" yaml:"also"`
	Name        string    `json:"name" yaml:"name"`
	Number      string    `json:"number" yaml:"number"`
	Price       float64   `json:"price,omitempty" yaml:"price"`
	Was         []string  `json:"was,omitempty" yaml:"was"`
	SetOf       int       `json:"set_of,omitempty" yaml:"set_of"`
	FitTogether bool      `json:"fit_together,omitempty" yaml:"fit_together"`
	Kit         []string  `json:"kit,omitempty" yaml:"kit"`
	CarryOver   []string  `json:"carry_over,omitempty" yaml:"carry_over"`
	With        []string  `json:"with,omitempty" yaml:"with"`
	Unlike      bool      `json:"unlike,omitempty" yaml:"unlike"`
	Compare     []Compare `json:"compare,omitempty" yaml:"compare"`
	Ticket      string    `json:"ticket,omitempty" yaml:"ticket"`
	When        When      `json:"when,omitempty" yaml:"when"`
}

// Pieces are the items that fitting this part renews, each once: its item,
// those it comes with, and those of its kit.
func (p *Part) Pieces() []string {
	var pieces []string
	for _, id := range slices.Concat([]string{p.Item}, p.Also, p.Kit) {
		if !slices.Contains(pieces, id) {
			pieces = append(pieces, id)
		}
	}
	return pieces
}

// Renews tells whether fitting a part brings a new one of what a fault's own
// part renews: the part itself, or a kit that holds it.
func (m *Map) Renews(p *Part, f *Fault) bool {
	own := m.Part(f.Part)
	return p != nil && own != nil && slices.Contains(p.Pieces(), own.Item)
}

// Compare is what to hold old against new before fitting.
type Compare struct {
	What             string   `json:"what" yaml:"what"`
	Value            any      `json:"value,omitempty" yaml:"value"`
	ShorterByPercent *float64 `json:"shorter_by_percent,omitempty" yaml:"shorter_by_percent"`
}

// Move returns the move with that id, or nil.
func (m *Map) Move(id string) *Move { return find(m.Moves, id, func(v *Move) string { return v.ID }) }

// Item returns the item with that id, or nil.
func (m *Map) Item(id string) *Item { return find(m.Items, id, func(v *Item) string { return v.ID }) }

// Energy returns the energy with that id, or nil.
func (m *Map) Energy(id string) *Energy {
	return find(m.Energies, id, func(v *Energy) string { return v.ID })
}

// Check returns the check with that id, or nil.
func (m *Map) Check(id string) *Check {
	return find(m.Checks, id, func(v *Check) string { return v.ID })
}

// Final returns the final with that id, or nil.
func (m *Map) Final(id string) *Final {
	return find(m.Finals, id, func(v *Final) string { return v.ID })
}

// Test returns the test with that id, or nil.
func (m *Map) Test(id string) *Test { return find(m.Tests, id, func(v *Test) string { return v.ID }) }

// Part returns the part with that id, or nil.
func (m *Map) Part(id string) *Part { return find(m.Parts, id, func(v *Part) string { return v.ID }) }

// Fastener returns the fastener kind with that id, or nil.
func (m *Map) Fastener(id string) *Fastener {
	return find(m.Fasteners, id, func(v *Fastener) string { return v.ID })
}

// Option returns the option with that id, or nil.
func (m *Map) Option(id string) *Option {
	return find(m.Options, id, func(v *Option) string { return v.ID })
}

// Fault returns the fault with that id, or nil.
func (m *Map) Fault(id string) *Fault {
	return find(m.Faults, id, func(v *Fault) string { return v.ID })
}

// Circuit returns the circuit with that id, or nil.
func (m *Map) Circuit(id string) *Circuit {
	return find(m.Circuits, id, func(v *Circuit) string { return v.ID })
}

// Temporary returns what some move puts in under that id, or nil.
func (m *Map) Temporary(id string) *Temporary {
	for i := range m.Moves {
		if p := find(m.Moves[i].PutsIn, id, func(v *Temporary) string { return v.ID }); p != nil {
			return p
		}
	}
	return nil
}

// Mains lists the energies that are mains, in the map's order.
func (m *Map) Mains() []string {
	var ids []string
	for i := range m.Energies {
		if m.Energies[i].Kind == "mains" {
			ids = append(ids, m.Energies[i].ID)
		}
	}
	return ids
}

// Complaint returns the complaint with that id, or nil.
func (m *Map) Complaint(id string) *Complaint {
	return find(m.Complaints, id, func(v *Complaint) string { return v.ID })
}

func find[T any](list []T, id string, of func(*T) string) *T {
	for i := range list {
		if of(&list[i]) == id {
			return &list[i]
		}
	}
	return nil
}
