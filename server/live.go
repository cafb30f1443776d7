package server

import (
	"context"
	"net/http"
	"slices"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/sse"
	"github.com/google/uuid"

	"evensteps/store"
)

// How a line goes on. It says something now and then, so that neither a proxy nor a
// phone takes it for dead, and ends after a while: the device begins another, and who
// it is and what they may do is looked at anew.
const (
	beats    = 20 * time.Second
	lineLife = 2 * time.Minute
	// mostEars one person has at once in one process; the oldest ends first.
	mostEars = 20
)

// ears are the lines that hear of a job. All processes hear all news through the
// database, so that it does not matter which of them a device is joined to.
type ears struct {
	turn  sync.Mutex
	lines map[string]map[*ear]bool // job -> its lines
	of    map[string][]*ear        // person -> theirs, the oldest first
	// ending is closed when the server ends: lines would hold it up.
	ending chan struct{}
}

// ear is one line: what came for it that it has not looked at yet.
type ear struct {
	device string
	came   chan struct{}
	over   chan struct{} // closed when its person has begun too many others
	facts  bool
	here   bool
}

func newEars() *ears {
	return &ears{lines: map[string]map[*ear]bool{}, of: map[string][]*ear{}, ending: make(chan struct{})}
}

func (h *ears) open(job, person, device string) *ear {
	e := &ear{device: device, came: make(chan struct{}, 1), over: make(chan struct{})}
	h.turn.Lock()
	defer h.turn.Unlock()
	if h.lines[job] == nil {
		h.lines[job] = map[*ear]bool{}
	}
	h.lines[job][e] = true
	h.of[person] = append(h.of[person], e)
	if len(h.of[person]) > mostEars {
		close(h.of[person][0].over)
		h.of[person] = h.of[person][1:]
	}
	return e
}

func (h *ears) close(job, person string, e *ear) {
	h.turn.Lock()
	defer h.turn.Unlock()
	if delete(h.lines[job], e); len(h.lines[job]) == 0 {
		delete(h.lines, job)
	}
	h.of[person] = slices.DeleteFunc(h.of[person], func(o *ear) bool { return o == e })
	if len(h.of[person]) == 0 {
		delete(h.of, person)
	}
}

// hear passes news on. A device is not told of what it sent itself.
func (h *ears) hear(n store.News) {
	h.turn.Lock()
	defer h.turn.Unlock()
	for e := range h.lines[n.Job] {
		e.tell(n.Facts && (n.Device == "" || n.Device != e.device), n.Here)
	}
}

// missed tells all lines to look: the line to the database had broken.
func (h *ears) missed() {
	h.turn.Lock()
	defer h.turn.Unlock()
	for _, lines := range h.lines {
		for e := range lines {
			e.tell(true, true)
		}
	}
}

func (e *ear) tell(facts, here bool) {
	e.facts, e.here = e.facts || facts, e.here || here
	select {
	case e.came <- struct{}{}:
	default:
	}
}

func (h *ears) take(e *ear) (facts, here bool) {
	h.turn.Lock()
	defer h.turn.Unlock()
	facts, here = e.facts, e.here
	e.facts, e.here = false, false
	return facts, here
}

// FactsCame says that there are facts of others: the device asks for them.
type FactsCame struct{}

// WhoIsHere are the devices that look at the job now.
type WhoIsHere struct {
	Devices []store.Here `json:"devices"`
}

// Beat says that the line is well.
type Beat struct{}

func (s *Server) live() {
	type lineIn struct {
		Job    string `path:"job" maxLength:"80"`
		Device string `query:"device" required:"true" minLength:"1" maxLength:"80"`
		Step   string `query:"step" maxLength:"200" doc:"The step that is on"`
	}
	sse.Register(s.api, huma.Operation{OperationID: "live", Method: http.MethodGet, Path: "/jobs/{job}/live", Summary: "What becomes other on a job, as it does: server-sent events"},
		map[string]any{"facts": FactsCame{}, "here": WhoIsHere{}, "beat": Beat{}},
		func(ctx context.Context, in *lineIn, send sse.Sender) {
			s.line(ctx, store.Here{JobID: in.Job, Device: in.Device, Person: person(ctx).ID, Step: in.Step, Stream: uuid.NewString()}, send)
		})

	type stepIn struct {
		Job  string `path:"job" maxLength:"80"`
		Body struct {
			Device string `json:"device" minLength:"1" maxLength:"80"`
			Step   string `json:"step" maxLength:"200"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "here", Method: http.MethodPut, Path: "/jobs/{job}/here", Summary: "Say which step is on, for the others who look at the job", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *stepIn) (*struct{}, error) {
			if err := s.store.Step(ctx, store.Here{JobID: in.Job, Device: in.Body.Device, Person: person(ctx).ID, Step: in.Body.Step}); err != nil {
				return nil, s.problem(ctx, err)
			}
			return nil, nil
		})
}

// line tells one device what becomes other on a job, until either is gone or the
// line has lasted its time. Where the database is away the line ends, and the device
// goes on by asking.
func (s *Server) line(ctx context.Context, h store.Here, send sse.Sender) {
	if err := send(sse.Message{Data: Beat{}, Retry: 1000}); err != nil {
		return
	}
	e := s.ears.open(h.JobID, h.Person, h.Device)
	defer s.ears.close(h.JobID, h.Person, e)
	if err := s.store.Come(ctx, h); err != nil {
		s.problem(ctx, err) // the log has it
		return
	}
	defer func() {
		last, cancel := context.WithTimeout(context.WithoutCancel(ctx), 2*time.Second)
		defer cancel()
		_ = s.store.Leave(last, h) // else it is forgotten in a while
	}()
	e.tell(true, true)
	beat, end := time.NewTicker(beats), time.NewTimer(lineLife)
	defer beat.Stop()
	defer end.Stop()
	for {
		var facts, here bool
		select {
		case <-ctx.Done():
			return
		case <-s.ears.ending:
			return
		case <-end.C:
			return
		case <-e.over:
			return
		case <-beat.C:
			here = true
		case <-e.came:
			facts, here = s.ears.take(e)
		}
		if facts && send.Data(FactsCame{}) != nil {
			return
		}
		if !here {
			continue
		}
		devices, err := s.store.Stay(ctx, h)
		if err != nil || send.Data(WhoIsHere{devices}) != nil {
			return
		}
	}
}
