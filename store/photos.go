package store

import (
	"context"
	"fmt"

	"gorm.io/gorm/clause"
)

// Photo is a picture by the SHA-256 of its bytes, in hexadecimal.
type Photo struct {
	SHA256 string `gorm:"primaryKey;column:sha256"`
	Type   string // image/jpeg or image/png
	Width  int    // pixels
	Height int
	Bytes  []byte
	By     string
}

// PutPhoto keeps a photo. One that is there already stays.
func (s *Store) PutPhoto(ctx context.Context, p Photo) error {
	if err := s.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&p).Error; err != nil {
		return fmt.Errorf("keeping the photo %s: %w", p.SHA256, err)
	}
	return nil
}

// Photo returns a photo.
func (s *Store) Photo(ctx context.Context, sha256 string) (Photo, error) {
	var p Photo
	if err := s.db.WithContext(ctx).Take(&p, "sha256 = ?", sha256).Error; err != nil {
		return p, missing(err, "the photo", sha256)
	}
	return p, nil
}
