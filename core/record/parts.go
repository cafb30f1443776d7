package record

import (
	"errors"

	"evensteps/core/english"
	"evensteps/core/named"
)

// Parts: fitted, kept, returned, and what became of the old ones.

// PartFitted: a piece was fitted, kept or returned.
type PartFitted struct {
	Part     string   `json:"part"`
	Piece    string   `json:"piece"`
	As       string   `json:"as,omitempty"` // fitted (the default), kept, returned
	Number   string   `json:"number,omitempty"`
	Evidence string   `json:"evidence,omitempty"`
	Carried  []string `json:"carried,omitempty"`
	Compared []string `json:"compared,omitempty"` // what was compared between old and new
	Reason   string   `json:"reason,omitempty"`   // why one of a set was kept
}

func (b *PartFitted) check() error {
	return errors.Join(ids("part", b.Part, "piece", b.Piece), oneOf("as", b.As, "", "fitted", "kept", "returned"),
		oneOf("evidence", b.Evidence, "", "measured", "seen", "told", "assumed"), texts(b.Number))
}

func (b *PartFitted) apply(g *folder, f *Fact) {
	g.Pieces[b.Part+"/"+b.Piece] = f
	for _, r := range g.Raised {
		if r.Kind == "fitted-unsure" && r.On == b.Part && r.Other == b.Piece {
			r.Done = true
		}
	}
	for _, r := range g.Raised {
		if r.Kind == "missing-part" && r.On == b.Piece {
			r.Done = true
		}
	}
	part := g.Map.Part(b.Part)
	o := g.openGoal("replace:" + b.Part)
	if part == nil || o == nil {
		return
	}
	for _, piece := range part.Pieces() {
		if g.Pieces[b.Part+"/"+piece] == nil {
			return
		}
	}
	o.Open, o.Closed = false, f
}

func (b *PartFitted) says(n named.Names) string { return english.Lower(n.Item(b.Piece)) + " fitted" }

// OldPart is what became of the part that came off.
type OldPart struct {
	Part string `json:"part"`
	To   string `json:"to"` // customer, company, scrap
}

func (b *OldPart) check() error {
	return errors.Join(ids("part", b.Part), oneOf("to", b.To, "customer", "company", "scrap"))
}

func (b *OldPart) apply(g *folder, f *Fact) {
	g.OldParts[b.Part] = f
}

func (b *OldPart) says(named.Names) string { return "old part " + OldTo[b.To] }

// OldTo is what became of an old part, in words.
var OldTo = map[string]string{"customer": "left with the customer", "company": "taken along", "scrap": "scrapped"}

// Used is what was used up and is not in the map's list.
type Used struct {
	What  string `json:"what"`
	Count int    `json:"count,omitempty"`
}

func (b *Used) check() error { return errors.Join(said("what", b.What), counted(b.Count)) }

func (*Used) apply(g *folder, f *Fact) {
	g.Used = append(g.Used, f)
}

func (b *Used) says(named.Names) string { return "used: " + b.What }
