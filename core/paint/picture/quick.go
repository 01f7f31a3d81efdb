package picture

import (
	"encoding/binary"
	"image"
)

// QuickPNG encodes a painted picture without loss, in about a fifth of the time of PNG and up to 1.5 times its size. It
// stores each row as its difference from the one above, and does not look for a palette.
func QuickPNG(img *image.RGBA) []byte {
	p := Pixels{Width: img.Rect.Dx(), Height: img.Rect.Dy()}
	at := buffers.Get().(*[]byte)
	defer buffers.Put(at)
	pix := img.Pix[img.PixOffset(img.Rect.Min.X, img.Rect.Min.Y):]
	f := form{kind: kindRGB, depth: 8}
	rows, opaque := opaqueRows(*at, pix, img.Stride, p.Width, p.Height)
	if !opaque {
		f.kind = kindRGBA
		rows = alphaRows(rows, Straight(img).Pix, p.Width, p.Height)
	}
	*at = rows
	return p.chunks(f, deflate(rows, quick).Bytes())
}

// cleared is a buffer of so many zeros, the one given where it is large enough.
func cleared(buffer []byte, n int) []byte {
	if cap(buffer) < n {
		return make([]byte, n)
	}
	buffer = buffer[:n]
	clear(buffer)
	return buffer
}

// opaqueRows are rows of RGB as differences from the one above; opaque is false where a pixel lets something through.
func opaqueRows(buffer, pix []byte, stride, width, height int) (out []byte, opaque bool) {
	line := 3*width + 1
	out = cleared(buffer, line*height)
	above := make([]byte, 4*width)
	for y := range height {
		row, to := pix[y*stride:y*stride+4*width], out[y*line:(y+1)*line]
		to[0] = filterUp
		for x := 0; x < width; x++ {
			for x+2 <= width && binary.LittleEndian.Uint64(row[4*x:]) == binary.LittleEndian.Uint64(above[4*x:]) && y > 0 {
				x += 2
			}
			if x >= width {
				break
			}
			a, b := row[4*x:4*x+4:4*x+4], above[4*x:4*x+4:4*x+4]
			if a[3] != 255 {
				return out, false
			}
			to[3*x+1], to[3*x+2], to[3*x+3] = a[0]-b[0], a[1]-b[1], a[2]-b[2]
		}
		above = row
	}
	return out, true
}

// alphaRows are rows of RGBA as differences from the one above.
func alphaRows(buffer, pix []byte, width, height int) []byte {
	line := 4*width + 1
	out := cleared(buffer, line*height)
	above := make([]byte, 4*width)
	for y := range height {
		row, to := pix[4*y*width:4*(y+1)*width], out[y*line:(y+1)*line]
		to[0] = filterUp
		for i, v := range row {
			to[1+i] = v - above[i]
		}
		above = row
	}
	return out
}
