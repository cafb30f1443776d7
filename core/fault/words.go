package fault

import (
	"math"
	"strconv"

	"evensteps/core/machine"
)

// Name is what a suspect is called.
func Name(m *machine.Map, id string) string {
	if f := m.Fault(id); f != nil {
		return f.Name
	}
	return "Something else"
}

// minutesWord is so many minutes, by the half below ten.
func minutesWord(m float64) string {
	if m < 9.5 {
		return strconv.FormatFloat(math.Round(m*2)/2, 'f', -1, 64)
	}
	return strconv.Itoa(int(math.Round(m)))
}

// VerdictOf is the verdict that a measured test likeliest gives under a fault: the
// first of the likeliest outcome's; pass where the map names none.
func VerdictOf(t *machine.Test, fault string) string {
	best, verdict := -1.0, "pass"
	rest, left := "pass", 1.0
	for k := range t.Outcomes {
		o := &t.Outcomes[k]
		if len(o.Verdict) == 0 {
			continue
		}
		p, named := o.Given[fault]
		switch {
		case !named && o.Rest:
			rest = o.Verdict[0]
			continue
		case !named && o.Else != nil:
			p = *o.Else
		}
		left -= p
		if p > best {
			best, verdict = p, o.Verdict[0]
		}
	}
	if left > best {
		return rest
	}
	return verdict
}
