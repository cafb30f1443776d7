package record

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
