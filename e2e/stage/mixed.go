package stage

import (
	"context"
	"fmt"
	"io"
	"log"
	"net/http"
	"net/http/httptest"
	"net/http/httputil"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"sync/atomic"
	"syscall"
)

// While a company changes to a new version, pages of one version talk to a server
// of another, and a server of the old one works on a database of the new one. A
// program of another version that is named here takes one of the sides:
// EVENSTEPS_OTHER_PAGES the pages, EVENSTEPS_OTHER_SERVER all else.
const (
	otherPages  = "EVENSTEPS_OTHER_PAGES"
	otherServer = "EVENSTEPS_OTHER_SERVER"
)

// mix starts the program that pages come from, where the two sides are of
// different versions.
func (h *House) mix(ctx context.Context) error {
	from := os.Getenv(otherPages)
	if other := os.Getenv(otherServer); other != "" {
		from, h.program = h.program, other
	}
	if from == "" {
		return nil
	}
	database, err := h.cluster.Database(ctx, h.demo)
	if err != nil {
		return err
	}
	p, err := NewProgram(from, filepath.Join(h.dir, "pages.log"), database)
	if err != nil {
		return err
	}
	h.later(func() { _ = p.End(syscall.SIGTERM) })
	h.pages = p.URL
	return p.Start(ctx)
}

// servers says how many processes serve each stage, 1 or 2: requests go to them in turn,
// so that one browser is seldom answered by the same process twice running.
const servers = "EVENSTEPS_SERVERS"

// inTurn puts two servers behind one address.
func inTurn(one, two string) (*httptest.Server, error) {
	first, err := toward(one)
	if err != nil {
		return nil, err
	}
	second, err := toward(two)
	if err != nil {
		return nil, err
	}
	var asked atomic.Int64
	return httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if asked.Add(1)%2 == 0 {
			second.ServeHTTP(w, r)
			return
		}
		first.ServeHTTP(w, r)
	})), nil
}

// toward passes requests on to a server.
func toward(to string) (*httputil.ReverseProxy, error) {
	target, err := url.Parse(to)
	if err != nil {
		return nil, fmt.Errorf("reading an address: %w", err)
	}
	return &httputil.ReverseProxy{
		Rewrite:  func(r *httputil.ProxyRequest) { r.SetURL(target); r.Out.Host = r.In.Host },
		ErrorLog: log.New(io.Discard, "", 0), // a server that is killed is part of the play
	}, nil
}

// join puts a server and the pages of another one behind one address.
func join(server, pages string) (*httptest.Server, error) {
	api, err := toward(server)
	if err != nil {
		return nil, err
	}
	rest, err := toward(pages)
	if err != nil {
		return nil, err
	}
	return httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if strings.HasPrefix(r.URL.Path, "/api/") || r.URL.Path == "/readyz" {
			api.ServeHTTP(w, r)
			return
		}
		rest.ServeHTTP(w, r)
	})), nil
}
