package job_test

import (
	"encoding/json"
	"flag"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/job"
	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/steps"
	"evensteps/demo"
	"evensteps/library"
)

var wrongs = flag.Int("wrongs", 50, "how many jobs are played with one step made wrong")

// led plays a job by doing only what the view says, and looks at every step that
// nothing which was led raised anything.
type led struct {
	*demo.Player
	t    testing.TB
	name string
	// bad is how many steps were made wrong: then snags are expected.
	bad int
	// anywhere lets a step be made wrong in ways that fit any step.
	anywhere bool
	// finals and checks that were led, by id.
	done map[string]bool
}

func leadJob(t testing.TB, m *machine.Map, complaint string, answers map[string]string, goals ...string) *led {
	t.Helper()
	l := &led{t: t, name: fmt.Sprintf("%s %s %v %v", m.ID, complaint, answers, goals), done: map[string]bool{}}
	people := map[string]scene.Person{"jonna": {Name: "Jonna", Tickets: machine.Tickets}, "ilse": {Name: "Ilse", Tickets: machine.Tickets}, "tuure": {Name: "Tuure"}}
	l.Player = demo.NewPlayer(m, scene.Job{ID: "j-1", Complaint: complaint, People: people}, "jonna", "tab-1", nine, 1)
	l.must("visit.began", record.VisitBegan{})
	l.must("person.here", record.PersonHere{Person: "ilse"})
	for _, o := range m.Options {
		l.must("option.answered", record.OptionAnswered{Option: o.ID, Value: answers[o.ID]})
	}
	for _, g := range goals {
		l.must("goal.added", record.GoalAdded{Goal: g})
	}
	return l
}

func (l *led) must(kind string, body any) { require.NoError(l.t, l.Record(kind, body), l.name) }

// step does what the view says is next; false when nothing is left.
func (l *led) step() bool {
	v := l.View()
	if l.bad == 0 {
		require.Empty(l.t, irregular(v), "%s: what was done as it was led raised something at %s %s: %+v", l.name, v.Current.Kind, v.Current.Move, v.Snags)
	}
	switch c := v.Current; c.Kind {
	case "final", "check":
		l.done[c.Move] = true
	case "own":
		l.own(v)
		return true
	case "sign-off":
		for _, s := range v.Snags { // why a part failed is answered; nothing else is settled
			if s.Kind == "cause-open" {
				l.must(s.Touches[0].Makes[0].Kind, s.Touches[0].Makes[0].Body)
				return true
			}
		}
		return false
	}
	more, err := l.Step()
	require.NoError(l.t, err, "%s at %s %s", l.name, v.Current.Kind, v.Current.Move)
	return more
}

// own is a machine without a map: what can hurt is tested off, something comes
// off, and the work is done.
func (l *led) own(v *job.View) {
	for _, c := range v.Current.Task.Choices {
		l.must(c.Makes[0].Kind, c.Makes[0].Body)
		return
	}
	if l.Book.Map.Move("case-off") != nil && !slices.ContainsFunc(v.Goals, func(g job.Goal) bool { return g.Goal == "item:charge=proven" }) {
		l.must("goal.added", record.GoalAdded{Goal: "item:charge=proven"})
		return
	}
	if !slices.ContainsFunc(v.Rungs, func(r steps.Rung) bool { return r.ID == "own-1" }) {
		l.must("rung.own", record.RungOwn{ID: "own-1", Title: "Rear cover", Face: "rear", Lots: []record.OwnLot{{Drive: "hex", Size: "1/4 in", Count: 4}}, Minutes: machine.Minutes{Out: 1, Back: 1}})
		l.must("rung.out", record.RungOut{Move: "own-1", Accepts: []string{"own-1/1"}})
		return
	}
	for _, m := range v.Current.Task.Done.Makes {
		l.must(m.Kind, m.Body)
	}
}

func (l *led) toTheEnd() *job.View {
	for range 400 {
		if !l.step() {
			return l.View()
		}
	}
	require.Fail(l.t, "the job does not come to an end", "%s: %+v", l.name, l.View().Current)
	return nil
}

func (l *led) even() {
	v := l.toTheEnd()
	require.True(l.t, v.Even, "%s: %s, %+v", l.name, v.Headline, v.Snags)
	require.Empty(l.t, v.Snags, l.name)
}

// leastPart is the goal of a part that takes the fewest moves, so that what comes
// after it can be played often.
func leastPart(m *machine.Map, answers map[string]string) string {
	best, goal := 1000, ""
	for _, p := range m.With(answers).Parts {
		made, err := plan.Make(m, plan.Request{Answers: answers, Goals: []string{"replace:" + p.ID}, People: 2})
		if err == nil && len(made.WayIn) < best {
			best, goal = len(made.WayIn), "replace:"+p.ID
		}
	}
	return goal
}

// Every final and every check of every map, in every option: led, none of them
// raises anything, and all come out even.
func TestEveryFinalAndCheckIsLedToEven(t *testing.T) {
	machines, err := library.Maps()
	require.NoError(t, err)
	for _, m := range machines {
		t.Run(m.ID, func(t *testing.T) {
			t.Parallel()
			for _, answers := range everyAnswer(m) {
				is, done := m.With(answers), map[string]bool{}
				if m.Plain() {
					l := leadJob(t, m, "", answers, record.Work)
					l.even()
					done = l.done
				}
				for _, c := range is.Complaints {
					fresh := slices.ContainsFunc(is.Finals, func(f machine.Final) bool { return slices.Contains(f.Proves, c.ID) && !done[f.ID] })
					if !fresh {
						continue
					}
					l := leadJob(t, m, c.ID, answers, leastPart(m, answers))
					l.even()
					for id := range l.done {
						done[id] = true
					}
				}
				for _, c := range is.Checks {
					for _, move := range c.For {
						var goals []string
						for id, level := range is.Move(move).Takes {
							goals = append(goals, "item:"+id+"="+string(level))
						}
						slices.Sort(goals)
						if len(c.Energy) == 0 && done[c.ID] {
							continue // one with energies of its own is played for each
						}
						l := leadJob(t, m, "", answers, goals...)
						l.even()
						for id := range l.done {
							done[id] = true
						}
					}
				}
				for _, f := range is.Finals {
					assert.True(t, done[f.ID], "%s: nothing leads to the final %s under %v", m.ID, f.ID, answers)
				}
				for _, c := range is.Checks {
					assert.True(t, done[c.ID], "%s: nothing leads to the check %s under %v", m.ID, c.ID, answers)
				}
			}
		})
	}
}

// A job with one step made wrong, in a way that what is led next cannot mend, is
// never even, and says why.
func TestOneStepMadeWrongIsNeverEven(t *testing.T) {
	t.Parallel()
	machines, err := library.Maps()
	require.NoError(t, err)
	tried := map[string]int{}
	for seed := 0; seed < *wrongs; seed++ {
		r := rand.New(rand.NewPCG(uint64(seed), 11))
		m := machines[r.IntN(len(machines))]
		all := everyAnswer(m)
		answers := all[r.IntN(len(all))]
		goals := []string{record.Work}
		if !m.Plain() {
			parts := m.With(answers).Parts
			goals[0] = "replace:" + parts[r.IntN(len(parts))].ID
		}
		l := leadJob(t, m, "", answers, goals...)
		l.name = fmt.Sprintf("seed %d, %s", seed, l.name)
		what := ""
		l.anywhere = r.IntN(4) == 0
		for at, n := r.IntN(14), 0; ; n++ {
			if n >= at && l.bad == 0 {
				if what = l.wrong(r); what != "" {
					l.bad++
					continue
				}
			}
			if n > 400 || !l.step() {
				break
			}
		}
		if l.bad == 0 { // nothing could go wrong where it came to: the sign-off is too early
			what = "something left over"
			l.must("left-over", record.LeftOver{Count: 1, Drive: "hex"})
		}
		tried[what]++
		v := l.View()
		require.False(t, v.Even, "%s: %s, and it is even", l.name, what)
		require.NotEmpty(t, v.Between, "%s: %s, and nothing says why it is not even", l.name, what)
		require.NotEmpty(t, irregular(v), "%s: %s: %+v", l.name, what, v.Between)
		l.must("signed-off", record.SignedOff{})
		v = l.View()
		require.False(t, v.Even, "%s: %s, and signing off makes it even", l.name, what)
		for _, s := range v.Snags {
			require.False(t, s.Regular, "%s: %s is still to come though it is signed off", l.name, s.ID)
		}
	}
	t.Log(tried)
}

// wrong makes the present step wrong in one of the ways that fit it, and says how;
// empty where none fits.
func (l *led) wrong(r *rand.Rand) string {
	v := l.View()
	var side *steps.Side
	var at steps.Rung
	for _, one := range v.Rungs {
		if one.Current {
			at, side = one, one.Home
			if v.Current.Side == "out" {
				side = one.OutSide
			}
		}
	}
	generic := []func() string{
		func() string {
			l.must("belonging", record.Belonging{What: "coins", Where: "base"})
			return "coins that nobody was given"
		},
		func() string {
			l.must("left-over", record.LeftOver{Count: 1, Drive: "hex", Size: "8 mm"})
			return "a screw left over"
		},
		func() string {
			l.must("lot.counted", record.LotCounted{Lot: "nothing/1", Side: "out", Count: 1})
			return "a lot that nobody knows"
		},
		func() string {
			l.must("signed-off", record.SignedOff{})
			l.must("rung.half", record.RungHalf{Move: l.Book.Map.Moves[0].ID, Side: "out"})
			return "signed off too early"
		},
	}
	var ways []func() string
	if l.anywhere {
		ways = generic
	}
	if side != nil && side.Done != nil && v.Current.Side == "back" {
		ways = append(ways, func() string {
			l.must("rung.back", record.RungBack{Move: at.ID})
			return "put back with nothing looked at"
		}, func() string {
			for _, lot := range side.Lots {
				if !lot.Loosen {
					l.must("lot.counted", record.LotCounted{Lot: lot.Lot, Side: "back", Count: max(0, lot.Count-1)})
					return "one fastener short"
				}
			}
			return ""
		}, func() string {
			for _, line := range side.Lines {
				if line.Kind == "earth" {
					l.must("rung.back", record.RungBack{Move: at.ID})
					l.must("reading.taken", record.ReadingTaken{Test: line.Line, Value: "3 ohm"})
					return "an earth of 3 ohm"
				}
			}
			return ""
		}, func() string {
			for _, p := range side.Plugs {
				for _, w := range p.Wires {
					if w.Confirm != nil {
						l.must("rung.back", record.RungBack{Move: at.ID})
						l.must("wire.confirmed", record.WireConfirmed{Wire: w.Wire, On: "another"})
						return "a lead on another terminal"
					}
				}
			}
			return ""
		})
	}
	if mv := l.Book.Map.Move(at.ID); mv != nil && v.Current.Kind == "out" && side != nil {
		ways = append(ways, func() string {
			if mv.Ticket == "" {
				return ""
			}
			by := l.By
			l.By = "tuure"
			l.must("rung.out", record.RungOut{Move: mv.ID})
			l.By = by
			return "a ticketed step by somebody without the ticket"
		}, func() string {
			guards := l.Book.Map.Guards(mv.LiveOK)
			if len(guards) == 0 || mv.OneWay || slices.ContainsFunc(guards, func(e string) bool { return level(v, e) != machine.Proven }) {
				return ""
			}
			l.must("energy.restored", record.EnergyRestored{Energy: guards[0], How: "somebody switched it on"})
			l.must("rung.out", record.RungOut{Move: mv.ID})
			return "gone on with an energy restored"
		}, func() string {
			for _, lot := range side.Lots {
				if !lot.Loosen {
					l.must("lot.settled", record.LotSettled{Lot: lot.Lot, As: "lost", Count: 1, Where: "behind the cupboard"})
					return "a fastener lost"
				}
			}
			return ""
		})
	}
	r.Shuffle(len(ways), func(i, j int) { ways[i], ways[j] = ways[j], ways[i] })
	before, _ := json.Marshal(len(l.Events()))
	for _, way := range ways {
		if what := way(); what != "" {
			now := l.View()
			// What is put back with nothing to look at is right all the same.
			if what == "put back with nothing looked at" && len(irregular(now)) == 0 {
				return ""
			}
			return what
		}
		after, _ := json.Marshal(len(l.Events()))
		require.Equal(l.t, string(before), string(after))
	}
	return ""
}

func level(v *job.View, energy string) machine.Level {
	for _, e := range v.Energies {
		if e.Energy == energy {
			return e.Level
		}
	}
	return machine.Live
}

// A way of proving that cannot be had gives way to the next: the flame where one
// was seen as the cock was shut, else the gauge.
func TestTheFlameProvesTheGasOffWhereItWasSeen(t *testing.T) {
	m, err := library.Map("plain-cooktop")
	require.NoError(t, err)
	l := leadJob(t, m, "", map[string]string{"fuel": "gas"}, record.Work, "item:gas=proven", "item:mains=proven")
	v := l.View()
	require.Equal(t, "gas-off", v.Current.Move, "the flame before the mains")
	side := rung(t, v, "gas-off").OutSide
	require.Len(t, side.Choices, 1)
	assert.Contains(t, strings.Join(side.Do, " "), "Watch the flame")
	for _, r := range v.Rungs {
		if r.OutSide != nil && r.ID != "gas-off" {
			assert.NotContains(t, strings.Join(r.OutSide.Do, " "), "Watch the flame", "asked as the cock shuts, and nowhere else: %s", r.ID)
		}
	}
	l.must(side.Choices[0].Makes[0].Kind, side.Choices[0].Makes[0].Body)
	require.NoError(t, l.Until(func(v *job.View) bool { return v.Current.Move == "gas-dead" }))
	ask := rung(t, l.View(), "gas-dead").OutSide.Proof
	assert.Equal(t, "burn-off", ask.Way)
	assert.Len(t, ask.Ways, 3)

	// Where no flame can prove it, none is asked for.
	gauge := *m
	gauge.Moves = slices.Clone(m.Moves)
	gauge.Move("gas-dead").Proof = machine.Values{"let-by"}
	side = rung(t, leadJob(t, &gauge, "", map[string]string{"fuel": "gas"}, record.Work, "item:gas=proven").View(), "gas-off").OutSide
	assert.Empty(t, side.Choices)
	assert.NotContains(t, strings.Join(side.Do, " "), "Watch the flame")

	// Without a flame that was seen that way is not offered, and not taken.
	l = leadJob(t, m, "", map[string]string{"fuel": "gas"}, record.Work, "item:gas=proven")
	l.must("rung.out", record.RungOut{Move: "gas-off"})
	ask = rung(t, l.View(), "gas-dead").OutSide.Proof
	assert.Equal(t, "let-by", ask.Way)
	l.must("rung.out", record.RungOut{Move: "gas-dead", Proof: &record.Proof{Way: "burn-off", Flame: "died", Tried: "no-light"}})
	v = l.View()
	assert.Equal(t, machine.Shut, level(v, "gas"))
	assert.Contains(t, rung(t, v, "gas-dead").OutSide.Said, "cannot be tested off in that way")
}
