package page

import (
	"bytes"
	"cmp"
	"encoding/base64"
	"image"
	"math"
	"net/url"
	"path"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/markup"
)

// Pictures are the pictures, icons and fonts that the page and its sheets use, in order, one for each address and kind,
// with their bytes where they can be loaded.
func (p *Page) Pictures() []design.PagePicture {
	out := p.uses()
	loaded := map[string]Loaded{}
	for i := range out {
		u := &out[i]
		if u.Address != "" {
			u.Data = dataOf(u.Address)
		}
		if u.Address != "" && u.Data == nil && p.load != nil {
			got, seen := loaded[u.Address]
			if !seen {
				var err error
				if got, err = p.load(u.Address); err != nil {
					u.Missing = err.Error()
					continue
				}
				loaded[u.Address] = got
			}
			u.Data = got.Data
		}
		switch {
		case u.Kind == "font":
			u.Format = fontFormat(u.Data)
		case u.Kind != "inline" && u.Data != nil:
			u.Format, u.Width, u.Height = sizeOf(u.Data)
			if u.Format != "svg" && u.Width > 0 && u.Shown > 0 {
				u.Density = math.Round(u.Width/u.Shown*100) / 100
			}
		}
	}
	return out
}

// fontFormat is the format of a font file, by what it begins with; "" for none that is known.
func fontFormat(data []byte) string {
	for _, f := range []struct{ magic, name string }{{"wOF2", "woff2"}, {"wOFF", "woff"}, {"OTTO", "otf"}, {"\x00\x01\x00\x00", "ttf"}, {"true", "ttf"}, {"ttcf", "ttc"}} {
		if bytes.HasPrefix(data, []byte(f.magic)) {
			return f.name
		}
	}
	return ""
}

// inlineName is what an inline drawing is called: its own name, that of what it uses, or that of what it stands in.
func inlineName(n *markup.Node) string {
	if name := design.ElementName(n, ""); name != "" {
		return name
	}
	for _, c := range n.Elements() {
		if c.Local == "use" && strings.Contains(c.Href(), "#") {
			_, id, _ := strings.Cut(c.Href(), "#")
			return id
		}
	}
	for a := n.Parent; a != nil && a.Local != "body"; a = a.Parent {
		if name := design.ElementName(a, ""); name != "" {
			return name
		}
		if words := strings.Join(strings.Fields(a.TextContent()), " "); words != "" {
			return words
		}
	}
	return ""
}

// addressName is the name of the file that an address leads to, without its extension.
func addressName(address string) string {
	u, err := url.Parse(address)
	if err != nil || u.Scheme == "data" {
		return ""
	}
	name := path.Base(u.Path)
	return strings.TrimSuffix(name, path.Ext(name))
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
		u.Name = design.Slug(cmp.Or(addressName(u.Address), u.By, u.Kind))
		if key := [2]string{u.Kind, u.Address}; !seen[key] {
			seen[key] = true
			out = append(out, u)
		}
	}
	p.Markup.Root.Walk(func(n *markup.Node) bool {
		if n.Kind != markup.Element {
			return true
		}
		at := design.PagePicture{Kind: "image", Node: n, Place: p.at(n.Offset), By: p.selector(n)}
		if w, err := strconv.ParseFloat(n.AttrOr("width", ""), 64); err == nil && w > 0 {
			at.Shown = w
		}
		switch {
		case n.Space == markup.SVG && n.Local == "svg":
			at.Kind, at.Format = "inline", "svg"
			at.Width, at.Height = svgSize(n)
			at.Name, at.Data = design.Slug(cmp.Or(inlineName(n), at.Kind)), p.standalone(n)
			out = append(out, at)
			return false
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
				add(p.Base, u, design.PagePicture{Kind: kindOf(d.Prop), Node: n, Place: at.Place, By: at.By})
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
