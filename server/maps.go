package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
)

// Latest names the latest revision of a map.
type Latest struct {
	Map      string `json:"map"`
	Revision int    `json:"revision"`
}

func (s *Server) maps() {
	type listOut struct {
		Body struct {
			Maps []Latest `json:"maps"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "list-maps", Method: http.MethodGet, Path: "/maps", Summary: "The latest revision of each map"},
		func(ctx context.Context, _ *struct{}) (*listOut, error) {
			all, err := s.store.Maps(ctx)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			out := &listOut{}
			out.Body.Maps = []Latest{}
			for _, m := range all {
				out.Body.Maps = append(out.Body.Maps, Latest{m.ID, m.Revision})
			}
			return out, nil
		})
	type mapIn struct {
		Map      string `path:"map" maxLength:"80"`
		Revision int    `path:"revision" minimum:"1" maximum:"2147483647"`
	}
	type mapOut struct {
		CacheControl string `header:"Cache-Control"`
		Body         any
	}
	huma.Register(s.api, huma.Operation{OperationID: "get-map", Method: http.MethodGet, Path: "/maps/{map}/{revision}", Summary: "One revision of a machine map, as checked JSON; it never changes"},
		func(ctx context.Context, in *mapIn) (*mapOut, error) {
			m, err := s.books.machine(ctx, in.Map, in.Revision)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			return &mapOut{"private, max-age=31536000, immutable", m}, nil
		})
}
