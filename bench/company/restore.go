package main

import (
	"context"
	"errors"
	"fmt"
	"path/filepath"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
)

// restore loses an hour: a dump, more work, and the database put back to the
// dump. Devices notice and send again; nothing may be missing.
func restore(ctx context.Context, o options) (err error) {
	c, err := found(ctx, o)
	defer func() { err = errors.Join(err, c.close()) }()
	if err != nil {
		return err
	}
	half := func() error {
		work, stop := context.WithTimeout(ctx, o.during/2)
		defer stop()
		return c.work(work)
	}
	if err := half(); err != nil {
		return err
	}
	dump := filepath.Join(c.data, "dump")
	if err := c.db.Run(ctx, "pg_dump", "-Fc", "-f", dump, c.db.URL); err != nil {
		return err
	}
	atDump := c.count(ctx)
	if err := half(); err != nil {
		return err
	}
	before := c.count(ctx)
	if err := c.programs[0].End(syscall.SIGTERM); err != nil {
		return err
	}
	if err := c.db.Run(ctx, "pg_restore", "--clean", "--if-exists", "--exit-on-error", "--single-transaction", "-d", c.db.URL, dump); err != nil {
		return err
	}
	fmt.Printf("%d facts before, %d in the dump, %d after restoring it\n", before, atDump, c.count(ctx))
	if err := c.programs[0].Start(ctx); err != nil {
		return err
	}
	for _, t := range c.people { // each looks at Today, as a device does
		t.in = false // sessions are those of the dump, if there are any
		if err := t.ask(ctx, "list", "GET", "/api/jobs", nil, nil); err != nil {
			return err
		}
	}
	began := time.Now()
	ended, stop := context.WithCancel(ctx)
	stop()
	if err := c.work(ended); err != nil {
		return err
	}
	fmt.Printf("all sent again in %s: %d facts\n", time.Since(began).Round(time.Millisecond), c.count(ctx))
	return c.check(ctx)
}

// count is how many facts of the technicians are kept; -1 where that cannot be
// read.
func (c *company) count(ctx context.Context) (n int) {
	conn, err := pgx.Connect(ctx, c.db.URL)
	if err != nil {
		return -1
	}
	defer func() { _ = conn.Close(ctx) }()
	if conn.QueryRow(ctx, "select count(*) from events where device like 'load-%'").Scan(&n) != nil {
		return -1
	}
	return n
}
