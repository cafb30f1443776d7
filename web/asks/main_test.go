package main

import (
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The pages' side of the table is the core's: make api writes it again.
func TestThePagesAskWhatTheCoreAnswers(t *testing.T) {
	is, err := os.ReadFile("../src/offline/asks.ts")
	require.NoError(t, err)
	assert.Equal(t, written(), string(is), "run make api")
}
