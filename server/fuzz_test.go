package server

import (
	"bytes"
	"image"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/require"
	"golang.org/x/sync/semaphore"
)

// A picture is drawn anew or refused, whatever it claims.
func FuzzPhoto(f *testing.F) {
	var p, j bytes.Buffer
	small := image.NewGray(image.Rect(0, 0, 3, 2))
	require.NoError(f, png.Encode(&p, small))
	require.NoError(f, jpeg.Encode(&j, small, nil))
	for _, seed := range [][]byte{p.Bytes(), j.Bytes(), []byte("\x89PNG\r\n\x1a\n"), {0xff, 0xd8, 0xff, 0xe0}} {
		f.Add(seed)
	}
	s := &Server{drawing: semaphore.NewWeighted(1)}
	f.Fuzz(func(t *testing.T, data []byte) {
		photo, why, err := s.drawnAnew(t.Context(), data)
		require.NoError(t, err)
		if why == "" {
			require.LessOrEqual(t, photo.Width*photo.Height, mostPhotoPixels)
			require.Positive(t, photo.Width*photo.Height)
		}
	})
}
