package ladder

import (
	"fmt"
	"strings"
	"unicode"

	"evensteps/core/machine"
	"evensteps/core/record"
)

// The words that the core says. They are few and plain: what happened, what it
// means, what to do.

var hazardWords = map[string]string{
	"sharp-edges": "Sharp edges. Cut gloves.",
	"pinch":       "Fingers can be caught here.",
	"spring":      "A spring lets go here. Eye protection.",
	"heavy":       "Heavy.",
	"hot":         "Hot. Let it cool, or gloves.",
	"shock":       "Live parts may be reached here.",
	"gas":         "Gas. No flame, open a window.",
	"glass":       "Glass.",
	"dust":        "Dust and lint. Mask.",
	"wet":         "Water comes out here.",
	"blind":       "Your hand cannot be seen here.",
}

var faceWords = map[string]string{
	"front": "Front, standing.", "rear": "Behind the machine.", "left": "At its left side.", "right": "At its right side.",
	"top": "From above.", "under": "On the floor, from below.", "inside": "Inside the machine.",
}

var poseWords = map[string]string{
	"tilted": "Machine tilted.", "on-back": "Machine on its back.", "on-front": "Machine on its front.",
	"on-left": "Machine on its left side.", "on-right": "Machine on its right side.",
}

func stand(face, pose string) string {
	words := faceWords[face]
	if p := poseWords[pose]; p != "" {
		words += " " + p
	}
	return words
}

func viewpoint(face string) string {
	if face == "rear" {
		return "Left and right as seen from the front."
	}
	return "Left and right as you face it."
}

// lower begins a name with a small letter, unless it is an abbreviation.
func lower(s string) string {
	r := []rune(s)
	if len(r) == 0 || len(r) > 1 && unicode.IsUpper(r[1]) {
		return s
	}
	r[0] = unicode.ToLower(r[0])
	return string(r)
}

func upper(s string) string {
	r := []rune(s)
	if len(r) == 0 {
		return s
	}
	r[0] = unicode.ToUpper(r[0])
	return string(r)
}

// spaced is a word of the format as people write it.
func spaced(word string) string { return strings.ReplaceAll(word, "-", " ") }

func plural(n int, noun string) string {
	if n == 1 {
		return noun
	}
	return noun + "s"
}

func count(n int, noun string) string { return fmt.Sprintf("%d %s", n, plural(n, noun)) }

// outcome is what a move leaves: "front away", "mains off", "mains proven".
func (v *viewing) outcome(mv *machine.Move) string {
	word := "aside"
	for _, id := range sorted(mv.Takes) {
		if e := v.Map.Energy(id); e != nil {
			if mv.Takes[id] == machine.Proven {
				return lower(e.Name) + " proven dead"
			}
			return lower(e.Name) + " off"
		}
		if mv.Takes[id] == machine.Away {
			word = "away"
		}
	}
	return lower(mv.Name()) + " " + word
}

// homecoming is what a refit leaves: "front home", "mains on".
func (v *viewing) homecoming(mv *machine.Move) string {
	for _, id := range sorted(mv.Takes) {
		if e := v.Map.Energy(id); e != nil {
			return lower(e.Name) + " on"
		}
	}
	return lower(mv.Name()) + " home"
}

func (v *viewing) moveName(id string) string {
	if mv := v.Map.Move(id); mv != nil {
		return mv.Name()
	}
	if c := v.Map.Check(id); c != nil {
		return c.Title
	}
	if f := v.Map.Final(id); f != nil {
		return f.Title
	}
	if v.Map.Part(id) != nil {
		return v.Map.Part(id).Name
	}
	return v.testTitle(id)
}

// wholeName is the name of a move that an answer may have hidden.
func (v *viewing) wholeName(id string) string {
	if mv := v.Whole.Move(id); mv != nil {
		return mv.Name()
	}
	return id
}

func (v *viewing) itemName(id string) string {
	if it := v.Map.Item(id); it != nil {
		return it.Name
	}
	if e := v.Map.Energy(id); e != nil {
		return e.Name
	}
	return id
}

// takenBackSay names what somebody took back of another's.
func (v *viewing) takenBackSay(f *record.Fact) string {
	o := v.Withdrawn(f.Of.(*record.Withdrawn).Event)
	if o == nil {
		return "A record"
	}
	return fmt.Sprintf("%s, recorded by %s", upper(v.saidShort(o)), v.fullName(o.By))
}

// saidShort names a fact in a few words, for Undo.
func (v *viewing) saidShort(f *record.Fact) string {
	switch b := f.Of.(type) {
	case *record.RungOut:
		return v.moveName(b.Move) + " out"
	case *record.RungBack:
		return v.moveName(b.Move) + " back"
	case *record.RungHalf:
		return v.moveName(b.Move) + ", half"
	case *record.RungNotDone:
		return v.moveName(b.Move) + ", not done"
	case *record.LotCounted:
		return count(b.Count, "fastener") + " counted, " + lower(v.moveName(moveOf(b.Lot)))
	case *record.LotSettled:
		return "settled, " + lower(v.moveName(moveOf(b.Lot)))
	case *record.Confirmed:
		if p := v.Map.Part(moveOf(b.Confirm)); p != nil {
			return "compared, " + lower(p.Name)
		}
		return "tick, " + lower(v.moveName(moveOf(b.Confirm)))
	case *record.WireConfirmed:
		return "lead on, " + lower(v.itemName(moveOf(b.Wire)))
	case *record.CheckResult:
		return lower(v.moveName(b.Check)) + result(b.Passed)
	case *record.FinalResult:
		return lower(v.moveName(b.Final)) + result(b.Passed)
	case *record.PartFitted:
		return lower(v.itemName(b.Piece)) + " fitted"
	case *record.EnergyRestored:
		return v.itemName(b.Energy) + " restored"
	case *record.Decided:
		return "decision: " + spaced(b.Choice)
	case *record.OptionAnswered:
		return spaced(b.Value)
	case *record.Recorded:
		return b.Value + ", " + lower(v.moveName(moveOf(b.Record)))
	case *record.Looked:
		if in := v.Map.Look(b.On); in != nil {
			return lower(care(*in)) + " " + lookedSays[b.As]
		}
		return "look"
	case *record.TemporaryIn:
		return v.tempName(b.Temporary, b.Name) + " in"
	case *record.TemporaryOut:
		return v.tempName(b.Temporary, b.Name) + " out"
	case *record.Belonging:
		return b.What
	case *record.ReadingTaken:
		return "reading " + b.Value
	case *record.TestResult:
		return v.testTitle(b.Test) + ": " + lower(v.outcomeSays(b.Test, b.Outcome))
	case *record.CauseAnswered:
		return "cause: " + b.Answer
	case *record.RungOwn:
		return b.Title
	case *record.WireSaid:
		if b.Tag > 0 {
			return fmt.Sprintf("tag %d on %s", b.Tag, lower(v.onName(b.Wire)))
		}
		return "lead is " + leadWords(b)
	case *record.Stopped:
		return "stop"
	case *record.StopLifted:
		return "stop lifted"
	case *record.SignedOff:
		return "signing off"
	case *record.SnagExplained:
		return "explanation"
	case *record.Left:
		return "leaving"
	case *record.TookOver:
		return "taking over"
	case *record.VisitBegan:
		return "at the machine"
	case *record.JobCalledOff:
		return "called off: " + b.Reason
	case *record.JobGiven:
		if len(b.To) == 0 {
			return "nobody goes yet"
		}
		names := []string{}
		for _, id := range b.To {
			names = append(names, v.fullName(id))
		}
		return "goes: " + and(names)
	case *record.LeadMoved:
		return "lead on " + b.To + " of the new one"
	case *record.Photo:
		return "photo, " + lower(v.onName(b.On))
	case *record.Difference:
		return "difference, " + lower(v.onName(b.On))
	case *record.Found:
		if b.Move != "" {
			return v.moveName(b.Move) + ", found off"
		}
		return v.itemName(b.Item) + ", found " + b.State
	case *record.Note:
		return "note, " + lower(v.onName(b.On))
	case *record.WayChosen:
		return "the way in"
	case *record.ComplaintAdded:
		if c := v.Map.Complaint(b.Complaint); c != nil {
			return "also: " + lower(c.Name)
		}
		return "also: " + spaced(b.Complaint)
	case *record.GoalAdded:
		return "goal: " + lower(v.goalName(b.Goal))
	case *record.OldPart:
		return "old part " + oldTo[b.To]
	case *record.Used:
		return "used: " + b.What
	case *record.Told:
		return "out of use, " + lower(b.Name)
	case *record.LeftOver:
		return count(b.Count, "fastener") + " left over"
	case *record.BenchHas:
		return "what is at the knee"
	}
	return strings.ReplaceAll(f.Kind, ".", " ")
}

func (v *viewing) tempName(id, name string) string {
	if p := v.Map.Temporary(id); p != nil {
		return p.Name
	}
	return id + name
}

func result(passed bool) string {
	if passed {
		return ", passed"
	}
	return ", failed"
}

func moveOf(id string) string {
	move, _, _ := strings.Cut(id, "/")
	return move
}
