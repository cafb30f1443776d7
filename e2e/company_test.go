package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/e2e/stage"
)

// dialogue fills the fields of the dialogue that is open, by their labels.
func dialogue(h stage.Hands, fields ...string) {
	for i := 0; i+1 < len(fields); i += 2 {
		h.Field(fields[i]).MustSelectAllText().MustInput(fields[i+1])
	}
}

// A supervisor looks after the company: a site and its machine by hand, sites by a
// file that is looked at first, a meter whose calibration is over, what an hour
// costs; and merges a machine that stands there twice.
func TestASupervisorLooksAfterTheCompany(t *testing.T) {
	s := open(t)
	file := filepath.Join(t.TempDir(), "sites.csv")
	s.play("/", func(h stage.Hands) {
		h.As("mira")
		h.Page.MustElementR("nav a", "Sites").MustClick()
		h.On("Sites")
		axe(t, h, "sites")
		h.Touch("Add a site")
		axe(t, h, "a new site")
		dialogue(h, "Name", "The mill", "Address", "Mill Lane 2", "Island or town", "Lillan", "Telephone", "+00 (0)12 ext. 3", "How to get in", "Key under the oar")
		h.Touch("Add the site")
		h.Says("Getting in: Key under the oar")
		h.Touch("Add a machine at The mill")
		dialogue(h, "What it is called there", "oven", "Model", "BO2", "Where it stands", "Cellar")
		h.Touch("Add the machine")
		h.Says("BO2 · Cellar")
		h.Touch("Add a site") // of the same name
		dialogue(h, "Name", "the mill")
		h.Touch("Add the site")
		h.Says("There is one of this name already")
		h.Key(input.Escape)
		h.Page.MustElementR("a", "Cellar").MustClick()
		h.Says("No job is open on it")
		axe(t, h, "a machine's page")
		h.Touch("Take a call for it")
		h.On("Take a call")
		h.Says("The mill, oven")

		require.NoError(t, os.WriteFile(file, []byte("name;island\r\nOld barn;Lillan\r\n;Lillan\r\n"), 0o600))
		h.Page.MustElementR("nav a", "Company").MustClick()
		h.On("Company")
		axe(t, h, "the company")
		choose := func() {
			box := h.Page.MustElement(`section[aria-label="Lists as files"]`)
			box.MustElements(`input[type="file"]`)[1].MustSetFiles(file)
		}
		choose()
		h.Says("1 new, 1 wrong")
		h.Says("The name is missing.")
		axe(t, h, "a file that is looked at")
		assert.False(t, h.Has("Keep it"), "nothing of it is kept while a line is wrong")
		file = filepath.Join(filepath.Dir(file), "mended.csv")
		require.NoError(t, os.WriteFile(file, []byte("name;island\r\nOld barn;Lillan\r\nThe mill;Lillan\r\n"), 0o600))
		choose()
		h.Says("1 new, 1 as they are")
		h.Touch("Keep it")
		h.Says("Kept: mended.csv")

		rate := h.Field("An hour")
		rate.MustSelectAllText().MustInput("72,5")
		h.Touch("Save the company")
		h.Says("Save the company")
		h.Page.MustElementR("nav a", "Meters").MustClick()
		h.On("Meters")
		h.Says("Its calibration ended on 2026-10-06")
		axe(t, h, "meters")
		h.Touch("Add a meter")
		dialogue(h, "Number", "m-20", "Name", "Clamp 20", "Category", "best")
		h.Touch("Add the meter")
		h.Says("such as CAT III 600 V")
		dialogue(h, "Category", "CAT III 600 V")
		h.Touch("Add the meter")
		h.Says("number m-20 · CAT III 600 V")

		h.Page.MustNavigate(s.At() + "/machines/camp-dryer-2").MustWaitLoad()
		h.Touch("It is the same as another")
		dialogue(h, "Site, machine", "camp dryer 1")
		h.Touch("Camp laundry, dryer 1")
		h.Touch("Merge it into Camp laundry, dryer 1")
		h.Says("Found to be this machine: dryer 2")
		h.Touch("It is one of its own after all")
		h.On("Camp laundry, dryer 1")
	})
	s.playAt("/", 390, 844, func(h stage.Hands) {
		h.As("jonna")
		h.Page.MustElementR("nav a", "Sites").MustClick()
		h.On("Sites")
		h.Says("Old barn")
		assert.False(t, h.Has("Add a site"), "supervisors do that")
		axe(t, h, "sites on a phone")
	})
}

// Who goes is said on the job, and it is theirs on Today; nobody is at a machine for
// having looked. A job on the wrong machine is moved, one made in error is called off
// and taken up again.
func TestWhoseJobItIs(t *testing.T) {
	s := open(t)
	s.play("/", func(h stage.Hands) {
		h.As("pell")
		h.Page.MustNavigate(s.At() + "/jobs/j-103/about").MustWaitLoad()
		h.Says("Who goes?")
		axe(t, h, "about a job")
		h.Says("Long Hill 4")
		assert.False(t, h.Has("I am at the machine"), "an office is at no machine")
		h.Touch("✓ Odda Fennrick")
		h.Says("Nobody is named yet.")
		h.Touch("Tuure Askelo")
		h.Says("✓ Tuure Askelo")
		h.Says("Nobody here yet")
		h.Touch("It is another machine")
		h.Says("The right machine for the job j-103")
		h.Field("Site, machine").MustInput("inn dryer 2")
		h.Touch("Inn at the narrows, dryer 2")
		h.Touch("Make the job")
		h.On("As found")
		h.Page.MustNavigate(s.At() + "/jobs/j-103/about").MustWaitLoad()
		h.Says("Called off by Pell Ostmarker")
		h.Says("on the wrong machine")
		h.Touch("Take it up again")
		h.Says("Made in error?")
		h.Touch("Call it off")
		axe(t, h, "why it is called off")
		h.Touch("Made twice")
		h.Says("made twice")
		h.Page.MustNavigate(s.At() + "/jobs/j-103").MustWaitLoad()
		h.On("This job is called off")
	})
	s.play("/", func(h stage.Hands) {
		h.As("tuure")
		h.On("Today")
		h.Says("Yours")
		yours := h.Page.MustElement(`section[aria-label="Yours"]`).MustText()
		assert.Contains(t, yours, "Inn at the narrows, dryer 2")
		assert.NotContains(t, yours, "School kitchen, dryer")
		h.Touch("Open: Inn at the narrows, dryer 2")
		h.NotNow("As found")
		h.Says("Nobody here yet")
		h.Touch("Who and where")
		h.Says("hums, but the drum stands still")
		h.Touch("I am at the machine")
		h.Says("You are at the machine.")
	})
}
