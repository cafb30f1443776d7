package stage

import (
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/cdp"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"

	"evensteps/demo"
)

// Hands work a page as a technician does: by the names that stand on things.
// They panic when something is not there in time, as Rod's Must functions do.
type Hands struct{ Page *rod.Page }

// patience is how long something may take to show.
const patience = 40 * time.Second

// A page ignores a second touch within 700 ms, as the slip of a wet glove: it
// notes when it was touched, and is touched again only after that.
const (
	watchTouches = `for (const kind of ["click", "keydown"]) addEventListener(kind, () => { window.touchedAt = performance.now(); }, true)`
	slipOver     = `() => performance.now() - (window.touchedAt ?? -1000) > 710`
)

// patient gives up on what does not show in time.
func (h Hands) patient() Hands { return Hands{h.Page.Timeout(patience)} }

// settle lets the time pass in which a second touch counts as a slip.
func (h Hands) settle() { h.Page.MustWait(slipOver) }

// SignIn signs in on the first page.
func (h Hands) SignIn(name, password string) {
	h = h.patient()
	h.Page.MustElement(`input[autocomplete="username"]`).MustSelectAllText().MustInput(name)
	h.Page.MustElement(`input[autocomplete="current-password"]`).MustSelectAllText().MustInput(password)
	h.Touch("Sign in")
}

// As signs in as one of the demo's people and waits for the jobs.
func (h Hands) As(name string) {
	h.SignIn(name, demo.Password)
	h.On("Today")
}

// Touch presses the button whose text or name begins with these words.
func (h Hands) Touch(words string) {
	h.patient().settle()
	press(func() *rod.Element { return h.Button(words) })
}

// press touches what is found. A page that is drawn again between the finding
// and the touch leaves nothing to touch: it is looked for again, as by a person.
func press(find func() *rod.Element) {
	var err error
	for range 5 {
		if err = find().Click(proto.InputMouseButtonLeft, 1); err == nil {
			return
		}
		var gone *cdp.Error
		if !errors.As(err, &gone) || !strings.Contains(gone.Message, "detached") {
			break
		}
	}
	panic(err)
}

// Button finds a button by how its text or name begins.
func (h Hands) Button(words string) *rod.Element {
	return h.patient().Page.MustElementByJS(`words => [...document.querySelectorAll("button")].find(b =>
		!b.disabled && b.getClientRects().length > 0 && ((b.getAttribute("aria-label") ?? "").startsWith(words) || b.textContent.trim().startsWith(words))) ?? null`, words)
}

// Has tells whether such a button is there now.
func (h Hands) Has(words string) bool {
	return h.Page.MustEval(`words => [...document.querySelectorAll("button")].some(b =>
		!b.disabled && b.getClientRects().length > 0 && ((b.getAttribute("aria-label") ?? "").startsWith(words) || b.textContent.trim().startsWith(words)))`, words).Bool()
}

// Title is the heading of what is on.
func (h Hands) Title() string { return h.Page.MustElement("h1").MustText() }

// Text is all that the page says.
func (h Hands) Text() string { return h.Page.MustElement("body").MustText() }

// On waits until that is the heading.
func (h Hands) On(title string) {
	h.patient().Page.MustWait(`title => document.querySelector("h1")?.innerText === title`, title)
}

// NotNow passes over what is asked on arrival, in this order.
func (h Hands) NotNow(titles ...string) {
	for _, title := range titles {
		h.On(title)
		h.Touch("Skip")
	}
}

// Says waits until the page says it.
func (h Hands) Says(text string) {
	h.patient().Page.MustWait(`text => document.body.innerText.includes(text)`, text)
}

// Key presses a key where the focus is.
func (h Hands) Key(key input.Key) {
	h.patient().settle()
	h.Page.Keyboard.MustType(key)
}

// Type fills the field of a proof.
func (h Hands) Type(id, text string) {
	h.Page.MustElement("#proof-" + id).MustSelectAllText().MustInput(text)
}

// Prove writes down what a proof asks for, where all is as it should be: dead
// wires, a flame that died, a cock that holds.
func (h Hands) Prove() {
	h.Page.MustEval(`() => [...document.querySelectorAll('main [role="radiogroup"]')].filter(f => f.getAttribute("aria-label") !== "How is it tested?").forEach(f => f.querySelector("button").click())`)
	dc := h.Page.MustHas("#proof-source")
	const open = `done => [...document.querySelectorAll('main input[id^="proof-"]')].map(f => f.id.slice("proof-".length)).find(id => !done.includes(id)) ?? ""`
	done := []string{} // one value may ask for another, or spare it
	for id := h.Page.MustEval(open, done).Str(); id != ""; id = h.Page.MustEval(open, done).Str() {
		done = append(done, id)
		value, known := map[string]string{"meter": "4", "category": "", "source": "", "rated": "5000", "before": "230", "after": "231", "standing": "21", "rise": "0.1", "held": "a strap", "hottest-part-air": "24", "joint-air": "0"}[id]
		switch {
		case dc && id == "before":
			value = "9.1"
		case dc && id == "after":
			value = "9.0"
		case !known:
			value = "0.3"
		}
		if value != "" {
			h.Type(id, value)
		}
	}
}

// settled counts, below zero, what the present rung still asks for.
const settled = `() => -document.querySelectorAll('main button[aria-pressed="false"]').length
	- [...document.querySelectorAll("main output")].filter(o => o.textContent === "?").length
	- document.querySelectorAll("main [data-look]").length
	- [...document.querySelectorAll("main button")].filter(b => b.textContent === "Noted in writing").length`

// Ready does what the present rung still asks for: counts, ticks, readings.
func (h Hands) Ready() {
	h = h.patient()
	h.settle() // a step that has only just come takes no touch that was meant for the one before
	if h.Page.MustHas("main [data-proof]") {
		h.Prove()
	}
	h.Values()
	for range 30 {
		done := h.Page.MustEval(`() => {
			const open = [...document.querySelectorAll('main [role="group"]')].find(g => g.querySelector("output")?.textContent === "?");
			if (open) return [...open.querySelectorAll("button")].find(b => /^(All|The one|.* empty$)/.test(b.textContent)).getAttribute("aria-label");
			const instead = [...document.querySelectorAll("main button")].find(b => b.textContent === "Noted in writing");
			if (instead) return instead.textContent;
			// A question is answered once: its tick shows at once, what comes next only when it is kept.
			if (/On arrival\.|Look now\./.test(document.querySelector("main")?.innerText ?? "") && document.querySelector('main button[aria-pressed="true"]')) return "";
			const look = document.querySelector("main [data-look]");
			if (look) return [...look.querySelectorAll("button")].find(b => /^(Done|No)$/.test(b.textContent)).textContent;
			const ticks = [...document.querySelectorAll('main button[aria-pressed="false"]')].filter(b => !b.closest(".answers"));
			const tick = ticks.find(b => !b.disabled && (!document.body.innerText.includes("At the bench.") || /of the new one: |moved to the new part/.test(b.textContent)));
			return tick ? tick.getAttribute("aria-label") ?? tick.textContent : "";
		}`).Str()
		if done == "" {
			return
		}
		before := h.Page.MustEval(settled).Int()
		// A page that is drawn anew meanwhile may ask for something else by now: then
		// it is looked again.
		button, err := h.Page.Timeout(2 * time.Second).ElementByJS(rod.Eval(`text => [...document.querySelectorAll("main button")].find(b => b.getAttribute("aria-label") === text || b.textContent === text) ?? null`, done))
		if err != nil {
			continue
		}
		_, _ = button.Eval(`() => this.scrollIntoView({ block: "center" })`) // not under the edge of what is below
		if button.Click(proto.InputMouseButtonLeft, 1) != nil {
			continue
		}
		// Where the page moved as it was touched, it is touched again, as by a technician.
		_ = h.Page.Timeout(4 * time.Second).Wait(rod.Eval(`before => (`+settled+`)() > before`, before))
	}
	panic(fmt.Sprintf("the rung %q never comes ready", h.Title()))
}

// Values gives every line that asks for one a value: what came off, or the
// example that stands with it.
func (h Hands) Values() {
	const open = `main [data-state="open"]:not([data-optional]) input`
	for h.Page.MustHas(open) {
		field := h.Page.MustElement(open)
		id := *field.MustAttribute("id")
		value := field.MustEval(`() => {
			const was = this.closest("[data-state]").querySelector("small").innerText.match(/^came off at (.*?)(, that is|$)/);
			return was ? was[1] : this.placeholder.replace("in your words", "as on the photo");
		}`).Str()
		field.MustSelectAllText().MustInput(value)
		if !strings.HasPrefix(id, "line-") {
			return // it goes with Done
		}
		field.MustType(input.Enter)
		h.Page.MustWait(`id => document.getElementById(id)?.closest("[data-state]").dataset.state !== "open"`, id)
	}
}

// Field is the field whose label begins with these words.
func (h Hands) Field(label string) *rod.Element {
	return h.patient().Page.MustElementByJS(`(words) => [...document.querySelectorAll("label")].find((l) => l.innerText.trim().startsWith(words))?.control`, label)
}

// Mine opens the menu under one's own name.
func (h Hands) Mine() {
	h.patient().Page.MustElement(`nav[aria-label="Rooms"] ~ button`).MustClick()
	h.patient().Page.MustElement(`[role="dialog"]`)
	h.settle()
}

// Done touches what leads on and waits until something else is on. It returns
// what the button said. A rung that is still being drawn may ask for something
// only a moment later: then that is done first.
func (h Hands) Done() string { return h.done("") }

// done is Done, unless the heading that is waited for is on by itself.
func (h Hands) done(wanted string) string {
	h = h.patient()
	title := h.Title()
	for range 20 {
		if wanted != "" && h.Title() == wanted {
			return ""
		}
		h.Ready()
		h.settle()
		button, err := h.Page.Timeout(2 * time.Second).ElementByJS(rod.Eval(`() => [...document.querySelectorAll("footer button")].find(b => /^(Done|Passed|Record)/.test(b.textContent)) ?? null`))
		if err != nil {
			continue
		}
		said, err := button.Text()
		if err != nil {
			continue // drawn anew
		}
		page := h.Page
		if button.Click(proto.InputMouseButtonLeft, 1) != nil { // drawn anew as it was touched, or by the touch
			page = h.Page.Timeout(4 * time.Second)
		}
		if page.Wait(rod.Eval(`title => document.querySelector("h1")?.innerText !== title`, title)) == nil {
			h.settle() // and what comes is all there
			return strings.ReplaceAll(said, "\n", " ")
		}
	}
	panic(fmt.Sprintf("%q has nothing that leads on", title))
}

// Until works on until a heading is on.
func (h Hands) Until(title string) {
	for range 80 {
		if h.Title() == title {
			return
		}
		h.done(title)
	}
	panic(fmt.Sprintf("%q never comes; on is %q", title, h.Title()))
}

// Offline cuts the page off the network, or joins it again.
func (h Hands) Offline(off bool) error {
	if err := (proto.NetworkEnable{}).Call(h.Page); err != nil {
		return fmt.Errorf("watching the network: %w", err)
	}
	return proto.NetworkEmulateNetworkConditions{Offline: off, DownloadThroughput: -1, UploadThroughput: -1}.Call(h.Page)
}

// Pin pins a lead in the picture that is shown on the rung, by its name there.
func (h Hands) Pin(lead string) {
	h.Touch("Photo: your picture")
	h.Page.MustWait(`() => document.querySelector('[role="dialog"] img')?.naturalWidth > 0`)
	h.Page.MustElement(`[role="dialog"] img`).MustClick()
	h.Touch(lead)
	h.Touch("Keep the pins")
}

// MoveOver takes the leads of a rung one at a time to these terminals of a part that
// looks different, each by the diagram.
func (h Hands) MoveOver(terminals ...string) {
	for _, to := range terminals {
		h.Page.MustElement(`main button[aria-pressed="false"]`).MustClick()
		h.Page.MustElement(`[role="dialog"] input`).MustInput(to)
		h.Touch("the diagram: it is on " + to)
		h.Page.MustWait(`to => document.querySelector("main").innerText.includes("→ " + to)`, to)
	}
}
