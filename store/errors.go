package store

import (
	"context"
	"database/sql/driver"
	"errors"
	"fmt"
	"io"
	"net"
	"strings"

	"github.com/jackc/pgx/v5/pgconn"
	"gorm.io/gorm"
)

// ErrNotFound says that there is no such thing.
var ErrNotFound = errors.New("not found")

// missing turns GORM's word for an absent row into ours.
func missing(err error, what, id string) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return fmt.Errorf("%s %q: %w", what, id, ErrNotFound)
	}
	return fmt.Errorf("reading %s %q: %w", what, id, err)
}

// Unkeepable tells whether the database refuses what it was given: a letter or a
// number that it cannot hold, or more than it takes. To send it again is of no use.
func Unkeepable(err error) bool {
	var pg *pgconn.PgError
	return errors.As(err, &pg) && (strings.HasPrefix(pg.Code, "22") || strings.HasPrefix(pg.Code, "54"))
}

// Passes tells whether the fault is of the database or the way to it, and will
// pass: it does not answer, is full, read-only, starting, stopping or busy. The
// classes are PostgreSQL's (its manual, appendix A): 08 connection, 53
// resources, 57 operator, 40 rolled back, 55 not in the right state, 58 system,
// XX of its own; 25006 is a read-only transaction.
func Passes(err error) bool {
	var pg *pgconn.PgError
	if errors.As(err, &pg) {
		for _, class := range []string{"08", "53", "57", "40", "55", "58", "XX", "25006"} {
			if strings.HasPrefix(pg.Code, class) {
				return true
			}
		}
		return false
	}
	var way net.Error
	var dial *pgconn.ConnectError
	return errors.As(err, &way) || errors.As(err, &dial) || errors.Is(err, driver.ErrBadConn) || errors.Is(err, io.EOF) ||
		errors.Is(err, io.ErrUnexpectedEOF) || errors.Is(err, context.DeadlineExceeded) || pgconn.SafeToRetry(err) || errors.Is(err, net.ErrClosed)
}
