package server

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
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

func (s *Server) calls() {
	type heardIn struct{ Body call.Said }
	type heardOut struct{ Body call.Meaning }
	huma.Register(s.api, huma.Operation{OperationID: "hear-call", Method: http.MethodPost, Path: "/calls/heard", Summary: "What a customer's words mean; nothing is kept by it"},
		func(ctx context.Context, in *heardIn) (*heardOut, error) {
			heard, err := s.heard(ctx, in.Body)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			return &heardOut{heard}, nil
		})

	type callIn struct{ Body call.Call }
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

// heard asks the core what a call means, and what was done on the machine before.
func (s *Server) heard(ctx context.Context, said call.Said) (call.Meaning, error) {
	maps, err := s.store.Maps(ctx)
	if err != nil {
		return call.Meaning{}, err
	}
	a := store.Appliance{Model: said.Model}
	if said.Appliance != "" {
		if a, err = s.store.Appliance(ctx, said.Appliance); err != nil {
			return call.Meaning{}, err
		}
	}
	out, m := call.Mean(maps, machineOf(&a), said)
	if m == nil {
		return out, nil
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

// machineOf is what a call needs of a machine.
func machineOf(a *store.Appliance) call.Machine {
	known := a.Company()
	return call.Machine{Model: a.Model, Map: known.Map, Options: known.Options}
}

// takeCall keeps the job of a call, its machine where it is new here, and the
// options that were answered as facts of the job.
func (s *Server) takeCall(ctx context.Context, c call.Call) (string, error) {
	m, err := s.mapOfCall(ctx, c)
	if err != nil {
		return "", err
	}
	on := call.Machine{Model: c.Model}
	if c.Appliance != "" {
		a, err := s.store.Appliance(ctx, c.Appliance)
		if err != nil {
			return "", s.problem(ctx, err)
		}
		on = machineOf(&a)
	}
	if err := c.Check(m, on); err != nil {
		return "", huma.Error422UnprocessableEntity(err.Error())
	}
	wrong, err := s.wrongJob(ctx, c)
	if err != nil {
		return "", err
	}
	if c.Appliance == "" {
		if c.Appliance, err = s.newMachine(ctx, c); err != nil {
			return "", err
		}
	}
	j, err := s.store.NewJob(ctx, store.Job{ID: c.Job, ApplianceID: c.Appliance, Complaint: c.Complaint, Words: c.Words, MapID: m.ID, MapRevision: m.Revision, Call: &c.Call, CreatedAt: time.Now()})
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
	for i, f := range c.Facts(m) {
		err := s.recorded(ctx, j.ID, job.CallDevice, f.What, i+1, f.Kind, f.Body)
		if errors.Is(err, store.ErrOtherBody) {
			return "", huma.Error409Conflict("This call was taken before, with other answers. It is the job " + j.ID + ": open it and answer there.")
		}
		if err != nil {
			return "", s.problem(ctx, err)
		}
	}
	return j.ID, nil
}

// mapOfCall is the latest revision of the map that a call names, or the one that the
// job was begun with on its device.
func (s *Server) mapOfCall(ctx context.Context, c call.Call) (*machine.Map, error) {
	if c.Revision > 0 {
		m, err := s.books.machine(ctx, c.Map, c.Revision)
		if err != nil {
			return nil, s.problem(ctx, err)
		}
		return m, nil
	}
	all, err := s.store.Maps(ctx)
	if err != nil {
		return nil, s.problem(ctx, err)
	}
	at := slices.IndexFunc(all, func(m *machine.Map) bool { return m.ID == c.Map })
	if at < 0 {
		return nil, huma.Error422UnprocessableEntity("There is no map of this name. Choose the machine again.")
	}
	return all[at], nil
}

// wrongJob is the job that a call takes the place of: nobody has worked on it yet,
// or this very call took its place before.
func (s *Server) wrongJob(ctx context.Context, c call.Call) (v *job.View, err error) {
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

// newMachine keeps a machine that is new here. Its id is made of the call, so
// that a call sent twice makes one machine.
func (s *Server) newMachine(ctx context.Context, c call.Call) (string, error) {
	sites, err := s.store.Sites(ctx)
	if err != nil {
		return "", s.problem(ctx, err)
	}
	if !slices.ContainsFunc(sites, func(v store.Site) bool { return v.ID == c.Site }) {
		return "", huma.Error422UnprocessableEntity("There is no site of this name. Choose one.")
	}
	a := company.Machine{ID: "m-" + named(c.Call), Site: c.Site, Name: c.Name, Model: c.Model, Serial: c.Serial}
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
func (s *Server) recorded(ctx context.Context, of, device, what string, n int, kind string, said any) error {
	now := time.Now()
	e, err := job.Recorded(of, person(ctx).ID, device, what, n, now, kind, said, named)
	if err != nil {
		return fmt.Errorf("keeping an answer: %w", err)
	}
	_, err = s.store.Append(ctx, e, record.Sent{Run: device, Wall: now, Received: now})
	return err
}

// named makes an id of what it is of: the same each time, on every device.
func named(of string) string { return uuid.NewSHA1(uuid.NameSpaceURL, []byte(of)).String() }
