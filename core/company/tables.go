package company

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
)

func text[T any](name string, of func(*T) *string) column[T] {
	return column[T]{name, func(v *T) string { return *of(v) }, func(v *T, cell string) error { *of(v) = cell; return nil }}
}

// none is for tables whose rows refer to nothing.
func none[T any](*T, Known) Faults { return nil }

// People are the company's people, without their passwords.
var People = &Table[Person]{
	Name: "people",
	columns: []column[Person]{
		text("sign_in", func(p *Person) *string { return &p.SignIn }),
		text("name", func(p *Person) *string { return &p.Name }),
		text("role", func(p *Person) *string { return &p.Role }),
		{"tickets", func(p *Person) string { return ticketsText(p.Tickets) }, func(p *Person, cell string) (err error) { p.Tickets, err = readTickets(cell); return err }},
		{"closed", func(p *Person) string { return yes(p.Closed) }, func(p *Person, cell string) (err error) { p.Closed, err = readYes(cell); return err }},
	},
	key:   func(p *Person) *string { return &p.SignIn },
	title: func(p *Person) string { return p.Name },
	check: (*Person).Check,
	fits:  none[Person],
}

// Sites are the sites.
var Sites = &Table[Site]{
	Name: "sites",
	columns: []column[Site]{
		text("id", func(s *Site) *string { return &s.ID }),
		text("name", func(s *Site) *string { return &s.Name }),
		text("address", func(s *Site) *string { return &s.Address }),
		text("island", func(s *Site) *string { return &s.Island }),
		text("ferry", func(s *Site) *string { return &s.Ferry }),
		text("contact", func(s *Site) *string { return &s.Contact }),
		text("phone", func(s *Site) *string { return &s.Phone }),
		text("access", func(s *Site) *string { return &s.Access }),
	},
	key:   func(s *Site) *string { return &s.ID },
	title: func(s *Site) string { return s.Name },
	check: (*Site).Check,
	like:  func(s *Site) string { return strings.ToLower(s.Name) },
	fits:  none[Site],
}

// Machines are the machines at the sites.
var Machines = &Table[Machine]{
	Name: "machines",
	columns: []column[Machine]{
		text("id", func(m *Machine) *string { return &m.ID }),
		text("site", func(m *Machine) *string { return &m.Site }),
		text("name", func(m *Machine) *string { return &m.Name }),
		text("model", func(m *Machine) *string { return &m.Model }),
		text("serial", func(m *Machine) *string { return &m.Serial }),
		text("map", func(m *Machine) *string { return &m.Map }),
		text("stands", func(m *Machine) *string { return &m.Stands }),
		{"options", func(m *Machine) string { return pairsText(m.Options, "=") }, func(m *Machine, cell string) (err error) {
			m.Options, err = readPairs(cell, "=", "option=value; option=value")
			return err
		}},
	},
	key:   func(m *Machine) *string { return &m.ID },
	title: func(m *Machine) string { return m.Site + ", " + m.Name },
	check: (*Machine).Check,
	like:  func(m *Machine) string { return strings.ToLower(m.Site + " " + m.Name) },
	resolve: func(m *Machine, known Known) {
		if id := known.byName[strings.ToLower(m.Site)]; !known.byID[m.Site] && id != "" && id != several {
			m.Site = id
		}
	},
	fits: func(m *Machine, known Known) (f Faults) {
		switch {
		case m.Site == "" || known.byID[m.Site]:
		case known.byName[strings.ToLower(m.Site)] == several:
			f.add("site", "There are several sites of the name “%s”. Write the id of the one you mean.", m.Site)
		default:
			f.add("site", "There is no site “%s”.", m.Site)
		}
		if into := known.Merged[m.ID]; into != "" {
			f.add("id", "The machine %s was found to be %s: write that id.", m.ID, into)
		}
		if m.Map != "" && !known.maps[m.Map] {
			f.add("map", "There is no map “%s”.", m.Map)
		}
		return f
	},
}

// Meters are the company's meters.
var Meters = &Table[Meter]{
	Name: "meters",
	columns: []column[Meter]{
		text("id", func(m *Meter) *string { return &m.ID }),
		text("name", func(m *Meter) *string { return &m.Name }),
		text("category", func(m *Meter) *string { return &m.Category }),
		{"accuracy", func(m *Meter) string { return pairsText(m.Accuracy, " ") }, func(m *Meter, cell string) (err error) {
			m.Accuracy, err = readPairs(cell, " ", "resistance 0.9%+3@0.1ohm; voltage 1.2%+5@0.1V")
			return err
		}},
		text("calibrated", func(m *Meter) *string { return (*string)(&m.Calibrated) }),
		text("due", func(m *Meter) *string { return (*string)(&m.Due) }),
	},
	key:   func(m *Meter) *string { return &m.ID },
	title: func(m *Meter) string { return m.ID },
	check: (*Meter).Check,
	fits:  none[Meter],
}

func yes(is bool) string {
	if is {
		return "yes"
	}
	return ""
}

func readYes(cell string) (bool, error) {
	switch strings.ToLower(cell) {
	case "", "no", "false", "0":
		return false, nil
	case "yes", "true", "1", "x":
		return true, nil
	}
	return false, fmt.Errorf("“%s” is neither yes nor no", cell)
}

// ticketsText writes tickets as "gas; live-testing 2026-01-01..2027-03-31".
func ticketsText(tickets []Ticket) string {
	out := make([]string, 0, len(tickets))
	for _, t := range tickets {
		say := t.Ticket
		if t.From != "" || t.Until != "" {
			say += " " + string(t.From) + ".." + string(t.Until)
		}
		out = append(out, say)
	}
	return strings.Join(out, "; ")
}

func readTickets(cell string) ([]Ticket, error) {
	out := []Ticket{}
	for _, one := range pieces(cell) {
		name, times, _ := strings.Cut(one, " ")
		t := Ticket{Ticket: name}
		if times = strings.TrimSpace(times); times != "" {
			from, until, ok := strings.Cut(times, "..")
			if !ok {
				return nil, fmt.Errorf("the ticket “%s” cannot be read. Write gas, or gas 2026-01-01..2027-03-31, or gas ..2027-03-31", one)
			}
			t.From, t.Until = Time(strings.TrimSpace(from)), Time(strings.TrimSpace(until))
		}
		if !slices.Contains(out, t) {
			out = append(out, t)
		}
	}
	return out, nil
}

func pieces(cell string) (out []string) {
	for _, one := range strings.Split(cell, ";") {
		if one = strings.TrimSpace(one); one != "" {
			out = append(out, one)
		}
	}
	return out
}

func pairsText(of map[string]string, between string) string {
	out := make([]string, 0, len(of))
	for _, k := range sortedKeys(of) {
		out = append(out, k+between+of[k])
	}
	return strings.Join(out, "; ")
}

func readPairs(cell, between, like string) (map[string]string, error) {
	out := map[string]string{}
	for _, one := range pieces(cell) {
		k, v, ok := strings.Cut(one, between)
		if k, v = strings.TrimSpace(k), strings.TrimSpace(v); !ok || k == "" || v == "" {
			return nil, fmt.Errorf("%s cannot be read. Write it as %s", strconv.Quote(one), like)
		}
		out[k] = v
	}
	return out, nil
}
