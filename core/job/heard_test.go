package job_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/job"
	"evensteps/core/machine"
	"evensteps/core/scene"
)

// Another's test, on a device that has heard nothing for a while: it says how old
// its knowledge is, never the bare word.
func TestATestThatWasLongNotHeardOf(t *testing.T) {
	p := begin(t)
	until(t, p, "out", "top-off")
	now := p.Clock
	heard := func(device string, before time.Duration) *job.View {
		at := now.Add(-before)
		return p.Book.View(scene.Viewer{Person: "ilse", Device: device, Heard: &at}, now)
	}
	proof := func(v *job.View) string {
		for _, r := range v.Rungs {
			if r.ID == "prove-dead" {
				return r.Sub
			}
		}
		require.Fail(t, "no such step")
		return ""
	}
	for _, knows := range []*job.View{heard("tab-2", time.Minute), heard("tab-1", 30*time.Hour), p.Book.View(scene.Viewer{Person: "ilse", Device: "tab-2"}, now)} {
		assert.Equal(t, "tested dead", knows.Energies[0].Say)
		assert.False(t, knows.Energies[0].Warn)
		assert.Contains(t, proof(knows), "stands")
	}
	for before, ago := range map[time.Duration]string{25 * time.Minute: "25 min ago", 3 * time.Hour: "3 h ago", 60 * 24 * time.Hour: "60 days ago"} {
		v := heard("tab-2", before)
		e := v.Energies[0]
		assert.Equal(t, machine.Proven, e.Level)
		assert.Equal(t, "tested dead, as heard "+ago, e.Say)
		assert.Contains(t, e.Note, "No word from the other device since.")
		assert.True(t, e.Warn)
		assert.NotContains(t, proof(v), "stands")
		assert.Contains(t, proof(v), ago)
	}
}
