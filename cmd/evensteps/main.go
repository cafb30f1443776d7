// Command evensteps is the one program: the server, the demo, and the core at
// the command line.
package main

import (
	"errors"
	"fmt"
	"os"

	"github.com/spf13/cobra"
)

func main() { os.Exit(run(os.Args[1:])) }

// no is an answer that is no: an unsound map, no plan, a refused event. The
// program then exits 1; wrong use exits 2.
type no struct{ error }

func (n no) Unwrap() error { return n.error }

func run(args []string) int {
	root := &cobra.Command{
		Use:           "evensteps",
		Short:         "Into a machine and back out of it, with the record even",
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	root.CompletionOptions.DisableDefaultCmd = true
	root.AddCommand(serveCommand(), demoCommand(), rebuildCommand(), restoredCommand(), setupCommand(), checkCommand(), planCommand(), foldCommand(), readCommand(), proveCommand(), heardCommand(), findCommand(), traysCommand(), pictureCommand(), trialCommand(), openapiCommand())
	root.SetArgs(args)
	err := root.Execute()
	if err == nil {
		return 0
	}
	fmt.Fprintln(os.Stderr, "evensteps:", err)
	var answer no
	if errors.As(err, &answer) {
		return 1
	}
	return 2
}
