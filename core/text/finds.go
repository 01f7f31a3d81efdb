package text

import (
	"archetyp/core/geom"
	"archetyp/core/packed"
)

// MarshalBinary writes what was found for this program to read back.
func (f *Finds) MarshalBinary() ([]byte, error) {
	var w packed.Writer
	w.String(f.name)
	w.Strings(f.screens)
	w.Int(len(f.all))
	for _, t := range f.all {
		for _, s := range []string{t.words, t.said, t.message, t.mark, t.meaning, t.skip, t.name} {
			w.String(s)
		}
		writePlace(&w, &t.place)
	}
	return w.Bytes(), nil
}

// UnmarshalBinary reads back what MarshalBinary wrote.
func (f *Finds) UnmarshalBinary(data []byte) error {
	r := packed.NewReader(data)
	*f = Finds{name: r.String(), screens: r.Strings()}
	all := make([]found, r.Len())
	f.all = make([]*found, len(all))
	for i := range all {
		t := &all[i]
		for _, s := range []*string{&t.words, &t.said, &t.message, &t.mark, &t.meaning, &t.skip, &t.name} {
			*s = r.String()
		}
		readPlace(r, &t.place)
		t.event = eventAt(&t.place, t.said)
		f.all[i] = t
	}
	return r.Err()
}

// eventAt is what happens to a text, as far as it is known when it is found.
func eventAt(p *Place, said string) Event {
	return Event{Words: said, Source: p.Source, Place: p.Screen + ": " + p.Element}
}

func (p *Place) words() []*string {
	return []*string{&p.Source, &p.Screen, &p.Element, &p.Selector, &p.Attribute, &p.ID, &p.Component, &p.Said}
}

func writePlace(w *packed.Writer, p *Place) {
	for _, s := range p.words() {
		w.String(*s)
	}
	for _, v := range []float64{p.Box.X, p.Box.Y, p.Box.W, p.Box.H} {
		w.Float(v)
	}
	w.Bool(p.Font != nil)
	if p.Font != nil {
		writeFont(w, p.Font)
	}
	w.Bool(p.Room != nil)
	if r := p.Room; r != nil {
		for _, v := range []float64{r.X, r.Width, r.Height, r.Taken} {
			w.Float(v)
		}
		w.Int(r.Lines)
		w.String(r.Align)
		w.String(r.By)
	}
	w.Strings(p.More)
	w.Int(len(p.Inline))
	for i := range p.Inline {
		w.String(p.Inline[i].Name)
		writeFont(w, &p.Inline[i].Font)
	}
}

func readPlace(r *packed.Reader, p *Place) {
	for _, s := range p.words() {
		*s = r.String()
	}
	p.Box = geom.Rect{X: r.Float(), Y: r.Float(), W: r.Float(), H: r.Float()}
	if r.Bool() {
		p.Font = &Font{}
		readFont(r, p.Font)
	}
	if r.Bool() {
		p.Room = &Room{X: r.Float(), Width: r.Float(), Height: r.Float(), Taken: r.Float(), Lines: r.Int(), Align: r.String(),
			By: r.String()}
	}
	p.More = r.Strings()
	if n := r.Len(); n > 0 {
		p.Inline = make([]InlineFont, n)
		for i := range p.Inline {
			p.Inline[i].Name = r.String()
			readFont(r, &p.Inline[i].Font)
		}
	}
}

func writeFont(w *packed.Writer, f *Font) {
	w.String(f.Family)
	w.String(f.Case)
	for _, v := range []float64{f.Size, f.Spacing, f.Line} {
		w.Float(v)
	}
	w.Int(f.Weight)
	w.Bool(f.Italic)
}

func readFont(r *packed.Reader, f *Font) {
	*f = Font{Family: r.String(), Case: r.String(), Size: r.Float(), Spacing: r.Float(), Line: r.Float(), Weight: r.Int(),
		Italic: r.Bool()}
}
