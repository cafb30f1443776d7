package bench

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"

	"evensteps/core/record"
	"evensteps/demo"
	"evensteps/server"
	"evensteps/store"
	"evensteps/store/cluster"
)

// Appending one event over the API, with PostgreSQL on loopback and its writes
// forced to disk, batches of one: eight clients on as many jobs as there are,
// and eight on one job; beside them a bare insert by as many at once.
func BenchmarkAppend(b *testing.B) {
	ctx := context.Background()
	dir, err := os.MkdirTemp("", "evensteps-bench-*")
	require.NoError(b, err)
	defer os.RemoveAll(dir)
	db, err := cluster.Start(ctx, dir, cluster.Options{})
	require.NoError(b, err)
	defer func() { require.NoError(b, db.Stop()) }()
	s, err := store.Open(ctx, db.URL)
	require.NoError(b, err)
	defer func() { require.NoError(b, s.Close()) }()
	require.NoError(b, demo.Fill(ctx, s, server.HashPassword, time.Now()))
	web := httptest.NewServer(server.New(server.Options{Store: s, SignInsPerMinute: 1000}))
	defer web.Close()
	pool, err := sql.Open("pgx", db.URL) // as the store's own
	require.NoError(b, err)
	defer pool.Close()
	pool.SetMaxOpenConns(16)
	pool.SetMaxIdleConns(16)
	bare, err := gorm.Open(postgres.New(postgres.Config{Conn: pool}), &gorm.Config{Logger: logger.Discard})
	require.NoError(b, err)
	require.NoError(b, bare.Exec("create table bare (id uuid primary key, num serial, body jsonb)").Error)
	require.NoError(b, bare.Exec("analyze").Error)

	const clients, each = 8, 60
	jobs := []string{"j-101", "j-102", "j-103", "j-104", "j-105", "j-106", "j-107", "j-108"}
	var devices []*http.Client
	for range clients {
		jar, err := cookiejar.New(nil)
		require.NoError(b, err)
		c := &http.Client{Jar: jar, Transport: &http.Transport{}}
		answer, err := c.Post(web.URL+"/api/sign-in", "application/json", bytes.NewReader([]byte(`{"name":"jonna","password":"`+demo.Password+`"}`)))
		require.NoError(b, err)
		require.NoError(b, answer.Body.Close())
		require.Equal(b, http.StatusOK, answer.StatusCode)
		devices = append(devices, c)
	}
	n := 0
	send := func(c *http.Client, client int, job string, k int) error {
		event := map[string]any{
			"id": uuid.Must(uuid.NewV7()).String(), "job": job, "by": "jonna", "device": fmt.Sprintf("bench-%d-%d", n, client), "n": k + 1,
			"wall": time.Now(), "since": float64(k), "run": "bench", "seen": 0, "kind": "note", "body": map[string]string{"text": "x"},
		}
		body, err := json.Marshal(map[string]any{"run": "bench", "since": float64(k), "wall": time.Now(), "events": []any{event}})
		if err != nil {
			return err
		}
		answer, err := c.Post(web.URL+"/api/jobs/"+job+"/events", "application/json", bytes.NewReader(body))
		if err != nil {
			return err
		}
		defer answer.Body.Close()
		if _, err := io.Copy(io.Discard, answer.Body); err != nil { // so that the connection is kept
			return err
		}
		if answer.StatusCode != http.StatusOK {
			return fmt.Errorf("the server answered %d", answer.StatusCode)
		}
		return nil
	}
	measure := func(b *testing.B, one func(client, k int) error) {
		var mu sync.Mutex
		var took []time.Duration
		for b.Loop() {
			n++
			var all sync.WaitGroup
			for client := range clients {
				all.Go(func() {
					for k := range each {
						began := time.Now()
						err := one(client, k)
						mu.Lock()
						took = append(took, time.Since(began))
						mu.Unlock()
						if err != nil {
							b.Error(err)
							return
						}
					}
				})
			}
			all.Wait()
		}
		slices.Sort(took)
		b.ReportMetric(float64(took[len(took)/2].Microseconds())/1000, "ms-median")
		b.ReportMetric(float64(took[len(took)*95/100].Microseconds())/1000, "ms-p95")
	}
	b.Run("bare-insert", func(b *testing.B) {
		measure(b, func(int, int) error {
			var num int
			return bare.WithContext(ctx).Raw("insert into bare (id, body) values (?, ?) returning num", uuid.Must(uuid.NewV7()).String(), `{"text":"x"}`).Scan(&num).Error
		})
	})
	b.Run("store-many-jobs", func(b *testing.B) {
		measure(b, func(client, k int) error {
			e := record.Event{ID: uuid.Must(uuid.NewV7()).String(), Job: jobs[client%len(jobs)], By: "jonna", Device: fmt.Sprintf("store-%d-%d", n, client), N: k + 1, Wall: time.Now(), Since: float64(k), Run: "bench", Kind: "note", Body: json.RawMessage(`{"text":"x"}`)}
			_, err := s.Append(ctx, e, record.Sent{Run: "bench", Since: float64(k), Wall: time.Now(), Received: time.Now()})
			return err
		})
	})
	b.Run("api-many-jobs", func(b *testing.B) {
		measure(b, func(client, k int) error { return send(devices[client], client, jobs[client%len(jobs)], k) })
	})
	b.Run("api-one-job", func(b *testing.B) {
		measure(b, func(client, k int) error { return send(devices[client], client, jobs[0], k) })
	})
}
