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
	h.Page.MustElementR("h2", "Sign in")
	shot("sign-in")
	h.As("jonna")
	h.Page.MustElement("article")
	shot("today")
	h.Touch("Open: Boat-yard canteen")
	h.Page.MustElementR("h1", "isolator")
	shot("begin")
	h.Until("Prove it dead")
	h.Prove()
	shot("prove")
	h.Until("Lift the front off")
	shot("going-in")
	h.Until("Fit drum rollers, the pair")
	shot("work")
	h.Until("Hang the front")
	h.Ready()
	shot("coming-back")
	h.Until("Join the front earth lead")
	shot("earth")
	h.Until("Run it warm for five minutes")
	shot("final")
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
	for _, one := range []func(*stage.Stage, string) error{ticket, finding, calling} {
		if err = one(s, folder); err != nil {
			return err
		}
	}
	return nil
}
