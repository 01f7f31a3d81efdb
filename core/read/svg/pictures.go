package svg

import (
	"bytes"
	"errors"
	"image"
	"slices"
	"sync"

	"archetyp/core/design"

	"github.com/cespare/xxhash/v2"
)

// pictures are the bitmaps of a drawing and of those inside it, each kept once however often it is shown.
type pictures struct {
	mu      sync.Mutex
	bitmaps map[uint64]opened
}

type opened struct {
	file []byte
	img  image.Image
}

func newPictures(o Options) *pictures {
	if o.pictures != nil {
		return o.pictures
	}
	return &pictures{bitmaps: map[uint64]opened{}}
}

// eager is how many pixels are unpacked at once, to see whether they are whole; larger bitmaps wait until they are
// painted.
const eager = 4 << 20

// bitmap opens a bitmap.
func (p *pictures) bitmap(b *builder, file []byte) (image.Image, error) {
	key := xxhash.Sum64(file)
	p.mu.Lock()
	known, ok := p.bitmaps[key]
	p.mu.Unlock()
	if ok && bytes.Equal(known.file, file) {
		return known.img, nil
	}
	img, err := design.OpenBitmap(file, b.opts.Budget)
	if err != nil {
		return nil, err
	}
	if size := img.Bounds(); size.Dx()*size.Dy() <= eager && !b.opts.Facts {
		if _, err := design.Pixels(img); err != nil {
			return nil, err
		}
	}
	p.mu.Lock()
	defer p.mu.Unlock()
	p.bitmaps[key] = opened{file, img}
	return img, nil
}

var errHoldsItself = errors.New("the drawing holds itself")

// inside reads a drawing that is a picture in this one.
func (b *builder) inside(name string, file []byte, links bool) (*design.Document, error) {
	o := b.opts
	sum := xxhash.Sum64(file)
	if slices.Contains(o.around, sum) {
		return nil, errHoldsItself
	}
	if len(o.around) > mostNested {
		return nil, errNested
	}
	o.around = append(o.around[:len(o.around):len(o.around)], sum)
	o.Marks, o.pictures = nil, b.pictures
	if !links {
		o.Load = nil
	}
	return Read(name, file, o)
}
