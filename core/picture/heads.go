package picture

import (
	"fmt"
	"math"
	"strings"
)

// head is half a screw's head.
const head = 9.0

// Head is the outline of a fastener's head as one looks at it, by its drive,
// around a point.
func Head(drive string, x, y float64) string {
	var b strings.Builder
	circle := func(r float64) {
		fmt.Fprintf(&b, "M%.1f %.1fa%g %g 0 1 0 %g 0a%g %g 0 1 0 %g 0", x-r, y, r, r, 2*r, r, r, -2*r)
	}
	polygon := func(n int, r, turn float64) {
		for i := range n {
			a := turn + 2*math.Pi*float64(i)/float64(n)
			fmt.Fprintf(&b, "%c%.1f %.1f", "ML"[min(i, 1)], x+r*math.Cos(a), y+r*math.Sin(a))
		}
		b.WriteString("Z")
	}
	star := func() {
		for i := range 12 {
			r := 6.0 - 2.5*float64(i%2)
			a := math.Pi * float64(i) / 6
			fmt.Fprintf(&b, "%c%.1f %.1f", "ML"[min(i, 1)], x+r*math.Cos(a), y+r*math.Sin(a))
		}
		b.WriteString("Z")
	}
	line := func(dx1, dy1, dx2, dy2 float64) {
		fmt.Fprintf(&b, "M%.1f %.1fL%.1f %.1f", x+dx1, y+dy1, x+dx2, y+dy2)
	}
	switch drive {
	case "hex":
		polygon(6, head, 0)
	case "nut":
		polygon(6, head, 0)
		circle(4)
	case "phillips":
		circle(head)
		line(-5, 0, 5, 0)
		line(0, -5, 0, 5)
	case "pozidriv":
		circle(head)
		line(-5, 0, 5, 0)
		line(0, -5, 0, 5)
		line(-3, -3, 3, 3)
		line(-3, 3, 3, -3)
	case "slotted":
		circle(head)
		line(-6, 0, 6, 0)
	case "torx":
		circle(head)
		star()
	case "torx-pin":
		circle(head)
		star()
		circle(1.2)
	case "square", "robertson":
		circle(head)
		polygon(4, 5.5, math.Pi/4)
	case "clip":
		line(-7, 6, -7, -6)
		line(-7, -6, 7, -6)
		line(7, -6, 7, 6)
	case "tab":
		polygon(4, head, math.Pi/4)
	case "spring-ring":
		fmt.Fprintf(&b, "M%.1f %.1fA8 8 0 1 1 %.1f %.1f", x+3, y-7.4, x-3, y-7.4)
	case "cable-tie":
		circle(6)
		line(6, 0, 11, -5)
	case "hose-clip":
		circle(7)
		line(-3, -7, -5, -12)
		line(3, -7, 5, -12)
	case "wire-nut":
		polygon(3, head, -math.Pi/2)
	default:
		circle(4)
	}
	return b.String()
}
