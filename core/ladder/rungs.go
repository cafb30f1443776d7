package ladder

import (
	"fmt"
	"slices"
	"strings"

	"evensteps/core/energy"
	"evensteps/core/machine"
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
}

// Side is one side of a rung as it is worked: where one stands, what bites,
// what to do, with what, what is counted and confirmed, and what Done records.
type Side struct {
	Title   string         `json:"title"`
	Stand   string         `json:"stand"` // "Front, standing."
	View    string         `json:"view"`  // how left and right are meant
	Hazards []string       `json:"hazards"`
	Do      []string       `json:"do"`
	Tools   []string       `json:"tools"`
	PPE     []string       `json:"ppe"`
	People  int            `json:"people"`
	Blind   bool           `json:"blind"`
	Lots    []Lot          `json:"lots"`
	Plugs   []Plug         `json:"plugs"`
	Lines   []Line         `json:"lines"`
	Proof   *ProofAsk      `json:"proof"`
	Ticket  string         `json:"ticket"` // why this viewer is not led on here
	Pass    string         `json:"pass"`
	Value   string         `json:"value"` // how a value is written, where Done asks for one
	Asks    []Circumstance `json:"asks"`  // what else a reading is judged by
	Meter   *MeterAsk      `json:"meter"` // what a meter that is joined can take by itself
	Compare []string       `json:"compare"`
	Choices []Choice       `json:"choices"`
	Said    string         `json:"said"` // why what was recorded does not count
	Picture Picture        `json:"picture"`
	Done    *Touch         `json:"done"`
	Failed  *Touch         `json:"failed"`
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
	Kind      string      `json:"kind"`
	Noun      string      `json:"noun"`
	Count     int         `json:"count"`      // as the map says; on the way back, what came out
	Counted   *int        `json:"counted"`    // as somebody counted
	MustCount bool        `json:"must_count"` // it has a look-alike, or drops where it is lost
	Loosen    bool        `json:"loosen"`
	Hidden    bool        `json:"hidden"`
	At        [][]float64 `json:"at"`
}

// Plug is a connector of a rung.
type Plug struct {
	Item  string `json:"item"`
	Name  string `json:"name"`
	Keyed bool   `json:"keyed"`
	Note  string `json:"note"`
	Wires []Wire `json:"wires"`
}

// Wire is one lead; on the way back, whether it was confirmed.
type Wire struct {
	Wire      string `json:"wire"`
	Terminal  string `json:"terminal"`
	Colour    string `json:"colour"`
	Stripe    string `json:"stripe"`
	Confirmed bool   `json:"confirmed"`
	Confirm   *Make  `json:"confirm"`
}

// ProofAsk is what a proof must hold.
type ProofAsk struct {
	Energy string      `json:"energy"`
	Move   string      `json:"move"`
	By     string      `json:"by"`
	Points [][2]string `json:"points"`
	Unit   string      `json:"unit"`
	Before string      `json:"before"` // what the instrument is checked on first
	After  string      `json:"after"`  // and last
	Note   string      `json:"note"`   // the colours of the region, of mains
}

func (v *viewing) proofAsk(id, move, by string) *ProofAsk {
	ask := energy.Of(v.Map.Energy(id), v.Map.Supply)
	p := &ProofAsk{Energy: id, Move: move, By: by, Points: ask.Points, Unit: ask.Quantity.Unit(), Before: ask.Before, After: ask.After}
	if v.Map.Energy(id).Kind == "mains" {
		p.Note = energy.Colours(v.Map.Supply)
	}
	return p
}

// Picture is a face of the cabinet as a line drawing can be made of it.
type Picture struct {
	Face   string       `json:"face"`
	Width  float64      `json:"width"`
	Height float64      `json:"height"`
	Shapes []Shape      `json:"shapes"`
	Marks  []PictureDot `json:"marks"`
}

// Shape is one item on a face.
type Shape struct {
	Item string    `json:"item"`
	Name string    `json:"name"`
	Type string    `json:"type"`
	Area []float64 `json:"area"`
	At   []float64 `json:"at"`
	Off  bool      `json:"off"`
	Lit  bool      `json:"lit"`
}

// PictureDot is a fastener on a face.
type PictureDot struct {
	At     []float64 `json:"at"`
	Tray   string    `json:"tray"`
	Drive  string    `json:"drive"`
	Hidden bool      `json:"hidden"`
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
	r := Rung{ID: id, Kind: "move", Title: id, Out: Todo, Back: Todo, Current: c.Move == id && (c.Kind == "out" || c.Kind == "back")}
	t := v.turnOf(id)
	switch {
	case t == nil || len(t.Outs) == 0:
		if t != nil && t.Half["out"] {
			r.Out = Half
		}
	case mv != nil && mv.OneWay && !v.stands(id):
		r.Out = Lapsed
	case t.Back != nil && slices.Contains(v.wayIn(), id): // to be made again
		r.Out = Todo
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
	if mv.OneWay {
		r.Back = None
	}
	r.Sub = v.sub(mv, t)
	r.OutSide = v.outSide(mv, t)
	if !mv.OneWay {
		r.Home = v.backSide(mv, t)
		if r.Current && c.Side == "back" {
			r.Title = mv.Name()
		}
	}
	return r
}

// sub is the second line of a rung: what came off with it and where it lies.
func (v *viewing) sub(mv *machine.Move, t *record.Turn) string {
	var nouns, letters, words []string
	counts := map[string]int{}
	for i := range mv.Fasteners {
		l := &mv.Fasteners[i]
		n, noun := l.Count, noun(v.Map.Fastener(l.Kind))
		if t != nil {
			if counted, known, _ := t.Total(lotID(mv, i), l.Count, "out"); known {
				n = counted
			}
		}
		if !slices.Contains(nouns, noun) {
			nouns = append(nouns, noun)
		}
		counts[noun] += n
		if letter := v.letters[lotID(mv, i)]; letter != "" && !slices.Contains(letters, letter) {
			letters = append(letters, letter)
		}
	}
	for _, noun := range nouns {
		words = append(words, count(counts[noun], noun))
	}
	if len(words) > 0 && len(letters) > 0 {
		slices.Sort(letters)
		words = []string{strings.Join(words, ", ") + " · " + strings.Join(letters, ", ")}
	}
	for id, level := range mv.Takes {
		p := v.Proofs[id]
		if level != machine.Proven || p == nil {
			continue
		}
		switch {
		case !p.Stands:
			return "ended, measure again"
		case p.Highest != "":
			return p.Highest + ", stands"
		default:
			return "plug in hand, stands"
		}
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
	s.Plugs = v.plugsOf(mv, nil)
	s.Picture = v.picture(mv, mv.Face, s.Lots)
	accepts := []string{}
	d := &Touch{Label: "Done, " + v.outcome(mv), Open: []string{}}
	s.Lines = v.linesOut(mv, t)
	d.Open = append(d.Open, openLines(s.Lines)...)
	for i := range s.Lots {
		l := &s.Lots[i]
		switch {
		case l.Loosen || l.Counted != nil:
		case l.MustCount:
			d.Open = append(d.Open, fmt.Sprintf("%d %s to count into tray %s", l.Count, plural(l.Count, l.Noun), l.Tray))
		default:
			accepts = append(accepts, l.Lot)
		}
	}
	for _, p := range s.Plugs {
		if p.Keyed {
			accepts = append(accepts, p.Item)
		}
	}
	out := map[string]any{"move": mv.ID}
	if len(accepts) > 0 {
		out["accepts"] = accepts
	}
	d.Says = v.says(s, accepts)
	for _, id := range sorted(mv.Takes) {
		if mv.Takes[id] == machine.Proven {
			by := mv.Proof
			if by == "" {
				by = "meter"
			}
			s.Proof = v.proofAsk(id, mv.ID, by)
			d.Says = "with the readings you enter"
			if by == "in-hand" {
				d.Says = "the plug in your hand and in sight"
				out["proof"] = map[string]string{"by": by}
			}
		}
	}
	if mv.MeasureFirst != "" && v.Map.Energy(mv.MeasureFirst) != nil {
		s.Proof = v.proofAsk(mv.MeasureFirst, mv.ID, "meter")
		d.Says = strings.TrimPrefix(d.Says+", with the readings you enter", ", ")
	}
	d.Makes = []Make{made("rung.out", out)}
	d.Half = []Make{made("rung.half", map[string]string{"move": mv.ID, "side": "out"})}
	s.Done = d
	return v.ticketed(s, mv.Ticket)
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
		} else if l.Tray != "" {
			word += " to " + l.Tray
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
	s.Plugs = v.plugsOf(mv, t)
	s.Picture = v.picture(mv, face, s.Lots)
	d := &Touch{Label: "Done, " + v.homecoming(mv), Open: []string{}}
	accepts := []string{}
	var words []string
	var keyed []Plug
	for _, p := range s.Plugs {
		if p.Keyed {
			accepts = append(accepts, p.Item)
			keyed = append(keyed, p)
			continue
		}
		for _, w := range p.Wires {
			if !w.Confirmed {
				d.Open = append(d.Open, fmt.Sprintf("%s, %s terminal", lower(p.Name), w.Terminal))
			}
		}
	}
	words = append(words, plugWords(keyed, "on")...)
	last := ""
	for i := range s.Lots {
		l := &s.Lots[i]
		switch {
		case l.Loosen:
		case l.Counted != nil:
			words = append(words, brief(*l.Counted, l.Noun, &last)+" home from "+l.Tray)
		case l.MustCount:
			d.Open = append(d.Open, fmt.Sprintf("%d %s to count home from tray %s", l.Count, plural(l.Count, l.Noun), l.Tray))
		default:
			accepts = append(accepts, l.Lot)
			words = append(words, brief(l.Count, l.Noun, &last)+" home from "+l.Tray)
		}
	}
	s.Lines = v.linesBack(mv, t)
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
	return v.ticketed(s, mv.Ticket)
}

func (v *viewing) checkRung(c *machine.Check, st *record.CheckState) Rung {
	r := Rung{ID: c.ID, Kind: "check", Title: c.Title, Out: None, Back: Todo, Sub: "check", Current: v.view.Current.Kind == "check" && v.view.Current.Move == c.ID}
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
	s.Picture = v.picture(nil, face, nil)
	return s
}

func (v *viewing) side(title, face, pose string, hazards []machine.Hazard, do, tools, ppe []string, people int) *Side {
	s := &Side{
		Title: title, Stand: stand(face, pose), View: viewpoint(face), Hazards: []string{}, Do: list(do), Tools: list(tools), PPE: list(ppe),
		People: max(people, 1), Lots: []Lot{}, Plugs: []Plug{}, Lines: []Line{}, Compare: []string{}, Choices: []Choice{}, Asks: []Circumstance{}, Picture: Picture{Face: face, Shapes: []Shape{}, Marks: []PictureDot{}},
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

func (v *viewing) lots(mv *machine.Move, t *record.Turn, side string) []Lot {
	lots := []Lot{}
	for i := range mv.Fasteners {
		l := &mv.Fasteners[i]
		kind := v.Map.Fastener(l.Kind)
		out := Lot{
			Lot: lotID(mv, i), Side: side, Tray: v.letters[lotID(mv, i)], Kind: kindName(kind), Noun: noun(kind), Count: l.Count,
			MustCount: !l.Loosen && tray.MustCount(v.Map, *l), Loosen: l.Loosen, Hidden: l.Hidden, At: l.At,
		}
		if out.At == nil {
			out.At = [][]float64{}
		}
		if t != nil {
			if side == "back" {
				if n, known, _ := t.Total(out.Lot, l.Count, "out"); known {
					out.Count = n
				}
			}
			if n, known, _ := t.Total(out.Lot, out.Count, side); known {
				out.Counted = &n
			}
		}
		lots = append(lots, out)
	}
	return lots
}

func (v *viewing) plugsOf(mv *machine.Move, t *record.Turn) []Plug {
	plugs := []Plug{}
	for i := range v.Map.Items {
		it := &v.Map.Items[i]
		if it.Type != "connector" || mv.Takes[it.ID] != machine.Away {
			continue
		}
		plugs = append(plugs, v.plug(it, t))
	}
	return plugs
}

func (v *viewing) plug(it *machine.Item, t *record.Turn) Plug {
	p := Plug{Item: it.ID, Name: it.Name, Keyed: it.Keyed, Wires: []Wire{}, Note: "keyed: goes on one way"}
	if !it.Keyed {
		p.Note = "not keyed: each lead by its terminal"
	}
	for _, w := range it.Wires {
		id := it.ID + "/" + w.Terminal
		one := Wire{Wire: id, Terminal: w.Terminal, Colour: w.Colour, Stripe: w.Stripe}
		if t != nil {
			f := t.Wires[id]
			one.Confirmed = f != nil && f.Of.(*record.WireConfirmed).On == w.Terminal
			if !it.Keyed {
				tick := made("wire.confirmed", map[string]any{"wire": id, "on": w.Terminal, "tug": true})
				one.Confirm = &tick
			}
		}
		p.Wires = append(p.Wires, one)
	}
	return p
}

// picture is the face one stands before: its items, what of them is off, what
// this rung is about, and where its fasteners sit.
func (v *viewing) picture(mv *machine.Move, face string, lots []Lot) Picture {
	p := Picture{Face: face, Width: 1, Height: 1, Shapes: []Shape{}, Marks: []PictureDot{}}
	if c := v.Map.Cabinet; c != nil {
		switch face {
		case "left", "right":
			p.Width, p.Height = c.DepthMM, c.HeightMM
		case "top", "under":
			p.Width, p.Height = c.WidthMM, c.DepthMM
		default:
			p.Width, p.Height = c.WidthMM, c.HeightMM
		}
	}
	for i := range v.Map.Items {
		it := &v.Map.Items[i]
		lit := mv != nil && len(mv.Takes[it.ID]) > 0
		if it.Face != face || it.Type == "state" || it.Area == nil && it.At == nil {
			continue
		}
		if it.Area == nil && !lit { // small parts only where they matter
			continue
		}
		area, at := it.Area, it.At
		if area == nil {
			area = []float64{}
		}
		if at == nil {
			at = []float64{}
		}
		p.Shapes = append(p.Shapes, Shape{Item: it.ID, Name: it.Name, Type: it.Type, Area: area, At: at, Off: v.at[it.ID] == machine.Away, Lit: lit})
	}
	for i, l := range lots {
		drive := ""
		if k := v.Map.Fastener(mv.Fasteners[i].Kind); k != nil {
			drive = k.Drive
		}
		for _, at := range l.At {
			p.Marks = append(p.Marks, PictureDot{At: at, Tray: l.Tray, Drive: drive, Hidden: l.Hidden})
		}
	}
	return p
}
