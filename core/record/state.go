package record

import (
	"maps"
	"slices"
	"strconv"
	"strings"
	"time"

	"evensteps/core/energy"
	"evensteps/core/lead"
	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/reading"
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
	Bench      BenchHas         // what is at the knee, the last that was said of each
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

// Fold makes the state from facts in their order (Order). m is the job's whole
// map at its pinned revision.
func Fold(m *machine.Map, facts []Fact) *State { return (&Folds{}).Fold(m, facts) }

// Folds makes states one after the other and keeps the map with its answers
// applied from one to the next, since few facts change it.
type Folds struct {
	Company Company

	from    *machine.Map
	answers map[string]string
	touched []string
	applied *machine.Map
}

// with is m.With, or what it was when it was asked the same.
func (k *Folds) with(m *machine.Map, answers map[string]string, touched []string) *machine.Map {
	if k.from != m || !maps.Equal(k.answers, answers) || !slices.Equal(k.touched, touched) {
		k.from, k.answers, k.touched, k.applied = m, answers, touched, m.With(answers, touched...)
	}
	return k.applied
}

// Fold is Fold.
func (k *Folds) Fold(m *machine.Map, facts []Fact) *State {
	s := &State{
		Answers: map[string]string{}, Proofs: map[string]*Proven{}, Checks: map[string]*CheckState{},
		Finals: map[string]*Fact{}, Pieces: map[string]*Fact{}, Said: map[string]string{}, Gone: map[string]bool{},
		Found: map[string]machine.Level{}, Records: map[string]*Fact{}, Looks: map[string]*Fact{}, Readings: map[string]*Fact{}, Results: map[string]*Fact{}, Causes: map[string]*Fact{}, Wires: map[string][]*Fact{},
		OldParts: map[string]*Fact{}, OwnRungs: map[string]*Fact{}, Compared: map[string]*Fact{}, SetLive: map[string]*Fact{}, Early: map[string]bool{},
		company: k.Company, takenBack: map[string]*Fact{}, meters: map[string]energy.Rating{},
	}
	var touched []string
	var own []*RungOwn
	var differs []*Difference
	gone, void, byID := rights(facts, k.Company)
	s.Gone = gone
	for i := range facts {
		f := &facts[i]
		if _, is := f.Of.(*Withdrawn); !is && s.Gone[f.ID] {
			continue
		}
		switch b := f.Of.(type) {
		case *OptionAnswered:
			s.Answers[b.Option] = b.Value
		case *RungOut:
			if !slices.Contains(touched, b.Move) {
				touched = append(touched, b.Move)
			}
		case *Found:
			if !slices.Contains(touched, b.Move) {
				touched = append(touched, b.Move)
			}
		case *RungOwn:
			own = append(own, b)
		case *Difference:
			differs = append(differs, b)
		}
	}
	whole, strange := withOwn(corrected(m, differs), own)
	s.Whole, s.Map = whole, k.with(whole, s.Answers, touched)
	s.Facts = make([]Fact, 0, len(facts))
	g := &folder{State: s, whole: m, strange: strange, void: void, byID: byID, lots: map[string]bool{}}
	for i := range facts {
		f := &facts[i]
		if _, is := f.Of.(*Withdrawn); !is && s.Gone[f.ID] {
			g.withdrawn(f)
			continue
		}
		s.Facts = append(s.Facts, *f)
		g.fold(f)
	}
	g.contradictions()
	return s
}

type folder struct {
	*State
	whole     *machine.Map
	strange   map[string]string  // own rung -> what it names that is not there
	restored  map[string][]*Fact // energy -> facts that restored it
	unguarded []*Raised          // guards unmet by the last rung, if proven before the next
	unmet     []*Raised          // needs met by no record yet
	void      map[string][]*Fact // fact -> withdrawals of it that do not count
	byID      map[string]*Fact   // all facts, those taken back too; nil where nothing is
	answered  map[string]*Fact   // option -> its last answer
	lots      map[string]bool    // lots that were looked for, and are there
}

func (g *folder) raise(kind, on string, by *Fact) *Raised {
	r := &Raised{Kind: kind, On: on, By: by}
	g.Raised = append(g.Raised, r)
	return r
}

// withdrawn plays what a fact that was taken back leaves behind: a restoring,
// a leaving or a taking over no longer counts, but the proofs before it stay
// ended. A correction goes down to not proven, never up.
func (g *folder) withdrawn(f *Fact) {
	switch b := f.Of.(type) {
	case *EnergyRestored:
		g.end(b.Energy, f)
	case *Left, *TookOver, *SignedOff:
		g.endAll(f)
	case *RungBack:
		if mv := g.Map.Move(b.Move); mv != nil {
			for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
				if g.Map.Energy(id) != nil {
					g.end(id, f)
				}
			}
		}
	case *CheckResult:
		if c := g.Map.Check(b.Check); c != nil {
			g.stillLive(g.liveIn(&c.Task, false), f)
		}
	case *FinalResult:
		if c := g.Map.Final(b.Final); c != nil {
			g.stillLive(g.liveIn(&c.Task, false), f)
		}
	case *TestResult:
		if t := g.Map.Test(b.Test); t != nil && b.Outcome != NotDone && b.Evidence != "told" {
			g.stillLive(g.liveIn(&t.Task, t.Power == "live"), f)
		}
	case *ReadingTaken:
		if t := g.Map.Test(b.Test); t != nil {
			g.stillLive(g.liveIn(&t.Task, t.Power == "live"), f)
		}
	}
}

// stillLive ends the proofs of what a fact that was taken back had set live: the
// meter was put away since.
func (g *folder) stillLive(energies []string, f *Fact) {
	for _, id := range energies {
		g.end(id, f)
	}
}

func (g *folder) fold(f *Fact) {
	if g.SignedBy != nil {
		switch b := f.Of.(type) {
		case *Note: // a word about it changes nothing
		case *SnagExplained, *Inspected: // it settles something: sign again
			g.SignedBy = nil
		case *Withdrawn:
			if !slices.Contains(g.void[b.Event], f) {
				g.SignedBy = nil
			}
		default:
			g.raise("late", f.ID, f)
			g.SignedBy = nil
		}
	}
	g.far(f)
	for _, who := range g.company.Came(f) {
		g.here(who, true)
		g.Left, g.Off = nil, nil
	}
	switch b := f.Of.(type) {
	case nil:
		// It may have been a restoring.
		g.endAll(f)
		if f.Problem != "" {
			g.raise("unreadable", f.Kind, f).Other = f.Problem
		} else {
			g.raise("newer-kind", f.Kind, f)
		}
	case *Withdrawn:
		g.withdrawal(b, f)
	case *VisitEnded:
		g.here(f.By, false)
	case *PersonGone:
		g.here(b.Person, false)
	case *OptionAnswered:
		if g.whole.Option(b.Option) == nil || !slices.Contains(g.whole.Option(b.Option).Values, b.Value) {
			g.raise("option-contradicts", b.Option, f)
		}
		if g.answered == nil {
			g.answered = map[string]*Fact{}
		}
		g.answered[b.Option] = f
	case *GoalAdded:
		if g.openGoal(b.Goal) == nil {
			g.Goals = append(g.Goals, &Goal{Goal: b.Goal, Open: true, AddedBy: f})
			g.reach(f)
		}
	case *GoalDropped:
		if goal := g.openGoal(b.Goal); goal != nil {
			goal.Open, goal.Closed, goal.Reason = false, f, b.Reason
		}
	case *Found:
		g.found(b, f)
	case *RungOut:
		g.out(b, f)
	case *RungHalf:
		g.turn(b.Move, b.Side).Half[b.Side] = true
	case *RungBack:
		g.back(b, f)
	case *RungNotDone:
		g.turn(b.Move, b.Side).Half[b.Side] = true
		if b.Bars {
			r := g.raise("barred", b.Move, f)
			r.Side = b.Side
		}
	case *LotCounted:
		g.counted(b, f)
	case *RungOwn:
		if g.OwnRungs[b.ID] == nil {
			g.OwnRungs[b.ID] = f
		}
		if what := g.strange[b.ID]; what != "" {
			g.raise("hangs", f.ID, f).Other = what
		}
		for _, w := range b.Wires {
			g.vague(f, w.Terminal)
		}
	case *WireSaid:
		if !g.knownLead(b.Wire) {
			g.raise("loose-fact", b.Wire, f)
			break
		}
		g.Wires[b.Wire] = append(g.Wires[b.Wire], f)
		g.vague(f, b.Route)
	case *LeadMoved:
		g.Leads = append(g.Leads, f)
		g.vague(f, b.To)
	case *Recorded:
		g.Records[b.Record] = f
		if t := g.turn(moveOf(b.Record), "out"); len(t.Outs) == 0 {
			t.Half["out"] = true
		}
	case *WayChosen:
		g.Without = b.Without
	case *ComplaintAdded:
		if !slices.Contains(g.Also, b.Complaint) {
			g.Also = append(g.Also, b.Complaint)
		}
	case *Looked:
		if g.Whole.Look(b.On) == nil {
			g.raise("loose-fact", b.On, f)
			break
		}
		g.Looks[b.On] = f
	case *TemporaryIn:
		g.temporary(b.Temporary, b.Name, f, true)
	case *TemporaryOut:
		g.temporary(b.Temporary, b.Name, f, false)
	case *Belonging:
		same := func(o *Fact) bool { return strings.EqualFold(o.Of.(*Belonging).What, b.What) }
		if k := slices.IndexFunc(g.Belongings, same); k >= 0 {
			g.Belongings[k] = f
		} else {
			g.Belongings = append(g.Belongings, f)
		}
		g.vague(f, b.Where)
	case *ReadingTaken:
		g.read(b, f)
	case *TestResult:
		g.Results[b.Test] = f
		if b.Outcome != NotDone {
			if b.Evidence != "told" {
				g.tested(b.Test, f)
			}
			g.closeTest(b.Test, f)
		}
	case *CauseAnswered:
		g.Causes[b.Fault+"/"+b.Cause] = f
	case *Decided:
		if b.Choice != LookWider { // that decides nothing
			g.Decided = f
		}
	case *Photo:
		g.Photos = append(g.Photos, f)
	case *Difference:
		g.Differs = append(g.Differs, f)
	case *Note:
		g.Notes = append(g.Notes, f)
	case *BenchHas:
		if b.Trays != nil {
			g.Bench.Trays = b.Trays
		}
		if b.Drivers != nil {
			g.Bench.Drivers = b.Drivers
		}
	case *OldPart:
		g.OldParts[b.Part] = f
	case *Used:
		g.Used = append(g.Used, f)
	case *LeftOver:
		g.LeftOver = append(g.LeftOver, f)
		g.vague(f, b.Where)
	case *LotSettled:
		if !g.knownLot(b.Lot) {
			g.raise("loose-fact", b.Lot, f)
			break
		}
		g.vague(f, b.Where)
		t := g.turn(moveOf(b.Lot), "back")
		t.Settled[b.Lot] = append(t.Settled[b.Lot], f)
	case *WireConfirmed:
		g.wire(b, f)
	case *Confirmed:
		if strings.Contains(b.Confirm, "/compare/") || strings.Contains(b.Confirm, "/carry/") { // at the work, between the ways
			g.Compared[b.Confirm] = f
		} else {
			g.turn(moveOf(b.Confirm), "back").Confirms[b.Confirm] = f
		}
	case *EnergyRestored:
		g.restore(b.Energy, f)
	case *CheckResult:
		g.checked(b, f)
	case *FinalResult:
		g.final(b, f)
	case *PartFitted:
		g.fitted(b, f)
	case *Inspected:
		g.inspected(b.Snag, f)
	case *Told:
		g.Told = append(g.Told, f)
	case *Stopped:
		g.Stops = append(g.Stops, f)
	case *StopLifted:
		g.Stops = nil
	case *Left:
		g.endAll(f)
		g.Left, g.Here = f, nil
	case *TookOver:
		g.endAll(f)
	case *JobGiven:
		g.Given = f
	case *JobCalledOff:
		g.Off = f
	case *SignedOff:
		g.endAll(f)
		g.SignedBy = f
	}
	if _, is := f.Of.(*Withdrawn); !is {
		g.Last = f
	}
}

func (g *folder) here(person string, is bool) {
	switch {
	case !is:
		g.Here = slices.DeleteFunc(g.Here, func(p string) bool { return p == person })
	case !slices.Contains(g.Here, person):
		g.Here = append(g.Here, person)
	}
}

// Work is the goal of a job on a machine without a map: it is open until
// somebody says that the work is done.
const Work = "work:machine"

func (g *folder) openGoal(goal string) *Goal {
	for _, o := range g.Goals {
		if o.Goal == goal && o.Open {
			return o
		}
	}
	return nil
}

// reach closes goals of the form item:ID=LEVEL by the first state that
// reaches them.
func (g *folder) reach(f *Fact) {
	at := g.Levels()
	for _, o := range g.Goals {
		if !o.Open || !strings.HasPrefix(o.Goal, "item:") {
			continue
		}
		t, err := plan.Reads(g.Map, o.Goal)
		if err != nil {
			continue
		}
		if meets(at, t.Needs) {
			o.Open, o.Closed = false, f
		}
	}
}

func meets(at map[string]machine.Level, needs machine.Needs) bool {
	for id, l := range needs {
		if at[id].Rank() < l.Rank() {
			return false
		}
	}
	return true
}

// turn is the turn that a fact about a rung speaks of: the open one; or else,
// for the way out, a new one that is only begun, and for the way back the last.
func (g *folder) turn(move, side string) *Turn {
	var last *Turn
	for _, t := range g.Turns {
		if t.Move == move {
			last = t
		}
	}
	if last != nil && (last.Back == nil || side == "back") {
		return last
	}
	t := &Turn{
		Move: move, Half: map[string]bool{}, Counts: map[string]map[string]*Fact{}, Accepts: map[string]bool{},
		Settled: map[string][]*Fact{}, Confirms: map[string]*Fact{}, Wires: map[string]*Fact{}, Earths: map[string]*Fact{}, Trays: map[string]string{},
	}
	g.Turns = append(g.Turns, t)
	return t
}

func moveOf(id string) string {
	move, _, _ := strings.Cut(id, "/")
	return move
}

func (g *folder) found(b *Found, f *Fact) {
	if b.Move == "" {
		r := g.raise("missing-part", b.Item, f)
		r.Other = b.State
		g.AsFound = append(g.AsFound, f)
		if b.Level.Rank() > 0 {
			g.Found[b.Item] = b.Level
		}
		return
	}
	g.AsFound = append(g.AsFound, f)
	t := g.turn(b.Move, "out")
	if mv := g.Map.Move(b.Move); mv != nil && slices.Contains(slices.Collect(maps.Values(mv.Takes)), machine.Proven) {
		t.Half["out"] = true // a proof is made, never found
		g.Said[b.Move] = "Found so is no proof. Prove it, and record it."
		return
	}
	t.Outs, t.Found = append(t.Outs, f), true
	g.stand(b.Move, f)
}

// stand adds a move to those that stand.
func (g *folder) stand(move string, f *Fact) {
	if !slices.Contains(g.Standing, move) {
		g.Standing = plan.Lapse(g.Map, append(slices.Clone(g.Standing), move), g.Found)
	}
	for i := range g.Map.Checks {
		c := &g.Map.Checks[i]
		if slices.Contains(c.For, move) {
			st := g.check(c.ID)
			if !slices.Contains(st.Since, move) {
				st.Since = append(st.Since, move)
			}
			st.Lost, st.Failed = nil, nil
		}
	}
	if g.opens(move) {
		clear(g.Finals) // it is open again: what was proven closed is not any more
	}
	if mv := g.Map.Move(move); mv != nil {
		for id, level := range mv.Takes {
			if level == machine.Shut {
				delete(g.SetLive, id) // isolated again
			}
		}
	}
	at := g.Levels()
	g.unmet = slices.DeleteFunc(g.unmet, func(r *Raised) bool {
		id, level, _ := strings.Cut(r.Other, "=")
		r.Done = at[id].Rank() >= machine.Level(level).Rank()
		return r.Done
	})
	g.reach(f)
}

func (g *folder) check(id string) *CheckState {
	if g.Checks[id] == nil {
		g.Checks[id] = &CheckState{}
	}
	return g.Checks[id]
}

func (g *folder) out(b *RungOut, f *Fact) {
	mv := g.Map.Move(b.Move)
	var last *Turn
	for _, t := range g.Turns {
		if t.Move == b.Move {
			last = t
		}
	}
	if last != nil && last.Back != nil && last.Back.Device != f.Device && (last.Back.Num == 0 || f.Seen < last.Back.Num) {
		g.raise("off-again", b.Move, f)
		return
	}
	at := g.Levels()
	if mv == nil || !mv.OneWay {
		g.unguarded = nil
	}
	if mv != nil {
		for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
			// Readings that show it off say so, whatever a check had set live.
			if mv.Takes[id] == machine.Proven && g.SetLive[id] != nil && g.Judge(mv, id, b.Proof, f.When()).Off {
				delete(g.SetLive, id)
				at = g.Levels()
			}
		}
		g.needs(b.Move, "out", g.Map.OutNeeds(mv), at, f)
		g.guard(b.Move, g.Map.Guards(mv.LiveOK), f)
		for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
			switch {
			case mv.Takes[id] == machine.Proven && g.Map.Energy(id) != nil && !g.proof(mv, id, b.Proof, f):
			case mv.Takes[id] == machine.Shut && g.Map.Energy(id) != nil && g.restoredMeanwhile(id, f):
				g.Said[b.Move] = "Somebody restored it meanwhile. Treat as live, and shut it again."
			default:
				continue
			}
			g.turn(b.Move, "out").Half["out"] = true
			return
		}
		if mv.MeasureFirst != "" {
			g.measured(mv, b.Proof, f)
		}
		g.At, g.Returning = &plan.Place{Face: mv.Face, Pose: mv.Pose, Tools: mv.Tools}, false
	}
	t := g.turn(b.Move, "out")
	t.Outs = append(t.Outs, f)
	for _, a := range b.Accepts {
		t.Accepts[a+"|out"] = true
	}
	maps.Copy(t.Trays, b.Trays)
	if mv == nil || mv.MeasureFirst == "" {
		delete(g.Said, b.Move)
	}
	g.stand(b.Move, f)
}

// needs raises what was not met when a rung was recorded: it happened, so
// something was done that no record tells of.
func (g *folder) needs(move, side string, needs machine.Needs, at map[string]machine.Level, f *Fact) {
	for _, id := range slices.Sorted(maps.Keys(needs)) {
		if at[id].Rank() >= needs[id].Rank() {
			continue
		}
		if e := g.Map.Energy(id); e != nil {
			g.unsafe(move, id, f)
			continue
		}
		r := g.raise("out-of-order", move, f)
		r.Side, r.Other = side, id+"="+string(needs[id])
		g.unmet = append(g.unmet, r)
	}
}

func (g *folder) undo(move string, f *Fact) {
	g.Standing = slices.DeleteFunc(slices.Clone(g.Standing), func(o string) bool { return o == move })
	g.Standing = plan.Lapse(g.Map, g.Standing, g.Found)
	if mv := g.Map.Move(move); mv != nil && !mv.OneWay {
		for id := range mv.Takes {
			delete(g.SetLive, id) // live by the record again
		}
	}
	at := g.Levels()
	for _, id := range slices.Sorted(maps.Keys(g.Proofs)) {
		if g.Proofs[id].Stands && at[id] != machine.Proven {
			g.end(id, f)
		}
	}
	for i := range g.Map.Checks {
		c := &g.Map.Checks[i]
		if st := g.Checks[c.ID]; st != nil && len(st.Since) > 0 && slices.Contains(c.Before, move) {
			st.Lost = append(st.Lost, move)
		}
	}
	if mv := g.Map.Move(move); mv != nil {
		for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
			if g.Map.Energy(id) != nil {
				g.remember(id, f)
			}
		}
	}
}

func (g *folder) back(b *RungBack, f *Fact) {
	var closing []*Turn
	for _, t := range g.Turns {
		if t.Move != b.Move || !t.Open() {
			continue
		}
		if len(b.Closes) == 0 || slices.ContainsFunc(t.Outs, func(o *Fact) bool { return slices.Contains(b.Closes, o.ID) }) {
			closing = append(closing, t)
		}
	}
	for _, id := range b.Closes {
		if g.Gone[id] {
			r := g.raise("hangs", f.ID, f)
			r.Other = id
		}
	}
	if len(closing) == 0 {
		if t := g.sameBack(b, f); t != nil { // two who put it back say the same
			for _, a := range b.Accepts {
				t.Accepts[a+"|back"] = true
			}
			return
		}
		g.raise("back-without-out", b.Move, f)
		return
	}
	for _, t := range closing {
		t.Back = f
		for _, a := range b.Accepts {
			t.Accepts[a+"|back"] = true
		}
	}
	g.unguarded = nil
	if mv := g.Map.Move(b.Move); mv != nil {
		rest := slices.DeleteFunc(slices.Clone(g.Standing), func(o string) bool { return o == b.Move })
		at := g.levels(plan.Lapse(g.Map, rest, g.Found))
		g.needs(b.Move, "back", g.Map.BackNeeds(mv), at, f)
		g.undo(b.Move, f)
		g.guard(b.Move, g.Map.Guards(mv.LiveOK), f)
		face, pose, tools := plan.RefitPlace(mv)
		g.move(face, pose, tools)
		g.unfitted(mv, f)
		return
	}
	g.undo(b.Move, f)
}

// sameBack is the turn that a back confirms which finds nothing open: one that it
// names, or one that another device had closed without this one's knowing.
func (g *folder) sameBack(b *RungBack, f *Fact) *Turn {
	for i := len(g.Turns) - 1; i >= 0; i-- {
		t := g.Turns[i]
		if t.Move != b.Move || t.Back == nil || len(t.Outs) == 0 {
			continue
		}
		if _, is := t.Back.Of.(*RungBack); !is {
			return nil
		}
		names := slices.ContainsFunc(t.Outs, func(o *Fact) bool { return slices.Contains(b.Closes, o.ID) })
		unseen := len(b.Closes) == 0 && t.Back.Device != f.Device && (t.Back.Num == 0 || t.Back.Num > f.Seen)
		if names || unseen {
			return t
		}
		return nil
	}
	return nil
}

// move notes where a refit or check ended; tools used there stay at hand until
// one turns.
func (g *folder) move(face, pose string, tools []string) {
	if face == "" {
		face = "front"
	}
	at := &plan.Place{Face: face, Pose: pose, Tools: slices.Clone(tools)}
	if g.Returning && g.At != nil && g.At.Face == face && g.At.Pose == pose {
		for _, t := range g.At.Tools {
			if !slices.Contains(at.Tools, t) {
				at.Tools = append(at.Tools, t)
			}
		}
	}
	g.At, g.Returning = at, true
}

// unfitted asks "Fitted?" where a goal's item comes back before its part was
// fitted.
func (g *folder) unfitted(mv *machine.Move, f *Fact) {
	for _, o := range g.Goals {
		part := g.Map.Part(strings.TrimPrefix(o.Goal, "replace:"))
		if !o.Open || part == nil || !strings.HasPrefix(o.Goal, "replace:") {
			continue
		}
		for _, piece := range part.Pieces() {
			if mv.Takes[piece] == machine.Away && g.Pieces[part.ID+"/"+piece] == nil {
				r := g.raise("fitted-unsure", part.ID, f)
				r.Other = piece
			}
		}
	}
}

func (g *folder) counted(b *LotCounted, f *Fact) {
	if !g.knownLot(b.Lot) {
		g.raise("loose-fact", b.Lot, f)
		return
	}
	t := g.turn(moveOf(b.Lot), b.Side)
	key := b.Lot + "|" + b.Side
	if len(t.Outs) == 0 {
		t.Half["out"] = true
	} else if b.Side == "back" {
		t.Half["back"] = true
	}
	if t.Counts[key] == nil {
		t.Counts[key] = map[string]*Fact{}
	}
	for person, old := range t.Counts[key] {
		if slices.Contains(b.Settles, old.ID) {
			delete(t.Counts[key], person)
		}
	}
	t.Counts[key][f.By] = f
	if b.Tray != "" && b.Side == "out" {
		t.Trays[b.Lot] = b.Tray
	}
}

// knownLot tells whether the map, or a rung of their own, has that lot.
func (g *folder) knownLot(lot string) bool {
	if g.lots[lot] {
		return true
	}
	move, n, _ := strings.Cut(lot, "/")
	mv := g.Map.Move(move)
	if mv == nil {
		mv = g.Whole.Move(move) // hidden by an answer, and yet somebody counted
	}
	k, err := strconv.Atoi(n)
	g.lots[lot] = mv != nil && err == nil && k >= 1 && k <= len(mv.Fasteners)
	return g.lots[lot]
}

// knownLead tells whether the map, or a rung of their own, has that lead.
func (g *folder) knownLead(wire string) bool {
	item, terminal, _ := strings.Cut(wire, "/")
	it := g.Whole.Item(item)
	return it != nil && (terminal == lead.Whole || slices.ContainsFunc(it.Wires, func(w machine.Wire) bool { return w.Terminal == terminal }))
}

// withdrawal shows who took whose fact back. One by somebody who was never at
// the machine does not count.
func (g *folder) withdrawal(b *Withdrawn, f *Fact) {
	target := g.byID[b.Event]
	if target == nil || target.By == f.By {
		return
	}
	if slices.Contains(g.void[b.Event], f) {
		g.raise("withdrawal-void", b.Event, f)
		return
	}
	g.TakenBack = append(g.TakenBack, f)
	g.takenBack[b.Event] = target
}

// contradictions raises the answers against what was done: a rung that was made,
// and that such a machine has not got.
func (g *folder) contradictions() {
	for _, t := range g.Turns {
		mv := g.Whole.Move(t.Move)
		if mv == nil || len(t.Outs) == 0 {
			continue
		}
		for _, option := range slices.Sorted(maps.Keys(mv.When)) {
			f := g.answered[option]
			if f == nil || slices.Contains(mv.When[option], g.Answers[option]) {
				continue
			}
			if !slices.ContainsFunc(g.Raised, func(r *Raised) bool { return r.Kind == "option-contradicts" && r.On == option && r.Other == t.Move }) {
				g.raise("option-contradicts", option, f).Other = t.Move
			}
		}
	}
}

func (g *folder) wire(b *WireConfirmed, f *Fact) {
	if !g.knownLead(b.Wire) {
		g.raise("loose-fact", b.Wire, f)
		return
	}
	g.vague(f, b.On)
	item, _, _ := strings.Cut(b.Wire, "/")
	for i := len(g.Turns) - 1; i >= 0; i-- {
		mv := g.Map.Move(g.Turns[i].Move)
		if mv != nil && mv.Takes[item] == machine.Away && len(g.Turns[i].Outs) > 0 {
			g.Turns[i].Wires[b.Wire] = f
			g.Turns[i].Half["back"] = true
			return
		}
	}
	r := g.raise("hangs", f.ID, f)
	r.Other = b.Wire
}

func (g *folder) checked(b *CheckResult, f *Fact) {
	st := g.check(b.Check)
	g.unguarded = nil
	delete(g.Said, b.Check)
	if c := g.Map.Check(b.Check); c != nil {
		g.guard(b.Check, g.Map.TaskGuards(&c.Task), f)
		g.needs(b.Check, "back", c.Needs, g.Levels(), f)
		g.move(c.Face, c.Pose, c.Tools)
	} else {
		g.raise("loose-fact", b.Check, f)
	}
	passed := b.Passed
	if c := g.Map.Check(b.Check); c != nil {
		passed = Passes(&c.Task, b.Passed, b.Value)
	}
	if c := g.Map.Check(b.Check); c != nil {
		g.setsLive(b.Check, g.liveIn(&c.Task, false), b.Proofs, f)
		early := slices.IndexFunc(c.After, func(id string) bool { return slices.Contains(g.Standing, id) })
		if passed && early >= 0 && b.Without == nil { // stays due
			g.Said[b.Check] = "It was recorded before this was back: " + g.Map.Move(c.After[early]).Name() + ". Make it again once it is."
			return
		}
	}
	if !passed {
		st.Failed, st.Passed = f, nil
		return
	}
	if len(st.Lost) > 0 && b.Without == nil {
		return // stays due: it was passed out of its place, and no reason given
	}
	st.Passed, st.Failed, st.Since, st.Lost = f, nil, nil, nil
}

// Passes judges a check or final: what somebody says of it, and where it is
// measured its value.
func Passes(t *machine.Task, said bool, value *string) bool {
	if value == nil {
		_, measured := reading.Meets(t.Expect, "")
		return said && !measured
	}
	ok, measured := reading.Meets(t.Expect, *value)
	return said && (ok || !measured)
}

// FinalPassed tells whether a final has passed since the machine was closed.
func (s *State) FinalPassed(id string) bool {
	f := s.Finals[id]
	if f == nil {
		return false
	}
	b := f.Of.(*FinalResult)
	if fin := s.Map.Final(id); fin != nil {
		return Passes(&fin.Task, b.Passed, b.Value)
	}
	return b.Passed
}

func (g *folder) fitted(b *PartFitted, f *Fact) {
	g.Pieces[b.Part+"/"+b.Piece] = f
	for _, r := range g.Raised {
		if r.Kind == "fitted-unsure" && r.On == b.Part && r.Other == b.Piece {
			r.Done = true
		}
	}
	for _, r := range g.Raised {
		if r.Kind == "missing-part" && r.On == b.Piece {
			r.Done = true
		}
	}
	part := g.Map.Part(b.Part)
	o := g.openGoal("replace:" + b.Part)
	if part == nil || o == nil {
		return
	}
	for _, piece := range part.Pieces() {
		if g.Pieces[b.Part+"/"+piece] == nil {
			return
		}
	}
	o.Open, o.Closed = false, f
}

// temporary counts a thing in or out. One put in again after it was out is a
// new one of the same name.
func (g *folder) temporary(id, name string, f *Fact, in bool) {
	if name == "" {
		name = id
		for i := range g.Map.Moves {
			for _, t := range g.Map.Moves[i].PutsIn {
				if t.ID == id {
					name = t.Name
				}
			}
		}
	} else {
		id = name
	}
	var open *Temp
	for _, t := range g.Temps {
		if t.ID == id && t.Out == nil {
			open = t
		}
	}
	switch {
	case open == nil && in:
		g.Temps = append(g.Temps, &Temp{ID: id, Name: name, In: f})
	case open == nil && g.Temp(id) != nil: // out already: two who took it out say the same
	case open == nil:
		g.Temps = append(g.Temps, &Temp{ID: id, Name: name, Out: f})
	case !in:
		open.Out = f
	}
}

// Withdrawn is a fact that was taken back, nil where nobody knows it.
func (s *State) Withdrawn(id string) *Fact { return s.takenBack[id] }

// Temp is the last that was said of a temporary, or nil.
func (s *State) Temp(id string) *Temp {
	for i := len(s.Temps) - 1; i >= 0; i-- {
		if s.Temps[i].ID == id {
			return s.Temps[i]
		}
	}
	return nil
}

// EarthPath is the reading of the way from the frame to the earth pin, which is
// walked with a circuit whether an earth came off or not.
const EarthPath = "earth:frame"

// read keeps a reading; one of an earth stands with the turn that parted it.
func (g *folder) read(b *ReadingTaken, f *Fact) {
	g.Readings[b.Test] = f
	if b.Test == EarthPath {
		return
	}
	if item, isEarth := strings.CutPrefix(b.Test, "earth:"); isEarth {
		for i := len(g.Turns) - 1; i >= 0; i-- {
			mv := g.Map.Move(g.Turns[i].Move)
			if mv != nil && mv.Takes[item] != "" && len(g.Turns[i].Outs) > 0 {
				g.Turns[i].Earths[item] = f
				return
			}
		}
		g.raise("hangs", f.ID, f).Other = item
		return
	}
	g.tested(b.Test, f)
	g.closeTest(b.Test, f)
}

// tested raises what should have been proven off for a test, and plays what one
// on a live machine does to the proofs. Only mains guard a test, and only a dead
// one; a live one on a machine that is opened further than the test asks is
// said.
func (g *folder) tested(id string, f *Fact) {
	if _, along := g.Map.Stretch(id); along {
		g.unguarded = nil
		g.guard(id, g.Map.Mains(), f)
		return
	}
	t := g.Map.Test(id)
	if t == nil {
		return
	}
	if t.Power == "dead" {
		g.unguarded = nil
		g.guard(id, g.Map.Mains(), f)
	}
	if t.Power == "live" {
		if open := g.OpenBeyond(t); open != "" {
			g.raise("live-open", id, f).Other = open
		}
	}
	g.setsLive(id, g.liveIn(&t.Task, t.Power == "live"), nil, f)
}

// OpenBeyond names a move that stands and bares live parts, and that a live test
// does not ask for.
func (g *State) OpenBeyond(t *machine.Test) string {
	for _, id := range g.Standing {
		mv := g.Map.Move(id)
		if mv == nil || mv.OneWay || !slices.ContainsFunc(g.Map.Guards(mv.LiveOK), func(e string) bool { return g.Map.Energy(e).Kind == "mains" }) {
			continue
		}
		asked := false
		for it := range mv.Takes {
			asked = asked || t.Needs[it].Rank() > 0
		}
		if !asked {
			return id
		}
	}
	return ""
}

func (g *folder) closeTest(id string, f *Fact) {
	if o := g.openGoal("test:" + id); o != nil {
		o.Open, o.Closed = false, f
	}
}

// inspected settles a stop by another person's own look at it. Lesser snags are
// settled by their fact, or explained.
func (g *folder) inspected(snag string, f *Fact) {
	for _, r := range g.Raised {
		if r.ID() == snag && r.By.By != f.By && (r.Kind == "guard-unmet" || r.Kind == "proof-lapsed") {
			r.Done = true
		}
	}
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

// When is the time of a fact: its stamp, or before it has one the wall time.
func (f *Fact) When() time.Time {
	if f.T != nil && f.T.Year() > 1971 {
		return *f.T
	}
	return f.Wall
}

// Total is the count of a lot on one side of a turn: what was counted, or
// accepted as the map says. differs is true where people counted differently
// (count is then the least); known is false where nobody counted.
func (t *Turn) Total(lot string, mapCount int, side string) (count int, known, differs bool) {
	for _, f := range t.Counts[lot+"|"+side] {
		n := f.Of.(*LotCounted).Count
		differs = differs || known && n != count
		if known {
			n = min(n, count)
		}
		count, known = n, true
	}
	if known {
		return count, true, differs
	}
	if t.Accepts[lot+"|"+side] {
		return mapCount, true, false
	}
	return 0, false, false
}

// Astray is how many of a lot are neither in their tray nor at home: dropped,
// lost or in another place, and not found again or replaced since.
func (t *Turn) Astray(lot string) int {
	n := 0
	for _, f := range t.Settled[lot] {
		switch b := f.Of.(*LotSettled); b.As {
		case "dropped", "lost", "swapped":
			n += b.Count
		case "found", "replaced":
			n -= b.Count
		}
	}
	return max(0, n)
}
