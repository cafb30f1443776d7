// Package company is what a company knows apart from its jobs: its people, the
// sites and machines that it looks after, its meters, and itself. It says what of
// that is sound, and reads and writes it as CSV (RFC 4180).
//
// Nothing here is "corrected": names, addresses and telephone numbers stay as they
// were written, but for white space at their ends.
package company

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"golang.org/x/text/currency"

	"evensteps/core/energy"
	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/reading"
)

// The roles that a person can have.
const (
	Technician = "technician"
	Office     = "office"
	Supervisor = "supervisor"
)

// Roles are all of them.
var Roles = []string{Technician, Office, Supervisor}

// Person is one of the company's people.
type Person struct {
	SignIn  string   `json:"sign_in"` // the name to sign in with, which is their id
	Name    string   `json:"name"`
	Role    string   `json:"role"`
	Tickets []Ticket `json:"tickets"`
	Closed  bool     `json:"closed"` // no longer signs in; what they recorded stays theirs
}

// Ticket is held for a time. From and Until are a Day, or the moment of a change;
// empty where it has no beginning or no end that is known.
type Ticket struct {
	Ticket string `json:"ticket"`
	From   Time   `json:"from,omitempty"`
	Until  Time   `json:"until,omitempty"`
}

// Site is a place where the company looks after machines.
type Site struct {
	ID      string `json:"id"`
	Name    string `json:"name"`
	Address string `json:"address"`
	Island  string `json:"island"` // or the town: what jobs are grouped by
	Ferry   string `json:"ferry"`  // the boat or round that goes there
	Contact string `json:"contact"`
	Phone   string `json:"phone"`
	Access  string `json:"access"` // how to get in
}

// Machine is one machine at a site.
type Machine struct {
	ID      string            `json:"id"`
	Site    string            `json:"site"`
	Name    string            `json:"name"`
	Model   string            `json:"model"`
	Serial  string            `json:"serial"`
	Map     string            `json:"map"`     // the machine map to use; empty: the one that covers the model
	Stands  string            `json:"stands"`  // where it stands
	Options map[string]string `json:"options"` // what is known of it, by the map's options
}

// Meter is one of the company's meters.
type Meter struct {
	ID         string            `json:"id"` // the number that is written on it
	Name       string            `json:"name"`
	Category   string            `json:"category"`   // what stands on it: "CAT III 600 V"
	Accuracy   map[string]string `json:"accuracy"`   // for each quantity, as its maker prints it
	Calibrated Time              `json:"calibrated"` // when it was calibrated last
	Due        Time              `json:"due"`        // until when that is good
}

// Details are what is known of the company itself.
type Details struct {
	Name     string  `json:"name"`
	Address  string  `json:"address"`
	Number   string  `json:"number"`   // as it is registered
	Zone     string  `json:"zone"`     // its time zone, by the system's database: "Europe/Helsinki"
	Region   string  `json:"region"`   // how dates and figures are written: en-GB or en-US
	Units    string  `json:"units"`    // that values are written in: metric, customary
	Currency string  `json:"currency"` // ISO 4217
	Tax      float64 `json:"tax"`      // per cent
	Rate     float64 `json:"rate"`     // of an hour's work, without tax
	CallOut  float64 `json:"call_out"` // of one visit, without tax
}

// Fault is what is wrong with one field.
type Fault struct {
	Field string `json:"field"`
	Say   string `json:"say"`
}

// Faults are all that is wrong; as an error it is a sentence each.
type Faults []Fault

func (f Faults) Error() string {
	says := make([]string, 0, len(f))
	for _, one := range f {
		says = append(says, one.Say)
	}
	return strings.Join(says, " ")
}

// AsError is nil where nothing is wrong.
func (f Faults) AsError() error {
	if len(f) == 0 {
		return nil
	}
	return f
}

func (f *Faults) add(field, format string, args ...any) {
	*f = append(*f, Fault{field, fmt.Sprintf(format, args...)})
}

// text trims a field and says where it is longer than it may be, or holds a letter
// that cannot be kept.
func (f *Faults) text(field, label string, value *string, most int) {
	*value = strings.TrimSpace(strings.ReplaceAll(*value, "\r\n", "\n"))
	switch n := utf8.RuneCountInString(*value); {
	case !utf8.ValidString(*value) || strings.ContainsRune(*value, 0):
		f.add(field, "%s holds a letter that cannot be kept. Write it otherwise.", label)
	case n > most:
		f.add(field, "%s has %d letters; %d are the most.", label, n, most)
	}
}

func (f *Faults) must(field, label, value string) {
	if value == "" {
		f.add(field, "%s is missing.", label)
	}
}

func (f *Faults) one(field, label, value string, of []string) {
	if !slices.Contains(of, value) {
		f.add(field, "%s is “%s”. It is one of %s.", label, value, strings.Join(of, ", "))
	}
}

// ID is what names things: small letters, digits and dashes.
var id = regexp.MustCompile(`^[a-z0-9-]{1,80}$`)

// IsID tells whether a text can be an id.
func IsID(text string) bool { return id.MatchString(text) }

func (f *Faults) id(field, label, value string) {
	if !IsID(value) {
		f.add(field, "%s is “%s”. Write small letters, digits and dashes, 80 at the most.", label, value)
	}
}

// The most letters of a name, of a line and of several lines.
const (
	shortText = 200
	longText  = 1000
)

// Check tidies the ends of what was written and says what is wrong with it.
func (p *Person) Check() Faults {
	var f Faults
	p.SignIn, p.Role = strings.TrimSpace(p.SignIn), strings.TrimSpace(p.Role)
	f.text("name", "The name", &p.Name, shortText)
	f.must("name", "The name", p.Name)
	f.id("sign_in", "The name to sign in with", p.SignIn)
	f.one("role", "The role", p.Role, Roles)
	if len(p.Tickets) > mostTickets {
		f.add("tickets", "There are %d tickets; %d are the most.", len(p.Tickets), mostTickets)
		return f
	}
	for _, t := range p.Tickets {
		if !slices.Contains(machine.Tickets, t.Ticket) {
			f.add("tickets", "There is no ticket “%s”. There are %s.", t.Ticket, strings.Join(machine.Tickets, ", "))
		}
		f.time("tickets", "The beginning of a ticket", t.From)
		f.time("tickets", "The end of a ticket", t.Until)
		if t.From != "" && t.Until != "" && t.Until.End(time.UTC).Before(t.From.Start(time.UTC)) {
			f.add("tickets", "The %s ticket ends before it begins.", t.Ticket)
		}
	}
	return f
}

// mostTickets bounds what a person holds and held.
const mostTickets = 60

// Check tidies the ends of what was written and says what is wrong with it.
func (s *Site) Check() Faults {
	var f Faults
	f.text("name", "The name", &s.Name, shortText)
	f.must("name", "The name", s.Name)
	f.text("address", "The address", &s.Address, longText)
	f.text("island", "The island or town", &s.Island, shortText)
	f.text("ferry", "The boat or round", &s.Ferry, shortText)
	f.text("contact", "The contact", &s.Contact, shortText)
	f.text("phone", "The telephone number", &s.Phone, shortText)
	f.text("access", "How to get in", &s.Access, longText)
	f.id("id", "The id", s.ID)
	return f
}

// Check tidies the ends of what was written and says what is wrong with it. Whether
// the site and the map are there is known elsewhere.
func (m *Machine) Check() Faults {
	var f Faults
	f.text("name", "The name", &m.Name, 80)
	f.must("name", "What it is called there", m.Name)
	f.text("model", "The model", &m.Model, 80)
	f.text("serial", "The serial number", &m.Serial, 80)
	f.text("stands", "Where it stands", &m.Stands, shortText)
	f.text("map", "The map", &m.Map, 80)
	f.id("id", "The id", m.ID)
	f.must("site", "The site", m.Site)
	if len(m.Options) > 60 {
		f.add("options", "There are %d options; 60 are the most.", len(m.Options))
	}
	return f
}

// Check tidies the ends of what was written and says what is wrong with it.
func (m *Meter) Check() Faults {
	var f Faults
	m.ID = strings.TrimSpace(m.ID)
	f.id("id", "The number of the meter", m.ID)
	f.text("name", "The name", &m.Name, shortText)
	f.must("name", "The name", m.Name)
	f.text("category", "The category", &m.Category, 80)
	if m.Category != "" {
		if _, ok := energy.ReadRating(m.Category); !ok {
			f.add("category", "The category is “%s”. Write it as it stands on the meter, such as CAT III 600 V.", m.Category)
		}
	}
	for _, q := range sortedKeys(m.Accuracy) {
		if _, err := reading.ParseAccuracy(reading.Quantity(q), m.Accuracy[q]); err != nil {
			f.add("accuracy", "The accuracy of %s is “%s”: %s. Write it as its maker prints it, such as 0.9%%+3@0.1ohm.", q, m.Accuracy[q], err)
		}
	}
	f.time("calibrated", "The calibration", m.Calibrated)
	f.time("due", "The day until which it is good", m.Due)
	if m.Calibrated != "" && m.Due != "" && m.Due.End(time.UTC).Before(m.Calibrated.Start(time.UTC)) {
		f.add("due", "The calibration ends before it was made.")
	}
	return f
}

// Check tidies the ends of what was written and says what is wrong with it.
func (d *Details) Check() Faults {
	var f Faults
	f.text("name", "The name", &d.Name, shortText)
	f.text("address", "The address", &d.Address, longText)
	f.text("number", "The number", &d.Number, shortText)
	d.Zone, d.Region, d.Currency = strings.TrimSpace(d.Zone), strings.TrimSpace(d.Region), strings.ToUpper(strings.TrimSpace(d.Currency))
	if _, err := Zone(d.Zone); err != nil {
		f.add("zone", "There is no time zone “%s”. Write it as the system's database has it, such as Europe/Helsinki.", d.Zone)
	}
	if d.Region != "" {
		f.one("region", "The region", d.Region, english.Regions)
	}
	if d.Units != "" {
		f.one("units", "The units", d.Units, reading.Systems)
	}
	if d.Currency != "" {
		if _, err := currency.ParseISO(d.Currency); err != nil {
			f.add("currency", "There is no currency “%s”. Write the three letters of ISO 4217, such as EUR.", d.Currency)
		}
	}
	for _, n := range []struct {
		field, label string
		value, most  float64
	}{{"tax", "The tax", d.Tax, 100}, {"rate", "The price of an hour", d.Rate, 1e7}, {"call_out", "The price of a visit", d.CallOut, 1e7}} {
		if !(n.value >= 0 && n.value <= n.most) {
			f.add(n.field, "%s is %v. Write a number from 0 to %.0f.", n.label, n.value, n.most)
		}
	}
	return f
}

// Zone is a time zone by the system's database; UTC where none is named.
func Zone(name string) (*time.Location, error) {
	if name == "Local" {
		return nil, errors.New("the zone of whoever asks is no zone")
	}
	loc, err := time.LoadLocation(name)
	if err != nil {
		return nil, fmt.Errorf("reading the time zone: %w", err)
	}
	return loc, nil
}

// Held tells whether the ticket is held at a moment.
func (t Ticket) Held(now time.Time, zone *time.Location) bool {
	return !t.Until.Past(now, zone) && (t.From == "" || !now.Before(t.From.Start(zone)))
}

// HeldNow are the tickets that are held at a moment, by name.
func HeldNow(tickets []Ticket, now time.Time, zone *time.Location) []string {
	out := []string{}
	for _, t := range tickets {
		if t.Held(now, zone) && !slices.Contains(out, t.Ticket) {
			out = append(out, t.Ticket)
		}
	}
	slices.Sort(out)
	return out
}

// Ended is what was held with what is held from now on. A ticket that had begun
// and is no longer said ends now: what was done with it was done with it. One that
// had not begun is forgotten.
func Ended(before, said []Ticket, now time.Time, zone *time.Location) []Ticket {
	out := []Ticket{}
	for _, t := range before {
		switch {
		case slices.Contains(said, t):
		case slices.ContainsFunc(said, func(s Ticket) bool { return s.Ticket == t.Ticket && s.From == t.From }): // another end
		case t.Until.Past(now, zone):
			out = append(out, t)
		case t.From == "" || !now.Before(t.From.Start(zone)):
			t.Until = Moment(now)
			out = append(out, t)
		}
	}
	out = append(out, said...)
	slices.SortStableFunc(out, func(a, b Ticket) int {
		return compare(a.Ticket, b.Ticket, string(a.From), string(b.From), string(a.Until), string(b.Until))
	})
	return slices.Compact(out)
}

func (f *Faults) time(field, label string, t Time) {
	if t != "" && !t.Sound() {
		f.add(field, "%s is “%s”. Write the day as 2026-11-28.", label, string(t))
	}
}
