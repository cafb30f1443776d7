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
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/record"
	"evensteps/server"
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
		assert.Equal(t, data, got)
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
		"12000 by 12000 pixels": {claiming(12000, 12000), http.StatusUnprocessableEntity, "40 million in all"},
		"no picture":            {[]byte("<html><script>alert(1)</script></html>"), http.StatusUnprocessableEntity, "no JPEG or PNG"},
		"cut off":               {claiming(40, 30)[:35], http.StatusUnprocessableEntity, "cut off"},
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

func mustBody(d *device, path string) []byte {
	_, body, _ := d.call(http.MethodGet, path, nil)
	return body
}
