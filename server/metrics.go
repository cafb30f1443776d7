package server

import (
	"net/http"
	"strconv"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"
)

// metrics are what Prometheus asks for, each server's its own.
type metrics struct {
	registry *prometheus.Registry
	took     *prometheus.HistogramVec
	kept     *prometheus.CounterVec
	panics   prometheus.Counter
}

// newMetrics of a server. pool says how its connections to the database stand.
func newMetrics(s *Server) *metrics {
	m := &metrics{
		registry: prometheus.NewRegistry(),
		took: prometheus.NewHistogramVec(prometheus.HistogramOpts{
			Name: "evensteps_request_seconds", Help: "How long requests took, by route. Lines that stay open are not among them.",
			Buckets: []float64{.002, .005, .01, .02, .05, .1, .2, .5, 1, 2, 5, 20},
		}, []string{"method", "route", "status"}),
		kept:   prometheus.NewCounterVec(prometheus.CounterOpts{Name: "evensteps_events_total", Help: "Events that came in, by what became of them."}, []string{"outcome"}),
		panics: prometheus.NewCounter(prometheus.CounterOpts{Name: "evensteps_panics_total", Help: "Requests that failed inside; the log has each."}),
	}
	m.registry.MustRegister(m.took, m.kept, m.panics, collectors.NewGoCollector(), collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}),
		prometheus.NewGaugeFunc(prometheus.GaugeOpts{Name: "evensteps_lines", Help: "Devices that are told what becomes other as it does."}, func() float64 { return float64(s.ears.count()) }),
		prometheus.NewGaugeFunc(prometheus.GaugeOpts{Name: "evensteps_database_connections", Help: "Connections to the database that are in use."}, func() float64 { return float64(s.store.Pool().InUse) }),
		prometheus.NewCounterFunc(prometheus.CounterOpts{Name: "evensteps_database_waits_total", Help: "Requests that waited for a connection to the database."}, func() float64 { return float64(s.store.Pool().WaitCount) }))
	return m
}

// answered notes how long a request took, by the route that answered it.
func (m *metrics) answered(r *http.Request, status int, took time.Duration) {
	if isLive(r) {
		return
	}
	route := "none"
	if c := chi.RouteContext(r.Context()); c != nil && c.RoutePattern() != "" {
		route = c.RoutePattern()
	}
	m.took.WithLabelValues(r.Method, route, strconv.Itoa(status/100)+"xx").Observe(took.Seconds())
}

// Metrics answers Prometheus. It stands at an address of its own: it is nobody's
// business outside.
func (s *Server) Metrics() http.Handler {
	mux := http.NewServeMux()
	mux.Handle("GET /metrics", promhttp.HandlerFor(s.metrics.registry, promhttp.HandlerOpts{}))
	return mux
}

// count is how many lines are open.
func (h *ears) count() (n int) {
	h.turn.Lock()
	defer h.turn.Unlock()
	for _, lines := range h.lines {
		n += len(lines)
	}
	return n
}
