package paper

import (
	"time"

	"evensteps/core/bench"
	"evensteps/core/scene"
	"evensteps/core/snags"
	"evensteps/core/steps"
	"evensteps/core/view"
)

// From is what the papers are written from besides the scene: how the job stands, as
// the screens show it.
type From struct {
	Headline string // "Even, signed off"
	Standing string // the line under it
	Even     bool
	Closed   bool // closed, and not repaired
	Rungs    []steps.Rung
	Current  steps.Current
	Energies []bench.Energy
	Loose    []bench.Loose
	Off      []bench.Off
	Plugs    []steps.Plug
	Trays    []scene.Tray
	Inside   bench.Within
	Snags    []snags.Snag
	OutOfUse []snags.OutOfUse
	Bring    []string
}

// Sheet is what the customer gets: what was wrong, found and done, who did it and
// signed, what was measured against which limit with which instrument, and what was
// not tested.
type Sheet struct {
	Title     string      `json:"title"` // "Dryer repaired"
	State     string      `json:"state"` // whether all is back
	Firm      []string    `json:"firm"`  // the company, a line at a time
	About     []view.Row  `json:"about"` // the site, the machine and the job
	Zone      string      `json:"zone"`  // of the times on it; empty: of whoever reads it
	Region    string      `json:"region"`
	Wrong     []string    `json:"wrong"`
	Found     []string    `json:"found"` // what was found, and how it is known
	Parts     []Fitted    `json:"parts"`
	Done      []string    `json:"done"`
	Measured  []Figure    `json:"measured"`
	Tried     []string    `json:"tried"`
	NotTested []string    `json:"not_tested"`
	Todo      []string    `json:"todo"` // for the customer
	Explained []string    `json:"explained"`
	Signed    *view.Stamp `json:"signed"`
	Customer  string      `json:"customer"` // who signed for the site
	Note      string      `json:"note"`
	Markdown  string      `json:"markdown"` // the same, as it is saved
}

// Fitted is one part that was fitted.
type Fitted struct {
	Part   string `json:"part"`
	Number string `json:"number"`
	Why    string `json:"why"` // how it is known that the old one was at fault
	Old    string `json:"old"` // what became of it
}

// Figure is one measured value with its limit and how it was taken.
type Figure struct {
	What  string     `json:"what"`
	Value string     `json:"value"`
	Limit string     `json:"limit"` // empty where the map gives none
	Meter string     `json:"meter"`
	By    string     `json:"by"`
	At    *time.Time `json:"at"`
	Note  string     `json:"note"` // what stands beside it
}
