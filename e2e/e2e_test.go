// Package e2e drives the built program on files in temporary folders, as a person would, and holds what it says
// against a browser and other programs that are not ours.
package e2e

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

var program string

func TestMain(m *testing.M) {
	dir, err := os.MkdirTemp("", "archetyp-e2e")
	if err != nil {
		panic(err)
	}
	program = filepath.Join(dir, "archetyp")
	build := exec.Command("go", "build", "-o", program, "archetyp/cmd/archetyp")
	build.Env = append(os.Environ(), "CGO_ENABLED=0")
	if out, err := build.CombinedOutput(); err != nil {
		panic(string(out))
	}
	for _, kv := range [][2]string{{"GIT_CONFIG_GLOBAL", os.DevNull}, {"GIT_CONFIG_NOSYSTEM", "1"}} { // git as it comes
		if err := os.Setenv(kv[0], kv[1]); err != nil {
			panic(err)
		}
	}
	code := m.Run()
	os.RemoveAll(dir)
	os.Exit(code)
}

// result is what a run of the program printed, and its exit status.
type result struct {
	out, err string
	status   int
}

// run runs the program in a folder.
func run(t testing.TB, dir string, args ...string) result {
	t.Helper()
	cmd := exec.Command(program, args...)
	cmd.Dir = dir
	return finish(t, cmd)
}

// finish runs a command to its end.
func finish(t testing.TB, cmd *exec.Cmd) result {
	t.Helper()
	var out, errs bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &errs
	err := cmd.Run()
	var ee *exec.ExitError
	if err != nil && !errors.As(err, &ee) && !errors.Is(err, context.DeadlineExceeded) {
		t.Fatal(err)
	}
	return result{out.String(), errs.String(), cmd.ProcessState.ExitCode()}
}

// must is run where all has to go well.
func must(t testing.TB, dir string, args ...string) result {
	t.Helper()
	r := run(t, dir, args...)
	if r.status != 0 {
		t.Fatalf("archetyp %s: status %d\n%s%s", strings.Join(args, " "), r.status, r.out, r.err)
	}
	return r
}

// mustJSON parses what a command prints with --json.
func mustJSON(t testing.TB, dir string, into any, args ...string) {
	t.Helper()
	r := must(t, dir, append(args, "--json", "--quiet")...)
	if err := json.Unmarshal([]byte(r.out), into); err != nil {
		t.Fatalf("archetyp %s: %v\n%s", strings.Join(args, " "), err, r.out)
	}
}

func write(t testing.TB, dir, name, data string) string {
	t.Helper()
	path := filepath.Join(dir, name)
	if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(path, []byte(data), 0o644); err != nil {
		t.Fatal(err)
	}
	return path
}

func read(t testing.TB, parts ...string) string {
	t.Helper()
	data, err := os.ReadFile(filepath.Join(parts...))
	if err != nil {
		t.Fatal(err)
	}
	return string(data)
}

// tree is every file below a folder with its bytes; the folder of the cache and journal is left out.
func tree(t testing.TB, dir string) map[string]string {
	t.Helper()
	out := map[string]string{}
	err := filepath.WalkDir(dir, func(p string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		if d.IsDir() {
			if d.Name() == ".archetyp" {
				return filepath.SkipDir
			}
			return nil
		}
		rel, _ := filepath.Rel(dir, p)
		out[filepath.ToSlash(rel)] = read(t, p)
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// demoFiles is the folder of the demo's own files in the repository.
func demoFiles(t testing.TB) string {
	t.Helper()
	dir, err := filepath.Abs("../demo/files")
	if err != nil {
		t.Fatal(err)
	}
	return dir
}

// need finds a program that is not ours; where it is missing the test is skipped, unless that is forbidden.
func need(t testing.TB, names ...string) string {
	t.Helper()
	for _, n := range names {
		if p, err := exec.LookPath(n); err == nil {
			return p
		}
	}
	lacking(t, "%s is not installed", names[0])
	return ""
}

// lacking skips a test that this machine cannot run, with the reason; where ARCHETYP_NO_SKIP is set it fails.
func lacking(t testing.TB, format string, args ...any) {
	t.Helper()
	if os.Getenv("ARCHETYP_NO_SKIP") != "" {
		t.Fatalf(format+", and skipping is forbidden here", args...)
	}
	t.Skipf(format, args...)
}
