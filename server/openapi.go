package server

import (
	"encoding/json"
	"fmt"
	"maps"
	"reflect"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"evensteps/core/record"
)

// OpenAPI is the API's document, version 3.1, as JSON.
//
// A record is described as one of its kinds, each with its own body, so that a
// client made from the document cannot write one that the core refuses. What the
// server itself takes is wider: a kind of a newer version is kept.
func (s *Server) OpenAPI() ([]byte, error) {
	// Bodies have a registry of their own: what they hold of other packages must not
	// clash with the names of the views.
	schemas := huma.NewMapRegistry("#/components/schemas/", func(t reflect.Type, _ string) string {
		for t.Kind() == reflect.Pointer {
			t = t.Elem()
		}
		if t.PkgPath() == reflect.TypeFor[record.Event]().PkgPath() {
			return t.Name()
		}
		return "Kept" + t.Name()
	})
	kinds := record.Kinds()
	var records []any
	for _, name := range slices.Sorted(maps.Keys(kinds)) {
		body := schemas.Schema(kinds[name], true, "")
		records = append(records, map[string]any{
			"type": "object", "required": []string{"kind", "body"}, "additionalProperties": false,
			"properties": map[string]any{"kind": map[string]any{"type": "string", "const": name}, "body": body},
		})
	}
	text, err := s.api.OpenAPI().MarshalJSON()
	if err != nil {
		return nil, fmt.Errorf("writing the OpenAPI document: %w", err)
	}
	var doc map[string]any
	if err := json.Unmarshal(text, &doc); err != nil {
		return nil, fmt.Errorf("writing the OpenAPI document: %w", err)
	}
	all := doc["components"].(map[string]any)["schemas"].(map[string]any)
	for name, schema := range schemas.Map() {
		text, err := json.Marshal(schema)
		if err != nil {
			return nil, fmt.Errorf("writing the OpenAPI document: %w", err)
		}
		if was, there := all[name]; there {
			if is, err := json.Marshal(was); err != nil || !jsonEqual(is, text) {
				return nil, fmt.Errorf("writing the OpenAPI document: two things are called %s", name)
			}
		}
		all[name] = json.RawMessage(text)
	}
	all["Make"] = map[string]any{"oneOf": records, "discriminator": map[string]any{"propertyName": "kind"}}
	event := all["Event"].(map[string]any)
	properties := event["properties"].(map[string]any)
	bodies := []any{}
	for _, t := range sortedTypes(kinds) {
		bodies = append(bodies, schemas.Schema(t, true, ""))
	}
	properties["body"] = map[string]any{"anyOf": bodies}
	out, err := json.Marshal(doc)
	if err != nil {
		return nil, fmt.Errorf("writing the OpenAPI document: %w", err)
	}
	return out, nil
}

func sortedTypes(kinds map[string]reflect.Type) []reflect.Type {
	out := slices.Collect(maps.Values(kinds))
	slices.SortFunc(out, func(a, b reflect.Type) int {
		if a.Name() < b.Name() {
			return -1
		}
		return 1
	})
	return out
}

func jsonEqual(a, b []byte) bool {
	var x, y any
	return json.Unmarshal(a, &x) == nil && json.Unmarshal(b, &y) == nil && reflect.DeepEqual(x, y)
}
