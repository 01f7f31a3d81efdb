package picture

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"slices"
	"sync"
)

// PNG encodes a painted picture without loss, in the smallest of the forms that hold it exactly: grey or a palette of
// up to 256 colours with as few bits a pixel as they need, else grey, RGB or RGBA with rows filtered.
// https://www.w3.org/TR/png-3/
func PNG(img *image.RGBA) []byte {
	p := Straight(img)
	return p.PNG()
}

// PNG is the function of this name for straight pixels.
func (p *Pixels) PNG() []byte {
	f, plain := p.form()
	data := p.encode(f)
	if f.kind == kindPalette && len(f.palette) > 16 && p.Width*p.Height <= smallPicture {
		if direct := p.encode(plain); len(direct) < len(data) {
			return direct
		}
	}
	return data
}

// smallPicture is the number of pixels up to which a palette may well take more room than it saves.
const smallPicture = 64 * 64

func (p *Pixels) encode(f form) []byte { return p.chunks(f, f.compressed(p)) }

// chunks are a file around compressed rows.
func (p *Pixels) chunks(f form, rows []byte) []byte {
	var b bytes.Buffer
	b.Grow(1024)
	b.WriteString("\x89PNG\r\n\x1a\n")
	head := make([]byte, 13)
	binary.BigEndian.PutUint32(head, uint32(p.Width))
	binary.BigEndian.PutUint32(head[4:], uint32(p.Height))
	head[8], head[9] = byte(f.depth), f.kind
	chunk(&b, "IHDR", head)
	if f.kind == kindPalette {
		colors, alphas := make([]byte, 0, 3*len(f.palette)), []byte{}
		for _, c := range f.palette {
			colors = append(colors, byte(c), byte(c>>8), byte(c>>16))
			if c>>24 != 255 { // those come first
				alphas = append(alphas, byte(c>>24))
			}
		}
		chunk(&b, "PLTE", colors)
		if len(alphas) > 0 {
			chunk(&b, "tRNS", alphas)
		}
	}
	chunk(&b, "IDAT", rows)
	chunk(&b, "IEND", nil)
	return b.Bytes()
}

func chunk(b *bytes.Buffer, name string, data []byte) {
	var n [4]byte
	binary.BigEndian.PutUint32(n[:], uint32(len(data)))
	b.Write(n[:])
	from := b.Len()
	b.WriteString(name)
	b.Write(data)
	binary.BigEndian.PutUint32(n[:], crc32.ChecksumIEEE(b.Bytes()[from:]))
	b.Write(n[:])
}

// Kinds of pixels, as the header names them.
const (
	kindGrey      = 0
	kindRGB       = 2
	kindPalette   = 3
	kindGreyAlpha = 4
	kindRGBA      = 6
)

// form is how pixels are written.
type form struct {
	kind    byte
	depth   int      // bits of a sample
	palette []uint32 // r, g, b, a from the lowest byte on
	index   *colours
}

// form finds the smallest form that holds all pixels exactly, and the one without a palette.
func (p *Pixels) form() (best, plain form) {
	seen := &colours{}
	grey, opaque, few := true, true, true
	last := uint32(0)
	for i := 0; i < len(p.Pix); i += 4 {
		c := binary.LittleEndian.Uint32(p.Pix[i:])
		if c == last && i > 0 {
			continue
		}
		last = c
		opaque = opaque && c>>24 == 255
		grey = grey && byte(c) == byte(c>>8) && byte(c) == byte(c>>16)
		if few = few && seen.add(c); !few && !grey && !opaque {
			break
		}
	}
	plain = form{kind: kindRGBA, depth: 8}
	switch {
	case grey && opaque:
		plain.kind = kindGrey
	case grey:
		plain.kind = kindGreyAlpha
	case opaque:
		plain.kind = kindRGB
	}
	if few && !(grey && opaque && seen.n > 16) {
		return paletteForm(seen, grey && opaque), plain
	}
	return plain, plain
}

// paletteForm writes few colours as a palette, or as greys where these are evenly spread.
func paletteForm(seen *colours, grey bool) form {
	f := form{kind: kindPalette, palette: seen.list(), index: seen}
	slices.SortFunc(f.palette, func(a, b uint32) int { // see-through colours first, each kind from dark to light
		if x, y := a>>24 == 255, b>>24 == 255; x != y {
			if x {
				return 1
			}
			return -1
		}
		if a>>24 != b>>24 {
			return int(a>>24) - int(b>>24)
		}
		return int(a>>8&255) - int(b>>8&255)
	})
	for f.depth = 1; 1<<f.depth < len(f.palette); f.depth *= 2 {
	}
	if grey {
		top := uint32(1)<<f.depth - 1
		even := true
		for _, c := range f.palette {
			even = even && c&255*top%255 == 0
		}
		if even { // the samples are the greys themselves
			for _, c := range f.palette {
				seen.set(c, uint8(c&255*top/255))
			}
			return form{kind: kindGrey, depth: f.depth, index: seen}
		}
	}
	for i, c := range f.palette {
		seen.set(c, uint8(i))
	}
	return f
}

// colours is a set of up to 256 colours, each with a number.
type colours struct {
	keys [1024]uint32
	used [1024]bool
	num  [1024]uint8
	n    int
}

func (s *colours) slot(c uint32) int {
	i := int(c * 2654435761 >> 22)
	for s.used[i] && s.keys[i] != c {
		i = (i + 1) & 1023
	}
	return i
}

// add is false where there are too many colours.
func (s *colours) add(c uint32) bool {
	i := s.slot(c)
	if s.used[i] {
		return true
	}
	if s.n == 256 {
		return false
	}
	s.keys[i], s.used[i] = c, true
	s.n++
	return true
}

func (s *colours) set(c uint32, n uint8) { s.num[s.slot(c)] = n }

func (s *colours) list() []uint32 {
	var out []uint32
	for i, u := range s.used {
		if u {
			out = append(out, s.keys[i])
		}
	}
	return out
}

// compressed is the picture's rows, each behind the number of its filter, deflated.
func (f *form) compressed(p *Pixels) []byte {
	n, stride, pix := 1, 0, []byte(nil)
	switch {
	case f.index != nil && f.depth < 8: // several pixels to a byte: their neighbours say nothing
		stride, pix = (p.Width*f.depth+7)/8, f.packed(p)
		return deflated(unfiltered, pix, stride, p.Height, n, thorough).Bytes()
	case f.index != nil: // in order of their alpha, and so fit for being stored as differences
		stride, pix = p.Width, f.packed(p)
	default:
		n = map[byte]int{kindGrey: 1, kindGreyAlpha: 2, kindRGB: 3, kindRGBA: 4}[f.kind]
		stride, pix = p.Width*n, f.samples(p, n)
	}
	some, rows := sampled(pix, stride, p.Height)
	if deflated(unfiltered, some, stride, rows, n, quick).Len() <= deflated(filtered, some, stride, rows, n, quick).Len() {
		return deflated(unfiltered, pix, stride, p.Height, n, thorough).Bytes() // drawn in few colours, as icons are
	}
	return deflated(filtered, pix, stride, p.Height, n, thorough).Bytes()
}

// buffers hold rows while they are compressed.
var buffers = sync.Pool{New: func() any { return new([]byte) }}

// deflated writes rows in a way, and deflates them.
func deflated(way func(out, pix []byte, stride, height, n int), pix []byte, stride, height, n,
	level int) *bytes.Buffer {
	b := buffers.Get().(*[]byte)
	defer buffers.Put(b)
	*b = slices.Grow((*b)[:0], (stride+1)*height)[:(stride+1)*height]
	way(*b, pix, stride, height, n)
	return deflate(*b, level)
}

// sampled is every fourth row of a picture that is not small: enough to tell how to write all.
func sampled(pix []byte, stride, height int) (some []byte, rows int) {
	if height < 32 {
		return pix, height
	}
	some = make([]byte, 0, (height+1)/4*stride)
	for y := 2; y < height; y += 4 {
		some = append(some, pix[y*stride:(y+1)*stride]...)
		rows++
	}
	return some, rows
}

// unfiltered writes each row as it is.
func unfiltered(out, pix []byte, stride, height, _ int) {
	Rows(stride, height, func(from, to int) {
		for y := from; y < to; y++ {
			out[y*(stride+1)] = filterNone
			copy(out[y*(stride+1)+1:], pix[y*stride:(y+1)*stride])
		}
	})
}

// packed are rows of palette numbers or greys, as many to a byte as fit.
func (f *form) packed(p *Pixels) []byte {
	stride := (p.Width*f.depth + 7) / 8
	out := make([]byte, stride*p.Height)
	Rows(p.Width, p.Height, func(from, to int) {
		last := binary.LittleEndian.Uint32(p.Pix)
		num := f.index.num[f.index.slot(last)]
		for y := from; y < to; y++ {
			in := p.Pix[4*y*p.Width : 4*(y+1)*p.Width]
			row := out[y*stride : (y+1)*stride]
			for x := 0; x < p.Width; x++ {
				if c := binary.LittleEndian.Uint32(in[4*x:]); c != last {
					last, num = c, f.index.num[f.index.slot(c)]
				}
				if f.depth == 8 {
					row[x] = num
					continue
				}
				bit := x * f.depth
				row[bit/8] |= num << (8 - f.depth - bit%8)
			}
		}
	})
	return out
}

// samples are the pixels without the channels that say nothing.
func (f *form) samples(p *Pixels, n int) []byte {
	if n == 4 {
		return p.Pix
	}
	whole := make([]byte, n*p.Width*p.Height)
	Rows(p.Width, p.Height, func(from, to int) {
		in, out := p.Pix[4*from*p.Width:4*to*p.Width], whole[n*from*p.Width:n*from*p.Width]
		for i := 0; i < len(in); i += 4 {
			switch n {
			case 1:
				out = append(out, in[i])
			case 2:
				out = append(out, in[i], in[i+3])
			case 3:
				out = append(out, in[i], in[i+1], in[i+2])
			}
		}
	})
	return whole
}

// filtered writes each row in the way of prediction that leaves least. https://www.w3.org/TR/png-3/#9Filters
func filtered(out, pix []byte, stride, height, n int) {
	Rows(stride, height, func(from, to int) {
		var tries [3][]byte
		for i := range tries {
			tries[i] = make([]byte, stride)
		}
		above := make([]byte, stride)
		if from > 0 {
			above = pix[(from-1)*stride : from*stride]
		}
		for y := from; y < to; y++ {
			row, line := pix[y*stride:(y+1)*stride], out[y*(stride+1):(y+1)*(stride+1)]
			if bytes.Equal(row, above) {
				line[0] = filterUp // leaves nothing
				clear(line[1:])
				continue
			}
			best, differences := predict(&tries, row, above, n)
			line[0] = best
			copy(line[1:], differences)
			above = row
		}
	})
}

// Filters, as a row's first byte names them.
const (
	filterNone  = 0
	filterSub   = 1
	filterUp    = 2
	filterPaeth = 4
)

// predict tries the filters on a row, and gives the one that leaves the smallest sum of differences. The average of
// two neighbours is not among them: it takes time and wins next to nothing.
func predict(tries *[3][]byte, row, above []byte, n int) (filter byte, differences []byte) {
	above = above[:len(row)]
	sub, up, paeth := tries[0][:len(row)], tries[1][:len(row)], tries[2][:len(row)]
	var sNone, sSub, sUp, sPaeth int
	for i, v := range row[:n] {
		a := above[i]
		sub[i], up[i], paeth[i] = v, v-a, v-a
		sNone, sSub, sUp, sPaeth = sNone+size(v), sSub+size(v), sUp+size(v-a), sPaeth+size(v-a)
	}
	lefts, corners := row[:len(row)-n], above[:len(row)-n]
	rest, aboves := row[n:], above[n:]
	outSub, outUp, outPaeth := sub[n:], up[n:], paeth[n:]
	for i, v := range rest {
		l, a, c := lefts[i], aboves[i], corners[i]
		ds, du, dp := v-l, v-a, v-nearestOf(int(l), int(a), int(c))
		outSub[i], outUp[i], outPaeth[i] = ds, du, dp
		sNone += size(v)
		sSub += size(ds)
		sUp += size(du)
		sPaeth += size(dp)
	}
	switch min(sNone, sSub, sUp, sPaeth) {
	case sNone:
		return filterNone, row
	case sUp:
		return filterUp, up
	case sSub:
		return filterSub, sub
	}
	return filterPaeth, paeth
}

// size is how far a difference is from none, either way.
func size(v byte) int {
	d := int(int8(v))
	sign := d >> 8
	return (d ^ sign) - sign
}

// nearestOf is the Paeth predictor.
func nearestOf(a, b, c int) byte {
	pa, pb := b-c, a-c
	pc := pa + pb
	pa, pb, pc = max(pa, -pa), max(pb, -pb), max(pc, -pc)
	switch {
	case pa <= pb && pa <= pc:
		return byte(a)
	case pb <= pc:
		return byte(b)
	}
	return byte(c)
}
