// Package browser draws pages in a real browser that is installed on the machine, by the Chrome DevTools Protocol:
// files or addresses go in, pictures and values come out. Each run has a fresh profile that is deleted afterwards, and
// ends with its context.
package browser

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/draw"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"

	"archetyp/core/hint"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
)

// names are the programs that speak the protocol, as systems call them.
var names = []string{"chromium", "chromium-browser", "google-chrome", "google-chrome-stable", "chrome", "microsoft-edge"}

// missing is the error of a machine without a browser.
func missing() error {
	return &hint.MissingError{Msg: "there is no browser on this machine", Hint: "Install Chromium or Chrome " +
		"(on Debian: apt install chromium), or set ARCHETYP_BROWSER to the program's path."}
}

// Find is the path of a browser.
func Find() (string, error) {
	if p := os.Getenv("ARCHETYP_BROWSER"); p != "" {
		if path, err := exec.LookPath(p); err == nil {
			return path, nil
		}
		return "", missing()
	}
	for _, name := range names {
		if path, err := exec.LookPath(name); err == nil {
			return path, nil
		}
	}
	return "", missing()
}

// unhinted has letters painted by their outlines, as drawings are, and not moved onto whole pixels.
const unhinted = `<?xml version="1.0"?>
<!DOCTYPE fontconfig SYSTEM "fonts.dtd">
<fontconfig>
  <include ignore_missing="yes">/etc/fonts/fonts.conf</include>
  <match target="pattern">
    <edit name="hinting" mode="assign"><bool>false</bool></edit>
    <edit name="hintstyle" mode="assign"><const>hintnone</const></edit>
    <edit name="autohint" mode="assign"><bool>false</bool></edit>
    <edit name="rgba" mode="assign"><const>none</const></edit>
  </match>
</fontconfig>
`

// Browser is a running browser with one tab.
type Browser struct {
	ctx  context.Context
	stop []func()
	sent string // the origin that gets headers; "" for none
}

// Open starts a browser without a window. It ends when the context does, or with Close.
func Open(ctx context.Context) (*Browser, error) {
	path, err := Find()
	if err != nil {
		return nil, err
	}
	profile, err := os.MkdirTemp("", "archetyp-browser-")
	if err != nil {
		return nil, err
	}
	fonts := filepath.Join(profile, "fonts.conf")
	if err := os.WriteFile(fonts, []byte(unhinted), 0o600); err != nil {
		return nil, err
	}
	b := &Browser{}
	options := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.ExecPath(path), chromedp.NoSandbox,
		chromedp.DisableGPU, chromedp.UserDataDir(profile), chromedp.Env("FONTCONFIG_FILE="+fonts),
		chromedp.Flag("force-color-profile", "srgb"), chromedp.Flag("allow-file-access-from-files", true),
		chromedp.Flag("hide-scrollbars", true),
		chromedp.Flag("disable-lcd-text", true), chromedp.Flag("disable-background-networking", true),
		chromedp.Flag("disable-component-update", true))
	ctx, stop := chromedp.NewExecAllocator(ctx, options...)
	b.stop = append(b.stop, func() { os.RemoveAll(profile) }, stop)
	b.ctx, stop = chromedp.NewContext(ctx)
	b.stop = append(b.stop, stop)
	if err := chromedp.Do(b.ctx); err != nil {
		b.Close()
		return nil, fmt.Errorf("%s did not start: %w", filepath.Base(path), err)
	}
	return b, nil
}

// Tab opens one more tab in the same browser. Its Close closes the tab alone.
func (b *Browser) Tab() (*Browser, error) {
	ctx, stop := chromedp.NewContext(b.ctx)
	t := &Browser{ctx: ctx, stop: []func(){stop}}
	if err := chromedp.Do(ctx); err != nil {
		t.Close()
		return nil, err
	}
	return t, nil
}

// Close ends the browser and deletes its profile.
func (b *Browser) Close() {
	for len(b.stop) > 0 {
		last := len(b.stop) - 1
		b.stop[last]()
		b.stop = b.stop[:last]
	}
}

// Show loads an address in a window of a size in CSS px, and waits for its fonts.
func (b *Browser) Show(address string, w, h int, density float64) error {
	err := chromedp.Do(b.ctx, chromedp.EmulateViewport(int64(w), int64(h), chromedp.EmulateScale(density)),
		chromedp.Navigate(address))
	if err != nil {
		return err
	}
	_, err = chromedp.Run(b.ctx, chromedp.Evaluate[bool](`document.fonts.ready.then(() => true)`, chromedp.EvalAwaitPromise))
	return err
}

// Resize gives the window another size in CSS px.
func (b *Browser) Resize(w, h int) error {
	return chromedp.Do(b.ctx, chromedp.EmulateViewport(int64(w), int64(h)))
}

// Scheme has the page see a light or a dark colour scheme.
func (b *Browser) Scheme(dark bool) error {
	scheme := "light"
	if dark {
		scheme = "dark"
	}
	return tell(b, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Features: []*emulation.MediaFeature{
		{Name: "prefers-color-scheme", Value: scheme}}})
}

// Scripts says whether scripts of pages run.
func (b *Browser) Scripts(run bool) error {
	return tell(b, emulation.SetScriptExecutionDisabled, emulation.SetScriptExecutionDisabledParams{Value: !run})
}

// tell gives the tab a command of the protocol that answers nothing.
func tell[P any](b *Browser, c cdp.Command[P, cdp.Empty], params P) error {
	_, err := ask(b, c, params)
	return err
}

// ask gives the tab a command of the protocol.
func ask[P, R any](b *Browser, c cdp.Command[P, R], params P) (R, error) {
	return chromedp.Run(b.ctx, func(ctx context.Context, target *chromedp.Target) (R, error) {
		return cdp.Call(ctx, target, c, params)
	})
}

// Picture is what the window shows, on white.
func (b *Browser) Picture() (*image.RGBA, error) {
	fast := true // in packing, not in painting
	shot, err := ask(b, page.CaptureScreenshot, page.CaptureScreenshotParams{OptimizeForSpeed: &fast})
	if err != nil {
		return nil, err
	}
	img, err := png.Decode(bytes.NewReader(shot.Data))
	if err != nil {
		return nil, err
	}
	out := image.NewRGBA(image.Rect(0, 0, img.Bounds().Dx(), img.Bounds().Dy()))
	draw.Draw(out, out.Rect, image.White, image.Point{}, draw.Src)
	draw.Draw(out, out.Rect, img, img.Bounds().Min, draw.Over)
	return out, nil
}

// Ask runs an expression of JavaScript in the page and gives its value; a promise is waited for.
func Ask[T any](b *Browser, expression string) (T, error) {
	return chromedp.Run(b.ctx, chromedp.Evaluate[T](expression, chromedp.EvalAwaitPromise))
}
