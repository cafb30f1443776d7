package job

import (
	"encoding/json"
	"fmt"
	"time"

	"evensteps/core/call"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
)

// CallDevice is the device of the facts that were told on the telephone.
const CallDevice = "call"

// Recorded is a fact that is made of what somebody asked for, as a call. named makes
// its id of the job and what it is, so that it is the same wherever it is made.
func Recorded(of, by, device, what string, n int, at time.Time, kind string, said any, named func(string) string) (record.Event, error) {
	body, err := json.Marshal(said)
	if err != nil {
		return record.Event{}, fmt.Errorf("writing a fact: %w", err)
	}
	return record.Event{ID: named(of + "/" + what), Job: of, By: by, Device: device, N: n, Wall: at, Run: device, Kind: kind, Body: body}, nil
}

// TakenIn is a call that is taken on a device without signal.
type TakenIn struct {
	Call call.Call    `json:"call"`
	By   string       `json:"by"`
	At   time.Time    `json:"at"`
	On   call.Machine `json:"on"`
	// Around is what every job is judged by: people, meters, prices, the company.
	Around scene.Job   `json:"around"`
	Where  scene.Where `json:"where"`
	Place  string      `json:"place"`
}

// TakenOut is its job as the device works it until the server knows of it, and the
// facts that the server will make of the call, too.
type TakenOut struct {
	Job    scene.Job      `json:"job"`
	Events []record.Event `json:"events"`
}

// Taken makes a job of a call, as the server will. The error says what is wrong with
// the call, in words.
func Taken(m *machine.Map, in TakenIn, named func(string) string) (*TakenOut, error) {
	if err := in.Call.Check(m, in.On); err != nil {
		return nil, err
	}
	out := &TakenOut{Job: in.Around, Events: []record.Event{}}
	out.Job.ID, out.Job.Title, out.Job.Place = in.Call.Job, in.Where.Site+", "+in.Where.Name, in.Place
	out.Job.Complaint, out.Job.Words, out.Job.Where = in.Call.Complaint, in.Call.Words, &in.Where
	for i, f := range in.Call.Facts(m) {
		e, err := Recorded(in.Call.Job, in.By, CallDevice, f.What, i+1, in.At, f.Kind, f.Body, named)
		if err != nil {
			return nil, err
		}
		out.Events = append(out.Events, e)
	}
	return out, nil
}
