package e2e

import (
	"fmt"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/e2e/stage"
	"evensteps/server"
	"evensteps/store"
)

// The whole job through the real interface: in, the pair fitted, back, even,
// signed off; the server killed and started again on the way in, the browser
// closed on the way back.
//
// Its touches are counted, without the typing and signing in: the goal is at most
// seventy for the thirteen rungs out and twelve back.
func TestAWholeJobFromSignInToEven(t *testing.T) {
	s := open(t)
	touched := 0
	defer func() { t.Logf("%d touches", touched) }()
	s.play("/", func(h stage.Hands) {
		h.SignIn("jonna", "wrong")
		h.Says("Name or password is wrong")
		h.As("jonna")
		count := touches(h)
		defer func() { touched += count() }()
		h.Touch("Open: Boat-yard canteen, dryer 2")
		h.On("Switch the wall isolator off")
		assert.Equal(t, "Done: mains off", strings.Split(h.Button("Done").MustText(), "\n")[0])
		h.Done()
		h.Says("off, not tested")

		// Look-alike screws are counted, not accepted: an early Done records half.
		h.Until("Take the terminal cover off")
		h.Touch("Still open: 1 screw to count")
		h.Page.Timeout(10 * time.Second).MustElement(`nav svg[aria-label="out: half done"]`)
		h.Until("Prove it dead")
		h.Done()
		h.Says("tested dead")

		// The server is killed: work goes on, and is sent when it is back.
		require.NoError(t, s.End(syscall.SIGKILL))
		h.Until("Part the damp sensor leads")
		h.Says("no signal")
		before := len(s.events("j-101"))
		require.NoError(t, s.Start(t.Context()))
		h.Done()
		h.Says("all sent")
		after := s.events("j-101")
		assert.Greater(t, len(after), before+4)
		assert.Equal(t, 8, kinds(after)["rung.out"], "each once")

		h.Until("Fit drum rollers, the pair")
		assert.Contains(t, h.Text(), "number TM-11902")
		said := h.Done()
		assert.Contains(t, said, "both fitted together")

		// The browser is closed in the middle: the job is where it was.
		h.Until("Lay the belt on")
	})
	s.play("/", func(h stage.Hands) {
		h.As("jonna")
		count := touches(h)
		defer func() { touched += count() }()
		h.Says("Drum rollers fitted, the pair")
		h.Touch("Go on: Boat-yard canteen, dryer 2")
		h.On("Lay the belt on")

		h.Until("Turn the drum by hand")
		h.Done()
		require.Equal(t, "Hang the front", h.Title(), "the check stands before the front")
		assert.Contains(t, h.Text(), "The drum is loose")
		h.Ready()
		assert.Contains(t, h.Done(), "2 connectors on, 4 screws back from D, 2 back from C")
		require.Equal(t, "Join the front earth lead", h.Title())
		assert.Contains(t, h.Text(), "Front earth lead to the frame", "an earth is measured, not ticked")
		h.Done()
		require.Equal(t, "Join the damp sensor leads", h.Title())
		assert.True(t, h.Has("Still open: damp sensor leads, left terminal"), "leads that are not keyed are confirmed one by one")
		h.Until("Switch the isolator on")
		h.Done()
		h.Touch("Even")
		h.Says("Not even yet: 2 things left")
		h.Touch("Sign off when even")
		h.Touch("Stay here")
		h.Touch("Steps")
		h.On("A minute's run where it stands")
		h.Done()
		h.On("Run it warm for five minutes")
		h.Done()
		h.Touch("To sign-off")
		h.On("Even: all back and proven")
		h.Touch("Sign off")
		h.Says("Even: all back and proven. Signed off")
		assert.Contains(t, h.Text(), "Drum rollers")
		assert.Contains(t, h.Text(), "meter 4")

		h.Page.Timeout(10 * time.Second).MustWait(`() => document.body.innerText.includes("all sent")`)
		list := kinds(s.events("j-101"))
		assert.Equal(t, 14, list["rung.out"])
		assert.Equal(t, 13, list["rung.back"])
		assert.Equal(t, 1, list["reading.taken"], "the earth")
		assert.Equal(t, 2, list["part.fitted"])
		assert.Equal(t, 1, list["signed-off"])
		assert.Zero(t, list["visit.began"], "who records a step is there")
	})
}

// The session ends in the middle of a rung: what is recorded stays on the
// device and is sent after signing in again, over the open screen.
func TestASessionThatEndsInTheMiddleOfARung(t *testing.T) {
	s := open(t)
	s.play("/", func(h stage.Hands) {
		h.As("jonna")
		h.Touch("Go on: Guest house on the point")
		h.On("Hang the front")
		before := len(s.events("j-102"))
		h.Page.MustSetCookies() // forgets them all: signed out without knowing
		h.Touch("All 4: 4 screws back from tray D")
		h.Says("signed out, 1 waiting")
		h.Touch("The drum rim lies inside the felt")
		h.Says("signed out, 2 waiting")
		assert.Len(t, s.events("j-102"), before)
		assert.Equal(t, "Hang the front", h.Title())

		h.Touch("Sign in")
		h.Page.MustElement(`[role="dialog"] input[type="password"]`).MustInput("ferry-0640")
		h.Page.MustElementByJS(`() => document.querySelector('[role="dialog"] button[type="submit"]')`).MustClick()
		h.Says("all sent")
		assert.Len(t, s.events("j-102"), before+2)
		assert.True(t, h.Has("Still open: the front is flush"), "what was ticked is ticked")
	})
}

// A rung recorded out of order is kept, with a snag; Undo takes it back.
func TestKeysUndoAndStop(t *testing.T) {
	s := open(t)
	s.play("/", func(h stage.Hands) {
		h.As("ilse")
		h.Touch("Go on: Guest house on the point")
		h.On("Hang the front")
		h.Page.Timeout(10 * time.Second).MustWait(`() => document.activeElement?.id === "rung-title"`)
		h.Key(input.Space)
		h.Says("Undo")
		h.Page.Timeout(10*time.Second).MustElementR("footer button", "Front, half")
		h.Page.Timeout(10 * time.Second).MustWait(`() => document.activeElement?.id === "rung-title"`)
		h.Key('z')
		h.Page.Timeout(10 * time.Second).MustWait(`() => ![...document.querySelectorAll("footer button")].some(b => b.innerText.includes("Front, half"))`)

		h.Touch("Stop")
		h.Touch("Smoke or scorching")
		h.On("Stopped: smoke or scorching")
		assert.Contains(t, h.Text(), "Off at the breaker")
		h.Touch("Release the stop")
		h.Page.MustElement(`[role="dialog"] textarea`).MustInput("breaker off, a lint pellet, out")
		h.Touch("Release it and go on")
		h.On("Hang the front")
	})
}

func TestAJobThatIsNotThere(t *testing.T) {
	s := open(t)
	s.play("/", func(h stage.Hands) {
		h.As("mira")
		h.Page.MustNavigate(s.At() + "/jobs/j-999")
		h.Says("This job cannot be opened")
		h.Touch("Back to all jobs")
		h.On("Today")
	})
}

func TestAxeFindsNothing(t *testing.T) {
	s := open(t)
	for name, size := range map[string][2]int{"on its side": {1280, 800}, "upright": {800, 1280}, "phone": {390, 844}} {
		s.playAt("/", size[0], size[1], func(h stage.Hands) {
			h.Page.Timeout(10*time.Second).MustElementR("h2", "Sign in")
			axe(t, h, name+", sign in")
			h.As("mira")
			h.Page.Timeout(10 * time.Second).MustElement("article")
			axe(t, h, name+", jobs")
			h.Mine()
			axe(t, h, name+", one's own menu")
			h.Touch("Torch theme")
			h.Button("Day theme")
			axe(t, h, name+", one's own menu by torchlight")
			h.Key(input.Escape)
			axe(t, h, name+", jobs by torchlight")
			h.Mine()
			h.Touch("Day theme")
			h.Key(input.Escape)
			h.Touch("Go on: Guest house on the point")
			h.On("Hang the front")
			axe(t, h, name+", ladder")
			h.Touch("Even")
			h.Says("Not even yet")
			axe(t, h, name+", even")
		})
	}
}

// The main path on a phone: the three places, and a rung done with one thumb.
func TestTheMainPathOnAPhone(t *testing.T) {
	s := open(t)
	s.playAt("/", 390, 844, func(h stage.Hands) {
		h.As("mira")
		h.Touch("Open: Cabin 21, dryer")
		h.On("Switch the wall isolator off")
		assert.False(t, h.Page.MustElement(`nav[aria-label="Steps"]`).MustVisible())
		h.Touch("Steps")
		assert.True(t, h.Page.MustElement(`nav[aria-label="Steps"]`).MustVisible())
		axe(t, h, "the ladder's place")
		h.Touch("Bench")
		h.Says("Still to do")
		axe(t, h, "the bench's place")
		h.Touch("Now")
		h.Done()
		h.On("Draw the dryer forward")
		h.Until("Slide the top back and lift it off")
		axe(t, h, "a rung")
	})
}

// Text that people type stays text: markup is shown as it was written and does
// nothing; words written from the right do not turn what stands beside them.
func TestTypedTextStaysText(t *testing.T) {
	s := open(t)
	const text = `<img src=x onerror="window.hurt=1"><b>loose</b> *not strong* المسمار مفقود`
	s.play("/", func(h stage.Hands) {
		h.As("odda")
		h.Touch("Open: Inn at the narrows, dryer 1")
		h.On("Switch the wall isolator off")
		h.Touch("Different here")
		h.Touch("It cannot be done this way")
		h.Page.MustElement(`[role="dialog"] textarea`).MustInput(text)
		h.Touch("It cannot be done this way: plan another")
		h.Says("No next step possible")
		h.Says("المسمار مفقود")
		h.Says(`<img src=x onerror="window.hurt=1">`)
		assert.True(t, h.Page.MustEval(`() => window.hurt === undefined && !document.querySelector("img")`).Bool())
		assert.False(t, h.Page.MustEval(`() => document.documentElement.scrollWidth > window.innerWidth`).Bool())
		axe(t, h, "text in two directions")
		h.Touch("It can be done after all")
		h.On("Switch the wall isolator off")
	})
}

// A supervisor adds somebody, changes their role, gives a one-time code to who lost
// their password and closes an account; nobody else sees the room.
func TestASupervisorLooksAfterPeople(t *testing.T) {
	s := open(t)
	code := ""
	s.play("/", func(h stage.Hands) {
		h.As("benno")
		h.Page.MustElementR("nav a", "People").MustClick()
		h.On("People")
		axe(t, h, "people")
		h.Touch("Add a person")
		fields := h.Page.MustElements(`[role="dialog"] input`)
		fields[0].MustInput("Eddy Strand")
		fields[1].MustInput("Eddy S")
		h.Touch("+ gas")
		h.Says("gas, from")
		axe(t, h, "somebody new")
		h.Touch("Add them")
		h.Says("it is shown this once")
		h.Says("eddy-s")
		h.Touch("I have told them")
		h.Says("Eddy Strand")
		h.Touch("Change Eddy Strand")
		h.Touch("office")
		h.Touch("End it now")
		h.Touch("Save the changes")
		h.Says("office · signs in as eddy-s · no ticket")
		h.Touch("Change Eddy Strand")
		h.Says("gas: held until")
		h.Touch("Close the account")
		h.Touch("Save the changes")
		h.Says("The account is closed. What they recorded stays.")
		h.Touch("One-time code for Tuure")
		h.Says("it is shown this once")
		code = h.Page.MustElement(`[role="dialog"] output`).MustText()
		h.Touch("I have told them")
		h.Mine()
		h.Touch("Sign out")
		h.SignIn("tuure", code)
		h.Says("Choose a password")
		for _, field := range h.Page.MustElements(`input[type="password"]`) {
			field.MustInput("nets and oars and tar")
		}
		h.Touch("Keep it")
		h.On("Today")
		assert.NotContains(t, h.Page.MustElement(`nav[aria-label="Rooms"]`).MustText(), "People", "a technician has no use for it")
	})
}

// From the customer's words to an even job: the office takes the call, the
// element is read from the meter on the network, the part that is open is decided
// on with its figures, fitted, proven, and why it failed is answered.
func TestFromTheCallToEven(t *testing.T) {
	s := open(t)
	s.play("/", func(h stage.Hands) {
		h.As("pell")
		h.Page.MustElementR("nav a", "Take a call").MustClick()
		h.On("Take a call")
		axe(t, h, "a call")
		h.Page.MustElement("input").MustInput("canteen dryer 1")
		h.Touch("Boat-yard canteen, dryer 1")
		h.Says("The map covers TV6*.")
		h.Page.MustElement("textarea").MustInput("it spins, but the towels stay cold")
		h.Says("Turns but does not heat")
		h.Touch("electric")
		h.Says("fuel: electric")
		h.Touch("Odda Fennrick")
		h.Says("✓ Odda Fennrick")
		axe(t, h, "a call, understood")
		h.Touch("Make the job")
		h.On("As found")
	})
	s.play("/", func(h stage.Hands) {
		h.As("odda")
		h.Touch("Open: Boat-yard canteen, dryer 1")
		h.On("As found")
		h.Touch("Whole, nothing missing")
		h.On("The run of the vent")
		h.Page.MustElement("#done-value").MustInput("4.5 m, 2 bends")
		h.Touch("Record the value")
		h.Touch("See the next test")
		h.On("Element resistance")
		h.Says("saves about")
		h.Says("Heating element open")
		axe(t, h, "find")
		h.Touch("Open up and measure")
		h.On("Switch the wall isolator off")
		h.Until("Element resistance")
		h.Touch("Read from the meter")
		h.Says("taken from sim-1")
		h.Touch("Record the value")
		h.On("What is wrong?")
		h.Touch("See the next test")
		h.On("Fix: heating element open")
		h.Touch("Decide")
		h.On("Heating element open")
		h.Says("OL: open circuit")
		h.Page.MustElement("#figure-new").MustInput("900")
		h.Says("Repair is cheaper")
		axe(t, h, "decide")
		h.Touch("Fit this")
		h.On("Lift the heater box off")
		h.Until("Measure the air at the vent")
		h.Page.MustElement("#done-value").MustInput("58 C")
		h.Touch("Record the value")
		h.Touch("To sign-off")
		h.On("Not even yet: 1 thing left")
		h.Says("Did it run too hot")
		h.Touch("Not found")
		h.On("Even: all back and proven")
		h.Touch("Sign off")
		h.Says("Even: all back and proven. Signed off")
		h.Says("TM-30110")
		h.Says("cause looked for")
	})
}

// A call with a gas smell: the caller is told what to do before anything is kept;
// the machine is out of use until somebody with the ticket has looked at it.
func TestACallWithAGasSmell(t *testing.T) {
	s := open(t)
	s.play("/", func(h stage.Hands) {
		h.As("pell")
		h.Page.MustElementR("nav a", "Take a call").MustClick()
		h.On("Take a call")
		h.Page.MustElement("textarea").MustInput("the dryer runs, but we smel gas down there")
		h.Says("Touch no switch")
		axe(t, h, "an emergency")
		h.Page.MustElement("input").MustInput("canteen dryer 1")
		h.Touch("Boat-yard canteen, dryer 1")
		h.Says("Still open: that the caller was told")
		h.Touch("I have told them this")
		h.Touch("Make the job, out of use")
		h.Says("Out of use: gas smell")
		axe(t, h, "a job out of use")
	})
	s.play("/", func(h stage.Hands) {
		h.As("ilse")
		h.Says("Out of use: Gas smell")
		h.Touch("Open: Boat-yard canteen, dryer 1")
		h.Says("Out of use: gas smell")
		h.Page.MustElementR("a", "Record what was found").MustClick()
		h.Touch("Inspected")
		h.Page.MustElement("[role=dialog] textarea").MustInput("Union at the cock made up again, no bubbles for two minutes.")
		h.Touch("Record it")
		h.Page.MustWait(`() => !document.body.innerText.includes("Out of use. Told")`)
		h.Page.MustNavigate(s.At() + "/")
		h.Touch("Open: Boat-yard canteen, dryer 1")
		h.On("A minute's run where it stands")
		assert.NotContains(t, h.Text(), "Out of use:")
	})
}

// A test along a circuit instead of the one that is advised; its result moves
// the suspects, and can be withdrawn.
func TestFindingAlongACircuit(t *testing.T) {
	s := open(t)
	s.play("/", func(h stage.Hands) {
		h.As("odda")
		h.Touch("Open: Camp laundry, dryer 2")
		h.On("As found")
		h.Touch("Whole, nothing missing")
		h.On("Gas or electric?")
		h.Touch("Electric")
		h.NotNow("The run of the vent")
		h.Touch("See the next test")
		h.On("Element resistance")
		h.Touch("Look at: Continuity: terminal block to thermal cutoff")
		h.On("Continuity: terminal block to thermal cutoff")
		h.Touch("Open up and measure")
		h.On("Switch the wall isolator off")
		h.Until("What is wrong?")
		h.Touch("See the next test")
		h.On("Continuity: terminal block to thermal cutoff")
		h.Says("nothing more to open")
		h.Touch("Closed: it conducts")
		h.Touch("Look at: Continuity: thermal cutoff to heating element")
		h.Says("cleared")
		axe(t, h, "find, along the circuit")
		h.Touch("Open: it does not")
		h.On("Fix: heating element open")
		h.Touch("Take back: Continuity: thermal cutoff")
		h.Page.MustWait(`() => !document.querySelector("h1").innerText.startsWith("Mend")`)
		h.Says("Next test")
	})
}

// An oven that went dead after a power cut: its clock is looked at before
// anything is opened, and the job ends even with nothing opened.
func TestAnOvenWhoseClockIsNotSet(t *testing.T) {
	s := open(t)
	s.play("/", func(h stage.Hands) {
		h.As("jonna")
		h.Touch("Open: School kitchen, oven")
		h.On("As found")
		h.Touch("Whole, nothing missing")
		h.On("Isolator and breaker")
		h.Touch("All on")
		h.On("What is wrong?")
		h.Touch("See the next test")
		h.On("Does the lamp light?")
		h.Touch("It lights")
		h.On("Set the clock, and hand mode")
		h.Touch("It starts")
		h.On("Fix: clock not set or in automatic")
		axe(t, h, "nothing to open")
		h.Touch("Fixed")
		h.On("Clock, door and cooling fan")
		h.Done()
		h.On("Run every function for two minutes")
		h.Done()
		h.On("Even: all back and proven")
		h.Touch("To sign-off")
		h.Touch("Sign off")
		h.Says("Even: all back and proven. Signed off")
		h.Says("Clock not set or in automatic: fixed, nothing was opened.")
		assert.Zero(t, kinds(s.events("j-114"))["rung.out"])
	})
}

// How the clock is held shows only once the fascia is tilted: there it is asked,
// and mended at its rung when it turns out to be otherwise.
func TestAnOptionThatShowsOnceItIsOpen(t *testing.T) {
	s := open(t)
	s.play("/", func(h stage.Hands) {
		h.As("jonna")
		h.Touch("Open: School kitchen, oven")
		h.On("As found")
		h.Touch("Whole, nothing missing")
		h.On("Isolator and breaker")
		h.Touch("All on")
		h.Touch("Add to the job")
		h.Page.MustElement(`[role="dialog"] input`).MustInput("clock")
		h.Touch("Clock module")
		h.Touch("Add it")
		h.Until("How is the clock held?")
		h.Says("Seen only from above")
		axe(t, h, "an option where it shows")
		h.Touch("Bracket")
		h.On("Part the clock plug") // the new clock looks different: its leads go over one at a time, keyed or not
		h.MoveOver("1", "2", "3", "4")
		h.Until("Take the clock off its bracket")
		h.Touch("Different here")
		h.Touch("Clips: How is the clock held?")
		h.On("Press the clock out of its clips")
		assert.Eventually(t, func() bool { return len(s.bodies("j-114", "option.answered")) == 2 }, 10*time.Second, 100*time.Millisecond, "both answers reach the server")
	})
}

// Who signs in with a one-time code chooses a password before anything else.
func TestAOneTimeCode(t *testing.T) {
	s := open(t)
	const code, own = "h7kq-3m2x-r9tb-e4wn", "violet otter quays"
	hash, err := server.HashPassword(code)
	require.NoError(t, err)
	s.ask(func(kept *store.Store) error {
		return kept.SetCode(t.Context(), "odda", hash, time.Now().Add(time.Hour))
	})
	s.play("/", func(h stage.Hands) {
		h.SignIn("odda", code)
		h.Says("Choose a password")
		axe(t, h, "choosing a password")
		fields := h.Page.MustElements(`input[type="password"]`)
		require.Len(t, fields, 2)
		fields[0].MustInput(own)
		fields[1].MustInput("violet otter")
		h.Touch("Keep it")
		h.Says("The two are not the same")
		fields[1].MustSelectAllText().MustInput(own)
		h.Touch("Keep it")
		h.On("Today")
	})
	s.play("/", func(h stage.Hands) {
		h.SignIn("odda", own)
		h.On("Today")
	})
}

// A customer who complains of two things: both are kept, the first is looked for
// first.
func TestACallWithTwoComplaints(t *testing.T) {
	s := open(t)
	s.play("/", func(h stage.Hands) {
		h.As("pell")
		h.Page.MustElementR("nav a", "Take a call").MustClick()
		h.On("Take a call")
		h.Page.MustElement("input").MustInput("canteen dryer 1")
		h.Touch("Boat-yard canteen, dryer 1")
		h.Page.MustElement("textarea").MustInput("the towels stay cold, and it rattles")
		h.Says("Turns but does not heat")
		h.Touch("Also: Rattles")
		h.Says("✓ Also")
		axe(t, h, "two complaints")
		h.Touch("Make the job")
		h.On("As found")
		_, job, _ := strings.Cut(h.Page.MustInfo().URL, "/jobs/")
		also := s.bodies(job, "complaint.added")
		require.Len(t, also, 1)
		assert.JSONEq(t, `{"complaint":"rattles"}`, also[0])
	})
}

// A dryer that does nothing is never listened to as it turns.
func TestADeadDryer(t *testing.T) {
	s := open(t)
	s.freshJob("j-202", "school-dryer", "door-dead", "")
	s.play("/", func(h stage.Hands) {
		h.As("mira")
		h.Page.MustNavigate(s.At() + "/jobs/j-202")
		h.On("As found")
		h.Says("How does it stand there?")
		h.Touch("Whole, nothing missing")
		h.On("Gas or electric?")
		h.Touch("Electric")
		h.NotNow("The run of the vent")
		h.Touch("See the next test")
		h.On("Programme switch, on warm")
		assert.NotContains(t, h.Text(), "Listen to it turning")
	})
}

// What is seen in passing is answered at its step and tells of the fault; what is
// greased is asked for before it is closed in again. Both stand on the sheet.
func TestAStepWithALookAndGrease(t *testing.T) {
	s := open(t)
	s.freshJob("j-203", "school-dryer", "scrapes", "replace:sleeve")
	s.play("/", func(h stage.Hands) {
		h.As("mira")
		h.Page.MustNavigate(s.At() + "/jobs/j-203")
		h.On("Switch the wall isolator off")
		h.Until("Draw the rear sleeve off its pin")
		h.Says("A groove on the pin, or bare dry metal?")
		assert.True(t, h.Has("Still open: a groove on the pin"))
		axe(t, h, "a step with a look")
		h.Touch("Yes")
		h.Says("yes, seen, you")
		h.Until("Set the rear sleeve")
		h.Says("Grease the pin of the rear sleeve: high-heat grease, a thin film")
		axe(t, h, "a step with grease")
		h.Done()
		h.Until("Even: all back and proven")
		h.Touch("To sign-off")
		h.Says("Seen: a groove on the pin, or bare dry metal (Mira")
		h.Says("Grease the pin of the rear sleeve: high-heat grease, a thin film.")
	})
	looked := s.bodies("j-203", "looked")
	require.Len(t, looked, 2)
	assert.JSONEq(t, `{"on":"sleeve-off/inspect/1","as":"found"}`, looked[0])
	assert.JSONEq(t, `{"on":"sleeve-off/inspect/2","as":"done"}`, looked[1])
}

// What is saved is the sheet and the record as they stand.
func TestSaving(t *testing.T) {
	s := open(t)
	s.play("/", func(h stage.Hands) {
		h.As("ilse")
		h.Touch("Go on: Guest house on the point")
		h.On("Hang the front")
		h.Touch("Even")
		h.Says("Not even yet")
		h.Page.MustEval(`() => { window.saved = []; const old = URL.createObjectURL;
			URL.createObjectURL = blob => { blob.text().then(t => window.saved.push(t)); return old.call(URL, blob); } }`)
		h.Touch("Save sheet")
		h.Touch("Save record")
		h.Page.Timeout(10 * time.Second).MustWait(`() => window.saved.length === 2`)
		text := h.Page.MustEval(`() => window.saved.join("\n---\n")`).Str()
		assert.Contains(t, text, "## What we measured")
		assert.Contains(t, text, `"kind":"rung.out"`)
	})
}

// What a proof lacks is said on its button; what is typed survives another screen
// and a reload; a reading that is live is kept, and proves nothing.
func TestAProofThatIsTyped(t *testing.T) {
	s := open(t)
	s.freshJob("j-201", "school-dryer", "not-turning", "replace:drum-belt")
	s.play("/", func(h stage.Hands) {
		h.As("mira")
		h.Page.MustNavigate(s.At() + "/jobs/j-201")
		h.On("Switch the wall isolator off")
		h.Until("Prove it dead")
		assert.True(t, h.Has("Still open: Meter, the number on its label"))
		h.Type("meter", "7")
		h.Type("before", "230")
		h.Type("L-N", "-41")
		h.Says("L to N again")
		oneLine := h.Page.MustEval(`() => [...document.querySelectorAll("[data-proof] input")].every(f => f.parentElement.offsetHeight < 1.5 * f.offsetHeight || !f.parentElement.innerText.trim())`).Bool()
		assert.True(t, oneLine, "a unit stands beside its field, not below it")
		h.Touch("Hands busy")
		h.Says("Take the meter, and write down its number.")
		assert.Equal(t, "7", h.Page.MustElement("#proof-meter").MustProperty("value").Str())
		h.Touch("Steps")
		h.On("Prove it dead")
		h.Page.MustReload()
		h.On("Prove it dead")
		h.Page.MustWait(`() => document.querySelector("#proof-L-N")?.value === "-41"`)
		axe(t, h, "a proof half typed")
		h.Type("again-L-N", "229")
		h.Type("L-PE", "0")
		h.Type("N-PE", "0")
		h.Type("after", "231")
		h.Touch("Record it: not dead yet")
		h.Says("find the other feed and measure again")
		h.Says("off, not tested")
		h.Page.MustWait(`() => document.querySelector("#proof-meter").value === ""`)
		h.Prove()
		h.Touch("Done: tested dead")
		h.Says("tested dead")
		assert.Eventually(t, func() bool {
			return strings.Count(fmt.Sprint(s.bodies("j-201", "rung.out")), "prove-dead") == 2
		}, 10*time.Second, 100*time.Millisecond, "what read live is on the record, too")
	})
}

// Two people touch Done on one step, and three taps fall on one tick: each is one
// fact, and nothing is to be explained.
func TestTwoOnOneStepAndThreeTapsOnOneTick(t *testing.T) {
	s := open(t)
	s.play("/", func(h stage.Hands) {
		h.As("jonna")
		h.Touch("Go on: Chapel hall, dryer")
		h.On("Lift the heater box off")
		h.Until("Slide the element in")
		back := h.Title()
		s.play("/", func(other stage.Hands) {
			other.As("ilse")
			other.Touch("Go on: Chapel hall, dryer")
			other.On(back)
			other.Ready()
			other.Says("all sent")
			require.NoError(t, other.Offline(true)) // it does not hear of the other's touch
			h.Done()
			other.Touch("Done")
			other.Says("no signal")
			require.NoError(t, other.Offline(false))
			other.Says("all sent")
			other.Page.MustWait(`back => document.querySelector("h1")?.innerText !== back`, back)
		})
		assert.Eventually(t, func() bool { return len(s.bodies("j-108", "rung.back")) == 2 }, 10*time.Second, 100*time.Millisecond, "each said it")
		said := h.Page.MustEval(`async () => (await (await fetch("/api/jobs/j-108/view")).json()).snags.filter(s => !s.regular).map(s => s.say).join("; ")`).Str()
		assert.Empty(t, said)

		h.Until("Push the vent hose on")
		before, taken := len(s.bodies("j-108", "confirmed")), s.bodies("j-108", "withdrawn")
		h.Page.MustEval(`() => { const tick = document.querySelector('main button[aria-pressed="false"]'); tick.click(); tick.click(); tick.click(); }`)
		h.Page.MustWait(`() => document.querySelectorAll('main button[aria-pressed="true"]').length === 1`)
		h.Says("all sent")
		assert.Eventually(t, func() bool { return len(s.bodies("j-108", "confirmed")) == before+1 }, 10*time.Second, 100*time.Millisecond)
		assert.Equal(t, taken, s.bodies("j-108", "withdrawn"))
	})
}

// A plug of one's own whose leads look alike: the tags come before it is out.
func TestTagsBeforeAnOwnPlugIsOut(t *testing.T) {
	s := open(t)
	s.freshJob("j-202", "camp-dryer-2", "no-heat", "")
	s.play("/", func(h stage.Hands) {
		h.As("jonna")
		h.Page.MustNavigate(s.At() + "/jobs/j-202")
		h.Page.MustElementR("footer button", "Different here").MustClick()
		h.Touch("Extra fastener or part, not shown")
		h.Touch("plug")
		h.Field("Leads, by their colours").MustInput("red, blue, blue")
		h.Field("What is it called?").MustInput("Plug behind the filter")
		h.Touch("First its leads: tag")
		h.Until("Plug behind the filter")
		assert.Empty(t, s.bodies("j-202", "wire.said"))
		assert.True(t, h.Has("Still open: tag"), "no tag that nobody hung")
		h.Done()
		h.Says("all sent")
		assert.NotEmpty(t, s.bodies("j-202", "wire.said"))
		assert.Contains(t, fmt.Sprint(s.bodies("j-202", "rung.out")), "own-")
	})
}

// The database is put back to an earlier state: the device notices, and sends all
// that it has again.
func TestARestoredDatabaseGetsAllAgain(t *testing.T) {
	s := open(t)
	s.play("/", func(h stage.Hands) {
		h.As("jonna")
		h.Touch("Open: Boat-yard canteen, dryer 2")
		h.On("Switch the wall isolator off")
		h.Done()
		h.Says("all sent")
		require.NoError(t, s.End(syscall.SIGTERM))
		earlier, err := house.Copy(t.Context(), s.Database)
		require.NoError(t, err)
		require.NoError(t, s.Start(t.Context()))
		h.Until("Prove it dead")
		h.Done()
		h.Says("all sent")
		before := s.events("j-101")
		require.NoError(t, s.End(syscall.SIGTERM))
		s.Database = earlier
		assert.Less(t, len(s.events("j-101")), len(before))
		require.NoError(t, s.Start(t.Context()))
		h.Done() // its answer tells
		require.Eventually(t, func() bool { return len(s.events("j-101")) > len(before) }, 30*time.Second, 200*time.Millisecond)
		h.Says("all sent")
		again := map[string]int{}
		for _, e := range s.events("j-101") {
			again[e.ID]++
		}
		for _, e := range before {
			assert.Equal(t, 1, again[e.ID], "%s %s", e.Kind, e.Body)
		}
		assert.Contains(t, h.Text(), "tested dead")
	})
}

// What is signed off stands under earlier, by day; one's own jobs come first.
func TestTodayMineFirstAndEarlier(t *testing.T) {
	s := open(t)
	s.play("/", func(h stage.Hands) {
		h.As("jonna")
		h.Page.MustElement("article")
		assert.Equal(t, "Yours", *h.Page.MustElement("main section").MustAttribute("aria-label"), "hers first")
		assert.NotContains(t, h.Text(), "Even: all back and proven. Signed off")
		h.Touch("Earlier")
		h.Says("Even: all back and proven. Signed off")
		axe(t, h, "today, with earlier jobs")
		h.Touch("See: Pilot station, dryer")
		h.Says("Cutoff and limit")
	})
}
