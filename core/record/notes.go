package record

import (
	"errors"

	"evensteps/core/english"
	"evensteps/core/named"
)

// Photos, notes, and what differs from the map.

// Photo hangs on a rung, wire, reading or condition.
type Photo struct {
	SHA256 string `json:"sha256"`
	On     string `json:"on,omitempty"`
	Pins   []Pin  `json:"pins,omitempty"`
}

func (b *Photo) check() error {
	if !hash.MatchString(b.SHA256) {
		return errors.New("sha256 is no SHA-256 in lower-case hexadecimal")
	}
	errs := []error{texts(b.On)}
	if len(b.Pins) > mostPins {
		errs = append(errs, most("a photo takes %d pins at most", mostPins))
	}
	for _, p := range b.Pins {
		if !(p.X >= 0 && p.X <= 1 && p.Y >= 0 && p.Y <= 1) {
			return errors.New("a pin stands at x and y from 0 to 1")
		}
		errs = append(errs, texts(p.Wire, p.Say))
	}
	return errors.Join(errs...)
}

func (*Photo) apply(g *folder, f *Fact) {
	g.Photos = append(g.Photos, f)
}

func (b *Photo) subject() string           { return b.On }
func (b *Photo) says(n named.Names) string { return "photo, " + english.Lower(n.On(b.On)) }

// Pin marks a place on a photo, 0 to 1 from its top left.
type Pin struct {
	X    float64 `json:"x"`
	Y    float64 `json:"y"`
	Wire string  `json:"wire,omitempty"`
	Say  string  `json:"say,omitempty"`
}

// Note is a text on something.
type Note struct {
	Text string `json:"text"`
	On   string `json:"on,omitempty"`
}

func (b *Note) check() error { return errors.Join(said("text", b.Text), texts(b.On)) }

func (*Note) apply(g *folder, f *Fact) {
	g.Notes = append(g.Notes, f)
}

func (b *Note) subject() string           { return b.On }
func (b *Note) says(n named.Names) string { return "note, " + english.Lower(n.On(b.On)) }
