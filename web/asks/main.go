// Command asks writes the pages' side of the core's table of questions (package
// job, Asks): the types that the worker and the client of the core are held to.
package main

import (
	"fmt"
	"os"
	"reflect"
	"strings"

	"evensteps/core/job"
)

func main() { fmt.Fprint(os.Stdout, written()) }

func written() string {
	var b strings.Builder
	b.WriteString(`// Made by web/asks from the core's table of questions; make api.
import type { components } from "../api/schema";

type Schemas = components["schemas"];

/** What the core is asked about a job: what goes in beside the job, and what comes out. */
export interface Asks {
`)
	for _, a := range job.Asks {
		in := "undefined"
		if a.In != nil {
			in = typeOf(a.In)
		}
		fmt.Fprintf(&b, "  /** %s. */\n  %s: { in: %s; out: %s };\n", a.Summary, a.Name, in, typeOf(a.Out))
	}
	b.WriteString("}\n")
	return b.String()
}

// typeOf is a type of Go as TypeScript has it: what the API document names, and maps
// of text.
func typeOf(t reflect.Type) string {
	if t.Kind() == reflect.Map {
		return "Record<string, string>"
	}
	return `Schemas["` + t.Name() + `"]`
}
