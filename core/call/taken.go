package call

import (
	"fmt"
	"slices"
	"strings"

	"evensteps/core/machine"
	"evensteps/core/record"
)

// Call is a job to be.
type Call struct {
	Call      string            `json:"call" minLength:"8" maxLength:"80" doc:"The device's own id of this call: sent twice, it makes one job"`
	Job       string            `json:"job,omitempty" pattern:"^c-[0-9a-f]{12}$" doc:"The job's id where the device took the call without signal and has begun it; else it is given one"`
	Site      string            `json:"site" maxLength:"80"`
	Appliance string            `json:"appliance,omitempty" maxLength:"80" doc:"Empty for a machine that is new here"`
	Name      string            `json:"name,omitempty" maxLength:"80" doc:"What the new machine is called"`
	Model     string            `json:"model,omitempty" maxLength:"80"`
	Serial    string            `json:"serial,omitempty" maxLength:"80"`
	Map       string            `json:"map" maxLength:"80"`
	Revision  int               `json:"revision,omitempty" minimum:"1" maximum:"2147483647" doc:"The map's revision where the job was begun on the device; else the latest"`
	Complaint string            `json:"complaint,omitempty" maxLength:"80"`
	Also      []string          `json:"also,omitempty" maxItems:"5" doc:"What else the machine does or does not do, in the order in which it was said"`
	Words     string            `json:"words,omitempty" maxLength:"2000"`
	Answers   map[string]string `json:"answers,omitempty"`
	Told      string            `json:"told,omitempty" maxLength:"40" doc:"The kind of emergency of which the caller was told what to do"`
	Uncovered bool              `json:"uncovered,omitempty" doc:"The map does not cover the model, and it is taken on purpose"`
	Goes      []string          `json:"goes,omitempty" maxItems:"20" doc:"The people who go, by their ids"`
	Instead   string            `json:"instead,omitempty" maxLength:"80" doc:"A job on the wrong machine, which this one takes the place of"`
	Plate     string            `json:"plate,omitempty" pattern:"^[0-9a-f]{64}$" doc:"The photo of the rating plate, by its SHA-256"`
}

// Fault is what is wrong with a call that is to become a job, in words.
type Fault string

func (f Fault) Error() string { return string(f) }

// Check says what is wrong with a call on a map: a complaint that the map has not, a
// caller with an emergency who was not told, a machine that the map does not cover.
// on is the machine.
func (c *Call) Check(m *machine.Map, on Machine) error {
	with := m.With(Sound(m, c.Answers))
	unknown := func(id string) bool { return with.Complaint(id) == nil }
	if c.Complaint != "" && unknown(c.Complaint) || slices.ContainsFunc(c.Also, unknown) {
		return Fault("This machine has no such complaint. Choose one, or none.")
	}
	if e := Urgent(c.Words, m.Kind); e != nil && c.Told != e.Kind {
		return Fault(e.Name + ". Tell the caller first what to do: " + strings.Join(e.Say, " "))
	}
	if c.Appliance == "" && c.Name == "" {
		return Fault("Say what the new machine is called there, such as “dryer 2”.")
	}
	if !c.Uncovered && on.Map != m.ID && !Covers(m, on.Model) {
		return Fault(fmt.Sprintf("The map %s does not cover the model %q. Look at the machine again, or take this map on purpose.", m.Title, on.Model))
	}
	return nil
}

// Fact is what a call says of its job. What names it among the others of the call.
type Fact struct {
	What string
	Kind string
	Body any
}

// Facts are what was answered on the telephone, who goes, what the caller was told,
// and the photo of the rating plate: the first facts of the job.
func (c *Call) Facts(m *machine.Map) (out []Fact) {
	add := func(what, kind string, body any) { out = append(out, Fact{what, kind, body}) }
	if len(c.Goes) > 0 {
		add("goes", "job.given", record.JobGiven{To: c.Goes})
	}
	if e := Urgent(c.Words, m.Kind); e != nil {
		add("told", "told", record.Told{Emergency: e.Kind, Name: e.Name, Say: e.Say})
	}
	for _, id := range c.Also {
		if id != c.Complaint {
			add("also "+id, "complaint.added", record.ComplaintAdded{Complaint: id})
		}
	}
	answers := Sound(m, c.Answers)
	for _, o := range m.Options {
		if value, is := answers[o.ID]; is {
			add(o.ID, "option.answered", record.OptionAnswered{Option: o.ID, Value: value})
		}
	}
	if m.Plain() {
		add("work", "goal.added", record.GoalAdded{Goal: record.Work})
	}
	if c.Plate != "" {
		add("plate", "photo", record.Photo{SHA256: c.Plate, On: "plate"})
	}
	return out
}
