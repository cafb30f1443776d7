package job_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/job"
	"evensteps/core/journey"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/snags"
	"evensteps/core/steps"
	"evensteps/core/view"
	"evensteps/demo"
	"evensteps/library"
)

// A step done without its ticket is settled by the look of another person who
// holds it, and by nobody else.
func TestWhoSettlesAMissingTicket(t *testing.T) {
	people := map[string]scene.Person{"jonna": {Name: "Jonna"}, "tuure": {Name: "Tuure"}, "ilse": {Name: "Ilse", Tickets: []string{"gas"}}}
	p := beginFor(t, "replace:gas-valve", map[string]string{"fuel": "gas"}, people)
	until(t, p, "out", "gas-prove")
	good := record.Proof{Way: "let-by", Meter: "g-2", Standing: "20 mbar", Rise: "0 mbar"}
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "gas-prove", Proof: &good}))
	s := snag(t, p.View(), "ticket-missing")
	look := func(by string) {
		p.By, p.Device = by, "tab-"+by
		require.NoError(t, p.Record("inspected", record.Inspected{Snag: s.ID, Finding: "as it should be"}))
	}
	look("jonna")
	assert.Contains(t, irregular(p.View()), "ticket-missing", "not by who did it")
	look("tuure")
	assert.Contains(t, irregular(p.View()), "ticket-missing", "not by somebody without the ticket")
	p.By = "ilse"
	require.NoError(t, p.Record("snag.explained", record.SnagExplained{Snag: s.ID, Reason: "in a hurry"}))
	assert.Contains(t, irregular(p.View()), "ticket-missing", "no reason will do")
	look("ilse")
	assert.NotContains(t, irregular(p.View()), "ticket-missing")
}

// A machine of which an emergency was told is out of use until another person has
// looked: with the gas ticket where it was gas, and by no reason.
func TestOutOfUse(t *testing.T) {
	people := map[string]scene.Person{"pell": {Name: "Pell", Role: "office"}, "tuure": {Name: "Tuure"}, "ilse": {Name: "Ilse", Tickets: []string{"gas"}}}
	for kind, settles := range map[string]string{"gas": "ilse", "shock": "tuure"} {
		p := beginFor(t, "replace:rollers", nil, people)
		as := func(by, kind string, body any) {
			p.By, p.Device = by, "tab-"+by
			require.NoError(t, p.Record(kind, body))
		}
		as("pell", "told", record.Told{Emergency: kind, Name: "What they told", Say: []string{"Leave it."}})
		s := snag(t, p.View(), "out-of-use")
		assert.Equal(t, snags.StopGrade, s.Grade)
		assert.Equal(t, []snags.OutOfUse{{Snag: s.ID, Name: "What they told", Do: s.Do, Told: []string{"Leave it."}, By: "Pell"}}, p.View().OutOfUse)
		assert.Contains(t, p.View().HandOver.Hurts[0].Say, "Nobody uses it")
		as("tuure", "snag.explained", record.SnagExplained{Snag: s.ID, Reason: "they were mistaken"})
		as("pell", "inspected", record.Inspected{Snag: s.ID, Finding: "from here it is well"})
		assert.Contains(t, irregular(p.View()), "out-of-use", "by no reason, nor by who told of it")
		as("tuure", "inspected", record.Inspected{Snag: s.ID, Finding: "nothing"})
		assert.Equal(t, settles == "ilse", slices.Contains(irregular(p.View()), "out-of-use"), kind)
		as("ilse", "inspected", record.Inspected{Snag: s.ID, Finding: "tight"})
		assert.NotContains(t, irregular(p.View()), "out-of-use")
		assert.Empty(t, p.View().OutOfUse)
		assert.Contains(t, strings.Join(p.View().Sheet.Wrong, " "), "what they told")
	}
}

// Tickets, meters and rates are those of the fact's own time.
func TestWhatIsKnownAtATime(t *testing.T) {
	ended := nine.Add(-24 * time.Hour)
	begun := nine.Add(24 * time.Hour)
	for name, c := range map[string]struct {
		held    []scene.Held
		missing bool
	}{
		"held without an end":       {nil, false},
		"ended the day before":      {[]scene.Held{{Ticket: "gas", Until: &ended}}, true},
		"begins the day after":      {[]scene.Held{{Ticket: "gas", From: &begun}}, true},
		"held at the time":          {[]scene.Held{{Ticket: "gas", From: &ended, Until: &begun}}, false},
		"renewed":                   {[]scene.Held{{Ticket: "gas", Until: &ended}, {Ticket: "gas", From: &ended}}, false},
		"another ticket has ended":  {[]scene.Held{{Ticket: "high-voltage", Until: &ended}}, false},
		"begins with the very hour": {[]scene.Held{{Ticket: "gas", From: &nine}}, false},
	} {
		people := map[string]scene.Person{"jonna": {Name: "Jonna", Tickets: []string{"gas"}, Held: c.held}, "ilse": {Name: "Ilse", Tickets: []string{"gas"}}}
		p := beginFor(t, "replace:gas-valve", map[string]string{"fuel": "gas"}, people)
		p.By = "ilse"
		until(t, p, "out", "gas-prove")
		p.By = "jonna"
		good := record.Proof{Way: "let-by", Meter: "g-2", Standing: "20 mbar", Rise: "0 mbar"}
		require.NoError(t, p.Record("rung.out", record.RungOut{Move: "gas-prove", Proof: &good}))
		// It is looked at a year later: what was so then is what counts.
		v := p.Book.View(scene.Viewer{Person: "ilse"}, nine.AddDate(1, 0, 0))
		assert.Equal(t, c.missing, slices.Contains(irregular(v), "ticket-missing"), name)
	}

	// A meter's category as it stood at the time of the proof.
	meters := map[string]scene.Meter{"m-4": {Category: "CAT III 600 V", From: &begun, Was: []scene.Meter{{Category: "CAT II 600 V", Until: &begun}}}}
	p := demo.NewPlayer(dryer(t), scene.Job{ID: "j-1", Meters: meters}, "jonna", "tab-1", nine, 1)
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:rollers"}))
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Move == "prove-dead" }))
	proof := record.Proof{Way: "meter", Meter: "m-4", Before: "230 V", After: "230 V", Readings: []record.PointReading{
		{Between: []string{"L", "N"}, Value: "0 V"}, {Between: []string{"L", "PE"}, Value: "0 V"}, {Between: []string{"N", "PE"}, Value: "0 V"},
	}}
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "prove-dead", Proof: &proof}))
	assert.Contains(t, rung(t, p.View(), "prove-dead").OutSide.Said, "category II")
	p.Take(48 * time.Hour)
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "prove-dead", Proof: &proof}))
	assert.Equal(t, machine.Proven, p.View().Energies[0].Level)
}

// Two at one machine touch Done on the same step: nothing is to be explained.
func TestTwoOnOneStepSayTheSame(t *testing.T) {
	p := begin(t)
	v := until(t, p, "back", "front-off")
	side := rung(t, v, "front-off").Home
	seen := len(p.Events())
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Move != "front-off" }))
	e := p.Events()[len(p.Events())-1]
	require.Equal(t, "rung.back", e.Kind)
	at := p.Clock.UTC().Add(time.Second)
	e.ID, e.By, e.Device, e.N, e.Seen, e.Num, e.T, e.Body = "01a211ee-ea80-73f2-a0c1-c2a5cdac7c99", "ilse", "tab-2", 1, seen, e.Num+1, &at, side.Done.Makes[0].Body
	f, err := record.Read(e)
	require.NoError(t, err)
	p.Book.Add(f)
	assert.Empty(t, irregular(p.View()))
}

// Undo takes back this person's own last touch on this device, never another's.
func TestUndoIsOnesOwn(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "cover-off")
	own := p.View().Undo
	require.NotNil(t, own)
	p.Take(time.Second)
	require.NoError(t, p.Record("note", record.Note{Text: "mine"}))
	p.By, p.Device = "ilse", "tab-2"
	p.Take(time.Second)
	require.NoError(t, p.Record("note", record.Note{Text: "hers"}))
	hers := p.Events()[len(p.Events())-1].ID
	mine := p.Events()[len(p.Events())-2].ID
	assert.Equal(t, []string{mine}, p.Book.View(scene.Viewer{Person: "jonna", Device: "tab-1"}, p.Clock).Undo.Events)
	assert.Equal(t, []string{hers}, p.Book.View(scene.Viewer{Person: "ilse", Device: "tab-2"}, p.Clock).Undo.Events)
	assert.Nil(t, p.Book.View(scene.Viewer{Person: "ilse", Device: "tab-9"}, p.Clock).Undo, "nor what one did on another device")
}

// What must be looked at by itself shares no touch.
func TestWhatSharesNoTouch(t *testing.T) {
	t.Parallel()
	machines, err := library.Maps()
	require.NoError(t, err)
	shared := 0
	for _, m := range machines {
		for _, part := range m.Parts {
			p := demo.NewPlayer(m, scene.Job{ID: "j-1"}, "jonna", "tab-1", nine, 1)
			require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
			require.NoError(t, p.Record("person.here", record.PersonHere{Person: "ilse"}))
			require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:" + part.ID}))
			for range 120 {
				v := p.View()
				for _, r := range v.Rungs {
					for _, s := range []*steps.Side{r.OutSide, r.Home} {
						if s == nil || s.Together == nil {
							continue
						}
						shared++
						moves := []string{r.ID}
						for _, n := range s.Then {
							moves = append(moves, n.Move)
						}
						assert.LessOrEqual(t, len(moves), 3)
						for _, id := range moves {
							mv := m.Move(id)
							assert.False(t, mv.Blind, "%s %s is made by feel", m.ID, id)
							assert.Empty(t, mv.Ticket, "%s %s", m.ID, id)
							assert.Empty(t, mv.Hazards, "%s %s", m.ID, id)
							assert.LessOrEqual(t, mv.People, 1, "%s %s", m.ID, id)
							for it := range mv.Takes {
								assert.Nil(t, m.Energy(it), "%s %s takes an energy", m.ID, id)
								if item := m.Item(it); item != nil {
									assert.False(t, item.Earth, "%s %s", m.ID, id)
									assert.False(t, item.Type == "connector" && !item.Keyed, "%s %s parts loose leads", m.ID, id)
								}
							}
						}
					}
				}
				if more, err := p.Step(); err != nil || !more {
					break
				}
			}
		}
	}
	assert.Positive(t, shared)
}

// One answer to where somebody has to stop: Today and the decision say the same,
// also of a ticket that is needed on the way back alone.
func TestOneAnswerToWhereSomebodyStops(t *testing.T) {
	people := map[string]scene.Person{"jonna": {Name: "Jonna"}, "ilse": {Name: "Ilse", Tickets: []string{"gas"}}}
	p := beginFor(t, "replace:gas-valve", map[string]string{"fuel": "gas"}, people)
	p.By = "ilse"
	until(t, p, "work", "") // all that needs the ticket on the way in is made
	p.By = "jonna"
	v := p.View()
	today := journey.StopsAt(v.Visit.Stops, nil)
	assert.Contains(t, today, "gas ticket needed. Ilse has one")
	d := decide(p, nil)
	require.NotEmpty(t, d.Stops)
	assert.Contains(t, d.Stops[0], today)
	assert.NotContains(t, d.Go, "Go.")
}

// A job that is not even feeds nothing into what the company learns.
func TestOnlyEvenJobsTeach(t *testing.T) {
	p := begin(t)
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Kind == "sign-off" }))
	require.NoError(t, p.Record("left-over", record.LeftOver{Count: 1}))
	require.NoError(t, p.Record("signed-off", record.SignedOff{}))
	v := p.View()
	require.False(t, v.Even)
	assert.Empty(t, v.Visit.Mended)
	for _, s := range v.Snags {
		require.NoError(t, p.Record("snag.explained", record.SnagExplained{Snag: s.ID, Reason: "it lay there before"}))
	}
	assert.Nil(t, p.View().Signed, "what is explained later is signed again")
	require.NoError(t, p.Record("signed-off", record.SignedOff{}))
	v = p.View()
	require.True(t, v.Even, v.Snags)
	assert.NotEmpty(t, v.Visit.Mended)
	assert.Contains(t, strings.Join(v.Visit.Did, " "), "Drum rollers (left drum roller and right drum roller) replaced")
	assert.NotContains(t, strings.Join(v.Visit.Did, " "), "passed")
}

// A note is open until it is explained; until then the job is not even.
func TestAnOpenNoteIsShortOfEven(t *testing.T) {
	p := begin(t)
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Kind == "sign-off" }))
	require.True(t, p.View().Even)
	require.NoError(t, p.Record("lot.counted", record.LotCounted{Lot: "hatch/1", Side: "out", Count: 1}))
	v := p.View()
	s := snag(t, v, "loose-fact")
	assert.Equal(t, snags.NoteGrade, s.Grade)
	assert.False(t, v.Even)
	require.NoError(t, p.Record("snag.explained", record.SnagExplained{Snag: s.ID, Reason: "a slip"}))
	assert.True(t, p.View().Even)
}

// A job that ends unrepaired owes the final that names no complaint, and not that
// of its complaint; left isolated and tagged, out of use, it owes none.
func TestWhatAnUnrepairedJobOwes(t *testing.T) {
	due := func(v *job.View) (out []string) {
		for _, s := range v.Snags {
			if s.Kind == "final-due" && s.Explained == nil {
				out = append(out, s.On)
			}
		}
		return out
	}
	p := begin(t)
	until(t, p, "work", "")
	assert.Equal(t, []string{"all-back", "run-warm"}, due(p.View()))
	require.NoError(t, p.Record("goal.dropped", record.GoalDropped{Goal: "replace:rollers", Reason: "declined"}))
	assert.Equal(t, []string{"all-back"}, due(p.View()))
	one := demo.NewPlayer(dryer(t), scene.Job{ID: "j-2", Complaint: "stops-early"}, "jonna", "tab-1", nine, 1)
	require.NoError(t, one.Record("goal.added", record.GoalAdded{Goal: "replace:drum-belt"}))
	until(t, one, "work", "")
	assert.Equal(t, []string{"all-back", "runs-through"}, due(one.View()), "the final of this one complaint")
	require.NoError(t, one.Record("goal.dropped", record.GoalDropped{Goal: "replace:drum-belt", Reason: "declined"}))
	assert.Equal(t, []string{"all-back"}, due(one.View()))
	v := until(t, p, "back", "isolator-off")
	s := snag(t, v, "energy-off")
	require.NoError(t, p.Record("snag.explained", record.SnagExplained{Snag: s.ID, Reason: "Out of use, tagged."}))
	v = p.View()
	assert.Empty(t, due(v))
	assert.True(t, v.Closed)
	assert.Equal(t, "Closed, not repaired", v.Headline)
}

// What is led after a check that leaves an energy on: it is shut off again where
// something still needs it off.
func TestAnEnergyThatACheckLeftOnIsShutAgain(t *testing.T) {
	m := *dryer(t)
	m.Checks = slices.Clone(m.Checks)
	m.Checks[0].Energy = map[string]machine.Level{"mains": machine.Live} // turned by its own motor
	p := demo.NewPlayer(&m, scene.Job{ID: "j-1"}, "jonna", "tab-1", nine, 1)
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:rollers"}))
	v := until(t, p, "check", "drum-turns")
	side := rung(t, v, "drum-turns").Home
	require.NotNil(t, side.Proof, "the readings are taken with it")
	assert.Equal(t, "drum-turns", side.Proof.On)
	assert.NotEmpty(t, side.Done.Open)
	assert.Contains(t, strings.Join(side.Do, " "), "off again*, and tested")
	require.NotNil(t, side.Failed)

	failed := *p
	require.NoError(t, failed.Record(side.Failed.Makes[0].Kind, side.Failed.Makes[0].Body))
	v = failed.View()
	assert.Equal(t, machine.Live, v.Energies[0].Level)
	assert.Equal(t, "on", v.Energies[0].Say)
	assert.Contains(t, v.Energies[0].How, "counts as live")
	assert.Equal(t, []string{"check-failed"}, irregular(v))
	assert.Equal(t, "isolator-off", v.Current.Move, "isolated again before anything else")
	assert.Equal(t, steps.Todo, rung(t, v, "isolator-off").Out)
	_, err := failed.Step()
	require.NoError(t, err)
	v = failed.View()
	assert.Equal(t, machine.Shut, v.Energies[0].Level)
	assert.Equal(t, "out", v.Current.Kind, "and proven again")

	q := demo.NewPlayer(&m, scene.Job{ID: "j-1"}, "jonna", "tab-1", nine, 1)
	require.NoError(t, q.Record("goal.added", record.GoalAdded{Goal: "replace:rollers"}))
	until(t, q, "check", "drum-turns")
	_, err = q.Step() // with its readings
	require.NoError(t, err)
	v = q.View()
	assert.Equal(t, machine.Proven, v.Energies[0].Level)
	assert.Equal(t, "back", v.Current.Kind)
	assert.Empty(t, irregular(v))
	require.NoError(t, q.Until(func(*job.View) bool { return false }))
	assert.True(t, q.View().Even, irregular(q.View()))
}

// A final that asks the mains to be shut is run before they are restored; where
// that was missed, they are shut for it again.
func TestAFinalThatAsksTheMainsShut(t *testing.T) {
	p := demo.NewPlayer(dryer(t), scene.Job{ID: "j-1", Complaint: "shock"}, "jonna", "tab-1", nine, 1)
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:rollers"}))
	until(t, p, "final", "earth-of-cabinet")
	require.NoError(t, p.Record("rung.back", record.RungBack{Move: "isolator-off"})) // somebody was too quick
	v := until(t, p, "out", "isolator-off")
	assert.Empty(t, irregular(v))
	until(t, p, "final", "earth-of-cabinet")
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	v = p.View()
	assert.True(t, v.Even, fmt.Sprint(v.Snags))
}

// What a proof lacks stands on its button before it is touched.
func TestWhatAProofLacksIsSaidBefore(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "prove-dead")
	prove := func(pairs ...string) *steps.Proving {
		d := map[string]string{}
		for i := 0; i < len(pairs); i += 2 {
			d[pairs[i]] = pairs[i+1]
		}
		got, err := p.Book.Prove(scene.Viewer{Person: "jonna"}, p.Clock, "prove-dead", d)
		require.NoError(t, err)
		return got
	}
	assert.Equal(t, "Meter, the number on its label", prove().Done.Open[0])
	whole := []string{"meter", "m-4", "before", "230", "L-N", "0.3", "L-PE", "0", "N-PE", "0", "after", "231"}
	got := prove(whole...)
	assert.True(t, got.Off)
	assert.Empty(t, got.Done.Open)
	assert.Equal(t, "Done: tested dead", got.Done.Label)
	assert.Contains(t, got.Done.Says, "0.3 V. The meter's category is not known")
	assert.Contains(t, string(got.Done.Makes[0].Body), `"way":"meter"`)
	live := slices.Clone(whole)
	live[5] = "230"
	got = prove(append(live, "again:L-N", "229")...)
	assert.False(t, got.Off)
	assert.Equal(t, "Record it: not dead yet", got.Done.Label)
	assert.Contains(t, got.Done.Says, "treat as live")
	assert.Empty(t, got.Done.Open, "it may be recorded, and proves nothing")
	unclear := slices.Clone(whole)
	unclear[5] = "1,800"
	got = prove(unclear...)
	assert.Contains(t, got.Done.Open[0], "may be 1.8 V or 1800 V", "it is asked again")
	_, err := p.Book.Prove(scene.Viewer{Person: "jonna"}, p.Clock, "top-off", nil)
	assert.Error(t, err)
	_, err = p.Book.Prove(scene.Viewer{Person: "jonna"}, p.Clock, "nothing", nil)
	assert.Error(t, err)
}

// The tag card of one's own connector stands before it is out.
func TestLeadsOfAnOwnConnectorAreTaggedFirst(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "top-off")
	own := record.RungOwn{ID: "own-1", Title: "Own plug", Face: "top", Type: "connector", Minutes: machine.Minutes{Out: 1, Back: 1}, Wires: []record.OwnWire{{Terminal: "1", Colour: "red"}, {Terminal: "2", Colour: "blue"}, {Terminal: "3", Colour: "blue"}}}
	makes := []view.Make{asMake(t, "rung.own", own), asMake(t, "rung.out", record.RungOut{Move: "own-1"})}
	tried, err := p.Book.Try(scene.Viewer{Person: "jonna", Device: "tab-1"}, p.Clock, makes)
	require.NoError(t, err)
	assert.NotEmpty(t, tried.Leads, "two look alike: what is to be tagged is said")
	require.NoError(t, p.Record("rung.own", own))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "item:own-1=away"}))
	v := until(t, p, "out", "own-1")
	assert.NotEmpty(t, rung(t, v, "own-1").OutSide.Done.Open)
}

func asMake(t testing.TB, kind string, body any) view.Make {
	t.Helper()
	raw, err := json.Marshal(body)
	require.NoError(t, err)
	return view.Make{Kind: kind, Body: raw}
}
