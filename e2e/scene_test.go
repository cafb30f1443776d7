// Package e2e drives the real program in a real browser. Every test has a program
// of its own on its own copy of the demo, so that they run in any order and beside
// each other.
package e2e

import (
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/demo"
	"evensteps/e2e/stage"
	"evensteps/library"
	"evensteps/store"
)

var house *stage.House

// atOnce is how many tests are played beside each other: pages mostly wait.
const atOnce = "3"

func TestMain(m *testing.M) {
	flag.Parse()
	if err := flag.Set("test.parallel", atOnce); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	h, err := stage.Open(context.Background())
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		h.Strike()
		os.Exit(1)
	}
	house = h
	code := m.Run()
	h.Strike()
	os.Exit(code)
}

// set is the stage of one test.
type set struct {
	*stage.Stage
	t *testing.T
}

func open(t *testing.T) set {
	t.Helper()
	t.Parallel()
	s, err := house.Stage(t.Context())
	t.Cleanup(s.Strike)
	require.NoError(t, err)
	return set{s, t}
}

// longest is how long one page is worked at the most.
const longest = 4 * time.Minute

// play opens a page and works it. What goes wrong leaves a picture.
func (s set) play(path string, work func(h stage.Hands)) {
	s.t.Helper()
	s.playAt(path, 1280, 800, work)
}

func (s set) playAt(path string, width, height int, work func(h stage.Hands)) {
	s.t.Helper()
	page, err := s.Page(path, width, height)
	require.NoError(s.t, err)
	page = page.CancelTimeout()
	err = rod.Try(func() { work(stage.Hands{Page: page.Timeout(longest)}) })
	if err != nil || s.t.Failed() {
		file := filepath.Join(os.TempDir(), strings.ReplaceAll(s.t.Name(), "/", "-")+".png")
		_ = stage.Shot(page.Timeout(10*time.Second), file)
		s.t.Logf("a picture of the page is in %s", file)
	}
	require.NoError(s.t, err)
	_ = page.Close()
}

// ask asks the store of the scene.
func (s set) ask(what func(*store.Store) error) {
	s.t.Helper()
	kept, err := store.Open(s.t.Context(), s.Database)
	require.NoError(s.t, err)
	defer func() { require.NoError(s.t, kept.Close()) }()
	require.NoError(s.t, what(kept))
}

func (s set) events(job string) []record.Event {
	s.t.Helper()
	return s.atMost(job, 1000)
}

// all are the events of a job, however many.
func (s set) all(job string) []record.Event {
	s.t.Helper()
	return s.atMost(job, 100_000)
}

func (s set) atMost(job string, most int) (out []record.Event) {
	s.t.Helper()
	s.ask(func(kept *store.Store) (err error) {
		out, err = kept.Events(s.t.Context(), job, 0, most)
		return err
	})
	return out
}

// bodies are the bodies of a job's events of one kind.
func (s set) bodies(job, kind string) (out []string) {
	s.t.Helper()
	for _, e := range s.events(job) {
		if e.Kind == kind {
			out = append(out, string(e.Body))
		}
	}
	return out
}

// photo is the last photo of a job as the server has it; empty while it has none.
func (s set) photo(job string) (out []byte) {
	s.t.Helper()
	bodies := s.bodies(job, "photo")
	require.NotEmpty(s.t, bodies)
	var b record.Photo
	require.NoError(s.t, json.Unmarshal([]byte(bodies[len(bodies)-1]), &b))
	s.ask(func(kept *store.Store) error {
		if p, err := kept.Photo(s.t.Context(), b.SHA256); err == nil {
			out = p.Bytes
		}
		return nil
	})
	return out
}

// freshJob puts one more job on a machine of the demo. goal may be empty.
func (s set) freshJob(id, appliance, complaint, goal string) {
	s.t.Helper()
	m, err := library.Map("tidemoor-tv6")
	require.NoError(s.t, err)
	began := time.Now().Add(-time.Hour)
	s.ask(func(kept *store.Store) error {
		if err := kept.PutJob(s.t.Context(), store.Job{ID: id, ApplianceID: appliance, Complaint: complaint, MapID: m.ID, MapRevision: m.Revision, CreatedAt: began}); err != nil || goal == "" {
			return err
		}
		p := demo.NewPlayer(m, scene.Job{ID: id, Complaint: complaint}, "mira", "demo-tablet", began, 1)
		if err := errors.Join(p.Answer(nil), p.Record("goal.added", record.GoalAdded{Goal: goal})); err != nil {
			return err
		}
		for _, e := range p.Events() {
			if err := kept.AppendStamped(s.t.Context(), e); err != nil {
				return err
			}
		}
		return nil
	})
}

func kinds(list []record.Event) map[string]int {
	out := map[string]int{}
	for _, e := range list {
		out[e.Kind]++
	}
	return out
}

// axe looks for what is wrong for those who use other means to read.
func axe(t *testing.T, h stage.Hands, name string) {
	t.Helper()
	source, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	require.NoError(t, err)
	page := h.Page.Timeout(30 * time.Second)
	page.MustEval(`source => { (0, eval)(source) }`, string(source))
	found := page.MustEval(`async () => {
		const r = await axe.run(document, { resultTypes: ["violations"] });
		return r.violations.map(v => v.id + ": " + v.nodes.map(n => n.html.slice(0, 120)).join(" | ")).join("\n");
	}`).Str()
	assert.Empty(t, found, name)
	assert.False(t, page.MustEval(`() => document.documentElement.scrollWidth > window.innerWidth`).Bool(), "%s scrolls sideways", name)
}

// aPhoto makes a picture of so many pixels, with words about a place in it as a
// camera writes them.
func aPhoto(t *testing.T, width, height int) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "photo.jpg")
	img := image.NewRGBA(image.Rect(0, 0, width, height))
	for x := range width {
		for y := range height {
			img.Set(x, y, color.RGBA{uint8(255 * x / width), uint8(255 * y / height), 120, 255})
		}
	}
	var b strings.Builder
	require.NoError(t, jpeg.Encode(&b, img, nil))
	text := b.String()
	// A comment segment behind the start of the picture: FF FE, its length, its text.
	note := "GPS 59.91 10.75"
	text = text[:2] + "\xff\xfe" + string([]byte{0, byte(len(note) + 2)}) + note + text[2:]
	require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
	return file
}

func take(h stage.Hands, file string) {
	h.Page.MustElement("footer ~ input[data-photo], input[data-photo]").MustSetFiles(file)
}

// touches counts the touches from now on, over all pages that are loaded anew.
func touches(h stage.Hands) func() int {
	const count = `(() => { if (window.touching) return; window.touching = true;
		addEventListener("click", e => { if (e.isTrusted) sessionStorage.touches = 1 + Number(sessionStorage.touches ?? 0); }, true); })()`
	h.Page.MustEvalOnNewDocument(count)
	h.Page.MustEval(`() => { sessionStorage.touches = 0; ` + count + ` }`)
	return func() int { return h.Page.MustEval(`() => Number(sessionStorage.touches)`).Int() }
}
