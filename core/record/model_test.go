package record_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"evensteps/core/machine"
	"evensteps/core/record"
)

// model is the record in another way, plain and slow: nothing is kept from one
// fact to the next but the list of what happened, and every question is answered
// by reading that list from its beginning.
type model struct {
	m    *machine.Map
	done []doing
}

// doing is one thing that happened, in words of its own.
type doing struct {
	what string // out, back, restored, check, final, test, ended
	id   string
	good bool // a proof that holds
	live []string
}

// off tells whether an item or energy is off by what stands before an event.
func (x *model) open(move string, until int) bool {
	open := false
	mv := x.m.Move(move)
	for _, d := range x.done[:until] {
		switch {
		case d.what == "out" && d.id == move && (!proves(mv) || d.good):
			open = true
		case d.what == "back" && d.id == move && !mv.OneWay:
			open = false
		case d.what == "restored" && !mv.OneWay && mv.Takes[d.id] != "":
			open = false
		}
	}
	return open
}

func proves(mv *machine.Move) bool {
	for _, l := range mv.Takes {
		if l == machine.Proven {
			return true
		}
	}
	return false
}

// level is how far an energy is off, from the beginning: 0 live, 1 shut, 2 proven.
func (x *model) level(energy string) int {
	shut, proven, set := false, false, false
	for i, d := range x.done {
		mv := x.m.Move(d.id)
		switch d.what {
		case "out":
			if mv.Takes[energy] == machine.Shut {
				shut, set = true, false
			}
			if mv.Takes[energy] == machine.Proven && d.good {
				if set && shut {
					set = false
				}
				proven = shut
			}
		case "back":
			if mv.Takes[energy] == machine.Shut && x.open(d.id, i) {
				shut, proven, set = false, false, false
			}
		case "restored":
			if d.id == energy {
				shut, proven, set = false, false, false
			}
		case "live":
			if slices.Contains(d.live, energy) && shut && !set {
				proven, set = false, true
			}
		case "ended":
			proven = false
		}
	}
	switch {
	case set || !shut:
		return 0
	case proven:
		return 2
	}
	return 1
}

// passed tells whether a final counts as passed.
func (x *model) passed(final string) bool {
	ok := false
	for i, d := range x.done {
		switch d.what {
		case "out":
			mv := x.m.Move(d.id)
			items := false
			for id := range mv.Takes {
				items = items || x.m.Energy(id) == nil
			}
			if items && !mv.OneWay {
				ok = false
			}
		case "final":
			if d.id != final {
				continue
			}
			before := &model{m: x.m, done: x.done[:i]}
			fin := x.m.Final(final)
			whole := true
			for k := range x.m.Moves {
				mv := &x.m.Moves[k]
				if mv.OneWay || !before.open(mv.ID, i) {
					continue
				}
				for id := range mv.Takes {
					if x.m.Energy(id) == nil || fin.Energy[id].Rank() < 1 {
						whole = false
					}
				}
			}
			for id, want := range fin.Energy {
				at := before.level(id)
				if want == machine.Live && at > 0 || want.Rank() > at {
					whole = false
				}
			}
			if whole {
				ok = d.good
			}
		}
	}
	return ok
}

// unproven are the steps that were made though an energy that guards them was not
// proven, in order, as "on energy".
func (x *model) unproven() []string {
	out := []string{}
	for i, d := range x.done {
		before := &model{m: x.m, done: x.done[:i]}
		var guards []string
		switch d.what {
		case "out":
			mv := x.m.Move(d.id)
			guards = x.m.Guards(mv.LiveOK)
			for id, l := range mv.Needs {
				if x.m.Energy(id) != nil && before.level(id) < l.Rank() && !(proves(mv) && d.good && before.setLive(id)) {
					guards = append(guards, id)
				}
			}
		case "back":
			mv := x.m.Move(d.id)
			if before.open(d.id, i) {
				guards = x.m.Guards(mv.LiveOK)
				for id, l := range mv.Needs {
					if x.m.Energy(id) != nil && before.level(id) < l.Rank() {
						guards = append(guards, id)
					}
				}
			}
		case "check":
			guards = x.m.TaskGuards(&x.m.Check(d.id).Task)
		case "test":
			if x.m.Test(d.id).Power == "dead" {
				guards = x.m.Mains()
			}
		}
		slices.Sort(guards)
		for _, id := range slices.Compact(guards) {
			need := 2
			if mv := x.m.Move(d.id); mv != nil && !slices.Contains(x.m.Guards(mv.LiveOK), id) {
				need = mv.Needs[id].Rank()
			}
			if before.level(id) < need {
				out = append(out, d.id+" "+id)
			}
		}
	}
	return out
}

// setLive tells whether an energy is on because something set it live.
func (x *model) setLive(energy string) bool {
	if x.level(energy) > 0 {
		return false
	}
	for k := range x.m.Moves {
		if x.m.Moves[k].Takes[energy] == machine.Shut && x.open(x.m.Moves[k].ID, len(x.done)) {
			return true
		}
	}
	return false
}

// Random records, lawful and not, against the plain model: levels, what stands,
// what was done unproven, which finals have passed.
func TestTheFoldAgainstAPlainModel(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := &told{m: bench(), by: "ana", device: "tab-1", n: map[string]int{}}
		for i := range s.m.Moves { // first terminals and places are told of by tests of their own
			s.m.Moves[i].MeasureFirst = ""
		}
		for i := range s.m.Checks {
			s.m.Checks[i].After, s.m.Checks[i].Expect = nil, nil
			s.m.Checks[i].Pass = "so"
		}
		x := &model{m: s.m}
		say := func(kind, body string) {
			num := len(s.facts) + 1
			at := nine.Add(time.Duration(num) * time.Minute)
			f, err := record.Read(record.Event{
				ID: fmt.Sprintf("01a20000-0000-7000-8000-%012d", num), Job: "j-1", By: "ana", Device: "tab-1", N: num, Wall: at, Run: "r", Seen: num - 1,
				Kind: kind, Body: json.RawMessage(body), Num: num, T: &at,
			})
			require.NoError(t, err)
			s.facts = append(s.facts, f)
		}
		moves := []string{"off", "dead", "cock", "tight", "panel-off", "cover-off", "part-off", "earth-off", "lamp-off"}
		for range rapid.IntRange(1, 30).Draw(t, "facts") {
			switch rapid.IntRange(0, 9).Draw(t, "what") {
			case 0, 1, 2, 3:
				mv := s.m.Move(rapid.SampledFrom(moves).Draw(t, "move"))
				good := rapid.IntRange(0, 4).Draw(t, "good") > 0
				body := fmt.Sprintf(`{"move":%q}`, mv.ID)
				if good && mv.ID == "dead" {
					body = `{"move":"dead","proof":` + deadProof + `}`
				}
				if good && mv.ID == "tight" {
					body = `{"move":"tight","proof":` + tightProof + `}`
				}
				say("rung.out", body)
				x.done = append(x.done, doing{what: "out", id: mv.ID, good: good})
			case 4, 5:
				id := rapid.SampledFrom(moves).Draw(t, "back")
				if s.m.Move(id).OneWay {
					continue
				}
				say("rung.back", fmt.Sprintf(`{"move":%q}`, id))
				x.done = append(x.done, doing{what: "back", id: id})
			case 6:
				id := rapid.SampledFrom([]string{"mains", "gas"}).Draw(t, "energy")
				say("energy.restored", fmt.Sprintf(`{"energy":%q,"how":"x"}`, id))
				x.done = append(x.done, doing{what: "restored", id: id})
			case 7:
				c := s.m.Checks[rapid.IntRange(0, len(s.m.Checks)-1).Draw(t, "check")]
				say("check.result", fmt.Sprintf(`{"check":%q,"passed":%v}`, c.ID, rapid.Bool().Draw(t, "passed")))
				x.done = append(x.done, doing{what: "check", id: c.ID}, doing{what: "live", live: live(c.Energy)})
			case 8:
				f := s.m.Finals[rapid.IntRange(0, 1).Draw(t, "final")]
				good := rapid.Bool().Draw(t, "good")
				say("final.result", fmt.Sprintf(`{"final":%q,"passed":%v}`, f.ID, good))
				x.done = append(x.done, doing{what: "final", id: f.ID, good: good}, doing{what: "live", live: live(f.Energy)})
			case 9:
				switch rapid.IntRange(0, 2).Draw(t, "else") {
				case 0:
					say("test.result", `{"test":"through","outcome":"x","evidence":"seen"}`)
					x.done = append(x.done, doing{what: "test", id: "through"})
				case 1:
					say("test.result", `{"test":"listen","outcome":"x","evidence":"seen"}`)
					x.done = append(x.done, doing{what: "test", id: "listen"}, doing{what: "live", live: []string{"mains"}})
				case 2:
					say("left", `{}`)
					x.done = append(x.done, doing{what: "ended"})
				}
			}
		}
		got := s.state()
		words := func() string {
			var b strings.Builder
			for _, f := range s.facts {
				fmt.Fprintf(&b, "%s %s\n", f.Kind, f.Body)
			}
			return b.String()
		}
		for _, id := range []string{"mains", "gas"} {
			require.Equal(t, x.level(id), max(0, got.Levels()[id].Rank()), "%s after\n%s", id, words())
		}
		for i := range s.m.Moves {
			if mv := &s.m.Moves[i]; !mv.OneWay {
				require.Equal(t, x.open(mv.ID, len(x.done)), slices.Contains(got.Standing, mv.ID), "%s after\n%s", mv.ID, words())
			}
		}
		for _, id := range []string{"run", "cold"} {
			require.Equal(t, x.passed(id), got.FinalPassed(id), "%s after\n%s", id, words())
		}
		unproven := []string{}
		for _, r := range got.Raised {
			if r.Kind == "guard-unmet" || r.Kind == "proof-lapsed" {
				on := r.On
				if r.Kind == "proof-lapsed" {
					var b struct{ Move, Check, Test string }
					require.NoError(t, json.Unmarshal(r.By.Body, &b))
					on = b.Move + b.Check + b.Test
				}
				unproven = append(unproven, on+" "+r.Other)
			}
		}
		want := x.unproven()
		slices.Sort(want)
		slices.Sort(unproven)
		require.Equal(t, want, unproven, "done unproven after\n%s", words())
	})
}

func live(energies map[string]machine.Level) (out []string) {
	for _, id := range slices.Sorted(maps.Keys(energies)) {
		if energies[id] == machine.Live {
			out = append(out, id)
		}
	}
	return out
}

// No order comes from a Go map: random records, own rungs that lean on each other
// among them, fold to the same state fifty times.
func TestTheSameFactsFoldToTheSameState(t *testing.T) {
	m := bench()
	for seed := range uint64(200) {
		r := rand.New(rand.NewPCG(seed, 3))
		var facts []record.Fact
		for n := 1; n <= 25; n++ {
			mv := m.Moves[r.IntN(len(m.Moves))].ID
			lines := []string{
				`rung.out {"move":"` + mv + `"}`, `rung.back {"move":"` + mv + `"}`, `found {"move":"` + mv + `"}`, `energy.restored {"energy":"mains","how":"x"}`,
				fmt.Sprintf(`rung.own {"id":"own-%d","title":"Own","face":"front","needs":{"panel":"away","cover":"away","own-%d":"away"},"before":[%q,"own-%d"],"minutes":{"out":1,"back":1}}`, r.IntN(5), r.IntN(5), mv, r.IntN(5)),
				fmt.Sprintf(`rung.out {"move":"own-%d"}`, r.IntN(5)), `option.answered {"option":"lamp","value":"none"}`, `goal.added {"goal":"item:cover=away"}`,
				`check.result {"check":"turn","passed":true}`, `rung.out {"move":"dead","proof":` + deadProof + `}`, `signed-off {}`,
			}
			kind, body, _ := strings.Cut(lines[r.IntN(len(lines))], " ")
			at := nine.Add(time.Duration(r.IntN(5)) * time.Minute)
			f, err := record.Read(record.Event{
				ID: fmt.Sprintf("01a20000-0000-7000-8000-%012d", n), Job: "j-1", By: fmt.Sprint("p", r.IntN(3)), Device: fmt.Sprint("d", r.IntN(3)), N: n, Wall: at, Run: "r", Seen: r.IntN(n),
				Kind: kind, Body: json.RawMessage(body), Num: n, T: &at,
			})
			require.NoError(t, err)
			facts = append(facts, f)
		}
		first := ""
		for range 50 {
			r.Shuffle(len(facts), func(i, j int) { facts[i], facts[j] = facts[j], facts[i] })
			s := record.Fold(m, record.Order(facts))
			s.Facts = nil
			text, err := json.Marshal([]any{s.Standing, s.Goals, s.Turns, s.Proofs, s.Checks, s.Finals, s.Raised, s.Said, s.Levels(), s.Map, s.SetLive})
			require.NoError(t, err)
			if first == "" {
				first = string(text)
			}
			require.Equal(t, first, string(text), "seed %d", seed)
		}
	}
}

// Six facts of two devices, in all 90 orders in which their batches of two, two
// and two can arrive, fold to one state (6!/(2!·2!·2!) = 90 merges).
func TestEveryMergeGivesOneState(t *testing.T) {
	m := bench()
	at := func(minute int) *time.Time { v := nine.Add(time.Duration(minute) * time.Minute); return &v }
	var lists [3][]record.Fact
	for i, line := range []string{
		`rung.out {"move":"off"}`, `rung.out {"move":"dead","proof":` + deadProof + `}`,
		`energy.restored {"energy":"mains","how":"x"}`, `rung.out {"move":"panel-off"}`,
		`rung.out {"move":"off"}`, `rung.back {"move":"panel-off"}`,
	} {
		kind, body, _ := strings.Cut(line, " ")
		d := i / 2
		f, err := record.Read(record.Event{
			ID: fmt.Sprintf("01a20000-0000-7000-8000-%012d", i+1), Job: "j-1", By: fmt.Sprint("p", d), Device: fmt.Sprint("d", d), N: i%2 + 1, Wall: nine, Run: "r",
			Kind: kind, Body: json.RawMessage(body), Num: i + 1, T: at(i % 2), // equal moments on all three
		})
		require.NoError(t, err)
		lists[d] = append(lists[d], f)
	}
	states, merges := map[string]int{}, 0
	var merge func(done []record.Fact, at [3]int)
	merge = func(done []record.Fact, next [3]int) {
		if len(done) == 6 {
			merges++
			given := slices.Clone(done)
			for i := range given {
				given[i].Num = i + 1 // the server numbers them as they come
			}
			s := record.Fold(m, record.Order(given))
			text, err := json.Marshal([]any{s.Standing, s.Levels(), len(s.Raised), s.Said})
			require.NoError(t, err)
			states[string(text)]++
			return
		}
		for d := range lists {
			if next[d] < len(lists[d]) {
				then := next
				then[d]++
				merge(append(slices.Clone(done), lists[d][next[d]]), then)
			}
		}
	}
	merge(nil, [3]int{})
	require.Equal(t, 90, merges)
	require.Len(t, states, 1, "%v", states)
}
