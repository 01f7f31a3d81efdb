package browser

import (
	"strings"

	"github.com/chromedp/cdproto/domsnapshot"
)

// rawElements are those whose contents the snapshot of a page takes as text, or not at all.
var rawElements = map[string]bool{"script": true, "style": true, "xmp": true, "iframe": true, "noembed": true, "noframes": true, "plaintext": true, "template": true}

// parts are the pseudo-elements ::before and ::after of the page that have a box. No script can ask for these boxes; the
// browser's own snapshot of the document has them. Its elements are in the same order as those that s has numbered.
func (b *Browser) parts(s *Snapshot) ([]Part, error) {
	shot, err := ask(b, domsnapshot.CaptureSnapshot, domsnapshot.CaptureSnapshotParams{ComputedStyles: []string{}})
	if err != nil || len(shot.Documents) == 0 {
		return nil, err
	}
	t := &tree{shot: shot, nodes: shot.Documents[0].Nodes, names: s.Names, boxes: map[int]domsnapshot.Rectangle{}}
	layout := shot.Documents[0].Layout
	for i, n := range layout.NodeIndex {
		if _, seen := t.boxes[int(n)]; !seen && i < len(layout.Bounds) && len(layout.Bounds[i]) == 4 { // its own, before that of its words
			t.boxes[int(n)] = layout.Bounds[i]
		}
	}
	return t.walk(), nil
}

// tree is a snapshot of the browser's as a tree.
type tree struct {
	shot     domsnapshot.CaptureSnapshotResult
	nodes    *domsnapshot.NodeTreeSnapshot
	names    []string // of the elements that are numbered, in order
	boxes    map[int]domsnapshot.Rectangle
	children map[int][]int
	pseudo   map[int]string // before or after, by node
	shadow   map[int]string // the kind of a shadow root, by node
	next     int            // the number of the next element
	lost     bool           // the page changed between the two readings
	out      []Part
}

const (
	elementNode  = 1
	fragmentNode = 11
)

func (t *tree) walk() []Part {
	t.children, t.pseudo, t.shadow = map[int][]int{}, map[int]string{}, map[int]string{}
	for i, p := range t.nodes.ParentIndex {
		t.children[int(p)] = append(t.children[int(p)], i)
	}
	t.pseudo, t.shadow = t.rare(t.nodes.PseudoType), t.rare(t.nodes.ShadowRootType)
	for i, kind := range t.nodes.NodeType {
		if kind == elementNode && t.pseudo[i] == "" && strings.EqualFold(t.name(i), "html") {
			t.element(i)
			break
		}
	}
	if t.lost || t.next != len(t.names) {
		return nil
	}
	return t.out
}

// rare are the values that a few nodes have.
func (t *tree) rare(r *domsnapshot.RareStringData) map[int]string {
	out := map[int]string{}
	if r == nil {
		return out
	}
	for i, n := range r.Index {
		if i < len(r.Value) {
			out[int(n)] = t.text(r.Value[i])
		}
	}
	return out
}

func (t *tree) text(i domsnapshot.StringIndex) string {
	if i < 0 || int(i) >= len(t.shot.Strings) {
		return ""
	}
	return t.shot.Strings[i]
}

func (t *tree) name(i int) string { return t.text(t.nodes.NodeName[i]) }

func (t *tree) element(i int) {
	n := t.next
	t.next++
	if t.lost = t.lost || n >= len(t.names) || !strings.EqualFold(t.names[n], local(t.name(i))); t.lost {
		return
	}
	for _, c := range t.children[i] {
		if name := t.pseudo[c]; name == "before" || name == "after" {
			if box, ok := t.boxes[c]; ok {
				t.out = append(t.out, Part{Of: n, Name: name, Box: [4]float64(box)})
			}
		}
	}
	if rawElements[strings.ToLower(t.name(i))] {
		return
	}
	for _, c := range t.children[i] {
		if t.nodes.NodeType[c] == fragmentNode && t.shadowKind(c) == "open" {
			t.elements(c)
		}
	}
	t.elements(i)
}

// shadowKind is the kind of a shadow root, which the snapshot says of what stands in it.
func (t *tree) shadowKind(root int) string {
	if kind := t.shadow[root]; kind != "" {
		return kind
	}
	for _, c := range t.children[root] {
		if kind := t.shadow[c]; kind != "" {
			return kind
		}
	}
	return ""
}

func (t *tree) elements(i int) {
	for _, c := range t.children[i] {
		if t.nodes.NodeType[c] == elementNode && t.pseudo[c] == "" {
			t.element(c)
		}
	}
}

// local is a name without its prefix.
func local(name string) string {
	if _, rest, ok := strings.Cut(name, ":"); ok {
		return rest
	}
	return name
}
