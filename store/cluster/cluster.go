// Package cluster starts a PostgreSQL of the program's own on loopback, for
// the demo and the tests: a data folder, a free port, a password made at its
// first start. It needs Debian's package postgresql, or its programs on PATH.
package cluster

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"io/fs"
	"net"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"time"
)

// Cluster is a running database server.
type Cluster struct {
	// URL reaches its database "evensteps".
	URL  string
	dir  string
	bin  string
	as   *syscall.Credential
	Port int
}

// Options of a start.
type Options struct {
	// Throwaway trades safety against a crash of the machine for speed. For
	// tests alone.
	Throwaway bool
	// Port to listen on; 0 for one that is free.
	Port int
}

// Start starts the cluster in dir, making it first where it is not there. One
// that still runs there is used as it is.
func Start(ctx context.Context, dir string, o Options) (*Cluster, error) {
	bin, err := programs()
	if err != nil {
		return nil, err
	}
	as, err := identity()
	if err != nil {
		return nil, err
	}
	c := &Cluster{dir: dir, bin: bin, as: as}
	data := filepath.Join(dir, "data")
	if _, err := os.Stat(filepath.Join(data, "PG_VERSION")); errors.Is(err, fs.ErrNotExist) {
		if err := c.initialise(ctx, data); err != nil {
			return nil, err
		}
	}
	password, err := os.ReadFile(filepath.Join(dir, "password"))
	if err != nil {
		return nil, fmt.Errorf("reading the database's password: %w", err)
	}
	port, running := c.running(ctx, data)
	if !running {
		if port = o.Port; port == 0 {
			if port, err = freePort(); err != nil {
				return nil, err
			}
		}
		options := fmt.Sprintf("-c listen_addresses=127.0.0.1 -c port=%d -c unix_socket_directories='' -c max_connections=60", port)
		if o.Throwaway {
			options += " -c fsync=off -c synchronous_commit=off -c full_page_writes=off"
		}
		if err := c.run(ctx, "pg_ctl", "-D", data, "-l", filepath.Join(dir, "log"), "-w", "-t", "60", "-o", options, "start"); err != nil {
			return nil, err
		}
	}
	c.Port = port
	c.URL = fmt.Sprintf("postgres://evensteps:%s@127.0.0.1:%d/postgres?sslmode=disable", strings.TrimSpace(string(password)), port)
	return c, nil
}

// Stop ends the server; what was committed stays.
func (c *Cluster) Stop() error {
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	return c.run(ctx, "pg_ctl", "-D", filepath.Join(c.dir, "data"), "-m", "fast", "-w", "stop")
}

func (c *Cluster) initialise(ctx context.Context, data string) error {
	if err := os.MkdirAll(filepath.Dir(c.dir), 0o755); err != nil { // its user must be able to pass
		return fmt.Errorf("making the database's folder: %w", err)
	}
	if err := os.MkdirAll(data, 0o700); err != nil {
		return fmt.Errorf("making the database's folder: %w", err)
	}
	secret := make([]byte, 18)
	if _, err := rand.Read(secret); err != nil {
		return fmt.Errorf("making a password: %w", err)
	}
	file := filepath.Join(c.dir, "password")
	if err := os.WriteFile(file, fmt.Appendf(nil, "%x\n", secret), 0o600); err != nil {
		return fmt.Errorf("keeping the password: %w", err)
	}
	if c.as != nil {
		for _, path := range []string{c.dir, data, file} {
			if err := os.Chown(path, int(c.as.Uid), int(c.as.Gid)); err != nil {
				return fmt.Errorf("handing the database's folder to its user: %w", err)
			}
		}
	}
	return c.run(ctx, "initdb", "-D", data, "-U", "evensteps", "--pwfile="+file, "--auth=scram-sha-256", "--encoding=UTF8", "--locale=C.UTF-8", "--no-instructions")
}

// running finds the port of a server that is up in this folder.
func (c *Cluster) running(ctx context.Context, data string) (int, bool) {
	if c.run(ctx, "pg_ctl", "-D", data, "status") != nil {
		return 0, false
	}
	lines, err := os.ReadFile(filepath.Join(data, "postmaster.pid"))
	if err != nil {
		return 0, false
	}
	fields := strings.Split(string(lines), "\n")
	if len(fields) < 4 {
		return 0, false
	}
	port, err := strconv.Atoi(strings.TrimSpace(fields[3]))
	return port, err == nil
}

// Run runs one of PostgreSQL's programs, as pg_dump, as the user that the server
// runs as.
func (c *Cluster) Run(ctx context.Context, program string, args ...string) error {
	return c.run(ctx, program, args...)
}

func (c *Cluster) run(ctx context.Context, program string, args ...string) error {
	cmd := exec.CommandContext(ctx, filepath.Join(c.bin, program), args...)
	cmd.Dir = "/"
	cmd.Env = append(os.Environ(), "LC_ALL=C.UTF-8", "HOME=/")
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true, Credential: c.as} // not ended by the keys that end the program
	out, err := os.CreateTemp("", "evensteps-*.log")                        // a file, not a pipe: the server keeps it open
	if err != nil {
		return fmt.Errorf("running %s: %w", program, err)
	}
	defer os.Remove(out.Name())
	defer out.Close()
	cmd.Stdout, cmd.Stderr = out, out
	if err := cmd.Run(); err != nil {
		said, _ := os.ReadFile(out.Name())
		return fmt.Errorf("running %s: %w: %s", program, err, strings.TrimSpace(string(said)))
	}
	return nil
}

// programs finds the folder with the server's programs: Debian keeps them in
// one for each version, not on PATH.
func programs() (string, error) {
	found, err := filepath.Glob("/usr/lib/postgresql/*/bin/initdb")
	if err != nil {
		return "", fmt.Errorf("looking for PostgreSQL: %w", err)
	}
	if len(found) > 0 {
		slices.SortFunc(found, func(a, b string) int { return version(b) - version(a) })
		return filepath.Dir(found[0]), nil
	}
	path, err := exec.LookPath("initdb")
	if err != nil {
		return "", errors.New("PostgreSQL's server is not installed: install the package postgresql")
	}
	return filepath.Dir(path), nil
}

func version(path string) int {
	n, _ := strconv.Atoi(filepath.Base(filepath.Dir(filepath.Dir(path))))
	return n
}

// identity is whom the server runs as: it refuses to run as root, so root
// hands it to the user postgres.
func identity() (*syscall.Credential, error) {
	if os.Getuid() != 0 {
		return nil, nil
	}
	u, err := user.Lookup("postgres")
	if err != nil {
		return nil, fmt.Errorf("PostgreSQL does not run as root, and there is no user postgres: %w", err)
	}
	uid, err := strconv.ParseUint(u.Uid, 10, 32)
	if err != nil {
		return nil, fmt.Errorf("the user postgres: %w", err)
	}
	gid, err := strconv.ParseUint(u.Gid, 10, 32)
	if err != nil {
		return nil, fmt.Errorf("the user postgres: %w", err)
	}
	return &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}, nil
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, fmt.Errorf("looking for a free port: %w", err)
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}

// Folder is where a database of that name lives: the user's own data folder,
// or for root, whose folder other users cannot enter, the system's.
func Folder(name string) (string, error) {
	if dir := os.Getenv("EVENSTEPS_DATA"); dir != "" {
		return filepath.Join(dir, name), nil
	}
	if os.Getuid() == 0 {
		return filepath.Join("/var/lib/evensteps", name), nil
	}
	home, err := os.UserHomeDir()
	if err != nil {
		return "", fmt.Errorf("looking for a folder for data: %w", err)
	}
	return filepath.Join(home, ".local", "share", "evensteps", name), nil
}

// Dir is the cluster's folder.
func (c *Cluster) Dir() string { return c.dir }

// Remove stops the cluster in dir, if one runs there, and takes all of it away.
func Remove(ctx context.Context, dir string) error {
	if _, err := os.Stat(dir); errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	bin, err := programs()
	if err != nil {
		return err
	}
	as, err := identity()
	if err != nil {
		return err
	}
	c := &Cluster{dir: dir, bin: bin, as: as}
	if _, running := c.running(ctx, filepath.Join(dir, "data")); running {
		if err := c.Stop(); err != nil {
			return err
		}
	}
	if err := os.RemoveAll(dir); err != nil {
		return fmt.Errorf("taking the database away: %w", err)
	}
	return nil
}
