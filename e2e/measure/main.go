// Command measure takes the figures that only a browser can give: how soon the
// first page can be worked, how soon the core is ready in it, how long a plan
// and a view take there, and how much memory the server holds meanwhile.
package main

import (
	"context"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"os"
	"slices"
	"strings"
	"time"

	"github.com/go-rod/rod"
	"github.com/google/uuid"

	"evensteps/core/record"
	"evensteps/e2e/stage"
	"evensteps/store"
)

const (
	runs     = 7
	browsers = 8
	events   = 500
	// touchedEvents are in the job whose touches are followed to the paint.
	touchedEvents = 300
)

// settles is how long a touch may take to be kept.
const settles = 500 * time.Millisecond

func main() {
	if err := measure(context.Background()); err != nil {
		fmt.Fprintln(os.Stderr, "measure:", err)
		os.Exit(1)
	}
}

func measure(ctx context.Context) (err error) {
	s, err := stage.Set(ctx)
	defer s.Strike()
	if err != nil {
		return err
	}
	if err := lengthen(ctx, s, "j-102", events); err != nil {
		return err
	}
	if err := lengthen(ctx, s, "j-117", touchedEvents); err != nil {
		return err
	}
	photo, err := large()
	if err != nil {
		return err
	}
	defer func() { _ = os.Remove(photo) }()
	return rod.Try(func() {
		firstPage(s)
		rim := "The drum rim lies inside"
		views(s, "Go on: Guest house on the point", fmt.Sprintf("fold and view of %d events", events), rim, "Undo", rim, "Undo")
		views(s, "Open: School kitchen, dryer", "view with a new plan", "Done", "Undo")
		search(s, "j-113")
		painted(s, "Open: Cabin 21, dryer", photo)
		memory(s)
	})
}

// lengthen counts one lot again and again until a job has so many events.
func lengthen(ctx context.Context, s *stage.Stage, job string, most int) error {
	kept, err := store.Open(ctx, s.Database)
	if err != nil {
		return err
	}
	defer func() { _ = kept.Close() }()
	for n := 1; ; n++ {
		at := time.Now()
		e := record.Event{ID: uuid.Must(uuid.NewV7()).String(), Job: job, By: "jonna", Device: "measure", N: n, Wall: at, Since: float64(n), Run: "measure", Kind: "lot.counted", Body: []byte(`{"lot":"toe-off/1","side":"out","count":2}`)}
		got, err := kept.Append(ctx, e, record.Sent{Run: "measure", Since: float64(n), Wall: at, Received: at})
		if err != nil {
			return err
		}
		if got.Num >= most {
			return nil
		}
	}
}

func report(what string, ms []float64) {
	slices.Sort(ms)
	fmt.Printf("Browser/%-50s %8.1f ms-median %8.1f ms-most (of %d)\n", strings.ReplaceAll(what, " ", "-"), ms[len(ms)/2], ms[len(ms)-1], len(ms))
}

// firstPage opens the sign-in page in a fresh browser context each time.
func firstPage(s *stage.Stage) {
	var usable, ready []float64
	for range runs {
		page, err := s.Page("/healthz", 1280, 800)
		must(err)
		page.MustEvalOnNewDocument(`(() => { const look = () => {
			if (document.querySelector('input[autocomplete="username"]')) window.usable = performance.now();
			else requestAnimationFrame(look);
		}; requestAnimationFrame(look); })()`)
		page.MustNavigate(s.At() + "/")
		page.MustWait(`() => window.usable && performance.getEntriesByName("core ready").length > 0`)
		usable = append(usable, page.MustEval(`() => window.usable`).Num())
		ready = append(ready, page.MustEval(`() => performance.getEntriesByName("core ready")[0].duration`).Num())
		page.MustClose()
	}
	report("first page can be worked", usable)
	report("core ready, from its start", ready)
}

// views opens a job again and again, in a page loaded anew each time, and reads
// what the core took for its first view; then works a few touches, each of which
// changes the plan or not.
func views(s *stage.Stage, job, what string, touches ...string) {
	page, err := s.Page("/", 1280, 800)
	must(err)
	h := stage.Hands{Page: page.CancelTimeout()}
	h.As("mira")
	var first, later []float64
	for range runs {
		h.Touch(job)
		h.Page.MustWait(`() => !!document.querySelector("footer")`)
		for _, words := range touches {
			before := h.Page.MustEval(`() => performance.getEntriesByName("core view").length`).Int()
			h.Touch(words)
			h.Page.MustWait(`before => performance.getEntriesByName("core view").length > before`, before)
			time.Sleep(settles) // a view of the touch before may come only now
			h.Says("all sent")
		}
		took := h.Page.MustEval(`() => performance.getEntriesByName("core view").map(e => e.duration)`).Arr()
		first = append(first, took[0].Num())
		for _, t := range took[1:] {
			later = append(later, t.Num())
		}
		h.Page.MustNavigate(s.At() + "/")
		h.On("Today")
	}
	report(what+", the page just loaded", first)
	if len(later) > 0 {
		report(what+", after a touch", later)
	}
	h.Page.MustClose()
}

// search opens the search of a job again and again, in a page loaded anew each
// time, and reads what the core took for the next test, and to decide.
func search(s *stage.Stage, job string) {
	page, err := s.Page("/", 1280, 800)
	must(err)
	h := stage.Hands{Page: page.CancelTimeout()}
	h.As("mira")
	for _, call := range []string{"find", "decide"} {
		var took []float64
		for range runs {
			h.Page.MustNavigate(s.At() + "/jobs/" + job + "/" + call)
			h.Page.MustWait(`name => performance.getEntriesByName(name).length > 0`, "core "+call)
			took = append(took, h.Page.MustEval(`name => performance.getEntriesByName(name)[0].duration`, "core "+call).Num())
		}
		report(call+" on the dryer, the page just loaded", took)
	}
	h.Page.MustClose()
}

// large makes a photo of twelve megapixels, not plain, so that it is work to
// read.
func large() (string, error) {
	img := image.NewRGBA(image.Rect(0, 0, 4000, 3000))
	for i := range img.Pix {
		img.Pix[i] = uint8(i*31 + i>>9*17)
		if i%4 == 3 {
			img.Pix[i] = 255
		}
	}
	f, err := os.CreateTemp("", "photo-*.jpg")
	if err != nil {
		return "", fmt.Errorf("making a photo: %w", err)
	}
	if err := errors.Join(jpeg.Encode(f, img, &jpeg.Options{Quality: 80}), f.Close()); err != nil {
		return "", fmt.Errorf("making a photo: %w", err)
	}
	return f.Name(), nil
}

// painted follows touches of Done from the finger's lifting to the paint after
// the heading has changed, and a photo of twelve megapixels from its choice to
// its being kept.
func painted(s *stage.Stage, job, photo string) {
	page, err := s.Page("/", 1280, 800)
	must(err)
	h := stage.Hands{Page: page.CancelTimeout()}
	h.As("jonna")
	h.Touch(job)
	h.Page.MustWait(`() => document.querySelector("h1")?.innerText.startsWith("Switch the wall")`)
	h.Page.MustEval(`() => {
		window.took = [];
		addEventListener("pointerup", () => {
			const began = performance.now(), was = document.querySelector("h1").innerText;
			const look = () => {
				if (document.querySelector("h1").innerText === was) return requestAnimationFrame(look);
				const channel = new MessageChannel(); // its message comes after the paint
				channel.port1.onmessage = () => window.took.push(performance.now() - began);
				channel.port2.postMessage(0);
			};
			requestAnimationFrame(look);
		}, true);
	}`)
	for range runs {
		for _, words := range []string{"Done", "Undo"} {
			before := h.Page.MustEval(`() => window.took.length`).Int()
			h.Touch(words)
			h.Page.MustWait(`before => window.took.length > before`, before)
		}
	}
	var took []float64
	for _, t := range h.Page.MustEval(`() => window.took`).Arr() {
		took = append(took, t.Num())
	}
	report(fmt.Sprintf("from touch to paint with %d events", touchedEvents), took)
	var kept []float64
	for range 3 {
		before := h.Page.MustEval(`() => performance.getEntriesByName("photo kept").length`).Int()
		h.Page.MustElement("input[data-photo]").MustSetFiles(photo)
		h.Page.MustWait(`before => performance.getEntriesByName("photo kept").length > before`, before)
		kept = append(kept, h.Page.MustEval(`before => performance.getEntriesByName("photo kept")[before].duration`, before).Num())
	}
	report("photo of 12 megapixels shrunk and kept", kept)
	h.Page.MustClose()
}

// memory has eight browsers open Today and a job, and reads what the server
// holds.
func memory(s *stage.Stage) {
	before := s.Resident()
	for k := range browsers {
		page, err := s.Page("/", 1280, 800)
		must(err)
		h := stage.Hands{Page: page}
		h.As([]string{"jonna", "ilse", "odda", "mira"}[k%4])
		h.Touch("Go on: Guest house on the point")
		page.MustWait(`() => !!document.querySelector("footer")`)
	}
	fmt.Printf("Server/resident-memory %27.1f MB as it starts %8.1f MB with %d browsers on it\n", before, s.Resident(), browsers)
}

func must(err error) {
	if err != nil {
		panic(err)
	}
}
