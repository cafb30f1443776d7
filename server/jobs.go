package server

import (
	"context"
	"net/http"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"evensteps/core/company"
	"evensteps/core/diagnosis"
	"evensteps/core/job"
	"evensteps/core/machine"
	"evensteps/core/machine/mapfile"
	"evensteps/core/scene"
	"evensteps/core/steps"
	"evensteps/core/view"
	"evensteps/store"
)

// JobDocument is all a device needs to work a job but its map and its events.
type JobDocument struct {
	Job      scene.Job `json:"job"`
	Map      string    `json:"map"`
	Revision int       `json:"revision"`
}

type jobIn struct {
	Job string `path:"job" maxLength:"80"`
}

func (s *Server) jobs() {
	type jobOut struct{ Body JobDocument }
	huma.Register(s.api, huma.Operation{OperationID: "get-job", Method: http.MethodGet, Path: "/jobs/{job}", Summary: "One job, without its events"},
		func(ctx context.Context, in *jobIn) (*jobOut, error) {
			j, known, err := s.job(ctx, in.Job)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			return &jobOut{JobDocument{known, j.MapID, j.MapRevision}}, nil
		})

	type mapOut struct {
		ContentType string `header:"Content-Type"`
		Disposition string `header:"Content-Disposition"`
		Body        []byte
	}
	huma.Register(s.api, huma.Operation{OperationID: "get-job-map", Method: http.MethodGet, Path: "/jobs/{job}/map", Summary: "The job's map with its own rungs and corrections, as YAML: the beginning of a map, or of its next revision"},
		func(ctx context.Context, in *jobIn) (*mapOut, error) {
			j, known, err := s.job(ctx, in.Job)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			var m *machine.Map
			if err := s.books.with(ctx, j, known, func(b *job.Book) { m = b.Draft(j.Appliance.Model) }); err != nil {
				return nil, s.problem(ctx, err)
			}
			text, err := mapfile.Write(m)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			return &mapOut{"application/yaml", `attachment; filename="` + m.ID + `.yaml"`, text}, nil
		})

	looks(s, "view", "The view of a job, as devices make it themselves", (*job.Book).View)
	looks(s, "find", "What is wrong: suspects and the next test, as devices weigh it themselves", (*job.Book).Find)
	looks(s, "lists", "What can be named on a job's machine", (*job.Book).Lists)
	type tryIn struct {
		Job  string `path:"job" maxLength:"80"`
		Body struct {
			Makes []view.Make `json:"makes" maxItems:"50"`
		}
	}
	type tryOut struct{ Body *job.Tried }
	huma.Register(s.api, huma.Operation{OperationID: "try", Method: http.MethodPost, Path: "/jobs/{job}/try", Summary: "What some records would change, as devices try it themselves; nothing is kept"},
		func(ctx context.Context, in *tryIn) (*tryOut, error) {
			j, known, err := s.job(ctx, in.Job)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			var o tryOut
			var wrong error
			if err := s.books.with(ctx, j, known, func(b *job.Book) {
				o.Body, wrong = b.Try(scene.Viewer{Person: person(ctx).ID}, time.Now(), in.Body.Makes)
			}); err != nil {
				return nil, s.problem(ctx, err)
			}
			if wrong != nil {
				return nil, huma.Error422UnprocessableEntity(wrong.Error())
			}
			return &o, nil
		})
	type proveIn struct {
		Job  string `path:"job" maxLength:"80"`
		Body struct {
			On    string            `json:"on" maxLength:"80" doc:"The move or check that the proof is of"`
			Draft map[string]string `json:"draft" maxProperties:"60" doc:"What is typed of it, by the keys of its steps"`
		}
	}
	type proveOut struct{ Body *steps.Proving }
	huma.Register(s.api, huma.Operation{OperationID: "prove", Method: http.MethodPost, Path: "/jobs/{job}/prove", Summary: "What a proof that is being typed lacks and shows, as devices judge it themselves; nothing is kept"},
		func(ctx context.Context, in *proveIn) (*proveOut, error) {
			j, known, err := s.job(ctx, in.Job)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			var o proveOut
			var wrong error
			if err := s.books.with(ctx, j, known, func(b *job.Book) {
				o.Body, wrong = b.Prove(scene.Viewer{Person: person(ctx).ID}, time.Now(), in.Body.On, in.Body.Draft)
			}); err != nil {
				return nil, s.problem(ctx, err)
			}
			if wrong != nil {
				return nil, huma.Error422UnprocessableEntity(wrong.Error())
			}
			return &o, nil
		})
	looks(s, "decide", "What to fit and what it takes, as devices reckon it themselves",
		func(b *job.Book, viewer scene.Viewer, now time.Time) *diagnosis.Decide {
			return b.Decide(viewer, now, nil)
		})
}

// looks registers one way of looking at a job, from all that is kept of it.
func looks[T any](s *Server, name, summary string, of func(*job.Book, scene.Viewer, time.Time) *T) {
	type out struct{ Body *T }
	huma.Register(s.api, huma.Operation{OperationID: "get-" + name, Method: http.MethodGet, Path: "/jobs/{job}/" + name, Summary: summary},
		func(ctx context.Context, in *jobIn) (*out, error) {
			j, known, err := s.job(ctx, in.Job)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			var o out
			if err := s.books.with(ctx, j, known, func(b *job.Book) {
				o.Body = of(b, scene.Viewer{Person: person(ctx).ID}, time.Now())
			}); err != nil {
				return nil, s.problem(ctx, err)
			}
			return &o, nil
		})
}

// job is a job with all that the company knows of it.
func (s *Server) job(ctx context.Context, id string) (store.Job, scene.Job, error) {
	j, err := s.store.Job(ctx, id)
	if err != nil {
		return j, scene.Job{}, err
	}
	known, err := s.known(ctx, j)
	if err != nil {
		return j, known, err
	}
	known.Earlier, known.Closed, err = s.history(ctx, j)
	return j, known, err
}

// known is a job with the company, its people and meters.
func (s *Server) known(ctx context.Context, j store.Job) (scene.Job, error) {
	out := knownOf(j)
	people, err := s.store.People(ctx)
	if err != nil {
		return out, err
	}
	firm, zone, err := s.companyItself(ctx)
	if err != nil {
		return out, err
	}
	out.Firm, out.Rates = firmOf(firm), ratesOf(firm)
	for _, p := range people {
		out.People[p.ID] = scene.Person{Name: p.Name, Role: p.Role, Closed: p.ClosedAt != nil, Tickets: company.HeldNow(p.Held, time.Now(), zone), Held: heldOf(p.Held, zone)}
	}
	meters, err := s.store.Meters(ctx)
	for i := range meters {
		out.Meters[meters[i].ID] = meters[i].Judged(zone)
	}
	return out, err
}

// knownOf is a job without them.
func knownOf(j store.Job) scene.Job {
	trays := scene.UsualTrays
	a := j.Appliance
	return scene.Job{
		Where: &scene.Where{
			Machine: a.ID, Name: a.Name, Model: a.Model, Serial: a.Serial, Stands: a.Stands,
			Site: a.Site.Name, Address: a.Site.Address, Contact: a.Site.Contact, Phone: a.Site.Phone, Access: a.Site.Access,
		},
		ID: j.ID, Title: j.Appliance.Site.Name + ", " + j.Appliance.Name, Place: j.Appliance.Site.Island, Complaint: j.Complaint, Words: j.Words,
		People: map[string]scene.Person{}, Meters: map[string]scene.Meter{}, Trays: &trays,
	}
}

// workers are what rows are made with: people and meters as they were a moment
// ago. A look at a job always asks.
type workers struct {
	mu  sync.Mutex
	at  time.Time
	job scene.Job
}

// companyFor is how long rows are made with the same people and meters.
const companyFor = 2 * time.Second

func (c *workers) known(ctx context.Context, s *Server, j store.Job) (scene.Job, error) {
	c.mu.Lock()
	last, at := c.job, c.at
	c.mu.Unlock()
	if time.Since(at) < companyFor {
		out := knownOf(j)
		out.People, out.Meters, out.Firm, out.Rates = last.People, last.Meters, last.Firm, last.Rates
		return out, nil
	}
	out, err := s.known(ctx, j)
	if err == nil {
		c.mu.Lock()
		c.job, c.at = out, time.Now()
		c.mu.Unlock()
	}
	return out, err
}

// mostEarlier is how many earlier jobs on the same machine are told of.
const mostEarlier = 5

// history is what was done before on the very machine, and what proved to be
// wrong with others of its kind that had the same complaint.
func (s *Server) history(ctx context.Context, j store.Job) (earlier []scene.Earlier, closed map[string]int, err error) {
	past, err := s.store.Before(ctx, j, mostEarlier)
	if err != nil {
		return nil, nil, err
	}
	zone := s.zone(ctx)
	for _, p := range past {
		for _, say := range p.Did {
			earlier = append(earlier, scene.Earlier{When: p.CreatedAt.In(zone).Format(time.DateOnly), Say: say})
		}
	}
	closed, err = s.store.Mended(ctx, j)
	return earlier[:min(len(earlier), mostEarlier)], closed, err
}
