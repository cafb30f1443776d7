package job_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/diagnosis"
	"evensteps/core/job"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/demo"
)

// The tests of the pages draw views that the core really says: they are kept beside
// them, and this test fails when they are no longer what it says.
func TestViewsThatThePagesAreTestedWith(t *testing.T) {
	p := begin(t)
	viewer := scene.Viewer{Person: p.By, Device: p.Device}
	for _, at := range []struct {
		name, kind, move string
	}{
		{"going-in", "out", "top-off"},
		{"coming-back", "back", "front-off"},
		{"even", "done", ""},
	} {
		require.NoError(t, p.Until(func(v *job.View) bool {
			return v.Current.Kind == at.kind && v.Current.Move == at.move || v.Even && at.kind == "done"
		}))
		v := p.Book.Shown(viewer, p.Clock)
		require.True(t, v.Even && at.kind == "done" || v.Current.Move == at.move, "%s: %s %s", at.name, v.Current.Kind, v.Current.Move)
		keptForThePages(t, at.name, v)
	}
	seeking := demo.NewPlayer(dryer(t), scene.Job{ID: "j-2", Title: "School kitchen, dryer", Complaint: "thumps"}, "jonna", "tab-1", nine, 2)
	require.NoError(t, seeking.Record("visit.began", record.VisitBegan{}))
	require.NoError(t, seeking.Answer(nil))
	keptForThePages(t, "seeking", seeking.Book.Shown(viewer, seeking.Clock))
	keptForThePages(t, "find", seeking.Book.Find(viewer, nine.Add(time.Hour)))
	keptForThePages(t, "decide", seeking.Book.Decide(viewer, nine.Add(time.Hour), diagnosis.Typed{}))
	keptForThePages(t, "lists", p.Book.Lists(viewer, nine.Add(time.Hour)))
}

// keptForThePages holds what the core says to what the tests of the pages draw.
func keptForThePages(t *testing.T, name string, says any) {
	t.Helper()
	data, err := json.Marshal(says)
	require.NoError(t, err)
	data = append(unseen.ReplaceAll(data, []byte("…")), '\n')
	file := filepath.Join("../../web/src/testing/views", name+".json")
	if was, err := os.ReadFile(file); err == nil && string(was) == string(data) {
		return
	}
	if os.Getenv("EVENSTEPS_WRITE") != "" {
		require.NoError(t, os.MkdirAll(filepath.Dir(file), 0o755))
		require.NoError(t, os.WriteFile(file, data, 0o644))
	}
	assert.Fail(t, "the view has changed", "%s: look at what the pages make of it; EVENSTEPS_WRITE=1 writes it", name)
}
