// Command mutate puts deliberate faults into a package, one at a time, and tells
// which of them the tests find. It changes no file: each fault is laid over the
// source for one run of the tests. The sample is drawn by a seed, so that a run
// can be made again.
//
//	go run ./bench/mutate -n 200 core/energy
//	go run ./bench/mutate -n 200 -also ./core/ladder core/record
package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"go/ast"
	"go/format"
	"go/parser"
	"go/token"
	"io/fs"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"
)

// fault is one deliberate fault: where, what it does, and the file with it.
type fault struct {
	file, what string
	line       int
	source     []byte
}

func (f fault) String() string { return fmt.Sprintf("%s:%d: %s", f.file, f.line, f.what) }

func main() {
	n := flag.Int("n", 200, "how many faults are drawn")
	seed := flag.Uint64("seed", 1, "of the sample")
	also := flag.String("also", "", "further packages whose tests are run where its own find nothing, comma by comma")
	workers := flag.Int("workers", 1, "how many at the same time")
	most := flag.Duration("most", 200*time.Second, "how long the tests may take; a fault that hangs them counts as found")
	only := flag.String("only", "", "a part of the file names that are taken")
	again := flag.String("again", "", "a file of what an earlier run printed: only the faults in it are tried")
	flag.Parse()
	if flag.NArg() != 1 {
		fmt.Fprintln(os.Stderr, "mutate [-n 200] [-seed 1] [-also PACKAGES] FOLDER")
		os.Exit(2)
	}
	if err := run(flag.Arg(0), *only, *again, *n, *seed, *also, *workers, *most); err != nil {
		fmt.Fprintln(os.Stderr, "mutate:", err)
		os.Exit(1)
	}
}

func run(folder, only, again string, n int, seed uint64, also string, workers int, most time.Duration) error {
	paths, err := filepath.Glob(filepath.Join(folder, "*.go"))
	if err != nil {
		return fmt.Errorf("listing %s: %w", folder, err)
	}
	// A property test writes down what it failed at; of a deliberate fault that is
	// of no use.
	failures := filepath.Join(folder, "testdata", "rapid")
	if _, err := os.Stat(failures); errors.Is(err, fs.ErrNotExist) {
		defer func() { _ = os.RemoveAll(failures) }()
	}
	var all []fault
	for _, path := range paths {
		if strings.HasSuffix(path, "_test.go") || !strings.Contains(path, only) {
			continue
		}
		found, err := faults(path)
		if err != nil {
			return err
		}
		all = append(all, found...)
	}
	r := rand.New(rand.NewPCG(seed, 1))
	r.Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
	all = all[:min(n, len(all))]
	if again != "" {
		before, err := os.ReadFile(again)
		if err != nil {
			return fmt.Errorf("reading what survived before: %w", err)
		}
		all = slices.DeleteFunc(all, func(f fault) bool { return !slices.Contains(strings.Split(string(before), "\n"), f.String()) })
	}
	packages := [][]string{{"./" + folder}}
	for _, p := range strings.Split(also, ",") {
		if p != "" {
			packages = append(packages, []string{p})
		}
	}
	for _, p := range packages { // what fails without a fault would find every one
		if out, err := exec.Command("go", append([]string{"test", "-count=1", "-failfast", "-vet=off"}, p...)...).CombinedOutput(); err != nil {
			return fmt.Errorf("the tests of %s fail without any fault: %w: %s", p[0], err, bytes.TrimSpace(out[max(0, len(out)-500):]))
		}
	}
	var mu sync.Mutex
	var survived []string
	foundN, broken, tried := 0, 0, 0
	work := make(chan fault)
	var done sync.WaitGroup
	for range workers {
		done.Go(func() {
			for f := range work {
				result := try(f, packages, most)
				mu.Lock()
				if tried++; tried%10 == 0 {
					fmt.Fprintf(os.Stderr, "%d of %d tried\n", tried, len(all))
				}
				switch result {
				case "found":
					foundN++
				case "does not compile":
					broken++
				default:
					survived = append(survived, f.String())
					fmt.Println(survived[len(survived)-1])
				}
				mu.Unlock()
			}
		})
	}
	for _, f := range all {
		work <- f
	}
	close(work)
	done.Wait()
	judged := foundN + len(survived)
	if judged == 0 {
		return fmt.Errorf("no fault could be tried in %s", folder)
	}
	fmt.Printf("%s: %d faults, %d found (%.0f %%), %d not; %d more did not compile; seed %d\n", folder, judged, foundN, 100*float64(foundN)/float64(judged), len(survived), broken, seed)
	return nil
}

// try lays a fault over its file and runs the tests.
func try(f fault, packages [][]string, most time.Duration) string {
	dir, err := os.MkdirTemp("", "mutate")
	if err != nil {
		return err.Error()
	}
	defer func() { _ = os.RemoveAll(dir) }()
	changed := filepath.Join(dir, "changed.go")
	whole, err := filepath.Abs(f.file)
	if err != nil {
		return err.Error()
	}
	overlay, err := json.Marshal(map[string]any{"Replace": map[string]string{whole: changed}})
	if err != nil {
		return err.Error()
	}
	list := filepath.Join(dir, "overlay.json")
	if os.WriteFile(changed, f.source, 0o600) != nil || os.WriteFile(list, overlay, 0o600) != nil {
		return "the fault cannot be written"
	}
	for _, p := range packages {
		ctx, cancel := context.WithTimeout(context.Background(), most+time.Minute)
		out, err := exec.CommandContext(ctx, "go", append([]string{"test", "-overlay", list, "-count=1", "-failfast", "-vet=off", "-timeout", most.String()}, p...)...).CombinedOutput()
		cancel()
		if err != nil {
			if bytes.Contains(out, []byte("[build failed]")) || bytes.Contains(out, []byte("[setup failed]")) {
				return "does not compile"
			}
			return "found"
		}
	}
	return "survived"
}

var swapped = map[token.Token]token.Token{
	token.LSS: token.LEQ, token.LEQ: token.LSS, token.GTR: token.GEQ, token.GEQ: token.GTR, token.EQL: token.NEQ, token.NEQ: token.EQL,
	token.LAND: token.LOR, token.LOR: token.LAND, token.ADD: token.SUB, token.SUB: token.ADD, token.MUL: token.QUO, token.QUO: token.MUL,
}

// faults are all that can be put into one file: a condition always or never met,
// a comparison, an operator or a number changed, a statement or a case left out.
func faults(path string) ([]fault, error) {
	source, err := os.ReadFile(path)
	if err != nil {
		return nil, fmt.Errorf("reading %s: %w", path, err)
	}
	var out []fault
	// Each fault is made in a tree of its own: k counts the places of a fresh walk.
	for k := 0; ; k++ {
		fset := token.NewFileSet()
		file, err := parser.ParseFile(fset, path, source, parser.ParseComments)
		if err != nil {
			return nil, fmt.Errorf("reading %s: %w", path, err)
		}
		what, pos := change(file, k)
		if what == "" {
			return out, nil
		}
		var text bytes.Buffer
		if err := format.Node(&text, fset, file); err != nil {
			continue
		}
		out = append(out, fault{path, what, fset.Position(pos).Line, text.Bytes()})
	}
}

// change makes the k-th possible change in a file, and says which.
func change(file *ast.File, k int) (what string, pos token.Pos) {
	n := -1
	take := func(node ast.Node, say string, do func()) {
		if n++; n == k {
			what, pos = say, node.Pos()
			do()
		}
	}
	ast.Inspect(file, func(node ast.Node) bool {
		if what != "" {
			return false
		}
		switch x := node.(type) {
		case *ast.GenDecl:
			return x.Tok == token.CONST || x.Tok == token.VAR // no imports or types
		case *ast.IfStmt:
			if _, constant := x.Cond.(*ast.Ident); !constant {
				cond := x.Cond
				always := func(word string, op token.Token) func() {
					// what it names is still used
					return func() { x.Cond = &ast.BinaryExpr{X: &ast.ParenExpr{X: cond}, Op: op, Y: ast.NewIdent(word)} }
				}
				take(x, "the condition is never met", always("false", token.LAND))
				take(x, "the condition is always met", always("true", token.LOR))
			}
		case *ast.BinaryExpr:
			if to, ok := swapped[x.Op]; ok {
				take(x, fmt.Sprintf("%s became %s", x.Op, to), func() { x.Op = to })
			}
		case *ast.UnaryExpr:
			if x.Op == token.NOT {
				take(x, "not left out", func() { x.Op, x.X = token.NOT, &ast.ParenExpr{X: &ast.UnaryExpr{Op: token.NOT, X: x.X}} })
			}
		case *ast.BasicLit:
			if v, err := strconv.Atoi(x.Value); err == nil && x.Kind == token.INT {
				take(x, fmt.Sprintf("%d became %d", v, v+1), func() { x.Value = strconv.Itoa(v + 1) })
			}
			if v, err := strconv.ParseFloat(x.Value, 64); err == nil && x.Kind == token.FLOAT {
				take(x, fmt.Sprintf("%s became %g", x.Value, 2*v), func() { x.Value = strconv.FormatFloat(2*v, 'g', -1, 64) })
			}
		case *ast.BlockStmt:
			whole := x.List
			for i := range whole {
				drop(whole, i, take, func(rest []ast.Stmt) { x.List = rest })
			}
		case *ast.CaseClause:
			whole := x.Body
			for i := range whole {
				drop(whole, i, take, func(rest []ast.Stmt) { x.Body = rest })
			}
		}
		return what == ""
	})
	return what, pos
}

// drop leaves one statement out, where what is left can still compile.
func drop(list []ast.Stmt, i int, take func(ast.Node, string, func()), set func([]ast.Stmt)) {
	switch s := list[i].(type) {
	case *ast.ExprStmt, *ast.IncDecStmt, *ast.BranchStmt:
	case *ast.AssignStmt:
		if s.Tok == token.DEFINE {
			return
		}
	case *ast.IfStmt:
		if s.Init != nil {
			return
		}
	default:
		return
	}
	take(list[i], "a statement left out", func() { set(slices.Delete(slices.Clone(list), i, i+1)) })
}
