package cluster

import (
	"context"
	"fmt"
	"os"
	"strings"
	"sync/atomic"

	"github.com/jackc/pgx/v5"
)

// Throwaway starts a cluster for tests in a folder of its own. remove stops it
// and takes the folder away.
func Throwaway(ctx context.Context) (c *Cluster, remove func(), err error) {
	dir, err := os.MkdirTemp("", "evensteps-db-*")
	if err != nil {
		return nil, nil, fmt.Errorf("making a folder for the database: %w", err)
	}
	c, err = Start(ctx, dir, Options{Throwaway: true})
	if err != nil {
		_ = os.RemoveAll(dir)
		return nil, nil, err
	}
	return c, func() {
		_ = c.Stop()
		_ = os.RemoveAll(dir)
	}, nil
}

var databases atomic.Int64

// Database makes a database and returns its URL: an empty one, or a copy of the
// one at the URL that is given, to which nobody may be connected.
func (c *Cluster) Database(ctx context.Context, copyOf ...string) (string, error) {
	name := fmt.Sprintf("test_%d", databases.Add(1))
	conn, err := pgx.Connect(ctx, c.URL)
	if err != nil {
		return "", fmt.Errorf("reaching the database: %w", err)
	}
	defer func() { _ = conn.Close(ctx) }()
	create := "create database " + pgx.Identifier{name}.Sanitize()
	for _, of := range copyOf {
		config, err := pgx.ParseConfig(of)
		if err != nil {
			return "", fmt.Errorf("copying a database: %w", err)
		}
		create += " template " + pgx.Identifier{config.Database}.Sanitize()
	}
	if _, err := conn.Exec(ctx, create); err != nil {
		return "", fmt.Errorf("making the database %s: %w", name, err)
	}
	return strings.Replace(c.URL, "/postgres?", "/"+name+"?", 1), nil
}

// ForTests runs a package's tests with a throwaway cluster and returns their
// exit code, for a TestMain.
func ForTests(run func() int, use func(*Cluster)) int {
	c, remove, err := Throwaway(context.Background())
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer remove()
	use(c)
	return run()
}
