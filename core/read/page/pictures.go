package page

import (
	"bytes"
	"encoding/base64"
	"image"
	"math"
	"net/url"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/markup"
)

// Pictures are the pictures, icons and fonts that the page and its sheets use, in order, one for each address and kind.
// Their real sizes are known where what they refer to can be loaded.
func (p *Page) Pictures() []design.PagePicture {
	out := p.uses()
	for i := range out {
		u := &out[i]
		if u.Kind == "font" || u.Address == "" || p.load == nil {
			continue
		}
		data := dataOf(u.Address)
		if data == nil {
			got, err := p.load(u.Address)
			if err != nil {
				u.Missing = err.Error()
				continue
			}
			data = got.Data
		}
		u.Format, u.Width, u.Height = sizeOf(data)
		if u.Format != "svg" && u.Width > 0 && u.Shown > 0 {
			u.Density = math.Round(u.Width/u.Shown*100) / 100
		}
	}
	return out
}

// dataOf is what a data: address holds, for the forms in which pictures are written; nil for another.
func dataOf(address string) []byte {
	rest, ok := strings.CutPrefix(address, "data:")
	if !ok {
		return nil
	}
	head, body, _ := strings.Cut(rest, ",")
	data := []byte(body)
	if plain, err := url.PathUnescape(body); err == nil {
		data = []byte(plain)
	}
	if strings.HasSuffix(head, ";base64") {
		out, err := base64.StdEncoding.DecodeString(strings.Join(strings.Fields(string(data)), ""))
		if err != nil {
			return nil
		}
		return out
	}
	return data
}

// sizeOf is the format of a picture and its size in px; 0 where it has none of its own.
func sizeOf(data []byte) (format string, w, h float64) {
	if cfg, name, err := image.DecodeConfig(bytes.NewReader(data)); err == nil {
		return name, float64(cfg.Width), float64(cfg.Height)
	}
	if !bytes.Contains(data[:min(len(data), 4096)], []byte("<svg")) {
		return "", 0, 0
	}
	doc, err := markup.ParseXML(data)
	if err != nil {
		return "svg", 0, 0
	}
	w, h = svgSize(doc.Root)
	return "svg", w, h
}

// svgSize is the size that an svg element says itself.
func svgSize(n *markup.Node) (w, h float64) {
	px := func(name string) float64 {
		if l, err := css.ParseLength(n.AttrOr(name, "")); err == nil && (l.Unit == "" || l.Unit == "px") {
			return l.Value
		}
		return 0
	}
	w, h = px("width"), px("height")
	if box := strings.FieldsFunc(n.AttrOr("viewBox", ""), func(r rune) bool { return r == ' ' || r == ',' }); len(box) == 4 && w == 0 && h == 0 {
		w, _ = strconv.ParseFloat(box[2], 64)
		h, _ = strconv.ParseFloat(box[3], 64)
	}
	return w, h
}

// uses are what the page and its sheets refer to.
func (p *Page) uses() (out []design.PagePicture) {
	seen := map[[2]string]bool{}
	add := func(base, ref string, u design.PagePicture) {
		ref = strings.TrimSpace(ref)
		if ref == "" || strings.HasPrefix(ref, "#") {
			return
		}
		b, err := url.Parse(base)
		if err != nil {
			return
		}
		to, err := b.Parse(ref)
		if err != nil {
			return
		}
		to.Fragment, to.RawFragment = "", ""
		u.Address = to.String()
		if key := [2]string{u.Kind, u.Address}; !seen[key] {
			seen[key] = true
			out = append(out, u)
		}
	}
	p.Markup.Root.Walk(func(n *markup.Node) bool {
		if n.Kind != markup.Element {
			return true
		}
		at := design.PagePicture{Kind: "image", Place: p.at(n.Offset), By: p.selector(n)}
		if w, err := strconv.ParseFloat(n.AttrOr("width", ""), 64); err == nil && w > 0 {
			at.Shown = w
		}
		switch {
		case n.Space == markup.SVG && n.Local == "svg":
			at.Kind, at.Format = "inline", "svg"
			at.Width, at.Height = svgSize(n)
			out = append(out, at)
		case n.Local == "img" || n.Local == "source" || n.Local == "video" || n.Local == "input" || n.Local == "embed" || n.Local == "image" || n.Local == "use":
			add(p.Base, n.AttrOr("src", ""), at)
			add(p.Base, n.AttrOr("poster", ""), at)
			if n.Local == "image" {
				add(p.Base, n.Href(), at)
			}
			for _, c := range strings.Split(n.AttrOr("srcset", ""), ",") {
				if f := strings.Fields(c); len(f) > 0 {
					one := at
					if len(f) > 1 {
						one.Asks = f[1]
					}
					add(p.Base, f[0], one)
				}
			}
		case n.Local == "link" && (hasRel(n, "icon") || hasRel(n, "apple-touch-icon") || hasRel(n, "mask-icon")):
			at.Kind, at.Asks = "icon", n.AttrOr("sizes", "")
			add(p.Base, n.AttrOr("href", ""), at)
		}
		for _, d := range css.ParseDecls(n.AttrOr("style", "")) {
			for _, u := range css.URLs(d.Value) {
				add(p.Base, u, design.PagePicture{Kind: kindOf(d.Prop), Place: at.Place, By: at.By})
			}
		}
		return true
	})
	for _, s := range p.sheets {
		for i := range s.Rules {
			for _, d := range s.Rules[i].Decls {
				if !strings.Contains(d.Value, "url(") {
					continue
				}
				for _, u := range css.URLs(d.Value) {
					add(s.Base, u, design.PagePicture{Kind: kindOf(d.Prop), Place: p.placeOf(s, d.Offset), By: s.Rules[i].Selector.Text})
				}
			}
		}
		for _, f := range s.FontFaces {
			add(s.Base, f.URL, design.PagePicture{Kind: "font", By: f.Family, Asks: strings.TrimSpace(f.Weight + " " + f.Style), Place: design.StylePlace{File: p.shown(s.Name)}})
		}
	}
	return out
}

// kindOf is what a picture is for, by the property it is declared in.
func kindOf(property string) string {
	for _, k := range []string{"mask", "cursor", "list-style", "border-image", "background", "content", "filter", "clip-path"} {
		if strings.Contains(property, k) {
			return k
		}
	}
	return "other"
}

// Needs are the addresses of the pictures and fonts that the page and its sheets refer to, each once, in order.
func (p *Page) Needs() (out []string) {
	seen := map[string]bool{}
	for _, u := range p.uses() {
		if u.Address != "" && !strings.HasPrefix(u.Address, "data:") && !seen[u.Address] {
			seen[u.Address] = true
			out = append(out, u.Address)
		}
	}
	return out
}
