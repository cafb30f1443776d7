package main

import (
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"os"
	"path/filepath"

	"github.com/go-rod/rod/lib/input"

	"evensteps/e2e/stage"
)

// ownRung takes a screw that the map does not know, on a phone at the knee.
func ownRung(h *studio) {
	h.as("odda", 390, 844)
	h.Touch("Open: School kitchen, dryer")
	h.Until("Lift the front off")
	h.Touch("Different here")
	h.Touch("Extra fastener")
	h.Field("What is it called?").MustInput("Hidden screw behind the filter")
	h.Says("to tray")
	h.shot("own-rung")
}

// noMap takes the work on a machine that no map covers.
func noMap(h *studio) {
	h.as("tuure", 1280, 800)
	h.Touch("Open: Smokehouse, oven")
	h.On("Work with steps of your own")
	h.Touch("Shut off and test: mains supply")
	h.On("Shut the mains off")
	h.Until("Work with steps of your own")
	for _, what := range []string{"Door panel", "Hinge cover"} {
		h.Touch("Something comes off")
		h.Touch("cover")
		h.Touch("One more")
		h.Field("What is it called?").MustInput(what)
		h.Says("2 screws to tray")
		h.Touch("It is out: 2 screws to tray")
		h.Page.MustWait(`what => document.querySelector('nav[aria-label="Steps"]').innerText.includes(what)`, what)
	}
	h.shot("no-map")
}

// calling takes a call in the customer's own words.
func calling(h *studio) {
	h.as("pell", 1280, 800)
	h.Page.MustElementR("nav a", "Take a call").MustClick()
	h.On("Take a call")
	h.Page.MustElement("input").MustInput("canteen dryer 1")
	h.Touch("Boat-yard canteen, dryer 1")
	h.Page.MustElement("textarea").MustInput("it spins, but the towels stay cold")
	h.Says("Gas or electric?")
	h.shot("call")
}

// looking takes what a supervisor looks after: a machine's page, and a file of sites
// that is looked at before it is kept.
func looking(h *studio) {
	h.as("mira", 1280, 800)
	h.Page.MustElementR("nav a", "Sites").MustClick()
	h.On("Sites")
	h.Says("Getting in:")
	h.shot("sites")
	file := filepath.Join(os.TempDir(), "sites.csv")
	text := "name;island;address;phone\r\nOld barn;Lillan;Barn Road 1;+00 555 0202\r\nPilot station;Ytterskar;Pilot Quay 2;+00 555 0115\r\nInn at the narrows;Grimsholm;;\r\n;Lillan;;\r\n"
	if err := os.WriteFile(file, []byte(text), 0o600); err != nil {
		panic(err)
	}
	defer func() { _ = os.Remove(file) }()
	h.Page.MustElementR("nav a", "Company").MustClick()
	h.On("Company")
	h.Page.MustElements(`section[aria-label="Lists as files"] input[type="file"]`)[1].MustSetFiles(file)
	h.Says("The name is missing.")
	h.Page.MustElement(`section[aria-label="What sites.csv does"]`).MustScrollIntoView()
	h.shot("company")
}

// finding takes the search for what is wrong: a test along a circuit
// and what it moves, and the decision once a reading is known.
func finding(h *studio) {
	h.as("odda", 1280, 800)
	h.Touch("Open: Camp laundry, dryer 2")
	h.On("As found")
	h.Touch("Whole, nothing missing")
	h.On("Gas or electric?")
	h.Touch("Electric")
	h.NotNow("The run of the vent")
	h.Touch("See the next test")
	h.On("Element resistance")
	const half = "Continuity: terminal block to thermal cutoff"
	h.Touch("Look at: " + half)
	h.On(half)
	h.Touch("Open up and measure")
	h.On("Switch the wall isolator off")
	h.Until("What is wrong?")
	h.Touch("See the next test")
	h.On(half)
	h.Touch("Closed: it conducts")
	h.Touch("Look at: Continuity: thermal cutoff to heating element")
	h.Says("cleared")
	h.Touch("Look at: Element resistance")
	h.Page.MustElement("#find-value").MustInput("22.4 ohm")
	h.Page.MustElement("#find-value-leads").MustInput("0.2 ohm")
	h.Says("in range")
	h.shot("find")
	h.Touch("Read from the meter")
	h.Says("taken from")
	h.Touch("Save the reading")
	h.On("Fix: heating element open")
	h.Touch("Decide")
	h.On("Heating element open")
	h.Page.MustElement("#figure-new").MustInput("900")
	h.Says("Repair is cheaper")
	h.shot("decide")
}

// sizes takes the job at the sizes other than the tablet on its side.
func sizes(h *studio) {
	h.as("ilse", 390, 844)
	h.Touch("Go on: Guest house on the point")
	h.On("Hang the front")
	h.shot("phone")
	// And the tablet on its side, by torchlight.
	if err := stage.Size(h.Page, 1280, 800); err != nil {
		panic(err)
	}
	h.Page.MustNavigateBack()
	h.On("Today")
	h.Mine()
	h.Touch("Torch theme")
	h.Button("Day theme")
	h.Key(input.Escape)
	h.Touch("Go on: Guest house on the point")
	h.On("Hang the front")
	h.shot("torch")
}

// photo draws what a camera might have seen behind the front: a plug on a panel.
// It is made up, like all else in the pictures.
func photo() (string, error) {
	img := image.NewRGBA(image.Rect(0, 0, 1200, 800))
	fill := func(r image.Rectangle, c color.RGBA) { draw.Draw(img, r, &image.Uniform{c}, image.Point{}, draw.Src) }
	fill(img.Bounds(), color.RGBA{196, 190, 178, 255})
	fill(image.Rect(150, 120, 1050, 700), color.RGBA{222, 218, 208, 255})
	for i, c := range []color.RGBA{{128, 132, 135, 255}, {40, 84, 160, 255}} {
		fill(image.Rect(700, 360+i*70, 1200, 382+i*70), c)
	}
	fill(image.Rect(520, 320, 720, 480), color.RGBA{240, 238, 232, 255})
	fill(image.Rect(360, 340, 530, 460), color.RGBA{206, 203, 196, 255})
	for i := range 2 {
		fill(image.Rect(400, 362+i*56, 470, 384+i*56), color.RGBA{92, 88, 80, 255})
	}
	f, err := os.CreateTemp("", "photo-*.jpg")
	if err != nil {
		return "", fmt.Errorf("drawing a photo: %w", err)
	}
	if err := errors.Join(jpeg.Encode(f, img, nil), f.Close()); err != nil {
		return "", fmt.Errorf("drawing a photo: %w", err)
	}
	return f.Name(), nil
}
