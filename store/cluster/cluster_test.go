package cluster_test

import (
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/store/cluster"
)

func TestWhatIsCommittedStaysOverAStop(t *testing.T) {
	ctx := t.Context()
	c, remove, err := cluster.Throwaway(ctx)
	require.NoError(t, err)
	defer remove()
	conn, err := pgx.Connect(ctx, c.URL)
	require.NoError(t, err)
	_, err = conn.Exec(ctx, "create table kept (n integer); insert into kept values (7)")
	require.NoError(t, err)
	require.NoError(t, conn.Close(ctx))

	again, err := cluster.Start(ctx, c.Dir(), cluster.Options{Throwaway: true})
	require.NoError(t, err)
	assert.Equal(t, c.Port, again.Port, "one that runs is used as it is")
	require.NoError(t, c.Stop())
	again, err = cluster.Start(ctx, c.Dir(), cluster.Options{Throwaway: true})
	require.NoError(t, err)
	conn, err = pgx.Connect(ctx, again.URL)
	require.NoError(t, err)
	var n int
	require.NoError(t, conn.QueryRow(ctx, "select n from kept").Scan(&n))
	assert.Equal(t, 7, n)
	require.NoError(t, conn.Close(ctx))
}

// What is acknowledged is on the disk: only a cluster for tests trades that away.
func TestADatabaseForRealWaitsForTheDisk(t *testing.T) {
	ctx := t.Context()
	c, remove, err := cluster.Throwaway(ctx)
	require.NoError(t, err)
	defer remove()
	settings := func(url string) (out []string) {
		conn, err := pgx.Connect(ctx, url)
		require.NoError(t, err)
		defer func() { assert.NoError(t, conn.Close(ctx)) }()
		for _, name := range []string{"fsync", "synchronous_commit", "full_page_writes", "listen_addresses"} {
			var is string
			require.NoError(t, conn.QueryRow(ctx, "select current_setting($1)", name).Scan(&is))
			out = append(out, is)
		}
		return out
	}
	assert.Equal(t, []string{"off", "off", "off", "127.0.0.1"}, settings(c.URL))
	require.NoError(t, c.Stop())
	kept, err := cluster.Start(ctx, c.Dir(), cluster.Options{})
	require.NoError(t, err)
	assert.Equal(t, []string{"on", "on", "on", "127.0.0.1"}, settings(kept.URL))
}
