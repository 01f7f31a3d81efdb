package page_test

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"archetyp/core/css"
	"archetyp/core/read/page"
)

// dot is a PNG of one pixel.
const dot = "data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="

// pictures are those of a page, one a line.
func pictures(t testing.TB, html string, files map[string]string) (out []string) {
	t.Helper()
	p, err := page.Read([]byte(html), page.Options{Name: "page.html", URL: "http://ferry.example/dir/page.html", Medium: css.Medium{Width: 800, Height: 600}, Load: func(address string) (page.Loaded, error) {
		if text, ok := files[strings.TrimPrefix(address, "http://ferry.example/")]; ok {
			return page.Loaded{Data: []byte(text)}, nil
		}
		return page.Loaded{}, errors.New("it is not there")
	}})
	if err != nil {
		t.Fatal(err)
	}
	for _, u := range p.Pictures() {
		s := u.Kind + " " + strings.TrimPrefix(u.Address, "http://ferry.example/")
		if strings.HasPrefix(u.Address, "data:") {
			s = u.Kind + " data:"
		}
		if u.Width > 0 {
			s += fmt.Sprintf(" %s %v×%v", u.Format, u.Width, u.Height)
		}
		if u.Asks != "" {
			s += " " + u.Asks
		}
		if u.Density > 0 {
			s += fmt.Sprintf(" %vx", u.Density)
		}
		if u.Missing != "" {
			s += " missing"
		}
		out = append(out, s)
	}
	return out
}

// TestPictures lists what a page shows, with real sizes and densities.
func TestPictures(t *testing.T) {
	ship := `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 64 40"/>`
	for _, c := range []struct{ html, want string }{
		{`<img src=ship.svg>`, "image dir/ship.svg svg 64×40"},
		{`<img src=/ship.svg width=32><img src=/ship.svg>`, "image ship.svg svg 64×40"},
		{`<img src="` + dot + `" width=2>`, "image data: png 1×1 0.5x"},
		{`<img src=a.png srcset="b.png 2x, c.png 640w">`, "image dir/a.png missing|image dir/b.png 2x missing|image dir/c.png 640w missing"},
		{`<picture><source srcset=ship.svg><img src=gone.png></picture>`, "image dir/ship.svg svg 64×40|image dir/gone.png missing"},
		{`<link rel=icon href=ship.svg sizes=any>`, "icon dir/ship.svg svg 64×40 any"},
		{`<link rel="shortcut icon" href=ship.svg><link rel=stylesheet href=none.css>`, "icon dir/ship.svg svg 64×40"},
		{`<svg width=20 height=10><path d="M0 0h1v1z"/></svg>`, "inline  svg 20×10"},
		{`<style>.a { background: url(ship.svg), url(gone.png) } .b { mask-image: url(ship.svg) }</style>`, "background dir/ship.svg svg 64×40|background dir/gone.png missing|mask dir/ship.svg svg 64×40"},
		{`<style>@font-face { font-family: Hull; src: url(hull.woff2); font-weight: 600 }</style>`, "font dir/hull.woff2 600 missing"},
		{`<style>@font-face { font-family: Hull; src: url(tide.woff2); font-weight: 600 }</style>`, "font dir/tide.woff2 600"},
		{`<p style="list-style: url('ship.svg')">`, "list-style dir/ship.svg svg 64×40"},
		{`<video poster=ship.svg></video>`, "image dir/ship.svg svg 64×40"},
		{`<base href=/other/><img src=ship.svg>`, "image other/ship.svg missing"},
		{`<img src="#a"><img src=""><img>`, ""},
		{`<img src="http://[bad">`, ""},
		{`<img src="data:image/png;base64,%%%">`, "image data: missing"},
	} {
		if got := strings.Join(pictures(t, "<!doctype html>"+c.html, map[string]string{"dir/ship.svg": ship, "ship.svg": ship, "dir/tide.woff2": "wOF2…"}), "|"); got != c.want {
			t.Errorf("%s\n got %s\nwant %s", c.html, got, c.want)
		}
	}
}

// TestNeeds lists each address once, however often and for whatever it is used.
func TestNeeds(t *testing.T) {
	p := readPage(t, `<!doctype html><style>.a { background: url(a.png) } .b { mask: url(a.png) } @font-face { font-family: x; src: url(x.woff2) }</style><img src=a.png srcset="a.png, b.png 2x"><svg></svg><img src="`+dot+`">`, css.Medium{}, nil)
	if got := strings.Join(p.Needs(), " "); got != "http://ferry.example/dir/a.png http://ferry.example/dir/b.png http://ferry.example/dir/x.woff2" {
		t.Error(got)
	}
}
