// Package server answers browsers: the typed API under /api, and the built
// pages. Its handlers are thin: decode, call the store and the core, encode.
// No rule of the job stands here.
package server

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"runtime"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/andybalholm/brotli"
	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
	"golang.org/x/sync/semaphore"
	"golang.org/x/sync/singleflight"

	"evensteps/core/company"
	"evensteps/core/record"
	"evensteps/store"
)

// Options of a server.
type Options struct {
	Store *store.Store
	Log   *slog.Logger
	// SecureCookies marks cookies for HTTPS alone. Off only for the demo on
	// loopback.
	SecureCookies bool
	// SignInsPerMinute limits the wrong passwords of an account at one address; an
	// address has ten times as many. 0 means 10.
	SignInsPerMinute int
	// TrustedProxies are the networks, as 10.0.0.0/8, whose word is taken for where a
	// request came from (X-Forwarded-For). Empty: where the connection comes from.
	TrustedProxies []string
	// SecondForAll demands a second factor of supervisors and the office.
	SecondForAll bool
	// Timeout is how long a request may take; 0 means 20 seconds.
	Timeout time.Duration
	// RowsFor is how long Today may show somebody else's job as it was when newer
	// facts have come; 0 means 2 seconds, below 0 not at all.
	RowsFor time.Duration
	// KnownFor is how long the company, its people and its meters stand as they were
	// a moment ago. 0 is two seconds.
	KnownFor time.Duration
	// Meter is the address of a meter that speaks SCPI over TCP; empty where none
	// is joined.
	Meter string
}

// Server answers requests.
type Server struct {
	store    *store.Store
	log      *slog.Logger
	sessions *scs.SessionManager
	books    *books
	made     memory[madeRow]
	rowsFor  time.Duration
	knownFor time.Duration
	workers  workers // people and meters that rows are made with
	itself   itself
	making   singleflight.Group
	tries    *tries
	ears     *ears
	metrics  *metrics
	// secondForAll demands a second factor of all but technicians.
	secondForAll bool
	hashing      *semaphore.Weighted
	drawing      *semaphore.Weighted // photos are unpacked one at a time
	router       chi.Router
	api          huma.API
}

// MostBytes is the largest request body that is read, but for photos.
const MostBytes = record.MostBatchBytes

// How long a request may take in all; a photo, over a slow line, takes longer.
// The first bounds the work, the others what is read and written.
const (
	requestTimeout = 20 * time.Second
	photoTimeout   = 3 * time.Minute
	lineTimeout    = time.Minute
)

// Listen answers on a listener until the context ends, then lets what is under
// way finish. Who sends or reads too slowly is cut off.
func (s *Server) Listen(ctx context.Context, l net.Listener) error {
	srv := &http.Server{Handler: s, ReadHeaderTimeout: 10 * time.Second, ReadTimeout: lineTimeout, WriteTimeout: lineTimeout, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 32 << 10}
	srv.RegisterOnShutdown(func() { close(s.ears.ending) })
	work, end := context.WithCancel(ctx)
	defer end()
	go s.Work(work)
	go s.Hear(work)
	failed := make(chan error, 1)
	go func() { failed <- srv.Serve(l) }()
	select {
	case err := <-failed:
		return fmt.Errorf("serving: %w", err)
	case <-ctx.Done():
	}
	last, cancel := context.WithTimeout(context.Background(), 10*time.Second)
	defer cancel()
	if err := srv.Shutdown(last); err != nil {
		return fmt.Errorf("ending: %w", err)
	}
	return nil
}

// timed ends the work of a request that takes too long: whoever waits for a
// database that says nothing is told so.
func timed(usual time.Duration) func(http.Handler) http.Handler {
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			line := http.NewResponseController(w)
			if isLive(r) { // it goes on for as long as it says itself, and no proxy holds it back
				w.Header().Set("X-Accel-Buffering", "no")
				_ = line.SetReadDeadline(time.Time{})
				next.ServeHTTP(w, r)
				return
			}
			most := usual
			if strings.HasPrefix(r.URL.Path, "/api/photos/") {
				most = photoTimeout
				_ = line.SetReadDeadline(time.Now().Add(most)) // not every writer has a line
				_ = line.SetWriteDeadline(time.Now().Add(most))
			}
			ctx, cancel := context.WithTimeout(r.Context(), most)
			defer cancel()
			next.ServeHTTP(w, r.WithContext(ctx))
		})
	}
}

// isLive tells whether an answer goes on while there is something to tell.
func isLive(r *http.Request) bool {
	return strings.HasPrefix(r.URL.Path, "/api/jobs/") && strings.HasSuffix(r.URL.Path, "/live")
}

// Hear passes on what becomes other on jobs, in all processes, until the context ends.
func (s *Server) Hear(ctx context.Context) {
	wrong := func(err error) { s.log.WarnContext(ctx, "devices are told later, or ask", "err", err) }
	go s.store.Tell(ctx, wrong)
	s.store.Hear(ctx, s.ears.hear, s.ears.missed, wrong)
}

// compressed packs the API's answers: Brotli where it is known, else gzip.
func compressed() func(http.Handler) http.Handler {
	c := middleware.NewCompressor(5, "application/json", "application/problem+json")
	c.SetEncoder("br", func(w io.Writer, _ int) io.Writer {
		return brotli.NewWriterOptions(w, brotli.WriterOptions{Quality: 4, LGWin: 18}) // a small window: many at once cost little
	})
	return c.Handler
}

// limited reads no more of a body than its kind may have.
func limited(next http.Handler) http.Handler {
	small, photo, table := middleware.RequestSize(MostBytes)(next), middleware.RequestSize(MostPhotoBytes)(next), middleware.RequestSize(company.MostBytes+1)(next)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		switch {
		case strings.HasPrefix(r.URL.Path, "/api/photos/"):
			photo.ServeHTTP(w, r)
		case strings.HasPrefix(r.URL.Path, "/api/tables/"):
			table.ServeHTTP(w, r)
		default:
			small.ServeHTTP(w, r)
		}
	})
}

func init() {
	huma.DefaultArrayNullable = false // our lists are empty, never null
}

// New makes a server.
func New(o Options) *Server {
	if o.Log == nil {
		o.Log = slog.New(slog.DiscardHandler)
	}
	if o.Timeout == 0 {
		o.Timeout = requestTimeout
	}
	if o.RowsFor == 0 {
		o.RowsFor = 2 * time.Second
	}
	if o.KnownFor == 0 {
		o.KnownFor = 2 * time.Second
	}
	if o.SignInsPerMinute == 0 {
		o.SignInsPerMinute = 10
	}
	s := &Server{store: o.Store, log: o.Log, books: newBooks(o.Store), made: newMemory[madeRow](mostMade), rowsFor: o.RowsFor, knownFor: o.KnownFor, tries: newTries(o.SignInsPerMinute), ears: newEars(), secondForAll: o.SecondForAll, hashing: semaphore.NewWeighted(int64(runtime.GOMAXPROCS(0))), drawing: semaphore.NewWeighted(1)}
	s.metrics = newMetrics(s)
	s.sessions = scs.New()
	s.sessions.Store = o.Store.Sessions()
	s.sessions.HashTokenInStore = true
	s.sessions.Lifetime = 12 * time.Hour
	s.sessions.Cookie.Name = cookie
	if o.SecureCookies { // browsers take it from this host over HTTPS alone
		s.sessions.Cookie.Name = "__Host-" + cookie
	}
	s.sessions.Cookie.HttpOnly = true
	s.sessions.Cookie.SameSite = http.SameSiteLaxMode
	s.sessions.Cookie.Secure = o.SecureCookies
	s.sessions.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) {
		s.log.ErrorContext(r.Context(), "session", "err", err)
		w.Header().Set("Retry-After", retryAfter)
		writeProblem(w, http.StatusServiceUnavailable, away)
	}
	s.routes(o)
	return s
}

// ServeHTTP answers one request.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.router.ServeHTTP(w, r) }

func (s *Server) routes(o Options) {
	r := chi.NewRouter()
	from := middleware.ClientIPFromRemoteAddr
	if len(o.TrustedProxies) > 0 {
		from = middleware.ClientIPFromXFF(o.TrustedProxies...)
	}
	r.Use(numbered, from, s.logged, s.recovered, secure(o.SecureCookies), lettered, middleware.GetHead)
	r.Use(http.NewCrossOriginProtection().Handler)
	r.Get("/healthz", func(w http.ResponseWriter, _ *http.Request) { fmt.Fprintln(w, "up") })
	r.Get("/readyz", func(w http.ResponseWriter, r *http.Request) {
		ctx, cancel := context.WithTimeout(r.Context(), 2*time.Second)
		defer cancel()
		if err := s.store.Ready(ctx); err != nil {
			s.log.WarnContext(ctx, "not ready", "err", err)
			w.Header().Set("Retry-After", retryAfter)
			writeProblem(w, http.StatusServiceUnavailable, "The database does not answer, or takes nothing.")
			return
		}
		fmt.Fprintln(w, "ready")
	})
	r.Route("/api", func(r chi.Router) {
		r.Use(limited, timed(o.Timeout), compressed(), tagged, looked, s.sessions.LoadAndSave, epoch)
		s.api = newAPI(r)
		s.signing()
		s.account()
		s.today()
		s.jobs()
		s.maps()
		s.events()
		s.live()
		s.photos()
		s.people()
		s.meters(o.Meter)
		s.calls()
		s.places()
		s.firm()
		s.tables()
		s.audits()
		r.NotFound(func(w http.ResponseWriter, _ *http.Request) {
			writeProblem(w, http.StatusNotFound, "There is nothing at this address.")
		})
	})
	r.NotFound(newPages().ServeHTTP)
	s.router = r
}

// cookie is the session's.
const cookie = "evensteps"

// anybody may ask for it, signed in or not.
var anybody = []map[string][]string{}

func newAPI(r chi.Router) huma.API {
	config := huma.DefaultConfig("Even Steps", "1")
	config.DocsPath, config.OpenAPIPath, config.SchemasPath = "", "/openapi", ""
	config.CreateHooks = nil
	config.Servers = []*huma.Server{{URL: "/api"}}
	config.Components.SecuritySchemes = map[string]*huma.SecurityScheme{
		"session": {Type: "apiKey", In: "cookie", Name: cookie, Description: "The session that signing in begins"},
	}
	config.Security = []map[string][]string{{"session": {}}}
	return humachi.New(r, config)
}

// What people are told where the database does not take something.
const (
	away       = "The database does not answer. What you recorded is on this device and is sent later."
	unkeepable = "It holds a letter or a number that cannot be kept. Write it otherwise."
	retryAfter = "5" // seconds
)

// problem makes RFC 9457 details from an error of the store. What it does not
// know stays inside; the log has it.
func (s *Server) problem(ctx context.Context, err error) error {
	switch {
	case errors.Is(err, store.ErrNotFound):
		return huma.Error404NotFound(err.Error())
	case errors.Is(err, store.ErrChanged):
		return huma.Error409Conflict(s.changedMeanwhile(ctx, err))
	case errors.Is(err, store.ErrTaken):
		return huma.Error409Conflict("There is one of that id already. Choose another.")
	case errors.Is(err, store.ErrItself):
		return huma.Error422UnprocessableEntity("A machine cannot be merged into itself, nor with one that was merged already.")
	case errors.Is(err, store.ErrLastSupervisor):
		return huma.Error409Conflict("There is no other supervisor. Make somebody else one first.")
	case errors.Is(err, store.ErrOtherBody):
		return huma.Error409Conflict("This was sent before, and said something else. The first stays.")
	case store.Unkeepable(err):
		s.log.WarnContext(ctx, "not taken", "err", err, "request", middleware.GetReqID(ctx))
		return huma.Error422UnprocessableEntity(unkeepable)
	case errors.Is(err, context.Canceled) && ctx.Err() != nil:
		return huma.NewError(499, "The request was given up.")
	}
	s.log.ErrorContext(ctx, "request failed", "err", err, "request", middleware.GetReqID(ctx))
	if store.Passes(err) || s.store.Ready(ctx) != nil {
		return huma.ErrorWithHeaders(huma.Error503ServiceUnavailable(away), http.Header{"Retry-After": {retryAfter}})
	}
	return huma.Error500InternalServerError("Something went wrong here. It is written down; try again.")
}
