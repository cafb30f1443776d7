package server

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"log/slog"
	"net/http"
	"net/url"
	"runtime/debug"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"github.com/go-chi/chi/v5/middleware"
	"github.com/google/uuid"

	"evensteps/store"
)

// numbered gives each request an id of its own; one that the sender brings is
// not believed.
func numbered(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		id := uuid.NewString()
		w.Header().Set("X-Request-Id", id)
		next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), middleware.RequestIDKey, id)))
	})
}

// logged writes one line for each request, and counts it.
func (s *Server) logged(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		began := time.Now()
		ww := middleware.NewWrapResponseWriter(w, r.ProtoMajor)
		defer func() {
			took := time.Since(began)
			s.metrics.answered(r, ww.Status(), took)
			s.log.LogAttrs(r.Context(), slog.LevelInfo, "request",
				slog.String("method", r.Method), slog.String("path", r.URL.Path), slog.Int("status", ww.Status()),
				slog.Int("bytes", ww.BytesWritten()), slog.Duration("took", took), slog.String("request", middleware.GetReqID(r.Context())))
		}()
		next.ServeHTTP(ww, r)
	})
}

// recovered answers a panic with a problem instead of a broken connection.
func (s *Server) recovered(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		defer func() {
			if v := recover(); v != nil {
				if v == http.ErrAbortHandler {
					panic(v)
				}
				s.metrics.panics.Inc()
				s.log.ErrorContext(r.Context(), "panic", "value", v, "stack", string(debug.Stack()))
				writeProblem(w, http.StatusInternalServerError, "Something went wrong here. It is written down; try again.")
			}
		}()
		next.ServeHTTP(w, r)
	})
}

// lettered refuses an address with bytes that are no letters: no database takes
// them, and nothing here is called so.
func lettered(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		query, err := url.QueryUnescape(r.URL.RawQuery)
		for _, s := range []string{r.URL.Path, query} {
			if err != nil || !utf8.ValidString(s) || strings.ContainsFunc(s, unicode.IsControl) {
				writeProblem(w, http.StatusBadRequest, "This address cannot be read.")
				return
			}
		}
		next.ServeHTTP(w, r)
	})
}

// EpochHeader says in every answer to who is signed in which database it came
// from. Another one than before was restored: devices send all again.
const EpochHeader = "Evensteps-Epoch"

// looked makes room for who asks, so that they are found with their session.
func looked(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		next.ServeHTTP(w, r.WithContext(store.WithCaller(r.Context())))
	})
}

func epoch(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if e := store.CallerOf(r.Context()).Epoch; e != "" {
			w.Header().Set(EpochHeader, e)
		}
		next.ServeHTTP(w, r)
	})
}

// tagged lets a browser ask whether an answer is still the same: then it is not
// sent again. All else is not kept by anybody.
func tagged(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method != http.MethodGet || isLive(r) || strings.HasPrefix(r.URL.Path, "/api/photos/") {
			w.Header().Set("Cache-Control", "no-store")
			next.ServeHTTP(w, r)
			return
		}
		held := &heldAnswer{ResponseWriter: w, status: http.StatusOK}
		next.ServeHTTP(held, r)
		may := w.Header().Get("Cache-Control")
		if may == "" && held.status != http.StatusOK {
			w.Header().Set("Cache-Control", "no-store")
		}
		if may == "" && held.status == http.StatusOK {
			sum := sha256.Sum256(held.body.Bytes())
			tag := `W/"` + hex.EncodeToString(sum[:12]) + `"`
			w.Header().Set("ETag", tag)
			w.Header().Set("Cache-Control", "private, no-cache")
			if r.Header.Get("If-None-Match") == tag {
				w.WriteHeader(http.StatusNotModified)
				return
			}
		}
		w.WriteHeader(held.status)
		_, _ = w.Write(held.body.Bytes()) // who has gone away has no need of it
	})
}

// heldAnswer holds an answer until it is known whether to send it.
type heldAnswer struct {
	http.ResponseWriter
	status int
	body   bytes.Buffer
}

func (h *heldAnswer) WriteHeader(status int)         { h.status = status }
func (h *heldAnswer) Write(data []byte) (int, error) { return h.body.Write(data) }
func (h *heldAnswer) Unwrap() http.ResponseWriter    { return h.ResponseWriter }

// secure sets the headers that hold for every answer. The pages add their
// content policy, which carries a nonce. Behind HTTPS browsers are told to stay
// there.
func secure(https bool) func(http.Handler) http.Handler {
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			h := w.Header()
			if https {
				h.Set("Strict-Transport-Security", "max-age=31536000")
			}
			h.Set("X-Content-Type-Options", "nosniff")
			h.Set("X-Frame-Options", "DENY")
			h.Set("Referrer-Policy", "same-origin")
			h.Set("Permissions-Policy", "geolocation=(), microphone=()")
			h.Set("Cross-Origin-Opener-Policy", "same-origin")
			h.Set("Content-Security-Policy", "default-src 'none'; frame-ancestors 'none'")
			next.ServeHTTP(w, r)
		})
	}
}

// writeProblem answers with RFC 9457 problem details.
func writeProblem(w http.ResponseWriter, status int, detail string) {
	w.Header().Set("Content-Type", "application/problem+json")
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(map[string]any{"title": http.StatusText(status), "status": status, "detail": detail})
}
