package record

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	"evensteps/core/energy"
)

// What the bodies of events are checked by.

func ids(pairs ...string) error {
	for i := 0; i < len(pairs); i += 2 {
		if pairs[i+1] == "" {
			return fmt.Errorf("%s is missing", pairs[i])
		}
		if len(pairs[i+1]) > MostID {
			return most("%s is longer than %d letters", pairs[i], MostID)
		}
	}
	return nil
}

func texts(list ...string) error {
	for _, s := range list {
		if utf8.RuneCountInString(s) > MostText {
			return most("a text is longer than %d letters", MostText)
		}
	}
	return nil
}

func said(name, text string) error {
	if strings.TrimSpace(text) == "" {
		return fmt.Errorf("%s is missing", name)
	}
	return texts(text)
}

func oneOf(name, word string, words ...string) error {
	if !slices.Contains(words, word) {
		return fmt.Errorf("%s is %q; it is one of %s", name, short(word), strings.Join(words, ", "))
	}
	return nil
}

func counted(n int) error {
	if n > MostCount {
		return most("a count runs from 0 to %d, not %d", MostCount, n)
	}
	if n < 0 {
		return fmt.Errorf("a count runs from 0 to %d, not %d", MostCount, n)
	}
	return nil
}

func side(s string) error { return oneOf("side", s, "out", "back") }

// value is one that was read, as it was written.
func value(v *string) error {
	if v == nil {
		return nil
	}
	return texts(*v)
}

// mostReadings is how many readings a proof holds.
const mostReadings = 20

func checkProof(name string, p *Proof) error {
	errs := []error{oneOf(name+".way", p.How(), energy.Meter, energy.InHand, energy.LetBy, energy.BurnOff, energy.Detector, energy.RunsDry, energy.Warm, energy.Held)}
	if len(p.Readings) > mostReadings || len(p.Again) > mostReadings {
		errs = append(errs, most("a proof holds %d readings at most", mostReadings))
	}
	for _, r := range slices.Concat(p.Readings, p.Again) {
		if len(r.Between) != 2 {
			return errors.New("a reading stands between two points")
		}
		errs = append(errs, texts(r.Between[0], r.Between[1], r.Value))
	}
	return errors.Join(append(errs, texts(p.Meter, p.Category, p.Rated, p.Source, p.Before, p.After, p.Flame, p.Tried, p.Standing, p.Rise, p.Stopped, p.Came, p.Held))...)
}

// Most of each that one fact may hold.
const (
	mostLots  = 20
	mostTrays = 60
	mostWires = 60
	mostPins  = 60
)

var (
	ownID = regexp.MustCompile(`^own-[a-z0-9-]{1,40}$`)
	hash  = regexp.MustCompile(`^[0-9a-f]{64}$`)
)
