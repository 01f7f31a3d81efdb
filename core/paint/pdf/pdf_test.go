package pdf

import (
	"bytes"
	"fmt"
	"io"
	"os"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"archetyp/core/geom"
	"archetyp/core/read/svg"

	"github.com/klauspost/compress/zlib"
)

func write(t testing.TB, content string) []byte {
	t.Helper()
	d, err := svg.Read("t.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="80" height="40">`+content+`</svg>`),
		svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	data, err := Write(d.Screens[0].Paint, geom.Rect{W: 80, H: 40}, Options{Title: "Quay (é)"})
	if err != nil {
		t.Fatal(err)
	}
	return data
}

// streams unpacks all streams of a file.
func streams(t testing.TB, data []byte) string {
	t.Helper()
	var out strings.Builder
	for _, part := range bytes.Split(data, []byte("\nstream\n"))[1:] {
		body, _, _ := bytes.Cut(part, []byte("\nendstream"))
		if z, err := zlib.NewReader(bytes.NewReader(body)); err == nil {
			_, _ = io.Copy(&out, z)
		}
		out.WriteByte('\n')
	}
	return out.String()
}

// TestFileIsSound follows the table to every object.
func TestFileIsSound(t *testing.T) {
	src, err := os.ReadFile("../../../demo/files/design/booking.svg")
	if err != nil {
		t.Fatal(err)
	}
	d, err := svg.Read("booking.svg", src, svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	s := d.Screens[0]
	data, err := Write(s.Paint, geom.Rect{W: s.Box.W, H: s.Box.H}, Options{})
	if err != nil {
		t.Fatal(err)
	}
	again, _ := Write(s.Paint, geom.Rect{W: s.Box.W, H: s.Box.H}, Options{})
	if !bytes.Equal(data, again) {
		t.Error("twice the same input, other bytes")
	}
	m := regexp.MustCompile(`startxref\n(\d+)\n%%EOF\n$`).FindSubmatch(data)
	if m == nil {
		t.Fatalf("%q", data[max(0, len(data)-100):])
	}
	at, _ := strconv.Atoi(string(m[1]))
	lines := strings.Split(string(data[at:]), "\n")
	if lines[0] != "xref" {
		t.Fatal(lines[0])
	}
	var n int
	_, _ = fmt.Sscanf(lines[1], "0 %d", &n)
	for i := 1; i < n; i++ {
		offset, _ := strconv.Atoi(lines[2+i][:10])
		if want := fmt.Sprintf("%d 0 obj\n", i); !bytes.HasPrefix(data[offset:], []byte(want)) {
			t.Errorf("object %d is not where the table says", i)
		}
	}
	for _, ref := range regexp.MustCompile(`(\d+) 0 R`).FindAllSubmatch(data, -1) {
		if k, _ := strconv.Atoi(string(ref[1])); k < 1 || k >= n {
			t.Errorf("%s leads nowhere", ref[0])
		}
	}
}

// TestPaintBecomesOperators checks whole runs of operators, one a line: single letters would be found anywhere.
func TestPaintBecomesOperators(t *testing.T) {
	const rect = "0 0 m|9 0 l|9 5 l|0 5 l|h|"
	gradient := `<linearGradient id="g"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient>`
	for content, want := range map[string][]string{
		`<rect width="9" height="5" fill="red"/>`: {"1 0 0 rg|" + rect + "f"},
		`<path d="M1 1L9 9" fill="none" stroke="#00f" stroke-width="3" stroke-dasharray="2 1"/>`: {
			"0 0 1 RG|3 w|0 J|0 j|4 M|[2 1] 0 d|1 1 m|9 9 l|S"},
		`<rect width="9" height="5" opacity=".5"/>`: {"/G1 gs|0 0 0 rg|" + rect + "f"},
		`<clipPath id="c"><path d="M1 2H3V4z"/></clipPath><rect width="9" height="5" clip-path="url(#c)"/>`: {
			"q|1 2 m|3 2 l|3 4 l|h|W n|q|0 0 0 rg|" + rect + "f|Q"},
		gradient + `<rect width="9" height="5" fill="url(#g)"/>`: {rect + "W n|9 0 0 5 0 0 cm|/S1 sh|Q"},
		// letters as Unicode
		`<text y="20">Pier</text>`: {"|BT|", " Tj|ET|", "<0050>|", "<0072>|"},
	} {
		text := "|" + strings.ReplaceAll(streams(t, write(t, content)), "\n", "|")
		for _, w := range want {
			if !strings.Contains(text, w) {
				t.Errorf("%s: no %q in\n%s", content, w, text)
			}
		}
	}
}

func TestGradientsRepeat(t *testing.T) {
	data := string(write(t,
		`<linearGradient id="g" x2=".25" spreadMethod="reflect"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><rect width="80" height="5" fill="url(#g)"/>`))
	if !strings.Contains(data, "/Domain[0 4]") || !strings.Contains(data, "/Bounds[1 2 3]") {
		t.Error("four turns are wanted")
	}
}

func FuzzWrite(f *testing.F) {
	f.Add(`<rect width="9" height="9" filter="url(#f)"/><filter id="f"><feGaussianBlur stdDeviation="2"/></filter>`)
	f.Add(`<path d="M0 0L1e9 1e9L-1e9 5z" stroke="red" stroke-width="1e8" vector-effect="non-scaling-stroke"/>`)
	f.Add(`<radialGradient id="g" r="1e-9" spreadMethod="repeat"><stop/><stop offset="1" stop-opacity=".1"/></radialGradient><rect width="9" height="9" fill="url(#g)"/>`)
	f.Fuzz(func(t *testing.T, content string) {
		d, err := svg.Read("t.svg",
			[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="20" height="20">`+content+`</svg>`), svg.Options{})
		if err != nil {
			return
		}
		data, err := Write(d.Screens[0].Paint, geom.Rect{W: 20, H: 20}, Options{})
		if err == nil && bytes.Contains(data, []byte("NaN")) {
			t.Fatal("a number that is none")
		}
	})
}
