package job_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/job"
	"evensteps/core/lead"
	"evensteps/core/machine"
	"evensteps/core/machine/lint"
	"evensteps/core/machine/mapfile"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/snags"
	"evensteps/core/steps"
	"evensteps/core/view"
	"evensteps/demo"
	"evensteps/library"
)

func make1(kind string, body any) view.Make {
	raw, err := json.Marshal(body)
	if err != nil {
		panic(err)
	}
	return view.Make{Kind: kind, Body: raw}
}

// do records what a touch makes.
func do(t testing.TB, p *demo.Player, makes []view.Make) {
	t.Helper()
	for _, m := range makes {
		require.NoError(t, p.Record(m.Kind, m.Body))
	}
}

func touch(t testing.TB, s snags.Snag, label string) []view.Make {
	t.Helper()
	for _, one := range s.Touches {
		if strings.HasPrefix(one.Label, label) {
			return one.Makes
		}
	}
	require.Failf(t, "no such touch", "%s", label)
	return nil
}

func trayOf(t testing.TB, v *job.View, lot string) string {
	t.Helper()
	for _, tray := range v.Trays {
		for _, l := range tray.Lots {
			if l.Lot == lot {
				return tray.Tray
			}
		}
	}
	return ""
}

// What was put into a tray stays in it, whatever is said later of trays.
func TestWhatLiesInATrayStaysThere(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "front-off")
	was := trayOf(t, p.View(), "toe-off/1")
	require.NotEmpty(t, was)
	two := 2
	require.NoError(t, p.Record("bench.has", record.BenchHas{Trays: &two, Drivers: []string{"hex 7 mm", "phillips 2"}}))
	v := p.View()
	assert.Equal(t, was, trayOf(t, v, "toe-off/1"))
	side := rung(t, v, "front-off").OutSide
	assert.Equal(t, "none of yours fits", side.Lots[0].Fit, "7 mm does not go on 1/4 in")
	assert.Equal(t, "your phillips 2 fits", side.Lots[1].Fit)

	zero := 0
	require.NoError(t, p.Record("bench.has", record.BenchHas{Trays: &zero}))
	v = p.View()
	assert.Equal(t, was, trayOf(t, v, "toe-off/1"), "what lies somewhere lies there")
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	assert.True(t, p.View().Even, irregular(p.View()))
}

// Without a tray everything goes into bags with their labels.
func TestNoTrayAtAll(t *testing.T) {
	p := begin(t)
	zero := 0
	require.NoError(t, p.Record("bench.has", record.BenchHas{Trays: &zero}))
	v := until(t, p, "out", "front-off")
	assert.Empty(t, v.Trays)
	front := rung(t, v, "front-off").OutSide
	assert.Equal(t, "4 screws, hex 1/4 in, 1 in long. Home: Front", front.Lots[0].Bag)
	assert.Equal(t, "4 screws to count into a bag", front.Done.Open[0])
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	assert.True(t, p.View().Even, irregular(p.View()))
}

// One dropped is a snag at once; found again it is settled, and the way to where
// it may lie can be planned.
func TestADroppedScrewIsFoundAgain(t *testing.T) {
	p := begin(t)
	v := until(t, p, "out", "front-off")
	lot := rung(t, v, "front-off").OutSide.Lots[0]
	require.Equal(t, "One dropped", lot.Or[0].Label)
	do(t, p, lot.Or[0].Makes)
	until(t, p, "out", "belt-slack-front")
	v = p.View()
	s := snag(t, v, "fastener-unsettled")
	assert.Equal(t, "Front, hex 1/4 in, 1 in long: 1 screw dropped.", s.Say)
	for _, tray := range v.Trays {
		for _, l := range tray.Lots {
			if l.Lot == "front-off/1" {
				assert.Equal(t, 3, l.Count, "three lie in the tray")
			}
		}
	}
	do(t, p, touch(t, s, "Found again"))
	assert.NotContains(t, irregular(p.View()), "fastener-unsettled")
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	assert.True(t, p.View().Even, irregular(p.View()))

	p = begin(t)
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:cycling-stat"}))
	v = p.View()
	for _, r := range v.Rungs {
		if r.OutSide == nil {
			continue
		}
		for _, l := range r.OutSide.Lots {
			if l.Drops == "" {
				continue
			}
			assert.Equal(t, "A dropped one is lost in the lint duct cover.", l.Drops)
			assert.True(t, l.MustCount)
			do(t, p, l.Or[0].Makes)
			s := snag(t, p.View(), "fastener-unsettled")
			assert.Contains(t, s.Say, "perhaps into the lint duct cover")
			do(t, p, touch(t, s, "Plan the way to it"))
			assert.Contains(t, p.View().Plan.WayIn, "duct-off")
			return
		}
	}
	t.Fatal("no lot of this machine drops into anything")
}

func TestSwappedReplacedAndLost(t *testing.T) {
	p := begin(t)
	until(t, p, "back", "front-off")
	v := p.View()
	lot := rung(t, v, "front-off").Home.Lots[0]
	var swapped []view.Make
	for _, c := range lot.Or {
		if c.Label == "Used in another hole" {
			swapped = c.Makes
		}
	}
	do(t, p, swapped)
	s := snag(t, p.View(), "fastener-unsettled")
	assert.Contains(t, s.Say, "in another place")
	do(t, p, touch(t, s, "Put right"))
	assert.NotContains(t, irregular(p.View()), "fastener-unsettled")
	require.NoError(t, p.Record("lot.settled", record.LotSettled{Lot: "front-off/1", As: "lost", Count: 1, Where: "under the floor"}))
	s = snag(t, p.View(), "fastener-unsettled")
	assert.Contains(t, s.Say, "under the floor")
	do(t, p, touch(t, s, "New screw fitted"))
	assert.NotContains(t, irregular(p.View()), "fastener-unsettled")
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	assert.True(t, p.View().Even, irregular(p.View()))
}

func card(t testing.TB, plugs []steps.Plug, item string) steps.Plug {
	t.Helper()
	for _, p := range plugs {
		if p.Item == item {
			return p
		}
	}
	require.Failf(t, "no such card", "%s", item)
	return steps.Plug{}
}

// Two leads alike are tagged before they come off, and confirmed on the way back
// by their terminals; a lead that is called two ways is settled first.
func TestAWireCardBothWays(t *testing.T) {
	p := begin(t)
	v := until(t, p, "out", "sensor-apart")
	c := card(t, rung(t, v, v.Current.Move).OutSide.Plugs, "sensor-plug")
	assert.Equal(t, lead.Tag, c.Rule)
	assert.Equal(t, []int{1, 2}, []int{c.Wires[0].Tag, c.Wires[1].Tag})
	assert.True(t, c.Open)
	do(t, p, []view.Make{*c.Wires[0].Tick})
	side := rung(t, p.View(), v.Current.Move).OutSide
	assert.Equal(t, []string{"tag 2 on damp sensor leads, right terminal"}, side.Done.Open)

	// Ilse calls the left one brown; she has not seen what Jonna said.
	require.NoError(t, p.Record("wire.said", record.WireSaid{Wire: "sensor-plug/right", Colour: "orange", Tag: 2}))
	other := *p
	other.By, other.Device = "ilse", "tab-2"
	require.NoError(t, other.Record("wire.said", record.WireSaid{Wire: "sensor-plug/left", Colour: "brown"}))
	v = other.View()
	c = card(t, rung(t, v, v.Current.Move).OutSide.Plugs, "sensor-plug")
	assert.Equal(t, []string{"Two colours were said for left terminal: look at it and settle."}, c.Warn)
	assert.True(t, c.Wires[0].Ticked, "its tag hangs, whatever the colour")
	s := snag(t, v, "wire-differs")
	do(t, &other, touch(t, s, "It is orange"))
	assert.NotContains(t, irregular(other.View()), "wire-differs")
	*p = other
	p.By, p.Device = "jonna", "tab-1"

	v = until(t, p, "back", "sensor-apart")
	c = card(t, rung(t, v, v.Current.Move).Home.Plugs, "sensor-plug")
	require.NoError(t, p.Record("wire.confirmed", record.WireConfirmed{Wire: "sensor-plug/left", On: "right", Tug: true}))
	assert.False(t, card(t, rung(t, p.View(), v.Current.Move).Home.Plugs, "sensor-plug").Wires[0].Confirmed)
	require.NoError(t, p.Record("rung.back", record.RungBack{Move: v.Current.Move}))
	s = snag(t, p.View(), "wire-mismatch")
	assert.Contains(t, s.Say, "on terminal right, came off left")
	do(t, p, s.Touches[0].Makes)
	s = snag(t, p.View(), "wire-unconfirmed")
	do(t, p, touch(t, s, "On and tugged"))
	assert.NotContains(t, irregular(p.View()), "wire-mismatch")
	assert.NotContains(t, irregular(p.View()), "wire-unconfirmed")
}

// A part that looks different is wired lead by lead: each is on its new terminal
// before the next comes off, and there it is confirmed on the way back.
func TestASubstituteIsWiredLeadByLead(t *testing.T) {
	p := begin(t)
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:timer"}))
	v := until(t, p, "out", "timer-leads-off")
	c := card(t, rung(t, v, "timer-leads-off").OutSide.Plugs, "timer-leads")
	assert.Equal(t, "programme switch", c.OneByOne)
	for i, w := range c.Wires {
		require.Equal(t, "lead.moved", w.Tick.Kind)
		require.NoError(t, p.Record("lead.moved", record.LeadMoved{From: w.Wire, To: fmt.Sprintf("P%d", i+1), Proof: "the diagram"}))
	}
	v = p.View()
	assert.Empty(t, rung(t, v, "timer-leads-off").OutSide.Done.Open)
	v = until(t, p, "back", "timer-leads-off")
	c = card(t, rung(t, v, "timer-leads-off").Home.Plugs, "timer-leads")
	assert.Equal(t, "P1", c.Wires[0].Moved)
	assert.Equal(t, "the diagram", c.Wires[0].Proof)
	assert.Contains(t, string(c.Wires[0].Confirm.Body), `"on":"P1"`)
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	assert.True(t, p.View().Even, irregular(p.View()))
}

// Ten leads of one colour each get a tag of their own number.
func TestTenLeadsOfOneColour(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "toe-off")
	own := record.RungOwn{ID: "own-1", Title: "Unknown plug", Face: "front", Before: []string{"front-off"}, Type: "connector"}
	for i := range 10 {
		own.Wires = append(own.Wires, record.OwnWire{Terminal: fmt.Sprint(i + 1), Colour: "red"})
	}
	own.Wires = append(own.Wires, record.OwnWire{Terminal: "11"}) // a wire without a colour
	require.NoError(t, p.Record("rung.own", own))
	c := card(t, rung(t, p.View(), "own-1").OutSide.Plugs, "own-1")
	seen := map[int]bool{}
	for _, w := range c.Wires {
		assert.Positive(t, w.Tag)
		assert.False(t, seen[w.Tag], "each number once")
		seen[w.Tag] = true
	}
	assert.Equal(t, "not known", c.Wires[10].Says)
	assert.Contains(t, string(c.Wires[10].Tick.Body), "not known")
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	assert.True(t, p.View().Even, irregular(p.View()))
}

// The photo from the way in stands at the way back without being asked for.
func TestAPhotoComesBackAtTheRefit(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "front-off")
	sha := strings.Repeat("ab", 32)
	require.NoError(t, p.Record("photo", record.Photo{SHA256: sha, On: "front-off"}))
	require.NoError(t, p.Record("photo", record.Photo{SHA256: sha, On: "front-off", Pins: []record.Pin{{X: 0.2, Y: 0.4, Wire: "door-plug/1"}, {X: 0.5, Y: 0.5, Say: "tab"}}}))
	require.NoError(t, p.Record("photo", record.Photo{SHA256: strings.Repeat("cd", 32), On: "door-plug"}))
	require.NoError(t, p.Record("photo", record.Photo{SHA256: strings.Repeat("ef", 32), On: "toe-off"}))
	v := until(t, p, "back", "front-off")
	photos := rung(t, v, "front-off").Home.Photos
	require.Len(t, photos, 2, "the newest first, each once with its last pins, those of other rungs not")
	assert.Equal(t, "Door switch plug", photos[0].What)
	assert.Len(t, photos[1].Pins, 2)
	assert.Equal(t, "you", photos[1].By)
	assert.Equal(t, "photo, front", lastSaid(p))
}

func lastSaid(p *demo.Player) string {
	if err := p.Record("photo", record.Photo{SHA256: strings.Repeat("aa", 32), On: "front-off"}); err != nil {
		panic(err)
	}
	return p.View().Undo.Say
}

// A rung of one's own that would have to be out before what it needs itself: that
// order is left out, and said at once.
func TestAnOwnRungThatBlocksItsOwnWay(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "toe-off")
	own := record.RungOwn{ID: "own-1", Title: "Clip behind the front", Face: "inside", Needs: machine.Needs{"front": machine.Away}, Before: []string{"front-off"}}
	tried, err := p.Book.Try(scene.Viewer{Person: "jonna"}, p.Clock, []view.Make{make1("rung.own", own)})
	require.NoError(t, err)
	assert.Empty(t, tried.Stuck)
	require.Len(t, tried.Warn, 1)
	assert.Contains(t, tried.Warn[0], "Front first, which it was to be out before; that order is left out")
	require.NoError(t, p.Record("rung.own", own))
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Kind == "work" }))
	assert.Equal(t, "work", p.View().Current.Kind, "there is a way all the same")

	_, err = p.Book.Try(scene.Viewer{Person: "jonna"}, p.Clock, []view.Make{make1("rung.own", record.RungOwn{ID: "mine", Title: "x", Face: "front"})})
	assert.ErrorContains(t, err, "an own rung is called own-1")
}

// An own rung that is withdrawn while it is out stays to be settled.
func TestAWithdrawnOwnRungThatIsOut(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "front-off")
	require.NoError(t, p.Record("rung.own", record.RungOwn{ID: "own-1", Title: "Clip", Face: "front", Before: []string{"front-off"}, Lots: []record.OwnLot{{Drive: "clip", Count: 2}}}))
	made := p.Events()[len(p.Events())-1].ID
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "own-1"}))
	require.NoError(t, p.Record("withdrawn", record.Withdrawn{Event: made}))
	for _, s := range p.View().Snags {
		if s.Kind == "still-off" && s.On == "own-1" {
			assert.False(t, s.Regular)
			assert.Contains(t, s.Say, "this map does not know it")
			return
		}
	}
	t.Error("what came off is forgotten")
}

func TestCorrectionsAreKeptAsDifferences(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "front-off")
	require.NoError(t, p.Record("difference", record.Difference{On: "front-off/1", Says: "hex 1/4 in", Is: "torx T20", Drive: "torx", Size: "T20"}))
	v := p.View()
	lot := rung(t, v, "front-off").OutSide.Lots[0]
	assert.Equal(t, "torx T20", lot.Driver)
	assert.False(t, lot.MustCount, "it looks like nothing else here")
	require.NoError(t, p.Record("lot.counted", record.LotCounted{Lot: "front-off/2", Side: "out", Count: 3, Tray: "C"}))
	v = p.View()
	assert.Equal(t, "the map says 2", rung(t, v, "front-off").OutSide.Lots[1].Differs)
	says := map[string]string{}
	for _, d := range v.Differences {
		says[d.On] = d.Says + " is " + d.Is
	}
	assert.Equal(t, "hex 1/4 in is torx T20", says["front-off/1"])
	assert.Equal(t, "2 screws is 3 screws", says["front-off/2"])
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	assert.True(t, p.View().Even, irregular(p.View()))
}

func TestWhatAGoalWouldAdd(t *testing.T) {
	p := begin(t)
	until(t, p, "back", "front-off")
	viewer := scene.Viewer{Person: "jonna"}
	tried, err := p.Book.Try(viewer, p.Clock, []view.Make{make1("goal.added", record.GoalAdded{Goal: "replace:timer"})})
	require.NoError(t, err)
	assert.Equal(t, []string{"Programme leads", "Programme switch"}, tried.Rungs)
	assert.Positive(t, tried.More.P50)
	assert.Contains(t, strings.Join(tried.Bring, ", "), "programme switch TM-30240")
	assert.Contains(t, tried.Says, "adds 2 steps")
	assert.Len(t, p.View().Goals, 1, "nothing was kept")
	tried, err = p.Book.Try(viewer, p.Clock, []view.Make{make1("goal.added", record.GoalAdded{Goal: "item:timer-leads=away"})})
	require.NoError(t, err)
	assert.Len(t, tried.Rungs, 1)
	assert.Contains(t, tried.Says, "adds 1 step")

	tried, err = p.Book.Try(viewer, p.Clock, []view.Make{make1("goal.added", record.GoalAdded{Goal: "replace:sunroof"})})
	require.NoError(t, err)
	assert.Contains(t, tried.Stuck, "nothing called")
	require.NoError(t, p.Record("rung.not-done", record.RungNotDone{Move: "timer-leads-off", Side: "out", Reason: "potted", Bars: true}))
	tried, err = p.Book.Try(viewer, p.Clock, []view.Make{make1("goal.added", record.GoalAdded{Goal: "replace:timer"})})
	require.NoError(t, err)
	assert.NotEmpty(t, tried.Stuck, "a goal that no way reaches")

	lists := p.Book.Lists(viewer, p.Clock)
	var open []string
	for _, n := range lists.Parts {
		if n.On {
			open = append(open, n.ID)
		}
	}
	assert.Empty(t, open)
	assert.NotEmpty(t, lists.Tests)
	assert.NotEmpty(t, lists.Kinds)
}

// Harmless rungs at one face share a touch; what must be looked at by itself
// does not.
func TestHarmlessRungsShareATouch(t *testing.T) {
	m, err := library.Map("sundmarr-sd1")
	require.NoError(t, err)
	p := demo.NewPlayer(m, scene.Job{ID: "j-1", Complaint: "poor-wash"}, "ana", "d", nine, 1)
	require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:loom"}))
	shared := 0
	require.NoError(t, p.Until(func(v *job.View) bool {
		for _, r := range v.Rungs {
			side := r.OutSide
			if v.Current.Kind == "back" {
				side = r.Home
			}
			if !r.Current || side == nil || side.Together == nil {
				continue
			}
			shared++
			assert.GreaterOrEqual(t, len(side.Together.Makes), 2)
			for _, mk := range side.Together.Makes {
				var b struct{ Move string }
				require.NoError(t, json.Unmarshal(mk.Body, &b))
				mv := v.Rungs[indexOfRung(v, b.Move)]
				of := mv.OutSide
				if v.Current.Kind == "back" {
					of = mv.Home
				}
				assert.Empty(t, of.Hazards, b.Move)
				assert.Nil(t, of.Proof, b.Move)
				assert.Empty(t, of.Done.Open, b.Move)
				assert.Equal(t, side.Stand, of.Stand)
			}
		}
		return false
	}))
	assert.Positive(t, shared, "some rungs of this machine are harmless")
	assert.True(t, p.View().Even, irregular(p.View()))
}

func indexOfRung(v *job.View, id string) int {
	for i, r := range v.Rungs {
		if r.ID == id {
			return i
		}
	}
	return 0
}

// Old and new are compared before the new one goes in. A belt may be shorter by
// what the map allows; a number of another machine is said.
func TestOldAndNewAreCompared(t *testing.T) {
	p := begin(t)
	require.NoError(t, p.Record("goal.dropped", record.GoalDropped{Goal: "replace:rollers", Reason: "mistaken"}))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:drum-belt"}))
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Kind == "work" }))
	say := func(id, value string) view.Line {
		require.NoError(t, p.Record("confirmed", record.Confirmed{Confirm: id, Value: value}))
		return line(t, p.View().Current.Task, id)
	}
	assert.True(t, say("drum-belt/compare/number", "TM-99999").Bad)
	assert.Contains(t, strings.Join(p.View().Current.Task.Done.Open, " "), "number on the new part")
	assert.Contains(t, say("drum-belt/compare/number", "TM-99999").Said, "Not for this machine: the map has TM-20417")
	assert.True(t, say("drum-belt/compare/number", "tm-20417").Ticked)
	assert.True(t, say("drum-belt/compare/1", "differs").Bad)
	assert.True(t, say("drum-belt/compare/1", "").Ticked)
	for value, good := range map[string]bool{"1930": true, "1880 mm": true, "73 in": false, "75 1/2 in": true, "1860": false, "2000": false, "long": false} {
		assert.Equal(t, good, say("drum-belt/compare/2", value).Ticked, value)
	}
	say("drum-belt/compare/2", "1900")
	v := p.View()
	assert.Equal(t, "replace:drum-belt", v.Current.Goal)
	assert.Equal(t, "drum-belt", v.PhotoOn, "a photo taken now is of the part")
	assert.Empty(t, v.Current.Task.Done.Open)
	var fitted record.PartFitted
	require.NoError(t, json.Unmarshal(v.Current.Task.Done.Makes[0].Body, &fitted))
	assert.Equal(t, "tm-20417", fitted.Number, "as it was read off")
	require.Len(t, fitted.Compared, 2, "what was compared stands with the part")
	assert.Contains(t, fitted.Compared[1], "1900")
	do(t, p, line(t, v.Current.Task, "drum-belt/old").Or[0].Makes)
	require.NoError(t, p.Record("used", record.Used{What: "graphite"}))
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	sheet := p.View().Sheet.Markdown
	assert.Contains(t, sheet, "| left with the customer |")
	assert.Contains(t, sheet, "Used up: graphite")
	assert.True(t, p.View().Even, irregular(p.View()))
}

// What moved to the new part has its own tick, and Done waits for it.
func TestWhatIsCarriedOverIsTicked(t *testing.T) {
	m, err := library.Map("halvarsk-mw9")
	require.NoError(t, err)
	p := demo.NewPlayer(m, scene.Job{ID: "j-1", Complaint: "hums"}, "ana", "d", nine, 1)
	require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:capacitor"}))
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Kind == "work" }))
	task := p.View().Current.Task
	assert.Contains(t, task.Done.Open, "capacitor bracket moved to the new part")
	for _, l := range task.Lines {
		if l.Kind == "compare" || l.Kind == "carry" {
			do(t, p, []view.Make{l.Tick})
		}
	}
	task = p.View().Current.Task
	require.Empty(t, task.Done.Open)
	assert.Contains(t, string(task.Done.Makes[0].Body), `"carried":["cap-bracket"]`)
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	assert.True(t, p.View().Even, irregular(p.View()))
}

// Nobody without the ticket is led to the high-voltage side: the job stops at
// the case.
func TestWithoutTheTicketTheJobStopsBeforeTheCase(t *testing.T) {
	m, err := library.Map("halvarsk-mw9")
	require.NoError(t, err)
	known := scene.Job{ID: "j-1", Complaint: "hums", People: map[string]scene.Person{"ilse": {Name: "Ilse"}, "odda": {Name: "Odda", Tickets: []string{"high-voltage"}}}}
	p := demo.NewPlayer(m, known, "ilse", "d", nine, 1)
	require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:capacitor"}))
	err = p.Until(func(v *job.View) bool { return v.Current.Move == "case-off" })
	require.NoError(t, err)
	side := rung(t, p.View(), "case-off").OutSide
	assert.Equal(t, "Stop: high voltage ticket needed. Leave this as it is. Odda has one.", side.Ticket)
	assert.Empty(t, side.Do)
	assert.Nil(t, side.Done)
	// A waiting time is no proof: the charge is proven by a rated meter alone.
	p.By = "odda"
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Move == "charge-prove" }))
	ask := rung(t, p.View(), "charge-prove").OutSide.Proof
	assert.Contains(t, fmt.Sprint(ask.Steps), "above 2970 V")
	assert.Contains(t, ask.Note, "Waiting is never the proof")
}

// The page for who takes over says what was recorded since they last looked.
func TestHandOver(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "toe-off")
	require.NoError(t, p.Record("note", record.Note{Text: "the rear felt is loose", On: "front-off"}))
	p.By, p.Device = "ilse", "tab-2"
	until(t, p, "work", "")
	require.NoError(t, p.Record("temporary.in", record.TemporaryIn{Name: "cord on the lid"}))
	h := p.Book.View(scene.Viewer{Person: "jonna"}, p.Clock).HandOver
	require.NotNil(t, h.Last)
	require.NotEmpty(t, h.Since)
	assert.Equal(t, "Cord on the lid in", h.Since[0].Text, "the newest first")
	for _, r := range h.Since {
		assert.Equal(t, "Ilse", r.By)
	}
	assert.Contains(t, h.Tag[0], "DO NOT USE")
	assert.Contains(t, strings.Join(h.Tag, " "), "Mains off. Treat it as live until you have measured.")
	assert.NotContains(t, strings.Join(h.Tag, " "), "safe")
	assert.NotEmpty(t, h.Off)
	assert.Contains(t, h.Leads, view.Row{What: "Tag 1", Say: "Damp sensor leads, left terminal: orange"})
	assert.Equal(t, "the rear felt is loose", h.Notes[0].Text)
	assert.Equal(t, "Fit drum rollers, the pair", h.Next[0])
	total := 0
	for _, r := range h.Trays {
		assert.Contains(t, r.Say, "Goes back at: ")
		total++
	}
	assert.Positive(t, total)

	require.NoError(t, p.Record("left", record.Left{Tag: "rollers tomorrow"}))
	p.By, p.Device = "jonna", "tab-1"
	require.NoError(t, p.Record("took-over", record.TookOver{From: "ilse"}))
	v := p.View()
	assert.Equal(t, "out", v.Current.Kind, "the proof has ended with the taking over")
	assert.Contains(t, v.HandOver.Since[0].Text, "Leaving")
}

func TestAsFoundWithWhoSaysSo(t *testing.T) {
	p := begin(t)
	require.NoError(t, p.Record("found", record.Found{Move: "toe-off", By: "ilse"}))
	require.NoError(t, p.Record("found", record.Found{Item: "felt", Level: "fitted", State: "broken", Photo: strings.Repeat("ab", 32)}))
	v := p.View()
	assert.Equal(t, []string{"Toe panel: off already, by Ilse (Jonna, 2026-11-25).", "Rear felt: broken, with a photo (Jonna, 2026-11-25)."}, v.Sheet.Found)
	assert.Contains(t, v.Sheet.Markdown, "## What we found, and how we know")
	assert.Contains(t, irregular(v), "missing-part")
	assert.Equal(t, steps.Due, rung(t, v, "toe-off").Back, "it has to come back")
}

// A machine that no map covers: rungs of one's own, their way back, trays, tags,
// even and hand-over are computed all the same, and become the beginning of a
// map.
func TestAMachineWithoutAMap(t *testing.T) {
	m, err := library.Map("plain-oven")
	require.NoError(t, err)
	require.True(t, m.Plain())
	p := demo.NewPlayer(m, scene.Job{ID: "j-1", Title: "Smokehouse, oven"}, "ana", "d", nine, 1)
	require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: record.Work}))
	v := p.View()
	require.Equal(t, "own", v.Current.Kind)
	require.Len(t, v.Current.Task.Choices, 1)
	assert.Equal(t, "Shut off and test: mains supply", v.Current.Task.Choices[0].Label)
	do(t, p, v.Current.Task.Choices[0].Makes)
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Kind == "own" }))
	assert.Empty(t, p.View().Current.Task.Choices, "nothing can hurt any more that could be shut")

	require.NoError(t, p.Record("rung.own", record.RungOwn{ID: "own-rear", Title: "Rear panel", Face: "rear", Type: "cover", Lots: []record.OwnLot{{Drive: "torx", Size: "T20", Count: 6}}, Minutes: machine.Minutes{Out: 2, Back: 3}}))
	require.NoError(t, p.Record("lot.counted", record.LotCounted{Lot: "own-rear/1", Side: "out", Count: 5, Tray: "A"}))
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "own-rear"}))
	require.NoError(t, p.Record("rung.own", record.RungOwn{ID: "own-plug", Title: "Fan leads", Face: "rear", Type: "connector", Needs: machine.Needs{"own-rear": machine.Away}, Wires: []record.OwnWire{{Terminal: "1", Colour: "red"}, {Terminal: "2", Colour: "red"}}, Minutes: machine.Minutes{Out: 1, Back: 1}}))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "item:own-plug=away"}))
	v = p.View()
	assert.Equal(t, "own-plug", v.Current.Move)
	assert.Equal(t, lead.Tag, rung(t, v, "own-plug").OutSide.Plugs[0].Rule)
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Kind == "own" }))
	require.NoError(t, p.Record("part.fitted", record.PartFitted{Part: "Fan", Piece: "Fan", Number: "F-1", Evidence: "seen"}))
	v = p.View()
	assert.Len(t, v.Trays, 1)
	assert.Equal(t, "Tag 1", v.HandOver.Leads[0].What)
	do(t, p, v.Current.Task.Done.Makes)
	v = p.View()
	require.Equal(t, "back", v.Current.Kind)
	assert.Equal(t, "own-plug", v.Current.Move)
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	v = p.View()
	assert.True(t, v.Even, irregular(v))
	assert.Contains(t, v.Sheet.Markdown, "| Fan | F-1 |")

	draft := p.Book.Draft("QX 7")
	text, err := mapfile.Write(draft)
	require.NoError(t, err)
	read, err := mapfile.Read("draft.yaml", text)
	require.NoError(t, err, string(text))
	assert.Equal(t, "oven-qx-7", read.ID)
	assert.Equal(t, []string{"QX7"}, read.Covers)
	assert.Equal(t, 5, read.Move("own-rear").Fasteners[0].Count, "as it was found")
	assert.NotNil(t, read.Item("own-plug"))
	var lacks []string
	for _, w := range lint.Warnings(read) {
		lacks = append(lacks, w.Error())
	}
	all := strings.Join(lacks, "\n")
	assert.Contains(t, all, "has no part")
	assert.Contains(t, all, "give it an id")
	assert.Contains(t, all, "where on the face?")
}

// The draft of a machine with a map is its next revision.
func TestTheNextRevisionOfAMap(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "sensor-apart")
	require.NoError(t, p.Record("wire.said", record.WireSaid{Wire: "sensor-plug/left", Colour: "brown", Stripe: "white", Tag: 1}))
	m := p.Book.Draft("")
	assert.Equal(t, "tidemoor-tv6", m.ID)
	assert.Equal(t, p.Book.Map.Revision+1, m.Revision)
	assert.Equal(t, machine.Wire{Terminal: "left", Colour: "brown", Stripe: "white"}, m.Item("sensor-plug").Wires[0])
	assert.Equal(t, "orange", p.Book.Map.Item("sensor-plug").Wires[0].Colour, "the map itself is left alone")
	text, err := mapfile.Write(m)
	require.NoError(t, err)
	_, err = mapfile.Read("next.yaml", text)
	require.NoError(t, err)
}
