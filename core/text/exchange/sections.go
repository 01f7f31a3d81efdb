package exchange

import (
	"bytes"
	"runtime"
	"strings"

	"archetyp/core/guard"
	"archetyp/core/markup"

	"golang.org/x/sync/errgroup"
)

// Large files are read in sections on all processors: cut between units, each section with the beginning and the end
// of the file around it. The result is that of reading the file as one.

const sectionSize = 256 << 10 // bytes

// section is a part of a file, parsed.
type section struct {
	root *markup.Node
	pos  func(offset int) markup.Position // in the file
}

// inSections parses a file and hands its sections to read, side by side; make first gets how many there are.
func inSections(data []byte, root, element string, o Options, make func(n int),
	read func(i int, s section) error) error {
	if head, cuts, tail := cut(data, element); len(cuts) > 1 {
		make(len(cuts))
		if (&parts{data, head, tail, cuts, root}).read(o, read) == nil {
			return nil
		}
		// something is wrong: reading the file as one says where
	}
	x, err := rooted(data, root)
	if err != nil {
		return err
	}
	make(1)
	return read(0, section{x.Root, x.Position})
}

// parts are the sections of a file: where its beginning ends, where its end begins, and the parts between.
type parts struct {
	data       []byte
	head, tail int
	cuts       [][2]int
	root       string // the name of the root element
}

func (p *parts) read(o Options, read func(i int, s section) error) error {
	data, head, tail := p.data, p.head, p.tail
	lines := markup.Lines(data)
	var g errgroup.Group
	g.SetLimit(runtime.NumCPU())
	for i, c := range p.cuts {
		g.Go(func() (err error) {
			defer guard.Catch(&err, "")
			part := append(append(append([]byte(nil), data[:head]...), data[c[0]:c[1]]...), data[tail:]...)
			if o.Words {
				blank(part, "<notes>", "</notes>")
				for _, group := range []string{"place", "limit", "tags"} {
					blank(part, `<mda:metaGroup category="`+group+`">`, "</mda:metaGroup>")
				}
			}
			x, err := rooted(part, p.root)
			if err != nil {
				return err
			}
			return read(i, section{x.Root, func(offset int) markup.Position { return lines.Position(offset - head + c[0]) }})
		})
	}
	return g.Wait()
}

// blank puts spaces in place of elements that nobody asks for, as we write them; all else stays where it was.
func blank(part []byte, open, end string) {
	for at := 0; ; {
		i := bytes.Index(part[at:], []byte(open))
		if i < 0 {
			return
		}
		j := bytes.Index(part[at+i:], []byte(end))
		if j < 0 {
			return
		}
		for k := at + i; k < at+i+j+len(end); k++ {
			if part[k] != '\n' {
				part[k] = ' '
			}
		}
		at += i + j + len(end)
	}
}

// cut finds where a file can be cut: after units that stand side by side. There are none in small files, in such as are
// not plain UTF-8, and where anything else than elements could be cut through.
func cut(data []byte, element string) (head int, cuts [][2]int, tail int) {
	if len(data) < 2*sectionSize || bytes.Contains(data, []byte("<!")) || bytes.Contains(data, []byte("<group")) ||
		data[0] >= 0x80 || data[0] == 0 {
		return 0, nil, 0
	}
	if decl := data[:min(len(data), 200)]; bytes.HasPrefix(decl, []byte("<?xml")) {
		decl = bytes.ToLower(decl[:bytes.IndexByte(decl, '>')+1])
		if bytes.Contains(decl, []byte("encoding")) && !bytes.Contains(decl, []byte("utf-8")) {
			return 0, nil, 0
		}
	}
	end := []byte("</" + element + ">")
	head = bytes.Index(data, []byte("<"+element+" "))
	tail = bytes.LastIndex(data, end) + len(end)
	if head < 0 || tail < head || head > sectionSize || len(data)-tail > sectionSize {
		return 0, nil, 0
	}
	for at := head; at < tail; {
		to := tail
		if at+sectionSize < tail {
			if k := bytes.Index(data[at+sectionSize:tail], end); k >= 0 {
				to = at + sectionSize + k + len(end)
			}
		}
		cuts = append(cuts, [2]int{at, to})
		at = to
	}
	return head, cuts, tail
}

// join puts the documents of sections together. Ids, by the line they stand in, may stand once only.
func join(parts []*Document, seen []map[string]int) (*Document, error) {
	out := parts[0]
	all := map[string]int{}
	for i, d := range parts {
		if i > 0 {
			out.Units = append(out.Units, d.Units...)
		}
		for id, line := range seen[i] {
			if before, ok := all[id]; ok {
				return nil, fault(max(line, before), 1, "the id %q stands twice: in line %d too; every text needs one of its own",
					strings.TrimPrefix(id, "name "), min(line, before))
			}
			all[id] = line
		}
	}
	return out, nil
}
