package steps

import (
	"slices"

	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// PhotosOf are the photos on any of these, each once with its last pins, the
// newest first.
func PhotosOf(sc *scene.Scene, on func(string) bool, since *record.Fact) []Shown {
	out := []Shown{}
	for i := len(sc.Photos) - 1; i >= 0; i-- {
		f := sc.Photos[i]
		b := f.Of.(*record.Photo)
		if !on(b.On) || since != nil && !sc.Later(f, since) {
			continue
		}
		if slices.ContainsFunc(out, func(s Shown) bool { return s.SHA256 == b.SHA256 && s.On == b.On }) {
			continue
		}
		pins := b.Pins
		if pins == nil {
			pins = []record.Pin{}
		}
		out = append(out, Shown{SHA256: b.SHA256, On: b.On, What: sc.Names.On(b.On), By: sc.Name(f.By), At: f.When(), Pins: pins, Event: f.ID})
	}
	return out
}

// about tells what hangs on a move: on itself, on what it takes, or on
// something of either.
func about(mv *machine.Move) func(string) bool {
	return func(on string) bool {
		head := named.Head(on)
		return head == mv.ID || mv.Takes[head] != ""
	}
}

// remember adds to a side what was photographed and noted on its rung. What was
// taken on the way in stands at the way back without being asked for.
func remember(sc *scene.Scene, s *Side, mv *machine.Move) {
	var before *record.Fact // the last time it came back: what is older shows another turn
	for _, t := range sc.Turns {
		if t.Move == mv.ID && t.Back != nil && (sc.OpenTurn(mv.ID) != nil || slices.Contains(sc.WayIn(), mv.ID)) {
			before = t.Back
		}
	}
	s.Photos = PhotosOf(sc, about(mv), before)
	for i := len(sc.Notes) - 1; i >= 0; i-- {
		f := sc.Notes[i]
		if b := f.Of.(*record.Note); about(mv)(b.On) {
			s.Notes = append(s.Notes, view.Remark{Text: b.Text, By: sc.Name(f.By), At: f.When()})
		}
	}
}
