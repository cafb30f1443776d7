package record

import "slices"

// desk are the kinds that an office records: who goes, what a caller says, and what
// it takes back of its own. What happens at a machine is recorded by who is there.
var desk = []string{"note", "photo", "option.answered", "complaint.added", "job.given", "job.called-off", "withdrawn"}

// FromADesk tells whether an office may record such a fact.
func FromADesk(kind string) bool { return slices.Contains(desk, kind) }

// Came are those whom a fact puts at the machine: who says so, or records what is
// only done there, and who works along with them. There is nobody for a word from
// afar, and for what an office records.
func (c Company) Came(f *Fact) []string {
	who := []string{f.By}
	switch b := f.Of.(type) {
	case *PersonHere:
		if b.Person != f.By {
			who = append(who, b.Person)
		}
	case *TestResult:
		if b.Evidence == "told" || b.Outcome == NotDone {
			return nil
		}
	case *VisitBegan, *TookOver,
		*RungOut, *RungHalf, *RungBack, *RungNotDone, *RungOwn, *Found, *LotCounted, *LotSettled, *LeftOver,
		*WireSaid, *WireConfirmed, *LeadMoved, *Recorded, *Confirmed, *Looked, *TemporaryIn, *TemporaryOut, *Belonging,
		*ReadingTaken, *CheckResult, *FinalResult, *PartFitted:
	default:
		return nil
	}
	return slices.DeleteFunc(who, func(p string) bool { return c.Office != nil && c.Office(p) })
}
