package main

import (
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// fenced is a block of a document that names the file it is taken from.
var fenced = regexp.MustCompile("(?ms)^```[a-z]+ ([\\w./-]+\\.[a-z]+)\n(.*?)^```$")

// A worked example is what stands in the code: each block that names a file is in it,
// line by line; a line of … leaves some out.
func TestWorkedExamplesStandInTheCode(t *testing.T) {
	root := "../.."
	documents, err := filepath.Glob(filepath.Join(root, "docs", "*.md"))
	require.NoError(t, err)
	examples := 0
	for _, document := range documents {
		text, err := os.ReadFile(document)
		require.NoError(t, err)
		for _, block := range fenced.FindAllSubmatch(text, -1) {
			examples++
			file := string(block[1])
			code, err := os.ReadFile(filepath.Join(root, file))
			require.NoError(t, err, "%s names a file that is not there", document)
			rest := squeezed(string(code))
			for _, part := range strings.Split(squeezed(string(block[2])), "\n…\n") {
				at := strings.Index("\n"+rest+"\n", "\n"+part+"\n")
				if !assert.GreaterOrEqual(t, at, 0, "%s: this no longer stands in %s:\n%s", document, file, part) {
					break
				}
				rest = rest[at:]
			}
		}
	}
	assert.GreaterOrEqual(t, examples, 10, "the examples are found")
}

// squeezed leaves how lines are set out of account: formatting is not what an example is about.
func squeezed(text string) string {
	var lines []string
	for _, line := range strings.Split(strings.TrimSpace(text), "\n") {
		lines = append(lines, strings.Join(strings.Fields(line), " "))
	}
	return strings.Join(lines, "\n")
}
