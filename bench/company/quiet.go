package main

import (
	"context"
	"fmt"
	"net/http"
	"slices"
	"sync"
	"time"

	"github.com/jackc/pgx/v5"
)

// quiet measures one look after the other, while nobody works: Today beside the
// bare query for its rows, a job that was not opened before, and a call.
func (c *company) quiet(ctx context.Context) error {
	if c.o.jobs == 0 {
		return nil
	}
	t := c.people[0]
	const times = 200
	for n := range times {
		old := fmt.Sprintf("old-%d", (n+1)*(c.o.jobs/(times+2)))
		for _, one := range []struct{ what, method, path string }{
			{"quiet: Today", http.MethodGet, "/api/jobs"},
			{"quiet: earlier", http.MethodGet, "/api/jobs?list=earlier"},
			{"quiet: open", http.MethodGet, "/api/jobs/" + old},
			{"quiet: view, cold", http.MethodGet, "/api/jobs/" + old + "/view"},
		} {
			if err := t.ask(ctx, one.what, one.method, one.path, nil, nil); err != nil {
				return err
			}
		}
		if err := t.ask(ctx, "quiet: call", http.MethodPost, "/api/calls/heard", map[string]any{"appliance": "boat-yard-dryer-1", "words": "it spins, but the towels stay cold"}, nil); err != nil {
			return err
		}
	}
	var all sync.WaitGroup
	for _, t := range c.people[:min(8, len(c.people))] {
		all.Go(func() {
			for range times / 4 {
				_ = t.ask(ctx, "eight at once", http.MethodGet, "/api/jobs", nil, nil) // counted as failed
			}
		})
	}
	all.Wait()
	conn, err := pgx.Connect(ctx, c.db.URL)
	if err != nil {
		return fmt.Errorf("reaching the database: %w", err)
	}
	defer func() { _ = conn.Close(ctx) }()
	var took []time.Duration
	for range times {
		began := time.Now()
		rows, err := conn.Query(ctx, "select job_id, body from today_rows where stage <> 'signed' order by place, rank, job_id limit 50")
		if err != nil {
			return fmt.Errorf("the bare query: %w", err)
		}
		for rows.Next() {
			if _, err := rows.Values(); err != nil {
				return fmt.Errorf("the bare query: %w", err)
			}
		}
		if err := rows.Err(); err != nil {
			return fmt.Errorf("the bare query: %w", err)
		}
		took = append(took, time.Since(began))
	}
	slices.Sort(took)
	fmt.Printf("the bare query for a page of Today: median %.1f ms, p99 %.1f ms\n", ms(at(took, 50)), ms(at(took, 99)))
	c.took.report()
	c.took.clear()
	return nil
}
