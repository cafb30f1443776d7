package main

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The list that ships names every module that is linked, at its version.
func TestTheListIsCurrent(t *testing.T) {
	t.Chdir("../..")
	shipped, err := os.ReadFile("web/public/licences.txt")
	require.NoError(t, err)
	things, err := modules()
	require.NoError(t, err)
	pages, err := packages()
	require.NoError(t, err)
	assert.Greater(t, len(things), 20)
	assert.Greater(t, len(pages), 5)
	for _, one := range append(things, pages...) {
		assert.Contains(t, string(shipped), "  "+strings.TrimSpace(one.name+" "+one.version), "run: make licences")
	}
}
