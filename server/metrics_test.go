package server_test

import (
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/prometheus/common/expfmt"
	"github.com/prometheus/common/model"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/record"
	"evensteps/server"
)

// What Prometheus asks for is read by its own reader; routes stand in it, and neither
// jobs nor people.
func TestMetrics(t *testing.T) {
	s := begin(t, server.Options{})
	d := s.jonna(t)
	d.get("/api/jobs/j-101", nil)
	d.get("/api/jobs/no-such", nil)
	d.send("j-101", d.event("note", record.Note{Text: "for the count"}))
	heard := d.hears(t.Context(), "/api/jobs/j-101/live?device=tab-9")
	until(t, heard, "here", anything)
	answer := httptest.NewRecorder()
	s.server.Metrics().ServeHTTP(answer, httptest.NewRequest(http.MethodGet, "/metrics", nil))
	require.Equal(t, http.StatusOK, answer.Code)
	text := answer.Body.String()
	parser := expfmt.NewTextParser(model.UTF8Validation)
	read, err := parser.TextToMetricFamilies(answer.Body)
	require.NoError(t, err)
	counts := map[string]uint64{}
	for _, m := range read["evensteps_request_seconds"].Metric {
		labels := map[string]string{}
		for _, l := range m.Label {
			labels[l.GetName()] = l.GetValue()
		}
		counts[labels["route"]+" "+labels["status"]] = m.Histogram.GetSampleCount()
	}
	assert.Equal(t, uint64(1), counts["/api/jobs/{job} 2xx"])
	assert.Equal(t, uint64(1), counts["/api/jobs/{job} 4xx"])
	assert.InDelta(t, 1, read["evensteps_events_total"].Metric[0].Counter.GetValue(), 0)
	assert.InDelta(t, 1, read["evensteps_lines"].Metric[0].Gauge.GetValue(), 0)
	for _, private := range []string{"j-101", "no-such", "jonna", "tab-9"} {
		assert.NotContains(t, text, private)
	}
	status, _, _ := d.call(http.MethodGet, "/metrics", nil)
	assert.NotContains(t, string(mustBody(d, "/metrics")), "evensteps_request_seconds", "not at the address of everybody (%d)", status)
}
