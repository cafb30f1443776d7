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

// Sheet is what the customer gets: who found and did what, when and with which
// instrument, and what was not tested.
type Sheet struct {
	Title     string      `json:"title"`
	Firm      []string    `json:"firm"`  // the company, a line at a time
	About     []view.Row  `json:"about"` // the machine and the job
	Zone      string      `json:"zone"`  // of the times on it; empty: of whoever reads it
	Region    string      `json:"region"`
	Wrong     []string    `json:"wrong"`
	Found     []string    `json:"found"` // as it was found, with who says so and when
	Done      []string    `json:"done"`
	Measured  []Figure    `json:"measured"`
	NotTested []string    `json:"not_tested"`
	Who       []string    `json:"who"`
	Explained []string    `json:"explained"`
	Signed    *view.Stamp `json:"signed"`
	Note      string      `json:"note"`
	Markdown  string      `json:"markdown"` // the same, as it is saved
}

// Figure is one measured value with how it was taken.
type Figure struct {
	What  string     `json:"what"`
	Value string     `json:"value"`
	Meter string     `json:"meter"`
	By    string     `json:"by"`
	At    *time.Time `json:"at"`
	Note  string     `json:"note"` // what stands beside a proof
}
