// Package picture draws the faces of a machine square on, from its map: what
// lies on the face, what of it is off, what the present step is about, and where
// its fasteners sit. The same strokes make the picture on the screen and on
// paper, so that they agree.
package picture

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"evensteps/core/machine"
)

// Drawing is a picture as strokes, in units of which it is Width wide and
// Height high.
type Drawing struct {
	Width   float64  `json:"width"`
	Height  float64  `json:"height"`
	Caption string   `json:"caption"` // from where it is seen
	Says    string   `json:"says"`    // what it shows, in words
	Strokes []Stroke `json:"strokes"`
}

// Stroke is one line, shape or word of a drawing.
type Stroke struct {
	Kind string  `json:"kind"` // rect, ellipse, path, text
	As   string  `json:"as"`   // cabinet, item, off, lit, connector, screw, hidden, lead, tray, edge
	X    float64 `json:"x"`
	Y    float64 `json:"y"`
	W    float64 `json:"w"`
	H    float64 `json:"h"`
	Path string  `json:"path"`
	Text string  `json:"text"`
}

// Lot is fasteners to draw: where they sit on the face, 0 to 1 from its top
// left, and the tray they go to.
type Lot struct {
	Drive  string
	Tray   string
	Hidden bool
	At     [][]float64
}

// The size of a drawing in its own units: the face itself, the room for letters
// at its right, and for the words at its edges.
const (
	tall, wide = 270.0, 230.0
	letters    = 44.0
	edge       = 26.0
)

// Face draws a face: what the step takes is lit, what is away is dashed, and
// off tells what is away.
func Face(m *machine.Map, face string, takes map[string]machine.Level, lots []Lot, off func(item string) bool) Drawing {
	w, h := size(m, face)
	scale := math.Min(tall/h, wide/w)
	d := &drawing{w: w * scale, h: h * scale, round: m.Kind == "dryer"}
	d.rect("cabinet", 0, 0, 1, 1)
	var lit []string
	for _, it := range shown(m, face, takes) {
		as := "item"
		if takes[it.ID] != "" {
			as = "lit"
			lit = append(lit, it.Name)
		}
		if off(it.ID) {
			as += " off"
		}
		d.item(it, as)
	}
	d.fasteners(lots)
	if takes != nil && len(lit) == 0 && !slices.ContainsFunc(lots, func(l Lot) bool { return len(l.At) > 0 }) {
		return Drawing{Strokes: []Stroke{}} // an isolator on the wall is on no face of the machine
	}
	d.edges(face)
	out := Drawing{Width: d.w + letters + edge, Height: d.h + 2*edge, Caption: captions[face], Strokes: d.strokes, Says: "The " + face + " of the machine"}
	if face == "inside" {
		out.Says = "Inside the machine"
	}
	if len(lit) > 0 {
		out.Says += ": " + strings.Join(lit, ", ")
	}
	return out
}

var captions = map[string]string{
	"front": "seen from the front", "rear": "seen from behind; left and right as from the front", "left": "seen from its left", "right": "seen from its right",
	"top": "seen from above", "under": "seen from below", "inside": "inside, seen from the front",
}

// the words at the left and right edge, and at the top and bottom one, so that
// left and right are right for where one stands.
var edges = map[string][4]string{
	"front": {"left", "right", "", ""}, "inside": {"left", "right", "", ""}, "rear": {"right", "left", "", ""},
	"left": {"rear", "front", "", ""}, "right": {"front", "rear", "", ""}, "top": {"left", "right", "rear", "front"}, "under": {"left", "right", "front", "rear"},
}

func size(m *machine.Map, face string) (w, h float64) {
	c := m.Cabinet
	if c == nil || c.WidthMM <= 0 || c.HeightMM <= 0 || c.DepthMM <= 0 {
		return 1, 1
	}
	switch face {
	case "left", "right":
		return c.DepthMM, c.HeightMM
	case "top", "under":
		return c.WidthMM, c.DepthMM
	}
	return c.WidthMM, c.HeightMM
}

// shown are the items to draw, the larger first so that the smaller lie on them.
// Of the small parts only those of the step; inside, what lies no deeper.
func shown(m *machine.Map, face string, takes map[string]machine.Level) []*machine.Item {
	var out []*machine.Item
	var deep map[string]int
	if face == "inside" {
		deep = depths(m)
	}
	here := layer(deep, takes)
	for i := range m.Items {
		it := &m.Items[i]
		if it.Face != face || it.Type == "state" || it.Area == nil && it.At == nil {
			continue
		}
		if takes[it.ID] == "" {
			if it.Area == nil && (face != "inside" || it.Type == "connector") {
				continue
			}
			if deep[it.ID] > here && len(takes) > 0 {
				continue
			}
		}
		out = append(out, it)
	}
	area := func(it *machine.Item) float64 {
		if len(it.Area) != 4 {
			return 0
		}
		return it.Area[2] * it.Area[3]
	}
	slices.SortStableFunc(out, func(a, b *machine.Item) int { return cmp.Compare(area(b), area(a)) })
	return out
}

// depths is how deep each item lies: how many moves must come one after the
// other before it is moved itself, by the shortest of the ways that the map has.
func depths(m *machine.Map) map[string]int {
	deep := map[string]int{}
	for range len(m.Moves) + 1 {
		changed := false
		for i := range m.Moves {
			mv := &m.Moves[i]
			d, known := 1, true
			for need := range mv.Needs {
				if m.Item(need) == nil {
					continue
				}
				n, is := deep[need]
				known = known && is
				d = max(d, n+1)
			}
			for id := range mv.Takes {
				if old, is := deep[id]; known && (!is || d < old) {
					deep[id], changed = d, true
				}
			}
		}
		if !changed {
			break
		}
	}
	return deep
}

// layer is how deep what a step takes lies.
func layer(deep map[string]int, takes map[string]machine.Level) int {
	most := 0
	for id := range takes {
		most = max(most, deep[id])
	}
	return most
}

type drawing struct {
	w, h    float64
	round   bool // its door is round
	strokes []Stroke
}

func round(x float64) float64 { return math.Round(x*10) / 10 }

func (d *drawing) add(s Stroke) {
	s.X, s.Y, s.W, s.H = round(s.X), round(s.Y), round(s.W), round(s.H)
	d.strokes = append(d.strokes, s)
}

// at turns a place on the face into one of the drawing.
func (d *drawing) at(x, y float64) (float64, float64) { return edge + x*d.w, edge + y*d.h }

func (d *drawing) rect(as string, x, y, w, h float64) {
	px, py := d.at(x, y)
	d.add(Stroke{Kind: "rect", As: as, X: px, Y: py, W: w * d.w, H: h * d.h})
}

func (d *drawing) item(it *machine.Item, as string) {
	if len(it.Area) == 4 {
		x, y := d.at(it.Area[0], it.Area[1])
		w, h := it.Area[2]*d.w, it.Area[3]*d.h
		kind := "rect"
		if it.Type == "drum" || it.Type == "door" && d.round {
			kind = "ellipse"
		}
		d.add(Stroke{Kind: kind, As: as, X: x, Y: y, W: w, H: h, Text: it.Name})
		if kind == "ellipse" && w > 30 && h > 30 {
			d.add(Stroke{Kind: kind, As: strings.Replace(as, "lit", "item", 1), X: x + 7, Y: y + 7, W: w - 14, H: h - 14})
		}
		return
	}
	x, y := d.at(it.At[0], it.At[1])
	if it.Type == "connector" {
		d.add(Stroke{Kind: "rect", As: as + " connector", X: x - 11, Y: y - 7, W: 22, H: 14, Text: it.Name})
		return
	}
	d.add(Stroke{Kind: "ellipse", As: as, X: x - 13, Y: y - 13, W: 26, H: 26, Text: it.Name})
}

// fasteners draws each head by its drive, and leads one line from each tray's
// fasteners to its letter.
func (d *drawing) fasteners(lots []Lot) {
	type label struct {
		tray string
		x, y float64
		at   float64
	}
	var labels []label
	for _, l := range lots {
		for _, at := range l.At {
			if len(at) != 2 {
				continue
			}
			x, y := d.at(at[0], at[1])
			as := "screw"
			if l.Hidden {
				as = "screw hidden"
			}
			d.add(Stroke{Kind: "path", As: as, Path: Head(l.Drive, x, y)})
			k := slices.IndexFunc(labels, func(o label) bool { return o.tray == l.Tray })
			switch {
			case l.Tray == "":
			case k < 0:
				labels = append(labels, label{tray: l.Tray, x: x, y: y})
			case x > labels[k].x: // the one farthest to the right
				labels[k].x, labels[k].y = x, y
			}
		}
	}
	slices.SortStableFunc(labels, func(a, b label) int { return cmp.Compare(a.y, b.y) })
	last := -99.0
	for _, l := range labels {
		l.at = math.Max(l.y, last+32)
		last = l.at
		d.add(Stroke{Kind: "path", As: "lead", Path: fmt.Sprintf("M%.1f %.1fL%.1f %.1f", l.x+head+1, l.y, edge+d.w+14, l.at)})
		d.add(Stroke{Kind: "text", As: "tray", X: edge + d.w + 18, Y: l.at + 10, Text: l.tray})
	}
}

// edges writes which way is which: words at the sides are turned by the reader.
func (d *drawing) edges(face string) {
	e := edges[face]
	put := func(x, y float64, text string) {
		if text != "" {
			d.add(Stroke{Kind: "text", As: "edge", X: x, Y: y, Text: text})
		}
	}
	put(edge+14, edge+d.h+20, e[0])
	put(edge+d.w-8, edge+d.h+20, e[1])
	put(edge+d.w/2, edge-7, e[2])
	put(edge+d.w/2, edge+d.h+20, e[3])
}

// styles are how the kinds of stroke look on paper: black on white.
var styles = map[string]string{
	"cabinet": `fill="#fff" stroke="#444" stroke-width="2"`, "item": `fill="none" stroke="#777" stroke-width="1.5"`, "lit": `fill="#eee" stroke="#000" stroke-width="3"`,
	"screw": `fill="#fff" stroke="#000" stroke-width="2"`, "lead": `fill="none" stroke="#000" stroke-width="1.2"`,
}

// SVG is the drawing as a picture of its own, for paper. Names are escaped.
func (d *Drawing) SVG() string {
	var b strings.Builder
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" width="%g" height="%g" viewBox="0 0 %g %g" role="img" aria-label="%s">`, d.Width, d.Height, d.Width, d.Height, escape(d.Says))
	for _, s := range d.Strokes {
		first, _, _ := strings.Cut(s.As, " ")
		style := styles[first]
		if strings.Contains(s.As, "off") || strings.Contains(s.As, "hidden") {
			style += ` stroke-dasharray="5 4"`
		}
		switch s.Kind {
		case "rect":
			fmt.Fprintf(&b, `<rect x="%g" y="%g" width="%g" height="%g" %s/>`, s.X, s.Y, s.W, s.H, style)
		case "ellipse":
			fmt.Fprintf(&b, `<ellipse cx="%g" cy="%g" rx="%g" ry="%g" %s/>`, s.X+s.W/2, s.Y+s.H/2, s.W/2, s.H/2, style)
		case "path":
			fmt.Fprintf(&b, `<path d="%s" %s/>`, s.Path, style)
		case "text":
			size, anchor := 30, "start"
			if s.As == "edge" {
				size, anchor = 20, "middle"
			}
			fmt.Fprintf(&b, `<text x="%g" y="%g" font-size="%d" text-anchor="%s" font-family="sans-serif">%s</text>`, s.X, s.Y, size, anchor, escape(s.Text))
		}
	}
	b.WriteString("</svg>")
	return b.String()
}

var escaper = strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;", `"`, "&quot;")

func escape(s string) string { return escaper.Replace(s) }
