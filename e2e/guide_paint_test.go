package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/tracing"
	"github.com/chromedp/chromedp"
)

// traced does something while the browser traces, and gives the times from the last navigation to the first contentful
// paint, and of the longest task of the main thread of a page, in ms. https://chromedevtools.github.io/devtools-protocol/
func traced(b *testing.B, ctx context.Context, do func()) (paint, longest float64) {
	b.Helper()
	data := chromedp.Events(ctx, tracing.DataCollected)
	over := chromedp.Events(ctx, tracing.TracingComplete)
	if _, err := chromedp.Call(ctx, tracing.Start, tracing.StartParams{TraceConfig: &tracing.TraceConfig{IncludedCategories: []string{"toplevel", "loading", "devtools.timeline", "blink.user_timing"}}}); err != nil {
		b.Fatal(err)
	}
	type event struct {
		Name     string
		Ph       string
		Ts, Dur  float64
		Pid, Tid int
		Args     struct{ Data struct{ URL, Frame string } }
	}
	var events []event
	done := make(chan struct{})
	go func() {
		for e, err := range data {
			if err != nil {
				return
			}
			for _, v := range e.Value {
				var one event
				if json.Unmarshal(v, &one) == nil {
					events = append(events, one)
				}
			}
		}
	}()
	go func() {
		for range over {
			close(done)
			return
		}
	}()
	do()
	if _, err := chromedp.Call(ctx, tracing.End, cdp.Empty{}); err != nil {
		b.Fatal(err)
	}
	<-done
	time.Sleep(200 * time.Millisecond)
	slices.SortStableFunc(events, func(x, y event) int { return int(x.Ts - y.Ts) })
	began, main := 0.0, [2]int{}
	for _, e := range events {
		switch e.Name {
		case "navigationStart":
			began, paint = e.Ts, 0
		case "firstContentfulPaint":
			if paint == 0 {
				paint, main = (e.Ts-began)/1e3, [2]int{e.Pid, e.Tid}
			}
		}
	}
	for _, e := range events {
		if strings.HasSuffix(e.Name, "RunTask") && (main == [2]int{} || main == [2]int{e.Pid, e.Tid}) {
			longest = max(longest, e.Dur/1e3)
		}
	}
	return paint, longest
}

// manyElements is a drawing of so many elements in groups.
func manyElements(n int) string {
	var s strings.Builder
	s.WriteString(`<svg xmlns="http://www.w3.org/2000/svg" width="1280" height="1600" data-screen="Many"><rect width="1280" height="1600" fill="#f5f8fa"/>`)
	for i := 0; i < n/4; i++ {
		x, y := float64(i%20)*64, float64(i/20)*40
		fmt.Fprintf(&s, `<g id="card-%d"><rect x="%g" y="%g" width="58" height="34" rx="6" fill="#fff" stroke="#d5dfe6"/><circle cx="%g" cy="%g" r="5" fill="#0b6e8f"/><text x="%g" y="%g" font-size="10">Pier %d</text></g>`,
			i, x+2, y+2, x+12, y+18, x+22, y+22, i)
	}
	return s.String() + "</svg>"
}

// BenchmarkGuideInABrowser measures, by the browser's own trace, the first paint of an empty page and of the overview,
// and of a screen of 2,000 elements until its elements are there, and the longest task while the pointer moves over it.
func BenchmarkGuideInABrowser(b *testing.B) {
	dir := demo(b)
	write(b, dir, "design/many.svg", manyElements(2000))
	must(b, dir, "sync")
	empty := write(b, b.TempDir(), "empty.html", "<!doctype html><title>empty</title><p>nothing")
	ctx := chromium(b)
	show := func(file string) { open(b, ctx, file, 1280, 800, 1) }
	ready := func() {
		if _, err := chromedp.Run(ctx, chromedp.Evaluate[bool](`(async () => { while (!guide.screen.all.length) await new Promise(r => setTimeout(r, 5)); return true })()`, chromedp.EvalAwaitPromise)); err != nil {
			b.Fatal(err)
		}
	}
	median := func(list []float64) float64 { slices.Sort(list); return list[len(list)/2] }
	var bare, index, loaded, hover []float64
	show(empty)
	for range b.N {
		for range 7 {
			p, _ := traced(b, ctx, func() { show(empty); time.Sleep(150 * time.Millisecond) })
			bare = append(bare, p)
			p, _ = traced(b, ctx, func() { show(filepath.Join(dir, "guide/index.html")); time.Sleep(300 * time.Millisecond) })
			index = append(index, p)
			began := time.Now()
			show(filepath.Join(dir, "guide/screens/many.html"))
			ready()
			loaded = append(loaded, float64(time.Since(began).Milliseconds()))
			_, l := traced(b, ctx, func() {
				for i := range 60 {
					if _, err := chromedp.Call(ctx, input.DispatchMouseEvent, input.DispatchMouseEventParams{Type: "mouseMoved", X: 300 + float64(i)*8, Y: 250 + float64(i%20)*15}); err != nil {
						b.Fatal(err)
					}
				}
			})
			hover = append(hover, l)
		}
	}
	b.ReportMetric(median(bare), "ms-empty-page")
	b.ReportMetric(median(index), "ms-overview")
	b.ReportMetric(median(loaded), "ms-2000-elements-ready")
	b.ReportMetric(median(hover), "ms-longest-task-of-hovering")
	b.ReportMetric(0, "ns/op")
}
