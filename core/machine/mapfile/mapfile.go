// Package mapfile reads machine maps from YAML 1.2 (JSON is a part of it) and
// says of everything that is wrong where it stands: file, line and column.
//
// It is apart from package machine so that the browser's build, which gets
// maps as checked JSON, carries no YAML reader.
package mapfile

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"regexp"
	"strconv"
	"strings"

	"github.com/goccy/go-yaml"
	"github.com/goccy/go-yaml/ast"
	"github.com/goccy/go-yaml/parser"

	"evensteps/core/machine"
	"evensteps/core/machine/lint"
)

// MostBytes is the size of the largest map that is read.
const MostBytes = 2 << 20

// Fault is one fault of a map file. Line and Column count from 1.
type Fault struct {
	File    string
	Line    int
	Column  int
	Message string
}

func (f Fault) Error() string {
	return fmt.Sprintf("%s:%d:%d: %s", f.File, f.Line, f.Column, f.Message)
}

// Faults are all the faults found in one file.
type Faults []Fault

func (f Faults) Error() string {
	lines := make([]string, len(f))
	for i, one := range f {
		lines[i] = one.Error()
	}
	return strings.Join(lines, "\n")
}

// Read reads and checks one map. name stands in the faults; on any fault the
// error is of type Faults.
func Read(name string, data []byte) (m *machine.Map, err error) {
	at := func(line, column int, format string, args ...any) error {
		return Faults{{name, line, column, fmt.Sprintf(format, args...)}}
	}
	if len(data) > MostBytes {
		return nil, at(1, 1, "the map is larger than %d bytes", MostBytes)
	}
	if line, column := tooDeep(data); line > 0 {
		return nil, at(line, column, "it is nested deeper than a map can be (%d)", mostDepth)
	}
	// The reader of YAML fails on some malformed files instead of saying so.
	defer func() {
		if v := recover(); v != nil {
			m, err = nil, at(1, 1, "this is no YAML that can be read (%v)", v)
		}
	}()
	file, err := parser.ParseBytes(data, 0)
	if err != nil {
		return nil, Faults{fromYAML(name, err)}
	}
	if len(file.Docs) == 0 || file.Docs[0].Body == nil {
		return nil, at(1, 1, "the file is empty")
	}
	if len(file.Docs) > 1 {
		return nil, at(1, 1, "one file holds one map, not %d", len(file.Docs))
	}
	m = &machine.Map{}
	if err := yaml.NodeToValue(file.Docs[0].Body, m, yaml.Strict()); err != nil {
		return nil, Faults{fromYAML(name, err)}
	}
	flaws := lint.Flaws(m)
	if len(flaws) == 0 {
		return m, nil
	}
	places := map[string]place{}
	locate("", file.Docs[0].Body, places)
	faults := make(Faults, len(flaws))
	for i, f := range flaws {
		p := nearest(places, f.Path)
		faults[i] = Fault{name, p.line, p.column, f.Path + ": " + f.Message}
	}
	return nil, faults
}

// A map is a dozen levels deep. A file that nests further is refused before it is
// parsed, since a parser pays dearly for depth.
const mostDepth = 64

// tooDeep finds where a file nests too deep: by its indentation, by dashes on one
// line, or by brackets. Brackets within texts count, too; a text with so many that
// are never closed is no map's. The line is 0 where there is no such place.
func tooDeep(data []byte) (line, column int) {
	var indents []int
	brackets, number := 0, 0
	for text := range bytes.Lines(data) {
		number++
		indent, dashes := 0, 0
		for indent < len(text) && text[indent] == ' ' {
			indent++
		}
		for at := indent; at+1 < len(text) && (text[at] == '-' || text[at] == '?') && text[at+1] == ' '; at += 2 {
			if dashes++; dashes > mostDepth {
				return number, at + 1
			}
		}
		if indent < len(text) && text[indent] != '\n' && text[indent] != '#' {
			for len(indents) > 0 && indents[len(indents)-1] >= indent {
				indents = indents[:len(indents)-1]
			}
			if indents = append(indents, indent); len(indents) > mostDepth {
				return number, indent + 1
			}
		}
		for at, c := range text {
			switch c {
			case '[', '{':
				if brackets++; brackets > mostDepth {
					return number, at + 1
				}
			case ']', '}':
				brackets = max(0, brackets-1)
			}
		}
	}
	return 0, 0
}

// Write writes a map as YAML, its keys in the order of the format. The error is
// of a map that holds what no file can.
func Write(m *machine.Map) ([]byte, error) {
	text, err := json.Marshal(m)
	if err != nil {
		return nil, fmt.Errorf("writing a map: %w", err)
	}
	out, err := yaml.JSONToYAML(text)
	if err != nil {
		return nil, fmt.Errorf("writing a map: %w", err)
	}
	return out, nil
}

// ReadFile reads and checks the map in a file.
func ReadFile(path string) (*machine.Map, error) {
	data, err := os.ReadFile(path)
	if err != nil {
		return nil, fmt.Errorf("reading a map: %w", err)
	}
	return Read(path, data)
}

type place struct{ line, column int }

// locate notes where each key and entry of the document stands.
func locate(path string, node ast.Node, places map[string]place) {
	if tok := node.GetToken(); tok != nil && tok.Position != nil {
		if _, known := places[path]; !known {
			places[path] = place{tok.Position.Line, tok.Position.Column}
		}
	}
	switch n := node.(type) {
	case *ast.MappingNode:
		for _, v := range n.Values {
			locate(path, v, places)
		}
	case *ast.MappingValueNode:
		key := n.Key.GetToken()
		child := key.Value
		if path != "" {
			child = path + "." + key.Value
		}
		places[child] = place{key.Position.Line, key.Position.Column}
		locate(child, n.Value, places)
	case *ast.SequenceNode:
		for i, v := range n.Values {
			child := fmt.Sprintf("%s[%d]", path, i)
			if m, ok := v.(*ast.MappingNode); ok && len(m.Values) > 0 { // its first key, not its brace
				p := m.Values[0].Key.GetToken().Position
				places[child] = place{p.Line, p.Column}
			}
			locate(child, v, places)
		}
	}
}

// nearest finds the place of a path, or of the closest thing around it when
// the flaw is that the thing itself is missing.
func nearest(places map[string]place, path string) place {
	for path != "" {
		if p, ok := places[path]; ok {
			return p
		}
		path = path[:max(0, strings.LastIndexAny(path, ".["))]
	}
	return place{1, 1}
}

var position = regexp.MustCompile(`^\[(\d+):(\d+)\] ([^\n]*)`)

func fromYAML(name string, err error) Fault {
	var typed yaml.Error
	if errors.As(err, &typed) {
		if tok := typed.GetToken(); tok != nil && tok.Position != nil {
			return Fault{name, tok.Position.Line, tok.Position.Column, plain(typed.GetMessage())}
		}
	}
	if found := position.FindStringSubmatch(err.Error()); found != nil {
		line, _ := strconv.Atoi(found[1])
		column, _ := strconv.Atoi(found[2])
		return Fault{name, line, column, plain(found[3])}
	}
	first, _, _ := strings.Cut(err.Error(), "\n")
	return Fault{name, 1, 1, plain(first)}
}

var (
	unknownField = regexp.MustCompile(`unknown field "([^"]+)"`)
	wrongKind    = regexp.MustCompile(`cannot unmarshal (\S+) into Go (?:struct field \S+|value) of type (\S+)`)
)

// plain says the reader's errors in the words of a map.
func plain(message string) string {
	if f := unknownField.FindStringSubmatch(message); f != nil {
		if strings.ContainsAny(f[1], " .") {
			return fmt.Sprintf("%q stands where a key is expected: put the text with its comma in quotes", f[1])
		}
		return fmt.Sprintf("unknown key %q: the format has no such key here", f[1])
	}
	if f := wrongKind.FindStringSubmatch(message); f != nil {
		want := map[string]string{"int": "a whole number", "float64": "a number", "bool": "true or false", "string": "a text"}[f[2]]
		if want == "" {
			want = "a list or a block"
		}
		return fmt.Sprintf("expected %s here, found %s", want, map[string]string{"string": "a text", "uint64": "a number", "int64": "a number", "float64": "a number", "bool": "true or false"}[f[1]])
	}
	return message
}
