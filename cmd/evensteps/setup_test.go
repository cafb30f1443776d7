package main

import (
	"os"
	"regexp"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/store"
	"evensteps/store/cluster"
)

var db *cluster.Cluster

func TestMain(m *testing.M) {
	os.Exit(cluster.ForTests(m.Run, func(c *cluster.Cluster) { db = c }))
}

// A company begins with its first supervisor; there is no second first one, also where
// two begin at once. Where all are locked out, one of them gets another code.
func TestTheFirstSupervisorOfACompany(t *testing.T) {
	ctx := t.Context()
	url, err := db.Database(ctx)
	require.NoError(t, err)
	s, err := store.Open(ctx, url)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })

	for name, c := range map[string]struct{ name, signIn, says string }{
		"no name": {"  ", "mira", "--name is missing"}, "no sign-in": {"Mira", "", "--sign-in"}, "capitals": {"Mira", "Mira Oxley", "small letters"},
	} {
		_, err := setUp(ctx, s, c.name, c.signIn, false)
		assert.ErrorContains(t, err, c.says, name)
	}
	_, err = setUp(ctx, s, "", "mira", true)
	assert.ErrorContains(t, err, "none yet")

	var wait sync.WaitGroup
	said, errs := make([]string, 2), make([]error, 2)
	for i, name := range []string{"mira", "benno"} {
		wait.Go(func() { said[i], errs[i] = setUp(ctx, s, "Supervisor", name, false) })
	}
	wait.Wait()
	first := 0
	if errs[0] != nil {
		first = 1
	}
	require.NoError(t, errs[first], "one is the first")
	require.ErrorContains(t, errs[1-first], "there is a supervisor already")
	assert.Regexp(t, regexp.MustCompile(`^Supervisor signs in as (mira|benno) with the code ([a-z0-9]{4}-){3}[a-z0-9]{4}, once, within a day`), said[first])
	people, err := s.People(ctx)
	require.NoError(t, err)
	require.Len(t, people, 1)
	assert.Equal(t, "supervisor", people[0].Role)
	require.NotNil(t, people[0].CodeUntil)

	before := people[0].PasswordHash
	again, err := setUp(ctx, s, "", people[0].SignIn, true)
	require.NoError(t, err)
	assert.NotEqual(t, said[first], again)
	p, err := s.Person(ctx, people[0].ID)
	require.NoError(t, err)
	assert.NotEqual(t, before, p.PasswordHash, "whoever was in is out")
	_, err = setUp(ctx, s, "", "nobody", true)
	assert.ErrorContains(t, err, "the supervisors are "+p.SignIn)
}
