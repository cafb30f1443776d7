package steps

import (
	"time"

	"evensteps/core/energy"
	"evensteps/core/lead"
	"evensteps/core/picture"
	"evensteps/core/record"
	"evensteps/core/view"
)

// What the steps of a job are made of.

// Mark is the state of one side of a rung.
type Mark string

// The marks: none (the rung has no such side), todo (not yet), half, due (it
// came off and is not back), done, lapsed (a proof that has ended).
const (
	None   Mark = "none"
	Todo   Mark = "todo"
	Half   Mark = "half"
	Due    Mark = "due"
	Done   Mark = "done"
	Lapsed Mark = "lapsed"
)

// Rung is one rung of the ladder: a move with an out and a back side, or a
// check, which has only a back side.
type Rung struct {
	ID      string `json:"id"`
	Kind    string `json:"kind"` // move, own (a move that the map does not know) or check
	Title   string `json:"title"`
	Sub     string `json:"sub"`
	Out     Mark   `json:"out"`
	Back    Mark   `json:"back"`
	Current bool   `json:"current"`
	OutSide *Side  `json:"out_side"`
	Home    *Side  `json:"back_side"`
	Kept    []Kept `json:"kept"` // what was recorded here, to be corrected later
}

// Kept is one record of a rung, to be taken back later.
type Kept struct {
	Event string    `json:"event"`
	Say   string    `json:"say"`
	By    string    `json:"by"`
	At    time.Time `json:"at"`
}

// Side is one side of a rung as it is worked: where one stands, what bites,
// what to do, with what, what is counted and confirmed, and what Done records.
type Side struct {
	Title    string          `json:"title"`
	Stand    string          `json:"stand"` // "Front, standing."
	View     string          `json:"view"`  // how left and right are meant
	Hazards  []string        `json:"hazards"`
	Do       []string        `json:"do"`
	Tools    []string        `json:"tools"`
	PPE      []string        `json:"ppe"`
	People   int             `json:"people"`
	Blind    bool            `json:"blind"`
	Lots     []Lot           `json:"lots"`
	Plugs    []Plug          `json:"plugs"`
	Lines    []view.Line     `json:"lines"`
	Proof    *ProofAsk       `json:"proof"`
	Ticket   string          `json:"ticket"` // why this viewer is not led on here
	Pass     string          `json:"pass"`
	Value    string          `json:"value"` // how a value is written, where Done asks for one
	Facts    []Fact          `json:"facts"` // tools, people, the lots that nobody has to count
	Asks     []Circumstance  `json:"asks"`  // what else a reading is judged by
	Meter    *MeterAsk       `json:"meter"` // what a meter that is joined can take by itself
	Compare  []string        `json:"compare"`
	Schools  []School        `json:"schools"` // ways that practitioners hold to, the company's own first
	Choices  []view.Choice   `json:"choices"`
	Keep     []view.Choice   `json:"keep"` // pieces of a set or kit that may stay
	Mend     []view.Choice   `json:"mend"` // what may be otherwise: other answers to the options that it hangs on, a fault that has undone it
	Said     string          `json:"said"` // why what was recorded does not count
	Picture  picture.Drawing `json:"picture"`
	Photos   []Shown         `json:"photos"` // photos of this rung; on the way back, those from the way in
	Notes    []view.Remark   `json:"notes"`  // what was noted on it
	Then     []Next          `json:"then"`   // what may share its touch
	Together *view.Touch     `json:"together"`
	Done     *view.Touch     `json:"done"`
	Failed   *view.Touch     `json:"failed"`
}

// Fact is one line of what a step takes besides its directions.
type Fact struct {
	Name string `json:"name"`
	Say  string `json:"say"`
	Lot  string `json:"lot"` // the lot that counts as the map says until somebody says otherwise here
}

// School is one way of doing it, and why somebody does it so.
type School struct {
	Say string `json:"say"`
	Why string `json:"why"`
}

// Circumstance is one circumstance of a reading, as it is recorded beside the value.
type Circumstance struct {
	Key     string `json:"key"` // leads, ambient or supply
	Label   string `json:"label"`
	Example string `json:"example"`
	Note    string `json:"note"`
	Must    bool   `json:"must"` // without it nothing can be judged
}

// MeterAsk is what a meter is asked to take, and between which points.
type MeterAsk struct {
	Quantity string   `json:"quantity"`
	Between  []string `json:"between"`
}

// Lot is one lot of fasteners of a rung.
type Lot struct {
	Lot       string        `json:"lot"`
	Side      string        `json:"side"`
	Tray      string        `json:"tray"`
	Bag       string        `json:"bag"` // what is written on its bag, where no tray is left
	Kind      string        `json:"kind"`
	Noun      string        `json:"noun"`
	Count     int           `json:"count"`      // as the map says; on the way back, what came out
	Counted   *int          `json:"counted"`    // as somebody counted
	Differs   string        `json:"differs"`    // that the map says otherwise
	Astray    int           `json:"astray"`     // dropped or lost, and not found
	MustCount bool          `json:"must_count"` // it has a look-alike, or drops where it is lost
	Why       string        `json:"why"`        // why it must be counted
	Empties   bool          `json:"empties"`    // its tray is empty once it is home
	Driver    string        `json:"driver"`
	Fit       string        `json:"fit"` // how the technician's own drivers go on, where they are known
	Drops     string        `json:"drops"`
	Loosen    bool          `json:"loosen"`
	Hidden    bool          `json:"hidden"`
	Renew     string        `json:"renew"` // that it is thrown away, and with what new ones come
	At        [][]float64   `json:"at"`
	Tally     view.Make     `json:"tally"` // records a count; count goes into the body
	Or        []view.Choice `json:"or"`    // what may have become of one
}

// Plug is the wire card of a connector: its leads, how they are kept apart, and
// what is still to do about them on this side of the rung.
type Plug struct {
	Item  string    `json:"item"`
	Name  string    `json:"name"`
	Keyed bool      `json:"keyed"`
	Card  bool      `json:"card"` // its leads are shown one by one
	Rule  lead.Rule `json:"rule"`
	Note  string    `json:"note"` // why that rule
	// OneByOne names the new part whose leads are moved over one at a time.
	OneByOne string     `json:"one_by_one"`
	Picture  bool       `json:"picture"`  // a photo is asked for before it is parted
	Pictured bool       `json:"pictured"` // there is one, or the leads were written down
	Instead  *view.Make `json:"instead"`  // what is recorded where there is none
	Wires    []Wire     `json:"wires"`
	Warn     []string   `json:"warn"` // what must be settled first
	Open     bool       `json:"open"`
}

// Wire is one lead of a card.
type Wire struct {
	Wire      string     `json:"wire"`
	Terminal  string     `json:"terminal"`
	Colour    string     `json:"colour"` // as last said, or as the map has it
	Stripe    string     `json:"stripe"`
	Says      string     `json:"says"` // both, in words
	Place     string     `json:"place"`
	Also      string     `json:"also"`   // where else this colour is
	Tag       int        `json:"tag"`    // the number of its tag, proposed or written; 0 for none
	Ticked    bool       `json:"ticked"` // on the way out: tagged, or moved over
	Moved     string     `json:"moved"`  // the new part's terminal
	Proof     string     `json:"proof"`  // by what that is known
	Tick      *view.Make `json:"tick"`   // what a touch records on the way out
	Confirmed bool       `json:"confirmed"`
	Confirm   *view.Make `json:"confirm"` // and on the way back
	Differs   []string   `json:"differs"` // what others said of it, where they differ
	Say       *view.Make `json:"say"`     // corrects its colour; colour and stripe go into the body
}

// ProofAsk is what a proof asks for: its steps in order, in the way that is
// chosen, and the other ways that can be had here.
type ProofAsk struct {
	Energy string             `json:"energy"`
	Name   string             `json:"name"` // of the energy
	On     string             `json:"on"`   // the move or check that it is of
	Way    string             `json:"way"`
	Ways   []WayOf            `json:"ways"` // all that can be had here, the best first
	Steps  []energy.ProofStep `json:"steps"`
	Note   string             `json:"note"` // the colours of the region, of mains; what a charge may hold
}

// WayOf is a way of proving and its name.
type WayOf struct {
	Way  string `json:"way"`
	Name string `json:"name"`
}

// Next is a rung that may share the touch of the one that is on.
type Next struct {
	Move  string   `json:"move"`
	Title string   `json:"title"`
	Do    []string `json:"do"`
	Says  string   `json:"says"`
}

// Shown is a photo with what is pinned on it.
type Shown struct {
	SHA256 string       `json:"sha256"`
	On     string       `json:"on"`
	What   string       `json:"what"` // what it shows, by name
	By     string       `json:"by"`
	At     time.Time    `json:"at"`
	Pins   []record.Pin `json:"pins"`
	Event  string       `json:"event"`
}
