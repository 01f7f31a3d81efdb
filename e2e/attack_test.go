package e2e

import (
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"
)

// TestFourAtOnce runs four processes that write at once: each kind of command twice, beside sync and beside another.
// What each acknowledged must be there at the end, and every file whole.
func TestFourAtOnce(t *testing.T) {
	t.Parallel()
	base := islands(t)
	seed := rand.New(rand.NewPCG(1, 13))
	for _, w := range writings {
		t.Run(w.name, func(t *testing.T) {
			for range sample(2, 40) {
				dir := copied(t, base)
				unsettle(t, dir)
				other := writings[seed.IntN(len(writings))]
				commands := [][]string{w.args, w.args, {"sync"}, other.args,
					{"tokens", "set", "color.two", "#b2b2b2"}, {"text", "set", "map.card.sail-now", "Purjehdi", "--locale",
						"fi"}, {"text", "set", "map.card.sail-now", "Płyń", "--locale", "pl"}}
				if strings.HasPrefix(other.name, "tokens rename") || w.name == "tokens rename" {
					commands[4] = []string{"tokens", "set", "use.text", "#b2b2b2"}
				}
				if other.name == "text rename" || w.name == "text rename" {
					commands[5], commands[6] = []string{"text", "set", "map.card.stay-here", "Jää", "--locale", "fi"}, []string{"text",
						"set", "map.card.stay-here", "Zostań", "--locale", "pl"}
				}
				results := make([]result, len(commands))
				var wg sync.WaitGroup
				for i, args := range commands {
					wg.Add(1)
					go func() {
						defer wg.Done()
						var hung bool
						if results[i], hung = attempt(t, dir, args...); hung {
							t.Errorf("%v waits over its bound", args)
						}
					}()
				}
				wg.Wait()
				for i, r := range results {
					if r.failed() {
						t.Errorf("%v: status %d\n%s", commands[i], r.status, r.err)
					}
					if i >= 4 && r.status != 0 {
						t.Errorf("%v beside %s and %s: status %d\n%s", commands[i], w.name, other.name, r.status, r.err)
					}
				}
				for i, where := range map[int]string{4: "tokens", 5: "text/fi.json", 6: "text/pl.json"} {
					text := ""
					for name, data := range tree(t, dir) {
						if strings.HasPrefix(name, where) {
							text += data
						}
					}
					want := commands[i][3]
					if i == 4 {
						want = `"hex": "#b2b2b2"`
						if !strings.Contains(text, want) {
							want = "#b2b2b2"
						}
					}
					if results[i].status == 0 && !strings.Contains(text, want) {
						t.Errorf("%v was acknowledged and is lost", commands[i])
					}
				}
				if r := run(t, dir, "sync"); r.status != 0 || strings.Contains(r.err, "recovered") {
					t.Errorf("%s and %s: sync afterwards: %s", w.name, other.name, r.err)
				}
				if r := run(t, dir, "sync", "--check"); r.status != 0 {
					t.Errorf("%s and %s: still out of step: %s%s", w.name, other.name, r.out, r.err)
				}
				if s := strayed(t, dir); len(s) > 0 {
					t.Errorf("%s and %s: left: %v", w.name, other.name, s)
				}
			}
		})
	}
}

// follows are commands that come after a stopped one.
var follows = []writing{
	{"sync", []string{"sync", "--overwrite"}},
	{"an edit of the same", []string{"tokens", "set", "use.ground", "#c3c3c3"}},
	{"an edit of another", []string{"text", "set", "map.card.stay-here", "Odota", "--locale", "fi"}},
}

// scenario is a command that is stopped, and what a workspace holds after each next command if none of it happened, or
// all.
type scenario struct {
	writing
	base      string
	none, all []map[string]string // by follows
}

func scenarios(t *testing.T) []*scenario {
	t.Helper()
	base := islands(t)
	unsettle(t, base)
	var out []*scenario
	for _, w := range writings {
		s := &scenario{writing: w, base: base}
		for _, f := range follows {
			dir := copied(t, base)
			must(t, dir, f.args...)
			s.none = append(s.none, owned(t, dir))
			dir = copied(t, base)
			must(t, dir, w.args...)
			must(t, dir, f.args...)
			s.all = append(s.all, owned(t, dir))
		}
		out = append(out, s)
	}
	return out
}

// What a person changes by hand in a file, and into what.
var (
	plainEnd = map[string]string{"tokens/a.tokens.json": "#030303", "tokens/b.tokens.json": "{color.sea}",
		"text/de.json": "go de"}
	handEnd = map[string]string{"tokens/a.tokens.json": "#abcdef", "tokens/b.tokens.json": "#abcdef",
		"text/de.json": "go by hand"}
)

// then runs a next command after a stop, and holds that all of the stopped one happened or none. With byHand a person
// has edited one of its files in between, and finds the edit again.
func (s *scenario) then(t *testing.T, dir, how string, k int, byHand bool) {
	t.Helper()
	edited := ""
	if byHand {
		for _, name := range []string{"tokens/b.tokens.json", "tokens/a.tokens.json", "text/de.json"} {
			if edited == "" && s.none[0][name] != s.all[0][name] {
				if old := read(t, dir, name); strings.Contains(old, plainEnd[name]) { // it may have changed already
					edited = name
					write(t, dir, name, strings.Replace(old, plainEnd[name], handEnd[name], 1))
				}
			}
		}
	}
	r, hung := attempt(t, dir, follows[k].args...)
	about := fmt.Sprintf("%s stopped %s, then %s (by hand: %s)", s.name, how, follows[k].name, edited)
	if hung || r.failed() || r.status != 0 {
		t.Errorf("%s: status %d\n%s%s", about, r.status, r.out, r.err)
		return
	}
	now := owned(t, dir)
	if edited != "" && !strings.Contains(now[edited], handEnd[edited]) {
		t.Errorf("%s: the edit is gone\n%s", about, r.err)
	}
	none, all := differences(s.none[k], now), differences(s.all[k], now)
	if edited != "" { // what was written to that file is beside it, or it was written before
		none, all = without(none, edited), without(all, edited)
	}
	if len(none) > 0 && len(all) > 0 {
		t.Errorf("%s: neither all nor none of it: %v are not as before, %v not as after\n%s", about, none, all, r.err)
	}
	if left := strayed(t, dir); len(left) > 0 {
		t.Errorf("%s: left: %v", about, left)
	}
}

func without(list []string, name string) (out []string) {
	for _, l := range list {
		if l != name {
			out = append(out, l)
		}
	}
	return out
}

// TestStoppedAtAnySystemCall ends a process at single system calls, by a tracer.
func TestStoppedAtAnySystemCall(t *testing.T) {
	t.Parallel()
	tracer := need(t, "strace")
	if out, err := exec.Command(tracer, "-o", os.DevNull, "true").CombinedOutput(); err != nil {
		skip(t, "processes cannot be traced here: "+string(out))
	}
	seed := rand.New(rand.NewPCG(2, 13))
	all := scenarios(t)
	calls := []string{"openat", "write", "fsync", "renameat", "linkat", "unlinkat", "mkdirat", "fchmod", "flock"}
	counts := map[string]int{}
	for _, s := range all {
		dir := copied(t, s.base)
		log := filepath.Join(t.TempDir(), "log")
		attemptAs(t, dir, tracer, append([]string{"-f", "-qq", "-o", log, "-e", "trace=" + strings.Join(calls, ","), program},
			s.args...)...)
		for _, c := range calls {
			counts[s.name+" "+c] = len(regexp.MustCompile(`(?m)^\d+ +`+c+`\(`).FindAllString(read(t, log), -1))
		}
	}
	killed := 0
	for range sample(60, 300) {
		s := all[seed.IntN(len(all))]
		call := calls[seed.IntN(len(calls))]
		if counts[s.name+" "+call] == 0 {
			call = "renameat"
		}
		n := 1 + seed.IntN(counts[s.name+" "+call]+1)
		dir := copied(t, s.base)
		r, _ := attemptAs(t, dir, tracer, append([]string{"-f", "-qq", "-o", os.DevNull, "-e", "trace=" + call, "-e",
			"inject=" + call + ":signal=KILL:when=" + strconv.Itoa(n), program}, s.args...)...)
		if r.status != 0 {
			killed++
		}
		s.then(t, dir, fmt.Sprintf("at %s %d", call, n), seed.IntN(len(follows)), seed.IntN(3) == 0)
	}
	if killed < 10 {
		t.Errorf("only %d were stopped", killed)
	}
	t.Logf("%d stopped", killed)
}

// TestKilledAtAnyTime ends processes after a while, whatever they are doing.
func TestKilledAtAnyTime(t *testing.T) {
	t.Parallel()
	seed := rand.New(rand.NewPCG(3, 13))
	all := scenarios(t)
	for range sample(40, 300) {
		s := all[seed.IntN(len(all))]
		dir := copied(t, s.base)
		cmd := exec.Command(program, s.args...)
		cmd.Dir = dir
		if err := cmd.Start(); err != nil {
			t.Fatal(err)
		}
		wait := time.Duration(seed.IntN(60_000)) * time.Microsecond
		time.Sleep(wait)
		_ = cmd.Process.Kill()
		_ = cmd.Wait()
		s.then(t, dir, "after "+wait.String(), seed.IntN(len(follows)), seed.IntN(3) == 0)
	}
}

// TestADiskThatIsFull has every write from some point on fail as on a full disk.
func TestADiskThatIsFull(t *testing.T) {
	t.Parallel()
	tracer := need(t, "strace")
	if out, err := exec.Command(tracer, "-o", os.DevNull, "true").CombinedOutput(); err != nil {
		skip(t, "processes cannot be traced here: "+string(out))
	}
	seed := rand.New(rand.NewPCG(4, 13))
	all := scenarios(t)
	for range sample(20, 50) {
		s := all[seed.IntN(len(all))]
		dir := copied(t, s.base)
		call := []string{"write", "mkdirat", "linkat", "renameat", "fsync"}[seed.IntN(5)]
		n := 1 + seed.IntN(12)
		r, hung := attemptAs(t, dir, tracer, append([]string{"-f", "-qq", "-o", os.DevNull, "-e", "trace=" + call, "-e",
			"inject=" + call + ":error=ENOSPC:when=" + strconv.Itoa(n) + "+", program}, s.args...)...)
		if hung || r.failed() {
			t.Errorf("%s, no room at %s %d: status %d\n%s", s.name, call, n, r.status, r.err)
		}
		s.then(t, dir, fmt.Sprintf("with no room at %s %d", call, n), seed.IntN(len(follows)), false)
	}
}
