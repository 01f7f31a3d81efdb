package e2e

import (
	"bufio"
	"encoding/json"
	"io"
	"math"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
)

// running is a command that runs until it is interrupted.
type running struct {
	out, err <-chan string // lines
	stop     func()        // interrupts it; that must be no failure
	pid      int
}

// begin starts a command in a folder.
func begin(t *testing.T, dir string, args ...string) running {
	t.Helper()
	cmd := exec.Command(program, args...)
	cmd.Dir = dir
	lines := func(r io.Reader, err error) <-chan string {
		if err != nil {
			t.Fatal(err)
		}
		c := make(chan string, 1000)
		go func() {
			for s := bufio.NewScanner(r); s.Scan(); {
				c <- s.Text()
			}
			close(c)
		}()
		return c
	}
	r := running{out: lines(cmd.StdoutPipe()), err: lines(cmd.StderrPipe())}
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	r.pid = cmd.Process.Pid
	t.Cleanup(func() { cmd.Process.Kill() })
	r.stop = func() {
		t.Helper()
		if err := cmd.Process.Signal(os.Interrupt); err != nil {
			t.Fatal(err)
		}
		if err := cmd.Wait(); err != nil {
			t.Errorf("interrupted: %v", err)
		}
	}
	return r
}

// line waits for the next line.
func line(t *testing.T, lines <-chan string) string {
	t.Helper()
	select {
	case l, ok := <-lines:
		if !ok {
			t.Fatal("it has ended")
		}
		return l
	case <-time.After(time.Minute):
		t.Fatal("no line came")
	}
	return ""
}

// watchLine is a line of "watch --json".
type watchLine struct {
	Changed []string
	Error   string
	Sync    *struct{ Written []string }
}

func nextRun(t *testing.T, lines <-chan string) (w watchLine) {
	t.Helper()
	text := line(t, lines)
	validJSON(t, "watch", text)
	if err := json.Unmarshal([]byte(text), &w); err != nil {
		t.Fatal(err)
	}
	return w
}

// TestWatch syncs when sources change, prints an error once, goes on, and lets other commands write.
func TestWatch(t *testing.T) {
	dir := demo(t)
	r := begin(t, dir, "watch", "--json")
	if w := nextRun(t, r.out); w.Sync == nil || len(w.Sync.Written) > 0 {
		t.Fatalf("first: %+v", w)
	}
	booking := read(t, filepath.Join(dir, "design/booking.svg"))
	write(t, dir, "design/booking.svg", strings.Replace(booking, ">Pay", ">Pay now", 1))
	if w := nextRun(t, r.out); w.Error != "" || !slices.Equal(w.Changed, []string{"design/booking.svg"}) || !slices.Contains(w.Sync.Written, "guide/screens/booking.js") {
		t.Errorf("a drawing: %+v", w)
	}
	write(t, dir, "design/booking.svg", booking[:len(booking)/2])
	if w := nextRun(t, r.out); !strings.Contains(w.Error, "design/booking.svg:") {
		t.Errorf("a broken drawing: %+v", w)
	}
	write(t, dir, "design/booking.svg", booking[:len(booking)/2]) // the same error, which is printed once
	time.Sleep(time.Second)
	write(t, dir, "design/booking.svg", booking)
	if w := nextRun(t, r.out); w.Error != "" || w.Sync == nil {
		t.Errorf("mended: %+v", w)
	}
	must(t, dir, "tokens", "set", "color.coral.500", "#e4572f")
	if w := nextRun(t, r.out); w.Error != "" || !slices.Contains(w.Sync.Written, "dist/tokens.css") {
		t.Errorf("a token: %+v", w)
	}
	config := read(t, filepath.Join(dir, "archetyp.yaml"))
	write(t, dir, "archetyp.yaml", config+"\nnonsense: true\n")
	if w := nextRun(t, r.out); !strings.Contains(w.Error, "archetyp.yaml:") || w.Sync != nil {
		t.Errorf("a wrong configuration: %+v", w)
	}
	write(t, dir, "archetyp.yaml", strings.Replace(config, "dist/tokens.css", "dist/all.css", 1))
	if w := nextRun(t, r.out); w.Error != "" || !slices.Contains(w.Sync.Written, "dist/all.css") {
		t.Errorf("another configuration: %+v", w)
	}
	r.stop()
	if got := must(t, dir, "sync", "--check"); !strings.Contains(got.out, "in step") {
		t.Error(got.out)
	}
	if r := run(t, t.TempDir(), "watch"); r.status != 2 || !strings.Contains(r.err, "no workspace here") {
		t.Errorf("%d %s", r.status, r.err)
	}
}

// serveGuide serves a guide and gives its address.
func serveGuide(t *testing.T, dir string, more ...string) (address string, r running) {
	t.Helper()
	r = begin(t, dir, append([]string{"guide", "serve", "--port", "0"}, more...)...)
	_, rest, _ := strings.Cut(line(t, r.err), "http://")
	host, _, _ := strings.Cut(rest, "/")
	return "http://" + host + "/", r
}

// fetched is the body at an address.
func fetched(t *testing.T, address string) string {
	t.Helper()
	r, err := http.Get(address)
	if err != nil {
		t.Fatal(err)
	}
	defer r.Body.Close()
	data, err := io.ReadAll(r.Body)
	if err != nil {
		t.Fatal(err)
	}
	return string(data)
}

// TestGuideServe builds the guide where it is missing, and serves it with the outputs, as they are in the folder.
func TestGuideServe(t *testing.T) {
	dir := demo(t)
	if err := os.RemoveAll(filepath.Join(dir, "guide")); err != nil {
		t.Fatal(err)
	}
	address, r := serveGuide(t, dir)
	for at, file := range map[string]string{"": "guide/index.html", "screens/booking.html": "guide/screens/booking.html", "style.css": "guide/style.css",
		"tokens.css": "dist/tokens.css", "dist/tokens.css": "dist/tokens.css", "dist/assets.json": "dist/assets.json"} {
		if fetched(t, address+at) != read(t, filepath.Join(dir, file)) {
			t.Errorf("/%s is not %s", at, file)
		}
	}
	for _, at := range []string{"archetyp.yaml", "design/booking.svg", "tokens/base.tokens.json", ".archetyp/lock"} {
		if got := fetched(t, address+at); got != "there is no such page\n" {
			t.Errorf("/%s: %.60s", at, got)
		}
	}
	host := strings.TrimSuffix(strings.TrimPrefix(address, "http://127.0.0.1:"), "/")
	if r := run(t, dir, "guide", "serve", "--port", host); r.status != 2 || !strings.Contains(r.err, "taken") {
		t.Errorf("a second server: %d %s", r.status, r.err)
	}
	r.stop()
	if r := run(t, dir, "guide", "serve", "--port", "70000"); r.status != 2 || !strings.Contains(r.err, "no port") {
		t.Errorf("%d %s", r.status, r.err)
	}
}

// TestOpenPagesLoadAgain changes a drawing while a browser shows its page: the new size shows, the same element is
// selected at the same place, and the page's policy refuses nothing of it.
func TestOpenPagesLoadAgain(t *testing.T) {
	ctx := chromium(t)
	if _, err := chromedp.Run(ctx, chromedp.Evaluate[int]("1")); err != nil {
		t.Fatal(err)
	}
	dir := demo(t)
	address, r := serveGuide(t, dir, "--watch")
	logged := complaints(t, ctx)
	err := chromedp.Do(ctx, chromedp.EmulateViewport(1280, 500), chromedp.Navigate(address+"screens/booking.html"))
	if err != nil {
		t.Fatal(err)
	}
	type state struct {
		Old         bool
		Hash, Facts string
		Top         float64
	}
	look := func() state {
		s, err := chromedp.Run(ctx, chromedp.Evaluate[state](`({Old: "old" in window, Hash: location.hash, Facts: document.getElementById("facts").textContent, Top: scrollY})`))
		if err != nil { // between two pages
			return state{Old: true}
		}
		return s
	}
	_, err = chromedp.Run(ctx, chromedp.Evaluate[bool](`(async () => {
		while (!guide.screen.all.length) await new Promise(r => setTimeout(r, 20))
		guide.screen.select(guide.screen.all.findIndex(e => e.s === "#pay"))
		scrollTo(0, 120)
		return window.old = true
	})()`, chromedp.EvalAwaitPromise))
	if err != nil {
		t.Fatal(err)
	}
	before := look()
	if before.Top != 120 || before.Hash == "" || strings.Contains(before.Facts, "7px") {
		t.Fatalf("%+v", before)
	}
	drawing := read(t, filepath.Join(dir, "design/booking.svg"))
	time.Sleep(300 * time.Millisecond) // until the page listens
	write(t, dir, "design/booking.svg", drawing+"<!-- nothing that shows -->\n")
	time.Sleep(time.Second)
	if s := look(); !s.Old {
		t.Error("a page loads again that has not changed")
	}
	write(t, dir, "design/booking.svg", strings.Replace(drawing, `height="56" rx="12"`, `height="56" rx="7"`, 1))
	for end := time.Now().Add(30 * time.Second); ; time.Sleep(50 * time.Millisecond) {
		if s := look(); !s.Old && strings.Contains(s.Facts, "7px") && s.Hash == before.Hash && math.Abs(s.Top-before.Top) < 20 {
			break
		} else if time.Now().After(end) {
			t.Fatalf("before %+v, after %+v", before, s)
		}
	}
	if list := logged(); len(list) > 0 {
		t.Errorf("the console says %q", list)
	}
	r.stop()
}
