package core_test

import (
	"encoding/json"
	"fmt"
	"go/ast"
	"go/importer"
	"go/parser"
	"go/token"
	"go/types"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const mapPackage = "evensteps/core/machine"

// A key of the map that is read and checked but that nothing works with is a
// promise to its author that nobody keeps. What only checks a map is no reader.
func TestNoKeyOfTheMapWithoutAReader(t *testing.T) {
	read := readFields(t, "./core/...", "./server", "./library")
	files, err := filepath.Glob(filepath.Join("machine", "*.go"))
	require.NoError(t, err)
	keys := 0
	var decls []ast.Decl
	for _, name := range files {
		src, err := parser.ParseFile(token.NewFileSet(), name, nil, 0)
		require.NoError(t, err)
		decls = append(decls, src.Decls...)
	}
	for _, d := range decls {
		for _, spec := range specs(d) {
			s, is := spec.Type.(*ast.StructType)
			if !is {
				continue
			}
			for _, f := range s.Fields.List {
				for _, name := range f.Names {
					if !name.IsExported() || name.Name == "Aware" { // why a warning does not hold: the check itself reads it
						continue
					}
					keys++
					assert.True(t, read[spec.Name.Name+"."+name.Name], "nobody reads %s of %s: use it, or take it out of the format", name.Name, spec.Name.Name)
				}
			}
		}
	}
	assert.Greater(t, keys, 150, "the types of the map were found")
}

func specs(d ast.Decl) (out []*ast.TypeSpec) {
	if g, is := d.(*ast.GenDecl); is {
		for _, s := range g.Specs {
			if t, is := s.(*ast.TypeSpec); is {
				out = append(out, t)
			}
		}
	}
	return out
}

// readFields are the fields of the map's types ("Move.Takes") that these packages
// read, by the type checker of Go itself.
func readFields(t *testing.T, patterns ...string) map[string]bool {
	t.Helper()
	cmd := exec.Command("go", append([]string{"list", "-export", "-deps", "-json=ImportPath,Dir,Export,GoFiles,Standard,DepOnly"}, patterns...)...)
	cmd.Dir = ".."
	list, err := cmd.Output()
	require.NoError(t, err)
	type pkg struct {
		ImportPath, Dir, Export string
		GoFiles                 []string
		Standard, DepOnly       bool
	}
	exports := map[string]string{}
	var own []pkg
	for dec := json.NewDecoder(strings.NewReader(string(list))); ; {
		var p pkg
		if dec.Decode(&p) != nil {
			break
		}
		exports[p.ImportPath] = p.Export
		checks := p.ImportPath == mapPackage+"/lint"
		if !p.DepOnly && !checks && !strings.HasSuffix(p.ImportPath, "test") {
			own = append(own, p)
		}
	}
	fset := token.NewFileSet()
	imports := importer.ForCompiler(fset, "gc", func(path string) (io.ReadCloser, error) {
		if exports[path] == "" {
			return nil, fmt.Errorf("no export data of %s", path)
		}
		return os.Open(exports[path])
	})
	read := map[string]bool{}
	for _, p := range own {
		var files []*ast.File
		for _, name := range p.GoFiles {
			f, err := parser.ParseFile(fset, filepath.Join(p.Dir, name), nil, 0)
			require.NoError(t, err)
			files = append(files, f)
		}
		info := &types.Info{Selections: map[*ast.SelectorExpr]*types.Selection{}, Types: map[ast.Expr]types.TypeAndValue{}}
		conf := types.Config{Importer: imports, Error: func(error) {}} // of the map's own package a part is left out
		_, _ = conf.Check(p.ImportPath, fset, files, info)
		written := map[ast.Expr]bool{}
		for _, f := range files {
			ast.Inspect(f, func(n ast.Node) bool {
				if a, is := n.(*ast.AssignStmt); is {
					for _, l := range a.Lhs {
						written[l] = true
					}
				}
				return true
			})
		}
		for sel, s := range info.Selections {
			if !written[sel] {
				path(s.Recv(), s.Index(), read)
			}
		}
		for call, arg := range conversions(files, info) {
			if s, is := arg.Underlying().(*types.Struct); is && info.Types[call].Type != arg {
				for i := range s.NumFields() {
					path(arg, []int{i}, read)
				}
			}
		}
	}
	return read
}

// path marks the fields on the way from a type along an index, as the type
// checker gives it.
func path(from types.Type, index []int, read map[string]bool) {
	for _, i := range index {
		if p, is := from.Underlying().(*types.Pointer); is {
			from = p.Elem()
		}
		s, is := from.Underlying().(*types.Struct)
		if !is || i >= s.NumFields() {
			return
		}
		if n, is := types.Unalias(from).(*types.Named); is && n.Obj().Pkg() != nil && n.Obj().Pkg().Path() == mapPackage {
			read[n.Obj().Name()+"."+s.Field(i).Name()] = true
		}
		from = s.Field(i).Type()
	}
}

// conversions are the calls that turn one type into another, with the type of what
// is turned: a struct that becomes another is read whole.
func conversions(files []*ast.File, info *types.Info) map[ast.Expr]types.Type {
	out := map[ast.Expr]types.Type{}
	for _, f := range files {
		ast.Inspect(f, func(n ast.Node) bool {
			call, is := n.(*ast.CallExpr)
			if is && len(call.Args) == 1 && info.Types[call.Fun].IsType() {
				if arg := info.Types[call.Args[0]].Type; arg != nil {
					out[call] = arg
				}
			}
			return true
		})
	}
	return out
}
