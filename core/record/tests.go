package record

import (
	"errors"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/named"
)

// Tests of the search, and why a part had failed.

// ReadingTaken is a value read in a test, on an earth or on a circuit.
type ReadingTaken struct {
	Test    string  `json:"test"`
	Value   string  `json:"value"`
	Meter   string  `json:"meter,omitempty"`
	Leads   *string `json:"leads,omitempty"`
	Ambient *string `json:"ambient,omitempty"`
	Supply  *string `json:"supply,omitempty"`
	Fitted  bool    `json:"fitted,omitempty"` // read with the part still wired in
}

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

// read keeps a reading; one of an earth stands with the turn that parted it.
func (b *ReadingTaken) apply(g *folder, f *Fact) {
	g.Readings[b.Test] = f
	if b.Test == named.EarthPath {
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
	tested(g, b.Test, f)
	closeTest(g, b.Test, f)
}

// leaves plays what stays of it once it was taken back.
func (b *ReadingTaken) leaves(g *folder, f *Fact) {
	if t := g.Map.Test(b.Test); t != nil {
		g.stillLive(g.liveIn(&t.Task, t.Power == "live"), f)
	}
}

func (b *ReadingTaken) says(named.Names) string { return "reading " + b.Value }

// TestResult is what a test without a reading showed.
type TestResult struct {
	Test     string `json:"test"`
	Outcome  string `json:"outcome"` // or not-done
	Evidence string `json:"evidence,omitempty"`
	Reason   string `json:"reason,omitempty"`
}

func (b *TestResult) check() error {
	if b.Outcome == named.NotDone {
		return errors.Join(said("test", b.Test), said("reason", b.Reason))
	}
	return errors.Join(said("test", b.Test), ids("outcome", b.Outcome), texts(b.Reason),
		oneOf("evidence", b.Evidence, "", "measured", "seen", "told", "assumed"))
}

func (b *TestResult) apply(g *folder, f *Fact) {
	g.Results[b.Test] = f
	if b.Outcome == named.NotDone {
		return
	}
	if b.Evidence != "told" {
		tested(g, b.Test, f)
	}
	closeTest(g, b.Test, f)
}

// leaves plays what stays of it once it was taken back.
func (b *TestResult) leaves(g *folder, f *Fact) {
	if t := g.Map.Test(b.Test); t != nil && b.Outcome != named.NotDone && b.Evidence != "told" {
		g.stillLive(g.liveIn(&t.Task, t.Power == "live"), f)
	}
}

func (b *TestResult) says(n named.Names) string {
	return n.Test(b.Test) + ": " + english.Lower(n.Outcome(b.Test, b.Outcome))
}

// CauseAnswered says why a fitted part failed; "not found" is an answer.
type CauseAnswered struct {
	Fault  string `json:"fault"`
	Cause  string `json:"cause"`
	Answer string `json:"answer"`
}

func (b *CauseAnswered) check() error {
	return errors.Join(ids("fault", b.Fault, "cause", b.Cause), said("answer", b.Answer))
}

func (b *CauseAnswered) apply(g *folder, f *Fact) {
	g.Causes[b.Fault+"/"+b.Cause] = f
}

func (b *CauseAnswered) says(named.Names) string { return "cause: " + b.Answer }

// tested raises what should have been proven off for a test, and plays what one
// on a live machine does to the proofs. Only mains guard a test, and only a dead
// one; a live one on a machine that is opened further than the test asks is
// said.
func tested(g *folder, id string, f *Fact) {
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

func closeTest(g *folder, id string, f *Fact) {
	if o := g.openGoal("test:" + id); o != nil {
		o.Open, o.Closed = false, f
	}
}
