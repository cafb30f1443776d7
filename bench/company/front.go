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
	to    []string // the programs' addresses: lines go to them in turn
	next  int
	in    net.Listener
	mu    sync.Mutex
	lines map[net.Conn]bool
	seen  map[string]bool // the databases that answers came from
}

func newFront(to ...string) (*front, error) {
	var hosts []string
	for _, one := range to {
		u, err := url.Parse(one)
		if err != nil {
			return nil, fmt.Errorf("reading an address: %w", err)
		}
		hosts = append(hosts, u.Host)
	}
	in, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, fmt.Errorf("looking for a free port: %w", err)
	}
	f := &front{url: "http://" + in.Addr().String(), to: hosts, in: in, lines: map[net.Conn]bool{}, seen: map[string]bool{}}
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
	on := f.dial()
	if on == nil {
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

// dial joins the next program, or the one after it where that is down.
func (f *front) dial() net.Conn {
	f.mu.Lock()
	first := f.next
	f.next++
	f.mu.Unlock()
	for i := range f.to {
		if on, err := net.Dial("tcp", f.to[(first+i)%len(f.to)]); err == nil {
			return on
		}
	}
	return nil
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
