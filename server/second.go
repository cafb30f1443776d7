package server

import (
	"bytes"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"fmt"
	"image/png"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5/middleware"
	"github.com/pquerna/otp"
	"github.com/pquerna/otp/hotp"
	"github.com/pquerna/otp/totp"

	"evensteps/store"
)

// The second factor is TOTP as RFC 6238 has it: SHA-1, six digits, a step of thirty
// seconds; the step before and the one after are taken, too, for clocks that are a
// little off. That is what every authenticator reads.
const (
	secondStep   = 30 * time.Second
	secondDigits = otp.DigitsSix
	spareCodes   = 10
)

// secondWanted is the type of the problem that says that a password is right, and that
// the six digits are still asked for.
const secondWanted = "second-factor"

// Digits are what an authenticator shows at a moment.
func Digits(secret string, at time.Time) (string, error) {
	code, err := hotp.GenerateCodeCustom(secret, uint64(at.Unix())/uint64(secondStep.Seconds()), hotp.ValidateOpts{Digits: secondDigits, Algorithm: otp.AlgorithmSHA1})
	if err != nil {
		return "", fmt.Errorf("reckoning the digits: %w", err)
	}
	return code, nil
}

// stepOf is the step at which a secret shows those digits, about now; 0 where it does
// not.
func stepOf(secret, digits string, now time.Time) int64 {
	for _, off := range []time.Duration{0, -secondStep, secondStep} {
		at := now.Add(off)
		if is, err := totp.ValidateCustom(digits, secret, at, totp.ValidateOpts{Period: uint(secondStep.Seconds()), Digits: secondDigits, Algorithm: otp.AlgorithmSHA1}); err == nil && is {
			return at.Unix() / int64(secondStep.Seconds())
		}
	}
	return 0
}

// second tells whether what was typed is good as a person's second factor, and uses it
// up: six digits that were not used before, or a spare code.
func (s *Server) second(ctx context.Context, p store.Person, typed string) (bool, error) {
	typed = strings.ToLower(strings.Join(strings.Fields(typed), ""))
	if step := stepOf(p.Second, typed, time.Now()); step > 0 {
		return s.store.UseStep(ctx, p.ID, step)
	}
	used, err := s.store.UseSpare(ctx, p.ID, spareHash(typed))
	if used {
		s.audit(ctx, p.ID, "spare code used", p.ID)
	}
	return used, err
}

// spareHash is what is kept of a spare code. It is drawn of 80 bits: it needs no slow
// hash.
func spareHash(code string) string {
	sum := sha256.Sum256([]byte(strings.ReplaceAll(code, "-", "")))
	return hex.EncodeToString(sum[:])
}

// audit notes what was done with accounts and rights. Where it cannot be kept the log
// has it: nobody is locked out by that.
func (s *Server) audit(ctx context.Context, by, what, whom string) {
	a := store.Audit{By: by, What: what, Whom: whom, Address: middleware.GetClientIP(ctx)}
	s.log.InfoContext(ctx, "audit", "by", by, "what", what, "whom", whom, "address", a.Address)
	if err := s.store.Note(ctx, a); err != nil {
		s.log.ErrorContext(ctx, "the audit list lacks a line", "err", err)
	}
}

// account is one's own: the second factor, and where one is signed in.
func (s *Server) account() {
	type secretOut struct {
		Body struct {
			Secret  string `json:"secret" doc:"To be typed into an authenticator, base32"`
			Picture string `json:"picture" doc:"The same as a QR code, a data: address of a PNG"`
		}
	}
	type password struct {
		Body struct {
			Password string `json:"password" minLength:"1" maxLength:"200"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "begin-second", Method: http.MethodPost, Path: "/me/second", Summary: "Begin a second factor: a secret for an authenticator. It counts once its digits were typed"},
		func(ctx context.Context, in *password) (*secretOut, error) {
			p := person(ctx)
			if err := s.oneself(ctx, p, in.Body.Password); err != nil {
				return nil, err
			}
			key, err := totp.Generate(totp.GenerateOpts{Issuer: "Even Steps", AccountName: p.SignIn, Period: uint(secondStep.Seconds()), Digits: secondDigits, Algorithm: otp.AlgorithmSHA1})
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			picture, err := key.Image(240, 240)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			var drawn bytes.Buffer
			if err := png.Encode(&drawn, picture); err != nil {
				return nil, s.problem(ctx, err)
			}
			s.sessions.Put(ctx, secretKey, key.Secret())
			out := &secretOut{}
			out.Body.Secret, out.Body.Picture = key.Secret(), "data:image/png;base64,"+base64.StdEncoding.EncodeToString(drawn.Bytes())
			return out, nil
		})

	type sparesOut struct {
		Body struct {
			Spares []string `json:"spares" doc:"Each good once, where the authenticator is lost; shown this once"`
		}
	}
	type digits struct {
		Body struct {
			Digits string `json:"digits" minLength:"6" maxLength:"12"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "confirm-second", Method: http.MethodPut, Path: "/me/second", Summary: "The second factor counts from now on; its spare codes"},
		func(ctx context.Context, in *digits) (*sparesOut, error) {
			p, secret := person(ctx), s.sessions.GetString(ctx, secretKey)
			if secret == "" {
				return nil, huma.Error409Conflict("Begin it again: this one was not begun here, or is done.")
			}
			if stepOf(secret, strings.Join(strings.Fields(in.Body.Digits), ""), time.Now()) == 0 {
				return nil, huma.Error422UnprocessableEntity("These digits are not the authenticator's. Wait for the next ones; where they are wrong again, look at the clocks.")
			}
			out := &sparesOut{}
			var hashes []string
			for range spareCodes {
				code := drawn(16)
				out.Body.Spares, hashes = append(out.Body.Spares, code), append(hashes, spareHash(code))
			}
			if err := s.store.SetSecond(ctx, p.ID, secret, hashes); err != nil {
				return nil, s.problem(ctx, err)
			}
			s.sessions.Remove(ctx, secretKey)
			// The other sessions were begun by the password alone.
			if err := s.store.EndOthers(ctx, p.ID, s.sessionID(ctx)); err != nil {
				return nil, s.problem(ctx, err)
			}
			s.audit(ctx, p.ID, "second factor begun", p.ID)
			return out, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "end-second", Method: http.MethodPost, Path: "/me/second/end", Summary: "Do without a second factor", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *password) (*struct{}, error) {
			p := person(ctx)
			if err := s.oneself(ctx, p, in.Body.Password); err != nil {
				return nil, err
			}
			if s.wantsSecond(p) {
				return nil, huma.Error403Forbidden("Your role signs in with a second factor. Begin another in its place.")
			}
			if err := s.store.SetSecond(ctx, p.ID, "", nil); err != nil {
				return nil, s.problem(ctx, err)
			}
			s.audit(ctx, p.ID, "second factor ended", p.ID)
			return nil, nil
		})

	type accountOut struct {
		Body struct {
			Second   bool        `json:"second" doc:"A second factor is asked for"`
			Spares   int         `json:"spares" doc:"Spare codes that are left"`
			Sessions []SessionIn `json:"sessions"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "account", Method: http.MethodGet, Path: "/me/account", Summary: "One's own second factor, and where one is signed in"},
		func(ctx context.Context, _ *struct{}) (*accountOut, error) {
			p := person(ctx)
			all, err := s.store.SignedIn(ctx, p.ID)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			out := &accountOut{}
			out.Body.Second, out.Body.Spares, out.Body.Sessions = p.Second != "", len(p.Spares), []SessionIn{}
			for _, one := range all {
				this := one.ID == s.sessionID(ctx)
				one.ID = shortOf(one.ID)
				out.Body.Sessions = append(out.Body.Sessions, SessionIn{one, this})
			}
			return out, nil
		})
	type endIn struct {
		Session string `path:"session" maxLength:"64"`
	}
	huma.Register(s.api, huma.Operation{OperationID: "end-session", Method: http.MethodDelete, Path: "/me/sessions/{session}", Summary: "End one of one's sessions: what was recorded there stays on that device", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *endIn) (*struct{}, error) {
			p := person(ctx)
			all, err := s.store.SignedIn(ctx, p.ID)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			for _, one := range all {
				if shortOf(one.ID) != in.Session {
					continue
				}
				if _, err := s.store.EndSessions(ctx, p.ID, one.ID); err != nil {
					return nil, s.problem(ctx, err)
				}
				s.audit(ctx, p.ID, "session ended", p.ID)
				return nil, nil
			}
			return nil, huma.Error404NotFound("This session has ended already.")
		})
}

// secretKey is where a session holds a secret that does not count yet.
const secretKey = "second"

// SessionIn is one place where one is signed in.
type SessionIn struct {
	store.SignedIn
	This bool `json:"this" doc:"The one that asks"`
}

// sessionID is how the store knows the session that asks: scs keeps the SHA-256 of its
// token.
func (s *Server) sessionID(ctx context.Context) string {
	sum := sha256.Sum256([]byte(s.sessions.Token(ctx)))
	return base64.RawURLEncoding.EncodeToString(sum[:])
}

// shortOf names a session to its owner; nobody signs in by it.
func shortOf(id string) string {
	sum := sha256.Sum256([]byte(id))
	return hex.EncodeToString(sum[:8])
}

// oneself demands one's own password once more.
func (s *Server) oneself(ctx context.Context, p store.Person, password string) error {
	from := middleware.GetClientIP(ctx)
	if s.tries.tooMany(p.SignIn, from) {
		return errTooMany
	}
	match, err := s.compare(ctx, password, p.PasswordHash)
	if err != nil {
		return s.problem(ctx, err)
	}
	if !match {
		s.tries.failed(p.SignIn, from)
		s.audit(ctx, p.ID, "wrong password", p.ID)
		return huma.Error403Forbidden("The password is wrong. Try again.")
	}
	return nil
}

// wantsSecond tells whether somebody of that role must have a second factor here.
func (s *Server) wantsSecond(p store.Person) bool {
	return s.secondForAll && p.Role != "technician"
}

// drawn is a code of so many letters and digits that nobody mistakes for another, in
// groups of four; each is worth five bits.
func drawn(letters int) string {
	const of = "abcdefghjkmnpqrstvwxyz0123456789" // without i, l, o and u
	bytes := make([]byte, letters)
	_, _ = rand.Read(bytes) // never fails (crypto/rand)
	var text strings.Builder
	for i, b := range bytes {
		if i > 0 && i%4 == 0 {
			text.WriteByte('-')
		}
		text.WriteByte(of[int(b)%len(of)])
	}
	return text.String()
}
