package server_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/call"
	"evensteps/core/job"
	"evensteps/core/machine/mapfile"
	"evensteps/core/record"
	"evensteps/core/view"
	"evensteps/server"
)

// A model that no map covers can be worked without one; the job begins with its
// work open, and its map is the beginning of one.
func TestACallForAMachineWithoutAMap(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.as(t, "pell")
	_, heard := post[call.Meaning](t, d, "/api/calls/heard", call.Said{Model: "ZZ-9", Kind: "oven"})
	require.True(t, heard.Nearest)
	assert.Equal(t, "plain-oven", heard.Plain)
	_, heard = post[call.Meaning](t, d, "/api/calls/heard", call.Said{Model: "ZZ-9", Kind: "oven", Plain: true})
	assert.Equal(t, "plain-oven", heard.Map)
	assert.Contains(t, heard.How, "rungs of your own")
	assert.Empty(t, heard.Complaints)
	_, heard = post[call.Meaning](t, d, "/api/calls/heard", call.Said{Model: "ZZ-9", Kind: "cooktop"})
	assert.Equal(t, "plain-cooktop", heard.Map, "a kind that has no map at all")

	status, made := post[struct{ Job string }](t, d, "/api/calls", call.Call{Call: "0193-no-map", Site: "school", Name: "old oven", Model: "ZZ-9", Map: "plain-oven", Words: "stays dark", Uncovered: true})
	require.Equal(t, http.StatusOK, status)
	view := job.View{}
	require.Equal(t, http.StatusOK, d.get("/api/jobs/"+made.Job+"/view", &view))
	assert.Equal(t, "own", view.Current.Kind)
	require.Len(t, view.Goals, 1)
	assert.Equal(t, record.Work, view.Goals[0].Goal)

	status, text, _ := d.call(http.MethodGet, "/api/jobs/"+made.Job+"/map", nil)
	require.Equal(t, http.StatusOK, status)
	m, err := mapfile.Read("job.yaml", text)
	require.NoError(t, err)
	assert.Equal(t, "oven-zz-9", m.ID)
	assert.Equal(t, []string{"ZZ-9"}, m.Covers)
}

// What a record would change is told, and nothing is kept.
func TestTryingWhatAGoalAdds(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.as(t, "jonna")
	type tried struct {
		Makes []view.Make `json:"makes"`
	}
	add := func(goal string) tried {
		return tried{[]view.Make{{Kind: "goal.added", Body: []byte(`{"goal":"` + goal + `"}`)}}}
	}
	status, got := post[job.Tried](t, d, "/api/jobs/j-101/try", add("replace:timer"))
	require.Equal(t, http.StatusOK, status)
	assert.NotEmpty(t, got.Rungs)
	assert.Contains(t, got.Says, "adds")
	_, got = post[job.Tried](t, d, "/api/jobs/j-101/try", add("replace:sail"))
	assert.Contains(t, got.Stuck, "nothing called")
	status, _ = post[job.Tried](t, d, "/api/jobs/j-101/try", tried{[]view.Make{{Kind: "goal.added", Body: []byte(`{}`)}}})
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	status, _ = post[job.Tried](t, d, "/api/jobs/j-101/try", tried{make([]view.Make, 80)})
	assert.Equal(t, http.StatusUnprocessableEntity, status, "no more than fifty at once")
	view := job.View{}
	d.get("/api/jobs/j-101/view", &view)
	assert.Len(t, view.Goals, 1, "nothing was kept")

	var lists job.Lists
	require.Equal(t, http.StatusOK, d.get("/api/jobs/j-101/lists", &lists))
	names := ""
	for _, p := range lists.People {
		names += p.Name + " "
	}
	assert.True(t, strings.Contains(names, "Ilse Brandmo"))
}
