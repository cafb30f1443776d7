package scene

import (
	"maps"
	"slices"

	"evensteps/core/record"
)

// Untouched tells whether nobody has been at the machine on this job.
func Untouched(sc *Scene) bool {
	c := sc.Job.Company()
	return !slices.ContainsFunc(sc.Facts, func(f record.Fact) bool {
		switch f.Of.(type) {
		case *record.VisitBegan, *record.PersonHere: // being there is no work yet
			return false
		}
		return len(c.Came(&f)) > 0
	})
}

// CalledOff tells whether the job is called off, and nothing is off the machine.
func (sc *Scene) CalledOff() bool {
	return sc.Off != nil && sc.SignedBy == nil && len(sc.ToComeBack()) == 0
}

// Explained are the snags that somebody has explained, with the reason.
func (sc *Scene) Explained() map[string]*record.Fact {
	out := map[string]*record.Fact{}
	for i := range sc.Facts {
		if b, ok := sc.Facts[i].Of.(*record.SnagExplained); ok {
			out[b.Snag] = &sc.Facts[i]
		}
	}
	return out
}

// Later tells whether one fact counts after another.
func (sc *Scene) Later(f, than *record.Fact) bool {
	at := func(o *record.Fact) int {
		return slices.IndexFunc(sc.Facts, func(x record.Fact) bool { return x.ID == o.ID })
	}
	return at(f) > at(than)
}

func FittedAs(f *record.Fact) string {
	if as := f.Of.(*record.PartFitted).As; as != "" {
		return as
	}
	return "fitted"
}

// ToComeBack are the moves that are off the machine and have to come back, in the
// order in which they were made. What shuts an energy off that stays off on
// purpose is not among them. Everything that says what is off asks here.
func (sc *Scene) ToComeBack() []string {
	var out []string
	for _, id := range sc.Standing {
		if mv := sc.Map.Move(id); mv == nil || !mv.OneWay && !slices.Contains(sc.Stays, id) {
			out = append(out, id)
		}
	}
	return out
}

// leftOff are the moves that did nothing but shut off what stays off on purpose,
// with a reason; they are there once all else is back.
func leftOff(sc *Scene) []string {
	if !AllElseBack(sc) {
		return nil
	}
	explained := sc.Explained()
	var out []string
	for _, id := range sc.Standing {
		mv := sc.Map.Move(id)
		if !mv.OneWay && !slices.ContainsFunc(slices.Sorted(maps.Keys(mv.Takes)), func(e string) bool { return explained["energy-off:"+e+":"] == nil }) {
			out = append(out, id)
		}
	}
	return out
}

// AllElseBack tells whether nothing stands but what shuts an energy off, so
// that it may be left off on purpose, with a reason.
func AllElseBack(sc *Scene) bool {
	return !slices.ContainsFunc(sc.Standing, func(id string) bool {
		mv := sc.Map.Move(id)
		return mv == nil || !mv.OneWay && slices.ContainsFunc(slices.Sorted(maps.Keys(mv.Takes)), func(it string) bool { return sc.Map.Energy(it) == nil })
	})
}
