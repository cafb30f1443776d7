// Command shots makes the pictures of the docs from the demo data.
package main

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"time"

	"github.com/go-rod/rod"

	"evensteps/e2e/stage"
)

func main() {
	if len(os.Args) < 2 || len(os.Args) > 3 {
		fmt.Fprintln(os.Stderr, "shots FOLDER [PART]")
		os.Exit(2)
	}
	only := ""
	if len(os.Args) == 3 {
		only = os.Args[2]
	}
	if err := take(os.Args[1], only); err != nil {
		fmt.Fprintln(os.Stderr, "shots:", err)
		os.Exit(1)
	}
}

// parts are taken one after the other from one demo; each begins with a page of
// its own.
var parts = []struct {
	name string
	take func(*studio)
}{{"sizes", sizes}, {"job", job}, {"own-rung", ownRung}, {"no-map", noMap}, {"finding", finding}, {"calling", calling}, {"looking", looking}}

func take(folder, only string) error {
	if err := os.MkdirAll(folder, 0o755); err != nil {
		return fmt.Errorf("making the folder: %w", err)
	}
	s, err := stage.Set(context.Background())
	defer s.Strike()
	if err != nil {
		return err
	}
	for _, part := range parts {
		if only != "" && only != part.name {
			continue
		}
		at := &studio{stage: s, folder: folder}
		if err := rod.Try(func() { part.take(at) }); err != nil {
			failed := filepath.Join(os.TempDir(), "shots-failed.png")
			if at.Page != nil && stage.Shot(at.Page.CancelTimeout().Timeout(20*time.Second), failed) == nil {
				fmt.Fprintln(os.Stderr, "a picture of the page is in", failed)
			}
			return fmt.Errorf("the part %s ends early: %w", part.name, err)
		}
	}
	return nil
}

// studio is where the pictures of one part are taken.
type studio struct {
	stage.Hands
	stage  *stage.Stage
	folder string
}

// as opens a page of this size and signs one of the demo's people in.
func (s *studio) as(who string, width, height int) {
	page, err := s.stage.Page("/", width, height)
	if err != nil {
		panic(err)
	}
	s.Page = page.CancelTimeout().Timeout(5 * time.Minute)
	s.As(who)
}

// shot takes a picture once what moves on the screen has come to rest.
func (s *studio) shot(name string) {
	time.Sleep(400 * time.Millisecond)
	if err := stage.Shot(s.Page, filepath.Join(s.folder, name+".png")); err != nil {
		panic(err)
	}
	fmt.Println(name)
}

// job takes a whole job, from Today to signed off.
func job(h *studio) {
	picture, err := photo()
	if err != nil {
		panic(err)
	}
	defer func() { _ = os.Remove(picture) }()
	h.as("jonna", 1280, 800)
	h.Page.MustElement("article")
	h.shot("today")
	h.Touch("Open: Boat-yard canteen")
	h.Page.MustElementR("h1", "isolator")
	h.Until("Prove it dead")
	h.Prove()
	h.shot("prove")
	h.Until("Lift the front off")
	h.shot("going-in")
	h.Page.MustElement("input[data-photo]").MustSetFiles(picture)
	h.Says("your picture")
	h.Pin("Door switch plug, 1, grey")
	h.Until("Fit drum rollers, the pair")
	h.shot("work")
	h.Touch("Hand over")
	h.Says("Off the machine, and where it lies")
	h.shot("hand-over")
	h.Touch("Steps")
	h.Until("Hang the front")
	h.Ready()
	h.Page.MustEval(`() => document.querySelector("main").scrollTo(0, 0)`)
	h.shot("coming-back")
	h.Until("Join the damp sensor leads")
	h.Page.MustElement(`main button[aria-pressed="false"]`).MustClick()
	h.Page.MustWait(`() => document.querySelectorAll('main button[aria-pressed="true"]').length === 1`)
	h.shot("wires")
	h.Until("Turn the console down")
	h.Touch("Hands busy")
	h.Says("line 1")
	h.shot("hands")
	h.Touch("Steps")
	h.Until("Run it warm for five minutes")
	h.Touch("Even")
	h.Page.MustElementR("h1", "Not even yet|Even")
	h.shot("even-short")
	h.Touch("Steps")
	h.Page.MustElementR("h1", "Run it warm")
	h.Done()
	h.Touch("To sign-off")
	h.On("Even: all back and proven")
	h.Touch("Sign off")
	h.Says("signed off")
	h.shot("even")
}
