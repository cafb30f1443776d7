package server

import (
	"context"
	"net/http"

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

	type viewOut struct{ Body *ladder.View }
	huma.Register(s.api, huma.Operation{OperationID: "get-view", Method: http.MethodGet, Path: "/jobs/{job}/view", Summary: "The view of a job, as devices make it themselves"},
		func(ctx context.Context, in *jobIn) (*viewOut, error) {
			j, people, err := s.job(ctx, in.Job)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			v, err := s.books.view(ctx, j, people, ladder.Viewer{Person: person(ctx).ID})
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			return &viewOut{v}, nil
		})

	type findOut struct{ Body *ladder.Find }
	huma.Register(s.api, huma.Operation{OperationID: "get-find", Method: http.MethodGet, Path: "/jobs/{job}/find", Summary: "What is wrong: suspects and the next test, as devices weigh it themselves"},
		func(ctx context.Context, in *jobIn) (*findOut, error) {
			j, people, err := s.job(ctx, in.Job)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			f, err := s.books.find(ctx, j, people, ladder.Viewer{Person: person(ctx).ID})
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			return &findOut{f}, nil
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
