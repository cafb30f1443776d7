package server

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"evensteps/core/ladder"
	"evensteps/store"
)

// JobDocument is all a device needs to work a job but its map and its events.
type JobDocument struct {
	Job      ladder.Job `json:"job"`
	Map      string     `json:"map"`
	Revision int        `json:"revision"`
}

type jobIn struct {
	Job string `path:"job" maxLength:"80"`
}

func (s *Server) jobs() {
	type jobOut struct{ Body JobDocument }
	huma.Register(s.api, huma.Operation{OperationID: "get-job", Method: http.MethodGet, Path: "/jobs/{job}", Summary: "One job, without its events"},
		func(ctx context.Context, in *jobIn) (*jobOut, error) {
			j, people, err := s.job(ctx, in.Job)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			return &jobOut{JobDocument{ladderJob(j, people), j.MapID, j.MapRevision}}, nil
		})

	looks(s, "view", "The view of a job, as devices make it themselves", (*ladder.Book).View)
	looks(s, "find", "What is wrong: suspects and the next test, as devices weigh it themselves", (*ladder.Book).Find)
	looks(s, "decide", "What to fit and what it takes, as devices reckon it themselves",
		func(b *ladder.Book, viewer ladder.Viewer, now time.Time) *ladder.Decide { return b.Decide(viewer, now, nil) })
}

// looks registers one way of looking at a job, from all that is kept of it.
func looks[T any](s *Server, name, summary string, of func(*ladder.Book, ladder.Viewer, time.Time) *T) {
	type out struct{ Body *T }
	huma.Register(s.api, huma.Operation{OperationID: "get-" + name, Method: http.MethodGet, Path: "/jobs/{job}/" + name, Summary: summary},
		func(ctx context.Context, in *jobIn) (*out, error) {
			j, people, err := s.job(ctx, in.Job)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			var o out
			if err := s.books.with(ctx, j, people, func(b *ladder.Book) {
				o.Body = of(b, ladder.Viewer{Person: person(ctx).ID}, time.Now())
			}); err != nil {
				return nil, s.problem(ctx, err)
			}
			return &o, nil
		})
}

func (s *Server) job(ctx context.Context, id string) (store.Job, []store.Person, error) {
	j, err := s.store.Job(ctx, id)
	if err != nil {
		return j, nil, err
	}
	people, err := s.store.People(ctx)
	return j, people, err
}
