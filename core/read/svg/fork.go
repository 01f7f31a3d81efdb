package svg

import (
	"runtime"
	"sync"

	"archetyp/core/design"
	"archetyp/core/guard"
	"archetyp/core/markup"
)

// forkBytes is how much markup a node holds before its children are read side by side.
const forkBytes = 128 << 10

// children reads what lies inside a node, in order; a lot of it on several processors. Each worker has caches of its
// own and hands over what it read by index, so that the result is the same as that of one.
func (b *builder) children(n *markup.Node, c context) {
	all := n.Elements()
	if n.End-n.Offset < forkBytes || len(all) < 2 || runtime.GOMAXPROCS(0) < 2 {
		for _, k := range all {
			b.element(k, c)
		}
		return
	}
	parts := share(all, 2*runtime.GOMAXPROCS(0))
	workers := make([]*builder, len(parts))
	holders := make([]*design.Element, len(parts))
	sheets := make([]*design.PaintNode, len(parts))
	var wg sync.WaitGroup
	var faults guard.Carrier
	for i, part := range parts {
		w, inner := b.fork(), c
		holders[i], sheets[i], workers[i] = &design.Element{Screen: c.screen}, &design.PaintNode{}, w
		inner.parent, inner.paint = holders[i], sheets[i]
		wg.Add(1)
		go func() {
			defer wg.Done()
			defer faults.Guard()
			for _, k := range part {
				w.element(k, inner)
			}
		}()
	}
	wg.Wait()
	faults.Raise()
	for i, w := range workers {
		b.join(w)
		for _, e := range holders[i].Children {
			e.Parent = c.parent
		}
		c.parent.Children = append(c.parent.Children, holders[i].Children...)
		c.paint.Children = append(c.paint.Children, sheets[i].Children...)
	}
}

// share cuts a list of nodes into parts of about as much markup each.
func share(all []*markup.Node, parts int) [][]*markup.Node {
	each := (all[len(all)-1].End - all[0].Offset) / parts
	var out [][]*markup.Node
	from := 0
	for i, n := range all {
		if n.End-all[from].Offset >= each || i == len(all)-1 {
			out = append(out, all[from:i+1])
			from = i + 1
		}
	}
	return out
}

// fork is a builder that can work beside b: what both only read is shared, the rest is its own.
func (b *builder) fork() *builder {
	w := *b
	w.doc = &design.Document{Name: b.doc.Name, Format: b.doc.Format, Markup: b.doc.Markup}
	w.styles, w.grads = map[*markup.Node]*style{}, map[*markup.Node]*gradientDef{}
	w.warned, w.fonts = map[string]bool{}, map[design.FontUse]bool{}
	w.shaper = b.shaper.Fork()
	w.casts = nil
	w.using = append([]*markup.Node(nil), b.using...)
	return &w
}

// join takes over what a worker noted on its way.
func (b *builder) join(w *builder) {
	for _, note := range w.doc.Warnings {
		b.note(note)
	}
	for _, f := range w.doc.Fonts {
		b.useFont(f)
	}
	for e, s := range w.casts {
		b.cast(e, s)
	}
	if b.failed == nil {
		b.failed = w.failed
	}
}
