// Command running works a company that runs as docs/running.md says, in a browser
// through its proxy: the first supervisor chooses a password, adds two technicians,
// takes sites and machines from files and a call; a technician works the job to
// even. Called again with "after", it looks whether all of it is there.
package main

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/go-rod/rod"

	"evensteps/e2e/stage"
)

// password of everybody here; nothing of it is kept.
const password = "violet otter quays"

func main() {
	if len(os.Args) != 7 {
		fmt.Fprintln(os.Stderr, "running URL HOST CODE SITES.csv MACHINES.csv begin|after")
		os.Exit(2)
	}
	if err := run(os.Args[1], os.Args[2], os.Args[3], os.Args[4], os.Args[5], os.Args[6]); err != nil {
		fmt.Fprintln(os.Stderr, "running:", err)
		os.Exit(1)
	}
}

func run(url, host, code, sites, machines, what string) error {
	s, err := stage.Visit(context.Background(), url, host)
	defer s.Strike()
	if err != nil {
		return err
	}
	c := &company{stage: s}
	err = rod.Try(func() {
		if what == "begin" {
			c.begin(code, sites, machines)
			return
		}
		c.after()
	})
	if err != nil && c.Page != nil {
		failed := filepath.Join(os.TempDir(), "running-failed.png")
		if stage.Shot(c.Page.CancelTimeout().Timeout(20*time.Second), failed) == nil {
			fmt.Fprintln(os.Stderr, "a picture of the page is in", failed)
		}
	}
	return err
}

type company struct {
	stage.Hands
	stage *stage.Stage
}

func (c *company) open(width, height int) {
	page, err := c.stage.Page("/", width, height)
	if err != nil {
		panic(err)
	}
	c.Page = page.CancelTimeout().Timeout(3 * time.Minute)
}

// chooses signs somebody in with a code, who then chooses a password.
func (c *company) chooses(name, code string) {
	c.SignIn(name, code)
	c.Says("Choose a password")
	for _, field := range c.Page.MustElements(`input[type="password"]`) {
		field.MustInput(password)
	}
	c.Touch("Keep it")
	c.On("Today")
}

func (c *company) room(name string) {
	c.Page.MustElementR("nav a", name).MustClick()
	c.On(name)
}

// field writes into the field whose label begins with these words, in the dialogue that is
// open, if one is.
func (c *company) field(label, text string) {
	c.Page.MustElementByJS(`label => [...(document.querySelector('[role="dialog"]') ?? document).querySelectorAll("label")]
		.find(l => l.innerText.trim().startsWith(label))?.control ?? null`, label).MustSelectAllText().MustInput(text)
}

func (c *company) begin(code, sites, machines string) {
	c.open(1280, 800)
	c.chooses("mira", code)
	c.Says("No jobs now.")
	c.room("Company")
	c.field("Name", "Quay Appliances")
	c.field("Time zone", "Europe/Helsinki")
	c.field("Currency", "EUR")
	c.field("An hour", "60")
	c.Touch("Save the company")
	c.Says("Quay Appliances")
	for i, file := range []string{sites, machines} {
		inputs := c.Page.MustElements(`section[aria-label="Lists as files"] input[type="file"]`)
		inputs[1+i].MustSetFiles(file)
		c.Says("3 new")
		c.Touch("Keep it")
		c.Says("Kept: " + filepath.Base(file))
		c.Touch("Done")
	}
	codes := map[string]string{}
	c.room("People")
	for _, name := range []string{"Jonna Hallvik", "Ilse Brandmo"} {
		c.Touch("Add a person")
		c.field("Name", name)
		id, _, _ := strings.Cut(strings.ToLower(name), " ")
		c.field("Signs in as", id)
		if id == "ilse" {
			c.Touch("+ gas")
		}
		c.Touch("Add them")
		c.Says("it is shown this once")
		codes[id] = c.Page.MustElement(`[role="dialog"] output`).MustText()
		c.Touch("I have told them")
	}
	c.room("Sites")
	c.Says("Key under the oar")
	c.room("Take a call")
	c.field("Site, machine", "mill dryer")
	c.Touch("Mill, dryer")
	c.field("In the customer", "thumps when it turns, worse when full")
	c.Says("Thumps when it turns")
	c.Touch("Make the job")
	c.On("As found")
	job := c.Page.MustInfo().URL
	fmt.Println("a job from a call:", job[strings.LastIndex(job, "/")+1:])

	c.open(390, 844) // on a telephone
	c.chooses("jonna", codes["jonna"])
	c.Says("Mill, dryer")
	c.open(1280, 800)
	c.SignIn("jonna", password)
	c.On("Today")
	c.Page.MustElementR("a", "nobody is named yet").MustClick()
	c.Says("Who goes?")
	c.Touch("I go")
	c.Says("✓ I go")
	c.Touch("To the steps")
	c.On("As found")
	c.Touch("Whole, nothing missing")
	c.Touch("Add to the job")
	c.Page.MustElement(`[role="dialog"] input`).MustInput("roller")
	c.Touch("Drum rollers")
	c.Touch("Add it")
	// What others record comes through the proxy as it happens: the first word of the line, at once.
	soon := c.Page.MustEval(`async () => {
		const began = performance.now();
		const line = await fetch(location.pathname.replace("/jobs/", "/api/jobs/") + "/live?device=another");
		const reader = line.body.getReader();
		await reader.read();
		void reader.cancel();
		return performance.now() - began;
	}`).Num()
	if soon > 2000 {
		panic(fmt.Sprintf("the line's first word took %.0f ms: the proxy holds it back", soon))
	}
	fmt.Printf("a line through the proxy, its first word after %.0f ms\n", soon)
	c.Until("Turn the drum by hand")
	c.Until("Even: all back and proven")
	c.Touch("To sign-off")
	c.On("Even: all back and proven")
	c.Touch("Sign off")
	c.Says("Even: all back and proven. Signed off")
	c.Says("Quay Appliances")
	c.Page.MustWait(`() => document.body.innerText.includes("all sent")`)
	fmt.Println("worked to even, signed off")
}

// after looks whether what was done before is there.
func (c *company) after() {
	c.open(1280, 800)
	c.SignIn("jonna", password)
	c.On("Today")
	c.Touch("Earlier")
	c.Says("Even: all back and proven. Signed off")
	c.Touch("See: Mill, dryer")
	c.Says("Drum rollers")
	fmt.Println("all of it is there")
}
