package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
)

// people is for leads: who there is, and a new password for who lost theirs.
func (s *Server) people() {
	leads := huma.Middlewares{s.leadsOnly}
	type peopleOut struct {
		Body struct {
			People []Me `json:"people"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "list-people", Method: http.MethodGet, Path: "/people", Summary: "Everybody, with role and tickets; for leads", Middlewares: leads},
		func(ctx context.Context, _ *struct{}) (*peopleOut, error) {
			people, err := s.store.People(ctx)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			out := &peopleOut{}
			out.Body.People = []Me{}
			for _, p := range people {
				out.Body.People = append(out.Body.People, me(p))
			}
			return out, nil
		})

	type passwordIn struct {
		Person string `path:"person" maxLength:"80"`
		Body   struct {
			New string `json:"new" minLength:"10" maxLength:"200" doc:"At least ten letters"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "set-password", Method: http.MethodPost, Path: "/people/{person}/password", Summary: "A new password for somebody, which ends their sessions; for leads", DefaultStatus: http.StatusNoContent, Middlewares: leads},
		func(ctx context.Context, in *passwordIn) (*struct{}, error) {
			p, err := s.store.Person(ctx, in.Person)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			if weak(in.Body.New, p) {
				return nil, errWeak
			}
			hash, err := HashPassword(in.Body.New)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			if err := s.store.SetPassword(ctx, in.Person, hash); err != nil {
				return nil, s.problem(ctx, err)
			}
			return nil, nil
		})
}

// leadsOnly refuses everybody else before anything is read, and says whose it is.
func (s *Server) leadsOnly(hc huma.Context, next func(huma.Context)) {
	if person(hc.Context()).Role != "lead" {
		_ = huma.WriteErr(s.api, hc, http.StatusForbidden, "This is for leads. Ask yours.")
		return
	}
	next(hc)
}
