package snags

import (
	"evensteps/core/english"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// kind is all that is true of one kind of snag. A kind that is not here does not
// exist: a test finds what has no row.
type kind struct {
	grade Grade
	told  told // words, of one that was raised as facts were folded
	// still is the word before it in what is still to do, while it is merely still to
	// come; a kind without one is never that.
	still string
	row   func(sc *scene.Scene, s *Snag) string // what stands after it; what it says, where nil
}

var kinds = map[string]kind{
	// Raised by a fact as it is folded (package record).
	"guard-unmet":        {grade: StopGrade, told: guardUnmet},
	"proof-lapsed":       {grade: StopGrade, told: proofLapsed},
	"out-of-order":       {grade: CountGrade, told: outOfOrder},
	"back-without-out":   {grade: CountGrade, told: backWithoutOut},
	"off-again":          {grade: CountGrade, told: offAgain},
	"fitted-unsure":      {grade: CountGrade, told: fittedUnsure},
	"missing-part":       {grade: CountGrade, told: missingPart},
	"barred":             {grade: NoteGrade, told: barred},
	"option-contradicts": {grade: NoteGrade, told: optionContradicts},
	"final-early":        {grade: NoteGrade, told: finalEarly},
	"live-open":          {grade: CountGrade, told: liveOpen},
	"loose-fact":         {grade: NoteGrade, told: looseFact},
	"vague-place":        {grade: NoteGrade, told: vaguePlace},
	"withdrawal-void":    {grade: NoteGrade, told: withdrawalVoid},
	"far-off":            {grade: NoteGrade, told: farOff},
	"unreadable":         {grade: NoteGrade, told: unreadable},
	"hangs":              {grade: NoteGrade, told: hangs},
	"late":               {grade: NoteGrade, told: late},
	"newer-kind":         {grade: NoteGrade, told: newerKind},

	// Found in how the machine stands.
	"stopped":            {grade: StopGrade},
	"out-of-use":         {grade: StopGrade},
	"ticket-missing":     {grade: StopGrade},
	"still-off":          {grade: CountGrade, still: inRungs},
	"over-unknown":       {grade: CountGrade},
	"fastener-short":     {grade: CountGrade},
	"fastener-over":      {grade: CountGrade},
	"fastener-unsettled": {grade: CountGrade},
	"fastener-uncounted": {grade: CountGrade},
	"count-differs":      {grade: CountGrade},
	"confirm-open":       {grade: CountGrade},
	"confirm-failed":     {grade: CountGrade},
	"earth-unmeasured":   {grade: CountGrade, still: "Earth", row: toMeasure},
	"wire-mismatch":      {grade: CountGrade},
	"wire-unconfirmed":   {grade: CountGrade},
	"wire-differs":       {grade: CountGrade},
	"check-due":          {grade: CountGrade, still: "Check"},
	"check-failed":       {grade: CountGrade},
	"check-place-lost":   {grade: NoteGrade},
	"final-due":          {grade: CountGrade, still: "Final"},
	"final-failed":       {grade: CountGrade},
	"goal-open":          {grade: CountGrade, still: "Work"},
	"temporary-in":       {grade: CountGrade, still: "Inside"},
	"belonging-open":     {grade: CountGrade},
	"piece-open":         {grade: CountGrade, still: "Part"},
	"cause-open":         {grade: CountGrade, still: "Cause"},
	"energy-off":         {grade: CountGrade, still: "Restore", row: itsName},
}

// inRungs marks what is counted in rungs, in one row of its own.
const inRungs = "To come back"

func itsName(sc *scene.Scene, s *Snag) string { return english.Lower(sc.Names.Item(s.On)) }

func toMeasure(sc *scene.Scene, s *Snag) string { return itsName(sc, s) + ", to measure" }

// Still is what is still to do for even, a row each: what is off and has to come
// back, then each snag that nobody has explained. lying is what lies in the trays.
func Still(sc *scene.Scene, all []Snag, lying string) []view.Row {
	rows := []view.Row{}
	if n := len(sc.ToComeBack()); n > 0 {
		say := english.Count(n, "step")
		if lying != "" {
			say += ", " + lying
		}
		rows = append(rows, view.Row{What: inRungs, Say: say})
	}
	for i := range all {
		s := &all[i]
		k := kinds[s.Kind]
		switch {
		case s.Explained != nil:
		case !s.Regular:
			rows = append(rows, view.Row{What: s.Grade.word(), Say: s.Say, Snag: s.ID})
		case k.still == inRungs:
		case k.row != nil:
			rows = append(rows, view.Row{What: k.still, Say: k.row(sc, s), Snag: s.ID})
		default:
			rows = append(rows, view.Row{What: k.still, Say: english.Lower(s.Say), Snag: s.ID})
		}
	}
	return rows
}

// raised is a snag that a fact raised as it was folded.
func raised(sc *scene.Scene, r *record.Raised) Snag {
	k := kinds[r.Kind]
	s := Snag{ID: r.ID(), Kind: r.Kind, Grade: k.grade, On: r.On, Event: r.By.ID}
	if k.told != nil {
		k.told(sc, r, &s)
	}
	return s
}
