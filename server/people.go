package server

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"evensteps/core/company"
	"evensteps/core/machine"
	"evensteps/store"
)

// people is for supervisors: who there is, somebody new, another role or ticket, and a
// one-time code for who lost their password.
func (s *Server) people() {
	s.endsOf()
	supervisors := huma.Middlewares{s.supervisorsOnly}
	type peopleOut struct {
		Body struct {
			People  []PersonRow `json:"people"`
			Tickets []string    `json:"tickets" doc:"All that there are"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "list-people", Method: http.MethodGet, Path: "/people", Summary: "Everybody, with role and tickets; for supervisors", Middlewares: supervisors},
		func(ctx context.Context, _ *struct{}) (*peopleOut, error) {
			people, err := s.store.People(ctx)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			out := &peopleOut{}
			out.Body.People, out.Body.Tickets = []PersonRow{}, machine.Tickets
			for i := range people {
				out.Body.People = append(out.Body.People, s.personRow(ctx, &people[i]))
			}
			return out, nil
		})

	type codeOut struct {
		Body struct {
			Person Me     `json:"person"`
			Code   string `json:"code" doc:"Good for one sign-in within a day, and then for choosing a password; shown this once"`
		}
	}
	given := func(ctx context.Context, p store.Person, code string) *codeOut {
		out := &codeOut{}
		out.Body.Person, out.Body.Code = s.me(ctx, p), code
		return out
	}
	huma.Register(s.api, huma.Operation{OperationID: "add-person", Method: http.MethodPost, Path: "/people", Summary: "Somebody new, with a one-time code; for supervisors", Middlewares: supervisors},
		func(ctx context.Context, in *struct {
			Body struct{ company.Person }
		},
		) (*codeOut, error) {
			said := in.Body.Person
			if err := refused(said.Check()); err != nil {
				return nil, err
			}
			code, hash, until, err := NewCode()
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			p := store.Person{ID: said.SignIn, SignIn: said.SignIn, Name: said.Name, Role: said.Role, Held: said.Tickets, PasswordHash: hash, CodeUntil: &until}
			added, err := s.store.AddPerson(ctx, p)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			if !added {
				return nil, huma.Error409Conflict("Somebody signs in by that name already. Choose another.")
			}
			s.audit(ctx, person(ctx).ID, "account added: "+p.Role, p.ID)
			return given(ctx, p, code), nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "change-person", Method: http.MethodPut, Path: "/people/{person}", Summary: "What somebody is called, their role and tickets; for supervisors", Middlewares: supervisors},
		func(ctx context.Context, in *struct {
			Person string `path:"person" maxLength:"80"`
			Body   struct {
				company.Person
				Version int `json:"version"`
			}
		},
		) (*personOut, error) {
			said := in.Body.Person
			said.SignIn = in.Person
			if err := refused(said.Check()); err != nil {
				return nil, err
			}
			if err := s.store.ChangePerson(ctx, said, seen(ctx, Version{Version: in.Body.Version}), s.zone(ctx)); err != nil {
				return nil, s.problem(ctx, err)
			}
			p, err := s.store.Person(ctx, in.Person)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			what := "account changed: " + p.Role
			if p.ClosedAt != nil {
				what = "account closed"
			}
			s.audit(ctx, person(ctx).ID, what, p.ID)
			return &personOut{s.personRow(ctx, &p)}, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "give-code", Method: http.MethodPost, Path: "/people/{person}/code", Summary: "A one-time code for who lost their password, which ends their sessions; for supervisors", Middlewares: supervisors},
		func(ctx context.Context, in *struct {
			Person string `path:"person" maxLength:"80"`
		},
		) (*codeOut, error) {
			p, err := s.store.Person(ctx, in.Person)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			if p.ClosedAt != nil {
				return nil, huma.Error409Conflict("This account is closed. Open it again first.")
			}
			code, hash, until, err := NewCode()
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			// Who lost both the authenticator and its spare codes begins another with the new password.
			if err := errors.Join(s.store.SetCode(ctx, p.ID, hash, until), s.store.SetSecond(ctx, p.ID, "", nil)); err != nil {
				return nil, s.problem(ctx, err)
			}
			s.audit(ctx, person(ctx).ID, "one-time code given", p.ID)
			return given(ctx, p, code), nil
		})
}

// endsOf ends all sessions of somebody else: a device that was lost.
func (s *Server) endsOf() {
	type endsIn struct {
		Person string `path:"person" maxLength:"80"`
	}
	type endsOut struct {
		Body struct {
			Ended int64 `json:"ended"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "end-sessions", Method: http.MethodDelete, Path: "/people/{person}/sessions", Summary: "Sign somebody out everywhere, as where a device was lost; for supervisors", Middlewares: huma.Middlewares{s.supervisorsOnly}},
		func(ctx context.Context, asked *endsIn) (*endsOut, error) {
			n, err := s.store.EndSessions(ctx, asked.Person, "")
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			s.audit(ctx, person(ctx).ID, "signed out everywhere", asked.Person)
			o := &endsOut{}
			o.Body.Ended = n
			return o, nil
		})
}

// PersonRow is one of the company's people, as supervisors see them.
type PersonRow struct {
	company.Person
	Version
	ID     string   `json:"id"`
	Now    []string `json:"now" doc:"The tickets that are held now"`
	Choose bool     `json:"choose" doc:"They have a one-time code, and no password of their own yet"`
	Second bool     `json:"second" doc:"They sign in with a second factor"`
	None   bool     `json:"none" doc:"They cannot sign in yet: they have neither a password nor a code"`
}

type personOut struct{ Body PersonRow }

func (s *Server) personRow(ctx context.Context, p *store.Person) PersonRow {
	row := PersonRow{p.Company(), versionOf(p.Changed), p.ID, company.HeldNow(p.Held, time.Now(), s.zone(ctx)), p.CodeUntil != nil, p.Second != "", p.PasswordHash == ""}
	if row.Tickets == nil {
		row.Tickets = []company.Ticket{}
	}
	return row
}

// changedMeanwhile says who changed what somebody else was changing.
func (s *Server) changedMeanwhile(ctx context.Context, err error) string {
	who := "Somebody"
	var last *store.ChangedError
	if errors.As(err, &last) && last.Last.ChangedBy != nil {
		if p, err := s.store.Person(ctx, *last.Last.ChangedBy); err == nil {
			who = p.Name
		}
	}
	return who + " changed this meanwhile. Yours is not kept: look at it as it is now, and change it again."
}

// codeFor is how long a one-time code is good.
const codeFor = 24 * time.Hour

// NewCode is a one-time code of sixteen letters and digits that nobody mistakes for
// another, in four groups (80 bits), its hash, and until when it is good.
func NewCode() (code, hash string, until time.Time, err error) {
	code = drawn(16)
	hash, err = HashPassword(code)
	return code, hash, time.Now().Add(codeFor), err
}

// supervisorsOnly refuses everybody else before anything is read, and says whose it is.
func (s *Server) supervisorsOnly(hc huma.Context, next func(huma.Context)) {
	if person(hc.Context()).Role != "supervisor" {
		_ = huma.WriteErr(s.api, hc, http.StatusForbidden, "This is for supervisors. Ask yours.")
		return
	}
	next(hc)
}
