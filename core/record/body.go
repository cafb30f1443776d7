package record

import (
	"errors"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	"evensteps/core/energy"
	"evensteps/core/machine"
)

// body is what every kind's body can do: say what is malformed about itself.
type body interface{ check() error }

// kinds that this version reads and folds. Others are kept and shown as made
// by a newer version.
var kinds = map[string]func() body{
	"visit.began":     func() body { return &VisitBegan{} },
	"visit.ended":     func() body { return &VisitEnded{} },
	"person.here":     func() body { return &PersonHere{} },
	"person.gone":     func() body { return &PersonGone{} },
	"option.answered": func() body { return &OptionAnswered{} },
	"complaint.added": func() body { return &ComplaintAdded{} },
	"goal.added":      func() body { return &GoalAdded{} },
	"goal.dropped":    func() body { return &GoalDropped{} },
	"found":           func() body { return &Found{} },
	"rung.out":        func() body { return &RungOut{} },
	"rung.half":       func() body { return &RungHalf{} },
	"rung.back":       func() body { return &RungBack{} },
	"rung.not-done":   func() body { return &RungNotDone{} },
	"lot.counted":     func() body { return &LotCounted{} },
	"lot.settled":     func() body { return &LotSettled{} },
	"way.chosen":      func() body { return &WayChosen{} },
	"wire.confirmed":  func() body { return &WireConfirmed{} },
	"confirmed":       func() body { return &Confirmed{} },
	"energy.restored": func() body { return &EnergyRestored{} },
	"rung.own":        func() body { return &RungOwn{} },
	"wire.said":       func() body { return &WireSaid{} },
	"lead.moved":      func() body { return &LeadMoved{} },
	"recorded":        func() body { return &Recorded{} },
	"looked":          func() body { return &Looked{} },
	"temporary.in":    func() body { return &TemporaryIn{} },
	"temporary.out":   func() body { return &TemporaryOut{} },
	"belonging":       func() body { return &Belonging{} },
	"reading.taken":   func() body { return &ReadingTaken{} },
	"test.result":     func() body { return &TestResult{} },
	"cause.answered":  func() body { return &CauseAnswered{} },
	"decided":         func() body { return &Decided{} },
	"photo":           func() body { return &Photo{} },
	"bench.has":       func() body { return &BenchHas{} },
	"old-part":        func() body { return &OldPart{} },
	"used":            func() body { return &Used{} },
	"left-over":       func() body { return &LeftOver{} },
	"difference":      func() body { return &Difference{} },
	"check.result":    func() body { return &CheckResult{} },
	"final.result":    func() body { return &FinalResult{} },
	"part.fitted":     func() body { return &PartFitted{} },
	"note":            func() body { return &Note{} },
	"inspected":       func() body { return &Inspected{} },
	"snag.explained":  func() body { return &SnagExplained{} },
	"told":            func() body { return &Told{} },
	"stopped":         func() body { return &Stopped{} },
	"stop.lifted":     func() body { return &StopLifted{} },
	"left":            func() body { return &Left{} },
	"took-over":       func() body { return &TookOver{} },
	"job.given":       func() body { return &JobGiven{} },
	"job.called-off":  func() body { return &JobCalledOff{} },
	"paused":          func() body { return &Paused{} },
	"resumed":         func() body { return &Resumed{} },
	"signed-off":      func() body { return &SignedOff{} },
	"withdrawn":       func() body { return &Withdrawn{} },
}

// Proof is how an energy was shown to be off, PointReading one value of it.
type (
	Proof        = energy.Proof
	PointReading = energy.Reading
)

// The bodies, one type for each kind.
type (
	// VisitBegan: a person starts at the machine.
	VisitBegan struct{}
	// VisitEnded closes it.
	VisitEnded struct{}
	// PersonHere works along from now.
	PersonHere struct {
		Person string `json:"person"`
	}
	// PersonGone no longer does.
	PersonGone struct {
		Person string `json:"person"`
	}
	// OptionAnswered: the last in order counts.
	OptionAnswered struct {
		Option string `json:"option"`
		Value  string `json:"value"`
	}
	// ComplaintAdded: the customer complains of this, too.
	ComplaintAdded struct {
		Complaint string `json:"complaint"` // one of the map
	}
	// GoalAdded opens a goal.
	GoalAdded struct {
		Goal string `json:"goal"`
	}
	// GoalDropped closes it: declined, waiting, replaced, mistaken.
	GoalDropped struct {
		Goal   string `json:"goal"`
		Reason string `json:"reason"`
	}
	// Found was so before the record began: a move that stands, or an item
	// missing or broken.
	Found struct {
		Move  string        `json:"move,omitempty"`
		By    string        `json:"by,omitempty"`
		Item  string        `json:"item,omitempty"`
		Level machine.Level `json:"level,omitempty"`
		State string        `json:"state,omitempty"`
		Photo string        `json:"photo,omitempty"`
	}
	// RungOut: a move was made.
	RungOut struct {
		Move    string            `json:"move"`
		Accepts []string          `json:"accepts,omitempty"`
		Trays   map[string]string `json:"trays,omitempty"` // lot -> the tray that was said
		Proof   *Proof            `json:"proof,omitempty"`
	}
	// RungHalf: begun.
	RungHalf struct {
		Move string `json:"move"`
		Side string `json:"side"`
	}
	// RungBack: a move was undone.
	RungBack struct {
		Move    string   `json:"move"`
		Closes  []string `json:"closes,omitempty"`
		Accepts []string `json:"accepts,omitempty"`
	}
	// RungNotDone: it could not be done; bars takes that side out of plans.
	RungNotDone struct {
		Move   string `json:"move"`
		Side   string `json:"side"`
		Reason string `json:"reason"`
		Bars   bool   `json:"bars,omitempty"`
	}
	// WayChosen is another way in than the shortest: one without these moves. The last
	// in order counts; with none it is the shortest again.
	WayChosen struct {
		Without []string `json:"without"`
	}
	// LotCounted is a total for this lot and turn.
	LotCounted struct {
		Lot     string   `json:"lot"`
		Side    string   `json:"side"`
		Count   int      `json:"count"`
		Tray    string   `json:"tray,omitempty"` // where they were put
		Settles []string `json:"settles,omitempty"`
	}
	// LotSettled says what became of fasteners that do not add up.
	LotSettled struct {
		Lot   string `json:"lot"`
		As    string `json:"as"`
		Count int    `json:"count"`
		Where string `json:"where,omitempty"`
	}
	// WireConfirmed: a lead is back on a terminal.
	WireConfirmed struct {
		Wire string `json:"wire"`
		On   string `json:"on"`
		Tug  bool   `json:"tug,omitempty"`
	}
	// Confirmed: a confirmation ticked, or given its value.
	Confirmed struct {
		Confirm string `json:"confirm"`
		Value   string `json:"value,omitempty"`
	}
	// EnergyRestored: what happened outside the ladder.
	EnergyRestored struct {
		Energy string `json:"energy"`
		How    string `json:"how"`
	}
	// CheckResult: a check was made.
	CheckResult struct {
		Check   string  `json:"check"`
		Passed  bool    `json:"passed"`
		Value   *string `json:"value,omitempty"`
		Without *string `json:"without,omitempty"`
		// Proofs are what was measured after it, of energies that it had set live.
		Proofs map[string]*Proof `json:"proofs,omitempty"`
	}
	// FinalResult: a final was run.
	FinalResult struct {
		Final  string  `json:"final"`
		Passed bool    `json:"passed"`
		Value  *string `json:"value,omitempty"`
	}
	// PartFitted: a piece was fitted, kept or returned.
	PartFitted struct {
		Part     string   `json:"part"`
		Piece    string   `json:"piece"`
		As       string   `json:"as,omitempty"` // fitted (the default), kept, returned
		Number   string   `json:"number,omitempty"`
		Evidence string   `json:"evidence,omitempty"`
		Carried  []string `json:"carried,omitempty"`
		Compared []string `json:"compared,omitempty"` // what was compared between old and new
		Reason   string   `json:"reason,omitempty"`   // why one of a set was kept
	}
	// RungOwn is a rung that the map does not know.
	RungOwn struct {
		ID      string          `json:"id"`
		Title   string          `json:"title"`
		Face    string          `json:"face"`
		Needs   machine.Needs   `json:"needs,omitempty"`
		Before  []string        `json:"before,omitempty"` // moves that it blocks
		Lots    []OwnLot        `json:"lots,omitempty"`
		Wires   []OwnWire       `json:"wires,omitempty"`
		Minutes machine.Minutes `json:"minutes"`
		Type    string          `json:"type,omitempty"`  // of the item that it takes off; part where nothing is said
		Keyed   bool            `json:"keyed,omitempty"` // of a plug
		Earth   bool            `json:"earth,omitempty"`
		LiveOK  []string        `json:"live_ok,omitempty"`
	}
	// OwnLot is fasteners of one kind that an own rung undoes.
	OwnLot struct {
		Drive  string `json:"drive"`
		Size   string `json:"size,omitempty"`
		Length string `json:"length,omitempty"`
		Count  int    `json:"count"`
	}
	// OwnWire is one lead that an own rung parts.
	OwnWire struct {
		Terminal string `json:"terminal"`
		Colour   string `json:"colour,omitempty"`
		Stripe   string `json:"stripe,omitempty"`
	}
	// WireSaid is a lead as somebody sees it.
	WireSaid struct {
		Wire   string `json:"wire"`
		Colour string `json:"colour"`
		Stripe string `json:"stripe,omitempty"`
		Tag    int    `json:"tag,omitempty"`
		Route  string `json:"route,omitempty"`
	}
	// LeadMoved: one lead from an old terminal to a new one.
	LeadMoved struct {
		From  string `json:"from"`
		To    string `json:"to"`
		Proof string `json:"proof,omitempty"`
	}
	// Recorded is what the way back will compare.
	Recorded struct {
		Record string `json:"record"`
		Value  string `json:"value"`
	}
	// Looked is what one did while one was there: looked, cleaned, oiled, greased or
	// renewed something, or left it.
	Looked struct {
		On      string `json:"on"` // MOVE/inspect/N
		As      string `json:"as"`
		Finding string `json:"finding,omitempty"`
	}
	// TemporaryIn: something was put into the machine for the work.
	TemporaryIn struct {
		Temporary string `json:"temporary,omitempty"`
		Name      string `json:"name,omitempty"`   // one that the map does not know
		Before    string `json:"before,omitempty"` // the move before whose refit it must be out, of such a one
	}
	// TemporaryOut: it is out, or never went in.
	TemporaryOut struct {
		Temporary string `json:"temporary,omitempty"`
		Name      string `json:"name,omitempty"`
	}
	// Belonging was found inside; settled when it says to whom it went.
	Belonging struct {
		What  string `json:"what"`
		Where string `json:"where,omitempty"`
		To    string `json:"to,omitempty"`
	}
	// ReadingTaken is a value read in a test, on an earth or on a circuit.
	ReadingTaken struct {
		Test    string  `json:"test"`
		Value   string  `json:"value"`
		Meter   string  `json:"meter,omitempty"`
		Leads   *string `json:"leads,omitempty"`
		Ambient *string `json:"ambient,omitempty"`
		Supply  *string `json:"supply,omitempty"`
		Fitted  bool    `json:"fitted,omitempty"` // read with the part still wired in
	}
	// TestResult is what a test without a reading showed.
	TestResult struct {
		Test     string `json:"test"`
		Outcome  string `json:"outcome"` // or not-done
		Evidence string `json:"evidence,omitempty"`
		Reason   string `json:"reason,omitempty"`
	}
	// CauseAnswered says why a fitted part failed; "not found" is an answer.
	CauseAnswered struct {
		Fault  string `json:"fault"`
		Cause  string `json:"cause"`
		Answer string `json:"answer"`
	}
	// Decided is what was chosen, with the figures it was chosen on.
	Decided struct {
		Choice  string         `json:"choice"`
		Figures map[string]any `json:"figures,omitempty"`
		By      string         `json:"by,omitempty"`
	}
	// Photo hangs on a rung, wire, reading or condition.
	Photo struct {
		SHA256 string `json:"sha256"`
		On     string `json:"on,omitempty"`
		Pins   []Pin  `json:"pins,omitempty"`
	}
	// Pin marks a place on a photo, 0 to 1 from its top left.
	Pin struct {
		X    float64 `json:"x"`
		Y    float64 `json:"y"`
		Wire string  `json:"wire,omitempty"`
		Say  string  `json:"say,omitempty"`
	}
	// Difference is what was found other than the map says. One that names a drive
	// or size corrects the lot that it is on, for this job.
	Difference struct {
		On    string `json:"on"`
		Says  string `json:"says"`
		Is    string `json:"is"`
		Drive string `json:"drive,omitempty"`
		Size  string `json:"size,omitempty"`
	}
	// BenchHas is what the technician has at the knee: so many trays, these
	// drivers ("hex 1/4 in").
	BenchHas struct {
		Trays   *int     `json:"trays,omitempty"`
		Drivers []string `json:"drivers,omitempty"`
	}
	// OldPart is what became of the part that came off.
	OldPart struct {
		Part string `json:"part"`
		To   string `json:"to"` // customer, company, scrap
	}
	// Used is what was used up and is not in the map's list.
	Used struct {
		What  string `json:"what"`
		Count int    `json:"count,omitempty"`
	}
	// LeftOver is fasteners that are left over, and whose home nobody knows.
	LeftOver struct {
		Drive string `json:"drive,omitempty"`
		Size  string `json:"size,omitempty"`
		Count int    `json:"count"`
		Where string `json:"where,omitempty"` // where they lie
	}
	// Note is a text on something.
	Note struct {
		Text string `json:"text"`
		On   string `json:"on,omitempty"`
	}
	// Inspected settles a snag of the highest grade.
	Inspected struct {
		Snag    string `json:"snag"`
		Finding string `json:"finding"`
	}
	// SnagExplained explains a lesser one.
	SnagExplained struct {
		Snag   string `json:"snag"`
		Reason string `json:"reason"`
	}
	// Told is what a caller was told in an emergency. The machine is out of use from
	// then on.
	Told struct {
		Emergency string   `json:"emergency"` // its kind: gas, fire, shock, water-live, runs-open, starts-itself, glass
		Name      string   `json:"name"`
		Say       []string `json:"say,omitempty"`
	}
	// Stopped holds the job.
	Stopped struct {
		Why string `json:"why"`
	}
	// StopLifted lets it go on.
	StopLifted struct {
		ByWhat string `json:"by what"`
	}
	// Left: nobody is at the machine any more.
	Left struct {
		Tag string `json:"tag,omitempty"`
	}
	// TookOver: somebody else goes on.
	TookOver struct {
		From string `json:"from,omitempty"`
	}
	// JobGiven says who goes: the last in order counts, and nobody where it is empty.
	JobGiven struct {
		To []string `json:"to"`
	}
	// JobCalledOff: it was made in error, or is no longer wanted. Instead is the job
	// that was made for it on another machine. Whoever works on it all the same opens
	// it again.
	JobCalledOff struct {
		Reason  string `json:"reason"`
		Instead string `json:"instead,omitempty"`
	}
	// Paused is not work; proofs stand.
	Paused struct{}
	// Resumed ends the pause.
	Resumed struct{}
	// SignedOff closes the record; later facts open it again.
	SignedOff struct {
		Customer  string   `json:"customer,omitempty"`
		NotTested []string `json:"not_tested,omitempty"`
	}
	// Withdrawn takes back an event.
	Withdrawn struct {
		Event string `json:"event"`
	}
)

func named(pairs ...string) error {
	for i := 0; i < len(pairs); i += 2 {
		if pairs[i+1] == "" {
			return fmt.Errorf("%s is missing", pairs[i])
		}
		if len(pairs[i+1]) > MostID {
			return most("%s is longer than %d letters", pairs[i], MostID)
		}
	}
	return nil
}

func texts(list ...string) error {
	for _, s := range list {
		if utf8.RuneCountInString(s) > MostText {
			return most("a text is longer than %d letters", MostText)
		}
	}
	return nil
}

func said(name, text string) error {
	if strings.TrimSpace(text) == "" {
		return fmt.Errorf("%s is missing", name)
	}
	return texts(text)
}

func oneOf(name, word string, words ...string) error {
	if !slices.Contains(words, word) {
		return fmt.Errorf("%s is %q; it is one of %s", name, short(word), strings.Join(words, ", "))
	}
	return nil
}

func counted(n int) error {
	if n > MostCount {
		return most("a count runs from 0 to %d, not %d", MostCount, n)
	}
	if n < 0 {
		return fmt.Errorf("a count runs from 0 to %d, not %d", MostCount, n)
	}
	return nil
}

func (*VisitBegan) check() error       { return nil }
func (*VisitEnded) check() error       { return nil }
func (b *PersonHere) check() error     { return named("person", b.Person) }
func (b *PersonGone) check() error     { return named("person", b.Person) }
func (b *OptionAnswered) check() error { return named("option", b.Option, "value", b.Value) }
func (b *ComplaintAdded) check() error { return named("complaint", b.Complaint) }
func (b *GoalAdded) check() error      { return named("goal", b.Goal) }

func (b *GoalDropped) check() error {
	return errors.Join(named("goal", b.Goal), oneOf("reason", b.Reason, "declined", "waiting", "replaced", "mistaken"))
}

func (b *Found) check() error {
	if b.Move != "" {
		return errors.Join(named("move", b.Move), texts(b.By))
	}
	return errors.Join(named("item", b.Item), oneOf("level", string(b.Level), "fitted", "aside", "away", "shut"),
		oneOf("state", b.State, "missing", "broken"), texts(b.Photo))
}

func (b *RungOut) check() error {
	if b.Proof == nil {
		return named("move", b.Move)
	}
	return errors.Join(named("move", b.Move), checkProof("proof", b.Proof))
}

// mostReadings is how many readings a proof holds.
const mostReadings = 20

func checkProof(name string, p *Proof) error {
	errs := []error{oneOf(name+".way", p.How(), energy.Meter, energy.InHand, energy.LetBy, energy.BurnOff, energy.Detector, energy.RunsDry, energy.Warm, energy.Held)}
	if len(p.Readings) > mostReadings || len(p.Again) > mostReadings {
		errs = append(errs, most("a proof holds %d readings at most", mostReadings))
	}
	for _, r := range slices.Concat(p.Readings, p.Again) {
		if len(r.Between) != 2 {
			return errors.New("a reading stands between two points")
		}
		errs = append(errs, texts(r.Between[0], r.Between[1], r.Value))
	}
	return errors.Join(append(errs, texts(p.Meter, p.Category, p.Rated, p.Source, p.Before, p.After, p.Flame, p.Tried, p.Standing, p.Rise, p.Stopped, p.Came, p.Held))...)
}

func side(s string) error { return oneOf("side", s, "out", "back") }

func (b *RungHalf) check() error { return errors.Join(named("move", b.Move), side(b.Side)) }
func (b *RungBack) check() error { return named("move", b.Move) }

func (b *RungNotDone) check() error {
	return errors.Join(named("move", b.Move), side(b.Side), said("reason", b.Reason))
}

func (b *WayChosen) check() error {
	if len(b.Without) > mostWires {
		return most("a way leaves out %d moves at most", mostWires)
	}
	for _, id := range b.Without {
		if err := named("without", id); err != nil {
			return err
		}
	}
	return nil
}

func (b *LotCounted) check() error {
	return errors.Join(named("lot", b.Lot), side(b.Side), counted(b.Count))
}

func (b *LotSettled) check() error {
	return errors.Join(named("lot", b.Lot), counted(b.Count), texts(b.Where),
		oneOf("as", b.As, "lost", "dropped", "replaced", "swapped", "over", "as-found", "found"))
}

func (b *WireConfirmed) check() error { return named("wire", b.Wire, "on", b.On) }
func (b *Confirmed) check() error     { return errors.Join(named("confirm", b.Confirm), texts(b.Value)) }

func (b *EnergyRestored) check() error { return errors.Join(named("energy", b.Energy), texts(b.How)) }

func (b *CheckResult) check() error {
	errs := []error{named("check", b.Check), value(b.Value)}
	if b.Without != nil {
		errs = append(errs, said("without", *b.Without))
	}
	if len(b.Proofs) > mostReadings {
		errs = append(errs, most("a check holds %d proofs at most", mostReadings))
	}
	for _, id := range slices.Sorted(maps.Keys(b.Proofs)) {
		if b.Proofs[id] == nil {
			return fmt.Errorf("the proof of %s says nothing", short(id))
		}
		errs = append(errs, checkProof("proofs."+short(id), b.Proofs[id]))
	}
	return errors.Join(errs...)
}

// value is one that was read, as it was written.
func value(v *string) error {
	if v == nil {
		return nil
	}
	return texts(*v)
}

func (b *FinalResult) check() error { return errors.Join(named("final", b.Final), value(b.Value)) }

func (b *PartFitted) check() error {
	return errors.Join(named("part", b.Part, "piece", b.Piece), oneOf("as", b.As, "", "fitted", "kept", "returned"),
		oneOf("evidence", b.Evidence, "", "measured", "seen", "told", "assumed"), texts(b.Number))
}

// Most of each that one fact may hold.
const (
	mostLots  = 20
	mostTrays = 60
	mostWires = 60
	mostPins  = 60
)

var (
	ownID = regexp.MustCompile(`^own-[a-z0-9-]{1,40}$`)
	hash  = regexp.MustCompile(`^[0-9a-f]{64}$`)
)

func (b *RungOwn) check() error {
	if !ownID.MatchString(b.ID) {
		return fmt.Errorf("id is %q; an own rung is called own-1, own-2 and so on", short(b.ID))
	}
	errs := []error{said("title", b.Title), oneOf("face", b.Face, machine.Faces...)}
	if len(b.Lots) > mostLots || len(b.Wires) > mostWires || len(b.Before) > mostWires || len(b.Needs) > mostWires {
		errs = append(errs, most("an own rung holds too many lots, wires or names"))
	}
	for _, l := range b.Lots {
		errs = append(errs, oneOf("drive", l.Drive, machine.Drives...), counted(l.Count), texts(l.Size, l.Length))
	}
	for _, w := range b.Wires {
		errs = append(errs, named("terminal", w.Terminal), texts(w.Colour, w.Stripe))
	}
	if b.Type != "" {
		errs = append(errs, oneOf("type", b.Type, machine.ItemTypes...))
	}
	if m := b.Minutes; m.Out < 0 || m.Back < 0 || m.Out > 600 || m.Back > 600 {
		errs = append(errs, errors.New("minutes run from 0 to 600"))
	}
	return errors.Join(errs...)
}

func (b *WireSaid) check() error {
	return errors.Join(named("wire", b.Wire, "colour", b.Colour), counted(b.Tag), texts(b.Stripe, b.Route))
}

func (b *LeadMoved) check() error {
	return errors.Join(named("from", b.From, "to", b.To), texts(b.Proof))
}

func (b *Recorded) check() error {
	return errors.Join(named("record", b.Record), said("value", b.Value))
}

// What became of a look: it was so, it was not so; of the rest: done; of either:
// not now.
const (
	LookedFound   = "found"
	LookedNothing = "nothing"
	LookedDone    = "done"
	LookedSkipped = "skipped"
)

func (b *Looked) check() error {
	return errors.Join(named("on", b.On), oneOf("as", b.As, LookedFound, LookedNothing, LookedDone, LookedSkipped), texts(b.Finding))
}

func (b *TemporaryIn) check() error {
	return errors.Join(temporary(b.Temporary, b.Name), texts(b.Before))
}

func (b *TemporaryOut) check() error { return temporary(b.Temporary, b.Name) }

func temporary(id, name string) error {
	if (id == "") == (name == "") {
		return errors.New("either temporary or name says which")
	}
	return named("temporary", id+name)
}

func (b *Belonging) check() error { return errors.Join(said("what", b.What), texts(b.Where, b.To)) }

func (b *ReadingTaken) check() error {
	errs := []error{said("test", b.Test), said("value", b.Value), texts(b.Meter)}
	for _, s := range []*string{b.Leads, b.Ambient, b.Supply} {
		if s != nil && len(*s) > MostID {
			errs = append(errs, most("a value is too long"))
		}
	}
	if len(b.Test) > 2*MostID {
		errs = append(errs, most("test is too long"))
	}
	return errors.Join(errs...)
}

func (b *TestResult) check() error {
	if b.Outcome == NotDone {
		return errors.Join(said("test", b.Test), said("reason", b.Reason))
	}
	return errors.Join(said("test", b.Test), named("outcome", b.Outcome), texts(b.Reason),
		oneOf("evidence", b.Evidence, "", "measured", "seen", "told", "assumed"))
}

// NotDone is the outcome of a test that was not made.
const NotDone = "not-done"

func (b *CauseAnswered) check() error {
	return errors.Join(named("fault", b.Fault, "cause", b.Cause), said("answer", b.Answer))
}

// LookWider is a choice that was made, and nothing found by it: somebody looked for
// what the map does not know.
const LookWider = "look-wider"

func (b *Decided) check() error {
	return errors.Join(oneOf("choice", b.Choice, "repair", "replace", "leave", "second-visit", LookWider), texts(b.By))
}

func (b *Photo) check() error {
	if !hash.MatchString(b.SHA256) {
		return errors.New("sha256 is no SHA-256 in lower-case hexadecimal")
	}
	errs := []error{texts(b.On)}
	if len(b.Pins) > mostPins {
		errs = append(errs, most("a photo takes %d pins at most", mostPins))
	}
	for _, p := range b.Pins {
		if !(p.X >= 0 && p.X <= 1 && p.Y >= 0 && p.Y <= 1) {
			return errors.New("a pin stands at x and y from 0 to 1")
		}
		errs = append(errs, texts(p.Wire, p.Say))
	}
	return errors.Join(errs...)
}

func (b *Difference) check() error {
	if b.Drive != "" {
		if err := oneOf("drive", b.Drive, machine.Drives...); err != nil {
			return err
		}
	}
	return errors.Join(said("on", b.On), said("is", b.Is), texts(b.Says, b.Size))
}

func (b *BenchHas) check() error {
	if b.Trays != nil && (*b.Trays < 0 || *b.Trays > mostTrays) { // above it letters run out
		return fmt.Errorf("trays run from 0 to %d, not %d", mostTrays, *b.Trays)
	}
	if len(b.Drivers) > mostWires {
		return errors.Join(most("%d drivers are taken at most", mostWires), texts(b.Drivers...))
	}
	return texts(b.Drivers...)
}

func (b *OldPart) check() error {
	return errors.Join(named("part", b.Part), oneOf("to", b.To, "customer", "company", "scrap"))
}

func (b *Used) check() error { return errors.Join(said("what", b.What), counted(b.Count)) }

func (b *LeftOver) check() error {
	if b.Count < 1 {
		return errors.New("count says how many are left over, from 1")
	}
	if b.Drive != "" {
		if err := oneOf("drive", b.Drive, machine.Drives...); err != nil {
			return err
		}
	}
	return errors.Join(counted(b.Count), texts(b.Size, b.Where))
}

func (b *Note) check() error      { return errors.Join(said("text", b.Text), texts(b.On)) }
func (b *Inspected) check() error { return errors.Join(snagID(b.Snag), said("finding", b.Finding)) }

func (b *SnagExplained) check() error { return errors.Join(snagID(b.Snag), said("reason", b.Reason)) }

func snagID(id string) error {
	if id == "" || len(id) > 4*MostID {
		return errors.New("snag is missing")
	}
	return nil
}

func (b *Told) check() error {
	return errors.Join(named("emergency", b.Emergency), said("name", b.Name), texts(b.Say...))
}

func (b *Stopped) check() error    { return said("why", b.Why) }
func (b *StopLifted) check() error { return said("by what", b.ByWhat) }
func (b *Left) check() error       { return texts(b.Tag) }
func (b *TookOver) check() error   { return texts(b.From) }
func (b *JobGiven) check() error {
	if len(b.To) > mostWires {
		return most("a job goes to %d people at the most, not %d", mostWires, len(b.To))
	}
	return texts(b.To...)
}

func (b *JobCalledOff) check() error {
	return errors.Join(said("reason", b.Reason), texts(b.Instead))
}
func (*Paused) check() error  { return nil }
func (*Resumed) check() error { return nil }

func (b *SignedOff) check() error {
	return errors.Join(texts(b.Customer), texts(b.NotTested...))
}

func (b *Withdrawn) check() error { return named("event", b.Event) }
