package record

import (
	"slices"
	"strings"
	"time"
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

// farOff is how long before its receipt a fact may lie without a word.
const farOff = 72 * time.Hour

// far raises what came in long after the time that it is stamped with, once for
// each person, device and day.
func (g *folder) far(f *Fact) {
	if f.Received == nil || f.T == nil || f.Received.Sub(*f.T) < farOff {
		return
	}
	day := f.By + " " + f.T.UTC().Format(time.DateOnly)
	if slices.ContainsFunc(g.Raised, func(r *Raised) bool { return r.Kind == "far-off" && r.On == day && r.By.Device == f.Device }) {
		return
	}
	g.raise("far-off", day, f).Other = f.Received.UTC().Format(time.DateOnly)
}

// vague raises a place that nobody else can find: "this side", "there".
func (g *folder) vague(f *Fact, places ...string) {
	for _, p := range places {
		if Vague(p) {
			g.raise("vague-place", f.ID, f).Other = strings.TrimSpace(p)
			return
		}
	}
}

var (
	pointing = []string{"this", "that", "here", "there", "these", "those", "it"}
	filling  = []string{"one", "side", "end", "other", "the", "on", "at", "in", "over", "same", "place", "spot", "right", "back", "where", "was", "hole", "terminal", "to", "from"}
)

// Vague tells whether a place is named only by pointing at it: nobody who was
// not there can find it.
func Vague(place string) bool {
	words := strings.FieldsFunc(strings.ToLower(place), func(r rune) bool { return r == ' ' || r == ',' || r == '.' || r == '-' })
	points := false
	for _, w := range words {
		switch {
		case slices.Contains(pointing, w) || w == "same" || w == "other":
			points = true
		case !slices.Contains(filling, w):
			return false
		}
	}
	return points
}
