package job_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/findings"
	"evensteps/core/reading"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/demo"
)

// What a reading shows while it is typed is what it shows once it is kept.
func TestAReadingIsJudgedBeforeItIsKeptAsAfter(t *testing.T) {
	meter := scene.Meter{Accuracy: map[string]string{"resistance": "0.9%+3@0.1ohm"}}
	p := demo.NewPlayer(dryer(t), scene.Job{ID: "j-1", Complaint: "no-heat", Meters: map[string]scene.Meter{"m-4": meter}}, "jonna", "tab-1", nine, 1)
	require.NoError(t, p.Record("visit.began", record.VisitBegan{}))
	require.NoError(t, p.Answer(nil))
	viewer := scene.Viewer{Person: "jonna", Device: "tab-1"}
	leads := "0.2 ohm"
	for _, text := range []string{"21.4 ohm", "OL", "0.3", "22.9", "-4", "many"} {
		read := record.ReadingTaken{Test: "element-ohms", Value: text, Meter: "m-4", Leads: &leads}
		now, err := p.Book.Judge(viewer, nine.Add(time.Hour), read)
		require.NoError(t, err)
		require.NoError(t, p.Record("reading.taken", read))
		results := p.Book.Find(viewer, nine.Add(time.Hour)).Results
		kept := results[len(results)-1]
		assert.Equal(t, kept.Say, now.Say)
		assert.Equal(t, kept.Verdict, now.Verdict)
		if text == "-4" || text == "many" {
			assert.Nil(t, now.Scale, "what cannot be read has no place on a scale")
		} else {
			require.NotNil(t, now.Scale, text)
		}
	}
	got, err := p.Book.Judge(viewer, nine, record.ReadingTaken{Test: "element-ohms", Value: "OL"})
	require.NoError(t, err)
	assert.Equal(t, &findings.Judged{Verdict: reading.Open, Outcome: got.Outcome, Say: got.Say, Scale: got.Scale}, got)
	assert.NotEmpty(t, got.Outcome, "the outcome that the test gives it")
	_, err = p.Book.Judge(viewer, nine, record.ReadingTaken{Test: "listen", Value: "1"})
	require.Error(t, err, "nothing is read there")
	_, err = p.Book.Judge(viewer, nine, record.ReadingTaken{Test: "no such test", Value: "1"})
	require.Error(t, err)
}
