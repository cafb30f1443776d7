package ladder

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"evensteps/core/energy"
	"evensteps/core/lead"
	"evensteps/core/machine"
	"evensteps/core/picture"
	"evensteps/core/plan"
	"evensteps/core/record"
	"evensteps/core/tray"
)

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
	Lines    []Line          `json:"lines"`
	Proof    *ProofAsk       `json:"proof"`
	Ticket   string          `json:"ticket"` // why this viewer is not led on here
	Pass     string          `json:"pass"`
	Value    string          `json:"value"` // how a value is written, where Done asks for one
	Asks     []Circumstance  `json:"asks"`  // what else a reading is judged by
	Meter    *MeterAsk       `json:"meter"` // what a meter that is joined can take by itself
	Compare  []string        `json:"compare"`
	Schools  []School        `json:"schools"` // ways that practitioners hold to, the company's own first
	Choices  []Choice        `json:"choices"`
	Keep     []Choice        `json:"keep"` // pieces of a set or kit that may stay
	Mend     []Choice        `json:"mend"` // what may be otherwise: other answers to the options that it hangs on, a fault that has undone it
	Said     string          `json:"said"` // why what was recorded does not count
	Picture  picture.Drawing `json:"picture"`
	Photos   []Shown         `json:"photos"` // photos of this rung; on the way back, those from the way in
	Notes    []Remark        `json:"notes"`  // what was noted on it
	Then     []Next          `json:"then"`   // what may share its touch
	Together *Touch          `json:"together"`
	Done     *Touch          `json:"done"`
	Failed   *Touch          `json:"failed"`
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

// Touch is what one button records, and what it says on itself.
type Touch struct {
	Label string   `json:"label"`
	Says  string   `json:"says"`
	Open  []string `json:"open"`  // what is still to look at: touching then records half
	Makes []Make   `json:"makes"` // what it records when nothing is open
	Half  []Make   `json:"half"`  // and when something is
}

// Choice is one of several answers, each with what it records.
type Choice struct {
	Label string `json:"label"`
	Says  string `json:"says"`
	Done  bool   `json:"done"`
	Makes []Make `json:"makes"`
}

// Lot is one lot of fasteners of a rung.
type Lot struct {
	Lot       string      `json:"lot"`
	Side      string      `json:"side"`
	Tray      string      `json:"tray"`
	Bag       string      `json:"bag"` // what is written on its bag, where no tray is left
	Kind      string      `json:"kind"`
	Noun      string      `json:"noun"`
	Count     int         `json:"count"`      // as the map says; on the way back, what came out
	Counted   *int        `json:"counted"`    // as somebody counted
	Differs   string      `json:"differs"`    // that the map says otherwise
	Astray    int         `json:"astray"`     // dropped or lost, and not found
	MustCount bool        `json:"must_count"` // it has a look-alike, or drops where it is lost
	Why       string      `json:"why"`        // why it must be counted
	Empties   bool        `json:"empties"`    // its tray is empty once it is home
	Driver    string      `json:"driver"`
	Fit       string      `json:"fit"` // how the technician's own drivers go on, where they are known
	Drops     string      `json:"drops"`
	Loosen    bool        `json:"loosen"`
	Hidden    bool        `json:"hidden"`
	Renew     string      `json:"renew"` // that it is thrown away, and with what new ones come
	At        [][]float64 `json:"at"`
	Tally     Make        `json:"tally"` // records a count; count goes into the body
	Or        []Choice    `json:"or"`    // what may have become of one
}

// rungs makes the ladder's rows: moves, with the checks where they belong.
func (v *viewing) rungs() {
	rungs := []Rung{}
	for _, id := range v.order {
		rungs = append(rungs, v.rung(id))
	}
	for i := range v.Map.Checks {
		c := &v.Map.Checks[i]
		st := v.Checks[c.ID]
		planned := slices.ContainsFunc(v.wayBack(), func(s plan.Step) bool { return s.Check == c.ID })
		if !planned && (st == nil || st.Passed == nil && len(st.Since) == 0) {
			continue
		}
		at := v.checkPlace(rungs, c)
		rungs = slices.Insert(rungs, at, v.checkRung(c, st))
	}
	v.view.Rungs = rungs
	v.together()
}

// checkPlace finds a check's row: below the lowest rung that may come back only
// after it; or else above the highest that must be back before it.
func (v *viewing) checkPlace(rungs []Rung, c *machine.Check) int {
	for i := len(rungs) - 1; i >= 0; i-- {
		if slices.Contains(c.Before, rungs[i].ID) {
			return i + 1
		}
	}
	for i := range rungs {
		if slices.Contains(c.After, rungs[i].ID) {
			return i
		}
	}
	return len(rungs)
}

func (v *viewing) rung(id string) Rung {
	mv := v.Map.Move(id)
	c := v.view.Current
	r := Rung{ID: id, Kind: "move", Title: id, Kept: []Kept{}, Out: Todo, Back: Todo, Current: c.Move == id && (c.Kind == "out" || c.Kind == "back")}
	t := v.turnOf(id)
	switch {
	case t == nil || len(t.Outs) == 0:
		if t != nil && t.Half["out"] {
			r.Out = Half
		}
	case mv != nil && mv.OneWay && !v.stands(id):
		r.Out = Lapsed
	case slices.Contains(v.wayIn(), id): // to be made again
		r.Out = Todo
	case slices.Contains(v.stays, id): // left off on purpose
		r.Out, r.Back = Done, None
	case t.Back != nil:
		r.Out, r.Back = Done, Done
	default:
		r.Out, r.Back = Done, Due
		if t.Half["back"] {
			r.Back = Half
		}
	}
	if mv == nil {
		r.Sub = "not in the map"
		return r
	}
	if v.book.Map.Move(id) == nil {
		r.Kind = "own"
	}
	r.Title = mv.Name()
	r.Kept = v.kept(concerns(mv))
	if mv.OneWay {
		r.Back = None
	}
	r.Sub = v.sub(mv, t)
	r.OutSide = v.outSide(mv, t)
	answers := v.otherAnswers(mv)
	r.OutSide.Mend = append(slices.Clone(answers), v.offAlready(mv)...)
	if !mv.OneWay {
		r.Home = v.backSide(mv, t)
		r.Home.Mend = answers
		if r.Current && c.Side == "back" {
			r.Title = mv.Name()
		}
	}
	return r
}

// sub is the second line of a rung: what came off with it and where it lies.
func (v *viewing) sub(mv *machine.Move, t *record.Turn) string {
	var letters, words []string
	var held tally
	for i := range mv.Fasteners {
		l := &mv.Fasteners[i]
		n, noun := l.Count, tray.Noun(v.Map.Fastener(l.Kind))
		if t != nil {
			if counted, known, _ := t.Total(lotID(mv, i), l.Count, "out"); known {
				n = counted
			}
		}
		held.add(n, noun)
		if letter := v.letters[lotID(mv, i)]; letter != "" && !slices.Contains(letters, letter) {
			letters = append(letters, letter)
		}
	}
	if say := held.String(); say != "" {
		words = append(words, say)
	}
	if len(words) > 0 && len(letters) > 0 {
		slices.Sort(letters)
		words = []string{strings.Join(words, ", ") + " · " + strings.Join(letters, ", ")}
	}
	for _, id := range sorted(mv.Takes) {
		p := v.Proofs[id]
		if mv.Takes[id] != machine.Proven || p == nil {
			continue
		}
		if !p.Stands {
			return "ended, prove again"
		}
		return p.Highest + ", stands"
	}
	if mv.People == 2 {
		words = append(words, "2 people")
	}
	if mv.Blind {
		words = append(words, "by feel")
	}
	if len(words) == 0 {
		return mv.Face
	}
	return strings.Join(words, ", ")
}

func lotID(mv *machine.Move, i int) string { return fmt.Sprintf("%s/%d", mv.ID, i+1) }

func (v *viewing) outSide(mv *machine.Move, t *record.Turn) *Side {
	s := v.side(mv.Title, mv.Face, mv.Pose, mv.Hazards, mv.Do, mv.Tools, mv.PPE, mv.People)
	s.Blind = mv.Blind
	s.Said = v.Said[mv.ID]
	if t != nil && t.Back != nil {
		t = nil // a new turn begins with nothing counted
	}
	s.Lots = v.lots(mv, t, "out")
	s.Plugs = v.plugsOf(mv, nil, "out")
	if slices.ContainsFunc(s.Plugs, func(p Plug) bool { return p.OneByOne != "" }) {
		s.Do = []string{"Hang the new one beside the old, both in reach of the leads.", "One lead off the old, on to the new, *tugged*. Only then the next."}
	}
	s.Picture = v.picture(mv, mv.Face, s.Lots)
	s.ways(mv.Turn, mv.Schools)
	s.Lines = append(v.linesOut(mv, t), v.looks(mv, "out")...)
	s.Done = v.doneOut(mv, s)
	v.prove(s, v.provingOf(mv), nil)
	v.flame(s, mv)
	v.remember(s, mv)
	return v.ticketed(s, mv.Ticket)
}

// doneOut is Done of a way out, but for what it proves.
func (v *viewing) doneOut(mv *machine.Move, s *Side) *Touch {
	accepts := []string{}
	d := &Touch{Label: "Done, " + v.outcome(mv), Open: []string{}}
	d.Open = append(d.Open, openLines(s.Lines)...)
	for i := range s.Lots {
		l := &s.Lots[i]
		switch {
		case l.Loosen || l.Counted != nil:
		case l.MustCount:
			d.Open = append(d.Open, fmt.Sprintf("%d %s to count into %s", l.Count, plural(l.Count, l.Noun), l.box()))
		default:
			accepts = append(accepts, l.Lot)
		}
	}
	d.Open = append(d.Open, openLeads(s.Plugs)...)
	for _, p := range s.Plugs {
		if p.Keyed && p.Rule == lead.None {
			accepts = append(accepts, p.Item)
		}
	}
	out := map[string]any{"move": mv.ID}
	if len(accepts) > 0 {
		out["accepts"] = accepts
	}
	trays := map[string]string{}
	for _, l := range s.Lots {
		if l.Tray != "" && slices.Contains(accepts, l.Lot) {
			trays[l.Lot] = l.Tray
		}
	}
	if len(trays) > 0 {
		out["trays"] = trays
	}
	d.Says = v.says(s, accepts)
	d.Makes = []Make{made("rung.out", out)}
	d.Half = []Make{made("rung.half", map[string]string{"move": mv.ID, "side": "out"})}
	return d
}

// flame asks, as the gas is shut, whether a flame was burning: without one that
// was seen, none can prove it off.
func (v *viewing) flame(s *Side, mv *machine.Move) {
	for _, id := range sorted(mv.Takes) {
		e := v.Map.Energy(id)
		if e == nil || e.Kind != "gas" || mv.Takes[id] != machine.Shut || s.Done == nil || !v.burnsOff(id) {
			continue
		}
		if slices.ContainsFunc(mv.WhileLive, func(o string) bool { return v.at[o].Rank() > 0 }) {
			return // what makes the flame is off already
		}
		seen := withFlame(s.Done.Makes[0])
		s.Do = append([]string{"Light a burner, or call for heat. *Watch the flame* as the cock shuts."}, s.Do...)
		s.Choices = append(s.Choices, Choice{Label: "A flame was burning as I shut it", Says: "it can prove the gas off", Makes: []Make{seen}})
		s.Done.Says = "no flame was seen: another way proves it off"
	}
}

// burnsOff tells whether the flame is one of the ways of proving this gas off.
func (v *viewing) burnsOff(id string) bool {
	return slices.ContainsFunc(v.Map.Moves, func(mv machine.Move) bool {
		return mv.Takes[id] == machine.Proven && slices.Contains(mv.Proof, energy.BurnOff)
	})
}

func withFlame(m Make) Make {
	var body map[string]any
	if json.Unmarshal(m.Body, &body) != nil {
		return m
	}
	body["proof"] = record.Proof{Way: energy.BurnOff, Flame: "seen"}
	return made(m.Kind, body)
}

// says is what Done says on itself that it will record.
func (v *viewing) says(s *Side, accepts []string) string {
	var words []string
	last := ""
	for _, l := range s.Lots {
		n := l.Count
		if l.Counted != nil {
			n = *l.Counted
		}
		word := brief(n, l.Noun, &last)
		if l.Loosen {
			word += " loosened"
		} else {
			word += " to " + l.short()
		}
		words = append(words, word)
	}
	words = append(words, plugWords(s.Plugs, "apart")...)
	if len(accepts) > 0 {
		words = append(words, "as the map says")
	}
	return strings.Join(words, ", ")
}

// brief counts, and leaves the noun out where it is the same as just before.
func brief(n int, noun string, last *string) string {
	if noun == *last {
		return fmt.Sprint(n)
	}
	*last = noun
	return count(n, noun)
}

func plugWords(plugs []Plug, what string) []string {
	switch len(plugs) {
	case 0:
		return nil
	case 1:
		return []string{lower(plugs[0].Name) + " " + what}
	}
	return []string{fmt.Sprintf("%d plugs %s", len(plugs), what)}
}

func (v *viewing) backSide(mv *machine.Move, t *record.Turn) *Side {
	b := mv.Back
	if b == nil {
		b = &machine.Back{}
	}
	face, pose, tools := plan.RefitPlace(mv)
	hazards, people, title := mv.Hazards, mv.People, b.Title
	if b.Hazards != nil {
		hazards = *b.Hazards
	}
	if b.People != nil {
		people = *b.People
	}
	if title == "" {
		title = mv.Name() + " back"
	}
	s := v.side(title, face, pose, hazards, b.Do, tools, mv.PPE, people)
	s.Blind = mv.Blind
	s.Lots = v.lots(mv, t, "back")
	s.Plugs = v.plugsOf(mv, t, "back")
	s.Picture = v.picture(mv, face, s.Lots)
	d := &Touch{Label: "Done, " + v.homecoming(mv), Open: []string{}}
	accepts := []string{}
	var words []string
	var keyed []Plug
	var emptied []string
	for _, p := range s.Plugs {
		if p.Keyed && p.Rule == lead.None {
			accepts = append(accepts, p.Item)
			keyed = append(keyed, p)
		}
	}
	d.Open = append(d.Open, openLeads(s.Plugs)...)
	words = append(words, plugWords(keyed, "on")...)
	last := ""
	for i := range s.Lots {
		l := &s.Lots[i]
		switch {
		case l.Loosen:
		case l.Renew != "":
			accepts = append(accepts, l.Lot)
			words = append(words, count(l.Count, "new "+l.Noun))
		case l.Counted != nil:
			words = append(words, brief(*l.Counted, l.Noun, &last)+" home from "+l.short())
		case l.MustCount:
			d.Open = append(d.Open, fmt.Sprintf("%d %s to count home from %s", l.Count, plural(l.Count, l.Noun), l.box()))
		default:
			accepts = append(accepts, l.Lot)
			words = append(words, brief(l.Count, l.Noun, &last)+" home from "+l.short())
		}
		if l.Empties && l.Counted == nil && !l.MustCount && l.Tray != "" {
			emptied = append(emptied, l.Tray)
		}
	}
	if len(emptied) > 0 {
		words = append(words, trays(emptied)+" empty")
	}
	if len(s.Do) == 0 && v.book.Map.Move(mv.ID) == nil {
		s.Do = []string{"The other way round, as it came off. What held it goes back *where it was*."}
	}
	s.ways(b.Turn, b.Schools)
	s.Lines = append(v.looks(mv, "back"), v.linesBack(mv, t)...)
	d.Open = append(d.Open, openLines(s.Lines)...)
	for _, id := range sorted(mv.Takes) {
		if e := v.Map.Energy(id); e != nil {
			words = append(words, lower(e.Name)+" can hurt again from here")
		}
	}
	d.Says = strings.Join(words, ", ")
	back := map[string]any{"move": mv.ID}
	if t != nil {
		var closes []string
		for _, o := range t.Outs {
			closes = append(closes, o.ID)
		}
		if len(closes) > 0 {
			back["closes"] = closes
		}
	}
	if len(accepts) > 0 {
		back["accepts"] = accepts
	}
	d.Makes = []Make{made("rung.back", back)}
	d.Half = []Make{made("rung.half", map[string]string{"move": mv.ID, "side": "back"})}
	s.Done = d
	v.remember(s, mv)
	return v.ticketed(s, mv.BackTicket())
}

// offAlready are the faults that leave a move undone by themselves: a broken belt
// is off its pulleys. Where one is seen, the move stands and has to come back.
func (v *viewing) offAlready(mv *machine.Move) (out []Choice) {
	for i := range v.Map.Faults {
		f := &v.Map.Faults[i]
		suspect := slices.ContainsFunc(v.complaints(), func(c *machine.Complaint) bool { return c.Faults[f.ID] > 0 })
		fits := slices.ContainsFunc(v.Goals, func(g *record.Goal) bool { return g.Goal == "replace:"+f.Part })
		if slices.Contains(f.Leaves, mv.ID) && (suspect || fits) {
			out = append(out, Choice{Label: "Off already", Says: f.Name + ". It has to come back.", Makes: []Make{made("found", record.Found{Move: mv.ID, By: "the fault"})}})
		}
	}
	return out
}

// ways adds a direction that matters, and the schools.
func (s *Side) ways(t *machine.Turn, schools []machine.School) {
	if t != nil {
		s.Do = append(s.Do, turning(t))
	}
	for _, one := range schools {
		s.Schools = append(s.Schools, School(one))
	}
}

func (v *viewing) checkRung(c *machine.Check, st *record.CheckState) Rung {
	r := Rung{ID: c.ID, Kind: "check", Kept: v.kept(func(on string) bool { return on == c.ID }), Title: c.Title, Out: None, Back: Todo, Sub: "check", Current: v.view.Current.Kind == "check" && v.view.Current.Move == c.ID}
	if len(c.Before) > 0 {
		if mv := v.Map.Move(c.Before[0]); mv != nil {
			r.Sub = "check, before " + lower(mv.Name())
		}
	}
	if st != nil {
		switch {
		case st.Failed != nil:
			r.Back, r.Sub = Half, "failed, still due"
		case len(st.Since) > 0:
			r.Back = Due
		case st.Passed != nil:
			r.Back, r.Sub = Done, "passed"
		}
	}
	s := v.task(&c.Task, c.Pass)
	passed, failed := made("check.result", map[string]any{"check": c.ID, "passed": true}), made("check.result", map[string]any{"check": c.ID, "passed": false})
	v.verdict(s, &c.Task, c.Pass, passed, failed, "it stays due")
	s.Said = v.Said[c.ID]
	v.prove(s, v.provingAfter(c), nil)
	r.Home = v.ticketed(s, c.Ticket)
	return r
}

func (v *viewing) task(t *machine.Task, pass string) *Side {
	face := t.Face
	if face == "" {
		face = "front"
	}
	s := v.side(t.Title, face, t.Pose, t.Hazards, t.Do, t.Tools, t.PPE, t.People)
	s.Pass = pass
	for _, id := range sorted(t.Energy) {
		// What a check sets it puts back: both are steps of it.
		e := v.Map.Energy(id)
		if e == nil || t.Energy[id] != machine.Live || v.at[id].Rank() <= 0 {
			continue
		}
		s.Do = append([]string{fmt.Sprintf("*%s on*, for this alone.", e.Name)}, s.Do...)
		if c := v.Map.Check(t.ID); c != nil {
			switch v.levelAfter(c, id) {
			case machine.Proven:
				s.Do = append(s.Do, fmt.Sprintf("*%s off again*, and proven, before the next rung.", e.Name))
			case machine.Shut:
				s.Do = append(s.Do, fmt.Sprintf("*%s off again* before the next rung.", e.Name))
			}
		}
	}
	s.Picture = v.picture(nil, face, nil)
	return s
}

func (v *viewing) side(title, face, pose string, hazards []machine.Hazard, do, tools, ppe []string, people int) *Side {
	s := &Side{
		Title: title, Stand: stand(face, pose), View: viewpoint(face), Hazards: []string{}, Do: slices.Clone(list(do)), Tools: list(tools), PPE: list(ppe),
		People: max(people, 1), Lots: []Lot{}, Plugs: []Plug{}, Lines: []Line{}, Photos: []Shown{}, Notes: []Remark{}, Then: []Next{}, Compare: []string{}, Schools: []School{}, Choices: []Choice{}, Keep: []Choice{}, Mend: []Choice{}, Asks: []Circumstance{}, Picture: picture.Drawing{Strokes: []picture.Stroke{}},
	}
	for _, h := range hazards {
		say := h.Say
		if say == "" {
			say = hazardWords[h.Kind]
		}
		s.Hazards = append(s.Hazards, say)
	}
	return s
}

func list(in []string) []string {
	if in == nil {
		return []string{}
	}
	return in
}

// picture is the face one stands before: its items, what of them is off, what
// this rung is about, and where its fasteners sit.
func (v *viewing) picture(mv *machine.Move, face string, lots []Lot) picture.Drawing {
	if mv != nil && mv.ID != v.view.Current.Move && mv.ID != v.viewer.Looking {
		return picture.Drawing{Strokes: []picture.Stroke{}}
	}
	var takes map[string]machine.Level
	var drawn []picture.Lot
	if mv != nil {
		takes = mv.Takes
		for i, l := range lots {
			drive := ""
			if k := v.Map.Fastener(mv.Fasteners[i].Kind); k != nil {
				drive = k.Drive
			}
			drawn = append(drawn, picture.Lot{Drive: drive, Tray: l.Tray, Hidden: l.Hidden, At: l.At})
		}
	}
	return picture.Face(v.Map, face, takes, drawn, func(item string) bool { return v.at[item] == machine.Away })
}
