// Package store keeps the facts in PostgreSQL: people, sites, appliances, map
// revisions, jobs and their events. Whatever can be derived is not here.
//
// Errors say what was being done. A thing that is not there is ErrNotFound.
package store

import (
	"context"
	"database/sql"
	"embed"
	"fmt"
	"io/fs"
	"strconv"
	"sync"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is the database.
type Store struct {
	db     *gorm.DB
	turns  [64]sync.Mutex // appends to one job take turns
	tails  *lru.Cache[string, *tail]
	bucket Bucket // where photos lie; nil: in the database
	// News of this process that was not told yet, by job.
	config   *pgx.ConnConfig
	newsTurn sync.Mutex
	news     map[string]News
	newsCame chan struct{}
}

// How long the database may take. A statement that takes longer fails, and so
// does one that waits for a lock; whoever asks for more than these gets a clear
// answer instead of none.
const (
	connectTimeout   = 5 * time.Second
	statementTimeout = 15 * time.Second
	lockTimeout      = 10 * time.Second
	idleTransaction  = 20 * time.Second
	migrationTries   = 60 // seconds to wait for another server that migrates
)

// Open connects to the database at url and brings its tables up to date. Two
// that start together take turns at that.
func Open(ctx context.Context, url string) (*Store, error) {
	config, err := pgx.ParseConfig(url)
	if err != nil {
		return nil, fmt.Errorf("reading the database's address: %w", err)
	}
	if config.ConnectTimeout == 0 {
		config.ConnectTimeout = connectTimeout
	}
	if err := migrate(ctx, *config); err != nil {
		return nil, err
	}
	for name, most := range map[string]time.Duration{"statement_timeout": statementTimeout, "lock_timeout": lockTimeout, "idle_in_transaction_session_timeout": idleTransaction} {
		config.RuntimeParams[name] = strconv.FormatInt(most.Milliseconds(), 10)
	}
	pool := stdlib.OpenDB(*config)
	pool.SetMaxOpenConns(16)
	pool.SetMaxIdleConns(16)
	pool.SetConnMaxLifetime(time.Hour)
	db, err := gorm.Open(postgres.New(postgres.Config{Conn: pool}), &gorm.Config{Logger: logger.Discard, TranslateError: true})
	if err != nil {
		_ = pool.Close()
		return nil, fmt.Errorf("opening the database: %w", err)
	}
	tails, err := lru.New[string, *tail](mostTails)
	if err != nil {
		panic(err) // the size is a constant above 0
	}
	return &Store{db: db, tails: tails, config: config, news: map[string]News{}, newsCame: make(chan struct{}, 1)}, nil
}

// migrate brings the tables up to date over a connection of its own, which may
// take its time.
func migrate(ctx context.Context, config pgx.ConnConfig) error {
	pool := stdlib.OpenDB(config)
	defer func() { _ = pool.Close() }()
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return fmt.Errorf("reading the migrations: %w", err)
	}
	turns, err := lock.NewPostgresSessionLocker(lock.WithLockTimeout(1, migrationTries))
	if err != nil {
		return fmt.Errorf("reading the migrations: %w", err)
	}
	up, err := goose.NewProvider(goose.DialectPostgres, pool, files, goose.WithSessionLocker(turns))
	if err != nil {
		return fmt.Errorf("reading the migrations: %w", err)
	}
	if _, err := up.Up(ctx); err != nil {
		return fmt.Errorf("bringing the tables up to date: %w", err)
	}
	return nil
}

// Ready tells whether the database answers and takes what is written: one that
// is read-only, or has no room left, does not.
func (s *Store) Ready(ctx context.Context) error {
	err := s.db.WithContext(ctx).Exec(`insert into readiness (one, at) values (true, now()) on conflict (one) do update set at = excluded.at`).Error
	if err != nil {
		return fmt.Errorf("reaching the database: %w", err)
	}
	if s.bucket != nil {
		if err := s.bucket.Ready(ctx); err != nil {
			return fmt.Errorf("reaching the photos: %w", err)
		}
	}
	return nil
}

// Pool says how the connections to the database stand.
func (s *Store) Pool() sql.DBStats {
	pool, err := s.db.DB()
	if err != nil {
		return sql.DBStats{}
	}
	return pool.Stats()
}

// Close lets go of the database.
func (s *Store) Close() error {
	pool, err := s.db.DB()
	if err != nil {
		return fmt.Errorf("closing the database: %w", err)
	}
	return pool.Close()
}
