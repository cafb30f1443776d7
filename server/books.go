package server

import (
	"context"
	"fmt"

	"golang.org/x/sync/semaphore"

	"evensteps/core/job"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/store"
)

// books are the open books of jobs: maps read and facts folded already, so that
// a look at a job costs what has come since. They can be dropped at any time; the
// one that was used longest ago goes first.
type books struct {
	store *store.Store
	jobs  memory[*openBook]
	maps  memory[*machine.Map]
}

// openBook is used by one at a time; who waits for it gives up with the request.
type openBook struct {
	turn *semaphore.Weighted
	book *job.Book
	last int
}

const (
	mostBooks = 64
	mostMaps  = 256
)

func newBooks(s *store.Store) *books {
	return &books{store: s, jobs: newMemory[*openBook](mostBooks), maps: newMemory[*machine.Map](mostMaps)}
}

func (b *books) machine(ctx context.Context, id string, revision int) (*machine.Map, error) {
	key := fmt.Sprintf("%s@%d", id, revision)
	if m, known := b.maps.Get(key); known {
		return m, nil
	}
	m, err := b.store.Map(ctx, id, revision)
	if err != nil {
		return nil, err
	}
	b.maps.Add(key, m)
	return m, nil
}

// with opens a job's book, up to its latest event, and uses it.
func (b *books) with(ctx context.Context, j store.Job, known scene.Job, use func(*job.Book)) error {
	m, err := b.machine(ctx, j.MapID, j.MapRevision)
	if err != nil {
		return err
	}
	o := b.jobs.orElse(j.ID, &openBook{turn: semaphore.NewWeighted(1), book: job.Open(m, known)})
	if err := o.turn.Acquire(ctx, 1); err != nil {
		return fmt.Errorf("waiting for the job %q: %w", j.ID, err)
	}
	defer o.turn.Release(1)
	o.book.Job = known
	var facts []record.Fact
	last := o.last // the book's own, only once all are in it
	for {
		events, err := b.store.Events(ctx, j.ID, last, mostEvents)
		if err != nil {
			return err
		}
		for _, e := range events {
			facts = append(facts, record.ReadKept(e))
		}
		if len(events) > 0 {
			last = events[len(events)-1].Num
		}
		if len(events) < mostEvents {
			break
		}
	}
	if len(facts) > 0 {
		o.book.Add(facts...)
		o.last = last
	}
	use(o.book)
	return nil
}
