// Package store keeps the facts in PostgreSQL: people, sites, appliances, map
// revisions, jobs and their events. Whatever can be derived is not here.
//
// Errors say what was being done. A thing that is not there is ErrNotFound.
package store

import (
	"context"
	"embed"
	"fmt"
	"io/fs"
	"sync"

	"github.com/pressly/goose/v3"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is the database.
type Store struct {
	db    *gorm.DB
	turns [64]sync.Mutex // appends to one job take turns
}

// Open connects to the database at url and brings its tables up to date.
func Open(ctx context.Context, url string) (*Store, error) {
	db, err := gorm.Open(postgres.Open(url), &gorm.Config{Logger: logger.Discard, TranslateError: true})
	if err != nil {
		return nil, fmt.Errorf("opening the database: %w", err)
	}
	s := &Store{db: db}
	pool, err := db.DB()
	if err != nil {
		return nil, fmt.Errorf("opening the database: %w", err)
	}
	pool.SetMaxOpenConns(16)
	pool.SetMaxIdleConns(16)
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, fmt.Errorf("reading the migrations: %w", err)
	}
	up, err := goose.NewProvider(goose.DialectPostgres, pool, files)
	if err != nil {
		return nil, fmt.Errorf("reading the migrations: %w", err)
	}
	if _, err := up.Up(ctx); err != nil {
		return nil, fmt.Errorf("bringing the tables up to date: %w", err)
	}
	return s, nil
}

// Ready tells whether the database answers.
func (s *Store) Ready(ctx context.Context) error {
	pool, err := s.db.DB()
	if err != nil {
		return fmt.Errorf("reaching the database: %w", err)
	}
	if err := pool.PingContext(ctx); err != nil {
		return fmt.Errorf("reaching the database: %w", err)
	}
	return nil
}

// Close lets go of the database.
func (s *Store) Close() error {
	pool, err := s.db.DB()
	if err != nil {
		return fmt.Errorf("closing the database: %w", err)
	}
	return pool.Close()
}
