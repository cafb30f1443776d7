package server

import (
	"bytes"
	"compress/gzip"
	"crypto/rand"
	"encoding/base64"
	"io"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"
	"sync"

	"evensteps/web"
)

// pages serves the built pages: files with a hash in their name for ever, any
// other path as the one page, with a fresh nonce for its content policy.
type pages struct {
	files fs.FS
	mu    sync.Mutex
	zip   map[string][]byte // what was compressed once
}

// nonceMark stands in the built page wherever the nonce belongs.
const nonceMark = "__NONCE__"

const notBuilt = `<!doctype html><title>Even Steps</title><h1>The pages are not built yet</h1><p>Run <code>make build</code>, then start again. The API answers under /api.</p>`

func newPages() *pages {
	files, err := fs.Sub(web.Dist, "dist")
	if err != nil {
		panic(err) // the folder is embedded by name
	}
	return &pages{files: files, zip: map[string][]byte{}}
}

func (p *pages) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if r.Method != http.MethodGet && r.Method != http.MethodHead {
		writeProblem(w, http.StatusMethodNotAllowed, "There is nothing to send to here.")
		return
	}
	name := strings.TrimPrefix(path.Clean(r.URL.Path), "/")
	if info, err := fs.Stat(p.files, name); err == nil && !info.IsDir() && name != "index.html" && !strings.HasPrefix(name, ".") {
		p.file(w, r, name)
		return
	}
	if strings.HasPrefix(name, "assets/") {
		writeProblem(w, http.StatusNotFound, "There is no such file. Load the page again.")
		return
	}
	p.page(w)
}

func (p *pages) file(w http.ResponseWriter, r *http.Request, name string) {
	h := w.Header()
	kind := mime.TypeByExtension(path.Ext(name))
	switch path.Ext(name) {
	case ".wasm":
		kind = "application/wasm"
	case ".woff2":
		kind = "font/woff2"
	case ".webmanifest":
		kind = "application/manifest+json"
	}
	h.Set("Content-Type", kind)
	if strings.HasPrefix(name, "assets/") {
		h.Set("Cache-Control", "public, max-age=31536000, immutable")
	} else {
		h.Set("Cache-Control", "no-cache")
	}
	if path.Ext(name) == ".js" { // a worker brings its own policy
		h.Set("Content-Security-Policy", "default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; connect-src 'self'")
	}
	h.Set("Vary", "Accept-Encoding")
	file, packing, err := p.packed(name, r.Header.Get("Accept-Encoding"))
	if err != nil {
		writeProblem(w, http.StatusNotFound, "There is no such file. Load the page again.")
		return
	}
	if packing != "" {
		h.Set("Content-Encoding", packing)
	}
	defer file.Close()
	_, _ = io.Copy(w, file)
}

// packed is a file as small as who asks can take it, and how it is packed. The build
// has packed the pages with Brotli; what it has not is packed with gzip once.
func (p *pages) packed(name, accepted string) (file io.ReadCloser, packing string, err error) {
	if strings.Contains(accepted, "br") {
		if file, err := p.files.Open(name + ".br"); err == nil {
			return file, "br", nil
		}
	}
	if path.Ext(name) == ".woff2" || !strings.Contains(accepted, "gzip") {
		file, err = p.files.Open(name)
		return file, "", err
	}
	data, err := p.zipped(name)
	return io.NopCloser(bytes.NewReader(data)), "gzip", err
}

func (p *pages) zipped(name string) ([]byte, error) {
	p.mu.Lock()
	defer p.mu.Unlock()
	if z, known := p.zip[name]; known {
		return z, nil
	}
	data, err := fs.ReadFile(p.files, name)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	z, _ := gzip.NewWriterLevel(&b, gzip.BestCompression) // the level is a known one
	_, _ = z.Write(data)
	_ = z.Close()
	p.zip[name] = b.Bytes()
	return p.zip[name], nil
}

func (p *pages) page(w http.ResponseWriter) {
	h := w.Header()
	h.Set("Content-Type", "text/html; charset=utf-8")
	h.Set("Cache-Control", "no-cache")
	index, err := fs.ReadFile(p.files, "index.html")
	if err != nil {
		w.WriteHeader(http.StatusServiceUnavailable)
		_, _ = w.Write([]byte(notBuilt))
		return
	}
	secret := make([]byte, 16)
	_, _ = rand.Read(secret) // never fails (crypto/rand)
	nonce := base64.RawStdEncoding.EncodeToString(secret)
	h.Set("Content-Security-Policy", "default-src 'none'; script-src 'self' 'nonce-"+nonce+"' 'wasm-unsafe-eval'; style-src 'self' 'nonce-"+nonce+
		"'; font-src 'self'; img-src 'self' data: blob:; connect-src 'self'; worker-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'")
	_, _ = w.Write(bytes.ReplaceAll(index, []byte(nonceMark), []byte(nonce)))
}
