package record_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/energy"
	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/record"
)

var nine = time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC)

// bench is a small machine: mains and gas, a plug and a cock, a cover that needs
// both proven, a panel that needs the mains shut alone, a part behind the cover
// that comes as a pair, checks and finals.
func bench() *machine.Map {
	needs := func(pairs ...string) machine.Needs {
		n := machine.Needs{}
		for i := 0; i < len(pairs); i += 2 {
			n[pairs[i]] = machine.Level(pairs[i+1])
		}
		return n
	}
	live := []string{"mains", "gas"}
	return &machine.Map{
		Format: machine.Format, ID: "bench", Title: "Bench", Kind: "other", Revision: 1,
		Options:   []machine.Option{{ID: "lamp", Ask: "A lamp?", Values: []string{"fitted", "none"}, Usual: "fitted"}},
		Energies:  []machine.Energy{{ID: "mains", Kind: "mains", Name: "Mains"}, {ID: "gas", Kind: "gas", Name: "Gas"}},
		Supply:    &machine.Supply{System: "single-phase", Volts: 230},
		Fasteners: []machine.Fastener{{ID: "screw", Name: "Screw", Drive: "hex", Size: "1/4 in"}},
		Items: []machine.Item{
			{ID: "panel", Name: "Panel", Type: "cover"},
			{ID: "cover", Name: "Cover", Type: "cover"},
			{ID: "part-l", Name: "Left part", Type: "part"},
			{ID: "part-r", Name: "Right part", Type: "part"},
			{ID: "plug", Name: "Board plug", Type: "connector", Wires: []machine.Wire{{Terminal: "1", Colour: "red"}, {Terminal: "2", Colour: "red"}}},
			{ID: "earth", Name: "Earth", Type: "connector", Earth: true, Keyed: true},
			{ID: "lamp", Name: "Lamp", Type: "part", When: machine.When{"lamp": {"fitted"}}},
		},
		Moves: []machine.Move{
			{ID: "off", Title: "Off", Takes: needs("mains", "shut"), LiveOK: live, Face: "front"},
			{ID: "dead", Title: "Dead", Takes: needs("mains", "proven"), Needs: needs("mains", "shut"), LiveOK: live, OneWay: true, Face: "front"},
			{ID: "cock", Title: "Cock", Takes: needs("gas", "shut"), LiveOK: live, Face: "front"},
			{ID: "tight", Title: "Tight", Takes: needs("gas", "proven"), Needs: needs("gas", "shut"), LiveOK: live, OneWay: true, Face: "front", Proof: machine.Values{energy.LetBy, energy.BurnOff}, Ticket: "gas"},
			{ID: "panel-off", Title: "Panel", Takes: needs("panel", "away"), Needs: needs("mains", "shut"), LiveOK: live, Face: "front", Fasteners: []machine.Lot{{Kind: "screw", Count: 4}}},
			{ID: "cover-off", Title: "Cover", Takes: needs("cover", "away"), Needs: needs("panel", "away"), Face: "front", Fasteners: []machine.Lot{{Kind: "screw", Count: 2}}},
			{ID: "plug-off", Title: "Plug", Takes: needs("plug", "away"), Needs: needs("cover", "away"), LiveOK: []string{"gas"}, MeasureFirst: "mains", Face: "front"},
			{ID: "earth-off", Title: "Earth", Takes: needs("earth", "away"), Needs: needs("panel", "away"), LiveOK: []string{"gas"}, Face: "front"},
			{ID: "part-off", Title: "Parts", Takes: needs("part-l", "away", "part-r", "away"), Needs: needs("cover", "away"), Face: "front"},
			{ID: "lamp-off", Title: "Lamp", Takes: needs("lamp", "away"), LiveOK: live, Face: "front", When: machine.When{"lamp": {"fitted"}}},
		},
		Checks: []machine.Check{
			{Task: machine.Task{ID: "leak", Title: "Leak", Energy: needs("gas", "live")}, For: []string{"part-off"}, After: []string{"part-off"}, Before: []string{"panel-off"}, Pass: "Dry"},
			{Task: machine.Task{ID: "turn", Title: "Turn", Energy: needs("mains", "live")}, For: []string{"part-off"}, After: []string{"part-off"}, Before: []string{"cover-off"}, Pass: "It turns"},
			{Task: machine.Task{ID: "ohms", Title: "Ohms", Expect: &machine.Expect{Ohms: []float64{10, 20}}}, For: []string{"part-off"}, Before: []string{"cover-off"}},
		},
		Finals: []machine.Final{
			{Task: machine.Task{ID: "run", Title: "Run", Energy: needs("mains", "live", "gas", "live")}, Pass: "It runs"},
			{Task: machine.Task{ID: "cold", Title: "Cold", Energy: needs("mains", "shut")}, Pass: "Cold"},
			{Task: machine.Task{ID: "warm", Title: "Warm", Energy: needs("mains", "live"), Expect: &machine.Expect{Temperature: []float64{45, 75}}}},
		},
		Tests: []machine.Test{
			{Task: machine.Task{ID: "through", Title: "Through"}, Power: "dead"},
			{Task: machine.Task{ID: "listen", Title: "Listen"}, Power: "live"},
		},
		Parts: []machine.Part{{ID: "pair", Item: "part-l", Also: []string{"part-r"}, Name: "Pair", Number: "B-1", SetOf: 2, FitTogether: true}},
	}
}

// told is a job as it is told: each fact by somebody, on some device, a minute
// after the one before unless it is said otherwise.
type told struct {
	t       *testing.T
	m       *machine.Map
	company record.Company
	facts   []record.Fact
	by      string
	device  string
	n       map[string]int
}

func tell(t *testing.T) *told {
	return &told{t: t, m: bench(), by: "ana", device: "tab-1", n: map[string]int{}}
}

// as is who records what follows.
func (s *told) as(by, device string) *told { s.by, s.device = by, device; return s }

func (s *told) say(kind, body string) string {
	return s.fact(kind, body, len(s.facts)).ID
}

// fact adds a fact that had seen so many of the others.
func (s *told) fact(kind, body string, seen int) *record.Fact {
	s.t.Helper()
	s.n[s.device]++
	num := len(s.facts) + 1
	at := nine.Add(time.Duration(num) * time.Minute)
	e := record.Event{
		ID: fmt.Sprintf("01a20000-0000-7000-8000-%012d", num), Job: "j-1", By: s.by, Device: s.device, N: s.n[s.device], Wall: at, Run: "r", Seen: seen,
		Kind: kind, Body: json.RawMessage(body), Num: num, T: &at, Received: &at,
	}
	f, err := record.Read(e)
	require.NoError(s.t, err, "%s %s", kind, body)
	s.facts = append(s.facts, f)
	return &s.facts[len(s.facts)-1]
}

func (s *told) state() *record.State {
	return (&record.Folds{Company: s.company}).Fold(s.m, record.Order(s.facts))
}

// snags are what is raised and not settled, as "kind on other".
func (s *told) snags() []string {
	out := []string{}
	for _, r := range s.state().Raised {
		if r.Done {
			continue
		}
		say := r.Kind + " " + r.On
		if r.Other != "" {
			say += " " + r.Other
		}
		if r.Note {
			say += " late"
		}
		out = append(out, say)
	}
	return out
}

func (s *told) level(id string) machine.Level {
	l := s.state().Levels()[id]
	if l == "" {
		return machine.Live
	}
	return l
}

const (
	deadProof  = `{"way":"meter","meter":"4","before":"230 V","after":"230 V","readings":[{"between":["L","N"],"value":"0 V"},{"between":["L","PE"],"value":"0 V"},{"between":["N","PE"],"value":"0 V"}]}`
	tightProof = `{"way":"let-by","meter":"g","standing":"20 mbar","rise":"0 mbar"}`
)

func (s *told) dead() string { return s.say("rung.out", `{"move":"dead","proof":`+deadProof+`}`) }

func (s *told) tight() string { return s.say("rung.out", `{"move":"tight","proof":`+tightProof+`}`) }

func (s *told) out(move string) string { return s.say("rung.out", `{"move":"`+move+`"}`) }

func (s *told) back(move string) string { return s.say("rung.back", `{"move":"`+move+`"}`) }

// opened is the machine with both energies proven and the parts out.
func opened(t *testing.T) *told {
	s := tell(t)
	s.out("off")
	s.dead()
	s.out("cock")
	s.tight()
	s.out("panel-off")
	s.out("cover-off")
	s.out("part-off")
	require.Empty(t, s.snags())
	return s
}

func TestARungMadeUnprovenIsAStop(t *testing.T) {
	s := tell(t)
	s.out("off")
	s.out("cock")
	s.out("panel-off")
	assert.Empty(t, s.snags(), "it needs the mains shut alone")
	s.out("cover-off")
	assert.Equal(t, []string{"guard-unmet cover-off mains", "guard-unmet cover-off gas"}, s.snags())
	s.dead() // proven late, but before the next rung
	assert.Equal(t, []string{"guard-unmet cover-off mains late", "guard-unmet cover-off gas"}, s.snags(), "the mains alone were proven")
	s.out("part-off")
	s.tight()
	assert.Contains(t, s.snags(), "guard-unmet part-off gas late")
	assert.Contains(t, s.snags(), "guard-unmet cover-off gas", "after the next rung it is too late")
}

func TestARefitMadeUnprovenIsAStop(t *testing.T) {
	s := opened(t)
	s.say("energy.restored", `{"energy":"mains","how":"a neighbour"}`)
	s.back("part-off")
	assert.Equal(t, []string{"proof-lapsed mains mains"}, s.snags(), "work went on after the proof had ended")
	s.back("cover-off")
	assert.Len(t, s.snags(), 2, "each refit of its own")
}

func TestACheckOrADeadTestUnprovenIsAStop(t *testing.T) {
	s := tell(t)
	s.out("off")
	s.say("check.result", `{"check":"ohms","passed":true,"value":"12 ohm"}`)
	assert.ElementsMatch(t, []string{"guard-unmet ohms mains", "guard-unmet ohms gas"}, s.snags())
	s = tell(t)
	s.out("off")
	s.say("test.result", `{"test":"through","outcome":"yes","evidence":"seen"}`)
	assert.Equal(t, []string{"guard-unmet through mains"}, s.snags())
	s.say("reading.taken", `{"test":"through","value":"1 ohm"}`)
	assert.Len(t, s.snags(), 2, "a reading, too")
	s = tell(t)
	s.out("off")
	s.say("test.result", `{"test":"through","outcome":"not-done","reason":"no time"}`)
	assert.Empty(t, s.snags(), "one that was not made")
}

func TestEachEnergyIsProvenInItsOwnWay(t *testing.T) {
	s := tell(t)
	s.out("off")
	s.say("rung.out", `{"move":"dead","proof":{"way":"in-hand"}}`)
	assert.Equal(t, machine.Shut, s.level("mains"), "a plug in the hand is no way of this move")
	s.say("rung.out", `{"move":"dead"}`)
	assert.Equal(t, machine.Shut, s.level("mains"), "nor is nothing")
	assert.Contains(t, s.state().Said["dead"], "No proof was recorded")
	s.say("rung.out", `{"move":"dead","proof":{"by":"meter","before":"230 V","after":"230 V","readings":[{"between":["L","N"],"value":"0 V"},{"between":["L","PE"],"value":"0 V"},{"between":["N","PE"],"value":"0 V"}]}}`)
	assert.Equal(t, machine.Proven, s.level("mains"), "as older records name the way")
	s.out("cock")
	s.say("rung.out", `{"move":"tight","proof":{"way":"burn-off","flame":"died","tried":"no-light"}}`)
	assert.Equal(t, machine.Shut, s.level("gas"), "no flame was seen")
	s = tell(t)
	s.say("rung.out", `{"move":"cock","proof":{"way":"burn-off","flame":"seen"}}`)
	s.say("rung.out", `{"move":"tight","proof":{"way":"burn-off","flame":"died","tried":"no-light"}}`)
	assert.Equal(t, machine.Proven, s.level("gas"))
}

func TestFoundIsNoProof(t *testing.T) {
	s := tell(t)
	s.out("off")
	s.say("found", `{"move":"dead","by":"customer"}`)
	assert.Equal(t, machine.Shut, s.level("mains"))
	assert.NotContains(t, s.state().Standing, "dead")
	s.say("found", `{"move":"panel-off","by":"customer"}`)
	assert.Contains(t, s.state().Standing, "panel-off", "what was off before stands, and comes back")
	s.out("cover-off")
	assert.Contains(t, s.snags(), "guard-unmet cover-off mains")
}

// The first terminals that are opened are measured, whatever proved it before.
func TestTheFirstTerminalsAreMeasured(t *testing.T) {
	s := opened(t)
	s.say("rung.out", `{"move":"plug-off"}`)
	assert.Equal(t, []string{"guard-unmet plug-off mains"}, s.snags())
	s = opened(t)
	s.say("rung.out", `{"move":"plug-off","proof":{"way":"meter","before":"230 V","after":"230 V","readings":[{"between":["L","N"],"value":"229 V"},{"between":["L","PE"],"value":"0 V"},{"between":["N","PE"],"value":"0 V"}]}}`)
	assert.Equal(t, []string{"guard-unmet plug-off mains"}, s.snags(), "and it reads live")
	s = opened(t)
	s.say("rung.out", `{"move":"plug-off","proof":`+deadProof+`}`)
	assert.Empty(t, s.snags())
	assert.Equal(t, "dead", s.state().Proofs["mains"].Move)
}

// A check that sets an energy live ends its proof, passed or failed; it counts as
// live until its isolating move or readings are recorded.
func TestACheckThatSetsLive(t *testing.T) {
	for _, passed := range []string{"true", "false"} {
		s := opened(t)
		s.back("part-off")
		s.say("check.result", `{"check":"turn","passed":`+passed+`}`)
		assert.Equal(t, machine.Live, s.level("mains"), "passed: %s", passed)
		assert.Equal(t, machine.Proven, s.level("gas"), "no other")
		assert.Contains(t, s.state().Standing, "off", "the isolating move still stands, and comes back in its turn")
		s.out("cover-off")
		assert.Contains(t, s.snags(), "proof-lapsed mains mains", "what goes on now is unproven")

		s = opened(t)
		s.back("part-off")
		s.say("check.result", `{"check":"turn","passed":`+passed+`}`)
		s.out("off")
		assert.Equal(t, machine.Shut, s.level("mains"), "isolated again")
		assert.Empty(t, s.snags())
		s.dead()
		assert.Equal(t, machine.Proven, s.level("mains"))

		s = opened(t)
		s.back("part-off")
		s.say("check.result", `{"check":"turn","passed":`+passed+`}`)
		s.dead()
		assert.Equal(t, machine.Proven, s.level("mains"), "the readings show it off")
		assert.Empty(t, s.snags())

		s = opened(t)
		s.back("part-off")
		s.say("check.result", `{"check":"turn","passed":`+passed+`,"proofs":{"mains":`+deadProof+`}}`)
		assert.Equal(t, machine.Proven, s.level("mains"), "measured at once")
		assert.Equal(t, s.facts[len(s.facts)-1].ID, s.state().Proofs["mains"].Fact.ID)

		s = opened(t)
		s.back("part-off")
		s.say("check.result", `{"check":"turn","passed":`+passed+`,"proofs":{"mains":{"way":"meter","before":"230 V","after":"230 V","readings":[{"between":["L","N"],"value":"230 V"}]}}}`)
		assert.Equal(t, machine.Live, s.level("mains"), "measured, and it is live")
		assert.Contains(t, s.state().Said["turn"], "L to N")
	}
	s := opened(t)
	s.back("part-off")
	s.say("check.result", `{"check":"leak","passed":true}`)
	assert.Equal(t, machine.Live, s.level("gas"), "gas as well as mains")
	s.back("cock")
	assert.Equal(t, machine.Live, s.level("gas"))
	s.out("cock")
	assert.Equal(t, machine.Shut, s.level("gas"))
}

func TestALiveTestEndsTheProof(t *testing.T) {
	s := tell(t)
	s.out("off")
	s.dead()
	s.say("test.result", `{"test":"listen","outcome":"hum","evidence":"told"}`)
	assert.Equal(t, machine.Proven, s.level("mains"), "what somebody tells sets nothing live")
	s.say("test.result", `{"test":"listen","outcome":"not-done","reason":"no time"}`)
	assert.Equal(t, machine.Proven, s.level("mains"))
	heard := s.say("test.result", `{"test":"listen","outcome":"hum","evidence":"seen"}`)
	assert.Equal(t, machine.Live, s.level("mains"))
	assert.Empty(t, s.snags())
	s.say("withdrawn", `{"event":"`+heard+`"}`)
	assert.Equal(t, machine.Shut, s.level("mains"), "taken back: never up to proven")
	s = opened(t)
	s.say("reading.taken", `{"test":"listen","value":"1 A"}`)
	assert.Equal(t, []string{"live-open listen cover-off"}, s.snags(), "on a machine that is open further than it asks")
}

func TestACheckCountsInItsPlace(t *testing.T) {
	s := opened(t)
	s.say("check.result", `{"check":"ohms","passed":true,"value":"12 ohm"}`)
	assert.NotNil(t, s.state().Checks["ohms"].Passed, "it waits for nothing")
	s.say("check.result", `{"check":"turn","passed":true,"proofs":{"mains":`+deadProof+`}}`)
	assert.Nil(t, s.state().Checks["turn"].Passed, "the part is not back yet")
	assert.NotEmpty(t, s.state().Checks["turn"].Since)
	assert.Contains(t, s.state().Said["turn"], "Parts")
	s.back("part-off")
	s.say("check.result", `{"check":"turn","passed":true,"proofs":{"mains":`+deadProof+`}}`)
	assert.NotNil(t, s.state().Checks["turn"].Passed)
	assert.Empty(t, s.state().Said["turn"])
	s.back("cover-off")
	assert.Empty(t, s.state().Checks["turn"].Lost)

	s = opened(t)
	s.back("part-off")
	s.back("cover-off")
	assert.Equal(t, []string{"cover-off"}, s.state().Checks["turn"].Lost, "it belongs before the cover")
	s.say("check.result", `{"check":"turn","passed":true}`)
	assert.Nil(t, s.state().Checks["turn"].Passed, "out of its place, and no reason given")
	s.say("check.result", `{"check":"turn","passed":true,"without":"seen through the slots"}`)
	assert.NotNil(t, s.state().Checks["turn"].Passed)
}

func TestAMeasuredCheckPassesByItsValueAlone(t *testing.T) {
	for body, passed := range map[string]bool{
		`{"check":"ohms","passed":true}`: false, `{"check":"ohms","passed":true,"value":"12 ohm"}`: true, `{"check":"ohms","passed":true,"value":"25 ohm"}`: false,
		`{"check":"ohms","passed":false,"value":"12 ohm"}`: false, `{"check":"ohms","passed":true,"value":"good"}`: false,
	} {
		s := opened(t)
		s.say("check.result", body)
		assert.Equal(t, passed, s.state().Checks["ohms"].Passed != nil, body)
		assert.Equal(t, !passed, s.state().Checks["ohms"].Failed != nil, body)
	}
}

// closed brings all of an opened machine back but its energies.
func (s *told) closed() *told {
	s.back("part-off")
	s.back("cover-off")
	s.back("panel-off")
	return s
}

func TestAFinalCountsOnAWholeMachineAlone(t *testing.T) {
	passed := func(s *told, id string) bool { return s.state().FinalPassed(id) }
	s := opened(t)
	s.say("final.result", `{"final":"run","passed":true}`)
	assert.False(t, passed(s, "run"))
	assert.Contains(t, s.snags(), "final-early run Off is still off")
	assert.Equal(t, machine.Live, s.level("mains"), "and it was run: the proofs have ended")
	assert.Equal(t, machine.Live, s.level("gas"))

	s = opened(t).closed()
	s.say("final.result", `{"final":"run","passed":true}`)
	assert.False(t, passed(s, "run"), "with the energies off")
	s = opened(t).closed()
	s.back("off")
	s.say("final.result", `{"final":"run","passed":true}`)
	assert.False(t, passed(s, "run"), "with the gas off")
	s.back("cock")
	s.say("temporary.in", `{"name":"rag"}`)
	s.say("final.result", `{"final":"run","passed":true}`)
	assert.False(t, passed(s, "run"), "with a rag in it")
	s.say("temporary.out", `{"name":"rag"}`)
	assert.NotEmpty(t, s.snags())
	s.say("final.result", `{"final":"run","passed":true}`)
	assert.True(t, passed(s, "run"))
	assert.Empty(t, s.snags(), "the same final in its time settles those that were too early")

	s.out("off")
	assert.True(t, passed(s, "run"), "the plug drawn after the trial undoes nothing")
	assert.True(t, s.state().Ready(s.m.Final("cold")) == "", "with the mains shut, and the plug alone out")
	s.say("final.result", `{"final":"cold","passed":true}`)
	assert.True(t, passed(s, "cold"))
	s.out("lamp-off")
	assert.False(t, passed(s, "run"), "a later out makes it due again")
	assert.False(t, passed(s, "cold"))

	s = opened(t).closed()
	s.back("off")
	s.back("cock")
	assert.Equal(t, "Mains is not shut", s.state().Ready(s.m.Final("cold")))
	for body, want := range map[string]bool{`{"final":"warm","passed":true}`: false, `{"final":"warm","passed":true,"value":"50 C"}`: true, `{"final":"warm","passed":true,"value":"80 C"}`: false} {
		s.say("final.result", body)
		assert.Equal(t, want, passed(s, "warm"), body)
	}
}

func TestProofsEnd(t *testing.T) {
	for kind, body := range map[string]string{"left": `{}`, "took-over": `{"from":"ana"}`, "signed-off": `{}`, "robot.helped": `{}`, "energy.restored": `{"energy":"mains","how":"x"}`, "rung.back": `{"move":"off"}`, "check.result": `{"check":"turn","passed":true}`, "final.result": `{"final":"run","passed":true}`} {
		s := tell(t)
		s.out("off")
		s.dead()
		id := s.say(kind, body)
		assert.NotEqual(t, machine.Proven, s.level("mains"), kind)
		s.say("withdrawn", `{"event":"`+id+`"}`)
		if kind != "robot.helped" {
			assert.NotEqual(t, machine.Proven, s.level("mains"), "%s taken back: never up", kind)
		}
	}
	for kind, body := range map[string]string{"paused": `{}`, "resumed": `{}`, "note": `{"text":"x"}`, "visit.ended": `{}`} {
		s := tell(t)
		s.out("off")
		s.dead()
		s.say(kind, body)
		assert.Equal(t, machine.Proven, s.level("mains"), kind)
	}
	s := tell(t)
	s.out("off")
	s.dead()
	s.facts = append(s.facts, record.ReadKept(record.Event{ID: "x", By: "ana", Device: "tab-1", N: 9, Kind: "note", T: s.facts[1].T, Num: 9}))
	assert.Equal(t, machine.Shut, s.level("mains"), "what cannot be read may have been a restoring")
	assert.Contains(t, fmt.Sprint(s.snags()), "unreadable note")
}

func TestRefitsOutOfOrder(t *testing.T) {
	s := opened(t)
	s.back("cover-off")
	assert.Empty(t, s.snags())
	s.back("part-off")
	assert.Contains(t, s.snags(), "out-of-order part-off cover=away", "the cover shuts it in")
}

func TestOutNotKnowingOfTheBackAsks(t *testing.T) {
	s := opened(t)
	n := len(s.facts)
	s.back("part-off")
	s.as("bo", "tab-2").fact("rung.out", `{"move":"part-off"}`, n)
	assert.Equal(t, []string{"off-again part-off"}, s.snags())
	assert.NotContains(t, s.state().Standing, "part-off", "it opens no turn until that is answered")
	s.as("ana", "tab-1").out("part-off")
	assert.Contains(t, s.state().Standing, "part-off", "who had seen the back means it")
}

// Two who record the same Done confirm each other.
func TestTwoWhoPutItBackSayTheSame(t *testing.T) {
	s := opened(t)
	var out string
	for _, f := range s.facts {
		if string(f.Body) == `{"move":"part-off"}` {
			out = f.ID
		}
	}
	n := len(s.facts)
	s.say("rung.back", `{"move":"part-off","closes":["`+out+`"]}`)
	s.as("bo", "tab-2").fact("rung.back", `{"move":"part-off","closes":["`+out+`"]}`, n)
	assert.Empty(t, s.snags())
	s.as("bo", "tab-2").fact("rung.back", `{"move":"part-off"}`, n)
	assert.Empty(t, s.snags(), "though it names nothing, it had not seen the other")
	s.as("cy", "tab-3").fact("rung.back", `{"move":"part-off"}`, len(s.facts))
	assert.Equal(t, []string{"back-without-out part-off"}, s.snags(), "who had seen it put back puts back something else")
	s = opened(t)
	s.back("lamp-off")
	assert.Equal(t, []string{"back-without-out lamp-off"}, s.snags())
	s = opened(t)
	s.say("temporary.in", `{"name":"rag"}`)
	s.say("temporary.out", `{"name":"rag"}`)
	s.as("bo", "tab-2").fact("temporary.out", `{"name":"rag"}`, n)
	assert.Len(t, s.state().Temps, 1, "two who took it out say the same")
}

func TestCountsOfTwo(t *testing.T) {
	s := opened(t)
	s.say("lot.counted", `{"lot":"cover-off/1","side":"out","count":2}`)
	s.as("bo", "tab-2").say("lot.counted", `{"lot":"cover-off/1","side":"out","count":3}`)
	turn := s.state().OpenTurn("cover-off")
	n, known, differs := turn.Total("cover-off/1", 2, "out")
	assert.Equal(t, []any{2, true, true}, []any{n, known, differs}, "of two counts the lesser, and it is said")
	ids := []string{s.facts[len(s.facts)-2].ID, s.facts[len(s.facts)-1].ID}
	s.say("lot.counted", fmt.Sprintf(`{"lot":"cover-off/1","side":"out","count":3,"settles":[%q,%q]}`, ids[0], ids[1]))
	n, _, differs = s.state().OpenTurn("cover-off").Total("cover-off/1", 2, "out")
	assert.Equal(t, []any{3, false}, []any{n, differs})
}

func TestAPairIsFittedWhenBothAre(t *testing.T) {
	s := opened(t)
	s.say("goal.added", `{"goal":"replace:pair"}`)
	s.say("part.fitted", `{"part":"pair","piece":"part-l"}`)
	assert.True(t, s.state().Goals[0].Open, "one piece does not close the goal of a pair")
	s.say("part.fitted", `{"part":"pair","piece":"part-r"}`)
	assert.False(t, s.state().Goals[0].Open)
	s = opened(t)
	s.say("goal.added", `{"goal":"replace:pair"}`)
	s.back("part-off")
	assert.Equal(t, []string{"fitted-unsure pair part-l", "fitted-unsure pair part-r"}, s.snags())
}

func TestAnswersAgainstWhatWasDone(t *testing.T) {
	s := tell(t)
	s.out("lamp-off")
	s.say("option.answered", `{"option":"lamp","value":"none"}`)
	assert.Equal(t, []string{"option-contradicts lamp lamp-off"}, s.snags())
	assert.Contains(t, s.state().Standing, "lamp-off", "no duty is taken away")
	s.say("option.answered", `{"option":"lamp","value":"fitted"}`)
	assert.Empty(t, s.snags())
	s.say("option.answered", `{"option":"lamp","value":"two"}`)
	assert.Contains(t, s.snags(), "option-contradicts lamp", "an answer that the map has not")
	s = tell(t)
	s.say("option.answered", `{"option":"lamp","value":"none"}`)
	assert.Empty(t, s.snags())
	s.out("lamp-off")
	assert.Equal(t, []string{"option-contradicts lamp lamp-off"}, s.snags(), "also when it was made after the answer")
}

// A turn that was only counted is begun and not open: what is then confirmed of
// it finds nothing off.
func TestATurnThatIsOnlyBegun(t *testing.T) {
	s := opened(t)
	s.m.Move("earth-off").Fasteners = []machine.Lot{{Kind: "screw", Count: 1}}
	s.say("lot.counted", `{"lot":"earth-off/1","side":"back","count":1}`)
	turn := s.state().Turns[len(s.state().Turns)-1]
	require.Equal(t, "earth-off", turn.Move)
	assert.Equal(t, map[string]bool{"out": true}, turn.Half, "it has to go out before it can come back")
	s.say("lot.counted", `{"lot":"cover-off/1","side":"back","count":1}`)
	for _, turn := range s.state().Turns {
		if turn.Move == "cover-off" {
			assert.Equal(t, map[string]bool{"back": true}, turn.Half)
		}
	}
	id := s.say("wire.confirmed", `{"wire":"plug/1","on":"1"}`) // the plug was never out
	assert.Contains(t, s.snags(), "hangs "+id+" plug/1")
	s.out("plug-off")
	s.say("wire.confirmed", `{"wire":"plug/1","on":"1"}`)
	for _, turn := range s.state().Turns {
		if turn.Move == "plug-off" {
			assert.Contains(t, turn.Wires, "plug/1")
			assert.True(t, turn.Half["back"])
		}
	}
}

// Two who put a step back say the same only where the second had not seen the
// first, or names the out that it closes.
func TestABackThatHadSeenTheOther(t *testing.T) {
	for name, c := range map[string]struct {
		device, body string
		seen         func(total int) int
		asks         bool
	}{
		"another device, unseen": {"tab-2", `{"move":"part-off"}`, func(n int) int { return n - 1 }, false},
		"another device, seen":   {"tab-2", `{"move":"part-off"}`, func(n int) int { return n }, true},
		"the same device":        {"tab-1", `{"move":"part-off"}`, func(n int) int { return n - 1 }, true},
		"names another out":      {"tab-2", `{"move":"part-off","closes":["01a20000-0000-7000-8000-000000000001"]}`, func(n int) int { return n - 1 }, true},
	} {
		s := opened(t)
		s.back("part-off")
		n := len(s.facts)
		s.as("bo", c.device).fact("rung.back", c.body, c.seen(n))
		assert.Equal(t, c.asks, strings.Contains(fmt.Sprint(s.snags()), "back-without-out"), "%s: %v", name, s.snags())
	}
}

// A proof that comes late speaks for the last rung alone, not for what was made
// before it.
func TestAProofThatComesLate(t *testing.T) {
	s := tell(t)
	s.out("off")
	s.out("cock")
	s.tight()
	s.out("panel-off")
	s.out("cover-off")
	s.back("cover-off")
	s.dead()
	assert.Equal(t, []string{"guard-unmet cover-off mains", "guard-unmet cover-off mains late"}, s.snags())
}

func TestWhoIsHereAndWhatWasMissing(t *testing.T) {
	s := opened(t)
	s.say("person.here", `{"person":"ana"}`)
	s.say("person.here", `{"person":"bo"}`)
	s.say("person.here", `{"person":"bo"}`)
	assert.Equal(t, []string{"ana", "bo"}, s.state().Here)
	s.say("person.gone", `{"person":"ana"}`)
	assert.Equal(t, []string{"bo"}, s.state().Here)

	s = tell(t)
	id := s.say("found", `{"item":"part-l","level":"away","state":"missing"}`)
	st := s.state()
	assert.Empty(t, st.Turns, "nobody took it off")
	assert.Equal(t, machine.Away, st.Found["part-l"])
	require.Len(t, st.AsFound, 1)
	assert.Equal(t, id, st.AsFound[0].ID)
	assert.Equal(t, []string{"missing-part part-l missing"}, s.snags())
}

// Whoever takes back another's fact is named, and so is whose it was.
func TestWhatWasTakenBack(t *testing.T) {
	s := opened(t)
	note := s.say("note", `{"text":"x"}`)
	s.as("bo", "tab-2").say("note", `{"text":"y"}`)
	s.out("lamp-off")
	id := s.say("withdrawn", `{"event":"`+note+`"}`)
	st := s.state()
	require.Len(t, st.TakenBack, 1)
	assert.Equal(t, id, st.TakenBack[0].ID)
	assert.Equal(t, note, st.Withdrawn(note).ID)
}

func TestFactsOnWhatNobodyKnows(t *testing.T) {
	for kind, body := range map[string]string{
		"lot.counted": `{"lot":"cover-off/9","side":"out","count":2}`, "lot.settled": `{"lot":"hatch/1","as":"lost","count":1}`, "wire.said": `{"wire":"plug/9","colour":"red"}`,
		"wire.confirmed": `{"wire":"hatch/1","on":"1"}`, "check.result": `{"check":"nothing","passed":true}`, "final.result": `{"final":"nothing","passed":true}`,
	} {
		s := opened(t)
		s.say(kind, body)
		require.Len(t, s.snags(), 1, kind)
		assert.Contains(t, s.snags()[0], "loose-fact", kind)
		assert.Len(t, s.state().Facts, len(s.facts), "and it is kept")
	}
	s := opened(t)
	s.say("wire.said", `{"wire":"plug/1","colour":"red"}`)
	s.say("wire.said", `{"wire":"plug/plug","colour":"plug","tag":1}`)
	s.say("lot.counted", `{"lot":"cover-off/1","side":"out","count":2}`)
	assert.Empty(t, s.snags())
}

func TestPlacesThatNobodyElseFinds(t *testing.T) {
	for place, vague := range map[string]bool{
		"this side": true, "there": true, "that one": true, "the other side": true, "the same place": true, "on this end": true,
		"left side": false, "behind the brace": false, "tray C": false, "the other side of the drum": false, "": false, "side": false, "right": false,
	} {
		assert.Equal(t, vague, record.Vague(place), place)
	}
	s := opened(t)
	s.say("lot.settled", `{"lot":"cover-off/1","as":"dropped","count":1,"where":"there"}`)
	assert.Contains(t, fmt.Sprint(s.snags()), "vague-place")
	s = opened(t)
	s.say("left-over", `{"count":1,"where":"this side"}`)
	assert.Contains(t, fmt.Sprint(s.snags()), "vague-place")
}

// Whoever says so, or records what is only done there, is at the machine; a word
// from afar puts nobody there, and what an office records neither.
func TestWhoIsAtTheMachine(t *testing.T) {
	for kind, body := range map[string]string{
		"note": `{"text":"x"}`, "job.given": `{"to":["ana"]}`, "goal.added": `{"goal":"replace:kit"}`, "option.answered": `{"option":"side","value":"left"}`, "photo": `{"sha256":"` + strings.Repeat("0f", 32) + `"}`,
		"test.result": `{"test":"look","outcome":"worn","evidence":"told"}`, "stopped": `{"why":"gas smell"}`, "told": `{"emergency":"gas","name":"Gas","say":["Out."]}`, "visit.ended": `{}`,
	} {
		s := tell(t)
		s.say(kind, body)
		assert.Empty(t, s.state().Here, kind)
	}
	for kind, body := range map[string]string{
		"visit.began": `{}`, "took-over": `{}`, "rung.out": `{"move":"cover-off"}`, "rung.half": `{"move":"cover-off","side":"out"}`, "test.result": `{"test":"look","outcome":"worn","evidence":"seen"}`, "found": `{"move":"cover-off","by":"customer"}`,
		"lot.counted": `{"lot":"cover-off/1","side":"out","count":2}`, "confirmed": `{"confirm":"cover-off/confirm/1"}`, "person.here": `{"person":"ana"}`, "reading.taken": `{"test":"look","value":"1 ohm"}`,
	} {
		s := tell(t)
		s.say("left", `{}`)
		s.say("job.called-off", `{"reason":"made twice"}`)
		require.NotNil(t, s.state().Off)
		s.say(kind, body)
		st := s.state()
		assert.Equal(t, []string{"ana"}, st.Here, kind)
		assert.Nil(t, st.Left, kind)
		assert.Nil(t, st.Off, "who works on it opens it again: "+kind)
		s.company.Office = func(person string) bool { return person == "ana" }
		st = s.state()
		assert.Empty(t, st.Here, "at a desk: "+kind)
		assert.NotNil(t, st.Left, kind)
	}
	for kind, may := range map[string]bool{"note": true, "job.given": true, "job.called-off": true, "withdrawn": true, "rung.out": false, "signed-off": false, "stop.lifted": false, "visit.began": false, "snag.explained": false} {
		assert.Equal(t, may, record.FromADesk(kind), kind)
	}
	s := tell(t)
	s.say("job.given", `{"to":["jo"]}`)
	last := s.say("job.given", `{"to":["bo"]}`)
	assert.Equal(t, last, s.state().Given.ID, "the last counts")
}

// A fact is taken back by who recorded it, who worked on the job, or a supervisor.
func TestWhoMayTakeAFactBack(t *testing.T) {
	s := opened(t)
	s.company.Supervisor = func(person string, _ time.Time) bool { return person == "mira" }
	signed := s.say("signed-off", `{}`)
	s.as("stranger", "tab-9").say("withdrawn", `{"event":"`+signed+`"}`)
	assert.NotNil(t, s.state().SignedBy, "somebody who was never there does not")
	assert.Equal(t, []string{"withdrawal-void " + signed}, s.snags())
	s.as("mira", "tab-8").say("withdrawn", `{"event":"`+signed+`"}`)
	assert.Nil(t, s.state().SignedBy, "a supervisor does")
	assert.Len(t, s.state().TakenBack, 1, "and it is shown")

	s = opened(t)
	s.as("bo", "tab-2").say("visit.began", `{}`)
	s.as("bo", "tab-2").say("withdrawn", `{"event":"`+s.facts[6].ID+`"}`)
	assert.NotContains(t, s.state().Standing, "part-off", "who works along does")
	s = opened(t)
	s.say("person.here", `{"person":"bo"}`)
	s.as("bo", "tab-2").say("withdrawn", `{"event":"`+s.facts[6].ID+`"}`)
	assert.NotContains(t, s.state().Standing, "part-off")
	s = opened(t)
	s.as("bo", "tab-2").say("note", `{"text":"x"}`)
	s.as("bo", "tab-2").say("withdrawn", `{"event":"`+s.facts[6].ID+`"}`)
	assert.Contains(t, s.state().Standing, "part-off", "a note is no work")
	assert.Contains(t, s.state().Standing, "dead")
	s = opened(t)
	s.company.Office = func(person string) bool { return person == "pell" }
	s.as("pell", "desk").say("option.answered", `{"option":"side","value":"left"}`)
	s.as("pell", "desk").say("job.given", `{"to":["bo"]}`)
	s.as("pell", "desk").say("withdrawn", `{"event":"`+s.facts[6].ID+`"}`)
	assert.Contains(t, s.state().Standing, "part-off", "nor is anything at a desk")
	s = tell(t)
	off := s.say("job.called-off", `{"reason":"made twice"}`)
	s.as("bo", "tab-2").say("withdrawn", `{"event":"`+off+`"}`)
	assert.Nil(t, s.state().Off, "anybody takes a job up again")

	// Towards danger it always counts: a proof that somebody took back is none.
	s = opened(t)
	proof := s.facts[1].ID
	s.as("stranger", "tab-9").say("withdrawn", `{"event":"`+proof+`"}`)
	assert.Equal(t, machine.Shut, s.level("mains"))
	assert.Contains(t, s.state().Said["dead"], "took this test back")
}

func TestFactsFromFarBefore(t *testing.T) {
	s := tell(t)
	s.out("off")
	s.say("rung.half", `{"move":"panel-off","side":"out"}`)
	late := nine.Add(80 * time.Hour)
	s.facts[0].Received, s.facts[1].Received = &late, &late
	require.Len(t, s.snags(), 1, "once a day and person")
	assert.Equal(t, "far-off ana 2026-11-25 2026-11-28", s.snags()[0])
	near := nine.Add(70 * time.Hour)
	s.facts[0].Received, s.facts[1].Received = &near, &near
	assert.Empty(t, s.snags())

	s = tell(t)
	s.out("off")
	s.as("ana", "tab-2").say("paused", `{}`)
	s.as("bo", "tab-2").say("paused", `{}`)
	next := nine.Add(24 * time.Hour)
	s.say("resumed", `{}`)
	s.facts[3].T = &next
	for i := range s.facts {
		late := s.facts[i].T.Add(72 * time.Hour)
		s.facts[i].Received = &late
	}
	assert.Equal(t, []string{"far-off ana 2026-11-25 2026-11-28", "far-off ana 2026-11-25 2026-11-28", "far-off bo 2026-11-25 2026-11-28", "far-off bo 2026-11-26 2026-11-29"},
		s.snags(), "of each device, person and day; from three days on")
}

// A drive that was found other than the map says is so for this job alone.
func TestADriveFoundOther(t *testing.T) {
	s := opened(t)
	for _, d := range []string{
		`{"on":"cover-off/1","says":"hex","is":"torx","drive":"torx","size":"15"}`, `{"on":"cover-off/1","says":"hex","is":"torx","drive":"torx","size":"20"}`,
		`{"on":"panel-off/1","says":"4","is":"3"}`, `{"on":"panel-off/2","says":"4","is":"torx","drive":"torx"}`, `{"on":"panel-off/0","says":"4","is":"torx","drive":"torx"}`,
		`{"on":"panel-off","says":"4","is":"torx","drive":"torx"}`, `{"on":"hatch/1","says":"4","is":"torx","drive":"torx"}`,
	} {
		s.say("difference", d)
	}
	m := s.state().Map
	assert.Equal(t, []machine.Lot{{Kind: "cover-off/1", Count: 2}}, m.Move("cover-off").Fasteners)
	assert.Equal(t, []machine.Lot{{Kind: "screw", Count: 4}}, m.Move("panel-off").Fasteners)
	assert.Equal(t, []machine.Fastener{{ID: "screw", Name: "Screw", Drive: "hex", Size: "1/4 in"}, {ID: "cover-off/1", Name: "torx 20", Drive: "torx", Size: "20"}}, m.Fasteners,
		"the last that was said counts, and what names no lot changes nothing")
	assert.Equal(t, []machine.Lot{{Kind: "screw", Count: 2}}, s.m.Move("cover-off").Fasteners, "the library's map stays as it is")
}

// A stop is settled by another person's own look, a lesser snag is not.
func TestWhoSettlesAStop(t *testing.T) {
	s := tell(t)
	s.out("off")
	s.out("cock")
	s.out("panel-off")
	s.tight()
	s.out("cover-off")
	id := s.state().Raised[0].ID()
	s.say("inspected", `{"snag":"`+id+`","finding":"fine"}`)
	assert.NotEmpty(t, s.snags(), "not by who raised it")
	s.as("bo", "tab-2").say("inspected", `{"snag":"`+id+`","finding":"fine"}`)
	assert.Empty(t, s.snags())
	s = opened(t)
	s.back("lamp-off")
	s.as("bo", "tab-2").say("inspected", `{"snag":"`+s.state().Raised[0].ID()+`","finding":"fine"}`)
	assert.NotEmpty(t, s.snags(), "a count is settled by its fact or a reason")
}

// A meter's category is known from the company's list, or asked once on the job.
func TestAMeterIsAskedForOnce(t *testing.T) {
	with := func(category string) string {
		return `{"move":"dead","proof":{"way":"meter","meter":"7","category":"` + category + `","before":"230 V","after":"230 V","readings":[{"between":["L","N"],"value":"0 V"},{"between":["L","PE"],"value":"0 V"},{"between":["N","PE"],"value":"0 V"}]}}`
	}
	s := tell(t)
	s.out("off")
	s.say("rung.out", with(""))
	assert.Contains(t, s.state().Proofs["mains"].Note, "category is not known")
	s.say("left", `{}`)
	s.say("rung.out", with("CAT III 600 V"))
	assert.Empty(t, s.state().Proofs["mains"].Note)
	s.say("left", `{}`)
	s.say("rung.out", with(""))
	assert.Empty(t, s.state().Proofs["mains"].Note, "it was read off once")
	assert.Equal(t, machine.Proven, s.level("mains"))
	s = tell(t)
	s.company.Meter = func(id string, at time.Time) energy.Rating { return energy.Rating{Category: 2, Volts: 600} }
	s.out("off")
	s.say("rung.out", with("CAT III 600 V"))
	assert.Equal(t, machine.Shut, s.level("mains"), "the list counts")
}

// What is told stands in the state, the last word of each.
func TestWhatWasToldStandsInTheState(t *testing.T) {
	s := opened(t)
	two := func(kind, first, second string) (string, string) { return s.say(kind, first), s.say(kind, second) }
	_, old := two("old-part", `{"part":"pair","to":"customer"}`, `{"part":"pair","to":"scrap"}`)
	_, read := two("reading.taken", `{"test":"through","value":"1 ohm"}`, `{"test":"through","value":"2 ohm"}`)
	_, result := two("test.result", `{"test":"through","outcome":"open"}`, `{"test":"through","outcome":"sound"}`)
	_, cause := two("cause.answered", `{"fault":"f","cause":"c","answer":"yes"}`, `{"fault":"f","cause":"c","answer":"no"}`)
	_, decided := two("decided", `{"choice":"leave"}`, `{"choice":"repair"}`)
	_, recorded := two("recorded", `{"record":"cover-off/a","value":"1"}`, `{"record":"cover-off/a","value":"2"}`)
	noted, note2 := two("note", `{"text":"a"}`, `{"text":"b"}`)
	used, used2 := two("used", `{"what":"ties","count":1}`, `{"what":"ties","count":2}`)
	over, over2 := two("left-over", `{"count":1}`, `{"count":1}`)
	differs, differs2 := two("difference", `{"on":"cover-off","is":"x"}`, `{"on":"cover-off","is":"y"}`)
	photo, photo2 := two("photo", `{"sha256":"`+strings.Repeat("0", 64)+`"}`, `{"sha256":"`+strings.Repeat("1", 64)+`"}`)
	said, said2 := two("wire.said", `{"wire":"plug/1","colour":"red"}`, `{"wire":"plug/1","colour":"blue"}`)
	moved, moved2 := two("lead.moved", `{"from":"plug/1","to":"plug/2"}`, `{"from":"plug/2","to":"plug/1"}`)
	thing, thing2 := two("belonging", `{"what":"coins","to":"customer"}`, `{"what":"ring","to":"customer"}`)
	two("bench.has", `{"trays":6,"drivers":["hex 1/4 in"]}`, `{"trays":4}`)

	st := s.state()
	assert.Equal(t, []string{old, read, result, cause, decided, recorded},
		[]string{st.OldParts["pair"].ID, st.Readings["through"].ID, st.Results["through"].ID, st.Causes["f/c"].ID, st.Decided.ID, st.Records["cover-off/a"].ID}, "the last word")
	ids := func(list []*record.Fact) (out []string) {
		for _, f := range list {
			out = append(out, f.ID)
		}
		return out
	}
	for name, c := range map[string]struct {
		got  []*record.Fact
		want []string
	}{
		"notes": {st.Notes, []string{noted, note2}}, "used": {st.Used, []string{used, used2}}, "left over": {st.LeftOver, []string{over, over2}},
		"differences": {st.Differs, []string{differs, differs2}}, "photos": {st.Photos, []string{photo, photo2}}, "leads": {st.Leads, []string{moved, moved2}},
		"wires": {st.Wires["plug/1"], []string{said, said2}}, "belongings": {st.Belongings, []string{thing, thing2}},
	} {
		assert.Equal(t, c.want, ids(c.got), name)
	}
	assert.Equal(t, 4, *st.Bench.Trays)
	assert.Equal(t, []string{"hex 1/4 in"}, st.Bench.Drivers, "what was not spoken of stays")
}

// Where the last step ended is where the next begins: its side, its pose, and
// what is in the hand.
func TestWhereTheLastStepEnded(t *testing.T) {
	s := tell(t)
	cover, leak := s.m.Move("cover-off"), s.m.Check("leak")
	cover.Face, cover.Pose, cover.Tools = "rear", "on-back", []string{"nut driver"}
	leak.Face, leak.Pose, leak.Tools = "rear", "on-back", []string{"leak detector"}
	s.out("off")
	s.dead()
	s.out("panel-off")
	s.out("cover-off")
	st := s.state()
	assert.Equal(t, plan.Place{Face: "rear", Pose: "on-back", Tools: []string{"nut driver"}}, *st.At)
	assert.False(t, st.Returning)
	s.back("cover-off")
	s.say("check.result", `{"check":"leak","passed":true}`)
	st = s.state()
	assert.Equal(t, plan.Place{Face: "rear", Pose: "on-back", Tools: []string{"leak detector", "nut driver"}}, *st.At, "on the way back the tools of one place stay in the hand")
	assert.True(t, st.Returning)
}

// A flame that was seen burning as the gas was shut counts while it is shut.
func TestAFlameSeenAsTheGasWasShut(t *testing.T) {
	s := tell(t)
	s.say("rung.out", `{"move":"off","proof":{"way":"burn-off","flame":"seen"}}`)
	assert.False(t, s.state().FlameSeen("gas"), "at the mains nothing was seen of gas")
	s.say("rung.out", `{"move":"cock","proof":{"way":"burn-off","flame":"seen"}}`)
	assert.True(t, s.state().FlameSeen("gas"))
	s.back("cock")
	assert.False(t, s.state().FlameSeen("gas"), "it is open again")
	s.out("cock")
	assert.False(t, s.state().FlameSeen("gas"), "nobody looked this time")
}

// Each place that names nothing is asked about, wherever it is written.
func TestEveryPlaceIsAsked(t *testing.T) {
	for kind, body := range map[string]string{
		"wire.said": `{"wire":"plug/1","colour":"red","route":"this side"}`, "lead.moved": `{"from":"plug/1","to":"over there"}`, "belonging": `{"what":"coins","where":"this side"}`,
	} {
		s := opened(t)
		s.say(kind, body)
		assert.Contains(t, fmt.Sprint(s.snags()), "vague-place", kind)
	}
}

// What is signed is signed for what stood then: what settles something or takes
// it back needs a new signature; a note does not.
func TestWhatNeedsSigningAgain(t *testing.T) {
	for kind, c := range map[string]struct {
		body   string
		signed bool
	}{
		"note": {`{"text":"x"}`, true}, "snag.explained": {`{"snag":"x","reason":"y"}`, false}, "inspected": {`{"snag":"x","finding":"y"}`, false}, "paused": {`{}`, false},
	} {
		s := tell(t)
		s.say("signed-off", `{}`)
		require.NotNil(t, s.state().SignedBy)
		s.say(kind, c.body)
		assert.Equal(t, c.signed, s.state().SignedBy != nil, kind)
	}
	s := tell(t)
	note := s.say("note", `{"text":"x"}`)
	s.say("signed-off", `{}`)
	s.as("never", "tab-9").say("withdrawn", `{"event":"`+note+`"}`)
	assert.NotNil(t, s.state().SignedBy, "one who may not takes nothing back")
	s.as("ana", "tab-1").say("withdrawn", `{"event":"`+note+`"}`)
	assert.Nil(t, s.state().SignedBy)
}

// What a newer version recorded is shown, and what was recorded of a rung begins it.
func TestNewerKindsAndRecordsOfARung(t *testing.T) {
	s := opened(t)
	s.say("robot.helped", `{"arm":2}`)
	assert.Contains(t, s.snags(), "newer-kind robot.helped")
	s = opened(t)
	s.say("recorded", `{"record":"earth-off/slack","value":"1"}`)
	s.say("recorded", `{"record":"cover-off/slack","value":"1"}`)
	for _, turn := range s.state().Turns {
		assert.Equal(t, turn.Move == "earth-off", turn.Half["out"], turn.Move)
	}
}

// Two answers stand beside each other; the later one of an option counts, and a
// contradiction is raised once.
func TestAnswersBesideEachOther(t *testing.T) {
	s := tell(t)
	s.m.Options = append(s.m.Options, machine.Option{ID: "fuel", Ask: "Fuel?", Values: []string{"gas", "none"}, Usual: "gas"})
	s.m.Move("lamp-off").When = machine.When{"lamp": {"fitted"}, "fuel": {"gas"}}
	s.out("lamp-off")
	s.say("option.answered", `{"option":"lamp","value":"none"}`)
	s.say("option.answered", `{"option":"fuel","value":"none"}`)
	assert.ElementsMatch(t, []string{"option-contradicts lamp lamp-off", "option-contradicts fuel lamp-off"}, s.snags())
	s.back("lamp-off")
	s.out("lamp-off")
	assert.Len(t, s.snags(), 2, "of each rung and option once")
	s.say("lot.counted", `{"lot":"panel-off/1","side":"out","count":4}`)
	assert.Len(t, s.snags(), 2)
}

// A lot of a rung that an answer hid is known all the same.
func TestALotThatAnAnswerHid(t *testing.T) {
	s := tell(t)
	s.m.Move("lamp-off").Fasteners = []machine.Lot{{Kind: "screw", Count: 1}}
	s.say("option.answered", `{"option":"lamp","value":"none"}`)
	s.say("lot.counted", `{"lot":"lamp-off/1","side":"out","count":1,"tray":"B"}`)
	for _, snag := range s.snags() {
		assert.NotContains(t, snag, "loose-fact")
	}
}

// A goal of an item is reached by the first state that has it so.
func TestAGoalOfAnItem(t *testing.T) {
	s := tell(t)
	s.say("goal.added", `{"goal":"item:panel=away"}`)
	s.out("off")
	assert.True(t, s.state().Goals[0].Open)
	id := s.out("panel-off")
	s.out("lamp-off")
	goal := s.state().Goals[0]
	assert.False(t, goal.Open)
	assert.Equal(t, id, goal.Closed.ID)
	s.back("panel-off")
	assert.False(t, s.state().Goals[0].Open, "it was reached")
}

// Isolating takes the fact that set an energy live away; another rung does not.
func TestWhatEndsSetLive(t *testing.T) {
	s := opened(t)
	s.say("check.result", `{"check":"turn","passed":true}`)
	require.NotNil(t, s.state().SetLive["mains"])
	s.out("earth-off")
	s.back("earth-off")
	assert.NotNil(t, s.state().SetLive["mains"])
	s.back("off")
	assert.Nil(t, s.state().SetLive["mains"], "it is live by the record again")
	s.out("off")
	assert.Equal(t, machine.Shut, s.level("mains"))
}

// Shut on one device while another, that had not seen it, restored it: it counts
// as live, and so it is said.
func TestRestoredMeanwhile(t *testing.T) {
	for name, c := range map[string]struct {
		device           string
		restored, closed int // how much each had seen
		said             bool
	}{
		"neither saw the other": {"tab-2", 0, 0, true},
		"the same device":       {"tab-1", 0, 0, false},
		"seen by the second":    {"tab-2", 0, 1, false},
	} {
		s := tell(t)
		s.as("bo", c.device).fact("energy.restored", `{"energy":"mains","how":"x"}`, c.restored)
		s.as("ana", "tab-1").fact("rung.out", `{"move":"off"}`, c.closed)
		st := s.state()
		assert.Equal(t, c.said, st.Said["off"] != "", name)
		assert.Equal(t, c.said, s.level("mains") == machine.Live, name)
	}
}

// A proof ends when what it stands on is undone.
func TestAProofEndsWithWhatItStandsOn(t *testing.T) {
	s := opened(t)
	id := s.back("off")
	st := s.state()
	require.NotNil(t, st.Proofs["mains"].Ended)
	assert.Equal(t, id, st.Proofs["mains"].Ended.ID)
	assert.False(t, st.Proofs["mains"].Stands)
	assert.True(t, st.Proofs["gas"].Stands)
}

// What an earth read stands with the turn that parted it.
func TestAnEarthIsReadOfItsTurn(t *testing.T) {
	s := opened(t)
	s.say("lot.counted", `{"lot":"cover-off/1","side":"back","count":1}`)
	id := s.say("reading.taken", `{"test":"earth:earth","value":"0.1 ohm"}`)
	assert.Contains(t, s.snags(), "hangs "+id+" earth", "it was never parted")
	s.say("rung.half", `{"move":"earth-off","side":"out"}`)
	id = s.say("reading.taken", `{"test":"earth:earth","value":"0.1 ohm"}`)
	assert.Contains(t, s.snags(), "hangs "+id+" earth", "half is not parted")
	s.out("earth-off")
	id = s.say("reading.taken", `{"test":"earth:earth","value":"0.1 ohm"}`)
	turns := s.state().Turns
	assert.Equal(t, id, turns[len(turns)-1].Earths["earth"].ID)
	for _, turn := range turns[:len(turns)-1] {
		assert.Empty(t, turn.Earths, turn.Move)
	}
}

// Those that are astray are what was dropped, lost or swapped, less what came back.
func TestAstray(t *testing.T) {
	s := opened(t)
	settle := func(as string, n int) {
		s.say("lot.settled", fmt.Sprintf(`{"lot":"cover-off/1","as":%q,"count":%d,"where":"tray C"}`, as, n))
	}
	astray := func() int {
		for _, turn := range s.state().Turns {
			if turn.Move == "cover-off" {
				return turn.Astray("cover-off/1")
			}
		}
		return -1
	}
	settle("dropped", 2)
	assert.Equal(t, 2, astray())
	settle("found", 1)
	assert.Equal(t, 1, astray())
	settle("replaced", 1)
	assert.Equal(t, 0, astray())
	settle("found", 1)
	assert.Equal(t, 0, astray(), "never fewer than none")
	settle("swapped", 2)
	settle("over", 5)
	assert.Equal(t, 1, astray())
}

// The tray is where the lot lay as it came off.
func TestTheTrayOfALot(t *testing.T) {
	s := opened(t)
	s.say("lot.counted", `{"lot":"cover-off/1","side":"out","count":2,"tray":"C"}`)
	s.say("lot.counted", `{"lot":"cover-off/1","side":"back","count":2,"tray":"D"}`)
	s.say("lot.counted", `{"lot":"cover-off/1","side":"out","count":2}`)
	for _, turn := range s.state().Turns {
		if turn.Move == "cover-off" {
			assert.Equal(t, map[string]string{"cover-off/1": "C"}, turn.Trays)
		}
	}
}

// A thing put in is known by the name that the map gives it.
func TestTheNameOfATemporary(t *testing.T) {
	s := opened(t)
	s.m.Move("cover-off").PutsIn = []machine.Temporary{{ID: "rag", Name: "Rag in the lint duct"}, {ID: "strap", Name: "Strap round the drum"}}
	s.say("temporary.in", `{"temporary":"rag"}`)
	s.say("temporary.in", `{"name":"cord on the lid"}`)
	s.say("temporary.in", `{"temporary":"prop"}`)
	var names []string
	for _, temp := range s.state().Temps {
		names = append(names, temp.Name)
	}
	assert.Equal(t, []string{"Rag in the lint duct", "cord on the lid", "prop"}, names)
}

// Folding the same map again with other answers is not the fold of before.
func TestAFoldThatRemembers(t *testing.T) {
	s := tell(t)
	folds := &record.Folds{}
	count := func() int { return len(folds.Fold(s.m, record.Order(s.facts)).Map.Moves) }
	whole := count()
	s.say("option.answered", `{"option":"lamp","value":"none"}`)
	assert.Equal(t, whole-1, count())
	assert.Equal(t, whole-1, count())
	s.out("lamp-off")
	assert.Equal(t, whole, count(), "what was touched is there, whatever was answered")
	s.m = bench()
	s.m.Moves = s.m.Moves[:len(s.m.Moves)-2]
	assert.Equal(t, whole-2, count(), "another map")
}

// A goal that is dropped says by which fact and why; a second dropping changes nothing.
func TestAGoalThatIsDropped(t *testing.T) {
	s := tell(t)
	s.say("goal.added", `{"goal":"replace:pair"}`)
	id := s.say("goal.dropped", `{"goal":"replace:pair","reason":"declined"}`)
	s.say("goal.dropped", `{"goal":"replace:pair","reason":"waiting"}`)
	goal := s.state().Goals[0]
	assert.False(t, goal.Open)
	assert.Equal(t, "declined", goal.Reason)
	assert.Equal(t, id, goal.Closed.ID)
}

// A rung that another revision of the map no longer has comes back all the same,
// and what the map says of the others stays.
func TestARungThatTheMapNoLongerHasComesBack(t *testing.T) {
	s := opened(t)
	s.say("rung.out", `{"move":"bracket-off"}`)
	assert.Contains(t, s.state().Standing, "bracket-off")
	at := *s.state().At
	s.back("bracket-off")
	assert.NotContains(t, s.state().Standing, "bracket-off")
	assert.Contains(t, s.state().Standing, "cover-off")
	assert.Equal(t, at, *s.state().At, "nobody knows where that was")
	assert.NotNil(t, s.state().Proofs["mains"])
}

// A step of which nobody said the face is at the front.
func TestAStepWithoutAFaceIsAtTheFront(t *testing.T) {
	s := tell(t)
	s.m.Move("lamp-off").Face = ""
	s.out("lamp-off")
	s.back("lamp-off")
	assert.Equal(t, "front", s.state().At.Face)
}
