package picture

import (
	"bytes"
	"compress/zlib"
	"io"
	"runtime"
	"sync/atomic"
	"testing"
)

func TestRowsAreWorkedOnOnceEach(t *testing.T) {
	for _, size := range [][2]int{{0, 0}, {5, 0}, {0, 5}, {3, 7}, {1 << 20, 1}, {1 << 20, 3}, {1, 1 << 18}, {1500, 1001}} {
		times := make([]atomic.Int32, size[1])
		Rows(size[0], size[1], func(from, to int) {
			for y := from; y < to; y++ {
				times[y].Add(1)
			}
		})
		for y := range times {
			if n := times[y].Load(); n != 1 {
				t.Errorf("%v: row %d is worked on %d times", size, y, n)
				break
			}
		}
	}
}

// TestLargePicturesArePackedTheSameOnAnyMachine packs pictures of several pieces, and reads them with another reader.
func TestLargePicturesArePackedTheSameOnAnyMachine(t *testing.T) {
	defer runtime.GOMAXPROCS(runtime.GOMAXPROCS(0))
	for _, name := range []string{"black and white", "many greys", "few colours", "everything"} {
		img := paint(520, 540, kinds[name])
		runtime.GOMAXPROCS(1)
		alone := PNG(img)
		runtime.GOMAXPROCS(5)
		if !bytes.Equal(alone, PNG(img)) {
			t.Errorf("%s: packed differently by several processors", name)
		}
		readsBack(t, name, alone, img)
	}
}

// TestPiecesReadAsOne holds streams of several pieces against what went in.
func TestPiecesReadAsOne(t *testing.T) {
	for _, n := range []int{pieceBytes + 1, 2 * pieceBytes, 2*pieceBytes + 12345} {
		rows := make([]byte, n)
		for i := range rows {
			rows[i] = byte(i * i >> 9)
		}
		for _, level := range []int{quick, thorough} {
			packed := deflate(rows, level)
			r, err := zlib.NewReader(packed)
			if err != nil {
				t.Fatal(err)
			}
			got, err := io.ReadAll(r)
			if err != nil || !bytes.Equal(got, rows) {
				t.Errorf("%d bytes at level %d: %v", n, level, err)
			}
		}
	}
}

func BenchmarkPNGLarge(b *testing.B) {
	for name, at := range kinds {
		img := paint(4000, 3000, at)
		b.Run(name, func(b *testing.B) {
			b.SetBytes(int64(len(img.Pix)))
			for b.Loop() {
				PNG(img)
			}
		})
	}
}
