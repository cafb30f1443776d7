package server

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"evensteps/core/call"
	"evensteps/core/company"
	"evensteps/core/fault"
	"evensteps/core/job"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/store"
)

// CallSaid is what a customer has said so far.
type CallSaid struct {
	Appliance string            `json:"appliance,omitempty" maxLength:"80"`
	Model     string            `json:"model,omitempty" maxLength:"80"`
	Kind      string            `json:"kind,omitempty" maxLength:"40"`
	Words     string            `json:"words,omitempty" maxLength:"2000"`
	Complaint string            `json:"complaint,omitempty" maxLength:"80" doc:"The complaint that was chosen; empty: the one that the words mean"`
	Answers   map[string]string `json:"answers,omitempty"`
	Plain     bool              `json:"plain,omitempty" doc:"Work it without a map, on rungs of one's own"`
}

// CallHeard is what the core makes of it.
type CallHeard struct {
	Map        string          `json:"map"`
	Revision   int             `json:"revision"`
	Machine    string          `json:"machine"`
	How        string          `json:"how" doc:"Why it is this map"`
	Nearest    bool            `json:"nearest" doc:"No map covers the model; this one is only the nearest of its kind"`
	Plain      string          `json:"plain" doc:"The map of its kind's energies alone, to work without a map; empty where that is not offered"`
	Emergency  *call.Emergency `json:"emergency" doc:"What cannot wait for anybody's visit: the caller is told first"`
	Complaints []CallComplaint `json:"complaints" doc:"The best match first"`
	Unknown    bool            `json:"unknown" doc:"The words mean no complaint that the map has"`
	Complaint  string          `json:"complaint"`
	Asks       []CallAsk       `json:"asks" doc:"What matters and is not known yet"`
	Before     []string        `json:"before" doc:"What was done on this machine"`
	Like       []string        `json:"like" doc:"What proved to be wrong with others like it"`
}

// CallComplaint is one complaint of the map.
type CallComplaint struct {
	ID   string   `json:"id"`
	Name string   `json:"name"`
	By   []string `json:"by" doc:"The words that mean it"`
	Good bool     `json:"good"`
}

// CallAsk is one option to ask for.
type CallAsk struct {
	ID     string   `json:"id"`
	Ask    string   `json:"ask"`
	Tell   string   `json:"tell"`
	Values []string `json:"values"`
	Usual  string   `json:"usual"`
}

// Call is a job to be.
type Call struct {
	Call      string            `json:"call" minLength:"8" maxLength:"80" doc:"The device's own id of this call: sent twice, it makes one job"`
	Site      string            `json:"site" maxLength:"80"`
	Appliance string            `json:"appliance,omitempty" maxLength:"80" doc:"Empty for a machine that is new here"`
	Name      string            `json:"name,omitempty" maxLength:"80" doc:"What the new machine is called"`
	Model     string            `json:"model,omitempty" maxLength:"80"`
	Serial    string            `json:"serial,omitempty" maxLength:"80"`
	Map       string            `json:"map" maxLength:"80"`
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

func (s *Server) calls() {
	type heardIn struct{ Body CallSaid }
	type heardOut struct{ Body CallHeard }
	huma.Register(s.api, huma.Operation{OperationID: "hear-call", Method: http.MethodPost, Path: "/calls/heard", Summary: "What a customer's words mean; nothing is kept by it"},
		func(ctx context.Context, in *heardIn) (*heardOut, error) {
			heard, err := s.heard(ctx, in.Body)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			return &heardOut{heard}, nil
		})

	type callIn struct{ Body Call }
	type callOut struct {
		Body struct {
			Job string `json:"job"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "take-call", Method: http.MethodPost, Path: "/calls", Summary: "Make a job of a call"},
		func(ctx context.Context, in *callIn) (*callOut, error) {
			job, err := s.takeCall(ctx, in.Body)
			if err != nil {
				return nil, err
			}
			out := &callOut{}
			out.Body.Job = job
			return out, nil
		})
}

// heard asks the core what a call means.
func (s *Server) heard(ctx context.Context, said CallSaid) (CallHeard, error) {
	out := CallHeard{Complaints: []CallComplaint{}, Asks: []CallAsk{}, Before: []string{}, Like: []string{}}
	maps, err := s.store.Maps(ctx)
	if err != nil {
		return out, err
	}
	a := store.Appliance{Model: said.Model}
	if said.Appliance != "" {
		if a, err = s.store.Appliance(ctx, said.Appliance); err != nil {
			return out, err
		}
	}
	found, ok := mapFor(maps, &a, said.Kind)
	if !ok {
		out.Emergency = call.Urgent(said.Words, said.Kind)
		out.How = "No map covers this model. Say what kind of machine it is."
		return out, nil
	}
	if said.Plain {
		if p := call.PlainFor(maps, found.Map.Kind); p != nil {
			found = call.Found{Map: p}
		}
	}
	m := found.Map
	out.Map, out.Revision, out.Machine, out.Nearest = m.ID, m.Revision, m.Title, found.Pattern == ""
	out.How = "covers " + found.Pattern
	if out.Nearest && !m.Plain() {
		out.How = "No map covers this model. This is the nearest of its kind: counts, leads and ways may differ."
		if p := call.PlainFor(maps, m.Kind); p != nil {
			out.Plain = p.ID
		}
	}
	if m.Plain() {
		out.How = "No map covers this model. It is worked on rungs of your own, from the energies of its kind."
	}
	answers := sound(m, said.Answers)
	known := a.Company()
	for id, value := range known.Answers(m) { // what is known of it need not be asked
		if answers[id] == "" {
			answers[id] = value
		}
	}
	with := m.With(answers)
	out.Complaint = said.Complaint
	heard := call.Hear(with, said.Words)
	out.Emergency, out.Unknown = heard.Emergency, heard.Unknown
	for _, c := range heard.Complaints {
		out.Complaints = append(out.Complaints, CallComplaint{c.Complaint, c.Name, c.Said, true})
		out.Complaint = cmp.Or(out.Complaint, c.Complaint)
	}
	for i := range with.Complaints {
		c := &with.Complaints[i]
		if !slices.ContainsFunc(out.Complaints, func(k CallComplaint) bool { return k.ID == c.ID }) {
			out.Complaints = append(out.Complaints, CallComplaint{c.ID, c.Name, []string{}, false})
		}
	}
	for _, o := range call.Matters(m, out.Complaint, answers) {
		out.Asks = append(out.Asks, CallAsk{o.ID, o.Ask, o.Tell, o.Values, o.Usual})
	}
	earlier, closed, err := s.history(ctx, store.Job{ApplianceID: a.ID, MapID: m.ID, Complaint: out.Complaint})
	if err != nil {
		return out, err
	}
	for _, e := range earlier {
		out.Before = append(out.Before, e.When+": "+e.Say)
	}
	for i := range m.Faults {
		if n := closed[m.Faults[i].ID]; n > 0 {
			out.Like = append(out.Like, fmt.Sprintf("%s: %d", fault.Name(m, m.Faults[i].ID), n))
		}
	}
	return out, nil
}

// mapFor is the map of a machine: the one that somebody chose for it, or the one
// that covers its model.
func mapFor(maps []*machine.Map, a *store.Appliance, kind string) (call.Found, bool) {
	for _, m := range maps {
		if a.MapID != "" && m.ID == a.MapID {
			return call.Found{Map: m, Pattern: "this machine"}, true
		}
	}
	return call.MapFor(maps, a.Model, kind)
}

// sound are the answers that the map has options and values for.
func sound(m *machine.Map, answers map[string]string) map[string]string {
	out := map[string]string{}
	for id, value := range answers {
		if o := m.Option(id); o != nil && slices.Contains(o.Values, value) {
			out[id] = value
		}
	}
	return out
}

// takeCall keeps the job of a call, its machine where it is new here, and the
// options that were answered as facts of the job.
func (s *Server) takeCall(ctx context.Context, c Call) (string, error) {
	all, err := s.store.Maps(ctx)
	if err != nil {
		return "", s.problem(ctx, err)
	}
	at := slices.IndexFunc(all, func(m *machine.Map) bool { return m.ID == c.Map })
	if at < 0 {
		return "", huma.Error422UnprocessableEntity("There is no map of this name. Choose the machine again.")
	}
	m := all[at]
	answers := sound(m, c.Answers)
	if unknown := func(id string) bool { return m.With(answers).Complaint(id) == nil }; c.Complaint != "" && unknown(c.Complaint) || slices.ContainsFunc(c.Also, unknown) {
		return "", huma.Error422UnprocessableEntity("This machine has no such complaint. Choose one, or none.")
	}
	emergency := call.Urgent(c.Words, m.Kind)
	if emergency != nil && c.Told != emergency.Kind {
		return "", huma.Error422UnprocessableEntity(emergency.Name + ". Tell the caller first what to do: " + strings.Join(emergency.Say, " "))
	}
	if err := s.covered(ctx, c, m); err != nil {
		return "", err
	}
	wrong, err := s.wrongJob(ctx, c)
	if err != nil {
		return "", err
	}
	if c.Appliance == "" {
		if c.Name == "" {
			return "", huma.Error422UnprocessableEntity("Say what the new machine is called there, such as “dryer 2”.")
		}
		if c.Appliance, err = s.newMachine(ctx, c); err != nil {
			return "", err
		}
	}
	j, err := s.store.NewJob(ctx, store.Job{ApplianceID: c.Appliance, Complaint: c.Complaint, Words: c.Words, MapID: m.ID, MapRevision: m.Revision, Call: &c.Call, CreatedAt: time.Now()})
	if err != nil {
		return "", s.problem(ctx, err)
	}
	if wrong != nil {
		if len(c.Goes) == 0 {
			c.Goes = wrong.Visit.Whose
		}
		off := record.JobCalledOff{Reason: "on the wrong machine", Instead: j.ID}
		if err := s.recorded(ctx, c.Instead, "move", "instead "+j.ID, 1, "job.called-off", off); err != nil {
			return "", s.problem(ctx, err)
		}
	}
	if err := s.answered(ctx, j, answers, c, emergency); errors.Is(err, store.ErrOtherBody) {
		return "", huma.Error409Conflict("This call was taken before, with other answers. It is the job " + j.ID + ": open it and answer there.")
	} else if err != nil {
		return "", s.problem(ctx, err)
	}
	return j.ID, nil
}

// wrongJob is the job that a call takes the place of: nobody has worked on it yet,
// or this very call took its place before.
func (s *Server) wrongJob(ctx context.Context, c Call) (v *job.View, err error) {
	if c.Instead == "" {
		return nil, nil
	}
	j, known, err := s.job(ctx, c.Instead)
	if err != nil {
		return nil, s.problem(ctx, err)
	}
	if err := s.books.with(ctx, j, known, func(b *job.Book) { v = b.View(scene.Viewer{}, time.Now()) }); err != nil {
		return nil, s.problem(ctx, err)
	}
	if len(v.About.Reasons) == 0 && v.About.CalledOff == nil {
		return nil, huma.Error409Conflict("Work on the job " + c.Instead + " has begun: it stays on its machine. Make another job, and say on this one what was wrong.")
	}
	return v, nil
}

// covered refuses a map that does not cover the machine, unless that is said on
// purpose: the one chosen before the machine was changed is another's.
func (s *Server) covered(ctx context.Context, c Call, m *machine.Map) error {
	model := c.Model
	if c.Appliance != "" {
		a, err := s.store.Appliance(ctx, c.Appliance)
		if err != nil {
			return s.problem(ctx, err)
		}
		if a.MapID == m.ID {
			return nil
		}
		model = a.Model
	}
	if c.Uncovered || call.Covers(m, model) {
		return nil
	}
	return huma.Error422UnprocessableEntity(fmt.Sprintf("The map %s does not cover the model %q. Look at the machine again, or take this map on purpose.", m.Title, model))
}

// newMachine keeps a machine that is new here. Its id is made of the call, so
// that a call sent twice makes one machine.
func (s *Server) newMachine(ctx context.Context, c Call) (string, error) {
	sites, err := s.store.Sites(ctx)
	if err != nil {
		return "", s.problem(ctx, err)
	}
	if !slices.ContainsFunc(sites, func(v store.Site) bool { return v.ID == c.Site }) {
		return "", huma.Error422UnprocessableEntity("There is no site of this name. Choose one.")
	}
	a := company.Machine{ID: "m-" + uuid.NewSHA1(uuid.NameSpaceURL, []byte(c.Call)).String(), Site: c.Site, Name: c.Name, Model: c.Model, Serial: c.Serial}
	if faults := a.Check(); len(faults) > 0 {
		return "", huma.Error422UnprocessableEntity(faults.Error())
	}
	if err := s.store.SaveMachine(ctx, a, store.Seen{By: person(ctx).ID}); err != nil && !errors.Is(err, store.ErrTaken) { // the call was sent before
		return "", s.problem(ctx, err)
	}
	return a.ID, nil
}

// recorded keeps a fact that the server makes of what somebody asked for. Its id is
// made of the job and what it is, so that it is kept once.
func (s *Server) recorded(ctx context.Context, job, device, what string, n int, kind string, said any) error {
	body, err := json.Marshal(said)
	if err != nil {
		return fmt.Errorf("keeping an answer: %w", err)
	}
	now := time.Now()
	e := record.Event{
		ID: uuid.NewSHA1(uuid.NameSpaceURL, []byte(job+"/"+what)).String(), Job: job, By: person(ctx).ID, Device: device, N: n,
		Wall: now, Run: device, Kind: kind, Body: body,
	}
	_, err = s.store.Append(ctx, e, record.Sent{Run: device, Wall: now, Received: now})
	return err
}

// answered records what was answered on the telephone, and the photo of the
// rating plate, by who took the call. The ids are made of the job, so that a call
// sent twice says it once.
func (s *Server) answered(ctx context.Context, j store.Job, answers map[string]string, c Call, emergency *call.Emergency) error {
	n := 0
	add := func(what, kind string, said any) error {
		n++
		return s.recorded(ctx, j.ID, "call", what, n, kind, said)
	}
	if len(c.Goes) > 0 {
		if err := add("goes", "job.given", record.JobGiven{To: c.Goes}); err != nil {
			return err
		}
	}
	if emergency != nil {
		if err := add("told", "told", record.Told{Emergency: emergency.Kind, Name: emergency.Name, Say: emergency.Say}); err != nil {
			return err
		}
	}
	for _, id := range c.Also {
		if id == c.Complaint {
			continue
		}
		if err := add("also "+id, "complaint.added", record.ComplaintAdded{Complaint: id}); err != nil {
			return err
		}
	}
	for _, o := range slices.Sorted(maps.Keys(answers)) {
		if err := add(o, "option.answered", record.OptionAnswered{Option: o, Value: answers[o]}); err != nil {
			return err
		}
	}
	if m, err := s.store.Map(ctx, j.MapID, j.MapRevision); err == nil && m.Plain() {
		if err := add("work", "goal.added", record.GoalAdded{Goal: record.Work}); err != nil {
			return err
		}
	}
	if c.Plate == "" {
		return nil
	}
	return add("plate", "photo", record.Photo{SHA256: c.Plate, On: "plate"})
}
