package machine

import (
	"slices"
)

// Tests, faults, complaints and parts: what the search works with.

// Test is something to try or measure while finding the fault.
type Test struct {
	Task     `yaml:",inline"`
	Power    string    `json:"power,omitempty" yaml:"power"`
	Fitted   []string  `json:"fitted,omitempty" yaml:"fitted"`
	Lift     []string  `json:"lift,omitempty" yaml:"lift"`
	Once     bool      `json:"once,omitempty" yaml:"once"`
	Runs     bool      `json:"runs,omitempty" yaml:"runs"` // it needs a machine that runs
	Limits   string    `json:"limits,omitempty" yaml:"limits"`
	Ask      string    `json:"ask,omitempty" yaml:"ask"`
	Outcomes []Outcome `json:"outcomes,omitempty" yaml:"outcomes"`
}

// Outcome is one answer that a test can give, with P(outcome | fault).
type Outcome struct {
	ID      string             `json:"id" yaml:"id"`
	Say     string             `json:"say,omitempty" yaml:"say"`
	Verdict Values             `json:"verdict,omitempty" yaml:"verdict"`
	Given   map[string]float64 `json:"given,omitempty" yaml:"given"`
	Else    *float64           `json:"else,omitempty" yaml:"else"`
	Rest    bool               `json:"rest,omitempty" yaml:"rest"`
	Mends   string             `json:"mends,omitempty" yaml:"mends"`
}

// Fault is something that can be wrong.
type Fault struct {
	ID          string   `json:"id" yaml:"id"`
	Name        string   `json:"name" yaml:"name"`
	Part        string   `json:"part,omitempty" yaml:"part"`
	Reach       Needs    `json:"reach,omitempty" yaml:"reach"`
	SwapMinutes float64  `json:"swap_minutes,omitempty" yaml:"swap_minutes"`
	Leaves      []string `json:"leaves,omitempty" yaml:"leaves"`
	Because     []Cause  `json:"because,omitempty" yaml:"because"`
	When        When     `json:"when,omitempty" yaml:"when"`
}

// Cause is why a part may have failed.
type Cause struct {
	ID   string `json:"id" yaml:"id"`
	Ask  string `json:"ask" yaml:"ask"`
	Test string `json:"test,omitempty" yaml:"test"`
}

// Complaint is what customers say, with the weights of its faults.
type Complaint struct {
	ID           string             `json:"id" yaml:"id"`
	Name         string             `json:"name" yaml:"name"`
	Words        []string           `json:"words,omitempty" yaml:"words"`
	Faults       map[string]float64 `json:"faults,omitempty" yaml:"faults"`
	OtherMinutes *float64           `json:"other_minutes,omitempty" yaml:"other_minutes"`
	Dead         bool               `json:"dead,omitempty" yaml:"dead"` // nothing of the machine runs
	When         When               `json:"when,omitempty" yaml:"when"`
}

// Nothing is the outcome of a test that needs a machine that runs, where it does
// not.
const Nothing = "nothing"

// Circuit is a series path with points that can be probed.
type Circuit struct {
	ID      string     `json:"id" yaml:"id"`
	Name    string     `json:"name" yaml:"name"`
	Hold    []string   `json:"hold,omitempty" yaml:"hold"`
	Points  []Point    `json:"points" yaml:"points"`
	Between [][]string `json:"between" yaml:"between"`
	When    When       `json:"when,omitempty" yaml:"when"`
}

// Point is a place to put a probe, with what must be open to reach it.
type Point struct {
	ID    string `json:"id" yaml:"id"`
	Name  string `json:"name" yaml:"name"`
	Reach Needs  `json:"reach" yaml:"reach"`
}

// Part is what can be ordered and fitted.
type Part struct {
	ID          string    `json:"id" yaml:"id"`
	Item        string    `json:"item" yaml:"item"`
	Also        []string  `json:"also,omitempty" yaml:"also"`
	Name        string    `json:"name" yaml:"name"`
	Number      string    `json:"number" yaml:"number"`
	Price       float64   `json:"price,omitempty" yaml:"price"`
	Was         []string  `json:"was,omitempty" yaml:"was"`
	SetOf       int       `json:"set_of,omitempty" yaml:"set_of"`
	FitTogether bool      `json:"fit_together,omitempty" yaml:"fit_together"`
	Kit         []string  `json:"kit,omitempty" yaml:"kit"`
	CarryOver   []string  `json:"carry_over,omitempty" yaml:"carry_over"`
	With        []string  `json:"with,omitempty" yaml:"with"`
	Unlike      bool      `json:"unlike,omitempty" yaml:"unlike"`
	Compare     []Compare `json:"compare,omitempty" yaml:"compare"`
	Ticket      string    `json:"ticket,omitempty" yaml:"ticket"`
	When        When      `json:"when,omitempty" yaml:"when"`
}

// Pieces are the items that fitting this part renews, each once: its item,
// those it comes with, and those of its kit.
func (p *Part) Pieces() []string {
	var pieces []string
	for _, id := range slices.Concat([]string{p.Item}, p.Also, p.Kit) {
		if !slices.Contains(pieces, id) {
			pieces = append(pieces, id)
		}
	}
	return pieces
}

// Compare is what to hold old against new before fitting.
type Compare struct {
	What             string   `json:"what" yaml:"what"`
	Value            any      `json:"value,omitempty" yaml:"value"`
	ShorterByPercent *float64 `json:"shorter_by_percent,omitempty" yaml:"shorter_by_percent"`
}
