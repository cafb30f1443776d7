package ladder

import (
	"slices"
	"strings"
	"time"

	"evensteps/core/reading"
	"evensteps/core/record"
)

// Where is the site and the machine of a job, as the company knows them.
type Where struct {
	Machine string `json:"machine"` // its id
	Name    string `json:"name"`
	Model   string `json:"model,omitempty"`
	Serial  string `json:"serial,omitempty"`
	Stands  string `json:"stands,omitempty"`
	Site    string `json:"site"`
	Address string `json:"address,omitempty"`
	Contact string `json:"contact,omitempty"`
	Phone   string `json:"phone,omitempty"`
	Access  string `json:"access,omitempty"` // how to get in
}

// About is what is known of a job before anybody is at the machine: where it is,
// who goes, and whether it is a job at all.
type About struct {
	Where Where  `json:"where"`
	Goes  string `json:"goes"` // "Jonna Hallvik and you go"
	// People can go; On are those whose job it is.
	People    []Named  `json:"people"`
	Mine      bool     `json:"mine"`
	CalledOff *Remark  `json:"called_off"`
	Again     []string `json:"again"` // what is withdrawn to take it up again
	// Reasons are for calling it off; none where it cannot be: work on it has begun.
	Reasons []string `json:"reasons"`
}

// reasonsOff are why a job is called off.
var reasonsOff = []string{"made twice", "the customer no longer wants it", "it works again", "somebody else does it"}

func (v *viewing) about() {
	out := About{People: []Named{}, Again: []string{}, Reasons: []string{}, Mine: slices.Contains(v.view.Visit.Whose, v.viewer.Person)}
	if w := v.book.Job.Where; w != nil {
		out.Where = *w
	}
	var goes []string
	for _, id := range sorted(v.book.Job.People) {
		p := v.book.Job.People[id]
		on := slices.Contains(v.view.Visit.Whose, id)
		if p.Role != office && (!p.Closed || on) {
			out.People = append(out.People, Named{id, v.fullName(id), strings.Join(p.Tickets, ", "), on})
		}
	}
	for _, id := range v.view.Visit.Whose {
		goes = append(goes, v.name(id))
	}
	switch {
	case len(goes) == 0:
		out.Goes = "nobody is named yet"
	case len(goes) == 1 && goes[0] != "you":
		out.Goes = goes[0] + " goes"
	default:
		out.Goes = and(goes) + " go"
	}
	if v.off() {
		out.CalledOff = &Remark{v.Off.Of.(*record.JobCalledOff).Reason, v.fullName(v.Off.By), v.Off.When()}
		out.Again = append(out.Again, v.Off.ID)
	} else if v.untouched() {
		out.Reasons = reasonsOff
	}
	v.view.About = out
}

// untouched tells whether nobody has been at the machine on this job.
func (v *viewing) untouched() bool {
	c := v.book.company()
	return !slices.ContainsFunc(v.Facts, func(f record.Fact) bool {
		switch f.Of.(type) {
		case *record.VisitBegan, *record.PersonHere: // being there is no work yet
			return false
		}
		return len(c.Came(&f)) > 0
	})
}

// off tells whether the job is called off, and nothing is off the machine.
func (v *viewing) off() bool { return v.Off != nil && v.SignedBy == nil && len(v.toComeBack()) == 0 }

// office is the role of those who work at a desk.
const office = "office"

// overdue says that a meter's calibration was over at a time; empty where it was
// not, or nobody knows.
func (v *viewing) overdue(meter string, at time.Time) string {
	m, known := v.book.Job.meter(meter, at)
	if !known || m.Due == nil || at.Before(*m.Due) {
		return ""
	}
	return "The calibration of meter " + meter + " ended on " + v.day(m.Due.Add(-time.Second)) + "."
}

// day is a date as the company writes it, in the time zone that it came in.
func (v *viewing) day(at time.Time) string {
	if f := v.book.Job.Firm; f != nil && f.Region == "en-US" {
		return at.Format("January 2, 2006")
	}
	return at.Format("2 January 2006")
}

// noted joins what stands beside a value.
func noted(says ...string) string {
	return strings.Join(slices.DeleteFunc(says, func(s string) bool { return s == "" }), " ")
}

// units are those that the company writes in.
func (v *viewing) units() reading.System {
	if f := v.book.Job.Firm; f != nil {
		return reading.System(f.Units)
	}
	return ""
}

// warm is how warm a room may be, in those.
func (v *viewing) warm() string {
	if v.units() == reading.Customary {
		return "66 F"
	}
	return "19 C"
}
