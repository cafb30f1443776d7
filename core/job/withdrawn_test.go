package job_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/job"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/snags"
	"evensteps/demo"
)

// lastOf is the id of the last fact of a kind.
func lastOf(t testing.TB, p *demo.Player, kind string) string {
	t.Helper()
	events := p.Events()
	for i := len(events) - 1; i >= 0; i-- {
		if events[i].Kind == kind {
			return events[i].ID
		}
	}
	require.Failf(t, "no such fact", kind)
	return ""
}

// A correction goes down to not proven, never up: a restoring, leaving, taking
// over or signing off that is withdrawn no longer counts, but the proofs before
// it stay ended.
func TestWithdrawingNeverBringsAProofBack(t *testing.T) {
	for kind, body := range map[string]any{
		"energy.restored": record.EnergyRestored{Energy: "mains", How: "a neighbour"}, "left": record.Left{}, "took-over": record.TookOver{From: "ilse"}, "signed-off": record.SignedOff{},
	} {
		p := begin(t)
		until(t, p, "out", "top-off")
		require.Equal(t, machine.Proven, p.View().Energies[0].Level)
		require.NoError(t, p.Record(kind, body))
		assert.NotEqual(t, machine.Proven, p.View().Energies[0].Level, kind)
		require.NoError(t, p.Record("withdrawn", record.Withdrawn{Event: lastOf(t, p, kind)}))
		v := p.View()
		assert.Equal(t, machine.Shut, v.Energies[0].Level, "%s: off, but not proven", kind)
		assert.Equal(t, "prove-dead", v.Current.Move, kind)
		assert.Nil(t, v.Signed, kind)
	}
	p := begin(t)
	until(t, p, "out", "top-off")
	require.NoError(t, p.Record("rung.back", record.RungBack{Move: "isolator-off"}))
	require.NoError(t, p.Record("withdrawn", record.Withdrawn{Event: lastOf(t, p, "rung.back")}))
	assert.Equal(t, machine.Shut, p.View().Energies[0].Level, "the isolator's way back, withdrawn")
}

// What hangs on a withdrawn fact stays, with a note.
func TestABackWhoseOutIsWithdrawn(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "toe-off")
	out := lastOf(t, p, "rung.out") // the console
	require.NoError(t, p.Record("rung.back", record.RungBack{Move: "console-up", Closes: []string{out}}))
	require.NoError(t, p.Record("withdrawn", record.Withdrawn{Event: out}))
	v := p.View()
	assert.Equal(t, snags.NoteGrade, snag(t, v, "hangs").Grade)
	assert.Contains(t, irregular(v), "back-without-out")
}

// A goal of the form item:ID=LEVEL is closed by the first state that reaches it.
func TestAnItemAsAGoal(t *testing.T) {
	p := demo.NewPlayer(dryer(t), scene.Job{ID: "j-1"}, "jonna", "tab-1", nine, 1)
	require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "item:toe=away"}))
	require.NoError(t, p.Until(func(v *job.View) bool { return v.Current.Kind == "back" }))
	v := p.View()
	assert.False(t, v.Goals[0].Open)
	assert.Equal(t, "Toe panel away", v.Goals[0].Name)
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	assert.True(t, p.View().Even)
}

// A plug in the hand is recorded as that; the meter comes at the first
// terminals that are opened.
func TestMeasuredAtTheFirstTerminals(t *testing.T) {
	m := *dryer(t)
	m.Moves = append([]machine.Move{}, m.Moves...)
	m.Move("prove-dead").Proof = machine.Values{"in-hand"}
	m.Move("top-off").MeasureFirst = "mains"
	p := demo.NewPlayer(&m, scene.Job{ID: "j-1"}, "jonna", "tab-1", nine, 1)
	require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
	require.NoError(t, p.Record("goal.added", record.GoalAdded{Goal: "replace:rollers"}))
	v := until(t, p, "out", "top-off")
	assert.Equal(t, "in-hand", v.Energies[0].How)
	ask := rung(t, v, "top-off").OutSide.Proof
	require.NotNil(t, ask)
	assert.Equal(t, "mains", ask.Energy)
	_, err := p.Step()
	require.NoError(t, err)
	v = p.View()
	assert.Equal(t, "0.3 V", v.Energies[0].Reading, "now by the meter")
	assert.Empty(t, irregular(v))

	require.NoError(t, p.Record("withdrawn", record.Withdrawn{Event: lastOf(t, p, "rung.out")}))
	require.NoError(t, p.Record("rung.out", record.RungOut{Move: "top-off"}))
	v = p.View()
	assert.Equal(t, snags.StopGrade, snag(t, v, "guard-unmet").Grade, "opened without its reading")
	assert.True(t, v.Foot.Off > 0, "and kept all the same")
}

// An own rung may block one whose refit has needs of its own, and part leads.
func TestAnOwnRungWithLeads(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "toe-off")
	require.NoError(t, p.Record("rung.own", record.RungOwn{
		ID: "own-2", Title: "Clip-on sensor", Face: "front", Before: []string{"drum-out", "drum-out-alone"}, Needs: machine.Needs{"front": machine.Away},
		Wires: []record.OwnWire{{Terminal: "1", Colour: "white"}, {Terminal: "2", Colour: "white", Stripe: "red"}}, Minutes: machine.Minutes{Out: 1, Back: 1},
	}))
	v := until(t, p, "back", "own-2")
	home := rung(t, v, "own-2").Home
	require.Len(t, home.Plugs, 1)
	assert.Len(t, home.Done.Open, 2, "each lead is confirmed by its terminal")
	require.NoError(t, p.Until(func(*job.View) bool { return false }))
	assert.True(t, p.View().Even, irregular(p.View()))
}
