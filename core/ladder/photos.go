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
