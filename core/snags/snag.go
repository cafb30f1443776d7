package snags

import (
	"slices"

	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// Grade says how a snag can be settled: a stop only by another person's own
// inspection, a count by the missing fact or a reason, a note by either.
type Grade string

// The grades.
const (
	StopGrade  Grade = "stop"
	CountGrade Grade = "count"
	NoteGrade  Grade = "note"
)

// word stands before a snag of this grade.
func (g Grade) word() string {
	switch g {
	case StopGrade:
		return "Stop"
	case NoteGrade:
		return "Note"
	}
	return "Open"
}

// Snag is one thing that stands between the job and even. What is merely still
// to come is regular.
type Snag struct {
	ID        string  `json:"id"`
	Kind      string  `json:"kind"`
	Grade     Grade   `json:"grade"`
	On        string  `json:"on"`
	Rung      string  `json:"rung"`
	Regular   bool    `json:"regular"`
	Say       string  `json:"say"`
	Do        string  `json:"do"`
	Explained *Reason `json:"explained"`
	// Touches settle it; Explain says that a reason would.
	Touches []view.Touch `json:"touches"`
	Explain bool         `json:"explain"`
	Line    *view.Line   `json:"line"`  // the value that settles it, to be typed here
	Event   string       `json:"event"` // the fact that raised it, empty where none did
}

// Reason is an explanation with who gave it.
type Reason struct {
	Text string `json:"text"`
	By   string `json:"by"`
}

// OutOfUse is an emergency that a caller told of: the machine is out of use until
// somebody has looked at that first.
type OutOfUse struct {
	Snag string   `json:"snag"`
	Name string   `json:"name"`
	Do   string   `json:"do"`
	Told []string `json:"told"` // what the caller was told, a line at a time
	By   string   `json:"by"`   // who told them
}

// told is how a snag that was raised as facts were folded is put into words.
type told func(sc *scene.Scene, r *record.Raised, s *Snag)

// inspected tells whether another person than the one who raised a snag looked at
// it, and held the ticket that it needs.
func inspected(sc *scene.Scene, snag string, raised *record.Fact, ticket string) bool {
	return slices.ContainsFunc(sc.Facts, func(o record.Fact) bool {
		b, is := o.Of.(*record.Inspected)
		return is && b.Snag == snag && o.By != raised.By && sc.Job.HeldBy(o.By, ticket, o.When())
	})
}
