package lint

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"evensteps/core/machine"
)

// taken checks what moves record, put in and compare.
func (c *checker) taken() {
	records := map[string]bool{} // of this move and those before it
	temporaries := map[string]string{}
	for i := range c.m.Moves {
		mv := &c.m.Moves[i]
		p := fmt.Sprintf("moves[%d]", i)
		own := map[string]string{}
		for k, r := range mv.Record {
			rp := fmt.Sprintf("%s.record[%d]", p, k)
			c.unique(own, rp+".id", r.ID, "record")
			c.word(rp+".quantity", "quantity", r.Quantity, machine.Quantities)
			records[r.ID] = true
		}
		for k, t := range mv.PutsIn {
			tp := fmt.Sprintf("%s.puts_in[%d]", p, k)
			c.unique(temporaries, tp+".id", t.ID, "temporary")
			if t.Stays != "" && t.Stays != "ask" {
				c.add(tp+".stays", "stays can only be ask")
			}
			if t.Cut != nil {
				if !records[t.Cut.From] {
					c.add(tp+".cut.from", "no move up to here records %q", t.Cut.From)
				}
				c.length(tp+".cut.add", t.Cut.Add)
			}
		}
		if mv.Back == nil {
			continue
		}
		for k, conf := range mv.Back.Confirm {
			cp := fmt.Sprintf("%s.back.confirm[%d]", p, k)
			if conf.SameAs != "" && own[conf.SameAs] == "" {
				c.add(cp+".same_as", "%s records no %q on its way out", mv.ID, conf.SameAs)
			}
			if conf.Within != "" && conf.SameAs == "" {
				c.add(cp+".within", "within compares with a record: name it in same_as")
			}
			if conf.Expect != nil {
				c.expect(cp+".expect", conf.Expect)
			}
		}
	}
}

func (c *checker) length(path, text string) {
	if text == "" || !strings.HasSuffix(text, " mm") && !strings.HasSuffix(text, " in") {
		c.add(path, "%q is no length; write it like 75 mm or 1/2 in", text)
	}
}

// expect holds that just one thing is expected, and that its limits are in
// order.
func (c *checker) expect(path string, e *machine.Expect) {
	given := 0
	band := func(key string, list []float64) {
		if list == nil {
			return
		}
		given++
		if len(list) != 2 || list[0] > list[1] {
			c.add(path+"."+key, "a band is two numbers, the lesser first")
		}
	}
	band("ohms", e.Ohms)
	band("temperature", e.Temperature)
	band("amps", e.Amps)
	band("mbar", e.Mbar)
	band("seconds", e.Seconds)
	band("length", e.Length)
	positive := func(key string, is bool, values ...float64) {
		if !is {
			return
		}
		given++
		for _, v := range values {
			if !(v > 0) || math.IsInf(v, 0) {
				c.add(path+"."+key, "its figures are above zero")
				return
			}
		}
	}
	if v := e.Element; v != nil {
		positive("element", true, v.Watts, v.Volts)
	}
	if v := e.Platinum; v != nil {
		positive("platinum", true, v.R0)
		c.word(path+".platinum.curve", "curve", v.Curve, []string{"iec60751", "3750"})
	}
	if v := e.Thermistor; v != nil {
		positive("thermistor", true, v.R25, v.Beta)
	}
	if v := e.Winding; v != nil {
		positive("winding", true, v.OhmsAt20)
	}
	if v := e.Volts; v != nil {
		positive("volts", true, v.Nominal)
	}
	if v := e.Capacitance; v != nil {
		positive("capacitance", true, v.Microfarads)
	}
	if v := e.Insulation; v != nil {
		positive("insulation", true, v.MegohmsAtLeast)
	}
	if v := e.Leakage; v != nil {
		positive("leakage", true, v.MWPerCM2AtMost)
	}
	if v := e.WaterHeated; v != nil {
		positive("water_heated", true, v.Litres, v.Seconds)
	}
	if v := e.VentRun; v != nil {
		positive("vent_run", true, v.MetresAtMost)
	}
	if e.Continuity != "" {
		given++
		c.word(path+".continuity", "continuity", e.Continuity, []string{"closed", "open"})
	}
	if given != 1 {
		c.add(path, "just one thing is expected, not %d", given)
	}
}

// verdicts are those that a reading of this expectation can get, but unsure.
func verdicts(e *machine.Expect) []string {
	out := []string{"pass", "low", "high"}
	switch {
	case e.Continuity == "open":
		return []string{"pass", "short"}
	case e.Continuity != "":
		return []string{"pass", "open"}
	case e.Ohms != nil || e.Element != nil || e.Platinum != nil || e.Thermistor != nil || e.Winding != nil:
		return append(out, "open", "short")
	case e.Insulation != nil:
		return []string{"pass", "low"}
	case e.Leakage != nil || e.VentRun != nil:
		return []string{"pass", "high"}
	}
	return out
}

// finding checks what serves the search for a fault.
func (c *checker) finding() {
	m := c.m
	faults := map[string]string{}
	for i, f := range m.Faults {
		p := fmt.Sprintf("faults[%d]", i)
		c.unique(faults, p+".id", f.ID, "fault")
		if f.ID == machine.Other {
			c.add(p+".id", "other is the fault that every map has; name this one otherwise")
		}
		if f.Part != "" && m.Part(f.Part) == nil {
			c.add(p+".part", "there is no part %q", f.Part)
		}
		c.needs(p+".reach", f.Reach)
		c.refs(p+".leaves", f.Leaves, "move")
		c.minutes(p+".swap_minutes", f.SwapMinutes)
		c.when(p, f.When)
		causes := map[string]string{}
		for k, cause := range f.Because {
			cp := fmt.Sprintf("%s.because[%d]", p, k)
			c.unique(causes, cp+".id", cause.ID, "cause")
			if cause.Test != "" && m.Test(cause.Test) == nil {
				c.add(cp+".test", "there is no test %q", cause.Test)
			}
		}
	}
	fault := func(path, id string) {
		if id != machine.Other && faults[id] == "" {
			c.add(path, "there is no fault %q", id)
		}
	}
	tests := map[string]string{}
	for i := range m.Tests {
		t := &m.Tests[i]
		p := fmt.Sprintf("tests[%d]", i)
		c.unique(tests, p+".id", t.ID, "test")
		if t.Power != "" {
			c.word(p+".power", "power", t.Power, []string{"dead", "live", "any"})
		}
		for k, id := range slices.Concat(t.Fitted, t.Lift) {
			if c.entities[id] != "item" {
				c.add(fmt.Sprintf("%s.fitted[%d]", p, k), "there is no item %q", id)
			}
		}
		c.outcomes(p, t, fault)
	}
	for _, list := range []struct {
		path string
		task func(int) *machine.Task
		n    int
	}{{"checks", func(i int) *machine.Task { return &m.Checks[i].Task }, len(m.Checks)}, {"finals", func(i int) *machine.Task { return &m.Finals[i].Task }, len(m.Finals)}} {
		for i := range list.n {
			if e := list.task(i).Expect; e != nil {
				c.expect(fmt.Sprintf("%s[%d].expect", list.path, i), e)
			}
		}
	}
	for i, id := range m.Survey {
		kind, rest, _ := strings.Cut(id, ":")
		if kind == "option" && m.Option(rest) != nil || kind == "test" && m.Test(rest) != nil {
			continue
		}
		c.add(fmt.Sprintf("survey[%d]", i), "%q is neither option:ID nor test:ID of this map", id)
	}
	complaints := map[string]string{}
	for i, cp := range m.Complaints {
		p := fmt.Sprintf("complaints[%d]", i)
		c.unique(complaints, p+".id", cp.ID, "complaint")
		c.when(p, cp.When)
		for _, id := range slices.Sorted(maps.Keys(cp.Faults)) {
			fault(p+".faults."+id, id)
			if w := cp.Faults[id]; !(w > 0) || math.IsInf(w, 0) {
				c.add(p+".faults."+id, "a weight is above zero, not %g", w)
			}
		}
		if cp.OtherMinutes != nil {
			c.minutes(p+".other_minutes", *cp.OtherMinutes)
		}
	}
	circuits := map[string]string{}
	for i, ct := range m.Circuits {
		p := fmt.Sprintf("circuits[%d]", i)
		c.unique(circuits, p+".id", ct.ID, "circuit")
		c.when(p, ct.When)
		if len(ct.Points) < 2 || len(ct.Between) != len(ct.Points)-1 {
			c.add(p+".between", "%d points have %d gaps between them, not %d", len(ct.Points), len(ct.Points)-1, len(ct.Between))
		}
		points := map[string]string{}
		for k, pt := range ct.Points {
			c.unique(points, fmt.Sprintf("%s.points[%d].id", p, k), pt.ID, "point")
			c.needs(fmt.Sprintf("%s.points[%d].reach", p, k), pt.Reach)
		}
		for k, gap := range ct.Between {
			for _, id := range gap {
				fault(fmt.Sprintf("%s.between[%d]", p, k), id)
			}
		}
	}
}

// outcomes holds that the answers of a test add up to 1 for every fault, and
// that a measured test has an answer for every verdict.
func (c *checker) outcomes(p string, t *machine.Test, fault func(path, id string)) {
	ids := map[string]string{}
	rest := -1
	sums := map[string]float64{}
	named := map[string]bool{machine.Other: true}
	covered := map[string]bool{}
	for k, o := range t.Outcomes {
		op := fmt.Sprintf("%s.outcomes[%d]", p, k)
		c.unique(ids, op+".id", o.ID, "outcome")
		if o.Mends != "" {
			fault(op+".mends", o.Mends)
		}
		for _, v := range o.Verdict {
			c.word(op+".verdict", "verdict", v, machine.Verdicts)
			covered[v] = true
		}
		if o.Rest {
			if rest >= 0 {
				c.add(op+".rest", "only one outcome takes the rest")
			}
			rest = k
		}
		for _, id := range slices.Sorted(maps.Keys(o.Given)) {
			fault(op+".given."+id, id)
			named[id] = true
			if v := o.Given[id]; v < 0 || v > 1 || math.IsNaN(v) {
				c.add(op+".given."+id, "a chance runs from 0 to 1, not %g", v)
			}
		}
	}
	for id := range named {
		for _, o := range t.Outcomes {
			v, given := o.Given[id]
			if !given && o.Else != nil {
				v = *o.Else
			}
			sums[id] += v
		}
	}
	for _, id := range slices.Sorted(maps.Keys(sums)) {
		switch sum := sums[id]; {
		case len(t.Outcomes) == 0:
		case rest >= 0 && sum > 1+1e-6:
			c.add(p+".outcomes", "under %s the outcomes add up to %g, more than 1", id, sum)
		case rest < 0 && math.Abs(sum-1) > 1e-6:
			c.add(p+".outcomes", "under %s the outcomes add up to %g, not 1; one may be rest: true", id, sum)
		}
	}
	if t.Runs && t.Ask != "" && ids[machine.Nothing] == "" {
		c.add(p+".outcomes", "the test needs a machine that runs: say with an outcome %q what is seen where it does not", machine.Nothing)
	}
	if i := slices.IndexFunc(t.Outcomes, func(o machine.Outcome) bool { return o.ID == machine.Nothing && o.Rest }); t.Runs && i >= 0 {
		c.add(fmt.Sprintf("%s.outcomes[%d].rest", p, i), "that nothing runs is said with its chances, and takes no rest")
	}
	switch {
	case t.Ask == "" && t.Measure == nil:
		c.add(p+".ask", "the test neither asks nor measures")
	case t.Measure != nil && t.Expect == nil:
		c.add(p+".expect", "what is measured has nothing to be held against")
	}
	if t.Expect != nil {
		c.expect(p+".expect", t.Expect)
		for _, v := range verdicts(t.Expect) {
			if len(t.Outcomes) > 0 && !covered[v] {
				c.add(p+".outcomes", "no outcome answers the verdict %s", v)
			}
		}
	}
}
