package record

import (
	"evensteps/core/energy"
	"evensteps/core/machine"
	"evensteps/core/plan"
)

// State is what happened on a job: the fold of its facts.
type State struct {
	Map     *machine.Map      // with the job's answers applied and its own rungs
	Whole   *machine.Map      // with its own rungs, options open
	Answers map[string]string // options stated, the last in order
	Goals   []*Goal
	Turns   []*Turn // in the order they were opened

	// Standing are the moves that stand, in the order they were made, one-way
	// moves that hold among them.
	Standing []string
	Proofs   map[string]*Proven // energy -> its last proof
	// SetLive are the energies that a check, final or test set live, and that were
	// neither isolated nor measured since: they count as live, whatever stands.
	SetLive map[string]*Fact
	Checks  map[string]*CheckState
	Early   map[string]bool   // ids of finals that were run too early: they prove nothing
	Finals  map[string]*Fact  // final -> its last result since the machine was closed
	Pieces  map[string]*Fact  // "part/piece" -> the fact that settled it
	Said    map[string]string // move -> why its proof does not count

	Found      map[string]machine.Level // items missing from the start
	AsFound    []*Fact                  // what was so before the record began, as it was said
	Records    map[string]*Fact         // "MOVE/ID" -> what was recorded on the way in
	Without    []string                 // moves that a way was chosen without
	Also       []string                 // complaints besides the call's, in their order
	Looks      map[string]*Fact         // "MOVE/inspect/N" -> what was seen or done there
	Temps      []*Temp                  // temporaries, in the order they were spoken of
	Belongings []*Fact                  // the last word on each thing found inside
	Readings   map[string]*Fact         // test -> its last reading
	Results    map[string]*Fact         // test -> its last result
	Causes     map[string]*Fact         // "fault/cause" -> its answer
	Wires      map[string][]*Fact       // wire -> what was said of it, in order
	Leads      []*Fact                  // leads moved one at a time
	Decided    *Fact                    // the last decision
	Photos     []*Fact
	Differs    []*Fact // differences from the map
	Notes      []*Fact
	Bench      AtHand           // what is at the knee, the last that was said of each
	OldParts   map[string]*Fact // part -> what became of the old one
	Used       []*Fact          // what was used up besides
	Compared   map[string]*Fact // "PART/compare/N", "PART/carry/ITEM" -> ticked at the work
	OwnRungs   map[string]*Fact // own rung -> what was said of it
	LeftOver   []*Fact          // fasteners of no known home
	TakenBack  []*Fact          // withdrawals of others' facts

	Here     []string
	Raised   []*Raised
	Stops    []*Fact         // pressed and not lifted
	Told     []*Fact         // emergencies that were told of on the telephone
	Left     *Fact           // nobody is at the machine
	SignedBy *Fact           // signed off, with nothing later
	Given    *Fact           // who goes, the last that was said
	Off      *Fact           // called off, with no work later
	Last     *Fact           // the last fact that counts
	Facts    []Fact          // all that count, in order
	Gone     map[string]bool // ids of facts withdrawn

	// At is where the last step ended; Returning says it was a refit or check.
	At        *plan.Place
	Returning bool

	company   Company
	takenBack map[string]*Fact
	meters    map[string]energy.Rating // what was read off meters on this job
}

// Goal is one thing the job wants, open until a fact closes it.
type Goal struct {
	Goal    string
	Open    bool
	Closed  *Fact
	Reason  string // why it was dropped
	AddedBy *Fact
}

// Turn is one going out and coming back of a rung. A turn without an out is
// only begun: something was counted or half done.
type Turn struct {
	Move     string
	Outs     []*Fact
	Back     *Fact
	Half     map[string]bool             // side -> begun
	Counts   map[string]map[string]*Fact // lot|side -> person -> last total
	Accepts  map[string]bool             // lot|side, wire accepted as the map says
	Settled  map[string][]*Fact          // lot -> what became of what was short or over
	Confirms map[string]*Fact            // confirmation -> ticked
	Wires    map[string]*Fact            // wire -> confirmed at its terminal
	Earths   map[string]*Fact            // earth item -> its reading after it came back
	Trays    map[string]string           // lot -> the tray in which it was put
	Found    bool                        // made before the record began
	ByEnergy bool                        // undone by a restoring outside the ladder
}

// Open tells whether what the turn took off is still off.
func (t *Turn) Open() bool { return len(t.Outs) > 0 && t.Back == nil }

// Temp is a temporary: something put into the machine for the work. In is nil
// for one that was said never to have gone in.
type Temp struct {
	ID   string // the map's id, or the name it was given
	Name string
	In   *Fact
	Out  *Fact
}

// Inside tells whether it is in the machine.
func (t *Temp) Inside() bool { return t.In != nil && t.Out == nil }

// CheckState is what is known of one check.
type CheckState struct {
	Since  []string // moves it is for, made since it was last passed
	Passed *Fact
	Failed *Fact
	Lost   []string // moves refitted before it though it belongs before them
}

// Raised is a snag that an event raised as it was folded. Package ladder gives
// it its words.
type Raised struct {
	Kind  string
	On    string
	Side  string
	Other string // the need, energy or fact it speaks of
	By    *Fact
	Note  bool // has become a note: proven late, but before the next rung
	Done  bool // settled by a later fact
}

// ID names a snag: its kind, its subject and the event that raised it, so that
// it is the same on every device.
func (r *Raised) ID() string { return r.Kind + ":" + r.On + ":" + r.By.ID }

// OpenTurn is the turn of a move that is out and not back, or nil.
func (s *State) OpenTurn(move string) *Turn {
	for i := len(s.Turns) - 1; i >= 0; i-- {
		if s.Turns[i].Move == move && s.Turns[i].Open() {
			return s.Turns[i]
		}
	}
	return nil
}

// Levels are the levels of all items and energies now. An energy that a check,
// final or test set live counts as live, whatever stands.
func (s *State) Levels() map[string]machine.Level { return s.levels(s.Standing) }

// levels are the levels that these moves give.
func (s *State) levels(standing []string) map[string]machine.Level {
	at := plan.Levels(s.Map, standing, s.Found)
	for id := range s.SetLive {
		delete(at, id)
	}
	return at
}

// Proven is one proof of an energy.
type Proven struct {
	Fact    *Fact
	Proof   *Proof
	Move    string
	How     string // the way
	Highest string // the highest reading, or what was seen
	Note    string // what stands beside it
	Stands  bool
	Ended   *Fact // what ended it
}

// AtHand is what is at the knee: so many trays, these drivers ("hex 1/4 in"). nil
// where nobody has said.
type AtHand struct {
	Trays   *int
	Drivers []string
}
