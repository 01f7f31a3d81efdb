package editor

import (
	"context"
	"slices"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/offer"
	"archetyp/core/styletext"

	lexer "github.com/tdewolff/parse/v2/css"
)

func toLSP(c color.Color) lspColor {
	rgb := c.SRGB()
	clamp := func(v float64) float64 { return max(0, min(1, v)) }
	return lspColor{clamp(rgb[0]), clamp(rgb[1]), clamp(rgb[2]), clamp(c.Alpha)}
}

// documentColors are the colours in a document: as they stand there, and those of tokens.
func documentColors(ctx context.Context, c *call, p *documentParams) (any, error) {
	out := []colorInformation{}
	d := c.docs[p.TextDocument.URI]
	if d == nil {
		return out, nil
	}
	o := c.open(ctx, p.TextDocument.URI)
	switch {
	case d.code != nil:
		for _, f := range colorsIn(d.code(), o) {
			out = append(out, colorInformation{d.text.span(f.From, f.To, c.client.encoding), toLSP(f.Color)})
		}
	case o != nil && o.isTokenFile():
		out = append(out, o.tokenColors(c.client.encoding)...)
	}
	return out, nil
}

// colorsIn finds the colours in declarations: those that are written, and those of tokens. o may be nil.
func colorsIn(c *styletext.Code, o *openFile) (out []color.At) {
	for i := range c.Decls {
		d := &c.Decls[i]
		if d.Value == "" || len(offer.KindsFor(d.Property)) == 0 && !strings.HasPrefix(d.Property, "--") {
			continue
		}
		for _, at := range color.In(d.Value) {
			out = append(out, color.At{From: d.ValueAt + at.From, To: d.ValueAt + at.To, Color: at.Color})
		}
		if o == nil || !strings.Contains(d.Value, "var(") {
			continue
		}
		toks := css.Tokenize(d.Value)
		for k := range toks {
			end := 0
			if toks[k].Type == lexer.FunctionToken && strings.EqualFold(toks[k].Data, "var(") {
				end = css.Closing(toks, k)
			}
			if end <= k+1 || end == len(toks) {
				continue
			}
			if e := o.a.Desk.Named(toks[k+1].Data); e != nil && e.Color != nil {
				out = append(out, color.At{From: d.ValueAt + toks[k].Offset, To: d.ValueAt + toks[end].Offset + 1, Color: *e.Color})
			}
		}
	}
	slices.SortFunc(out, func(a, b color.At) int { return a.From - b.From })
	return out
}

// colorPresentations are the ways to write a colour: as the token it is, and as CSS has it.
func colorPresentations(ctx context.Context, c *call, p *struct {
	TextDocument textDocument `json:"textDocument"`
	Color        lspColor     `json:"color"`
	Range        lspRange     `json:"range"`
}) (any, error) {
	out := []colorPresentation{}
	d := c.docs[p.TextDocument.URI]
	if d == nil {
		return out, nil
	}
	picked := color.Color{Space: color.SRGB, C: [3]float64{p.Color.Red, p.Color.Green, p.Color.Blue}, Alpha: p.Color.Alpha}
	if r, g, b, a := picked.RGBA8(); a == 255 { // pickers count in 8 bits
		picked = color.RGB8(r, g, b)
	} else {
		picked = color.RGB8(r, g, b).WithAlpha(p.Color.Alpha)
	}
	from, to := d.text.offset(p.Range.Start, c.client.encoding), d.text.offset(p.Range.End, c.client.encoding)
	add := func(label, text string) {
		for _, have := range out {
			if have.Label == label {
				return
			}
		}
		out = append(out, colorPresentation{label, &textEdit{p.Range, text}})
	}
	o := c.open(ctx, p.TextDocument.URI)
	if d.code == nil {
		if o != nil && o.isTokenFile() {
			if label, write := o.tokenPresentation(from, to, picked); write != "" {
				add(label, write)
			}
		}
		return out, nil
	}
	if o != nil {
		property := ""
		if place := d.code().At(from); place.Decl != nil {
			property = place.Decl.Property
		}
		if e := o.a.Desk.Valued(offer.Color, picked.CSS(), property); e != nil {
			add("var("+e.Property+")", "var("+e.Property+")")
		}
	}
	for _, text := range []string{picked.Hex(), picked.RGB(), picked.To(color.OKLCH).CSS()} {
		add(text, text)
	}
	return out, nil
}
