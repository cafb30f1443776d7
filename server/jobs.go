package server

import (
	"context"
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"reflect"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"evensteps/core/company"
	"evensteps/core/job"
	"evensteps/core/machine"
	"evensteps/core/machine/mapfile"
	"evensteps/core/scene"
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

	type aroundOut struct{ Body scene.Job }
	huma.Register(s.api, huma.Operation{OperationID: "get-around", Method: http.MethodGet, Path: "/around", Summary: "What every job is judged by, and nothing of any one: people, meters, prices, the company"},
		func(ctx context.Context, _ *struct{}) (*aroundOut, error) {
			known, err := s.known(ctx, store.Job{})
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			known.Where, known.Title = nil, ""
			return &aroundOut{known}, nil
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

	for _, a := range job.Asks {
		s.ask(a)
	}
}

// ask registers one question about a job as the core's table has it: as devices ask
// it themselves, here from all that is kept of the job.
func (s *Server) ask(a job.Ask) {
	schema := func(t reflect.Type) map[string]*huma.MediaType {
		return map[string]*huma.MediaType{"application/json": {Schema: s.api.OpenAPI().Components.Schemas.Schema(t, true, "")}}
	}
	op := &huma.Operation{
		OperationID: "get-" + a.Name, Method: http.MethodGet, Path: "/jobs/{job}/" + a.Name, Summary: a.Summary,
		Parameters: []*huma.Param{{Name: "job", In: "path", Required: true, Schema: &huma.Schema{Type: huma.TypeString}}},
		Responses:  map[string]*huma.Response{"200": {Description: "OK", Content: schema(a.Out)}, "default": {Description: "Error", Content: schema(reflect.TypeFor[huma.ErrorModel]())}},
	}
	if a.Body != "" {
		op.OperationID, op.Method = a.Name, http.MethodPost
		op.RequestBody = &huma.RequestBody{Description: a.Body, Required: true, Content: schema(a.In)}
	}
	s.api.OpenAPI().AddOperation(op)
	s.api.Adapter().Handle(op, s.api.Middlewares().Handler(func(c huma.Context) {
		out, err := s.answer(c, a)
		status, kind := http.StatusOK, "application/json"
		if err != nil {
			var failed huma.StatusError
			if !errors.As(err, &failed) {
				failed = huma.Error500InternalServerError(err.Error())
			}
			var headed huma.HeadersError
			if errors.As(err, &headed) {
				for name, values := range headed.GetHeaders() {
					c.SetHeader(name, values[0])
				}
			}
			status, kind, out = failed.GetStatus(), "application/problem+json", failed
		}
		c.SetHeader("Content-Type", kind)
		c.SetStatus(status)
		if err := json.NewEncoder(c.BodyWriter()).Encode(out); err != nil {
			s.log.WarnContext(c.Context(), "an answer was not taken", "err", err)
		}
	}))
}

// answer asks a job's book. What is wrong with the question is the asker's to mend.
func (s *Server) answer(c huma.Context, a job.Ask) (out any, err error) {
	ctx, id := c.Context(), c.Param("job")
	var in []byte
	if a.Body != "" {
		if in, err = io.ReadAll(http.MaxBytesReader(nil, io.NopCloser(c.BodyReader()), mostAsked)); err != nil {
			return nil, huma.Error413RequestEntityTooLarge("That is more than can be asked at once.")
		}
		if err := s.sound(a, in); err != nil {
			return nil, err
		}
	}
	j, known, err := s.job(ctx, id)
	if err != nil {
		return nil, s.problem(ctx, err)
	}
	var wrong error
	if err := s.books.with(ctx, j, known, func(b *job.Book) {
		out, wrong = a.Answer(b, scene.Viewer{Person: person(ctx).ID}, time.Now(), in)
	}); err != nil {
		return nil, s.problem(ctx, err)
	}
	if wrong != nil {
		return nil, huma.Error422UnprocessableEntity(wrong.Error())
	}
	return out, nil
}

// mostAsked is how many bytes a question may have.
const mostAsked = 1 << 20

// sound holds what was sent against its schema, limits and all.
func (s *Server) sound(a job.Ask, in []byte) error {
	var v any
	if err := json.Unmarshal(in, &v); err != nil {
		return huma.Error422UnprocessableEntity("What was sent cannot be read: " + err.Error())
	}
	schemas := s.api.OpenAPI().Components.Schemas
	found := &huma.ValidateResult{}
	huma.Validate(schemas, schemas.Schema(a.In, true, ""), huma.NewPathBuffer([]byte("body"), 4), huma.ModeWriteToServer, v, found)
	if len(found.Errors) > 0 {
		return huma.Error422UnprocessableEntity("What was sent is not as it must be.", found.Errors...)
	}
	return nil
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

func (c *workers) known(ctx context.Context, s *Server, j store.Job) (scene.Job, error) {
	c.mu.Lock()
	last, at := c.job, c.at
	c.mu.Unlock()
	if time.Since(at) < s.knownFor {
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
