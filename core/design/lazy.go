package design

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	_ "image/gif"  // decoders of the formats a bitmap may come in
	_ "image/jpeg" // (likewise)
	_ "image/png"  // (likewise)
	"strings"
	"sync"

	"archetyp/core/limit"

	_ "golang.org/x/image/webp" // (likewise)
)

// Unpacked is a bitmap whose pixels are unpacked when somebody first asks for them: a drawing may hold many that are
// never painted. It is an image.Image; one that turns out to be damaged is empty as such, see Pixels.
type Unpacked struct {
	file   []byte
	config image.Config
	format string
	budget *limit.Budget
	once   sync.Once
	pixels image.Image
	err    error
}

// OpenBitmap reads the head of a PNG, JPEG, GIF or WebP file. Its pixels are taken from the budget when unpacked.
func OpenBitmap(file []byte, budget *limit.Budget) (*Unpacked, error) {
	config, format, err := image.DecodeConfig(bytes.NewReader(file))
	if err != nil {
		return nil, fmt.Errorf("not a PNG, JPEG, GIF or WebP picture")
	}
	if config.Width <= 0 || config.Height <= 0 || config.Width > 1<<30/config.Height {
		return nil, fmt.Errorf("%d × %d pixels are no size for a picture", config.Width, config.Height)
	}
	return &Unpacked{file: file, config: config, format: format, budget: budget}, nil
}

// Pixels are those of any bitmap, unpacked. The error is a *limit.Error where they are too many.
func Pixels(img image.Image) (image.Image, error) {
	u, ok := img.(*Unpacked)
	if !ok {
		return img, nil
	}
	u.once.Do(func() {
		if u.err = u.budget.Spend(limit.Pixels, int64(u.config.Width)*int64(u.config.Height)); u.err != nil {
			return
		}
		if u.pixels, _, u.err = image.Decode(bytes.NewReader(u.file)); u.err != nil {
			u.err = fmt.Errorf("damaged %s picture: %w", strings.ToUpper(u.format), u.err)
		}
	})
	return u.pixels, u.err
}

// Bounds, ColorModel and At make it an image.Image.
func (u *Unpacked) Bounds() image.Rectangle { return image.Rect(0, 0, u.config.Width, u.config.Height) }

// ColorModel is that of the file.
func (u *Unpacked) ColorModel() color.Model { return u.config.ColorModel }

// At is the colour of a pixel; transparent in a damaged bitmap.
func (u *Unpacked) At(x, y int) color.Color {
	if img, err := Pixels(u); err == nil {
		b := img.Bounds()
		return img.At(b.Min.X+x, b.Min.Y+y)
	}
	return color.Transparent
}
