package server

import lru "github.com/hashicorp/golang-lru/v2"

// memory holds so many things by name; the one that was used longest ago goes
// first. It can be used by many at once.
type memory[V any] struct{ *lru.Cache[string, V] }

func newMemory[V any](most int) memory[V] {
	c, err := lru.New[string, V](most)
	if err != nil {
		panic(err) // the sizes are constants above 0
	}
	return memory[V]{c}
}

// orElse is what is remembered by that name, or else this, which is then.
func (m memory[V]) orElse(name string, fresh V) V {
	before, is, _ := m.PeekOrAdd(name, fresh)
	if !is {
		return fresh
	}
	m.Get(name) // it was used now
	return before
}
