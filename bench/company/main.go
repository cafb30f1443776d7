// Command company plays a company's technicians against the real program on a
// real database, all on loopback and for a bounded time:
//
//	go run ./bench/company load    -people 200 -for 60s -jobs 27000 -events 1000000 -servers 2 -live
//	go run ./bench/company chaos   -people 50 -for 10m -servers 2 -live
//	go run ./bench/company restore
//
// load measures; chaos kills, stalls and cuts the server and the database, and
// fills the disk; restore loses an hour. At the end every fact that was
// acknowledged must be there once. It ends with 1 where it is not.
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"os"
	"os/signal"
	"syscall"
	"time"
)

type options struct {
	people int
	during time.Duration
	jobs   int
	events int
	pace   time.Duration
	seed   uint64
	full   string

	servers int
	live    bool
}

func main() {
	if err := run(os.Args[1:]); err != nil {
		fmt.Fprintln(os.Stderr, "company:", err)
		os.Exit(1)
	}
}

func run(args []string) error {
	ways := map[string]func(context.Context, options) error{"load": load, "chaos": chaos, "restore": restore}
	if len(args) == 0 || ways[args[0]] == nil {
		return errors.New("say load, chaos or restore")
	}
	var o options
	flags := flag.NewFlagSet(args[0], flag.ContinueOnError)
	flags.IntVar(&o.people, "people", 50, "technicians at work")
	flags.DurationVar(&o.during, "for", time.Minute, "how long they work")
	flags.IntVar(&o.jobs, "jobs", 0, "jobs that are there before, by COPY")
	flags.IntVar(&o.events, "events", 0, "facts of those jobs")
	flags.DurationVar(&o.pace, "pace", 5*time.Second, "the time between two touches of one technician, about; a step takes some three of them, and most of a minute")
	flags.Uint64Var(&o.seed, "seed", 1, "of what happens when")
	flags.StringVar(&o.full, "full", "", "a folder on a small file system of its own, for the database and its full disk")
	flags.IntVar(&o.servers, "servers", 1, "processes of the program, on one database")
	flags.BoolVar(&o.live, "live", false, "a second device looks at each job, and is told of each touch")
	if err := flags.Parse(args[1:]); err != nil {
		return err
	}
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	return ways[args[0]](ctx, o)
}

// load lets the technicians work and says how long they waited.
func load(ctx context.Context, o options) (err error) {
	c, err := found(ctx, o)
	defer func() { err = errors.Join(err, c.close()) }()
	if err != nil {
		return err
	}
	if err := errors.Join(c.settle(ctx), c.quiet(ctx), c.arrive(ctx)); err != nil {
		return err
	}
	work, stop := context.WithTimeout(ctx, o.during)
	defer stop()
	fmt.Printf("%d technicians for %s, a touch each %s\n", o.people, o.during, o.pace)
	most := c.watch(work)
	if err := c.work(work); err != nil {
		return err
	}
	c.took.report()
	fmt.Printf("a server at the most %.0f MB; %d of %d requests failed\n", most(), c.failed.Load(), c.asked.Load())
	if err := c.size(ctx); err != nil {
		return err
	}
	return c.check(ctx)
}
