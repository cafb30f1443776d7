package record

import (
	"slices"
)

// rights tells which withdrawals count, and which facts are taken back. A fact
// is taken back by who recorded it, by anybody who worked on the job, or by a
// supervisor; nobody else (decision 09). That hangs on the whole record, never on the
// order of arrival. A withdrawal of what has not come yet counts.
// byID are all facts, where anything is taken back.
func rights(facts []Fact, company Company) (gone map[string]bool, void map[string][]*Fact, byID map[string]*Fact) {
	gone, void = map[string]bool{}, map[string][]*Fact{}
	if !slices.ContainsFunc(facts, func(f Fact) bool { _, is := f.Of.(*Withdrawn); return is }) {
		return gone, void, nil // most records: their view is made after each touch
	}
	byID = make(map[string]*Fact, len(facts))
	worked := map[string]bool{}
	for i := range facts {
		f := &facts[i]
		byID[f.ID] = f
		switch b := f.Of.(type) {
		case nil, *Withdrawn, *Note, *JobGiven, *JobCalledOff:
		case *PersonHere:
			worked[f.By], worked[b.Person] = true, true
		default:
			worked[f.By] = worked[f.By] || company.Office == nil || !company.Office(f.By)
		}
	}
	for i := range facts {
		w, is := facts[i].Of.(*Withdrawn)
		if !is {
			continue
		}
		f, target := &facts[i], byID[w.Event]
		anybodys := false // that a job was called off says nothing of a machine
		if target != nil {
			_, anybodys = target.Of.(*JobCalledOff)
		}
		if target == nil || anybodys || f.By == target.By || worked[f.By] || company.Supervisor != nil && company.Supervisor(f.By, f.When()) {
			gone[w.Event] = true
		} else {
			void[w.Event] = append(void[w.Event], f)
		}
	}
	return gone, void, byID
}
