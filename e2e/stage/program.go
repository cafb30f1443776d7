package stage

import (
	"context"
	"fmt"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"time"
)

// Program is the real program as a process of its own, on a database.
type Program struct {
	URL      string
	Database string

	binary  string
	log     string
	addr    string
	env     []string
	process *exec.Cmd
	twin    *Program // another process on the same database, that goes with it
}

// Another is one more process of the program, on the same database.
func (p *Program) Another() (*Program, error) {
	return NewProgram(p.binary, p.log+".2", p.Database, p.env...)
}

// Build builds the program into a folder and returns where it is.
func Build(ctx context.Context, dir string) (string, error) {
	binary := filepath.Join(dir, "evensteps")
	if out, err := exec.CommandContext(ctx, "go", "build", "-o", binary, "evensteps/cmd/evensteps").CombinedOutput(); err != nil {
		return "", fmt.Errorf("building the program: %w: %s", err, out)
	}
	return binary, nil
}

// NewProgram finds a port for a program that was built; Start starts it. Its log
// goes to a file, and env is added to what this process has.
func NewProgram(binary, log, database string, env ...string) (*Program, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, fmt.Errorf("looking for a free port: %w", err)
	}
	defer l.Close()
	return &Program{URL: "http://" + l.Addr().String(), Database: database, binary: binary, log: log, addr: l.Addr().String(), env: env}, nil
}

// Start starts the server and waits until it answers.
func (p *Program) Start(ctx context.Context) error {
	if p.twin != nil {
		p.twin.Database = p.Database
		if err := p.twin.Start(ctx); err != nil {
			return err
		}
	}
	p.process = exec.Command(p.binary, "serve")
	p.process.Env = append(append(os.Environ(), p.env...), "EVENSTEPS_ADDR="+p.addr, "EVENSTEPS_DATABASE_URL="+p.Database, "EVENSTEPS_INSECURE_COOKIES=1")
	log, err := os.OpenFile(p.log, os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o600)
	if err != nil {
		return fmt.Errorf("opening the server's log: %w", err)
	}
	defer log.Close()
	p.process.Stderr = log
	if err := p.process.Start(); err != nil {
		return fmt.Errorf("starting the server: %w", err)
	}
	for range 200 {
		r, err := http.NewRequestWithContext(ctx, http.MethodGet, p.URL+"/readyz", nil)
		if err != nil {
			return fmt.Errorf("asking the server: %w", err)
		}
		if answer, err := http.DefaultClient.Do(r); err == nil {
			_ = answer.Body.Close()
			if answer.StatusCode == http.StatusOK {
				return nil
			}
		}
		time.Sleep(50 * time.Millisecond)
	}
	said, _ := os.ReadFile(p.log)
	return fmt.Errorf("the server does not answer: %s", said)
}

// Signal sends a signal to the running server, as one that stalls it.
func (p *Program) Signal(how syscall.Signal) error {
	if p.process == nil {
		return nil
	}
	if err := p.process.Process.Signal(how); err != nil {
		return fmt.Errorf("signalling the server: %w", err)
	}
	return nil
}

// Resident is the memory that the server holds, in megabytes; 0 where that
// cannot be read.
func (p *Program) Resident() float64 {
	status, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", p.process.Process.Pid))
	if err != nil {
		return 0
	}
	for _, line := range strings.Split(string(status), "\n") {
		var kb float64
		if _, err := fmt.Sscanf(line, "VmRSS: %f kB", &kb); err == nil {
			return kb / 1024
		}
	}
	return 0
}

// End ends the server: SIGTERM lets it finish, SIGKILL does not.
func (p *Program) End(how syscall.Signal) error {
	if p.process == nil {
		return nil
	}
	if p.twin != nil {
		if err := p.twin.End(how); err != nil {
			return err
		}
	}
	process := p.process
	p.process = nil
	if err := process.Process.Signal(how); err != nil {
		return fmt.Errorf("ending the server: %w", err)
	}
	_ = process.Wait() // a killed server ends with an error of its own
	return nil
}
