package server

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5/middleware"

	"evensteps/core/company"
	"evensteps/store"
)

// Me is who is signed in.
type Me struct {
	ID      string   `json:"id"`
	Name    string   `json:"name"`
	SignIn  string   `json:"sign_in" doc:"The name to sign in with"`
	Role    string   `json:"role" enum:"technician,supervisor,office"`
	Tickets []string `json:"tickets"`
	Choose  bool     `json:"choose" doc:"Signed in with a one-time code: nothing else goes before a password of one's own"`
	Second  bool     `json:"second" doc:"This role signs in with a second factor, and there is none yet: nothing else goes before it"`
}

type meOut struct{ Body Me }

type signIn struct {
	Body struct {
		Name     string `json:"name" minLength:"1" maxLength:"80" doc:"The name to sign in by"`
		Password string `json:"password" minLength:"1" maxLength:"200"`
		Second   string `json:"second,omitempty" maxLength:"40" doc:"Six digits of the authenticator, or a spare code; asked for by a 401 of the type second-factor"`
	}
	Agent string `header:"User-Agent"`
}

// passwords are hashed with argon2id over 19 MiB, twice, in one lane: the least
// that OWASP's password storage cheat sheet asks for (from memory).
var passwords = argon2id.Params{Memory: 19 * 1024, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// HashPassword makes the argon2id string that is kept for a password.
func HashPassword(password string) (string, error) {
	hash, err := argon2id.CreateHash(password, &passwords)
	if err != nil {
		return "", fmt.Errorf("hashing a password: %w", err)
	}
	return hash, nil
}

// nobody is compared with where there is no such sign-in, so that the time
// taken does not tell.
var nobody = func() string {
	hash, err := HashPassword("nobody signs in by this")
	if err != nil {
		panic(err)
	}
	return hash
}()

type personKey struct{}

const closedAccount = "This account is closed. What you recorded stays on this device; ask your supervisor to open it again."

// signing adds sign-in and sign-out, and demands a session for all that is
// added after it.
func (s *Server) signing() {
	huma.Register(s.api, huma.Operation{OperationID: "sign-in", Method: http.MethodPost, Path: "/sign-in", Summary: "Sign in", Security: anybody}, s.signIn)
	huma.Register(s.api, huma.Operation{OperationID: "sign-out", Method: http.MethodPost, Path: "/sign-out", Summary: "Sign out", Security: anybody, DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, _ *struct{}) (*struct{}, error) {
			if err := s.sessions.Destroy(ctx); err != nil {
				return nil, s.problem(ctx, err)
			}
			return nil, nil
		})
	s.api.UseMiddleware(func(hc huma.Context, next func(huma.Context)) {
		id := s.sessions.GetString(hc.Context(), store.SessionPerson)
		if id == "" {
			_ = huma.WriteErr(s.api, hc, http.StatusUnauthorized, "Sign in first. What you recorded stays on this device and is sent then.")
			return
		}
		p, err := s.caller(hc.Context(), id)
		if err != nil {
			problem := s.problem(hc.Context(), err)
			var status huma.StatusError
			if errors.As(problem, &status) && status.GetStatus() != http.StatusNotFound {
				_ = huma.WriteErr(s.api, hc, status.GetStatus(), status.Error())
				return
			}
			_ = huma.WriteErr(s.api, hc, http.StatusUnauthorized, "This account is gone. Ask your supervisor.")
			return
		}
		if p.ClosedAt != nil {
			_ = huma.WriteErr(s.api, hc, http.StatusUnauthorized, closedAccount)
			return
		}
		if s.sessions.GetString(hc.Context(), "password") != fingerprint(p.PasswordHash) {
			_ = huma.WriteErr(s.api, hc, http.StatusUnauthorized, "Your password was changed. Sign in with the new one; what you recorded stays on this device.")
			return
		}
		if op := hc.Operation().OperationID; p.CodeUntil != nil && op != "me" && op != "change-password" {
			_ = huma.WriteErr(s.api, hc, http.StatusUnauthorized, "Choose a password of your own first. What you recorded stays on this device and is sent then.")
			return
		}
		if op := hc.Operation().OperationID; s.wantsSecond(p) && p.Second == "" && !slices.Contains(beforeSecond, op) {
			_ = huma.WriteErr(s.api, hc, http.StatusUnauthorized, "Your role signs in with a second factor. Begin it first; what you recorded stays on this device and is sent then.")
			return
		}
		next(huma.WithValue(hc, personKey{}, p))
	})
	huma.Register(s.api, huma.Operation{OperationID: "me", Method: http.MethodGet, Path: "/me", Summary: "Who is signed in"},
		func(ctx context.Context, _ *struct{}) (*meOut, error) { return &meOut{s.me(ctx, person(ctx))}, nil })
	huma.Register(s.api, huma.Operation{OperationID: "change-password", Method: http.MethodPost, Path: "/me/password", Summary: "Change one's own password", DefaultStatus: http.StatusNoContent}, s.changePassword)
}

// caller is the person of a session: they came with it, but for sessions that are
// older than that.
func (s *Server) caller(ctx context.Context, id string) (store.Person, error) {
	if p := store.CallerOf(ctx).Person; p != nil && p.ID == id {
		return *p, nil
	}
	return s.store.Person(ctx, id)
}

// beforeSecond is what goes before somebody has the second factor that they must have.
var beforeSecond = []string{"me", "change-password", "begin-second", "confirm-second"}

type changePassword struct {
	Body struct {
		Old string `json:"old,omitempty" maxLength:"200" doc:"Not asked of who signed in with a one-time code"`
		New string `json:"new" minLength:"10" maxLength:"200" doc:"At least ten letters"`
	}
}

// changePassword changes one's own, by the old one or after a one-time code, and
// ends one's other sessions by giving this one a new token.
func (s *Server) changePassword(ctx context.Context, in *changePassword) (*struct{}, error) {
	p := person(ctx)
	from := middleware.GetClientIP(ctx)
	if s.tries.tooMany(p.SignIn, from) {
		return nil, errTooMany
	}
	old := in.Body.Old
	if p.CodeUntil != nil { // by the code they came in; only that it is not kept as it is
		old = in.Body.New
	}
	match, err := s.compare(ctx, old, p.PasswordHash)
	if err != nil {
		return nil, s.problem(ctx, err)
	}
	if p.CodeUntil != nil && match {
		return nil, huma.Error422UnprocessableEntity("That is the code. Choose another: it is known to whoever gave it to you.")
	}
	if p.CodeUntil == nil && !match {
		s.tries.failed(p.SignIn, from)
		s.audit(ctx, p.ID, "wrong password", p.ID)
		return nil, huma.Error403Forbidden("The old password is wrong. Try again, or ask your supervisor for a new one.")
	}
	if weak(in.Body.New, p) {
		return nil, errWeak
	}
	hash, err := HashPassword(in.Body.New)
	if err != nil {
		return nil, s.problem(ctx, err)
	}
	if err := s.store.SetPassword(ctx, p.ID, hash); err != nil {
		return nil, s.problem(ctx, err)
	}
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, s.problem(ctx, err)
	}
	s.sessions.Put(ctx, "password", fingerprint(hash))
	s.audit(ctx, p.ID, "password changed", p.ID)
	return nil, nil
}

// compare compares a password with a hash. Each takes much memory on purpose, so
// no more are under way than there are processors: the others wait.
func (s *Server) compare(ctx context.Context, password, hash string) (bool, error) {
	if err := s.hashing.Acquire(ctx, 1); err != nil {
		return false, fmt.Errorf("waiting to compare a password: %w", err)
	}
	defer s.hashing.Release(1)
	match, err := argon2id.ComparePasswordAndHash(password, hash)
	if err != nil {
		return false, fmt.Errorf("comparing a password: %w", err)
	}
	return match, nil
}

// fingerprint is of a password's hash; a session holds it, and ends when the
// password is another.
func fingerprint(hash string) string {
	sum := sha256.Sum256([]byte(hash))
	return hex.EncodeToString(sum[:8])
}

func (s *Server) signIn(ctx context.Context, in *signIn) (*meOut, error) {
	name, from := strings.ToLower(strings.TrimSpace(in.Body.Name)), middleware.GetClientIP(ctx)
	if s.tries.tooMany(name, from) {
		return nil, errTooMany
	}
	p, err := s.store.PersonBySignIn(ctx, name)
	hash := p.PasswordHash
	if errors.Is(err, store.ErrNotFound) || err == nil && hash == "" { // nobody of that name, or who was not given a code yet
		hash = nobody
	} else if err != nil {
		return nil, s.problem(ctx, err)
	}
	match, hashErr := s.compare(ctx, in.Body.Password, hash)
	if hashErr != nil {
		return nil, s.problem(ctx, hashErr)
	}
	if !match || err != nil {
		s.tries.failed(name, from)
		s.audit(ctx, name, "wrong password", "")
		return nil, huma.Error401Unauthorized("Name or password is wrong. Try again, or ask your supervisor for a new one.")
	}
	if p.ClosedAt != nil {
		return nil, huma.Error401Unauthorized(closedAccount)
	}
	if p.Second != "" && p.CodeUntil == nil {
		if in.Body.Second == "" {
			return nil, &huma.ErrorModel{Type: secondWanted, Status: http.StatusUnauthorized, Title: http.StatusText(http.StatusUnauthorized), Detail: "Enter the six digits of your authenticator, or a spare code."}
		}
		good, err := s.second(ctx, p, in.Body.Second)
		if err != nil {
			return nil, s.problem(ctx, err)
		}
		if !good {
			s.tries.failed(name, from)
			s.audit(ctx, p.ID, "wrong second factor", p.ID)
			return nil, &huma.ErrorModel{Type: secondWanted, Status: http.StatusUnauthorized, Title: http.StatusText(http.StatusUnauthorized), Detail: "These digits are wrong, or were used before. Wait for the next ones."}
		}
	}
	if p.CodeUntil != nil {
		used, err := s.store.UseCode(ctx, p.ID)
		if err != nil {
			return nil, s.problem(ctx, err)
		}
		if !used {
			s.tries.failed(name, from)
			return nil, huma.Error401Unauthorized("This code was used before, or has run out. Ask your supervisor for another.")
		}
	}
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, s.problem(ctx, err)
	}
	s.sessions.Put(ctx, store.SessionPerson, p.ID)
	s.sessions.Put(ctx, store.SessionDevice, cut(in.Agent, 200))
	s.sessions.Put(ctx, store.SessionAddress, from)
	s.sessions.Put(ctx, "password", fingerprint(p.PasswordHash))
	s.audit(ctx, p.ID, "signed in", p.ID)
	return &meOut{s.me(ctx, p)}, nil
}

func person(ctx context.Context) store.Person {
	p, _ := ctx.Value(personKey{}).(store.Person)
	return p
}

// me is a person with the tickets that they hold now.
func (s *Server) me(ctx context.Context, p store.Person) Me {
	return Me{p.ID, p.Name, p.SignIn, p.Role, company.HeldNow(p.Held, time.Now(), s.zone(ctx)), p.CodeUntil != nil, s.wantsSecond(p) && p.Second == ""}
}

// cut is the beginning of a text, so many letters at the most.
func cut(text string, most int) string {
	letters := []rune(strings.ToValidUTF8(text, ""))
	return string(letters[:min(most, len(letters))])
}
