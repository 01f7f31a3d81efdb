package e2e

import (
	"fmt"
	"io"
	"net/http"
	"path/filepath"
	"strings"
	"testing"
	"time"
)

// TestRemarksInTheGuide shows phases and remarks in the pages, and writes and answers remarks in a browser.
func TestRemarksInTheGuide(t *testing.T) {
	t.Parallel()
	dir := repository(t)
	must(t, dir, "phase", "set", "booking", "#trip-card", "held", "-m", "Waits for the price list")
	must(t, dir, "remark", "add", "booking", "#pay", "the gap is **12 px** <img src=x onerror=alert(1)>")
	must(t, dir, "sync")
	page := read(t, dir, "guide/screens/booking.html")
	for _, want := range []string{`<span class="phase warn">held</span>`, "<strong>12 px</strong>", "Waits for the price list", "Remarks (1)", `class="pin warn"`} {
		if !strings.Contains(page, want) {
			t.Errorf("the page lacks %q", want)
		}
	}
	if strings.Contains(page, "onerror") {
		t.Error("HTML of a remark is HTML of the page")
	}
	commitAll(t, dir, "A remark")
	address, r := serveGuide(t, dir, "--remarks", "--commit")
	defer r.stop()
	g := &guideTab{t, chromium(t), address}
	g.visit("screens/booking.html#remark-2")
	g.want(`document.getElementById('tab-remarks').getAttribute('aria-selected') === 'true' && document.getElementById('say')`)
	g.want(`document.querySelector('#say option')`)
	asked[bool](g, `(() => { guide.screen.select(guide.screen.all.findIndex(e => e.s === '#breakfast')); const f = document.querySelector('#say form'); f.by.value = 'Olga <o@x>'; f.words.value = '@aino warmer?'; f.requestSubmit(); return true })()`)
	g.want(`[...document.querySelectorAll('.thread')].some(t => /warmer/.test(t.innerText))`) // the page reloaded
	g.want(`[...document.querySelectorAll('.thread')].every(t => !t.dataset.remark || t.querySelector('form'))`)
	asked[bool](g, `(() => { const t = [...document.querySelectorAll('.thread')].find(t => /12 px/.test(t.innerText)); const f = t.querySelector('form'); f.words.value = '8 px now'; f.requestSubmit(f.querySelector('button[value=closes]')); return true })()`)
	g.want(`[...document.querySelectorAll('.thread.closed')].some(t => /8 px now/.test(t.innerText))`)
	log := mustGit(t, dir, "log", "--format=%an: %s")
	if !strings.Contains(log, "Olga o@x: Remark on Booking: breakfast") || !strings.Contains(log, "Olga o@x: Reply on Booking: pay") {
		t.Errorf("the commits:\n%s", log)
	}
	list := must(t, dir, "remark", "list", "--for", "aino").out
	if !strings.Contains(list, "warmer?") || !strings.Contains(list, "Booking: breakfast") {
		t.Errorf("the file:\n%s", list)
	}
	for request, want := range map[string]string{`remark {"source":"design/booking.svg","selector":"#pay","by":"","words":"x"}`: "needs your name", `remark {"source":"nothing","by":"a","words":"x"}`: "no source",
		`reply {"remark":"../../x","by":"a","words":"x"}`: "no remark", `token {"token":"color.coral.500","value":"#000","write":true}`: "no change"} {
		name, body, _ := strings.Cut(request, " ")
		if got := posted(t, address, name, body); !strings.Contains(got, want) {
			t.Errorf("%s: %s", request, got)
		}
	}
}

// posted asks a served guide for a change, as its pages do.
func posted(t *testing.T, address, name, body string) string {
	t.Helper()
	q, err := http.NewRequest(http.MethodPost, address+"-/edit/"+name, strings.NewReader(body))
	if err != nil {
		t.Fatal(err)
	}
	q.Header.Set("Content-Type", "application/json")
	q.Header.Set("Origin", strings.TrimSuffix(address, "/"))
	res, err := http.DefaultClient.Do(q)
	if err != nil {
		t.Fatal(err)
	}
	defer res.Body.Close()
	data, err := io.ReadAll(res.Body)
	if err != nil {
		t.Fatal(err)
	}
	return string(data)
}

// TestTwoReadersAtOnce has many write at the same moment.
func TestTwoReadersAtOnce(t *testing.T) {
	t.Parallel()
	dir := repository(t)
	address, r := serveGuide(t, dir, "--remarks")
	defer r.stop()
	done := make(chan string)
	const many = 12
	for i := range many {
		go func() {
			done <- posted(t, address, "remark", fmt.Sprintf(`{"source":"design/booking.svg","selector":"#pay","by":"Reader %d","words":"words %d"}`, i, i))
		}()
	}
	for range many {
		if got := <-done; strings.Contains(got, "error") {
			t.Error(got)
		}
	}
	found, _ := filepath.Glob(filepath.Join(dir, "remarks", "*.md"))
	if len(found) != many+1 { // and that of the demo
		t.Errorf("%d remarks of %d", len(found), many)
	}
	time.Sleep(10 * time.Millisecond)
}
