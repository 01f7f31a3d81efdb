package picture

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"image"
	"image/draw"
	"image/jpeg"

	"github.com/HugoSmits86/nativewebp"
)

// JPEG encodes an opaque picture with loss; quality is 1 to 100. What is see-through is painted on white.
// https://www.w3.org/Graphics/JPEG/itu-t81.pdf
func JPEG(img *image.RGBA, quality int) ([]byte, error) {
	opaque := image.NewRGBA(img.Bounds())
	draw.Draw(opaque, opaque.Rect, image.White, image.Point{}, draw.Src)
	draw.Draw(opaque, opaque.Rect, img, img.Bounds().Min, draw.Over)
	var b bytes.Buffer
	if err := jpeg.Encode(&b, opaque, &jpeg.Options{Quality: quality}); err != nil {
		return nil, fmt.Errorf("no JPEG can be made: %w", err)
	}
	return b.Bytes(), nil
}

// WebP encodes a picture without loss.
// https://developers.google.com/speed/webp/docs/webp_lossless_bitstream_specification
func WebP(img *image.RGBA) ([]byte, error) {
	const most = 1 << 14 // of width and height: the format has 14 bits for each
	b := img.Bounds()
	if b.Dx() > most || b.Dy() > most {
		return nil, fmt.Errorf("%d × %d pixels: a WebP picture has at most %d each way; choose PNG or a smaller density",
			b.Dx(), b.Dy(), most)
	}
	p := Straight(img)
	var out bytes.Buffer
	if err := nativewebp.Encode(&out, p.NRGBA(), nil); err != nil {
		return nil, fmt.Errorf("no WebP can be made: %w", err)
	}
	return out.Bytes(), nil
}

// ICO puts square pictures of different sizes, none over 256 pixels, into one icon file; each is a PNG inside.
func ICO(pictures []*image.RGBA) ([]byte, error) {
	head := []byte{0, 0, 1, 0, byte(len(pictures)), 0}
	var body []byte
	at := len(head) + 16*len(pictures)
	for _, img := range pictures {
		b := img.Bounds()
		if b.Dx() > 256 || b.Dy() > 256 {
			return nil, fmt.Errorf("%d × %d pixels are too many for an icon file; it holds 256 each way", b.Dx(), b.Dy())
		}
		p := Straight(img)
		data := p.rgbaPNG()
		entry := make([]byte, 16)
		entry[0], entry[1] = byte(b.Dx()), byte(b.Dy()) // 256 is written as 0
		entry[4], entry[6] = 1, 32
		binary.LittleEndian.PutUint32(entry[8:], uint32(len(data)))
		binary.LittleEndian.PutUint32(entry[12:], uint32(at+len(body)))
		head, body = append(head, entry...), append(body, data...)
	}
	return append(head, body...), nil
}

// rgbaPNG is a PNG of 32 bits a pixel, the only kind that readers of icon files are sure to take.
func (p *Pixels) rgbaPNG() []byte { return p.encode(form{kind: kindRGBA, depth: 8}) }
