package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"reflect"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"evensteps/core/company"
	"evensteps/core/record"
	"evensteps/store"
)

// mostEvents is how many events one answer holds.
const mostEvents = 500

// eventIn is one event of a batch. It is read by itself, so that a malformed
// one stops nothing behind it; in the document it is an event.
type eventIn json.RawMessage

func (e *eventIn) UnmarshalJSON(data []byte) error {
	*e = append((*e)[:0], data...)
	return nil
}

// Schema is an event's.
func (eventIn) Schema(r huma.Registry) *huma.Schema {
	return r.Schema(reflect.TypeFor[record.Event](), true, "Event")
}

// Sending is one batch of events with the sender's clocks as it sends.
type Sending struct {
	Run    string    `json:"run" doc:"Names the start of the program on the device"`
	Since  float64   `json:"since" doc:"Seconds since that start, now"`
	Wall   time.Time `json:"wall" doc:"The device's clock, now"`
	Events []eventIn `json:"events" maxItems:"100"`
}

// Answer is what became of one event.
type Answer struct {
	ID      string     `json:"id"`
	Outcome string     `json:"outcome" enum:"kept,known,refused"`
	Num     int        `json:"num,omitempty"`
	T       *time.Time `json:"t,omitempty"`
	Status  int        `json:"status,omitempty" doc:"Why it was refused, as an HTTP status"`
	Problem string     `json:"problem,omitempty" doc:"Why it was refused, in words"`
}

func (s *Server) events() {
	type eventsIn struct {
		Job   string `path:"job" maxLength:"80"`
		After int    `query:"after" minimum:"0" maximum:"2147483647" doc:"The last number that is known"`
	}
	type eventsOut struct {
		Body struct {
			Events []record.Event `json:"events"`
			More   bool           `json:"more"`
			Last   int            `json:"last" doc:"The job's last number. Who knows a later one has facts that are gone here: they are sent again"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "get-events", Method: http.MethodGet, Path: "/jobs/{job}/events", Summary: "A job's events after a number"},
		func(ctx context.Context, in *eventsIn) (*eventsOut, error) {
			j, err := s.store.Job(ctx, in.Job)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			events, err := s.store.Events(ctx, in.Job, in.After, mostEvents)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			out := &eventsOut{}
			out.Body.Events, out.Body.More, out.Body.Last = events, len(events) == mostEvents, j.LastNum
			return out, nil
		})

	type sendIn struct {
		Job  string `path:"job" maxLength:"80"`
		Body Sending
	}
	type sendOut struct {
		Body struct {
			Answers []Answer `json:"answers"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "send-events", Method: http.MethodPost, Path: "/jobs/{job}/events", Summary: "Add events; each is answered by itself", SkipValidateBody: true, MaxBodyBytes: record.MostBatchBytes},
		func(ctx context.Context, in *sendIn) (*sendOut, error) {
			received := time.Now()
			if len(in.Body.Events) > record.MostBatch {
				return nil, huma.Error413RequestEntityTooLarge(fmt.Sprintf("A batch holds %d events at most. Send the rest after it.", record.MostBatch))
			}
			if len(in.Body.Events) == 0 { // an append finds out by itself
				if _, err := s.store.Job(ctx, in.Job); err != nil {
					return nil, s.problem(ctx, err)
				}
			}
			sent := record.Sent{Run: in.Body.Run, Since: in.Body.Since, Wall: in.Body.Wall, Received: received}
			if sent.Wall.IsZero() {
				sent.Wall = received
			}
			answers, err := s.keepAll(ctx, in.Job, in.Body.Events, sent)
			if err != nil {
				return nil, s.problem(ctx, err) // what was kept so far is known when it comes again
			}
			out := &sendOut{}
			out.Body.Answers = answers
			return out, nil
		})
}

// handedIn tells whether a supervisor may hand in what somebody else recorded: who no
// longer can, because the account is closed or the role is another. Their name stays on
// it, and the audit list says who handed it in.
func (s *Server) handedIn(ctx context.Context, e *record.Event) (bool, error) {
	if e.By == person(ctx).ID || person(ctx).Role != "supervisor" {
		return false, nil
	}
	author, err := s.store.Person(ctx, e.By)
	if errors.Is(err, store.ErrNotFound) {
		return false, nil
	}
	if err != nil {
		return false, err
	}
	return author.ClosedAt != nil || author.Role == company.Office && !record.FromADesk(e.Kind), nil
}

// keepAll takes the events of a batch, each by itself, or says why not. An error is of
// the database alone.
func (s *Server) keepAll(ctx context.Context, job string, batch []eventIn, sent record.Sent) ([]Answer, error) {
	answers := make([]Answer, len(batch))
	var sound []record.Event
	var at []int // of the sound ones, in the batch
	handed := map[int]bool{}
	for i, raw := range batch {
		e, byAnother, no, err := s.mayKeep(ctx, job, json.RawMessage(raw))
		if err != nil {
			return nil, err
		}
		if no != nil {
			answers[i] = *no
			continue
		}
		sound, at, handed[i] = append(sound, e), append(at, i), byAnother
	}
	kept, err := s.store.AppendAll(ctx, sound, sent)
	if err != nil {
		return nil, err
	}
	for k, one := range kept {
		i := at[k]
		answers[i] = answered(sound[k].ID, one)
		if handed[i] && answers[i].Outcome == "kept" {
			s.audit(ctx, person(ctx).ID, "record handed in", sound[k].By)
		}
	}
	for _, a := range answers {
		s.metrics.kept.WithLabelValues(a.Outcome).Inc()
	}
	return answers, nil
}

func answered(id string, one store.Appended) Answer {
	switch {
	case errors.Is(one.Err, store.ErrOtherBody):
		return Answer{ID: id, Outcome: "refused", Status: http.StatusConflict, Problem: "An event with this id is kept already, and says something else. The first stays."}
	case one.Err != nil:
		return Answer{ID: id, Outcome: "refused", Status: http.StatusUnprocessableEntity, Problem: unkeepable}
	case one.Known:
		return Answer{ID: id, Outcome: "known", Num: one.Num, T: &one.T}
	}
	return Answer{ID: id, Outcome: "kept", Num: one.Num, T: &one.T}
}

// mayKeep reads one event and says whether it may be kept: no is why not. handed says
// that a supervisor hands it in.
func (s *Server) mayKeep(ctx context.Context, job string, raw json.RawMessage) (e record.Event, handed bool, no *Answer, err error) {
	refused := func(status int, why string) (record.Event, bool, *Answer, error) {
		return e, false, &Answer{ID: e.ID, Outcome: "refused", Status: status, Problem: why}, nil
	}
	if err := json.Unmarshal(raw, &e); err != nil {
		return refused(http.StatusUnprocessableEntity, "The event cannot be read: "+err.Error())
	}
	e.Num, e.T, e.Received = 0, nil, nil // the server's to give
	if _, err := record.Read(e); err != nil {
		return refused(http.StatusUnprocessableEntity, err.Error())
	}
	if e.Job != job {
		return refused(http.StatusUnprocessableEntity, "The event is of another job.")
	}
	if handed, err = s.handedIn(ctx, &e); err != nil {
		return e, false, nil, err
	}
	if e.By != person(ctx).ID && !handed {
		return refused(http.StatusForbidden, "The event was recorded by somebody else. It is sent when they sign in.")
	}
	if !handed && person(ctx).Role == company.Office && !record.FromADesk(e.Kind) {
		return refused(http.StatusForbidden, "What happens at a machine is recorded by who is there. The office says who goes, and what the caller says.")
	}
	return e, handed, nil, nil
}
