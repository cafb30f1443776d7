// Package record keeps what happened on a job: facts as events, the order in
// which they count, and the fold of them into one state.
//
// An event is never changed or deleted; a mistake is withdrawn by another. An
// event never fails because it is inconvenient: what is malformed is refused,
// what is merely out of place is kept and shown as a snag (package ladder).
package record

import (
	"cmp"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"time"

	"evensteps/core/energy"
)

// Event is one fact, as devices make it and as the server keeps it.
type Event struct {
	ID     string          `json:"id"`            // UUIDv7, made where it happened
	Job    string          `json:"job"`           // the job's id
	By     string          `json:"by"`            // the person's id
	Device string          `json:"device"`        // the device's id
	N      int             `json:"n"`             // this device's facts of this job, from 1
	Wall   time.Time       `json:"wall"`          // the device's clock
	Since  float64         `json:"since"`         // seconds since the program started there
	Run    string          `json:"run"`           // names that start
	Seen   int             `json:"seen"`          // highest job number the device knew
	Kind   string          `json:"kind"`          // what sort of fact
	Body   json.RawMessage `json:"body"`          // checked by Read
	Num    int             `json:"num,omitempty"` // the job's own number, given by the server
	T      *time.Time      `json:"t,omitempty"`   // the stamp, given by the server
	// Received is when it came in, by the server's clock.
	Received *time.Time `json:"received,omitempty"`
}

// Stamped tells whether the server has given the event its place.
func (e *Event) Stamped() bool { return e.T != nil }

// Stamp is the time T that orders facts, given once, on receipt. For facts of
// the start that sends them it is the receipt less the seconds gone by since,
// otherwise the wall time corrected by how far that clock is out now; never
// later than the receipt, but always later than all that the fact had seen and
// than its device's fact before it (after), even where that passes the receipt.
func Stamp(e *Event, sent Sent, after time.Time) time.Time {
	t := e.Wall.Add(sent.Received.Sub(sent.Wall))
	if e.Run == sent.Run {
		t = sent.Received.Add(-time.Duration((sent.Since - e.Since) * float64(time.Second)))
	}
	if t.After(sent.Received) {
		t = sent.Received
	}
	t = t.UTC().Truncate(time.Microsecond)
	if !t.After(after) {
		t = after.UTC().Truncate(time.Microsecond).Add(time.Microsecond)
	}
	return t
}

// Sent is what a device says of its clocks as it sends, and when that came.
type Sent struct {
	Run      string
	Since    float64
	Wall     time.Time
	Received time.Time
}

// Refused says why an event is not taken. It is the sender's to mend.
type Refused struct{ Reason string }

func (r *Refused) Error() string { return r.Reason }

func refuse(format string, args ...any) error { return &Refused{fmt.Sprintf(format, args...)} }

// Fact is an event whose body has been read.
type Fact struct {
	Event
	Of any // the body as one of the types below; nil for a newer kind, or one that cannot be read
	// Problem says why a kept event cannot be read; empty for all others.
	Problem string
}

var uuid = regexp.MustCompile(`^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$`)

// When is the time of a fact: its stamp, or before it has one the wall time.
func (f *Fact) When() time.Time {
	if f.T != nil && f.T.Year() > 1971 {
		return *f.T
	}
	return f.Wall
}

func short(s string) string {
	if len(s) > 40 {
		return s[:40] + "…"
	}
	return s
}

// Order puts facts in the order in which they count: by stamp, then device, then
// the device's own order, never by arrival; facts not yet stamped last. Each id
// counts once.
func Order(facts []Fact) []Fact {
	byID := map[string]int{}
	var out []Fact
	for _, f := range facts {
		if k, seen := byID[f.ID]; seen {
			if !out[k].Stamped() && f.Stamped() { // our own, come back with its stamp
				out[k].Num, out[k].T, out[k].Received = f.Num, f.T, f.Received
			}
			continue
		}
		byID[f.ID] = len(out)
		out = append(out, f)
	}
	slices.SortStableFunc(out, func(a, b Fact) int {
		switch {
		case a.Stamped() && b.Stamped():
			return cmp.Or(a.T.Compare(*b.T), cmp.Compare(a.Device, b.Device), cmp.Compare(a.N, b.N), cmp.Compare(a.ID, b.ID))
		case a.Stamped():
			return -1
		case b.Stamped():
			return 1
		}
		return cmp.Or(cmp.Compare(a.Device, b.Device), cmp.Compare(a.N, b.N), cmp.Compare(a.ID, b.ID))
	})
	return out
}

// InFileOrder stamps events that have neither number nor stamp by their place
// in a list, as a file of events is folded.
func InFileOrder(events []Event) []Event {
	out := slices.Clone(events)
	for i := range out {
		if out[i].T == nil {
			t := time.Unix(int64(i), 0).UTC()
			out[i].Num, out[i].T = i+1, &t
		}
	}
	return out
}

// Proof is how an energy was shown to be off, PointReading one value of it.
type (
	Proof        = energy.Proof
	PointReading = energy.Reading
)
