package server

import (
	"context"
	"crypto/rand"
	"errors"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"evensteps/core/machine"
	"evensteps/store"
)

// people is for leads: who there is, somebody new, another role or ticket, and a
// one-time code for who lost their password.
func (s *Server) people() {
	leads := huma.Middlewares{s.leadsOnly}
	type peopleOut struct {
		Body struct {
			People  []Me     `json:"people"`
			Tickets []string `json:"tickets" doc:"All that there are"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "list-people", Method: http.MethodGet, Path: "/people", Summary: "Everybody, with role and tickets; for leads", Middlewares: leads},
		func(ctx context.Context, _ *struct{}) (*peopleOut, error) {
			people, err := s.store.People(ctx)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			out := &peopleOut{}
			out.Body.People, out.Body.Tickets = []Me{}, machine.Tickets
			for _, p := range people {
				out.Body.People = append(out.Body.People, me(p))
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
		out.Body.Person, out.Body.Code = me(p), code
		return out
	}
	huma.Register(s.api, huma.Operation{OperationID: "add-person", Method: http.MethodPost, Path: "/people", Summary: "Somebody new, with a one-time code; for leads", Middlewares: leads},
		func(ctx context.Context, in *struct {
			Body struct {
				SignIn string `json:"sign_in" pattern:"^[a-z0-9-]{1,80}$" doc:"The name to sign in with"`
				Somebody
			}
		},
		) (*codeOut, error) {
			if err := in.Body.sound(); err != nil {
				return nil, err
			}
			code, hash, until, err := NewCode()
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			p := store.Person{ID: in.Body.SignIn, SignIn: in.Body.SignIn, Name: in.Body.Name, Role: in.Body.Role, Tickets: in.Body.Tickets, PasswordHash: hash, CodeUntil: &until}
			added, err := s.store.AddPerson(ctx, p)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			if !added {
				return nil, huma.Error409Conflict("Somebody signs in by that name already. Choose another.")
			}
			return given(ctx, p, code), nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "change-person", Method: http.MethodPut, Path: "/people/{person}", Summary: "What somebody is called, their role and tickets; for leads", Middlewares: leads},
		func(ctx context.Context, in *struct {
			Person string `path:"person" maxLength:"80"`
			Body   Somebody
		},
		) (*meOut, error) {
			if err := in.Body.sound(); err != nil {
				return nil, err
			}
			err := s.store.ChangePerson(ctx, in.Person, in.Body.Name, in.Body.Role, in.Body.Tickets)
			if errors.Is(err, store.ErrLastLead) {
				return nil, huma.Error409Conflict("There is no other lead. Make somebody else one first.")
			}
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			p, err := s.store.Person(ctx, in.Person)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			return &meOut{me(p)}, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "give-code", Method: http.MethodPost, Path: "/people/{person}/code", Summary: "A one-time code for who lost their password, which ends their sessions; for leads", Middlewares: leads},
		func(ctx context.Context, in *struct {
			Person string `path:"person" maxLength:"80"`
		},
		) (*codeOut, error) {
			p, err := s.store.Person(ctx, in.Person)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			code, hash, until, err := NewCode()
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			if err := s.store.SetCode(ctx, p.ID, hash, until); err != nil {
				return nil, s.problem(ctx, err)
			}
			return given(ctx, p, code), nil
		})
}

// Somebody is what a lead says of a person.
type Somebody struct {
	Name    string   `json:"name" maxLength:"200"`
	Role    string   `json:"role" enum:"technician,lead,office"`
	Tickets []string `json:"tickets" maxItems:"10"`
}

func (b *Somebody) sound() error {
	if b.Name = strings.TrimSpace(b.Name); b.Name == "" {
		return huma.Error422UnprocessableEntity("Say what they are called.")
	}
	for _, t := range b.Tickets {
		if !slices.Contains(machine.Tickets, t) {
			return huma.Error422UnprocessableEntity("There is no such ticket: " + t + ". There are " + strings.Join(machine.Tickets, ", ") + ".")
		}
	}
	slices.Sort(b.Tickets)
	b.Tickets = slices.Compact(b.Tickets)
	return nil
}

// codeFor is how long a one-time code is good.
const codeFor = 24 * time.Hour

// NewCode is a one-time code of sixteen letters and digits that nobody mistakes for
// another, in four groups (80 bits), its hash, and until when it is good.
func NewCode() (code, hash string, until time.Time, err error) {
	const letters = "abcdefghjkmnpqrstvwxyz0123456789" // without i, l, o and u
	var drawn [16]byte
	_, _ = rand.Read(drawn[:]) // never fails (crypto/rand)
	var text strings.Builder
	for i, b := range drawn {
		if i > 0 && i%4 == 0 {
			text.WriteByte('-')
		}
		text.WriteByte(letters[int(b)%len(letters)])
	}
	code = text.String()
	hash, err = HashPassword(code)
	return code, hash, time.Now().Add(codeFor), err
}

// leadsOnly refuses everybody else before anything is read, and says whose it is.
func (s *Server) leadsOnly(hc huma.Context, next func(huma.Context)) {
	if person(hc.Context()).Role != "lead" {
		_ = huma.WriteErr(s.api, hc, http.StatusForbidden, "This is for leads. Ask yours.")
		return
	}
	next(hc)
}
