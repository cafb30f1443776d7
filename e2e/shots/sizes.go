package main

import (
	"path/filepath"
	"time"

	"evensteps/e2e/stage"
)

func signedIn(s *stage.Stage, who string, width, height int) (h stage.Hands, err error) {
	page, err := s.Page("/", width, height)
	if err != nil {
		return h, err
	}
	h.Page = page.CancelTimeout()
	h.As(who)
	return h, nil
}

// still takes a picture once what moves on the screen has come to rest.
func still(h stage.Hands, folder, name string) error {
	time.Sleep(400 * time.Millisecond)
	return stage.Shot(h.Page, filepath.Join(folder, name))
}

// ticket takes what somebody without the gas ticket sees of a rung that needs it.
func ticket(s *stage.Stage, folder string) error {
	h, err := signedIn(s, "odda", 1280, 800)
	if err != nil {
		return err
	}
	h.Touch("Open: Inn at the narrows, dryer 1")
	h.On("Switch the wall isolator off")
	h.Page.MustElementR("nav button", "Prove gas off").MustClick()
	h.Says("gas ticket needed")
	return still(h, folder, "ticket.png")
}

// finding takes the search for what is wrong: the test that is advised, and the
// fix once its reading is known.
func finding(s *stage.Stage, folder string) error {
	h, err := signedIn(s, "odda", 1280, 800)
	if err != nil {
		return err
	}
	h.Touch("Open: Camp laundry, dryer 2")
	h.On("Gas or electric?")
	if err := still(h, folder, "survey.png"); err != nil {
		return err
	}
	h.Touch("Electric")
	h.On("Supply at the terminals")
	h.Page.MustElement("#done-value").MustInput("231 V")
	h.Touch("Record the value")
	h.Touch("See the next test")
	h.On("Continuity: terminal block to thermal cutoff")
	h.Touch("Open it that far")
	h.On("Switch the wall isolator off")
	h.Until("What is wrong?")
	h.Touch("See the next test")
	h.Says("nothing more to open")
	h.Touch("Closed: it conducts")
	h.On("Continuity: thermal cutoff to heating element")
	if err := still(h, folder, "find.png"); err != nil {
		return err
	}
	h.Touch("Open: it does not")
	h.On("Mend: heating element open")
	return still(h, folder, "mend.png")
}

// sizes takes the job at the sizes other than the tablet on its side.
func sizes(s *stage.Stage, folder string) error {
	for _, size := range []struct {
		name          string
		width, height int
	}{{"phone", 390, 844}, {"upright", 800, 1280}} {
		h, err := signedIn(s, "ilse", size.width, size.height)
		if err != nil {
			return err
		}
		h.Touch("Go on: Guest house on the point")
		h.On("Hang the front")
		if err := still(h, folder, size.name+".png"); err != nil {
			return err
		}
		if size.name == "upright" { // and the tablet on its side, by torchlight
			h.Touch("Torch theme")
			h.Button("Day theme")
			if err := stage.Size(h.Page, 1280, 800); err != nil {
				return err
			}
			if err := still(h, folder, "torch.png"); err != nil {
				return err
			}
		}
	}
	return nil
}
