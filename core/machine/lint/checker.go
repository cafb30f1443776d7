package lint

import (
	"fmt"
	"maps"
	"math"
	"regexp"
	"slices"
	"strings"

	"evensteps/core/machine"
)

type checker struct {
	m        *machine.Map
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
		c.word(p+".kind", "kind of energy", e.Kind, machine.EnergyKinds)
		c.when(p, e.When)
		if e.Kind == "charge" && e.Capacitor == nil {
			c.add(p+".capacitor", "a stored charge needs its capacitor (microfarads, volts)")
		}
	}
	for i, it := range m.Items {
		p := fmt.Sprintf("items[%d]", i)
		c.unique(c.entities, p+".id", it.ID, "item")
		c.word(p+".type", "type of item", it.Type, machine.ItemTypes)
		c.when(p, it.When)
		if it.Name == "" {
			c.add(p+".name", "the item has no name")
		}
		if it.Face != "" {
			c.word(p+".face", "face", it.Face, machine.Faces)
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
		c.word(p+".drive", "drive", f.Drive, machine.Drives)
	}
	for _, name := range slices.Sorted(maps.Keys(m.Poses)) {
		c.word("poses."+name, "pose", name, machine.PoseNames)
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

func (c *checker) when(path string, w machine.When) {
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

func (c *checker) needs(path string, n map[string]machine.Level) {
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

func (c *checker) place(path, face, pose string, people int, ticket string, hazards []machine.Hazard) {
	c.word(path+".face", "face", face, machine.Faces)
	if pose != "" {
		c.word(path+".pose", "pose", pose, machine.PoseNames)
	}
	if people < 0 || people > 2 {
		c.add(path+".people", "a step takes 1 or 2 people, not %d", people)
	}
	if ticket != "" {
		c.word(path+".ticket", "ticket", ticket, machine.Tickets)
	}
	for i, h := range hazards {
		c.word(fmt.Sprintf("%s.hazards[%d]", path, i), "hazard", h.Kind, machine.HazardKinds)
	}
}

func (c *checker) minutes(path string, v float64) {
	if v < 0 || v > 600 || math.IsNaN(v) {
		c.add(path, "minutes run from 0 to 600, not %g", v)
	}
}

var idShape = regexp.MustCompile(`^[a-z0-9]+(-[a-z0-9]+)*$`)

// Flaw is one thing wrong with a map: where, as a path such as
// "moves[3].needs.drum", and a sentence that says what and what to do.
type Flaw struct {
	Path    string
	Message string
}

func (f Flaw) Error() string { return f.Path + ": " + f.Message }

func (c *checker) shape(path, id string) {
	if id == "" {
		c.add(path, "an id is missing")
	} else if !idShape.MatchString(id) {
		c.add(path, "%q is not an id; use small letters, digits and single hyphens", id)
	}
}
