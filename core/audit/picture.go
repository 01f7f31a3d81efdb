package audit

import (
	"fmt"
	"image"
	"image/draw"
	"strconv"
	"strings"
	"unicode/utf8"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/geom"
	"archetyp/core/markup"
	"archetyp/core/paint/raster"
	"archetyp/core/read/svg"
	"archetyp/core/text/fit"
)

// Picture is a screen with its findings framed and numbered, and a list of them beside it.
type Picture struct {
	Screen   *design.Screen
	Findings []Finding // in the order of their numbers, from 1
}

// Pictures are the screens on which something was found, in the order of the documents.
func Pictures(r *Report, docs []*design.Document) (out []Picture) {
	for _, d := range docs {
		for _, s := range d.Screens {
			p := Picture{Screen: s}
			for _, f := range r.Findings {
				for _, place := range f.Places {
					if place.At != nil && place.At.Screen == s {
						p.Findings = append(p.Findings, f)
						break
					}
				}
			}
			if len(p.Findings) > 0 {
				out = append(out, p)
			}
		}
	}
	return out
}

// The list beside a screen, in px.
const (
	listWidth  = 440
	listInset  = 24
	lineHeight = 17
	lettersOf  = 60 // that fit into a line
	mostListed = 60 // findings
)

// Paint paints the picture at a density.
func (p *Picture) Paint(density float64, fonts *font.Set) (*image.RGBA, error) {
	img, err := fit.Paint(p.Screen, density)
	if err != nil {
		return nil, err
	}
	size := geom.Rect{W: p.Screen.Box.W, H: p.Screen.Box.H}
	if img, err = fit.Point(img, size, p.frames(), fonts); err != nil {
		return nil, err
	}
	list, height := p.list()
	high := max(height, size.H)
	doc, err := svg.Read("list", []byte(list), svg.Options{Fonts: fonts})
	if err != nil {
		return nil, err
	}
	side, err := raster.Render(doc.Screens[0].Paint, raster.Options{View: geom.Rect{W: listWidth, H: high}, Density: density})
	if err != nil {
		return nil, err
	}
	out := image.NewRGBA(image.Rect(0, 0, img.Bounds().Dx()+side.Bounds().Dx(), side.Bounds().Dy()))
	draw.Draw(out, out.Bounds(), image.White, image.Point{}, draw.Src)
	draw.Draw(out, img.Bounds(), img, image.Point{}, draw.Src)
	at := side.Bounds().Add(image.Pt(img.Bounds().Dx(), 0))
	draw.Draw(out, at, side, image.Point{}, draw.Over)
	return out, nil
}

// frames are the places on the screen, each once, with the numbers of all that was found there.
func (p *Picture) frames() (out []fit.Frame) {
	numbers := map[*design.Element][]string{}
	bad := map[*design.Element]bool{}
	var order []*design.Element
	for i, f := range p.Findings {
		for _, place := range f.Places {
			e := place.At
			if e == nil || e.Screen != p.Screen || !place.HasBox {
				continue
			}
			if numbers[e] == nil {
				order = append(order, e)
			}
			numbers[e] = append(numbers[e], strconv.Itoa(i+1))
			bad[e] = bad[e] || f.Level == Error
		}
	}
	for _, e := range order {
		box := e.Geometry.Value.Intersect(geom.Rect{W: p.Screen.Box.W, H: p.Screen.Box.H})
		if box.W <= 0 && box.H <= 0 {
			continue
		}
		out = append(out, fit.Frame{Box: box, Label: strings.Join(numbers[e], ","), Bad: bad[e]})
	}
	return out
}

// list is the list of findings as SVG, and how high it is.
func (p *Picture) list() (drawing string, height float64) {
	var b strings.Builder
	y := float64(listInset)
	text := func(x float64, size int, weight int, fill, words string) {
		fmt.Fprintf(&b, `<text x="%s" y="%s" font-family="sans-serif" font-size="%d" font-weight="%d" fill="%s">%s</text>`,
			css.Num(x, 2), css.Num(y, 2), size, weight, fill, markup.EscapeText(words))
	}
	y += 12
	text(listInset, 18, 700, "#16212b", p.Screen.Name)
	y += 2
	for i, f := range p.Findings {
		if i == mostListed {
			y += 1.5 * lineHeight
			text(listInset, 12, 400, "#5a6672", fmt.Sprintf("and %d more", len(p.Findings)-i))
			break
		}
		y += 1.7 * lineHeight
		fill := map[Level]string{Error: "#b3202c", Warning: "#8a5a00", Note: "#5a6672"}[f.Level]
		text(listInset, 12, 700, fill, fmt.Sprintf("%d  %s", i+1, f.Rule))
		for _, line := range wrap(f.Message, lettersOf) {
			y += lineHeight
			text(listInset, 12, 400, "#16212b", line)
		}
		for _, line := range wrap("→ "+f.Do, lettersOf) {
			y += lineHeight
			text(listInset, 12, 400, "#5a6672", line)
		}
	}
	height = y + listInset
	return fmt.Sprintf(`<svg xmlns="http://www.w3.org/2000/svg" width="%d" height="%s">%s</svg>`, listWidth, css.Num(height, 0), b.String()), height
}

// wrap breaks a text into lines of so many letters.
func wrap(s string, most int) (lines []string) {
	line := ""
	for _, w := range strings.Fields(s) {
		if line != "" && utf8.RuneCountInString(line)+1+utf8.RuneCountInString(w) > most {
			lines = append(lines, line)
			line = w
			continue
		}
		line = strings.TrimPrefix(line+" "+w, " ")
	}
	return append(lines, line)
}
