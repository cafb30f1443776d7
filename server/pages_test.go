package server

import (
	"net/http"
	"net/http/httptest"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
)

// A file goes out as small as who asks can take it, and says how it is packed.
func TestAFileAsSmallAsItCanBeTaken(t *testing.T) {
	p := &pages{zip: map[string][]byte{}, files: fstest.MapFS{
		"assets/core.wasm":    {Data: []byte("the core, the core, the core")},
		"assets/core.wasm.br": {Data: []byte("packed")},
		"assets/only.js":      {Data: []byte("only.only.only")},
		"index.html":          {Data: []byte("the page")},
	}}
	get := func(path, accepted string) *httptest.ResponseRecorder {
		r := httptest.NewRequest(http.MethodGet, path, nil)
		r.Header.Set("Accept-Encoding", accepted)
		w := httptest.NewRecorder()
		p.ServeHTTP(w, r)
		return w
	}
	w := get("/assets/core.wasm", "gzip, deflate, br")
	assert.Equal(t, "br", w.Header().Get("Content-Encoding"))
	assert.Equal(t, "packed", w.Body.String())
	assert.Equal(t, "application/wasm", w.Header().Get("Content-Type"))
	assert.Equal(t, "Accept-Encoding", w.Header().Get("Vary"))

	w = get("/assets/core.wasm", "gzip")
	assert.Equal(t, "gzip", w.Header().Get("Content-Encoding"))
	w = get("/assets/core.wasm", "")
	assert.Empty(t, w.Header().Get("Content-Encoding"))
	assert.Equal(t, "the core, the core, the core", w.Body.String())

	w = get("/assets/only.js", "gzip, br")
	assert.Equal(t, "gzip", w.Header().Get("Content-Encoding"), "the build has not packed it")
	assert.Equal(t, http.StatusNotFound, get("/assets/none.js", "br").Code)
	assert.Equal(t, "the page", get("/jobs/j-1", "br").Body.String(), "any other path is the page")
	assert.Equal(t, "the page", get("/assets/../index.html", "br").Body.String())
}
