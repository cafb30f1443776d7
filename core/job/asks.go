package job

import (
	"encoding/json"
	"fmt"
	"reflect"
	"time"

	"evensteps/core/diagnosis"
	"evensteps/core/scene"
	"evensteps/core/steps"
	"evensteps/core/view"
)

// Ask is one question that a screen asks of a job's book. Asks are all of them: the
// core for the browser, its worker's types, the pages' calls and the server's routes
// are made from that table. Answer reads what goes in from JSON.
type Ask struct {
	Name    string
	Summary string
	Body    string       // of what goes in beside the job, for the API document; empty where nothing must
	In, Out reflect.Type // In is nil where nothing goes in
	Answer  func(b *Book, viewer scene.Viewer, now time.Time, in []byte) (any, error)
}

// TryIn are records that are tried, nothing kept.
type TryIn struct {
	Makes []view.Make `json:"makes" maxItems:"50"`
}

// ProveIn is a proof that is being typed.
type ProveIn struct {
	On    string            `json:"on" maxLength:"80" doc:"The move or check that the proof is of"`
	Draft map[string]string `json:"draft" maxProperties:"60" doc:"What is typed of it, by the keys of its steps"`
}

// Asks is the table.
var Asks = []Ask{
	look("view", "The view of a job, as devices make it themselves", (*Book).Shown),
	look("find", "What is wrong: suspects and the next test, as devices weigh it themselves", (*Book).Find),
	look("lists", "What can be named on a job's machine", (*Book).Lists),
	with("decide", "What to fit and what it takes, as devices reckon it themselves", "", func(b *Book, viewer scene.Viewer, now time.Time, typed diagnosis.Typed) (*diagnosis.Decide, error) {
		return b.Decide(viewer, now, typed), nil
	}),
	with("try", "What some records would change, as devices try it themselves; nothing is kept", "The records", func(b *Book, viewer scene.Viewer, now time.Time, in TryIn) (*Tried, error) {
		return b.Try(viewer, now, in.Makes)
	}),
	with("own", "What a step that the map does not know would change, and what records it; nothing is kept", "What is typed of it", (*Book).Own),
	with("judge", "What a reading that is being taken shows, as devices judge it themselves; nothing is kept", "The reading as it is written", (*Book).Judge),
	with("prove", "What a proof that is being typed lacks and shows, as devices judge it themselves; nothing is kept", "What is typed", func(b *Book, viewer scene.Viewer, now time.Time, in ProveIn) (*steps.Proving, error) {
		return b.Prove(viewer, now, in.On, in.Draft)
	}),
}

// look is a question into which nothing goes but who looks, and when.
func look[Out any](name, summary string, of func(*Book, scene.Viewer, time.Time) *Out) Ask {
	return Ask{Name: name, Summary: summary, Out: reflect.TypeFor[Out](), Answer: func(b *Book, viewer scene.Viewer, now time.Time, _ []byte) (any, error) {
		return of(b, viewer, now), nil
	}}
}

// with is a question with something that is typed.
func with[In, Out any](name, summary, body string, of func(*Book, scene.Viewer, time.Time, In) (*Out, error)) Ask {
	return Ask{Name: name, Summary: summary, Body: body, In: reflect.TypeFor[In](), Out: reflect.TypeFor[Out](), Answer: func(b *Book, viewer scene.Viewer, now time.Time, typed []byte) (any, error) {
		var in In
		if len(typed) > 0 {
			if err := json.Unmarshal(typed, &in); err != nil {
				return nil, fmt.Errorf("what was typed cannot be read: %w", err)
			}
		}
		return of(b, viewer, now, in)
	}}
}
