// Package schema holds the JSON Schema of machine maps, format 1, for editors
// and for other programs. It is made from the Go types; what only the whole of
// a map can tell (references, levels, sums) is for evensteps check.
package schema

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"reflect"

	"github.com/invopop/jsonschema"

	"evensteps/core/machine"
)

// JSON is the schema as it is kept in the repository.
//
//go:embed machine-map.schema.json
var JSON []byte

// Make makes the schema from the types. In a map file a single word may stand
// for a list of one, a hazard or confirmation may be a text alone.
func Make() ([]byte, error) {
	text := &jsonschema.Schema{Type: "string"}
	r := jsonschema.Reflector{ExpandedStruct: true, FieldNameTag: "yaml"}
	r.Mapper = func(t reflect.Type) *jsonschema.Schema {
		switch t {
		case reflect.TypeFor[machine.Values]():
			return &jsonschema.Schema{OneOf: []*jsonschema.Schema{text, {Type: "array", Items: text}}}
		case reflect.TypeFor[machine.Hazard]():
			return &jsonschema.Schema{OneOf: []*jsonschema.Schema{word(machine.HazardKinds), object(map[string]*jsonschema.Schema{"kind": word(machine.HazardKinds), "say": text}, "kind")}}
		case reflect.TypeFor[machine.Level]():
			return word([]string{"fitted", "aside", "away", "live", "shut", "proven"})
		}
		return nil
	}
	s := r.Reflect(&machine.Map{})
	s.Title = "Machine map, format 1"
	s.Properties.Set("format", &jsonschema.Schema{Const: machine.Format})
	confirm := *s.Definitions["Confirm"]
	confirm.Required = []string{"say"}
	s.Definitions["Confirm"] = &jsonschema.Schema{OneOf: []*jsonschema.Schema{text, &confirm}}
	for def, words := range map[string]map[string][]string{
		"Item": {"type": machine.ItemTypes, "face": machine.Faces}, "Fastener": {"drive": machine.Drives}, "Energy": {"kind": machine.EnergyKinds},
		"Supply": {"system": machine.Systems}, "Move": {"face": machine.Faces, "pose": machine.PoseNames, "ticket": machine.Tickets},
	} {
		for key, known := range words {
			s.Definitions[def].Properties.Set(key, word(known))
		}
	}
	s.Properties.Set("kind", word(machine.Kinds))
	required(s)
	out, err := json.MarshalIndent(s, "", "  ")
	if err != nil {
		return nil, fmt.Errorf("writing the schema: %w", err)
	}
	return append(out, '\n'), nil
}

// must is what a map cannot do without; the YAML tags do not tell.
var must = map[string][]string{
	"Option": {"id", "ask", "values", "usual"}, "Energy": {"id", "kind", "name"}, "Fastener": {"id", "name", "drive"}, "Item": {"id", "name", "type"},
	"Move": {"id", "title", "takes", "face", "minutes"}, "Lot": {"kind", "count"}, "Minutes": {"out", "back"}, "Wire": {"terminal"},
	"Check": {"id", "title", "minutes", "for"}, "Final": {"id", "title", "minutes"}, "Test": {"id", "title", "minutes"}, "Outcome": {"id"},
	"Fault": {"id", "name"}, "Complaint": {"id", "name", "faults"}, "Circuit": {"id", "name", "points", "between"}, "Point": {"id", "name", "reach"},
	"Part": {"id", "item", "name", "number"},
}

func required(s *jsonschema.Schema) {
	s.Required = []string{"format", "id", "title", "kind", "revision", "moves"}
	for name, def := range s.Definitions {
		def.Required = must[name]
	}
}

func word(known []string) *jsonschema.Schema {
	s := &jsonschema.Schema{Type: "string"}
	for _, w := range known {
		s.Enum = append(s.Enum, w)
	}
	return s
}

func object(keys map[string]*jsonschema.Schema, needed ...string) *jsonschema.Schema {
	s := &jsonschema.Schema{Type: "object", Properties: jsonschema.NewProperties(), AdditionalProperties: jsonschema.FalseSchema, Required: needed}
	for _, key := range []string{"kind", "say"} {
		if keys[key] != nil {
			s.Properties.Set(key, keys[key])
		}
	}
	return s
}
