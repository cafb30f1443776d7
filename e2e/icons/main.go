// Command icons draws the program's mark as the pictures that devices put on their
// screens: the same two steps as web/public/mark.svg.
package main

import (
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"os"
	"path/filepath"
)

// The mark on a square of 32 by 32: each step is three bars.
var (
	ground = color.RGBA{0xfa, 0xfc, 0xfb, 0xff}
	steps  = map[color.RGBA][]image.Rectangle{
		{0x2f, 0x3d, 0x94, 0xff}: {image.Rect(4, 8, 18, 13), image.Rect(14, 5, 28, 10)},
		{0x14, 0x57, 0x3a, 0xff}: {image.Rect(4, 22, 18, 27), image.Rect(14, 19, 28, 24)},
	}
)

// icons by file: how many pixels a side has, and how much of it the mark takes. A
// device may cut a mask out of some: W3C's manifest keeps the middle circle, of two
// fifths of the side, whole.
var icons = map[string]struct {
	side  int
	share float64
}{"icon-192.png": {192, 1}, "icon-512.png": {512, 1}, "icon-maskable-512.png": {512, 0.7}, "apple-touch-icon.png": {180, 0.9}}

func main() {
	if len(os.Args) != 2 {
		fmt.Fprintln(os.Stderr, "icons FOLDER")
		os.Exit(2)
	}
	for name, i := range icons {
		if err := write(filepath.Join(os.Args[1], name), Draw(i.side, i.share)); err != nil {
			fmt.Fprintln(os.Stderr, "icons:", err)
			os.Exit(1)
		}
	}
}

// Draw is the mark on a square of so many pixels a side; it takes that share of it.
func Draw(side int, share float64) image.Image {
	img := image.NewRGBA(image.Rect(0, 0, side, side))
	draw.Draw(img, img.Bounds(), image.NewUniform(ground), image.Point{}, draw.Src)
	unit := float64(side) * share / 32
	edge := float64(side) * (1 - share) / 2
	at := func(v int) int { return int(edge + unit*float64(v) + 0.5) }
	for paint, bars := range steps {
		for _, b := range bars {
			draw.Draw(img, image.Rect(at(b.Min.X), at(b.Min.Y), at(b.Max.X), at(b.Max.Y)), image.NewUniform(paint), image.Point{}, draw.Src)
		}
	}
	return img
}

func write(file string, img image.Image) error {
	f, err := os.Create(file)
	if err != nil {
		return fmt.Errorf("making an icon: %w", err)
	}
	defer f.Close()
	if err := png.Encode(f, img); err != nil {
		return fmt.Errorf("writing an icon: %w", err)
	}
	return nil
}
