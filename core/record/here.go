package record

import "slices"

// desk are the kinds that an office records: who goes, what a caller says, and what
// it takes back of its own. What happens at a machine is recorded by who is there.
var desk = []string{"note", "photo", "option.answered", "complaint.added", "job.given", "job.called-off", "withdrawn"}

// FromADesk tells whether an office may record such a fact.
func FromADesk(kind string) bool { return slices.Contains(desk, kind) }

// Came is who a fact puts at the machine: who says so, or records what is only done
// there. It is empty where it puts nobody there: a word from afar, or what an office
// records.
func (c Company) Came(f *Fact) string {
	who := f.By
	switch b := f.Of.(type) {
	case *PersonHere:
		who = b.Person
	case *TestResult:
		if b.Evidence == "told" || b.Outcome == NotDone {
			return ""
		}
	case *VisitBegan, *TookOver,
		*RungOut, *RungHalf, *RungBack, *RungNotDone, *RungOwn, *Found, *LotCounted, *LotSettled, *LeftOver,
		*WireSaid, *WireConfirmed, *LeadMoved, *Recorded, *Confirmed, *Looked, *TemporaryIn, *TemporaryOut, *Belonging,
		*ReadingTaken, *CheckResult, *FinalResult, *PartFitted:
	default:
		return ""
	}
	if c.Office != nil && c.Office(who) {
		return ""
	}
	return who
}
