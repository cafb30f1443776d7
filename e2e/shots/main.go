// Command shots makes the pictures of the docs from the demo data.
package main

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"time"

	"evensteps/e2e/stage"
)

func main() {
	if len(os.Args) != 2 {
		fmt.Fprintln(os.Stderr, "shots FOLDER")
		os.Exit(2)
	}
	if err := take(os.Args[1]); err != nil {
		fmt.Fprintln(os.Stderr, "shots:", err)
		os.Exit(1)
	}
}

func take(folder string) (err error) {
	if err = os.MkdirAll(folder, 0o755); err != nil {
		return fmt.Errorf("making the folder: %w", err)
	}
	s, err := stage.Set(context.Background())
	defer s.Strike()
	if err != nil {
		return err
	}
	if err = sizes(s, folder); err != nil {
		return err
	}
	page, err := s.Page("/", 1280, 800)
	if err != nil {
		return err
	}
	h := stage.Hands{Page: page.Timeout(5 * time.Minute)}
	defer func() {
		if v := recover(); v != nil {
			_ = stage.Shot(h.Page.CancelTimeout().Timeout(20*time.Second), filepath.Join(os.TempDir(), "shots-failed.png"))
			err = fmt.Errorf("the pictures end early: %v", v)
		}
	}()
	shot := func(name string) {
		if e := still(h, folder, name+".png"); e != nil && err == nil {
			err = e
		}
		fmt.Println(name)
	}
	picture, err := photo()
	if err != nil {
		return err
	}
	defer func() { _ = os.Remove(picture) }()
	h.As("jonna")
	h.Page.MustElement("article")
	shot("today")
	h.Touch("Open: Boat-yard canteen")
	h.Page.MustElementR("h1", "isolator")
	h.Until("Prove it dead")
	h.Prove()
	shot("prove")
	h.Until("Lift the front off")
	shot("going-in")
	h.Page.MustElement("input[data-photo]").MustSetFiles(picture)
	h.Says("your picture")
	h.Pin("Door switch plug, 1, grey")
	h.Until("Fit drum rollers, the pair")
	shot("work")
	h.Touch("Hand over")
	h.Says("Off the machine, and where it lies")
	shot("hand-over")
	h.Touch("Ladder")
	h.Until("Hang the front")
	h.Ready()
	h.Page.MustEval(`() => document.querySelector("main").scrollTo(0, 0)`)
	shot("coming-back")
	h.Until("Join the damp sensor leads")
	h.Page.MustElement(`main button[aria-pressed="false"]`).MustClick()
	h.Page.MustWait(`() => document.querySelectorAll('main button[aria-pressed="true"]').length === 1`)
	shot("wires")
	h.Until("Turn the console down")
	h.Touch("Hands busy")
	h.Says("line 1")
	shot("hands")
	h.Touch("Ladder")
	h.Until("Run it warm for five minutes")
	h.Touch("Even")
	h.Page.MustElementR("h1", "short of even|Even")
	shot("even-short")
	h.Touch("Ladder")
	h.Page.MustElementR("h1", "Run it warm")
	h.Done()
	h.Touch("To sign-off")
	h.On("Even")
	h.Touch("Sign off")
	h.Says("signed off")
	shot("even")
	if err != nil {
		return err
	}
	for _, one := range []func(*stage.Stage, string) error{ownRung, noMap, finding, calling} {
		if err = one(s, folder); err != nil {
			return err
		}
	}
	return nil
}
