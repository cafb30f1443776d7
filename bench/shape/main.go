// Command shape measures the shape of the core against the targets of
// docs/architecture.md: how long its files are, how many methods a type has, which
// files of a room hang on one another in a circle, and how many places have to
// name every event kind, snag kind and quantity.
//
//	go run ./bench/shape          prints the figures
//	go run ./bench/shape -v       and names what stands behind each
//	go run ./bench/shape -check   ends with an error where a target is missed
package main

import (
	"flag"
	"fmt"
	"go/ast"
	"go/importer"
	"go/parser"
	"go/token"
	"go/types"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
)

// The targets.
const (
	mostLines    = 400 // of a file, outside the planner
	mostMethods  = 30
	mostKind     = 3 // places that have to name an event kind
	mostSnag     = 1 // a snag kind
	mostQuantity = 3
	mostScreen   = 6 // files that a screen of the core stands in
	mostPage     = 250
	mostUntested = 5
)

// A declaration that names so large a share of a set has to name all of it.
const share = 1.0 / 3

type figure struct {
	what   string
	is     int
	most   int // -1 where nothing is asked
	behind []string
}

func main() {
	verbose := flag.Bool("v", false, "name what stands behind each figure")
	check := flag.Bool("check", false, "end with an error where a target is missed")
	flag.Parse()
	figures, err := measure(".")
	if err != nil {
		fmt.Fprintln(os.Stderr, "measuring the shape of the core:", err)
		os.Exit(1)
	}
	missed := false
	for _, f := range figures {
		target := ""
		if f.most >= 0 {
			target = fmt.Sprintf("at most %d", f.most)
			if f.is > f.most {
				target += ", missed"
				missed = true
			}
		}
		fmt.Printf("%-52s %6d   %s\n", f.what, f.is, target)
		if *verbose || f.most >= 0 && f.is > f.most {
			for _, b := range f.behind {
				fmt.Println("    " + b)
			}
		}
	}
	if *check && missed {
		os.Exit(1)
	}
}

// room is one package of the core.
type room struct {
	dir   string
	names []string // of its files
	files []*ast.File
	info  *types.Info
	pkg   *types.Package
}

func measure(root string) ([]figure, error) {
	set := token.NewFileSet()
	rooms, err := read(set, filepath.Join(root, "core"))
	if err != nil {
		return nil, err
	}
	long := figure{what: "files of the core over 400 lines, without the planner", most: 0}
	code := figure{what: "lines of code in the core (no comments, blanks, imports)", most: -1}
	methods := figure{what: "methods of the type that has most", most: mostMethods}
	circles := figure{what: "files that hang on one another in a circle", most: 0}
	for _, r := range rooms {
		for i, f := range r.files {
			lines := set.File(f.Pos()).LineCount()
			if lines > mostLines && !strings.HasSuffix(r.dir, "/plan") {
				long.behind = append(long.behind, fmt.Sprintf("%s %d", r.names[i], lines))
			}
			code.is += codeLines(r.names[i])
		}
		for name, n := range r.methods() {
			if n > methods.is && !strings.HasSuffix(r.dir, "/plan") {
				methods.is, methods.behind = n, []string{r.dir + "." + name}
			}
		}
		if !strings.HasSuffix(r.dir, "/plan") {
			circles.behind = append(circles.behind, r.circles(set)...)
		}
	}
	long.is, circles.is = len(long.behind), len(circles.behind)
	kinds := places(set, rooms, "an event kind: places that name it", mostKind, eventKinds(rooms))
	kinds.is++ // its own type
	snags := places(set, rooms, "a snag kind: places that name it", mostSnag, snagKinds(rooms))
	quantities := places(set, rooms, "a quantity: places that name it", mostQuantity, constants(rooms, "reading", "Quantity"))
	screen, err := screenFiles(root)
	if err != nil {
		return nil, err
	}
	pages, tests, err := pageFiles(root)
	if err != nil {
		return nil, err
	}
	return []figure{code, long, methods, circles, kinds, snags, quantities, screen, pages, tests}, nil
}

// pageFiles are the files of the pages that are too long to be read at once, and how
// many of their lines stand behind each line of their tests.
func pageFiles(root string) (long, tests figure, err error) {
	long = figure{what: fmt.Sprintf("files of the pages over %d lines", mostPage), most: 0}
	tests = figure{what: "lines of the pages for one line of their tests", most: mostUntested}
	written, tried := 0, 0
	err = filepath.WalkDir(filepath.Join(root, "web/src"), func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".ts") && !strings.HasSuffix(path, ".tsx") {
			return err
		}
		data, err := os.ReadFile(path)
		if err != nil || strings.HasSuffix(path, ".d.ts") || strings.HasPrefix(string(data), "// Made by ") {
			return err
		}
		lines := strings.Count(string(data), "\n")
		switch {
		case strings.Contains(path, ".test") || strings.Contains(path, "/testing/"):
			tried += lines
		default:
			written += lines
			if lines > mostPage && strings.HasSuffix(path, ".tsx") {
				long.behind = append(long.behind, fmt.Sprintf("%s %d", path, lines))
			}
		}
		return nil
	})
	long.is = len(long.behind)
	if tried > 0 {
		tests.is = (written + tried - 1) / tried
	}
	return long, tests, err
}

// read parses and checks every package below a folder, tests left out.
func read(set *token.FileSet, root string) (rooms []*room, err error) {
	from := importer.ForCompiler(set, "source", nil)
	err = filepath.WalkDir(root, func(path string, d fs.DirEntry, err error) error {
		if err != nil || !d.IsDir() || strings.Contains(path, "testdata") {
			return err
		}
		r := &room{dir: path, info: &types.Info{Uses: map[*ast.Ident]types.Object{}, Defs: map[*ast.Ident]types.Object{}}}
		names, err := filepath.Glob(path + "/*.go")
		if err != nil {
			return err
		}
		for _, name := range names {
			if strings.HasSuffix(name, "_test.go") {
				continue
			}
			f, err := parser.ParseFile(set, name, nil, parser.ParseComments)
			if err != nil {
				return err
			}
			r.names, r.files = append(r.names, name), append(r.files, f)
		}
		if len(r.files) == 0 {
			return nil
		}
		conf := types.Config{Importer: from}
		if r.pkg, err = conf.Check("evensteps/"+path, set, r.files, r.info); err != nil {
			return err
		}
		rooms = append(rooms, r)
		return nil
	})
	return rooms, err
}

func codeLines(name string) int {
	data, err := os.ReadFile(name)
	if err != nil {
		return 0
	}
	n, imports := 0, false
	for _, line := range strings.Split(string(data), "\n") {
		line = strings.TrimSpace(line)
		switch {
		case strings.HasPrefix(line, "import ("):
			imports = true
		case imports:
			imports = line != ")"
		case line == "" || strings.HasPrefix(line, "//") || strings.HasPrefix(line, "import "):
		default:
			n++
		}
	}
	return n
}

func (r *room) methods() map[string]int {
	count := map[string]int{}
	for _, f := range r.files {
		for _, d := range f.Decls {
			if fn, is := d.(*ast.FuncDecl); is && fn.Recv != nil {
				t := fn.Recv.List[0].Type
				if star, is := t.(*ast.StarExpr); is {
					t = star.X
				}
				if name, is := t.(*ast.Ident); is {
					count[name.Name]++
				}
			}
		}
	}
	return count
}

// circles are the sets of files of a room of which each hangs on each other:
// strongly connected ones, by what a file uses that another declares.
func (r *room) circles(set *token.FileSet) (out []string) {
	file := func(p token.Pos) string { return filepath.Base(set.Position(p).Filename) }
	uses := map[string]map[string]bool{}
	for id, o := range r.info.Uses {
		if o.Pkg() != r.pkg || !o.Pos().IsValid() {
			continue
		}
		if v, is := o.(*types.Var); is && v.IsField() {
			continue // a field comes with its type
		}
		from, to := file(id.Pos()), file(o.Pos())
		if from != to {
			if uses[from] == nil {
				uses[from] = map[string]bool{}
			}
			uses[from][to] = true
		}
	}
	var reach func(from string, seen map[string]bool)
	reach = func(from string, seen map[string]bool) {
		for to := range uses[from] {
			if !seen[to] {
				seen[to] = true
				reach(to, seen)
			}
		}
	}
	done := map[string]bool{}
	for _, from := range slices.Sorted(maps.Keys(uses)) {
		if done[from] {
			continue
		}
		mine := map[string]bool{}
		reach(from, mine)
		circle := []string{}
		for _, to := range slices.Sorted(maps.Keys(mine)) {
			back := map[string]bool{}
			reach(to, back)
			if back[from] && mine[from] {
				circle = append(circle, to)
				done[to] = true
			}
		}
		if len(circle) > 1 {
			out = append(out, r.dir+": "+strings.Join(circle, " "))
		}
	}
	return out
}

// places are the declarations of the core that have to name every member of a set:
// those that name at least a third of it.
func places(set *token.FileSet, rooms []*room, what string, most int, names map[string]bool) figure {
	out := figure{what: what, most: most}
	for _, r := range rooms {
		for _, f := range r.files {
			for _, d := range f.Decls {
				found := map[string]bool{}
				ast.Inspect(d, func(n ast.Node) bool {
					switch n := n.(type) {
					case *ast.Ident:
						if names[n.Name] {
							found[n.Name] = true
						}
					case *ast.BasicLit:
						if text := strings.Trim(n.Value, `"`); names[text] {
							found[text] = true
						}
					}
					return true
				})
				if float64(len(found)) >= share*float64(len(names)) {
					at := set.Position(d.Pos())
					out.behind = append(out.behind, fmt.Sprintf("%s:%d names %d of %d", at.Filename, at.Line, len(found), len(names)))
				}
			}
		}
	}
	out.is = len(out.behind)
	return out
}

// eventKinds are the types of package record that check themselves.
func eventKinds(rooms []*room) map[string]bool {
	out := map[string]bool{}
	for _, r := range rooms {
		if !strings.HasSuffix(r.dir, "/record") {
			continue
		}
		for _, f := range r.files {
			for _, d := range f.Decls {
				fn, is := d.(*ast.FuncDecl)
				if !is || fn.Recv == nil || fn.Name.Name != "check" {
					continue
				}
				if star, is := fn.Recv.List[0].Type.(*ast.StarExpr); is && fn.Type.Params.NumFields() == 0 {
					out[star.X.(*ast.Ident).Name] = true
				}
			}
		}
	}
	return out
}

// snagKinds are the keys of the table of kinds of package snags.
func snagKinds(rooms []*room) map[string]bool {
	out := map[string]bool{}
	for _, r := range rooms {
		if !strings.HasSuffix(r.dir, "/snags") {
			continue
		}
		for _, f := range r.files {
			ast.Inspect(f, func(n ast.Node) bool {
				v, is := n.(*ast.ValueSpec)
				if !is || v.Names[0].Name != "kinds" || len(v.Values) == 0 {
					return true
				}
				for _, e := range v.Values[0].(*ast.CompositeLit).Elts {
					out[strings.Trim(e.(*ast.KeyValueExpr).Key.(*ast.BasicLit).Value, `"`)] = true
				}
				return false
			})
		}
	}
	return out
}

// constants are those of a type in a room.
func constants(rooms []*room, in, of string) map[string]bool {
	out := map[string]bool{}
	for _, r := range rooms {
		if !strings.HasSuffix(r.dir, "/"+in) {
			continue
		}
		for _, name := range r.pkg.Scope().Names() {
			if c, is := r.pkg.Scope().Lookup(name).(*types.Const); is && strings.HasSuffix(c.Type().String(), "."+of) {
				out[name] = true
			}
		}
	}
	return out
}

// screenFiles are the files written by hand that have to name one screen of the
// core, the decision: its room, its page, and whatever else says its name. The
// links that lead to it count as one door: it needs one, and may have more.
func screenFiles(root string) (figure, error) {
	out := figure{what: "a screen of the core: files that name it", most: mostScreen}
	inGo := regexp.MustCompile(`\bDecide\b|"decide"`)
	inPages := regexp.MustCompile(`\b(Decide|DecideScreen)\b|"decide"`)
	door := regexp.MustCompile(`/decide\x60`)
	doors := []string{}
	err := filepath.WalkDir(root, func(path string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		if d.IsDir() && (strings.HasPrefix(d.Name(), ".") && path != "." || slices.Contains([]string{"node_modules", "dist", "docs", "e2e", "bench", "testdata", "testing"}, d.Name())) {
			return fs.SkipDir
		}
		isGo := strings.HasSuffix(path, ".go") && !strings.HasSuffix(path, "_test.go")
		isPage := (strings.HasSuffix(path, ".ts") && !strings.HasSuffix(path, ".d.ts") || strings.HasSuffix(path, ".tsx")) && !strings.Contains(path, ".test.")
		if !isGo && !isPage || strings.Contains(path, "web/src/decide/") || strings.Contains(path, "core/diagnosis/") {
			return nil
		}
		data, err := os.ReadFile(path)
		if err != nil || strings.HasPrefix(string(data), "// Made by ") {
			return err
		}
		named := inPages
		if isGo {
			named = inGo
		}
		// A word of a label is no name of the screen.
		text := strings.ReplaceAll(string(data), `label="Decide"`, "")
		switch code := withoutComments(text); {
		case named.MatchString(code):
			out.behind = append(out.behind, path)
		case isPage && door.MatchString(code):
			doors = append(doors, path)
		}
		return nil
	})
	if len(doors) > 0 {
		out.behind = append(out.behind, "a door to it: "+strings.Join(doors, ", "))
	}
	out.is = len(out.behind) + 2 // its room and its page
	return out, err
}

// withoutComments leaves out the lines that are comments.
func withoutComments(text string) string {
	var kept []string
	for _, line := range strings.Split(text, "\n") {
		if !strings.HasPrefix(strings.TrimSpace(line), "//") {
			kept = append(kept, line)
		}
	}
	return strings.Join(kept, "\n")
}
