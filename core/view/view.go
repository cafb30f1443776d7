// Package view holds the small parts that all screens are made of: what a button
// records and says, choices, lines to tick, rows of words.
package view

import (
	"encoding/json"
	"time"

	"evensteps/core/english"
	"evensteps/core/record"
)

// Row is one line of words: what it is about, and what is so.
type Row struct {
	What string `json:"what"`
	Say  string `json:"say"`
	Snag string `json:"snag"` // the snag it speaks of, if it is one
}

// Added are the goals as a touch records them.
func Added(goals []string) []Make {
	makes := []Make{}
	for _, g := range goals {
		makes = append(makes, Made("goal.added", record.GoalAdded{Goal: g}))
	}
	return makes
}

// Stamp is who and when.
type Stamp struct {
	By string    `json:"by"`
	At time.Time `json:"at"`
}

// Make is an event that a touch records: its kind and body.
type Make struct {
	Kind string          `json:"kind"`
	Body json.RawMessage `json:"body"`
}

// Made marshals a body that cannot fail to marshal.
func Made(kind string, body any) Make {
	b, err := json.Marshal(body)
	if err != nil {
		panic(err)
	}
	return Make{kind, b}
}

// Line is one thing that is ticked or given its value before a side counts as
// done: a confirmation, a record, a temporary counted in or out, an earth.
type Line struct {
	Line   string   `json:"line"`   // its id: MOVE/confirm/N, MOVE/ID, a temporary, earth:ITEM
	Kind   string   `json:"kind"`   // confirm, record, temporary, earth
	Say    string   `json:"say"`    // what must be so
	Ask    string   `json:"ask"`    // how a value is written; empty where it is ticked
	Was    string   `json:"was"`    // what was recorded on the way in
	Value  string   `json:"value"`  // what is recorded
	Said   string   `json:"said"`   // what the core says of it
	Ticked bool     `json:"ticked"` // recorded, and as it must be
	May    bool     `json:"may"`    // it may be left out
	Bad    bool     `json:"bad"`    // recorded, and not as it must be
	Event  string   `json:"event"`  // the fact that recorded it
	Tick   Make     `json:"tick"`   // what a touch records; a value goes into its body
	Into   string   `json:"into"`   // the field of the body that takes the value; empty for value
	Or     []Choice `json:"or"`     // what else may be so
}

// Open names the lines that are still to be ticked.
func Open(lines []Line) (open []string) {
	for _, l := range lines {
		if !l.Ticked && (!l.May || l.Bad) {
			open = append(open, english.Lower(l.Say))
		}
	}
	return open
}

// Remark is a note that hangs on a rung.
type Remark struct {
	Text string    `json:"text"`
	By   string    `json:"by"`
	At   time.Time `json:"at"`
}

// Touch is what one button records, and what it says on itself.
type Touch struct {
	Label string   `json:"label"`
	Says  string   `json:"says"`
	Open  []string `json:"open"`  // what is still to look at: touching then records half
	Makes []Make   `json:"makes"` // what it records when nothing is open
	Half  []Make   `json:"half"`  // and when something is
}

// Button is a touch with nothing that is still to look at.
func Button(label, says string, makes ...Make) Touch {
	return Touch{Label: label, Says: says, Open: []string{}, Makes: append([]Make{}, makes...), Half: []Make{}}
}

// Choice is one of several answers, each with what it records.
type Choice struct {
	Label string `json:"label"`
	Says  string `json:"says"`
	Done  bool   `json:"done"`
	Makes []Make `json:"makes"`
}
