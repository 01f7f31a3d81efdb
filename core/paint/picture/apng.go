package picture

import (
	"bytes"
	"encoding/binary"
	"image"
	"time"
)

// Animation writes pictures of one size as one that shows them in turn for ever, as PNG 3 (APNG) has it. A reader that
// knows no animation shows the first.
// https://www.w3.org/TR/png-3/#apng-frame-based-animation
func Animation(frames []*image.RGBA, each time.Duration) []byte {
	var out bytes.Buffer
	sequence := uint32(0)
	next := func() uint32 { sequence++; return sequence - 1 }
	for i, img := range frames {
		control := binary.BigEndian.AppendUint32(nil, next())
		for _, v := range []int{img.Rect.Dx(), img.Rect.Dy(), 0, 0} {
			control = binary.BigEndian.AppendUint32(control, uint32(v))
		}
		control = binary.BigEndian.AppendUint16(control, uint16(each.Milliseconds()))
		control = append(binary.BigEndian.AppendUint16(control, 1000), 0, 0) // left as it is, and replaced
		first := true
		chunks(trueColour(img), func(kind string, data []byte) {
			switch {
			case kind == "IHDR" && i == 0:
				out.WriteString("\x89PNG\r\n\x1a\n")
				chunk(&out, kind, data)
				chunk(&out, "acTL", binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(nil, uint32(len(frames))), 0))
			case kind == "IDAT":
				if first {
					chunk(&out, "fcTL", control)
					first = false
				}
				if i == 0 {
					chunk(&out, kind, data)
				} else {
					chunk(&out, "fdAT", append(binary.BigEndian.AppendUint32(nil, next()), data...))
				}
			case kind == "IHDR", kind == "IEND":
			case i == 0:
				chunk(&out, kind, data)
			}
		})
	}
	chunk(&out, "IEND", nil)
	return out.Bytes()
}

// chunks hands out the chunks of a PNG.
func chunks(png []byte, each func(kind string, data []byte)) {
	for p := 8; p+12 <= len(png); {
		n := int(binary.BigEndian.Uint32(png[p:]))
		each(string(png[p+4:p+8]), png[p+8:p+8+n])
		p += 12 + n
	}
}

// trueColour is a PNG of one form, whatever is in the picture: frames of an animation share one header.
func trueColour(img *image.RGBA) []byte {
	p := Straight(img)
	return p.encode(form{kind: kindRGBA, depth: 8})
}
