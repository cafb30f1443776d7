//go:build js && wasm

// Command wasm is the core for the browser: it keeps the open job and answers
// with its view. JSON goes in and comes out; the same core runs on the server.
package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"runtime/debug"
	"syscall/js"
	"time"

	"github.com/google/uuid"

	"evensteps/core/call"
	"evensteps/core/job"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
)

// problem is what became of an event that cannot be read.
type problem struct {
	ID      string `json:"id"`
	Problem string `json:"problem"`
}

var books = map[string]*job.Book{}

func main() {
	// One thread works and collects: a heap of 25 MB instead of 13 halves what a touch waits.
	debug.SetGCPercent(400)
	calls := map[string]any{"open": js.FuncOf(answer(open)), "add": js.FuncOf(answer(add)), "check": js.FuncOf(answer(check)), "record": js.FuncOf(answer(recorded)), "library": js.FuncOf(answer(keepLibrary)), "hear": js.FuncOf(answer(hear)), "take": js.FuncOf(answer(take))}
	for _, a := range job.Asks {
		calls[a.Name] = js.FuncOf(answer(func(args []string) (any, error) { return ask(a, args) }))
	}
	js.Global().Set("evensteps", js.ValueOf(calls))
	select {} // the core stays until the page goes
}

// answer calls with the texts that JavaScript hands over, and gives back
// {"ok": …} or {"error": "…"} as text.
func answer(call func(args []string) (any, error)) func(js.Value, []js.Value) any {
	return func(_ js.Value, in []js.Value) any {
		args := make([]string, len(in))
		for i, v := range in {
			args[i] = v.String()
		}
		var out struct {
			OK    any    `json:"ok"`
			Error string `json:"error,omitempty"`
		}
		func() {
			defer func() {
				if v := recover(); v != nil {
					out.Error = fmt.Sprint("the core failed: ", v)
				}
			}()
			ok, err := call(args)
			if err != nil {
				out.Error = err.Error()
			}
			out.OK = ok
		}()
		text, err := json.Marshal(out)
		if err != nil {
			return `{"error":"the answer cannot be written"}`
		}
		return string(text)
	}
}

// open begins a job: its map and what is known of it.
func open(args []string) (any, error) {
	var m machine.Map
	if err := json.Unmarshal([]byte(args[0]), &m); err != nil {
		return nil, fmt.Errorf("the map cannot be read: %w", err)
	}
	var known scene.Job
	if err := json.Unmarshal([]byte(args[1]), &known); err != nil {
		return nil, fmt.Errorf("the job cannot be read: %w", err)
	}
	books[known.ID] = job.Open(&m, known)
	return known.ID, nil
}

// library are the maps that this device has, by which calls are heard.
var library []*machine.Map

// keepLibrary takes the maps in the place of those before.
func keepLibrary(args []string) (any, error) {
	library = nil
	for _, text := range args {
		m := &machine.Map{}
		if err := json.Unmarshal([]byte(text), m); err != nil {
			return nil, fmt.Errorf("the map cannot be read: %w", err)
		}
		library = append(library, m)
	}
	return len(library), nil
}

// hear says what a call means: the machine, then what was said.
func hear(args []string) (any, error) {
	var on call.Machine
	var said call.Said
	if err := errors.Join(json.Unmarshal([]byte(args[0]), &on), json.Unmarshal([]byte(args[1]), &said)); err != nil {
		return nil, fmt.Errorf("the call cannot be read: %w", err)
	}
	out, _ := call.Mean(library, on, said)
	return out, nil
}

// take makes a job of a call that is taken without signal.
func take(args []string) (any, error) {
	var in job.TakenIn
	if err := json.Unmarshal([]byte(args[0]), &in); err != nil {
		return nil, fmt.Errorf("the call cannot be read: %w", err)
	}
	for _, m := range library {
		if m.ID == in.Call.Map && m.Revision == in.Call.Revision {
			return job.Taken(m, in, func(of string) string { return uuid.NewSHA1(uuid.NameSpaceURL, []byte(of)).String() })
		}
	}
	return nil, fmt.Errorf("the map %q is not on this device", in.Call.Map)
}

// add puts events into a job; those that cannot be read are told.
func add(args []string) (any, error) {
	b := books[args[0]]
	if b == nil {
		return nil, fmt.Errorf("the job %q is not open", args[0])
	}
	var events []record.Event
	if err := json.Unmarshal([]byte(args[1]), &events); err != nil {
		return nil, fmt.Errorf("the events cannot be read: %w", err)
	}
	problems := []problem{}
	var facts []record.Fact
	for _, e := range events {
		f := record.ReadKept(e) // one that cannot be read is shown, and stops nothing
		if f.Problem != "" {
			problems = append(problems, problem{e.ID, f.Problem})
		}
		facts = append(facts, f)
	}
	b.Add(facts...)
	return problems, nil
}

// check reads events and says what is wrong with them, before they are kept.
func check(args []string) (any, error) {
	_, err := read(args[0])
	return err == nil, err
}

// read takes events for sound, or says what is wrong with the first that is not.
func read(text string) ([]record.Fact, error) {
	var events []record.Event
	if err := json.Unmarshal([]byte(text), &events); err != nil {
		return nil, fmt.Errorf("the record cannot be read: %w", err)
	}
	facts := make([]record.Fact, 0, len(events))
	for _, e := range events {
		f, err := record.Read(e)
		if err != nil {
			return nil, err
		}
		facts = append(facts, f)
	}
	return facts, nil
}

// recorded takes in what a touch records and gives the view that follows from it:
// the events, then the job, who looks and when. Of an unsound event nothing is taken.
func recorded(args []string) (any, error) {
	b := books[args[1]]
	if b == nil {
		return nil, fmt.Errorf("the job %q is not open", args[1])
	}
	facts, err := read(args[0])
	if err != nil {
		return nil, err
	}
	b.Add(facts...)
	for _, a := range job.Asks {
		if a.Name == "view" {
			return ask(a, append(args[1:4:4], "null"))
		}
	}
	return nil, fmt.Errorf("the core has no view")
}

// ask answers one question about a job: its id, who looks, when, and what is typed.
func ask(a job.Ask, args []string) (any, error) {
	b := books[args[0]]
	if b == nil {
		return nil, fmt.Errorf("the job %q is not open", args[0])
	}
	var viewer scene.Viewer
	if err := json.Unmarshal([]byte(args[1]), &viewer); err != nil {
		return nil, fmt.Errorf("the viewer cannot be read: %w", err)
	}
	now, err := time.Parse(time.RFC3339, args[2])
	if err != nil {
		return nil, fmt.Errorf("the time cannot be read: %w", err)
	}
	return a.Answer(b, viewer, now, []byte(args[3]))
}
