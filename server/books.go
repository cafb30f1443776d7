package server

import (
	"context"
	"fmt"
	"sync"

	"evensteps/core/ladder"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/store"
)

// books are the open books of jobs: maps read and facts folded already, so that
// a look at a job costs what has come since. They can be dropped at any time.
type books struct {
	store *store.Store
	mu    sync.Mutex
	jobs  map[string]*openBook
	maps  map[string]*machine.Map
}

type openBook struct {
	mu   sync.Mutex
	book *ladder.Book
	last int
}

const mostBooks = 64

func newBooks(s *store.Store) *books {
	return &books{store: s, jobs: map[string]*openBook{}, maps: map[string]*machine.Map{}}
}

func (b *books) machine(ctx context.Context, id string, revision int) (*machine.Map, error) {
	key := fmt.Sprintf("%s@%d", id, revision)
	b.mu.Lock()
	m := b.maps[key]
	b.mu.Unlock()
	if m != nil {
		return m, nil
	}
	m, err := b.store.Map(ctx, id, revision)
	if err != nil {
		return nil, err
	}
	b.mu.Lock()
	b.maps[key] = m
	b.mu.Unlock()
	return m, nil
}

// with opens a job's book, up to its latest event, and uses it.
func (b *books) with(ctx context.Context, job store.Job, known ladder.Job, use func(*ladder.Book)) error {
	m, err := b.machine(ctx, job.MapID, job.MapRevision)
	if err != nil {
		return err
	}
	b.mu.Lock()
	if len(b.jobs) >= mostBooks {
		clear(b.jobs)
	}
	o := b.jobs[job.ID]
	if o == nil {
		o = &openBook{book: ladder.Open(m, known)}
		b.jobs[job.ID] = o
	}
	b.mu.Unlock()
	o.mu.Lock()
	defer o.mu.Unlock()
	o.book.Job = known
	for {
		events, err := b.store.Events(ctx, job.ID, o.last, mostEvents)
		if err != nil {
			return err
		}
		var facts []record.Fact
		for _, e := range events {
			facts = append(facts, record.ReadKept(e))
			o.last = e.Num
		}
		o.book.Add(facts...)
		if len(events) < mostEvents {
			use(o.book)
			return nil
		}
	}
}
