package asset

import (
	"fmt"
	"html"
	"path"
	"sort"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
)

// snippets are what a page needs to use the pictures: a style sheet with a custom property for each, from which a
// browser picks the density it wants, and a line of HTML for each.
// https://www.w3.org/TR/css-images-4/#image-set-notation
// https://html.spec.whatwg.org/multipage/images.html#srcset-attributes
func (s *Set) snippets(files []Record) []File {
	by := map[string]*choice{}
	var order []*choice
	for _, f := range files {
		if f.Set != s.Name || formats[f.Format].media == "" || f.Asset == "" {
			continue
		}
		p := by[f.Asset]
		if p == nil {
			p = &choice{name: f.Asset}
			by[f.Asset] = p
			order = append(order, p)
		}
		if formats[f.Format].pixels {
			p.pixels = append(p.pixels, f)
		} else if f.Format == "svg" {
			p.vectors = append(p.vectors, f)
		}
	}
	if len(order) == 0 {
		return nil
	}
	sort.Slice(order, func(i, j int) bool { return order[i].name < order[j].name })
	var sheet, page strings.Builder
	sheet.WriteString(":root {\n")
	rel := func(f Record) string { return strings.TrimPrefix(f.Path, s.To+"/") }
	for _, p := range order {
		sort.SliceStable(p.pixels, func(i, j int) bool { return p.pixels[i].Density < p.pixels[j].Density })
		var choices, srcset []string
		for _, f := range p.pixels {
			choices = append(choices, fmt.Sprintf("url(%s) %sx type(%s)", css.String(rel(f)), num(f.Density),
				css.String(formats[f.Format].media)))
			srcset = append(srcset, fmt.Sprintf("%s %sx", rel(f), num(f.Density)))
		}
		first, w, h := p.first()
		value := "image-set(" + strings.Join(choices, ", ") + ")"
		if len(p.vectors) > 0 { // sharp in every density: a browser must not choose pixels for their resolution
			value = fmt.Sprintf("url(%s)", css.String(rel(first)))
		}
		fmt.Fprintf(&sheet, "  --asset-%s: %s;\n", design.Slug(p.name), value)
		fmt.Fprintf(&page, `<img src="%s" width="%d" height="%d" alt=""`, html.EscapeString(rel(first)), w, h)
		if len(p.vectors) == 0 && len(srcset) > 1 {
			fmt.Fprintf(&page, ` srcset="%s"`, html.EscapeString(strings.Join(srcset, ", ")))
		}
		page.WriteString(">\n")
	}
	sheet.WriteString("}\n")
	return []File{{Path: path.Join(s.To, "assets.css"), Data: []byte(sheet.String()), Set: s.Name, Format: "css"},
		{Path: path.Join(s.To, "assets.html"), Data: []byte(page.String()), Set: s.Name, Format: "html"}}
}

// choice is what a page can choose from to show an asset.
type choice struct {
	name            string
	vectors, pixels []Record
}

// first is the file for browsers that choose none, and the size the picture is shown at, px.
func (p *choice) first() (f Record, width, height int) {
	if len(p.vectors) > 0 {
		f = p.vectors[0]
		return f, f.Width, f.Height
	}
	f = p.pixels[0]
	return f, whole1(float64(f.Width) / f.Density), whole1(float64(f.Height) / f.Density)
}
