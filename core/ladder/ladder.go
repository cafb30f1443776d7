// Package ladder makes what the screens show of a job: its rungs with an out
// and a back side, what is off, what is next, what stands between the job and
// even. Everything is computed from the map, the facts and the plan; nothing is
// typed in.
//
// Going down the out side opens the machine, climbing the back side closes it.
// A job is even when all that came off is back and proven. Even never means
// safe: the sheet says who proved what, with what, and what was not tested.
package ladder

import (
	"encoding/json"
	"maps"
	"slices"
	"strings"
	"time"

	"evensteps/core/lead"
	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/record"
	"evensteps/core/tray"
)

// Job is what the company knows of a job apart from its facts.
type Job struct {
	ID        string            `json:"id"`
	Title     string            `json:"title,omitempty"`
	Place     string            `json:"place,omitempty"`
	Complaint string            `json:"complaint,omitempty"` // a complaint of the map
	Words     string            `json:"words,omitempty"`     // what the customer said
	People    map[string]Person `json:"people,omitempty"`
	// Meters are the company's, by the number that is written on them.
	Meters map[string]Meter `json:"meters,omitempty"`
	Firm   *Firm            `json:"firm,omitempty"`
	Where  *Where           `json:"where,omitempty"`
	// Rate is the price of a minute of the company's work; 0 means 1.
	Rate float64 `json:"rate,omitempty"`
	// Rates are prices with their times; the first that covers a moment counts.
	Rates []Price `json:"rates,omitempty"`
	// Closed counts the company's proven repairs of this complaint on machines
	// of this map, by fault.
	Closed map[string]int `json:"closed,omitempty"`
	// Trays is how many trays a technician carries; nil where nobody has said.
	Trays *int `json:"trays,omitempty"`
	// Earlier is what was done on this very machine before, the newest first.
	Earlier []Earlier `json:"earlier,omitempty"`
}

// Earlier is one earlier job on the same machine.
type Earlier struct {
	When string `json:"when"` // the day, as 2026-11-25
	Say  string `json:"say"`
}

// Viewer decides whose name reads "you", and what Undo may take back.
type Viewer struct {
	Person string `json:"person"`
	Device string `json:"device"`
	// Looking is a rung that is looked at besides the one that is on: faces are
	// drawn for these two alone.
	Looking string `json:"looking,omitempty"`
}

// View is a job as the screens show it.
type View struct {
	Job         string     `json:"job"`
	Title       string     `json:"title"`
	Place       string     `json:"place"`
	Words       string     `json:"words"`
	Machine     string     `json:"machine"`
	Even        bool       `json:"even"`
	Closed      bool       `json:"closed"`
	Signed      *Stamp     `json:"signed"`
	Headline    string     `json:"headline"`
	Standing    string     `json:"standing"` // one line under the headline
	Current     Current    `json:"current"`
	PhotoOn     string     `json:"photo_on"` // what a photo that is taken now hangs on
	Possible    []string   `json:"possible"`
	Goals       []Goal     `json:"goals"`
	Energies    []Energy   `json:"energies"`
	Worst       string     `json:"worst"` // the energy that can hurt most now
	Loose       []Loose    `json:"loose"`
	Off         []Off      `json:"off"`
	Temporaries []string   `json:"temporaries"`
	Cuts        []Cut      `json:"cuts"`
	Belongings  []Own      `json:"belongings"`
	Inside      []Row      `json:"inside"` // what must not stay in the machine, by name
	Trays       []Tray     `json:"trays"`
	Bags        []tray.Bag `json:"bags"` // lots for which no tray is left
	Plugs       []Plug     `json:"plugs"`
	Between     []Row      `json:"between"`
	Snags       []Snag     `json:"snags"`
	OutOfUse    []OutOfUse `json:"out_of_use"` // emergencies that nobody has looked at yet
	Differences []Differs  `json:"differences"`
	Rungs       []Rung     `json:"rungs"`
	Here        []string   `json:"here"`
	Arrive      []Make     `json:"arrive"` // how this viewer says that they are at the machine; none where they are, or work at a desk
	About       About      `json:"about"`
	Undo        *Undo      `json:"undo"`
	Stops       []Choice   `json:"stops"` // reasons to stop, each with what to do first
	Foot        Foot       `json:"foot"`
	SignOff     Touch      `json:"sign_off"`
	Visit       Visit      `json:"visit"`
	Sheet       Sheet      `json:"sheet"`
	HandOver    HandOver   `json:"hand_over"`
	TakenBack   []Remark   `json:"taken_back"` // others' records that somebody took back
	Plan        *PlanOut   `json:"plan"`
}

// OutOfUse is an emergency that a caller told of: the machine is out of use until
// somebody has looked at that first.
type OutOfUse struct {
	Snag string   `json:"snag"`
	Name string   `json:"name"`
	Do   string   `json:"do"`
	Told []string `json:"told"` // what the caller was told, a line at a time
	By   string   `json:"by"`   // who told them
}

// Stamp is who and when.
type Stamp struct {
	By string    `json:"by"`
	At time.Time `json:"at"`
}

// Current is the step that is on.
type Current struct {
	// Kind: survey, find, own, out, work, test, back, check, final, sign-off, signed, called-off, stopped, stuck.
	Kind string `json:"kind"`
	Move string `json:"move,omitempty"`
	Side string `json:"side,omitempty"`
	Goal string `json:"goal,omitempty"`
	Say  string `json:"say,omitempty"`
	// Task is what to do when the step is no rung: the work, a final, a stop.
	Task *Side `json:"task,omitempty"`
}

// Goal is one goal and whether it is still open.
type Goal struct {
	Goal   string `json:"goal"`
	Name   string `json:"name"`
	Open   bool   `json:"open"`
	Reason string `json:"reason,omitempty"`
}

// Loose is what is no longer held.
type Loose struct {
	Say  string `json:"say"`
	Move string `json:"move"`
}

// PlanOut is the plan of what is still to come.
type PlanOut struct {
	plan.Plan
	Error *plan.NoPlan `json:"error,omitempty"`
}

// Foot is the foot of the ladder: what it leads to, and how long that takes.
type Foot struct {
	Title string  `json:"title"`
	P50   float64 `json:"p50"` // minutes still to go, the median
	P80   float64 `json:"p80"` // and the 80th percentile
	Rungs int     `json:"rungs"`
	Made  int     `json:"made"`
	Off   int     `json:"off"`
	Doubt string  `json:"doubt"` // that the plan may not be the shortest, and by how much
}

// Undo is the last record of this viewer, to be taken back by one touch.
type Undo struct {
	Say    string   `json:"say"`
	Events []string `json:"events"`
}

// Make is an event that a touch records: its kind and body.
type Make struct {
	Kind string          `json:"kind"`
	Body json.RawMessage `json:"body"`
}

// made marshals a body that cannot fail to marshal.
func made(kind string, body any) Make {
	b, err := json.Marshal(body)
	if err != nil {
		panic(err)
	}
	return Make{kind, b}
}

// Book keeps a job's facts and the plans already made, so that a touch costs
// one fold and seldom a plan.
type Book struct {
	Map   *machine.Map
	Job   Job
	facts []record.Fact
	folds record.Folds
	plans map[string]*planned
}

type planned struct {
	plan *plan.Plan
	err  *plan.NoPlan
	next []plan.Step
}

const mostPlans = 200

// Open begins a book.
func Open(m *machine.Map, job Job) *Book {
	return &Book{Map: m, Job: job, plans: map[string]*planned{}}
}

// Add puts facts into the book in the order in which they count. Facts that
// are there already are not added twice.
func (b *Book) Add(facts ...record.Fact) {
	b.facts = record.Order(append(slices.Clone(b.facts), facts...))
}

// Facts are all the facts of the book, in the order in which they count.
func (b *Book) Facts() []record.Fact { return b.facts }

// View is what the screens show: view(map, job, events, viewer, now).
func (b *Book) View(viewer Viewer, now time.Time) *View {
	v := b.begin(viewer, now)
	v.make()
	return v.view
}

// begin folds the facts and plans what is still to come.
func (b *Book) begin(viewer Viewer, now time.Time) *viewing {
	b.folds.Company = b.company()
	v := &viewing{book: b, State: b.folds.Fold(b.Map, b.facts), viewer: viewer, now: now, view: &View{}}
	v.at = v.Levels()
	v.stays = v.leftOff()
	v.without = v.Without
	v.planIt()
	if v.planned.err != nil && len(v.without) > 0 { // what was chosen leads nowhere by now
		v.without, v.rest = nil, nil
		v.planIt()
	}
	return v
}

// viewing holds what is known while one view is made.
type viewing struct {
	*record.State
	book    *Book
	viewer  Viewer
	now     time.Time
	view    *View
	at      map[string]machine.Level
	planned *planned
	letters map[string]string    // lot -> tray
	rules   map[string]lead.Card // connector -> how its leads are kept apart
	tags    map[string]int       // wire -> the number of its tag
	order   []string             // moves made and planned, the ladder's rows
	rest    []string             // goals that are open and can be planned
	stays   []string             // moves that shut off what stays off on purpose
	without []string             // moves that the way was chosen without, as long as there is one
}

func (v *viewing) make() {
	v.rows()
	v.trays()
	v.cards()
	v.current()
	v.view.PhotoOn = v.photoOn()
	v.head()
	v.rungs()
	v.energies()
	v.bench()
	v.snags()
	v.summary()
	v.visit()
	v.about()
	v.undo()
	v.differences()
	v.sheet()
	v.past()
	v.handOver()
}

// planIt plans what is still to come: the way in to the goals that are open,
// and the way back.
func (v *viewing) planIt() {
	for _, g := range v.Goals {
		if g.Open {
			if _, err := plan.Reads(v.Map, g.Goal); err == nil {
				v.rest = append(v.rest, g.Goal)
			}
		}
	}
	r := v.request()
	r.Goals = v.rest
	if live := v.withoutSetLive(); len(live) < len(v.Standing) {
		// A check, final or test left it on: where what is still to come needs it off,
		// it is isolated again first.
		truth := r
		truth.Standing = live
		if p := v.book.plan(v.Whole, truth); p.plan != nil && slices.ContainsFunc(p.plan.WayIn, v.stands) {
			v.planned = p
			return
		}
	}
	v.planned = v.book.plan(v.Whole, r)
	if p := v.planned.plan; p != nil && len(v.rest) == 0 && len(p.WayIn) == 0 && len(p.WayBack) == 0 && !v.looking() {
		if goals := v.forFinal(); len(goals) > 0 {
			r.Goals = goals
			v.planned = v.book.plan(v.Whole, r)
		}
	}
}

// withoutSetLive are the moves that stand, less those that shut off what was set
// live since.
func (v *viewing) withoutSetLive() []string {
	if len(v.SetLive) == 0 {
		return v.Standing
	}
	return slices.DeleteFunc(slices.Clone(v.Standing), func(id string) bool {
		mv := v.Map.Move(id)
		return mv != nil && slices.ContainsFunc(sorted(mv.Takes), func(e string) bool { return v.SetLive[e] != nil })
	})
}

// forFinal is what the finals still due ask to be off, where none of them counts
// as the machine stands.
func (v *viewing) forFinal() []string {
	due := v.finalsToRun()
	if len(due) == 0 || v.finalReady() != nil {
		return nil
	}
	var goals []string
	f := v.Map.Final(due[0])
	for _, id := range sorted(f.Energy) {
		if level := f.Energy[id]; level.Rank() > max(v.at[id].Rank(), 0) && v.Map.Energy(id) != nil {
			goals = append(goals, "item:"+id+"="+string(level))
		}
	}
	return goals
}

// finalReady is the first final that is due and counts as the machine stands.
func (v *viewing) finalReady() *machine.Final {
	for _, id := range v.finalsToRun() {
		if f := v.Map.Final(id); v.Ready(f) == "" {
			return f
		}
	}
	return nil
}

// finalsToRun are the finals that are due, less those of which somebody has said
// why they cannot be run.
func (v *viewing) finalsToRun() []string {
	explained := v.explained()
	return slices.DeleteFunc(v.finalsDue(), func(id string) bool { return explained["final-due:"+id+":"] != nil })
}

// request asks for a plan from the present state, its goals left open.
func (v *viewing) request() plan.Request {
	r := plan.Request{
		Answers: v.Answers, Standing: v.Standing, Found: v.Found, People: v.people(), At: v.At, Returning: v.Returning, Due: map[string]bool{},
	}
	for id, st := range v.Checks {
		r.Due[id] = len(st.Since) > 0
		for _, m := range st.Lost { // the check has lost its place: open that again
			if !slices.Contains(v.Standing, m) && !slices.Contains(r.Again, m) {
				r.Again = append(r.Again, m)
			}
		}
	}
	slices.Sort(r.Again)
	for _, id := range v.without {
		if !slices.Contains(v.Standing, id) {
			r.BarredOut = append(r.BarredOut, id)
		}
	}
	for _, b := range v.Raised {
		if b.Kind == "barred" && !b.Done {
			if b.Side == "back" {
				r.BarredBack = append(r.BarredBack, b.On)
			} else {
				r.BarredOut = append(r.BarredOut, b.On)
			}
		}
	}
	return r
}

// people is how many are at the machine; 0 means that nobody has said.
func (v *viewing) people() int {
	if len(v.Here) > 1 {
		return 2
	}
	return 0
}

// plan makes a plan, or finds the one made before. m is the job's map with its
// own rungs; those and the request name the plan.
func (b *Book) plan(m *machine.Map, r plan.Request) *planned {
	own := m.Moves[len(b.Map.Moves):]
	var blocked []string // what must wait for an own rung
	for i := range m.Moves {
		for _, o := range own {
			if _, needs := m.Moves[i].Needs[o.ID]; needs {
				blocked = append(blocked, m.Moves[i].ID+" "+o.ID)
			}
		}
	}
	key, err := json.Marshal(struct {
		Own     []machine.Move
		Blocked []string
		plan.Request
	}{own, blocked, r})
	if err != nil {
		panic(err) // a request holds only words and numbers
	}
	if p, known := b.plans[string(key)]; known {
		return p
	}
	if len(b.plans) >= mostPlans {
		clear(b.plans)
	}
	p := &planned{next: plan.Next(m, r)}
	made, err := plan.Make(m, r)
	if err != nil {
		p.err, _ = err.(*plan.NoPlan)
	} else {
		p.plan = made
	}
	b.plans[string(key)] = p
	return p
}

// wayIn and wayBack are what the plan still holds.
func (v *viewing) wayIn() []string {
	if v.planned.plan == nil {
		return nil
	}
	return v.planned.plan.WayIn
}

func (v *viewing) wayBack() []plan.Step {
	if v.planned.plan == nil {
		return nil
	}
	if len(v.stays) == 0 {
		return v.planned.plan.WayBack
	}
	return slices.DeleteFunc(slices.Clone(v.planned.plan.WayBack), func(s plan.Step) bool { return slices.Contains(v.stays, s.Undo) })
}

// rows orders the ladder: moves in the order they were made, then those that
// are planned. A proof that has ended and is planned again stands where it is
// planned.
func (v *viewing) rows() {
	for _, t := range v.Turns {
		if t.Found || len(t.Outs) > 0 || t.Half["out"] {
			v.order = slices.DeleteFunc(v.order, func(id string) bool { return id == t.Move })
			if v.stands(t.Move) || len(t.Outs) > 0 && !slices.Contains(v.wayIn(), t.Move) {
				v.order = append(v.order, t.Move)
			}
		}
	}
	for _, id := range v.wayIn() {
		v.order = slices.DeleteFunc(v.order, func(o string) bool { return o == id })
		v.order = append(v.order, id)
	}
	for _, t := range v.Turns { // begun, but no longer planned
		if len(t.Outs) == 0 && !slices.Contains(v.order, t.Move) && v.Map.Move(t.Move) != nil && t.Half["out"] {
			v.order = append(v.order, t.Move)
		}
	}
}

func (v *viewing) stands(move string) bool { return slices.Contains(v.Standing, move) }

// turnOf is the turn that a rung shows: its last.
func (v *viewing) turnOf(move string) *record.Turn {
	for i := len(v.Turns) - 1; i >= 0; i-- {
		if v.Turns[i].Move == move {
			return v.Turns[i]
		}
	}
	return nil
}

// current finds the step that is on.
func (v *viewing) current() {
	c := &v.view.Current
	switch {
	case len(v.Stops) > 0:
		stop := v.Stops[len(v.Stops)-1]
		*c = Current{Kind: "stopped", Say: stop.Of.(*record.Stopped).Why, Task: v.stopped(stop)}
		return
	case v.SignedBy != nil:
		*c = Current{Kind: "signed"}
		return
	case v.off():
		*c = Current{Kind: "called-off", Say: v.Off.Of.(*record.JobCalledOff).Reason}
		return
	case v.planned.err != nil:
		*c = Current{Kind: "stuck", Say: v.stuckSay(v.planned.err)}
		v.view.Possible = v.possibleBack()
		return
	}
	if t := v.liveTest(); t != nil && v.met(t.Needs) && !v.shutFor(t) { // whatever has to be shut for what comes after it
		*c = Current{Kind: "test", Goal: v.rest[0], Task: v.test(t)}
		return
	}
	if in := v.wayIn(); len(in) > 0 {
		if o := v.shows(); o != nil {
			*c = Current{Kind: "survey", Goal: "option:" + o.ID, Task: v.ask(o)}
			return
		}
		*c = Current{Kind: "out", Move: in[0], Side: "out"}
		for _, id := range in {
			mv := v.Map.Move(id)
			if v.met(v.Map.OutNeeds(mv)) && v.provenAll(v.Map.Guards(mv.LiveOK)) {
				v.view.Possible = append(v.view.Possible, id)
			}
		}
		return
	}
	if len(v.rest) > 0 {
		*c = Current{Kind: "work", Goal: v.rest[0], Task: v.work(v.rest[0])}
		if id, is := strings.CutPrefix(v.rest[0], "test:"); is {
			t := v.Map.Test(id)
			if step := v.towardsLive(t); step != nil && v.has(v.viewer.Person, t.Ticket) { // nobody else is led to bare live parts
				v.led(step)
				c.Say = "For the test: " + lower(t.Title) + "."
				return
			}
			*c = Current{Kind: "test", Goal: v.rest[0], Task: v.test(t)}
		}
		return
	}
	if g := v.ownWork(); g != nil {
		*c = Current{Kind: "own", Goal: g.Goal, Say: "Each thing that comes off becomes a rung.", Task: v.ownTask(g)}
		v.view.Possible = v.possibleBack()
		return
	}
	if goal, ask := v.surveyed(); ask != nil {
		*c = Current{Kind: "survey", Goal: goal, Task: ask}
		return
	}
	if v.looking() {
		*c = Current{Kind: "find", Say: "What is wrong is still to be found."}
		v.view.Possible = v.possibleBack()
		return
	}
	back := v.wayBack()
	check := slices.ContainsFunc(back, func(s plan.Step) bool { return s.Check != "" })
	if f := v.finalReady(); f != nil && !check {
		*c = Current{Kind: "final", Move: f.ID, Task: v.final(f)}
		return
	}
	if len(back) > 0 {
		v.led(&back[0])
		return
	}
	if due := v.finalsToRun(); len(due) > 0 { // none counts yet: say what is amiss
		f := v.Map.Final(due[0])
		*c = Current{Kind: "final", Move: f.ID, Say: upper(v.Ready(f)) + ".", Task: v.final(f)}
		return
	}
	*c = Current{Kind: "sign-off"}
}

// liveTest is the live test that is the first goal; nil where that is none.
func (v *viewing) liveTest() *machine.Test {
	if len(v.rest) == 0 {
		return nil
	}
	if t := v.Map.Test(strings.TrimPrefix(v.rest[0], "test:")); t != nil && t.Power == "live" {
		return t
	}
	return nil
}

// led makes a step of the way back the one that is on.
func (v *viewing) led(step *plan.Step) {
	v.view.Possible = v.possibleBack()
	v.view.Current = Current{Kind: "back", Move: step.Undo, Side: "back"}
	if step.Check != "" {
		v.view.Current = Current{Kind: "check", Move: step.Check, Side: "back"}
	}
}

// photoOn is what a photo that is taken now hangs on: the rung that is on, or what
// the goal names.
func (v *viewing) photoOn() string {
	c := v.view.Current
	if c.Move != "" {
		return c.Move
	}
	_, id, _ := strings.Cut(c.Goal, ":")
	id, _, _ = strings.Cut(id, "=")
	return id
}

func (v *viewing) possibleBack() []string {
	var out []string
	for _, s := range v.planned.next {
		out = append(out, s.Undo+s.Check)
	}
	return out
}

func (v *viewing) met(needs machine.Needs) bool {
	for id, l := range needs {
		if v.at[id].Rank() < l.Rank() {
			return false
		}
	}
	return true
}

func (v *viewing) provenAll(energies []string) bool {
	return !slices.ContainsFunc(energies, func(id string) bool { return v.at[id] != machine.Proven })
}

// repaired tells whether some goal was reached rather than given up. A test that
// was reached mends nothing once the customer has said to leave it.
func (v *viewing) repaired() bool {
	if v.Decided != nil && v.Decided.Of.(*record.Decided).Choice != "repair" {
		return slices.ContainsFunc(v.Goals, func(g *record.Goal) bool {
			t, err := plan.Reads(v.Map, g.Goal)
			return err == nil && t.ByMove && (g.Open || g.Reason == "")
		})
	}
	if len(v.Goals) == 0 {
		return true
	}
	return slices.ContainsFunc(v.Goals, func(g *record.Goal) bool { return g.Open || g.Reason == "" || g.Reason == "replaced" })
}

// finalsDue are the finals that prove this complaint, or that name none, and
// have not passed since the machine was last opened. A job that was not
// repaired owes no proof of its complaint; one that is left isolated and tagged,
// out of use, owes none at all.
func (v *viewing) finalsDue() []string {
	var due []string
	if !v.repaired() && len(v.stays) > 0 {
		return nil
	}
	for i := range v.Map.Finals {
		f := &v.Map.Finals[i]
		if !v.concerns(f) || len(f.Proves) > 0 && !v.repaired() {
			continue
		}
		if !v.FinalPassed(f.ID) {
			due = append(due, f.ID)
		}
	}
	return due
}

func (v *viewing) head() {
	w := v.view
	w.Job, w.Title, w.Place, w.Words = v.book.Job.ID, v.book.Job.Title, v.book.Job.Place, v.book.Job.Words
	w.Machine = v.Map.Title
	if w.Possible == nil {
		w.Possible = []string{}
	}
	w.Goals = []Goal{}
	for _, g := range v.Goals {
		w.Goals = append(w.Goals, Goal{g.Goal, v.goalName(g.Goal), g.Open, g.Reason})
	}
	w.Here = []string{}
	for _, p := range v.Here {
		if p == v.viewer.Person {
			w.Here = append([]string{v.name(p)}, w.Here...)
		} else {
			w.Here = append(w.Here, v.name(p))
		}
	}
	w.TakenBack = []Remark{}
	for _, f := range v.State.TakenBack {
		w.TakenBack = append(w.TakenBack, Remark{v.takenBackSay(f), v.fullName(f.By), f.When()})
	}
	w.Arrive = []Make{}
	if v.viewer.Person != "" && !slices.Contains(v.Here, v.viewer.Person) && v.SignedBy == nil && v.book.Job.People[v.viewer.Person].Role != office {
		w.Arrive = append(w.Arrive, made("visit.began", record.VisitBegan{}))
	}
	w.Loose = []Loose{}
	for _, id := range v.Standing {
		mv := v.Map.Move(id)
		if mv != nil && mv.LeavesLoose != nil && !slices.ContainsFunc(mv.LeavesLoose.Unless, v.stands) {
			w.Loose = append(w.Loose, Loose{mv.LeavesLoose.Say, mv.Name()})
		}
	}
	v.inside()
	w.Stops = []Choice{}
	for _, r := range Stops {
		w.Stops = append(w.Stops, Choice{Label: upper(r.Why), Says: r.First, Makes: []Make{made("stopped", map[string]string{"why": r.Why})}})
	}
	if v.planned.plan != nil {
		w.Plan = &PlanOut{Plan: *v.planned.plan}
	} else {
		w.Plan = &PlanOut{Error: v.planned.err}
	}
}

// name is what a person is called: "you" for the viewer.
func (v *viewing) name(person string) string {
	if person == v.viewer.Person {
		return "you"
	}
	return v.fullName(person)
}

func (v *viewing) fullName(person string) string {
	if p, known := v.book.Job.People[person]; known && p.Name != "" {
		return p.Name
	}
	return person
}

func (v *viewing) goalName(goal string) string {
	kind, rest, _ := strings.Cut(goal, ":")
	switch kind {
	case "work":
		return "The work on a machine without a map"
	case "replace":
		if p := v.Map.Part(rest); p != nil {
			name := "Fit " + lower(p.Name)
			if p.FitTogether {
				name += ", " + setWord(p.SetOf)
			}
			return name
		}
	case "test":
		if t := v.Map.Test(rest); t != nil {
			return t.Title
		}
	case "item":
		id, level, _ := strings.Cut(rest, "=")
		if it := v.Map.Item(id); it != nil {
			return it.Name + " " + level
		}
		if e := v.Map.Energy(id); e != nil {
			return e.Name + ", " + level
		}
	}
	return goal
}

// goalDone is a goal once it is reached.
func (v *viewing) goalDone(goal string) string {
	if p := v.Map.Part(strings.TrimPrefix(goal, "replace:")); p != nil {
		if p.FitTogether {
			return p.Name + " fitted, " + setWord(p.SetOf)
		}
		return p.Name + " fitted"
	}
	if strings.HasPrefix(goal, "item:") {
		return v.goalName(goal)
	}
	return v.goalName(goal) + ": reached"
}

func setWord(n int) string {
	if n == 2 {
		return "the pair"
	}
	return "the set"
}

// undo finds this viewer's last touch: the facts of one device that bear the
// same moment, none of them withdrawn.
func (v *viewing) undo() {
	var last *record.Fact
	var ids []string
	for i := len(v.Facts) - 1; i >= 0; i-- {
		f := &v.Facts[i]
		if f.By != v.viewer.Person || f.Device != v.viewer.Device {
			continue
		}
		switch f.Of.(type) {
		case *record.Withdrawn, *record.VisitBegan, *record.GoalAdded, *record.TookOver:
			continue
		}
		if last == nil {
			last = f
		} else if f.Since != last.Since || f.Run != last.Run || !f.Wall.Equal(last.Wall) {
			break
		}
		ids = append(ids, f.ID)
	}
	if last != nil {
		v.view.Undo = &Undo{Say: v.saidShort(last), Events: ids}
	}
}

// explained are the snags that somebody has explained, with the reason.
func (v *viewing) explained() map[string]*record.Fact {
	out := map[string]*record.Fact{}
	for i := range v.Facts {
		if b, ok := v.Facts[i].Of.(*record.SnagExplained); ok {
			out[b.Snag] = &v.Facts[i]
		}
	}
	return out
}

func sorted[M ~map[string]V, V any](m M) []string { return slices.Sorted(maps.Keys(m)) }
