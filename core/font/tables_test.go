package font

import (
	"bytes"
	"compress/zlib"
	"encoding/binary"
	"runtime"
	"strings"
	"testing"
)

// woff packs a font file as https://www.w3.org/TR/WOFF/ says.
func woff(t *testing.T, font []byte) []byte {
	t.Helper()
	n := int(binary.BigEndian.Uint16(font[4:]))
	head, body := make([]byte, 44+20*n), []byte{}
	copy(head, "wOFF")
	copy(head[4:], font[:4])
	binary.BigEndian.PutUint16(head[12:], uint16(n))
	for i := range n {
		from, to := font[12+16*i:], head[44+20*i:]
		at, length := binary.BigEndian.Uint32(from[8:]), binary.BigEndian.Uint32(from[12:])
		var b bytes.Buffer
		z := zlib.NewWriter(&b)
		_, _ = z.Write(font[at : at+length])
		_ = z.Close()
		data := b.Bytes()
		if len(data) >= int(length) {
			data = font[at : at+length]
		}
		copy(to, from[:4])
		binary.BigEndian.PutUint32(to[4:], uint32(len(head)+len(body)))
		binary.BigEndian.PutUint32(to[8:], uint32(len(data)))
		binary.BigEndian.PutUint32(to[12:], length)
		body = append(body, data...)
	}
	return append(head, body...)
}

func TestPackedFontsAreTheSame(t *testing.T) {
	plain := demoFont(t, "Fraunces-SemiBold")
	packed := woff(t, plain)
	if len(packed) > len(plain)*4/5 {
		t.Errorf("%d bytes became %d", len(plain), len(packed))
	}
	advance := func(data []byte) float64 {
		s := NewSet(nil)
		f, err := s.Add(data, "x")
		if err != nil {
			t.Fatal(err)
		}
		_, width, _, _ := NewShaper(s).Shape("Tide", Style{Families: []string{f.Family}, Size: 10, Weight: 600})
		return width
	}
	if a, b := advance(plain), advance(packed); a != b || a == 0 {
		t.Errorf("%g and %g", a, b)
	}
}

// TestTablesThatLie gives tables lengths that the file has not, and sees that no memory is set aside for them.
func TestTablesThatLie(t *testing.T) {
	plain := demoFont(t, "Fraunces-SemiBold")
	packed := woff(t, plain)
	for _, c := range []struct {
		name  string
		font  []byte
		lie   func(entry []byte)
		entry int // bytes of one
		head  int
		want  string
	}{
		{"longer than the file", plain, func(e []byte) { binary.BigEndian.PutUint32(e[12:], 0xf0000000) }, 16, 12, "claims"},
		{"packed, longer than the file", packed, func(e []byte) { binary.BigEndian.PutUint32(e[8:], 0xf0000000) }, 20, 44,
			"claims"},
		{"packed, of endless bytes", packed, func(e []byte) { binary.BigEndian.PutUint32(e[12:], 0xf0000000) }, 20, 44,
			"MB unpacked"},
	} {
		for i := range int(binary.BigEndian.Uint16(plain[4:])) {
			data := bytes.Clone(c.font)
			c.lie(data[c.head+i*c.entry:])
			var before, after runtime.MemStats
			runtime.ReadMemStats(&before)
			_, err := NewSet(nil).Add(data, "x")
			runtime.ReadMemStats(&after)
			if err == nil || !strings.Contains(err.Error(), c.want) {
				t.Errorf("%s: table %d: %v", c.name, i, err)
			}
			if got := after.TotalAlloc - before.TotalAlloc; got > 64<<20 {
				t.Errorf("%s: table %d: %d MB set aside", c.name, i, got>>20)
			}
		}
	}
	if _, err := NewSet(nil).Add(append([]byte("wOF2"), plain...), "x"); err == nil || !strings.Contains(err.Error(),
		"WOFF 2") {
		t.Errorf("WOFF 2: %v", err)
	}
	for n := range 60 {
		if _, err := NewSet(nil).Add(packed[:n], "x"); err == nil {
			t.Errorf("%d bytes are taken for a font", n)
		}
	}
}
