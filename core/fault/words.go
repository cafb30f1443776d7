package fault

import (
	"fmt"
	"math"
	"strconv"
	"unicode"

	"evensteps/core/machine"
)

// Name is what a suspect is called.
func Name(m *machine.Map, id string) string {
	if f := m.Fault(id); f != nil {
		return f.Name
	}
	return "Something the map does not know"
}

// About says a chance in plain words.
func About(p float64) string {
	switch {
	case p >= 0.985:
		return "all but certain"
	case p >= 0.95:
		return "about 19 in 20"
	case p < 0.025: // less than half of one in twenty
		return "hardly at all"
	}
	best, n, of := 1.0, 1, 2
	for _, d := range []int{2, 3, 4, 5, 10, 20} {
		k := math.Round(p * float64(d))
		if k < 1 || k >= float64(d) {
			continue
		}
		if off := math.Abs(p - k/float64(d)); off < best-0.01 {
			best, n, of = off, int(k), d
		}
	}
	return fmt.Sprintf("about %d in %d", n, of)
}

// Percent says a chance in whole hundredths; what is nearly sure or nearly out of
// the question is not made so by rounding.
func Percent(p float64) string {
	return fmt.Sprintf("%.0f %%", min(99, max(1, 100*p)))
}

func minutesWord(m float64) string {
	if m < 9.5 {
		return strconv.FormatFloat(math.Round(m*2)/2, 'f', -1, 64)
	}
	return strconv.Itoa(int(math.Round(m)))
}

func lower(s string) string { return first(s, unicode.ToLower) }
func upper(s string) string { return first(s, unicode.ToUpper) }

func first(s string, to func(rune) rune) string {
	r := []rune(s)
	if len(r) > 0 {
		r[0] = to(r[0])
	}
	return string(r)
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
