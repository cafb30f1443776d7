package main

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync/atomic"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"

	"evensteps/e2e/stage"
	"evensteps/store/cluster"
)

// chaos lets the technicians work while the server and the database are killed
// and stalled, lines are cut and the disk is filled. Today is asked for
// throughout: between the faults it must answer.
func chaos(ctx context.Context, o options) (err error) {
	c, err := found(ctx, o)
	defer func() { err = errors.Join(err, c.close()) }()
	if err != nil {
		return err
	}
	work, stop := context.WithTimeout(ctx, o.during)
	defer stop()
	random := rand.New(rand.NewPCG(o.seed, 99))
	counts := map[string]int{}
	var wrong atomic.Int32 // faults that are on, or were just now
	looked := make(chan error, 1)
	go func() { looked <- c.prober(work, &wrong) }()
	faults := map[string]func(context.Context, *rand.Rand) error{
		"the server is killed": c.killServer, "the server is stalled": c.stallServer, "the database is killed": c.killDatabase,
		"the database is stalled": c.stallDatabase, "lines are cut": c.cutLines,
	}
	if o.full != "" {
		faults["the disk is full"] = c.fillDisk
	} else {
		fmt.Println("the disk is not filled: name a small file system by -full")
	}
	ended := make(chan error, 1)
	go func() {
		for work.Err() == nil {
			pause(work, time.Duration(3+random.IntN(6))*time.Second)
			if work.Err() != nil {
				break
			}
			what := slices.Sorted(maps.Keys(faults))[random.IntN(len(faults))]
			counts[what]++
			wrong.Add(1)
			if err := faults[what](work, random); err != nil {
				ended <- fmt.Errorf("%s: %w", what, err)
				stop()
				return
			}
			go func() { // it may take some seconds until all is well again
				time.Sleep(5 * time.Second)
				wrong.Add(-1)
			}()
		}
		ended <- nil
	}()
	err = errors.Join(c.work(work), <-ended, <-looked)
	for _, what := range slices.Sorted(maps.Keys(counts)) {
		fmt.Printf("%s: %d times\n", what, counts[what])
	}
	fmt.Printf("%d of %d requests failed and were sent again\n", c.failed.Load(), c.asked.Load())
	c.took.report()
	return errors.Join(err, c.check(ctx))
}

// prober asks for Today twice a second as somebody who only looks.
func (c *company) prober(ctx context.Context, wrong *atomic.Int32) error {
	t := &technician{c: c, id: "jonna", device: "prober", began: time.Now(), http: c.people[0].http}
	asked, failed := 0, 0
	for ctx.Err() == nil {
		before, on := t.missed, wrong.Load() > 0
		if err := t.ask(ctx, "Today", "GET", "/api/jobs", nil, nil); err != nil {
			return err
		}
		if !on && wrong.Load() == 0 && ctx.Err() == nil {
			asked++
			if t.missed > before {
				failed++
			}
		}
		pause(ctx, 500*time.Millisecond)
	}
	fmt.Printf("between the faults Today was asked for %d times, and did not answer %d times\n", asked, failed)
	if failed > 0 {
		return errors.New("between the faults Today did not answer each time")
	}
	return nil
}

func pause(ctx context.Context, d time.Duration) {
	select {
	case <-ctx.Done():
	case <-time.After(d):
	}
}

func some(random *rand.Rand, least, most time.Duration) time.Duration {
	return least + time.Duration(random.Int64N(int64(most-least)))
}

func (c *company) killServer(_ context.Context, random *rand.Rand) error {
	one := c.one(random)
	if err := one.End(syscall.SIGKILL); err != nil {
		return err
	}
	time.Sleep(some(random, 0, 3*time.Second))
	return one.Start(context.Background())
}

// one is one of the processes.
func (c *company) one(random *rand.Rand) *stage.Program {
	return c.programs[random.IntN(len(c.programs))]
}

func (c *company) stallServer(_ context.Context, random *rand.Rand) error {
	one := c.one(random)
	if err := one.Signal(syscall.SIGSTOP); err != nil {
		return err
	}
	time.Sleep(some(random, time.Second, 6*time.Second))
	return one.Signal(syscall.SIGCONT)
}

func (c *company) cutLines(_ context.Context, random *rand.Rand) error {
	for range 1 + random.IntN(5) {
		c.front.cut()
		time.Sleep(some(random, 10*time.Millisecond, 500*time.Millisecond))
	}
	return nil
}

// processes are the database's: the one that began it and its children.
func (c *company) processes() ([]int, error) {
	text, err := os.ReadFile(filepath.Join(c.data, "data", "postmaster.pid"))
	if err != nil {
		return nil, fmt.Errorf("looking for the database: %w", err)
	}
	first, err := strconv.Atoi(strings.SplitN(string(text), "\n", 2)[0])
	if err != nil {
		return nil, fmt.Errorf("looking for the database: %w", err)
	}
	out := []int{first}
	stats, err := filepath.Glob("/proc/[0-9]*/stat")
	if err != nil {
		return nil, fmt.Errorf("looking for the database: %w", err)
	}
	for _, file := range stats {
		stat, err := os.ReadFile(file)
		if err != nil {
			continue // it has ended
		}
		fields := strings.Fields(string(stat[strings.LastIndexByte(string(stat), ')')+1:]))
		if pid, _ := strconv.Atoi(filepath.Base(filepath.Dir(file))); len(fields) > 1 && fields[1] == strconv.Itoa(first) {
			out = append(out, pid)
		}
	}
	return out, nil
}

func (c *company) signalDatabase(how syscall.Signal) error {
	pids, err := c.processes()
	for _, pid := range pids {
		_ = syscall.Kill(pid, how) // one that has ended needs none
	}
	return err
}

func (c *company) killDatabase(_ context.Context, random *rand.Rand) error {
	if err := c.signalDatabase(syscall.SIGKILL); err != nil {
		return err
	}
	time.Sleep(some(random, 500*time.Millisecond, 3*time.Second))
	return c.startDatabase()
}

// startDatabase starts it until it answers: what is left of a killed one may still
// be ending, and looks as if it ran.
func (c *company) startDatabase() (err error) {
	for range 30 {
		ctx, cancel := context.WithTimeout(context.Background(), 20*time.Second)
		_, err = cluster.Start(ctx, c.data, cluster.Options{Port: c.db.Port})
		if err == nil {
			var conn *pgx.Conn
			if conn, err = pgx.Connect(ctx, c.db.URL); err == nil {
				_ = conn.Close(ctx)
			}
		}
		cancel()
		if err == nil {
			return nil
		}
		time.Sleep(500 * time.Millisecond)
	}
	return fmt.Errorf("starting the database again: %w", err)
}

func (c *company) stallDatabase(_ context.Context, random *rand.Rand) error {
	if err := c.signalDatabase(syscall.SIGSTOP); err != nil {
		return err
	}
	time.Sleep(some(random, time.Second, 8*time.Second))
	return c.signalDatabase(syscall.SIGCONT)
}

// fillDisk fills the small file system that the database stands on, and empties
// it again. A database that ended of it is started again.
func (c *company) fillDisk(_ context.Context, random *rand.Rand) error {
	file := filepath.Join(c.o.full, "ballast")
	f, err := os.Create(file)
	if err != nil {
		return fmt.Errorf("filling the disk: %w", err)
	}
	block := make([]byte, 1<<20)
	for _, size := range []int{1 << 20, 4096} {
		for {
			if _, err := f.Write(block[:size]); err != nil {
				break // it is full
			}
		}
	}
	_ = f.Close()
	time.Sleep(some(random, 2*time.Second, 8*time.Second))
	if err := os.Remove(file); err != nil {
		return fmt.Errorf("emptying the disk: %w", err)
	}
	time.Sleep(500 * time.Millisecond)
	return c.startDatabase()
}
