package record

import (
	"errors"

	"evensteps/core/english"
	"evensteps/core/machine"
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

// Difference is what was found other than the map says. One that names a drive
// or size corrects the lot that it is on, for this job.
type Difference struct {
	On    string `json:"on"`
	Says  string `json:"says"`
	Is    string `json:"is"`
	Drive string `json:"drive,omitempty"`
	Size  string `json:"size,omitempty"`
}

func (b *Difference) check() error {
	if b.Drive != "" {
		if err := oneOf("drive", b.Drive, machine.Drives...); err != nil {
			return err
		}
	}
	return errors.Join(said("on", b.On), said("is", b.Is), texts(b.Says, b.Size))
}

func (*Difference) apply(g *folder, f *Fact) {
	g.Differs = append(g.Differs, f)
}

func (b *Difference) shapes(s *shape) {
	s.differs = append(s.differs, b)
}

func (b *Difference) subject() string           { return b.On }
func (b *Difference) says(n named.Names) string { return "difference, " + english.Lower(n.On(b.On)) }
