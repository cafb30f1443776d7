package record_test

import (
	"math/rand/v2"
	"sort"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"evensteps/core/record"
)

// The order of facts against a simulation that knows when each really happened. Clocks
// are off by up to hours and run too fast or slow: a quartz of a tuning fork is good to
// 20 parts in a million at 25 °C and loses some 0.034 parts in a million for each degree
// squared away from that, so that 150 are beyond what a telephone in the cold shows (the
// usual data sheet of a 32.768 kHz crystal, from memory); walls jump when somebody or
// the network sets them, which seconds since the start do not. Sending takes up to two
// seconds, and comes hours later where there was no signal.
func TestTheOrderOfFactsByClocksThatAreWrong(t *testing.T) {
	const devices, facts, slowest = 6, 40, 2 * time.Second
	for seed := range uint64(60) {
		random := rand.New(rand.NewPCG(seed, 14))
		began := time.Date(2026, 11, 29, 8, 0, 0, 0, time.UTC)
		type clock struct {
			off   time.Duration // of the wall
			rate  float64       // seconds of the device for one that passed
			start time.Time     // of the program there, really
		}
		type happened struct {
			really time.Time
			t      time.Time
			event  record.Event
			device int
			may    time.Duration // how far off it may be put
		}
		var clocks []clock
		for range devices {
			clocks = append(clocks, clock{time.Duration(random.Float64()*8*float64(time.Hour)) - 4*time.Hour, 1 + (random.Float64()*2-1)*150e-6, began.Add(-time.Duration(random.IntN(3600)) * time.Second)})
		}
		wall := func(c clock, at time.Time) time.Time {
			return began.Add(time.Duration(float64(at.Sub(began))*c.rate) + c.off)
		}
		since := func(c clock, at time.Time) float64 { return at.Sub(c.start).Seconds() * c.rate }
		var all []happened
		for d := range devices {
			at := began
			var waiting []happened
			var last time.Time
			for n := range facts {
				at = at.Add(time.Duration(1+random.IntN(240)) * time.Second)
				if random.IntN(15) == 0 { // somebody sets the clock, backwards too
					clocks[d].off = time.Duration(random.Float64()*6*float64(time.Hour)) - 3*time.Hour
				}
				e := record.Event{Device: string(rune('a' + d)), N: n + 1, Wall: wall(clocks[d], at), Since: since(clocks[d], at), Run: "run"}
				waiting = append(waiting, happened{really: at, event: e, device: d})
				if random.IntN(4) == 0 && n < facts-1 {
					continue // no signal
				}
				line := time.Duration(random.Int64N(int64(slowest)))
				received := at.Add(line)
				sent := record.Sent{Run: "run", Since: since(clocks[d], at), Wall: wall(clocks[d], at), Received: received}
				for _, w := range waiting {
					last = record.Stamp(&w.event, sent, last)
					w.t, w.may = last, slowest+time.Duration(150e-6*float64(at.Sub(w.really)))+time.Millisecond
					all = append(all, w)
				}
				waiting = nil
			}
		}
		for _, h := range all {
			assert.WithinDuration(t, h.really, h.t, h.may, "seed %d: no fact is put further off than a line takes", seed)
		}
		sort.SliceStable(all, func(i, j int) bool { return all[i].t.Before(all[j].t) })
		for i := 1; i < len(all); i++ {
			a, b := all[i-1], all[i]
			if a.device == b.device {
				assert.True(t, a.really.Before(b.really), "seed %d: what one device recorded stays in its order", seed)
			}
			assert.LessOrEqual(t, a.really.Sub(b.really), a.may+b.may-slowest, "seed %d: two that change places happened within what a line takes", seed)
		}
	}
}
