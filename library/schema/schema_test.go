package schema_test

import (
	"bytes"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/goccy/go-yaml"
	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/library/schema"
)

func TestTheSchemaIsMadeFromTheTypes(t *testing.T) {
	made, err := schema.Make()
	require.NoError(t, err)
	if os.Getenv("EVENSTEPS_WRITE") != "" {
		require.NoError(t, os.WriteFile("machine-map.schema.json", made, 0o644))
		return
	}
	assert.Equal(t, string(made), string(schema.JSON), "run: make api")
}

func compiled(t *testing.T) *jsonschema.Schema {
	t.Helper()
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(schema.JSON))
	require.NoError(t, err)
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource("machine-map.json", doc))
	s, err := c.Compile("machine-map.json")
	require.NoError(t, err)
	return s
}

func validate(t *testing.T, s *jsonschema.Schema, text []byte) error {
	t.Helper()
	asJSON, err := yaml.YAMLToJSON(text)
	require.NoError(t, err)
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(asJSON))
	require.NoError(t, err)
	return s.Validate(doc)
}

// A validator of its own kind agrees with the reader on maps that are sound,
// and on what is wrong in shape.
func TestAnotherProgramReadsTheMaps(t *testing.T) {
	s := compiled(t)
	maps, err := filepath.Glob("../*/*.yaml")
	require.NoError(t, err)
	maps = append(maps, "../../core/machine/testdata/example-map.yaml")
	require.Greater(t, len(maps), 1)
	for _, path := range maps {
		text, err := os.ReadFile(path)
		require.NoError(t, err)
		assert.NoError(t, validate(t, s, text), path)
	}
	text, err := os.ReadFile("../../core/machine/testdata/example-map.yaml")
	require.NoError(t, err)
	for _, c := range [][2]string{
		{"one_way: true", "oneway: true"},
		{"drive: phillips", "drive: philips"},
		{"takes: {top: away}", "takes: {top: up}"},
		{"kind: dryer", "kind: drier"},
		{"minutes: {out: 4, back: 6}", "minutes: {out: 4}"},
		{"face: rear", "face: behind"},
		{"revision: 1", "revision: one"},
		{"format: evensteps/map/1", "format: evensteps/map/2"},
	} {
		assert.Error(t, validate(t, s, []byte(strings.Replace(string(text), c[0], c[1], 1))), c[1])
	}
}
