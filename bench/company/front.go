package main

import (
	"fmt"
	"io"
	"net"
	"net/url"
	"sync"
)

// front is the way to the program: it can be cut, as a bad line is.
type front struct {
	url   string
	to    string
	in    net.Listener
	mu    sync.Mutex
	lines map[net.Conn]bool
	seen  map[string]bool // the databases that answers came from
}

func newFront(to string) (*front, error) {
	u, err := url.Parse(to)
	if err != nil {
		return nil, fmt.Errorf("reading an address: %w", err)
	}
	in, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, fmt.Errorf("looking for a free port: %w", err)
	}
	f := &front{url: "http://" + in.Addr().String(), to: u.Host, in: in, lines: map[net.Conn]bool{}, seen: map[string]bool{}}
	go f.serve()
	return f, nil
}

func (f *front) serve() {
	for {
		line, err := f.in.Accept()
		if err != nil {
			return // closed
		}
		go f.join(line)
	}
}

func (f *front) join(line net.Conn) {
	defer line.Close()
	on, err := net.Dial("tcp", f.to)
	if err != nil {
		return // the program is down
	}
	defer on.Close()
	f.mu.Lock()
	f.lines[line] = true
	f.mu.Unlock()
	done := make(chan struct{}, 2)
	go func() { _, _ = io.Copy(on, line); done <- struct{}{} }()
	go func() { _, _ = io.Copy(line, on); done <- struct{}{} }()
	<-done
	f.mu.Lock()
	delete(f.lines, line)
	f.mu.Unlock()
}

// cut cuts all lines that are open now, whatever is on them.
func (f *front) cut() {
	f.mu.Lock()
	defer f.mu.Unlock()
	for line := range f.lines {
		_ = line.Close()
	}
}

func (f *front) close() {
	_ = f.in.Close()
	f.cut()
}

func (f *front) hear(epoch string) {
	f.mu.Lock()
	defer f.mu.Unlock()
	f.seen[epoch] = true
}

func (f *front) epochs() int {
	f.mu.Lock()
	defer f.mu.Unlock()
	return len(f.seen)
}
