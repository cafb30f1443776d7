package job

import (
	"evensteps/core/bench"
	"evensteps/core/journey"
	"evensteps/core/paper"
	"evensteps/core/plan"
	"evensteps/core/scene"
	"evensteps/core/snags"
	"evensteps/core/steps"
	"evensteps/core/tray"
	"evensteps/core/view"
)

// View is a job as the screens show it.
type View struct {
	Job         string           `json:"job"`
	Title       string           `json:"title"`
	Place       string           `json:"place"`
	Words       string           `json:"words"`
	Machine     string           `json:"machine"`
	Even        bool             `json:"even"`
	Closed      bool             `json:"closed"`
	Signed      *view.Stamp      `json:"signed"`
	Headline    string           `json:"headline"`
	Standing    string           `json:"standing"` // one line under the headline
	Current     steps.Current    `json:"current"`
	PhotoOn     string           `json:"photo_on"` // what a photo that is taken now hangs on
	Possible    []string         `json:"possible"`
	Goals       []Goal           `json:"goals"`
	Energies    []bench.Energy   `json:"energies"`
	Worst       string           `json:"worst"` // the energy that can hurt most now
	Loose       []bench.Loose    `json:"loose"`
	Off         []bench.Off      `json:"off"`
	Temporaries []string         `json:"temporaries"`
	Cuts        []bench.CutTo    `json:"cuts"`
	Belongings  []bench.Own      `json:"belongings"`
	Inside      []view.Row       `json:"inside"` // what must not stay in the machine, by name
	Trays       []scene.Tray     `json:"trays"`
	Bags        []tray.Bag       `json:"bags"` // lots for which no tray is left
	Plugs       []steps.Plug     `json:"plugs"`
	Between     []view.Row       `json:"between"`
	Snags       []snags.Snag     `json:"snags"`
	OutOfUse    []snags.OutOfUse `json:"out_of_use"` // emergencies that nobody has looked at yet
	Differences []paper.Differs  `json:"differences"`
	Rungs       []steps.Rung     `json:"rungs"`
	Here        []string         `json:"here"`
	Arrive      []view.Make      `json:"arrive"` // how this viewer says that they are at the machine; none where they are, or work at a desk
	About       About            `json:"about"`
	Undo        *Undo            `json:"undo"`
	Stops       []view.Choice    `json:"stops"` // reasons to stop, each with what to do first
	Foot        Foot             `json:"foot"`
	SignOff     view.Touch       `json:"sign_off"`
	Visit       journey.Visit    `json:"visit"`
	Sheet       paper.Sheet      `json:"sheet"`
	HandOver    paper.HandOver   `json:"hand_over"`
	TakenBack   []view.Remark    `json:"taken_back"` // others' records that somebody took back
	Plan        *PlanOut         `json:"plan"`
}

// About is what is known of a job before anybody is at the machine: where it is,
// who goes, and whether it is a job at all.
type About struct {
	Where scene.Where `json:"where"`
	Goes  string      `json:"goes"` // "Jonna Hallvik and you go"
	// People can go; On are those whose job it is.
	People    []Named      `json:"people"`
	Mine      bool         `json:"mine"`
	CalledOff *view.Remark `json:"called_off"`
	Again     []string     `json:"again"` // what is withdrawn to take it up again
	// Reasons are for calling it off; none where it cannot be: work on it has begun.
	Reasons []string `json:"reasons"`
}

// Named is one thing by its name.
type Named struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Note string `json:"note"`
	On   bool   `json:"on"` // it stands, or is a goal already
}

// Goal is one goal and whether it is still open.
type Goal struct {
	Goal   string `json:"goal"`
	Name   string `json:"name"`
	Open   bool   `json:"open"`
	Reason string `json:"reason,omitempty"`
}

// PlanOut is the plan of what is still to come.
type PlanOut struct {
	plan.Plan
	Error *plan.NoPlan `json:"error,omitempty"`
}

// Foot is the foot of the ladder: what it leads to, and how long that takes.
type Foot struct {
	Title string  `json:"title"`
	P50   float64 `json:"p50"` // minutes still to go, the median
	P80   float64 `json:"p80"` // and the 80th percentile
	Rungs int     `json:"rungs"`
	Made  int     `json:"made"`
	Off   int     `json:"off"`
	Doubt string  `json:"doubt"` // that the plan may not be the shortest, and by how much
}

// Undo is the last record of this viewer, to be taken back by one touch.
type Undo struct {
	Say    string   `json:"say"`
	Events []string `json:"events"`
}
