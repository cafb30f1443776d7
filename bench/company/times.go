package main

import (
	"fmt"
	"maps"
	"slices"
	"sync"
	"time"
)

// times are how long what was asked took, by what it was.
type times struct {
	mu     sync.Mutex
	of     map[string][]time.Duration
	status map[int]int
}

func (t *times) add(what string, took time.Duration) {
	t.mu.Lock()
	defer t.mu.Unlock()
	if t.of == nil {
		t.of = map[string][]time.Duration{}
	}
	t.of[what] = append(t.of[what], took)
}

func (t *times) wrong(status int) {
	t.mu.Lock()
	defer t.mu.Unlock()
	if t.status == nil {
		t.status = map[int]int{}
	}
	t.status[status]++
}

// at is the duration below which so many of a hundred are.
func at(took []time.Duration, percent int) time.Duration {
	if len(took) == 0 {
		return 0
	}
	return took[min(len(took)-1, len(took)*percent/100)]
}

func (t *times) report() {
	t.mu.Lock()
	defer t.mu.Unlock()
	for _, what := range slices.Sorted(maps.Keys(t.of)) {
		took := t.of[what]
		slices.Sort(took)
		fmt.Printf("%-14s %6d times  median %6.1f ms  p95 %6.1f ms  p99 %6.1f ms  most %6.0f ms\n", what, len(took), ms(at(took, 50)), ms(at(took, 95)), ms(at(took, 99)), ms(took[len(took)-1]))
	}
	for _, status := range slices.Sorted(maps.Keys(t.status)) {
		fmt.Printf("answered %d: %d times\n", status, t.status[status])
	}
}

func ms(d time.Duration) float64 { return float64(d.Microseconds()) / 1000 }

func (t *times) clear() {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.of, t.status = nil, nil
}
