package company

import (
	"maps"
	"slices"
	"time"
)

// Time is a day of the company's calendar, as 2026-11-28, or a moment, as
// 2026-11-28T14:03:00Z. A day is kept as a day, so that it stays one when the rule
// of its time zone changes. Empty: not known.
type Time string

// Sound tells whether it is either.
func (t Time) Sound() bool {
	_, _, ok := t.read(time.UTC)
	return ok
}

// read is the moment, or when the day begins in a time zone.
func (t Time) read(zone *time.Location) (at time.Time, day, ok bool) {
	if at, err := time.Parse(time.RFC3339Nano, string(t)); err == nil {
		return at, false, true
	}
	at, err := time.ParseInLocation(time.DateOnly, string(t), zone)
	return at, true, err == nil && at.Year() >= 1900
}

// Start is the moment, or when the day begins; the zero time where nothing is said.
func (t Time) Start(zone *time.Location) time.Time {
	at, _, _ := t.read(zone)
	return at
}

// End is the moment, or when the day is over; the zero time where nothing is said.
func (t Time) End(zone *time.Location) time.Time {
	at, day, ok := t.read(zone)
	if ok && day {
		return at.AddDate(0, 0, 1)
	}
	return at
}

// Moment writes a moment.
func Moment(at time.Time) Time { return Time(at.UTC().Format(time.RFC3339Nano)) }

// Past tells whether it is over.
func (t Time) Past(now time.Time, zone *time.Location) bool {
	return t != "" && !now.Before(t.End(zone))
}

func compare(pairs ...string) int {
	for i := 0; i+1 < len(pairs); i += 2 {
		if pairs[i] != pairs[i+1] {
			if pairs[i] < pairs[i+1] {
				return -1
			}
			return 1
		}
	}
	return 0
}

func sortedKeys[V any](m map[string]V) []string { return slices.Sorted(maps.Keys(m)) }
