package ladder

import (
	"slices"
	"strings"
	"time"

	"evensteps/core/machine"
	"evensteps/core/record"
)

// Shown is a photo with what is pinned on it.
type Shown struct {
	SHA256 string       `json:"sha256"`
	On     string       `json:"on"`
	What   string       `json:"what"` // what it shows, by name
	By     string       `json:"by"`
	At     time.Time    `json:"at"`
	Pins   []record.Pin `json:"pins"`
	Event  string       `json:"event"`
}

// Remark is a note that hangs on a rung.
type Remark struct {
	Text string    `json:"text"`
	By   string    `json:"by"`
	At   time.Time `json:"at"`
}

// photosOf are the photos on any of these, each once with its last pins, the
// newest first.
func (v *viewing) photosOf(on func(string) bool, since *record.Fact) []Shown {
	out := []Shown{}
	for i := len(v.Photos) - 1; i >= 0; i-- {
		f := v.Photos[i]
		b := f.Of.(*record.Photo)
		if !on(b.On) || since != nil && !v.later(f, since) {
			continue
		}
		if slices.ContainsFunc(out, func(s Shown) bool { return s.SHA256 == b.SHA256 && s.On == b.On }) {
			continue
		}
		pins := b.Pins
		if pins == nil {
			pins = []record.Pin{}
		}
		out = append(out, Shown{SHA256: b.SHA256, On: b.On, What: v.onName(b.On), By: v.name(f.By), At: f.When(), Pins: pins, Event: f.ID})
	}
	return out
}

// onName names what a photo, note or difference hangs on.
func (v *viewing) onName(on string) string {
	if on == "" {
		return "the machine"
	}
	head, rest, _ := strings.Cut(on, "/")
	if mv := v.Map.Move(head); mv != nil {
		for i := range mv.Fasteners {
			if lotID(mv, i) == on {
				return mv.Name() + ", " + v.lotName(on)
			}
		}
		for _, r := range mv.Record {
			if r.ID == rest {
				return mv.Name() + ", " + lower(r.Ask)
			}
		}
		return mv.Name()
	}
	if t := v.Map.Test(on); t != nil {
		return t.Title
	}
	if rest != "" {
		return v.itemName(head) + ", " + rest
	}
	return v.itemName(on)
}

// concerns tells what hangs on a move: on itself, on what it takes, or on
// something of either.
func concerns(mv *machine.Move) func(string) bool {
	return func(on string) bool {
		head := moveOf(on)
		return head == mv.ID || mv.Takes[head] != ""
	}
}

// Kept is one record of a rung, to be taken back later.
type Kept struct {
	Event string    `json:"event"`
	Say   string    `json:"say"`
	By    string    `json:"by"`
	At    time.Time `json:"at"`
}

// mostKept is how many records of a rung are shown, the newest first.
const mostKept = 12

// kept are the records that speak of a rung, the newest first.
func (v *viewing) kept(concerns func(string) bool) []Kept {
	out := []Kept{}
	for i := len(v.Facts) - 1; i >= 0 && len(out) < mostKept; i-- {
		f := &v.Facts[i]
		if on := subject(f); on != "" && concerns(on) {
			out = append(out, Kept{f.ID, upper(v.saidShort(f)), v.name(f.By), f.When()})
		}
	}
	return out
}

// subject is what a fact about a rung speaks of; empty of any other fact.
func subject(f *record.Fact) string {
	switch b := f.Of.(type) {
	case *record.RungOut:
		return b.Move
	case *record.RungBack:
		return b.Move
	case *record.RungHalf:
		return b.Move
	case *record.RungNotDone:
		return b.Move
	case *record.RungOwn:
		return b.ID
	case *record.LotCounted:
		return b.Lot
	case *record.LotSettled:
		return b.Lot
	case *record.WireSaid:
		return b.Wire
	case *record.WireConfirmed:
		return b.Wire
	case *record.LeadMoved:
		return b.From
	case *record.Confirmed:
		return b.Confirm
	case *record.Recorded:
		return b.Record
	case *record.Looked:
		return b.On
	case *record.CheckResult:
		return b.Check
	case *record.Photo:
		return b.On
	case *record.Note:
		return b.On
	case *record.Difference:
		return b.On
	case *record.Found:
		return b.Move + b.Item
	}
	return ""
}

// remember adds to a side what was photographed and noted on its rung. What was
// taken on the way in stands at the way back without being asked for.
func (v *viewing) remember(s *Side, mv *machine.Move) {
	var before *record.Fact // the last time it came back: what is older shows another turn
	for _, t := range v.Turns {
		if t.Move == mv.ID && t.Back != nil && (v.OpenTurn(mv.ID) != nil || slices.Contains(v.wayIn(), mv.ID)) {
			before = t.Back
		}
	}
	s.Photos = v.photosOf(concerns(mv), before)
	for i := len(v.Notes) - 1; i >= 0; i-- {
		f := v.Notes[i]
		if b := f.Of.(*record.Note); concerns(mv)(b.On) {
			s.Notes = append(s.Notes, Remark{b.Text, v.name(f.By), f.When()})
		}
	}
}
