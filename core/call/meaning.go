package call

import (
	"cmp"
	"slices"

	"evensteps/core/machine"
)

// Said is what a customer has said so far.
type Said struct {
	Appliance string            `json:"appliance,omitempty" maxLength:"80"`
	Model     string            `json:"model,omitempty" maxLength:"80"`
	Kind      string            `json:"kind,omitempty" maxLength:"40"`
	Words     string            `json:"words,omitempty" maxLength:"2000"`
	Complaint string            `json:"complaint,omitempty" maxLength:"80" doc:"The complaint that was chosen; empty: the one that the words mean"`
	Answers   map[string]string `json:"answers,omitempty"`
	Plain     bool              `json:"plain,omitempty" doc:"Work it without a map, on rungs of one's own"`
}

// Machine is what is known of a machine that a call is about.
type Machine struct {
	Model   string            `json:"model"`
	Map     string            `json:"map"` // that somebody chose for it; empty: the one that covers the model
	Options map[string]string `json:"options"`
}

// Meaning is what a call means, and what to ask before anybody sets out.
type Meaning struct {
	Map        string     `json:"map"`
	Revision   int        `json:"revision"`
	Machine    string     `json:"machine"`
	How        string     `json:"how" doc:"Why it is this map"`
	Nearest    bool       `json:"nearest" doc:"No map covers the model; this one is only the nearest of its kind"`
	Plain      string     `json:"plain" doc:"The map of its kind's energies alone, to work without a map; empty where that is not offered"`
	Emergency  *Emergency `json:"emergency" doc:"What cannot wait for anybody's visit: the caller is told first"`
	Complaints []Listed   `json:"complaints" doc:"The best match first"`
	Unknown    bool       `json:"unknown" doc:"The words mean no complaint that the map has"`
	Complaint  string     `json:"complaint"`
	Asks       []Question `json:"asks" doc:"What matters and is not known yet"`
	Before     []string   `json:"before" doc:"What was done on this machine"`
	Like       []string   `json:"like" doc:"What proved to be wrong with others like it"`
}

// Listed is one complaint of the map, as it is offered.
type Listed struct {
	ID   string   `json:"id"`
	Name string   `json:"name"`
	By   []string `json:"by" doc:"The words that mean it"`
	Good bool     `json:"good"`
}

// Question is one option to ask for.
type Question struct {
	ID     string   `json:"id"`
	Ask    string   `json:"ask"`
	Tell   string   `json:"tell"`
	Values []string `json:"values"`
	Usual  string   `json:"usual"`
}

// Mean makes of what was said on the telephone what it means: the map of the
// machine, the complaints, what hurts somebody now, and what to ask. on is the machine
// where it is known. What was done on it before is not the map's to say. The map is
// nil where none covers the model and no kind was said.
func Mean(maps []*machine.Map, on Machine, said Said) (Meaning, *machine.Map) {
	out := Meaning{Complaints: []Listed{}, Asks: []Question{}, Before: []string{}, Like: []string{}}
	found, ok := MapOf(maps, on, said.Kind)
	if !ok {
		out.Emergency = Urgent(said.Words, said.Kind)
		out.How = "No map covers this model. Say what kind of machine it is."
		return out, nil
	}
	if said.Plain {
		if p := PlainFor(maps, found.Map.Kind); p != nil {
			found = Found{Map: p}
		}
	}
	m := found.Map
	out.Map, out.Revision, out.Machine, out.Nearest = m.ID, m.Revision, m.Title, found.Pattern == ""
	out.How = "covers " + found.Pattern
	if out.Nearest && !m.Plain() {
		out.How = "No map covers this model. This is the nearest of its kind: counts, leads and ways may differ."
		if p := PlainFor(maps, m.Kind); p != nil {
			out.Plain = p.ID
		}
	}
	if m.Plain() {
		out.How = "No map covers this model. It is worked on rungs of your own, from the energies of its kind."
	}
	answers := Sound(m, said.Answers)
	for id, value := range Sound(m, on.Options) { // what is known of it need not be asked
		if answers[id] == "" {
			answers[id] = value
		}
	}
	with := m.With(answers)
	out.Complaint = said.Complaint
	heard := Hear(with, said.Words)
	out.Emergency, out.Unknown = heard.Emergency, heard.Unknown
	for _, c := range heard.Complaints {
		out.Complaints = append(out.Complaints, Listed{c.Complaint, c.Name, c.Said, true})
		out.Complaint = cmp.Or(out.Complaint, c.Complaint)
	}
	for i := range with.Complaints {
		c := &with.Complaints[i]
		if !slices.ContainsFunc(out.Complaints, func(k Listed) bool { return k.ID == c.ID }) {
			out.Complaints = append(out.Complaints, Listed{c.ID, c.Name, []string{}, false})
		}
	}
	for _, o := range Matters(m, out.Complaint, answers) {
		out.Asks = append(out.Asks, Question{o.ID, o.Ask, o.Tell, o.Values, o.Usual})
	}
	return out, m
}

// MapOf is the map of a machine: the one that somebody chose for it, or the one
// that covers its model.
func MapOf(maps []*machine.Map, on Machine, kind string) (Found, bool) {
	for _, m := range maps {
		if on.Map != "" && m.ID == on.Map {
			return Found{Map: m, Pattern: "this machine"}, true
		}
	}
	return MapFor(maps, on.Model, kind)
}

// Sound are the answers that the map has options and values for.
func Sound(m *machine.Map, answers map[string]string) map[string]string {
	out := map[string]string{}
	for id, value := range answers {
		if o := m.Option(id); o != nil && slices.Contains(o.Values, value) {
			out[id] = value
		}
	}
	return out
}
