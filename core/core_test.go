package core_test

import (
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Arrows point inward: the core stands on the standard library and on itself.
// Only the map reader, which is no part of the browser's build, reads YAML.
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
			assert.True(t, own || reader || !outside && !strings.HasPrefix(dep, "evensteps/"), "%s depends on %s", pkg, dep)
			for _, banned := range []string{"net/http", "database/sql", "math/rand", "math/rand/v2"} {
				assert.NotEqual(t, banned, dep, pkg)
			}
		}
	}
}
