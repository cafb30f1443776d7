package store

import (
	"context"
	"fmt"

	"gorm.io/gorm/clause"
)

// Photo is a picture by the SHA-256 of the bytes that its device sent, in hexadecimal.
type Photo struct {
	SHA256 string `gorm:"primaryKey;column:sha256"`
	Type   string // image/jpeg or image/png
	Width  int    // pixels
	Height int
	Bytes  []byte // as the server drew it anew
	By     string
}

// Bucket keeps bytes by name elsewhere than in the database.
type Bucket interface {
	Put(ctx context.Context, name, kind string, bytes []byte) error
	Get(ctx context.Context, name string) ([]byte, error)
	// Ready tells whether it takes and gives.
	Ready(ctx context.Context) error
}

// KeepPhotosIn lets what photos show lie in a bucket from now on. What lies in the
// database stays there and is found.
func (s *Store) KeepPhotosIn(b Bucket) { s.bucket = b }

// PutPhoto keeps a photo. One that is there already stays. Its row comes last: one that
// has a row is there.
func (s *Store) PutPhoto(ctx context.Context, p Photo) error {
	if s.bucket != nil {
		if err := s.bucket.Put(ctx, p.SHA256, p.Type, p.Bytes); err != nil {
			return fmt.Errorf("keeping the photo %s: %w", p.SHA256, err)
		}
		p.Bytes = nil
	}
	if err := s.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&p).Error; err != nil {
		return fmt.Errorf("keeping the photo %s: %w", p.SHA256, err)
	}
	return nil
}

// HasPhoto tells whether a photo is there.
func (s *Store) HasPhoto(ctx context.Context, sha256 string) (bool, error) {
	var n int64
	if err := s.db.WithContext(ctx).Model(&Photo{}).Where("sha256 = ?", sha256).Count(&n).Error; err != nil {
		return false, fmt.Errorf("looking for the photo %s: %w", sha256, err)
	}
	return n > 0, nil
}

// Photo returns a photo, wherever it lies.
func (s *Store) Photo(ctx context.Context, sha256 string) (Photo, error) {
	var p Photo
	if err := s.db.WithContext(ctx).Take(&p, "sha256 = ?", sha256).Error; err != nil {
		return p, missing(err, "the photo", sha256)
	}
	if p.Bytes != nil {
		return p, nil
	}
	if s.bucket == nil {
		return p, fmt.Errorf("the photo %s lies in a bucket that this server is not told of", sha256)
	}
	var err error
	if p.Bytes, err = s.bucket.Get(ctx, sha256); err != nil {
		return p, fmt.Errorf("reading the photo %s: %w", sha256, err)
	}
	return p, nil
}
