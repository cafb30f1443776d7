// Command licences writes what ships with the program and under which licence:
// the Go modules that are linked into it and into the browser's core, the npm
// packages that the pages are built from, and the faces, each with its text.
// Run it by make licences; a test tells when the list is behind.
package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
)

// thing is one module or package that ships.
type thing struct {
	name, version, dir string
}

func main() {
	if len(os.Args) != 2 {
		fmt.Fprintln(os.Stderr, "licences FILE")
		os.Exit(2)
	}
	if err := write(os.Args[1]); err != nil {
		fmt.Fprintln(os.Stderr, "licences:", err)
		os.Exit(1)
	}
}

func write(file string) error {
	things, err := modules()
	if err != nil {
		return err
	}
	pages, err := packages()
	if err != nil {
		return err
	}
	var b bytes.Buffer
	fmt.Fprintf(&b, "Even Steps ships these %d modules, packages and faces, each under its own licence.\n\n", len(things)+len(pages))
	all := append(things, pages...)
	for _, t := range all {
		fmt.Fprintf(&b, "  %s %s\n", t.name, t.version)
	}
	for _, t := range all {
		text, err := licence(t.dir)
		if err != nil {
			return fmt.Errorf("%s: %w", t.name, err)
		}
		fmt.Fprintf(&b, "\n%s\n%s %s\n\n%s\n", strings.Repeat("-", 72), t.name, t.version, strings.TrimSpace(text))
	}
	return os.WriteFile(file, b.Bytes(), 0o644)
}

// modules are those that the program and the browser's core are linked from.
func modules() ([]thing, error) {
	seen := map[string]thing{}
	for _, build := range []struct {
		pkg string
		env []string
	}{{"evensteps/cmd/evensteps", nil}, {"evensteps/wasm", []string{"GOOS=js", "GOARCH=wasm"}}} {
		cmd := exec.Command("go", "list", "-deps", "-f", "{{with .Module}}{{.Path}} {{.Version}} {{.Dir}}{{end}}", build.pkg)
		cmd.Env = append(os.Environ(), build.env...)
		out, err := cmd.Output()
		if err != nil {
			return nil, fmt.Errorf("listing what %s is linked from: %w", build.pkg, err)
		}
		for _, line := range strings.Split(string(out), "\n") {
			if f := strings.Fields(line); len(f) == 3 {
				seen[f[0]] = thing{f[0], f[1], f[2]}
			}
		}
	}
	root, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		return nil, fmt.Errorf("looking for Go itself: %w", err)
	}
	seen["Go"] = thing{"Go standard library", "", strings.TrimSpace(string(root))}
	return sorted(seen), nil
}

// packages are the npm packages that the pages need when they run.
func packages() ([]thing, error) {
	out, err := exec.Command("npm", "ls", "--prefix", "web", "--omit=dev", "--all", "--parseable", "--loglevel=error").Output()
	if err != nil {
		return nil, fmt.Errorf("listing the packages of the pages: %w", err)
	}
	seen := map[string]thing{}
	for _, dir := range strings.Fields(string(out)) {
		var p struct{ Name, Version string }
		data, err := os.ReadFile(filepath.Join(dir, "package.json"))
		if err != nil || json.Unmarshal(data, &p) != nil || !strings.Contains(dir, "node_modules") {
			continue
		}
		seen[p.Name+p.Version] = thing{p.Name, p.Version, dir}
	}
	return sorted(seen), nil
}

func sorted(seen map[string]thing) []thing {
	var out []thing
	for _, t := range seen {
		out = append(out, t)
	}
	slices.SortFunc(out, func(a, b thing) int { return strings.Compare(a.name+a.version, b.name+b.version) })
	return out
}

// licence is the licence's text in a module's or package's folder; a package
// without one gives its licence's name.
func licence(dir string) (string, error) {
	for _, pattern := range []string{"LICEN[SC]E*", "licen[sc]e*", "Licen[sc]e*", "COPYING*", "OFL*"} {
		found, err := filepath.Glob(filepath.Join(dir, pattern))
		if err != nil {
			return "", fmt.Errorf("looking for its licence: %w", err)
		}
		for _, f := range found {
			if text, err := os.ReadFile(f); err == nil {
				return string(text), nil
			}
		}
	}
	var p struct{ License string }
	if data, err := os.ReadFile(filepath.Join(dir, "package.json")); err == nil && json.Unmarshal(data, &p) == nil && p.License != "" {
		return "Licence as its package says: " + p.License, nil
	}
	return "", errors.New("no licence is found with it")
}
