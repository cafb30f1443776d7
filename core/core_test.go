package core_test

import (
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Arrows point inward: the core stands on the standard library and on itself.
// What is no part of the browser's build may more: the map reader reads YAML, and
// the list of the world's currencies is taken, not written.
func TestTheCoreStandsAlone(t *testing.T) {
	out, err := exec.Command("go", "list", "-f", `{{.ImportPath}}: {{join .Deps " "}}`, "./...").Output()
	require.NoError(t, err)
	for _, line := range strings.Split(strings.TrimSpace(string(out)), "\n") {
		pkg, deps, _ := strings.Cut(line, ": ")
		if strings.HasSuffix(pkg, "test") { // random maps for tests, no part of the program
			continue
		}
		for _, dep := range strings.Fields(deps) {
			own := strings.HasPrefix(dep, "evensteps/core/")
			outside := strings.Contains(strings.Split(dep, "/")[0], ".")
			reader := strings.HasSuffix(pkg, "/mapfile") && strings.HasPrefix(dep, "github.com/goccy/go-yaml")
			money := strings.HasSuffix(pkg, "/company") && strings.HasPrefix(dep, "golang.org/x/text/")
			assert.True(t, own || reader || money || !outside && !strings.HasPrefix(dep, "evensteps/"), "%s depends on %s", pkg, dep)
			for _, banned := range []string{"net/http", "database/sql", "math/rand", "math/rand/v2"} {
				assert.NotEqual(t, banned, dep, pkg)
			}
		}
	}
}
