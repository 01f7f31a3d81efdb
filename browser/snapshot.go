package browser

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"fmt"
	"image/png"
	"strings"
	"time"

	"github.com/chromedp/cdproto/page"
)

//go:embed snapshot.js
var snapshotJS string

// Snapshot is a page as a browser shows it, after its scripts. Boxes are in px of the page.
type Snapshot struct {
	HTML          string      // with a number on every element, by which boxes are found
	URL           string      // after redirects
	Width, Height float64     // of the whole page, in px
	Window        [2]float64  // width and height of what is seen of it
	Boxes         [][]float64 // of each element: x, y, width, height; of turned ones also the matrix and its own width and height
	Texts         []Text      // runs of words between elements
	Parts         []Part      // pseudo-elements with a box
	Names         []string    // of the elements, by number
	Frames        []Frame
	Picture       []byte `json:"-"` // a PNG, where it was asked for
	Cut           bool   `json:"-"` // the picture ends before the page does
}

// Text is a run of words between elements.
type Text struct {
	Of    int          // the number of the element around it
	Run   int          // which of the runs of that element that are more than white space
	Lines [][4]float64 // x, y, width, height of each line
}

// Part is a pseudo-element.
type Part struct {
	Of   int        // the number of its element
	Name string     // before or after
	Box  [4]float64 // x, y, width, height
}

// Frame is a frame of the page's own origin, and what it shows.
type Frame struct {
	Of   int // the number of the frame
	Page Snapshot
}

// Step is something done on a page before it is read.
type Step struct {
	Click string // a selector
	Wait  string // a selector, or a time such as 500ms
}

// Visit is how a page is visited.
type Visit struct {
	Width, Height int
	Dark          bool
	Steps         []Step
	Picture       bool
	Headers       map[string]string // for the page's own origin alone
}

// mostPicture is how high a picture of a page is at most, in px: beyond it browsers give none.
const mostPicture = 16000

// settle is how long a page may go on loading after it is there.
const settle = 5 * time.Second

// Snapshot visits a page and reads it.
func (b *Browser) Snapshot(address string, v Visit) (*Snapshot, error) {
	if err := b.Scheme(v.Dark); err != nil {
		return nil, err
	}
	if len(v.Headers) > 0 {
		if err := b.send(address, v.Headers); err != nil {
			return nil, err
		}
	}
	if err := b.Show(address, v.Width, v.Height, 1); err != nil {
		return nil, fmt.Errorf("%s: %w", address, err)
	}
	if err := b.quiet(); err != nil {
		return nil, err
	}
	for _, s := range v.Steps {
		if err := b.step(s); err != nil {
			return nil, err
		}
	}
	return b.read(v)
}

// Again reads the page that is shown in another window or scheme.
func (b *Browser) Again(v Visit) (*Snapshot, error) {
	if err := b.Scheme(v.Dark); err != nil {
		return nil, err
	}
	if err := b.Resize(v.Width, v.Height); err != nil {
		return nil, err
	}
	if err := b.quiet(); err != nil {
		return nil, err
	}
	return b.read(v)
}

// quiet waits until fonts and pictures are there and nothing moves for two frames.
func (b *Browser) quiet() error {
	_, err := Ask[bool](b, fmt.Sprintf(`(async () => {
		const end = performance.now() + %d, rest = ms => new Promise(r => setTimeout(r, ms));
		while (document.readyState !== 'complete' && performance.now() < end) await rest(10);
		await Promise.race([document.fonts.ready, rest(%d)]);
		await Promise.race([Promise.allSettled([...document.images].filter(i => i.loading !== 'lazy' && !i.complete).map(i => i.decode())), rest(%d)]);
		let seen = performance.getEntriesByType('resource').length, still = 0;
		while (still < 2 && performance.now() < end) {
			await rest(15);
			const now = performance.getEntriesByType('resource').length;
			still = now === seen ? still + 1 : 0;
			seen = now;
		}
		document.getAnimations().forEach(a => { try { a.finish() } catch { a.cancel() } });
		return true;
	})()`, settle.Milliseconds(), settle.Milliseconds(), settle.Milliseconds()))
	return err
}

func (b *Browser) step(s Step) error {
	selector, wait := s.Click, time.Duration(0)
	if s.Wait != "" {
		if d, err := time.ParseDuration(s.Wait); err == nil {
			wait = min(d, 30*time.Second)
			_, err := Ask[bool](b, fmt.Sprintf(`new Promise(r => setTimeout(() => r(true), %d))`, wait.Milliseconds()))
			return err
		}
		selector = s.Wait
	}
	quoted, err := json.Marshal(selector)
	if err != nil {
		return err
	}
	found, err := Ask[bool](b, fmt.Sprintf(`(async () => {
		const end = performance.now() + %d, sel = %s;
		for (;;) {
			const e = document.querySelector(sel);
			if (e) { if (%t) e.click(); return true; }
			if (performance.now() > end) return false;
			await new Promise(r => setTimeout(r, 50));
		}
	})()`, settle.Milliseconds(), quoted, s.Click != ""))
	switch {
	case err != nil:
		return err
	case !found:
		return fmt.Errorf("the step for %s: nothing matches it after %s", selector, settle)
	}
	return b.quiet()
}

// read takes the page as it is.
func (b *Browser) read(v Visit) (*Snapshot, error) {
	text, err := Ask[string](b, snapshotJS)
	if err != nil {
		return nil, err
	}
	s := &Snapshot{}
	if err := json.NewDecoder(strings.NewReader(text)).Decode(s); err != nil {
		return nil, err
	}
	if s.Parts, err = b.parts(s); err != nil {
		return nil, err
	}
	if !v.Picture {
		return s, nil
	}
	high := s.Height
	if high > mostPicture {
		high, s.Cut = mostPicture, true
	}
	yes := true
	shot, err := ask(b, page.CaptureScreenshot, page.CaptureScreenshotParams{CaptureBeyondViewport: &yes, OptimizeForSpeed: &yes,
		Clip: &page.Viewport{Width: s.Width, Height: high, Scale: 1}})
	if err != nil {
		return nil, err
	}
	if _, err = png.DecodeConfig(bytes.NewReader(shot.Data)); err != nil {
		return nil, err
	}
	s.Picture = shot.Data
	return s, nil
}
