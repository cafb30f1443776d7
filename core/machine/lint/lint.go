package lint

import (
	"fmt"
	"maps"
	"math"
	"path"
	"slices"

	"evensteps/core/machine"
)

// Flaws finds what is wrong with a map, in the order of the document. A map
// without flaws can be planned on: every move can be made and come back under
// every answer of its options.
func Flaws(m *machine.Map) []Flaw {
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

func (c *checker) head() {
	m := c.m
	if m.Format != machine.Format {
		c.add("format", "%q is not a format this program reads; write %s", m.Format, machine.Format)
	}
	c.shape("id", m.ID)
	if m.Title == "" {
		c.add("title", "the map has no title")
	}
	c.word("kind", "kind of machine", m.Kind, machine.Kinds)
	if m.Revision < 1 {
		c.add("revision", "the revision counts from 1")
	}
	for i, glob := range m.Covers {
		if _, err := path.Match(glob, ""); err != nil || glob == "" {
			c.add(fmt.Sprintf("covers[%d]", i), "%q is no pattern of model numbers; * stands for any letters, ? for one", glob)
		}
	}
	if m.Supply != nil {
		c.word("supply.system", "supply system", m.Supply.System, machine.Systems)
	}
	if len(m.Moves) == 0 {
		c.add("moves", "the map has no moves, so nothing can be reached")
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
			if it := m.Item(id); it != nil && it.Type == "connector" && mv.Takes[id] == machine.Aside {
				c.add(p+".takes."+id, "a connector is fitted or away, never aside")
			}
			if mv.Takes[id] == machine.Proven && !mv.OneWay {
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
				c.word(p+".back.ticket", "ticket", b.Ticket, machine.Tickets)
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
func (c *checker) cares(p string, mv *machine.Move) {
	for k, look := range mv.Inspect {
		ip := fmt.Sprintf("%s.inspect[%d]", p, k)
		if look.Say == "" {
			c.add(ip+".say", "say what to look at, or what to do")
		}
		if look.Do != "" {
			c.word(ip+".do", "do", look.Do, machine.Cares)
		}
		if !look.Looks() && look.Fault != "" {
			c.add(ip+".fault", "only a look speaks for a fault; %s is done or left", look.Do)
		}
		if (look.Do == machine.Oil || look.Do == machine.Grease) && look.With == "" {
			c.add(ip+".with", "say what and how much: stray %s does harm", look.Do)
		}
		if look.Fault != "" && c.m.Fault(look.Fault) == nil {
			c.add(ip+".fault", "there is no fault %q", look.Fault)
		}
	}
	ways := func(p string, turn *machine.Turn, schools []machine.School) {
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
func (c *checker) proof(p string, mv *machine.Move) {
	var known []string
	for _, id := range slices.Sorted(maps.Keys(mv.Takes)) {
		if e := c.m.Energy(id); e != nil && mv.Takes[id] == machine.Proven {
			known = append(known, machine.Ways(e.Kind)...)
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
	one := func(path string, t *machine.Task, judged bool) {
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
			c.word(p+".ticket", "ticket", pt.Ticket, machine.Tickets)
		}
		if pt.Price < 0 || math.IsNaN(pt.Price) {
			c.add(p+".price", "a price is not below zero")
		}
		if pt.SetOf != 0 && pt.SetOf != 1+len(pt.Also) {
			c.add(p+".set_of", "a set of %d, but item and also name %d", pt.SetOf, 1+len(pt.Also))
		}
	}
}
