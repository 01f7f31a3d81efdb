package e2e

import (
	"context"
	"fmt"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"
)

// TestGuideUnderLoad has 200 clients read a served guide while a token changes again and again: no page comes torn, no
// value is older than the last change that was reported, and the server's memory stays as it is.
func TestGuideUnderLoad(t *testing.T) {
	changes := 6
	if *long {
		changes = 100
	}
	dir := demo(t)
	address, r := serveGuide(t, dir, "--watch")
	defer r.stop()
	tokens := filepath.Join(dir, "tokens/tern-and-tide.tokens.json")
	text := read(t, tokens)
	value := func(i int) string { return fmt.Sprintf("#e457%02x", 16+i) }
	client := &http.Client{Transport: &http.Transport{MaxIdleConnsPerHost: 256}}
	get := func(ctx context.Context, at string) (string, error) {
		q, err := http.NewRequestWithContext(ctx, http.MethodGet, address+at, nil)
		if err != nil {
			return "", err
		}
		res, err := client.Do(q)
		if err != nil {
			return "", err
		}
		defer res.Body.Close()
		body, err := io.ReadAll(res.Body)
		if err == nil && res.StatusCode != http.StatusOK {
			err = fmt.Errorf("%s: status %d", at, res.StatusCode)
		}
		return string(body), err
	}
	var current atomic.Int64 // the change that everybody should see
	current.Store(-1)
	shown := regexp.MustCompile(`--color-coral-500: (#[0-9a-f]{6})`)
	ctx, stop := context.WithCancel(t.Context())
	var all sync.WaitGroup
	var reads atomic.Int64
	faults := make(chan string, 1000)
	pages := []string{"", "colours.html", "screens/booking.html", "components/button.html", "screens/booking.js", "tokens.css", "search-index.js"}
	for i := range 200 {
		all.Go(func() {
			for n := i; ctx.Err() == nil; n++ {
				at := pages[n%len(pages)]
				least := current.Load()
				body, err := get(ctx, at)
				if ctx.Err() != nil {
					return
				}
				reads.Add(1)
				switch {
				case err != nil:
					faults <- err.Error()
				case strings.HasSuffix(at, ".js") && !strings.HasSuffix(body, ");\n"), !strings.Contains(at, ".js") && at != "tokens.css" && !strings.Contains(body, "</html>"):
					faults <- at + " is torn"
				case at == "tokens.css" && least >= 0:
					m := shown.FindStringSubmatch(body)
					if m == nil {
						faults <- "the token is gone"
						continue
					}
					was, err := strconv.ParseInt(m[1][5:], 16, 64)
					if err != nil || was-16 < least {
						faults <- fmt.Sprintf("%s where change %d was there already", m[1], least)
					}
				}
				time.Sleep(5 * time.Millisecond)
			}
		})
	}
	var early, late int64
	for i := range changes {
		text = regexp.MustCompile(`#e457[0-9a-f]{2}`).ReplaceAllString(text, value(i))
		text = regexp.MustCompile(`"components": \[0\.894118, [0-9.]+, [0-9.]+\]`).ReplaceAllString(text, fmt.Sprintf(`"components": [0.894118, 0.341176, %.6f]`, float64(16+i)/255))
		write(t, filepath.Dir(tokens), filepath.Base(tokens), text)
		for end := time.Now().Add(time.Minute); ; time.Sleep(20 * time.Millisecond) {
			if body, err := get(ctx, "tokens.css"); err == nil && strings.Contains(body, value(i)) {
				break
			} else if time.Now().After(end) {
				t.Fatalf("change %d never shows: %v", i, err)
			}
		}
		current.Store(int64(i))
		if used := residentKB(r.pid); i == changes/4 {
			early = used
		} else {
			late = used
		}
	}
	stop()
	all.Wait()
	close(faults)
	n := 0
	for f := range faults {
		if n++; n < 8 {
			t.Error(f)
		}
	}
	if reads.Load() < 1000 || early > 0 && late > early*3/2+20_000 {
		t.Errorf("%d reads; %d kB of memory after a quarter, %d kB in the end", reads.Load(), early, late)
	}
	t.Logf("%d changes, %d reads, %d kB after a quarter, %d kB in the end", changes, reads.Load(), early, late)
}

// residentKB is the memory that a process holds, in kB; 0 where the system does not say.
func residentKB(pid int) int64 {
	data, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", pid))
	if err != nil {
		return 0
	}
	m := regexp.MustCompile(`VmRSS:\s+(\d+) kB`).FindSubmatch(data)
	if m == nil {
		return 0
	}
	n, _ := strconv.ParseInt(string(m[1]), 10, 64)
	return n
}
