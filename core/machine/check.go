package machine

import (
	"fmt"
	"maps"
	"math"
	"path"
	"regexp"
	"slices"
	"strings"
)

// Flaw is one thing wrong with a map: where, as a path such as
// "moves[3].needs.drum", and a sentence that says what and what to do.
type Flaw struct {
	Path    string
	Message string
}

func (f Flaw) Error() string { return f.Path + ": " + f.Message }

// The words that format 1 knows.
var (
	Kinds       = []string{"dryer", "range", "oven", "cooktop", "dishwasher", "microwave", "other"}
	Systems     = []string{"single-phase", "split-phase", "three-phase"}
	EnergyKinds = []string{"mains", "gas", "water", "charge", "heat", "spring", "weight"}
	Drives      = []string{"hex", "phillips", "pozidriv", "slotted", "torx", "torx-pin", "square", "robertson", "nut", "clip", "tab", "spring-ring", "cable-tie", "hose-clip", "wire-nut", "loose"}
	ItemTypes   = []string{"cover", "part", "connector", "belt", "pipe", "door", "seal", "drum", "bracket", "state"}
	Faces       = []string{"front", "rear", "left", "right", "top", "under", "inside"}
	PoseNames   = []string{"upright", "tilted", "on-back", "on-front", "on-left", "on-right"}
	Tickets     = []string{"gas", "high-voltage", "refrigerant", "live-testing"}
	HazardKinds = []string{"sharp-edges", "pinch", "spring", "heavy", "hot", "shock", "gas", "glass", "dust", "wet", "blind"}
)

var idShape = regexp.MustCompile(`^[a-z0-9]+(-[a-z0-9]+)*$`)

// Flaws finds what is wrong with a map, in the order of the document. A map
// without flaws can be planned on: every move can be made and come back under
// every answer of its options.
func Flaws(m *Map) []Flaw {
	c := &checker{m: m, entities: map[string]string{}, steps: map[string]string{}}
	c.head()
	c.ids()
	c.moves()
	c.tasks()
	c.parts()
	c.taken()
	c.finding()
	if len(c.flaws) == 0 {
		c.reachable()
	}
	return c.flaws
}

type checker struct {
	m        *Map
	flaws    []Flaw
	entities map[string]string // item or energy id -> "item" or "energy"
	steps    map[string]string // move, check or final id -> which
}

func (c *checker) add(path, format string, args ...any) {
	c.flaws = append(c.flaws, Flaw{path, fmt.Sprintf(format, args...)})
}

func (c *checker) word(path, what, word string, known []string) {
	if !slices.Contains(known, word) {
		c.add(path, "%q is not a %s; write one of: %s", word, what, strings.Join(known, ", "))
	}
}

func (c *checker) head() {
	m := c.m
	if m.Format != Format {
		c.add("format", "%q is not a format this program reads; write %s", m.Format, Format)
	}
	c.shape("id", m.ID)
	if m.Title == "" {
		c.add("title", "the map has no title")
	}
	c.word("kind", "kind of machine", m.Kind, Kinds)
	if m.Revision < 1 {
		c.add("revision", "the revision counts from 1")
	}
	for i, glob := range m.Covers {
		if _, err := path.Match(glob, ""); err != nil || glob == "" {
			c.add(fmt.Sprintf("covers[%d]", i), "%q is no pattern of model numbers; * stands for any letters, ? for one", glob)
		}
	}
	if m.Supply != nil {
		c.word("supply.system", "supply system", m.Supply.System, Systems)
	}
	if len(m.Moves) == 0 {
		c.add("moves", "the map has no moves, so nothing can be reached")
	}
}

func (c *checker) shape(path, id string) {
	if id == "" {
		c.add(path, "an id is missing")
	} else if !idShape.MatchString(id) {
		c.add(path, "%q is not an id; use small letters, digits and single hyphens", id)
	}
}

func (c *checker) unique(space map[string]string, path, id, what string) {
	c.shape(path, id)
	if old, taken := space[id]; taken && id != "" {
		c.add(path, "the id %q is already taken by %s", id, article(old))
		return
	}
	space[id] = what
}

func article(noun string) string {
	if strings.ContainsRune("aeiou", rune(noun[0])) {
		return "an " + noun
	}
	return "a " + noun
}

func (c *checker) ids() {
	m := c.m
	options := map[string]string{}
	for i, o := range m.Options {
		p := fmt.Sprintf("options[%d]", i)
		c.unique(options, p+".id", o.ID, "option")
		if len(o.Values) < 2 {
			c.add(p+".values", "an option needs at least two values")
		}
		if !slices.Contains(o.Values, o.Usual) {
			c.add(p+".usual", "usual is %q, which is not among the values", o.Usual)
		}
		if o.Ask == "" {
			c.add(p+".ask", "the option has no question to ask")
		}
	}
	for i, e := range m.Energies {
		p := fmt.Sprintf("energies[%d]", i)
		c.unique(c.entities, p+".id", e.ID, "energy")
		c.word(p+".kind", "kind of energy", e.Kind, EnergyKinds)
		c.when(p, e.When)
		if e.Kind == "charge" && e.Capacitor == nil {
			c.add(p+".capacitor", "a stored charge needs its capacitor (microfarads, volts)")
		}
	}
	for i, it := range m.Items {
		p := fmt.Sprintf("items[%d]", i)
		c.unique(c.entities, p+".id", it.ID, "item")
		c.word(p+".type", "type of item", it.Type, ItemTypes)
		c.when(p, it.When)
		if it.Name == "" {
			c.add(p+".name", "the item has no name")
		}
		if it.Face != "" {
			c.word(p+".face", "face", it.Face, Faces)
		} else if it.Type != "state" {
			c.add(p+".face", "the item says no face, so it cannot be drawn")
		}
		c.fractions(p+".area", it.Area, 4)
		c.fractions(p+".at", it.At, 2)
		terminals := map[string]bool{}
		for k, w := range it.Wires {
			if terminals[w.Terminal] {
				c.add(fmt.Sprintf("%s.wires[%d].terminal", p, k), "the terminal %q stands twice", w.Terminal)
			}
			terminals[w.Terminal] = true
		}
	}
	kinds := map[string]string{}
	for i, f := range m.Fasteners {
		p := fmt.Sprintf("fasteners[%d]", i)
		c.unique(kinds, p+".id", f.ID, "fastener")
		c.word(p+".drive", "drive", f.Drive, Drives)
	}
	for _, name := range slices.Sorted(maps.Keys(m.Poses)) {
		c.word("poses."+name, "pose", name, PoseNames)
		if p := m.Poses[name]; p.People < 0 || p.People > 2 {
			c.add("poses."+name+".people", "a pose takes 1 or 2 people, not %d", p.People)
		} else if p.Minutes != nil {
			c.minutes("poses."+name+".minutes", *p.Minutes)
		}
		c.needs("poses."+name+".needs", m.Poses[name].Needs)
	}
	for i, mv := range m.Moves {
		c.unique(c.steps, fmt.Sprintf("moves[%d].id", i), mv.ID, "move")
	}
	for i, ch := range m.Checks {
		c.unique(c.steps, fmt.Sprintf("checks[%d].id", i), ch.ID, "check")
	}
	for i, f := range m.Finals {
		c.unique(c.steps, fmt.Sprintf("finals[%d].id", i), f.ID, "final")
	}
	for i, o := range m.Options {
		c.needs(fmt.Sprintf("options[%d].needs", i), o.Needs)
	}
}

func (c *checker) fractions(path string, list []float64, n int) {
	if list == nil {
		return
	}
	if len(list) != n {
		c.add(path, "expected %d numbers, found %d", n, len(list))
		return
	}
	for _, v := range list {
		if v < 0 || v > 1 || math.IsNaN(v) {
			c.add(path, "places on a face run from 0 to 1")
			return
		}
	}
}

func (c *checker) when(path string, w When) {
	for _, id := range slices.Sorted(maps.Keys(w)) {
		o := c.m.Option(id)
		if o == nil {
			c.add(path+".when."+id, "there is no option %q", id)
			continue
		}
		for _, v := range w[id] {
			if !slices.Contains(o.Values, v) {
				c.add(path+".when."+id, "option %s has no value %q; it has: %s", id, v, strings.Join(o.Values, ", "))
			}
		}
	}
}

func (c *checker) needs(path string, n map[string]Level) {
	for _, id := range slices.Sorted(maps.Keys(n)) {
		p, level := path+"."+id, n[id]
		what, known := c.entities[id]
		switch {
		case !known:
			c.add(p, "there is no item or energy %q", id)
		case level.Rank() < 0 || level == "":
			c.add(p, "%q is not a level; items know fitted, aside, away, energies live, shut, proven", level)
		case level.OfEnergy() != (what == "energy"):
			c.add(p, "%s is %s, and %q is no level of it", id, article(what), level)
		}
	}
}

func (c *checker) refs(path string, ids []string, what string) {
	for i, id := range ids {
		if c.steps[id] != what {
			c.add(fmt.Sprintf("%s[%d]", path, i), "there is no %s %q", what, id)
		}
	}
}

func (c *checker) liveOK(path string, ids []string) {
	for i, id := range ids {
		if c.entities[id] != "energy" {
			c.add(fmt.Sprintf("%s.live_ok[%d]", path, i), "there is no energy %q", id)
		}
	}
}

func (c *checker) place(path, face, pose string, people int, ticket string, hazards []Hazard) {
	c.word(path+".face", "face", face, Faces)
	if pose != "" {
		c.word(path+".pose", "pose", pose, PoseNames)
	}
	if people < 0 || people > 2 {
		c.add(path+".people", "a step takes 1 or 2 people, not %d", people)
	}
	if ticket != "" {
		c.word(path+".ticket", "ticket", ticket, Tickets)
	}
	for i, h := range hazards {
		c.word(fmt.Sprintf("%s.hazards[%d]", path, i), "hazard", h.Kind, HazardKinds)
	}
}

func (c *checker) minutes(path string, v float64) {
	if v < 0 || v > 600 || math.IsNaN(v) {
		c.add(path, "minutes run from 0 to 600, not %g", v)
	}
}

func (c *checker) moves() {
	m := c.m
	oneWay := func(path string, ids []string) {
		for i, id := range ids {
			if mv := m.Move(id); mv != nil && mv.OneWay {
				c.add(fmt.Sprintf("%s[%d]", path, i), "%s is one-way: it has no refit to wait for", id)
			}
		}
	}
	for i := range m.Moves {
		mv := &m.Moves[i]
		p := fmt.Sprintf("moves[%d]", i)
		if mv.Title == "" {
			c.add(p+".title", "the move has no title")
		}
		if len(mv.Takes) == 0 {
			c.add(p+".takes", "the move raises nothing; say in takes what it takes off and how far")
		}
		c.needs(p+".takes", mv.Takes)
		for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
			if mv.Takes[id].Rank() == 0 {
				c.add(p+".takes."+id, "a move cannot take %s to %s, where it already is", id, mv.Takes[id])
			}
			if it := m.Item(id); it != nil && it.Type == "connector" && mv.Takes[id] == Aside {
				c.add(p+".takes."+id, "a connector is fitted or away, never aside")
			}
			if mv.Takes[id] == Proven && !mv.OneWay {
				c.add(p+".one_way", "proving has nothing to undo: write one_way: true")
			}
		}
		c.needs(p+".needs", mv.Needs)
		c.when(p, mv.When)
		c.liveOK(p, mv.LiveOK)
		c.place(p, mv.Face, mv.Pose, mv.People, mv.Ticket, mv.Hazards)
		c.minutes(p+".minutes.out", mv.Minutes.Out)
		c.minutes(p+".minutes.back", mv.Minutes.Back)
		c.proof(p, mv)
		if mv.MeasureFirst != "" && c.entities[mv.MeasureFirst] != "energy" {
			c.add(p+".measure_first", "there is no energy %q", mv.MeasureFirst)
		}
		for k, lot := range mv.Fasteners {
			lp := fmt.Sprintf("%s.fasteners[%d]", p, k)
			if m.Fastener(lot.Kind) == nil {
				c.add(lp+".kind", "there is no fastener %q", lot.Kind)
			}
			if lot.Count < 1 || lot.Count > 200 {
				c.add(lp+".count", "a lot has 1 to 200 fasteners, not %d", lot.Count)
			}
			if lot.At != nil && len(lot.At) != lot.Count {
				c.add(lp+".at", "%d places for %d fasteners", len(lot.At), lot.Count)
			}
			for _, at := range lot.At {
				c.fractions(lp+".at", at, 2)
			}
			if lot.DropsInto != "" && c.entities[lot.DropsInto] != "item" {
				c.add(lp+".drops_into", "there is no item %q", lot.DropsInto)
			}
			if lot.Renew != "" && m.Part(lot.Renew) == nil {
				c.add(lp+".renew", "there is no part %q", lot.Renew)
			}
		}
		for k, t := range mv.PutsIn {
			c.refs(fmt.Sprintf("%s.puts_in[%d].out_before", p, k), t.OutBefore, "move")
			oneWay(fmt.Sprintf("%s.puts_in[%d].out_before", p, k), t.OutBefore)
		}
		if mv.LeavesLoose != nil {
			c.refs(p+".leaves_loose.unless", mv.LeavesLoose.Unless, "move")
		}
		c.cares(p, mv)
		if b := mv.Back; b != nil {
			if mv.OneWay && (len(b.Do) > 0 || len(b.After) > 0 || len(b.Or) > 0) {
				c.add(p+".back", "a one-way move has no refit; take back out, or one_way")
			}
			if b.Needs != nil {
				c.needs(p+".back.needs", *b.Needs)
			}
			if b.Ticket != "" {
				c.word(p+".back.ticket", "ticket", b.Ticket, Tickets)
			}
			c.refs(p+".back.after", b.After, "move")
			oneWay(p+".back.after", b.After)
			c.refs(p+".back.or", b.Or, "move")
			for k, id := range b.Or {
				if o := m.Move(id); o != nil && !maps.Equal(o.Takes, mv.Takes) {
					c.add(fmt.Sprintf("%s.back.or[%d]", p, k), "%s does not take the same as %s", id, mv.ID)
				}
			}
			for k, conf := range b.Confirm {
				if conf.Say == "" {
					c.add(fmt.Sprintf("%s.back.confirm[%d]", p, k), "the confirmation says nothing")
				}
			}
		}
	}
	for i := range m.Checks {
		ch := &m.Checks[i]
		p := fmt.Sprintf("checks[%d]", i)
		if len(ch.For) == 0 {
			c.add(p+".for", "the check is due for no move")
		}
		c.refs(p+".for", ch.For, "move")
		c.refs(p+".after", ch.After, "move")
		c.refs(p+".before", ch.Before, "move")
		oneWay(p+".after", ch.After)
		oneWay(p+".before", ch.Before)
		c.proves(p, ch.Proves)
	}
	for i, f := range m.Finals {
		c.proves(fmt.Sprintf("finals[%d]", i), f.Proves)
	}
}

// cares checks what one looks at and does at a move, its directions and its
// schools.
func (c *checker) cares(p string, mv *Move) {
	for k, look := range mv.Inspect {
		ip := fmt.Sprintf("%s.inspect[%d]", p, k)
		if look.Say == "" {
			c.add(ip+".say", "say what to look at, or what to do")
		}
		if look.Do != "" {
			c.word(ip+".do", "do", look.Do, Cares)
		}
		if !look.Looks() && look.Fault != "" {
			c.add(ip+".fault", "only a look speaks for a fault; %s is done or left", look.Do)
		}
		if (look.Do == Oil || look.Do == Grease) && look.With == "" {
			c.add(ip+".with", "say what and how much: stray %s does harm", look.Do)
		}
		if look.Fault != "" && c.m.Fault(look.Fault) == nil {
			c.add(ip+".fault", "there is no fault %q", look.Fault)
		}
	}
	ways := func(p string, turn *Turn, schools []School) {
		if turn != nil && (turn.What == "" || turn.Way == "" || turn.SeenFrom == "") {
			c.add(p+".turn", "a direction says what turns, which way, and seen from where")
		}
		if len(schools) == 1 {
			c.add(p+".schools", "one way alone is no choice; write it in do")
		}
		for k, s := range schools {
			if s.Say == "" || s.Why == "" {
				c.add(fmt.Sprintf("%s.schools[%d]", p, k), "a school says what it does and why")
			}
		}
	}
	ways(p, mv.Turn, mv.Schools)
	if mv.Back != nil {
		ways(p+".back", mv.Back.Turn, mv.Back.Schools)
	}
}

// proof checks the ways of proving: they are of the energy that the move takes,
// and what must be live meanwhile can be.
func (c *checker) proof(p string, mv *Move) {
	var known []string
	for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
		if e := c.m.Energy(id); e != nil && mv.Takes[id] == Proven {
			known = append(known, Ways(e.Kind)...)
		}
	}
	for i, way := range mv.Proof {
		if len(known) == 0 {
			c.add(fmt.Sprintf("%s.proof[%d]", p, i), "the move proves no energy")
			break
		}
		c.word(fmt.Sprintf("%s.proof[%d]", p, i), "proof", way, known)
	}
	for i, id := range mv.WhileLive {
		at := fmt.Sprintf("%s.while_live[%d]", p, i)
		switch {
		case c.entities[id] != "energy":
			c.add(at, "there is no energy %q", id)
		case mv.Needs[id].Rank() > 0 || c.m.Energy(id).Guards() && !slices.Contains(mv.LiveOK, id):
			c.add(at, "the move needs %s off, so it cannot be made while that is live", id)
		}
	}
}

func (c *checker) proves(path string, ids []string) {
	for i, id := range ids {
		if c.m.Complaint(id) == nil {
			c.add(fmt.Sprintf("%s.proves[%d]", path, i), "there is no complaint %q", id)
		}
	}
}

func (c *checker) tasks() {
	one := func(path string, t *Task, judged bool) {
		if t.Title == "" {
			c.add(path+".title", "it has no title")
		}
		if t.Face != "" || t.Pose != "" {
			face := t.Face
			if face == "" {
				face = "front"
			}
			c.place(path, face, t.Pose, t.People, t.Ticket, t.Hazards)
		}
		c.when(path, t.When)
		c.needs(path+".needs", t.Needs)
		c.needs(path+".energy", t.Energy)
		for _, id := range slices.Sorted(maps.Keys(t.Energy)) {
			if c.entities[id] == "item" {
				c.add(path+".energy."+id, "%s is an item; energy sets energies", id)
			}
		}
		c.liveOK(path, t.LiveOK)
		c.minutes(path+".minutes", t.Minutes)
		if !judged {
			c.add(path+".pass", "it says neither what passes nor what to measure and expect")
		}
	}
	for i := range c.m.Checks {
		ch := &c.m.Checks[i]
		one(fmt.Sprintf("checks[%d]", i), &ch.Task, ch.Pass != "" || ch.Expect != nil)
	}
	for i := range c.m.Finals {
		f := &c.m.Finals[i]
		one(fmt.Sprintf("finals[%d]", i), &f.Task, f.Pass != "" || f.Expect != nil)
	}
	for i := range c.m.Tests {
		t := &c.m.Tests[i]
		one(fmt.Sprintf("tests[%d]", i), &t.Task, true)
	}
}

func (c *checker) parts() {
	ids := map[string]string{}
	for i, pt := range c.m.Parts {
		p := fmt.Sprintf("parts[%d]", i)
		c.unique(ids, p+".id", pt.ID, "part")
		c.when(p, pt.When)
		items := map[string][]string{".item": {pt.Item}, ".also": pt.Also, ".carry_over": pt.CarryOver, ".kit": pt.Kit}
		for _, key := range []string{".item", ".also", ".carry_over", ".kit"} {
			for _, id := range items[key] {
				if c.entities[id] != "item" {
					c.add(p+key, "there is no item %q", id)
				}
			}
		}
		if pt.Ticket != "" {
			c.word(p+".ticket", "ticket", pt.Ticket, Tickets)
		}
		if pt.Price < 0 || math.IsNaN(pt.Price) {
			c.add(p+".price", "a price is not below zero")
		}
		if pt.SetOf != 0 && pt.SetOf != 1+len(pt.Also) {
			c.add(p+".set_of", "a set of %d, but item and also name %d", pt.SetOf, 1+len(pt.Also))
		}
	}
}

// reachable holds each combination of options against the rules: can every
// move be made, and can everything come back? Cycles and needs that nothing
// gives show up here as moves that never become possible.
func (c *checker) reachable() {
	const most = 512 // combinations; a map with more is checked on its first ones
	told := map[string]bool{}
	for _, answers := range combinations(c.m.Options, most) {
		m := c.m.With(answers)
		under := ""
		if len(answers) > 0 {
			var words []string
			for _, id := range slices.Sorted(maps.Keys(answers)) {
				words = append(words, id+"="+answers[id])
			}
			under = " (with " + strings.Join(words, ", ") + ")"
		}
		for _, id := range Stuck(m) {
			if told["out "+id] {
				continue
			}
			told["out "+id] = true
			c.add(c.movePath(id)+".needs", "%s can never be made%s: %s", id, under, missing(m, id))
		}
		for _, id := range StuckBack(m) {
			if len(Stuck(m)) > 0 {
				break // what cannot be made is told already
			}
			if told["back "+id] {
				continue
			}
			told["back "+id] = true
			c.add(c.movePath(id), "%s can never come back once everything is off%s: what its refit waits for waits for it", id, under)
		}
		for i, pt := range c.m.Parts {
			if m.Part(pt.ID) == nil || told["part "+pt.ID] {
				continue
			}
			for _, id := range pt.Pieces() {
				if !slices.ContainsFunc(m.Moves, func(mv Move) bool { return mv.Takes[id] == Away }) {
					told["part "+pt.ID] = true
					c.add(fmt.Sprintf("parts[%d].item", i), "no move takes %s away%s, so part %s can never be fitted", id, under, pt.ID)
				}
			}
		}
	}
}

func (c *checker) movePath(id string) string {
	return fmt.Sprintf("moves[%d]", slices.IndexFunc(c.m.Moves, func(mv Move) bool { return mv.ID == id }))
}

func combinations(options []Option, most int) []map[string]string {
	out := []map[string]string{{}}
	for _, o := range options {
		var next []map[string]string
		for _, base := range out {
			for _, v := range o.Values {
				if len(next) == most {
					break
				}
				one := maps.Clone(base)
				one[o.ID] = v
				next = append(next, one)
			}
		}
		out = next
	}
	return out
}

// levels is the level that each item and energy has reached.
type levels map[string]int

func (l levels) meet(n map[string]Level) bool {
	for id, level := range n {
		if l[id] < level.Rank() {
			return false
		}
	}
	return true
}

func (l levels) proven(energies []string) bool {
	for _, id := range energies {
		if l[id] < Proven.Rank() {
			return false
		}
	}
	return true
}

func (l levels) raise(takes map[string]Level) {
	for id, level := range takes {
		l[id] = max(l[id], level.Rank())
	}
}

// OutNeeds is all that must be met before a move is made: its own needs and
// those of its pose.
func (m *Map) OutNeeds(mv *Move) Needs { return m.join(mv.Needs, mv.Pose) }

// StandsOn is what a one-way move stands on: its needs of energies. Once they
// (or its guards) are not met without it, it has lapsed and must be made again.
// Access that it needed may close behind it.
func (m *Map) StandsOn(mv *Move) Needs {
	n := Needs{}
	for id, level := range m.OutNeeds(mv) {
		if level.OfEnergy() {
			n[id] = level
		}
	}
	return n
}

// BackNeeds is all that must be met for its refit: the refit's needs where the
// map gives them, the move's otherwise, and those of the refit's pose.
func (m *Map) BackNeeds(mv *Move) Needs {
	n, pose := mv.Needs, mv.Pose
	if mv.Back != nil && mv.Back.Needs != nil {
		n = *mv.Back.Needs
	}
	if mv.Back != nil && mv.Back.Pose != nil {
		pose = *mv.Back.Pose
	}
	return m.join(n, pose)
}

func (m *Map) join(n Needs, pose string) Needs {
	p, ok := m.Poses[pose]
	if !ok || len(p.Needs) == 0 {
		return n
	}
	out := maps.Clone(n)
	if out == nil {
		out = Needs{}
	}
	for id, level := range p.Needs {
		if level.Rank() > out[id].Rank() {
			out[id] = level
		}
	}
	return out
}

// Stuck lists the moves that can never be made, in the map's order.
func Stuck(m *Map) []string {
	at, made := levels{}, map[string]bool{}
	for again := true; again; {
		again = false
		for i := range m.Moves {
			mv := &m.Moves[i]
			if !made[mv.ID] && at.meet(m.OutNeeds(mv)) && at.proven(m.Guards(mv.LiveOK)) {
				at.raise(mv.Takes)
				made[mv.ID], again = true, true
			}
		}
	}
	var stuck []string
	for _, mv := range m.Moves {
		if !made[mv.ID] {
			stuck = append(stuck, mv.ID)
		}
	}
	return stuck
}

// StuckBack lists the moves that cannot come back from the state in which all
// moves were made, in the map's order. It plays the way back from its end: a
// refit may be the next to last when its needs hold without it.
func StuckBack(m *Map) []string {
	at, placed := levels{}, map[string]bool{}
	ready := func(mv *Move) bool {
		if mv.OneWay {
			return at.meet(m.StandsOn(mv)) && at.proven(m.Guards(mv.LiveOK))
		}
		for i := range m.Moves { // what must come back after this one must be there already
			o := &m.Moves[i]
			if placed[o.ID] || o.ID == mv.ID {
				continue
			}
			if o.Back != nil && slices.Contains(o.Back.After, mv.ID) {
				return false
			}
			for id, level := range o.Takes {
				if mine, both := mv.Takes[id]; both && !o.OneWay && mine.Rank() > level.Rank() {
					return false
				}
			}
		}
		return at.meet(m.BackNeeds(mv)) && at.proven(m.Guards(mv.LiveOK))
	}
	for again := true; again; {
		again = false
		for i := range m.Moves {
			mv := &m.Moves[i]
			if !placed[mv.ID] && ready(mv) {
				at.raise(mv.Takes)
				placed[mv.ID], again = true, true
			}
		}
	}
	var stuck []string
	for _, mv := range m.Moves {
		if !placed[mv.ID] && !mv.OneWay {
			stuck = append(stuck, mv.ID)
		}
	}
	return stuck
}

// missing says what a stuck move waits for: what no move gives, or else what
// is itself stuck behind it.
func missing(m *Map, id string) string {
	mv := m.Move(id)
	want := maps.Clone(m.OutNeeds(mv))
	if want == nil {
		want = Needs{}
	}
	for _, e := range m.Guards(mv.LiveOK) {
		want[e] = Proven
	}
	stuck := Stuck(m)
	for _, need := range slices.Sorted(maps.Keys(want)) {
		given, free := false, false
		for i := range m.Moves {
			o := &m.Moves[i]
			if o.Takes[need].Rank() >= want[need].Rank() && len(o.Takes[need]) > 0 {
				given = true
				free = free || !slices.Contains(stuck, o.ID)
			}
		}
		switch {
		case !given:
			return fmt.Sprintf("no move takes %s to %s", need, want[need])
		case !free:
			return fmt.Sprintf("it needs %s at %s, and every move that gives it is stuck itself", need, want[need])
		}
	}
	return "its needs wait for each other"
}
