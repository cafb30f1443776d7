package server_test

import (
	"bytes"
	"crypto/sha256"
	"encoding/binary"
	"encoding/hex"
	"hash/crc32"
	"image"
	"image/jpeg"
	"image/png"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/johannesboyne/gofakes3"
	"github.com/johannesboyne/gofakes3/backend/s3mem"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/record"
	"evensteps/server"
	"evensteps/store/bucket"
)

func (d *device) put(data []byte) (status int, sum, why string) {
	d.t.Helper()
	hash := sha256.Sum256(data)
	sum = hex.EncodeToString(hash[:])
	status, body, _ := d.call(http.MethodPut, "/api/photos/"+sum, string(data), "Content-Type", "application/octet-stream")
	return status, sum, string(body)
}

// claiming is a PNG whose head claims a size; nothing of it is unpacked.
func claiming(width, height uint32) []byte {
	head := []byte("IHDR")
	head = binary.BigEndian.AppendUint32(head, width)
	head = binary.BigEndian.AppendUint32(head, height)
	head = append(head, 8, 2, 0, 0, 0)
	out := []byte("\x89PNG\r\n\x1a\n\x00\x00\x00\r")
	out = append(out, head...)
	out = binary.BigEndian.AppendUint32(out, crc32.ChecksumIEEE(head))
	return append(out, "\x00\x00\x00\x00IEND\xaeB`\x82"...)
}

func TestPhotos(t *testing.T) {
	d := begin(t, server.Options{}).jonna(t)
	var pic, shot bytes.Buffer
	require.NoError(t, png.Encode(&pic, image.NewGray(image.Rect(0, 0, 40, 30))))
	require.NoError(t, jpeg.Encode(&shot, image.NewGray(image.Rect(0, 0, 40, 30)), nil))
	for _, data := range [][]byte{pic.Bytes(), shot.Bytes()} {
		status, sum, why := d.put(data)
		require.Equal(t, http.StatusNoContent, status, why)
		status, _, _ = d.put(data)
		assert.Equal(t, http.StatusNoContent, status, "sent twice is kept once")
		status, got, head := d.call(http.MethodGet, "/api/photos/"+sum, nil)
		assert.Equal(t, http.StatusOK, status)
		kept, _, err := image.Decode(bytes.NewReader(got))
		require.NoError(t, err)
		assert.Equal(t, image.Rect(0, 0, 40, 30), kept.Bounds())
		assert.Contains(t, head.Get("Content-Type"), "image/")
		assert.Equal(t, "nosniff", head.Get("X-Content-Type-Options"))
		// The event that names it comes in on its own.
		_, a, _ := d.send("j-101", d.event("photo", record.Photo{SHA256: sum, On: "top-off"}))
		assert.Equal(t, "kept", a.Answers[0].Outcome)
	}
}

func TestPhotosThatAreNotTaken(t *testing.T) {
	d := begin(t, server.Options{}).jonna(t)
	for name, c := range map[string]struct {
		data   []byte
		status int
		why    string
	}{
		"40 MB":                 {bytes.Repeat([]byte{0xff}, 40<<20), http.StatusRequestEntityTooLarge, ""},
		"30000 by 30000 pixels": {claiming(30000, 30000), http.StatusUnprocessableEntity, "30000 by 30000 pixels"},
		"12000 by 12000 pixels": {claiming(12000, 12000), http.StatusUnprocessableEntity, "13 million in all"},
		"no picture":            {[]byte("<html><script>alert(1)</script></html>"), http.StatusUnprocessableEntity, "no JPEG or PNG"},
		"cut off":               {claiming(40, 30)[:35], http.StatusUnprocessableEntity, "cut off"},
		"nothing but a head":    {claiming(40, 30), http.StatusUnprocessableEntity, "spoilt"},
		"nothing":               {nil, http.StatusBadRequest, "body"},
	} {
		status, _, why := d.put(c.data)
		assert.Equal(t, c.status, status, name)
		assert.Contains(t, why, c.why, name)
	}
	var dot bytes.Buffer
	require.NoError(t, png.Encode(&dot, image.NewGray(image.Rect(0, 0, 1, 1))))
	status, _, why := d.put(dot.Bytes())
	assert.Less(t, status, 300, "the smallest picture is one: %s", why)
	status, body, _ := d.call(http.MethodPut, "/api/photos/"+strings.Repeat("a", 64), string(claiming(40, 30)), "Content-Type", "application/octet-stream")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, string(body), "do not have this SHA-256")
	assert.Equal(t, http.StatusNotFound, d.get("/api/photos/"+strings.Repeat("b", 64), nil))
}

// What is kept is pixels: what else was in the file, a place or a script, is not.
func TestPhotosAreDrawnAnew(t *testing.T) {
	d := begin(t, server.Options{}).jonna(t)
	var shot bytes.Buffer
	require.NoError(t, jpeg.Encode(&shot, image.NewGray(image.Rect(0, 0, 40, 30)), nil))
	text := shot.String()
	note := "GPS 59.91 10.75 <script>alert(1)</script>"
	text = text[:2] + "\xff\xfe\x00" + string([]byte{byte(len(note) + 2)}) + note + text[2:] + "PK\x03\x04 an archive behind it"
	status, sum, why := d.put([]byte(text))
	require.Equal(t, http.StatusNoContent, status, why)
	_, got, _ := d.call(http.MethodGet, "/api/photos/"+sum, nil)
	for _, gone := range []string{"GPS", "script", "archive"} {
		assert.NotContains(t, string(got), gone)
	}
	_, err := jpeg.Decode(bytes.NewReader(got))
	assert.NoError(t, err)
}

// Photos in an S3 store (gofakes3, of others): what lay in the database before is found
// there, what comes after lies in the bucket alone, and while it is away it is not ready.
func TestPhotosInABucket(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	picture := func(width int) []byte {
		var b bytes.Buffer
		require.NoError(t, png.Encode(&b, image.NewGray(image.Rect(0, 0, width, 30))))
		return b.Bytes()
	}
	_, before, _ := d.put(picture(40))
	kept := s3mem.New()
	require.NoError(t, kept.CreateBucket("photos"))
	away := httptest.NewServer(gofakes3.New(kept).Server())
	defer away.Close()
	b, err := bucket.Open(t.Context(), away.URL+"/photos", "key", "secret", "")
	require.NoError(t, err)
	s.store.KeepPhotosIn(b)
	status, after, why := d.put(picture(50))
	require.Equal(t, http.StatusNoContent, status, why)
	for _, sum := range []string{before, after} {
		_, got, _ := d.call(http.MethodGet, "/api/photos/"+sum, nil)
		_, err := png.Decode(bytes.NewReader(got))
		assert.NoError(t, err, sum)
	}
	object, err := kept.HeadObject("photos", after)
	require.NoError(t, err)
	assert.Positive(t, object.Size)
	_, err = kept.HeadObject("photos", before)
	assert.Error(t, err)
	assert.Equal(t, http.StatusOK, d.get("/readyz", nil))
	away.Close()
	assert.Equal(t, http.StatusServiceUnavailable, d.get("/readyz", nil))
	status, _, why = d.put(picture(60))
	assert.Equal(t, http.StatusServiceUnavailable, status, why)
	status, _, _ = d.call(http.MethodGet, "/api/photos/"+after, nil)
	assert.Equal(t, http.StatusServiceUnavailable, status)
}

func mustBody(d *device, path string) []byte {
	_, body, _ := d.call(http.MethodGet, path, nil)
	return body
}
