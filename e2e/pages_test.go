package e2e

import (
	"bytes"
	"io"
	"net/http"
	"net/http/httptest"
	"net/http/httputil"
	"net/url"
	"strconv"
	"sync/atomic"
	"syscall"
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/e2e/stage"
)

// The browser's own check finds nothing that keeps the program from being installed,
// and nothing wrong with the manifest (W3C Web Application Manifest, as Chromium reads it).
func TestItCanBeInstalled(t *testing.T) {
	s := open(t)
	s.play("/", func(h stage.Hands) {
		h.As("jonna")
		h.Page.MustEval(`() => navigator.serviceWorker.ready.then(() => true)`)
		read, err := proto.PageGetAppManifest{}.Call(h.Page)
		require.NoError(t, err)
		assert.Empty(t, read.Errors)
		assert.Contains(t, read.Data, `"purpose":"maskable"`)
		wrong, err := proto.PageGetInstallabilityErrors{}.Call(h.Page)
		require.NoError(t, err)
		for _, e := range wrong.InstallabilityErrors {
			if e.ErrorID != "in-incognito" { // each page of a test has a context of its own
				assert.Fail(t, e.ErrorID, e.ErrorArguments)
			}
		}
		for icon, side := range map[string]int{"icon-192.png": 192, "icon-512.png": 512, "icon-maskable-512.png": 512, "apple-touch-icon.png": 180} {
			got := h.Page.MustEval(`async src => { const i = new Image(); i.src = src; await i.decode(); return i.naturalWidth; }`, "/"+icon).Int()
			assert.Equal(t, side, got, icon)
		}
	})
}

// newer is a front before the stage that gives out, once it is told to, the worker of a
// newer version of the pages.
func newer(t *testing.T, s set) (front string, come *atomic.Bool) {
	t.Helper()
	target, err := url.Parse(s.URL)
	require.NoError(t, err)
	come = &atomic.Bool{}
	proxy := httptest.NewServer(&httputil.ReverseProxy{
		Rewrite: func(r *httputil.ProxyRequest) {
			r.SetURL(target)
			r.Out.Host = r.In.Host
			if r.In.URL.Path == "/sw.js" {
				r.Out.Header.Del("Accept-Encoding")
			}
		},
		ModifyResponse: func(r *http.Response) error {
			if r.Request.URL.Path != "/sw.js" || !come.Load() {
				return nil
			}
			text, err := io.ReadAll(r.Body)
			if err != nil {
				return err
			}
			text = append(text, "\n// a newer version\n"...)
			r.Body = io.NopCloser(bytes.NewReader(text))
			r.ContentLength = int64(len(text))
			r.Header.Set("Content-Length", strconv.Itoa(len(text)))
			return nil
		},
	})
	t.Cleanup(proxy.Close)
	return proxy.URL, come
}

// A new version comes while records wait: the old page goes on in its step, and offers
// the new one only between two jobs. What waited is still there with the new one, and sent.
func TestANewVersionWhileRecordsWait(t *testing.T) {
	s := open(t)
	front, come := newer(t, s)
	s.Front(front)
	s.play("/", func(h stage.Hands) {
		h.As("ilse")
		h.Page.MustEval(ahead, "j-102")
		h.Page.MustReload() // the worker is in charge from the second visit on
		h.On("Today")
		before := len(s.events("j-102"))
		h.Touch("Go on: Guest house on the point")
		h.On("Hang the front")
		come.Store(true)
		h.Page.MustEval(`async () => {
			const pages = await navigator.serviceWorker.getRegistration();
			await pages.update();
			while (!pages.waiting) await new Promise(done => setTimeout(done, 50));
		}`)
		require.NoError(t, s.End(syscall.SIGKILL))
		h.Touch("The drum rim lies inside")
		h.Says("no signal, 1 waiting")
		assert.NotContains(t, h.Text(), "A new version is ready", "not within a step")
		h.Page.MustElement(`header a[href="/"]`).MustClick()
		h.On("Today")
		h.Says("A new version is ready")
		h.Page.MustEval(`() => { window.old = true; }`)
		h.Touch("Begin it")
		h.Page.MustWait(`() => !window.old`)
		h.On("Today")
		h.Says("1 to send")
		require.NoError(t, s.Start(t.Context()))
		h.Page.MustEval(`() => window.dispatchEvent(new Event("online"))`)
		h.Page.MustElement(`a[href="/device"]`).MustClick()
		h.On("This device")
		h.Touch("Send now")
		h.Says("All sent. Nothing waits.")
		assert.Len(t, s.events("j-102"), before+1, "nothing of it was lost or doubled")
	})
}

// A browser that keeps nothing on the device says so before anything is recorded.
func TestAWindowThatKeepsNothing(t *testing.T) {
	s := open(t)
	page, err := s.Page("/licences.txt", 1280, 800)
	require.NoError(t, err)
	defer func() { _ = page.Close() }()
	page = page.CancelTimeout().Timeout(longest)
	page.MustEvalOnNewDocument(`IDBFactory.prototype.open = () => { throw new DOMException("closed", "InvalidStateError"); }`)
	require.NoError(t, rod.Try(func() {
		h := stage.Hands{Page: page.MustNavigate(s.At() + "/")}
		h.As("jonna")
		h.Says("This browser keeps nothing on this device")
		h.Touch("Open: Boat-yard canteen")
		h.On("This job cannot be opened")
		h.Says("keeps nothing on this device")
	}))
}
