// Package stage sets the whole program up for a browser: a throwaway database
// filled with the demo, the real program as a process of its own, and headless
// Chromium. The end-to-end tests and the pictures of the docs play on it.
package stage

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/launcher"
	"github.com/go-rod/rod/lib/launcher/flags"
	"github.com/go-rod/rod/lib/proto"

	"evensteps/demo"
	"evensteps/server"
	"evensteps/store"
	"evensteps/store/cluster"
)

// House is what stages share: the program, built once; a PostgreSQL of its own
// with the demo in it, of which every stage has a copy; and headless Chromium.
type House struct {
	dir     string
	program string
	cluster *cluster.Cluster
	demo    string // the database that is copied
	pages   string // where pages of another version come from, if they do
	browser *rod.Browser
	ended
}

// Stage is a running program with a browser before it, on a database of its own.
type Stage struct {
	*Program
	Browser *rod.Browser
	front   string // where browsers come in, if that is not the program itself
	ended
}

// Front lets browsers come in elsewhere.
func (s *Stage) Front(url string) { s.front = url }

// At is where browsers come in.
func (s *Stage) At() string {
	if s.front != "" {
		return s.front
	}
	return s.URL
}

// ended is what is left to do at the end, the last begun first.
type ended []func()

func (e *ended) later(end func()) { *e = append(*e, end) }

// Strike ends all that was begun.
func (e *ended) Strike() {
	for i := len(*e) - 1; i >= 0; i-- {
		(*e)[i]()
	}
	*e = nil
}

// Open builds and starts what stages share. Call Strike when done, with an error,
// too.
func Open(ctx context.Context) (h *House, err error) {
	h = &House{}
	if h.dir, err = os.MkdirTemp("", "evensteps-stage-*"); err != nil {
		return h, fmt.Errorf("making a folder: %w", err)
	}
	h.later(func() { _ = os.RemoveAll(h.dir) })
	if h.program, err = Build(ctx, h.dir); err != nil {
		return h, err
	}
	var remove func()
	if h.cluster, remove, err = cluster.Throwaway(ctx); err != nil {
		return h, err
	}
	h.later(remove)
	if h.demo, err = h.cluster.Database(ctx); err != nil {
		return h, err
	}
	kept, err := store.Open(ctx, h.demo)
	if err != nil {
		return h, err
	}
	err = demo.Fill(ctx, kept, server.HashPassword, time.Now())
	if err := errors.Join(err, kept.Close()); err != nil {
		return h, err
	}
	if err := h.mix(ctx); err != nil {
		return h, err
	}
	return h, h.browse()
}

// Stage starts the program on a copy of the demo. Call Strike when done, with an
// error, too.
func (h *House) Stage(ctx context.Context) (s *Stage, err error) {
	s = &Stage{Browser: h.browser}
	database, err := h.cluster.Database(ctx, h.demo)
	if err != nil {
		return s, err
	}
	meter, err := s.standIn(ctx)
	if err != nil {
		return s, err
	}
	log := filepath.Join(h.dir, "server-"+filepath.Base(strings.Split(database, "?")[0])+".log")
	if s.Program, err = NewProgram(h.program, log, database, "EVENSTEPS_SIGN_INS_PER_MINUTE=100", "EVENSTEPS_METER="+meter); err != nil {
		return s, err
	}
	s.later(func() { _ = s.End(syscall.SIGTERM) })
	if h.pages != "" {
		front, err := join(s.URL, h.pages)
		if err != nil {
			return s, err
		}
		s.later(front.Close)
		s.front = front.URL
	}
	if os.Getenv(servers) == "2" {
		if s.twin, err = s.Another(); err != nil {
			return s, err
		}
		front, err := inTurn(s.URL, s.twin.URL)
		if err != nil {
			return s, err
		}
		s.later(front.Close)
		s.front = front.URL
	}
	return s, s.Start(ctx)
}

// Copy copies a database to which nobody may be connected, and returns the URL of
// the copy.
func (h *House) Copy(ctx context.Context, database string) (string, error) {
	return h.cluster.Database(ctx, database)
}

// Set opens a house with one stage in it. Call Strike when done, with an error,
// too.
func Set(ctx context.Context) (*Stage, error) {
	h, err := Open(ctx)
	if err != nil {
		return &Stage{ended: h.ended}, err
	}
	s, err := h.Stage(ctx)
	s.ended = append(h.ended, s.ended...)
	return s, err
}

// standIn starts the simulated meter of the demo and returns its address.
func (s *Stage) standIn(ctx context.Context) (string, error) {
	meter, err := demo.Meter()
	if err != nil {
		return "", err
	}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", fmt.Errorf("a port for the meter: %w", err)
	}
	ctx, stop := context.WithCancel(ctx)
	s.later(stop)
	go func() { _ = meter.Serve(ctx, l) }()
	return l.Addr().String(), nil
}

func (h *House) browse(more ...string) error {
	path, found := launcher.LookPath()
	if !found {
		return errors.New("no Chromium here: install the package chromium")
	}
	profile, err := os.MkdirTemp(h.dir, "browser-*")
	if err != nil {
		return fmt.Errorf("making a folder: %w", err)
	}
	l := launcher.New().Bin(path).Leakless(false).Headless(true).NoSandbox(true).UserDataDir(profile)
	usual := []string{"disable-gpu", "disable-quic", "no-first-run", "disable-background-networking", "disable-component-update", "disable-sync", "hide-scrollbars", "force-color-profile=srgb"}
	for _, f := range append(usual, more...) {
		name, value, has := strings.Cut(f, "=")
		if has {
			l.Set(flags.Flag(name), value)
		} else {
			l.Set(flags.Flag(name))
		}
	}
	control, err := l.Launch()
	if err != nil {
		return fmt.Errorf("starting Chromium: %w", err)
	}
	h.later(l.Kill)
	h.browser = rod.New().ControlURL(control)
	if err := h.browser.Connect(); err != nil {
		return fmt.Errorf("reaching Chromium: %w", err)
	}
	h.later(func() { _ = h.browser.Close() })
	return nil
}

// Page opens a page of that size in a browser context of its own.
func (s *Stage) Page(path string, width, height int) (*rod.Page, error) {
	own, err := s.Browser.Incognito()
	if err != nil {
		return nil, fmt.Errorf("opening a browser context: %w", err)
	}
	page, err := own.Page(proto.TargetCreateTarget{})
	if err != nil {
		return nil, fmt.Errorf("opening a page: %w", err)
	}
	if err := Size(page, width, height); err != nil {
		return nil, err
	}
	if _, err := page.EvalOnNewDocument(watchTouches); err != nil {
		return nil, fmt.Errorf("watching the touches: %w", err)
	}
	if err := page.Navigate(s.At() + path); err != nil {
		return nil, fmt.Errorf("opening %s: %w", path, err)
	}
	return page.Timeout(90 * time.Second), nil
}

// Size sets how large a page's window is.
func Size(page *rod.Page, width, height int) error {
	err := page.SetViewport(&proto.EmulationSetDeviceMetricsOverride{Width: width, Height: height, DeviceScaleFactor: 1})
	if err != nil {
		return fmt.Errorf("setting the size: %w", err)
	}
	return nil
}

// Shot writes a picture of what the window shows.
func Shot(page *rod.Page, file string) error {
	png, err := page.Screenshot(false, &proto.PageCaptureScreenshot{Format: proto.PageCaptureScreenshotFormatPng})
	if err != nil {
		return fmt.Errorf("taking %s: %w", file, err)
	}
	if err := os.WriteFile(file, png, 0o644); err != nil {
		return fmt.Errorf("keeping %s: %w", file, err)
	}
	return nil
}

// Visit opens a browser before a program that runs elsewhere, by the name that its
// proxy answers to, whoever made its certificate. Call Strike when done, with an
// error, too.
func Visit(ctx context.Context, address, host string) (*Stage, error) {
	s := &Stage{Program: &Program{URL: "https://" + host}}
	h := &House{}
	s.later(h.Strike)
	var err error
	if h.dir, err = os.MkdirTemp("", "evensteps-visit-*"); err != nil {
		return s, fmt.Errorf("making a folder: %w", err)
	}
	h.later(func() { _ = os.RemoveAll(h.dir) })
	if err := ctx.Err(); err != nil {
		return s, fmt.Errorf("opening a browser: %w", err)
	}
	at, err := url.Parse(address)
	if err != nil {
		return s, fmt.Errorf("reading the address: %w", err)
	}
	if err := h.browse("host-resolver-rules=MAP "+host+" "+at.Hostname(), "ignore-certificate-errors"); err != nil {
		return s, err
	}
	s.Browser = h.browser
	return s, nil
}
