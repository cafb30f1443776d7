package record

import (
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/reading"
)

// Checks, finals and confirmations of the way back.

// Recorded is what the way back will compare.
type Recorded struct {
	Record string `json:"record"`
	Value  string `json:"value"`
}

func (b *Recorded) check() error {
	return errors.Join(ids("record", b.Record), said("value", b.Value))
}

func (b *Recorded) apply(g *folder, f *Fact) {
	g.Records[b.Record] = f
	if t := g.turn(named.Head(b.Record), "out"); len(t.Outs) == 0 {
		t.Half["out"] = true
	}
}

func (b *Recorded) subject() string { return b.Record }

func (b *Recorded) says(n named.Names) string {
	return b.Value + ", " + english.Lower(n.Move(named.Head(b.Record)))
}

// Confirmed: a confirmation ticked, or given its value.
type Confirmed struct {
	Confirm string `json:"confirm"`
	Value   string `json:"value,omitempty"`
}

func (b *Confirmed) check() error { return errors.Join(ids("confirm", b.Confirm), texts(b.Value)) }

func (b *Confirmed) apply(g *folder, f *Fact) {
	if strings.Contains(b.Confirm, "/compare/") || strings.Contains(b.Confirm, "/carry/") { // at the work, between the ways
		g.Compared[b.Confirm] = f
	} else {
		g.turn(named.Head(b.Confirm), "back").Confirms[b.Confirm] = f
	}
}

func (b *Confirmed) subject() string { return b.Confirm }

func (b *Confirmed) says(n named.Names) string {
	if p := n.Map.Part(named.Head(b.Confirm)); p != nil {
		return "compared, " + english.Lower(p.Name)
	}
	return "tick, " + english.Lower(n.Move(named.Head(b.Confirm)))
}

// CheckResult: a check was made.
type CheckResult struct {
	Check   string  `json:"check"`
	Passed  bool    `json:"passed"`
	Value   *string `json:"value,omitempty"`
	Without *string `json:"without,omitempty"`
	// Proofs are what was measured after it, of energies that it had set live.
	Proofs map[string]*Proof `json:"proofs,omitempty"`
}

func (b *CheckResult) check() error {
	errs := []error{ids("check", b.Check), value(b.Value)}
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

func (b *CheckResult) apply(g *folder, f *Fact) {
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

// leaves plays what stays of it once it was taken back.
func (b *CheckResult) leaves(g *folder, f *Fact) {
	if c := g.Map.Check(b.Check); c != nil {
		g.stillLive(g.liveIn(&c.Task, false), f)
	}
}

func (b *CheckResult) subject() string { return b.Check }

func (b *CheckResult) says(n named.Names) string {
	return english.Lower(n.Move(b.Check)) + result(b.Passed)
}

// FinalResult: a final was run.
type FinalResult struct {
	Final  string  `json:"final"`
	Passed bool    `json:"passed"`
	Value  *string `json:"value,omitempty"`
}

func (b *FinalResult) check() error { return errors.Join(ids("final", b.Final), value(b.Value)) }

// final keeps the result of a final that counts. One at any other time proves
// nothing, and says so until the same final is run in its time.
func (b *FinalResult) apply(g *folder, f *Fact) {
	g.unguarded = nil
	fin := g.Map.Final(b.Final)
	if fin == nil {
		g.raise("loose-fact", b.Final, f)
		return
	}
	if why := g.Ready(fin); why != "" {
		g.raise("final-early", b.Final, f).Other = why
		g.Early[f.ID] = true
		g.setsLive(b.Final, g.liveIn(&fin.Task, false), nil, f)
		return
	}
	g.Finals[b.Final] = f
	for _, r := range g.Raised {
		if r.Kind == "final-early" && r.On == b.Final {
			r.Done = true
		}
	}
}

// leaves plays what stays of it once it was taken back.
func (b *FinalResult) leaves(g *folder, f *Fact) {
	if c := g.Map.Final(b.Final); c != nil {
		g.stillLive(g.liveIn(&c.Task, false), f)
	}
}

func (b *FinalResult) says(n named.Names) string {
	return english.Lower(n.Move(b.Final)) + result(b.Passed)
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

// Ready tells whether a final would count now: on a whole machine, with nothing
// in it, and the energies as it asks. why says what is amiss; empty where
// nothing is.
func (s *State) Ready(f *machine.Final) (why string) {
	at := s.Levels()
	for _, id := range s.Standing {
		mv := s.Map.Move(id)
		if mv == nil {
			return id + " is still off"
		}
		if mv.OneWay {
			continue
		}
		for _, it := range slices.Sorted(maps.Keys(mv.Takes)) {
			if e := s.Map.Energy(it); e == nil || f.Energy[it].Rank() < 1 {
				return mv.Name() + " is still off"
			}
		}
	}
	for _, t := range s.Temps {
		if t.Inside() {
			return t.Name + " is still in the machine"
		}
	}
	for _, id := range slices.Sorted(maps.Keys(f.Energy)) {
		e := s.Map.Energy(id)
		switch want := f.Energy[id]; {
		case e == nil:
		case want == machine.Live && at[id].Rank() > 0:
			return e.Name + " is off"
		case want.Rank() > max(at[id].Rank(), 0):
			return fmt.Sprintf("%s is not %s", e.Name, want)
		}
	}
	return ""
}

func result(passed bool) string {
	if passed {
		return ", passed"
	}
	return ", failed"
}
