// Package library holds the machine maps that ship with the program, one
// folder for each kind of machine.
package library

import (
	"cmp"
	"embed"
	"fmt"
	"io/fs"
	"slices"
	"sync"

	"evensteps/core/machine"
	"evensteps/core/machine/mapfile"
)

//go:embed */*.yaml
var files embed.FS

// Maps are all maps that ship, read and checked once, in the order of their ids.
// They are shared: whoever changes one changes a copy. An error names the file,
// line and column of the first fault.
func Maps() ([]*machine.Map, error) {
	all, err := read()
	return slices.Clone(all), err
}

var read = sync.OnceValues(func() ([]*machine.Map, error) {
	paths, err := fs.Glob(files, "*/*.yaml")
	if err != nil {
		return nil, fmt.Errorf("listing the library: %w", err)
	}
	var out []*machine.Map
	for _, path := range paths {
		data, err := files.ReadFile(path)
		if err != nil {
			return nil, fmt.Errorf("reading the library: %w", err)
		}
		m, err := mapfile.Read("library/"+path, data)
		if err != nil {
			return nil, err
		}
		out = append(out, m)
	}
	slices.SortFunc(out, func(a, b *machine.Map) int { return cmp.Compare(a.ID, b.ID) })
	return out, nil
})

// Map is one map of the library by its id, shared as they all are.
func Map(id string) (*machine.Map, error) {
	all, err := read()
	if err != nil {
		return nil, err
	}
	for _, m := range all {
		if m.ID == id {
			return m, nil
		}
	}
	return nil, fmt.Errorf("the library has no map %q", id)
}
