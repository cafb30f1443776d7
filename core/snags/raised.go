package snags

import (
	"fmt"
	"strings"
	"time"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/steps"
	"evensteps/core/view"
)

func who(sc *scene.Scene, r *record.Raised) string { return english.Upper(sc.Name(r.By.By)) }

func guardUnmet(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Rung = r.On
	s.Say = fmt.Sprintf("%s: done while %s was not tested dead.", sc.Names.Move(r.On), english.Lower(sc.Names.Item(r.Other)))
	s.Do = "Somebody else looks at what was done and records what they find."
	if r.Note {
		s.Grade = NoteGrade
		s.Say = fmt.Sprintf("%s: %s was tested late, before the next step.", sc.Names.Move(r.On), english.Lower(sc.Names.Item(r.Other)))
		s.Do = "Say why."
	}
}

func proofLapsed(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Say = fmt.Sprintf("Work went on after the proof of %s had ended: %s.", english.Lower(sc.Names.Item(r.On)), sc.Short(r.By))
	s.Do = "Somebody else looks at what was done and records what they find."
	if r.Note {
		s.Grade, s.Do = NoteGrade, "Measured again before the next step. Say why so late."
	}
}

func outOfOrder(sc *scene.Scene, r *record.Raised, s *Snag) {
	id, level, _ := strings.Cut(r.Other, "=")
	s.Rung = r.On
	s.Say = fmt.Sprintf("%s: recorded, with no record of %s %s.", sc.Names.Move(r.On), english.Lower(sc.Names.Item(id)), level)
	s.Do = "If that was so, record it; if not, say why."
	for _, mv := range sc.Map.Moves {
		if r.Side == "out" && mv.Takes[id].Rank() >= machine.Level(level).Rank() && mv.Takes[id] != "" && !sc.Stands(mv.ID) {
			s.Touches = append(s.Touches, view.Button(mv.Name()+" was off", "", view.Made("found", map[string]string{"move": mv.ID, "by": sc.Viewer.Person})))
			break
		}
	}
}

func backWithoutOut(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Rung = r.On
	s.Say = fmt.Sprintf("%s: put back, though it was not out.", sc.Names.Move(r.On))
	s.Do = "Say what was put back."
}

func offAgain(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Rung = r.On
	s.Say = fmt.Sprintf("%s recorded %s as out, not knowing that it was back. Off again?", who(sc, r), english.Lower(sc.Names.Move(r.On)))
	s.Do = "If it is off again, record it; if not, say so."
	s.Touches = []view.Touch{view.Button("Off again", "", view.Made("rung.out", map[string]string{"move": r.On}))}
}

func fittedUnsure(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Say = fmt.Sprintf("%s came back before it was fitted. Fitted?", sc.Names.Item(r.Other))
	s.Do = "Record the part, or say why not."
}

func missingPart(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Say = fmt.Sprintf("%s was found %s.", sc.Names.Item(r.On), r.Other)
	s.Do = "Replace it, or say what becomes of it."
}

func barred(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Rung = r.On
	s.Say = fmt.Sprintf("%s cannot be done: %s", sc.Names.Move(r.On), r.By.Of.(*record.RungNotDone).Reason)
	s.Do = "Withdraw it when it can."
	if sc.NoPlan != nil {
		s.Grade = CountGrade
	}
}

func optionContradicts(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Do = "Answer it again."
	s.Say = fmt.Sprintf("The map has no such answer to %q.", r.On)
	if r.Other != "" {
		s.ID, s.Rung = r.ID()+":"+r.Other, r.Other
		s.Say = fmt.Sprintf("%s answered %q, but such a machine has no such step, and it was made: %s.", who(sc, r), english.Spaced(sc.Answers[r.On]), english.Lower(sc.Names.Hidden(r.Other)))
		s.Do = "Answer it as the machine is, or say what was done."
	}
	if o := sc.Whole.Option(r.On); o != nil {
		for _, value := range o.Values {
			if value != sc.Answers[r.On] {
				s.Touches = append(s.Touches, view.Button(english.Upper(english.Spaced(value)), o.Ask, steps.Answering(o, value)))
			}
		}
	}
}

func finalEarly(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Say = fmt.Sprintf("%s: recorded too early, so it proves nothing: %s.", sc.Names.Move(r.On), english.Lower(r.Other))
	s.Do = "Run it again on the whole machine."
}

func liveOpen(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Rung = r.Other
	s.Say = fmt.Sprintf("%s: made on a live machine while it was open further than the test asks: %s was off.", sc.Names.Test(r.On), english.Lower(sc.Names.Move(r.Other)))
	s.Do = "Say why it was run so."
}

func looseFact(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Say = fmt.Sprintf("%s speaks of %q, which nobody knows here.", english.Upper(sc.Short(r.By)), r.On)
	s.Do = "Say what was meant."
}

func vaguePlace(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Say = fmt.Sprintf("%s: %q names no place that somebody else can find.", english.Upper(sc.Short(r.By)), r.Other)
	s.Do = "Say where, and as seen from where."
}

func withdrawalVoid(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Say = fmt.Sprintf("%s took a record back without ever having been at this machine: it still counts. A proof among them does not.", who(sc, r))
	s.Do = "Say what is so."
}

func farOff(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Say = fmt.Sprintf("Recorded for %s by %s, and came in on %s.", r.By.When().UTC().Format(time.DateOnly), sc.Name(r.By.By), r.Other)
	s.Do = "Say why so late."
}

func unreadable(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Say = fmt.Sprintf("A record %q by %s cannot be read (%s). It is kept; every proof before it has ended.", r.On, sc.Name(r.By.By), r.Other)
	s.Do = "Ask them what it said, and record that."
}

func hangs(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Say = fmt.Sprintf("%s stands on something that is not there: %s.", english.Upper(sc.Short(r.By)), r.Other)
	s.Do = "Say what was meant."
}

func late(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Say = fmt.Sprintf("%s came after signing off.", english.Upper(sc.Short(r.By)))
	s.Do = "Sign off again when all is even."
}

func newerKind(sc *scene.Scene, r *record.Raised, s *Snag) {
	s.Say = fmt.Sprintf("A record %q was made by a newer version.", r.On)
	s.Do = "Open the job with that version to see it."
}
