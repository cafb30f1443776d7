package main

import (
	"bufio"
	"context"
	"net/http"
	"time"
)

// watched lets a second device look at a job as long as it is worked: how long it takes
// until that is told of a touch is noted. A line that breaks is begun again, as browsers
// do it.
func (t *technician) watched(ctx context.Context, job string) {
	for ctx.Err() == nil {
		t.hear(ctx, job)
		pause(ctx, time.Second)
	}
}

func (t *technician) hear(ctx context.Context, job string) {
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, t.c.front.url+"/api/jobs/"+job+"/live?device=mate-of-"+t.device, nil)
	if err != nil {
		return
	}
	line := &http.Client{Jar: t.http.Jar}
	answer, err := line.Do(r)
	if err != nil {
		return
	}
	defer answer.Body.Close()
	first := true
	for lines := bufio.NewScanner(answer.Body); lines.Scan(); {
		if lines.Text() != "event: facts" {
			continue
		}
		if first { // that the line has begun
			first = false
			t.sent.Store(0)
			continue
		}
		if at := t.sent.Swap(0); at > 0 {
			t.c.took.add("told", time.Duration(time.Now().UnixNano()-at))
		}
	}
}
