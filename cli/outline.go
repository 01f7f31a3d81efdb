package cli

import (
	"fmt"
	"math"
	"strings"

	"archetyp/core/ask"
	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) outlineCmd() *cobra.Command {
	depth := 0
	find := ""
	var unnamed, same, shared bool
	var phases []string
	c := &cobra.Command{
		Use:   "outline SOURCE...",
		Short: "List screens and elements as a tree: name, kind, size, marks, what leads where",
		Long: long(`List the screens and elements of a design as a tree: name, kind, size in px, marks, and where
they lead. Long trees are folded. --find, --unnamed and --phase list only the elements they mean; --alike lists groups
that are the same thing drawn several times, marked or not, and what each instance does not share with the
others: in several sources, or without a SOURCE in all of the workspace.`),
		Example: example("archetyp outline design/timetable.svg", "archetyp outline design/booking.svg --find trip",
			"archetyp outline --alike"),
		Args: func(c *cobra.Command, args []string) error {
			if same || shared {
				return nil
			}
			return exactly("a SOURCE")(c, args)
		},
		RunE: func(_ *cobra.Command, args []string) error {
			if same {
				return a.alike(args)
			}
			if shared {
				return a.sharedUses()
			}
			doc, ws, err := a.source(args[0])
			if err != nil {
				return err
			}
			has := func(*design.Element) bool { return true }
			if len(phases) > 0 {
				if has, err = a.havingPhase(ws, doc, phases); err != nil {
					return err
				}
			}
			switch {
			case len(phases) > 0 || find != "" || unnamed:
				return a.printFound(doc, func(e *design.Element) bool {
					return has(e) && (find == "" || mentions(e, strings.ToLower(find))) && (!unnamed || e.Name == "" && e.Words == nil)
				})
			case a.json:
				return a.printJSON(outlineJSON(doc))
			}
			a.printOutline(doc, depth)
			return nil
		},
	}
	a.view.add(c)
	c.Flags().IntVar(&depth, "depth", 0, "show this many `LEVELS` (default: as many as fit)")
	c.Flags().StringVar(&find, "find", "", "list the elements whose name, words, id or marks hold `TEXT`")
	c.Flags().BoolVar(&unnamed, "unnamed", false, "list the elements without a name that means anything")
	c.Flags().StringSliceVar(&phases, "phase", nil, "list the elements that have one of these `PHASES`")
	c.Flags().BoolVar(&same, "alike", false, "list groups that look like instances of one component")
	c.Flags().BoolVar(&shared, "shared", false, "list the uses of components that libraries share, and what differs from them")
	c.MarkFlagsMutuallyExclusive("alike", "find")
	c.MarkFlagsMutuallyExclusive("alike", "shared")
	c.MarkFlagsMutuallyExclusive("alike", "unnamed")
	c.MarkFlagsMutuallyExclusive("alike", "phase")
	return c
}

// havingPhase says which elements of a document have one of some phases; those of a screen that has one do, too.
func (a *app) havingPhase(ws *workspace.Workspace, doc *design.Document, phases []string) (func(*design.Element) bool, error) {
	if ws == nil {
		return nil, hint.New("phases belong to a workspace", "\"archetyp init\" begins one.")
	}
	list, unread, err := job.Phases(a.ctx, ws, job.PhaseFilter{Phases: phases, Sources: []string{a.inWorkspace(ws, doc)}}, false)
	if err != nil {
		return nil, err
	}
	a.warnUnread(unread)
	have := map[string]bool{}
	for _, p := range list {
		if p.Element != nil {
			have[p.Element.Screen.Name+"\x00"+p.Element.Selector()] = true
		}
	}
	return func(e *design.Element) bool {
		return have[e.Screen.Name+"\x00"+e.Selector()] || have[e.Screen.Name+"\x00"+e.Screen.Root.Selector()]
	}, nil
}

// mentions reports whether an element's name, words, id or marks hold a text, given in lower case.
func mentions(e *design.Element, text string) bool {
	words := ""
	if e.Words != nil {
		words = e.Words.Words
	}
	for _, s := range append(e.Marks.Texts(), e.Name, words, e.ID) {
		if s != "" && strings.Contains(strings.ToLower(s), text) {
			return true
		}
	}
	return false
}

const mostFound = 40 // more elements of a list are folded

// printFound lists elements one a line, with where they are.
func (a *app) printFound(doc *design.Document, ok func(*design.Element) bool) error {
	var found []*design.Element
	for _, e := range doc.All() {
		if ok(e) {
			found = append(found, e)
		}
	}
	if a.json {
		out := []outlineElement{}
		for _, e := range found {
			out = append(out, outlineOf(e))
		}
		return a.printJSON(map[string]any{"source": doc.Name, "elements": out})
	}
	t := a.term
	var rows [][]string
	for i, e := range found {
		if i == mostFound && !a.verbose && len(found) > mostFound+1 {
			rows = append(rows, []string{t.dim(fmt.Sprintf("… %d more; --verbose shows them", len(found)-i))})
			break
		}
		g := e.Geometry.Value
		rows = append(rows, []string{e.Path, t.accent(string(e.Kind)), num(g.W) + " × " + num(g.H),
			t.dim(fmt.Sprintf("line %d", e.Position.Line)), t.dim(e.Selector()), markNote(e)})
	}
	if len(rows) == 0 {
		a.print("nothing found\n")
		return nil
	}
	a.print("%s", t.table(nil, rows, 2))
	return nil
}

const outlineLines = 60 // a longer tree is folded

func (a *app) printOutline(doc *design.Document, depth int) {
	t := a.term
	for _, s := range doc.Screens {
		d := depth
		if d <= 0 {
			d = fittingDepth(s, outlineLines)
		}
		a.print("%s  %s\n", t.bold(s.Name), t.dim(fmt.Sprintf("%s × %s px, %s", num(s.Box.W), num(s.Box.H),
			plural(len(s.Elements), "element", "elements"))))
		tree := &outlineTree{t: t}
		for i, c := range s.Root.Children {
			tree.add(c, "", i == len(s.Root.Children)-1, d)
		}
		rows, folded := tree.rows, tree.folded
		if len(rows) > 0 {
			a.print("%s", t.table(nil, rows, 2, 3))
		}
		if folded > 0 {
			a.print("%s\n", t.dim(fmt.Sprintf("%s folded; --depth %d shows more", plural(folded, "element", "elements"), d+1)))
		}
	}
}

// fittingDepth is the deepest level that keeps the tree within a number of lines.
func fittingDepth(s *design.Screen, lines int) int {
	counts := map[int]int{}
	deepest := 0
	var walk func(e *design.Element, d int)
	walk = func(e *design.Element, d int) {
		counts[d]++
		deepest = max(deepest, d)
		for _, c := range e.Children {
			walk(c, d+1)
		}
	}
	for _, c := range s.Root.Children {
		walk(c, 1)
	}
	sum := 0
	for d := 1; d <= deepest; d++ {
		if sum += counts[d]; sum > lines && d > 1 {
			return d - 1
		}
	}
	return max(deepest, 1)
}

// outlineTree is the rows of a tree of elements.
type outlineTree struct {
	t      *term
	rows   [][]string
	folded int // elements below what is shown
}

// add adds an element and so many levels below it; prefix are the branches it hangs on.
func (o *outlineTree) add(e *design.Element, prefix string, last bool, depth int) {
	t := o.t
	branch, next := "├─ ", "│  "
	if last {
		branch, next = "└─ ", "   "
	}
	name := e.Name
	if name == "" {
		name = t.dim("(unnamed)")
	}
	if e.Words != nil && e.Words.Words != "" && e.Words.Words != name {
		name += " " + t.dim(quoteShort(e.Words.Words, 32))
	}
	note := markNote(e)
	below := 0
	if depth <= 1 && len(e.Children) > 0 {
		e.Walk(func(*design.Element) { below++ })
		below--
		o.folded += below
		note = strings.TrimSpace(fmt.Sprintf("(%d inside) ", below) + note)
	}
	if e.Hidden {
		note = strings.TrimSpace("hidden " + note)
	}
	size, at := "", e.Shape // what a page read without a browser knows instead of boxes
	if g := e.Geometry.Value; e.Geometry.Set {
		size, at = num(g.W)+" × "+num(g.H), "at "+num(g.X)+", "+num(g.Y)
	}
	o.rows = append(o.rows, []string{t.dim(prefix+branch) + name, t.accent(string(e.Kind)), size, t.dim(at), t.accent(e.Selector()), note})
	if below > 0 {
		return
	}
	for i, c := range e.Children {
		o.add(c, prefix+next, i == len(e.Children)-1, depth-1)
	}
}

func quoteShort(s string, n int) string {
	s = strings.ReplaceAll(s, "\n", " ")
	if r := []rune(s); len(r) > n {
		s = strings.TrimSpace(string(r[:n-1])) + "…"
	}
	return "“" + s + "”"
}

func markNote(e *design.Element) string {
	m := e.Marks
	var parts []string
	if m.Component != "" {
		s := m.Component
		if m.Variant != "" {
			s += " " + m.Variant
		}
		if m.State != "" {
			s += " :" + m.State
		}
		parts = append(parts, s)
	}
	if m.Asset != "" {
		parts = append(parts, "asset "+m.Asset)
	}
	if m.Text != "" {
		parts = append(parts, "text "+m.Text)
	}
	if m.LeadsTo != "" {
		parts = append(parts, "→ "+m.LeadsTo)
	}
	return strings.Join(parts, ", ")
}

// num is a number with two decimals at most.
func num(v float64) string { return ask.Num(math.Round(v*100)/100, 2) }

type outlineElement struct {
	Name     string           `json:"name"`
	Kind     design.Kind      `json:"kind"`
	Selector string           `json:"selector"`
	Path     string           `json:"path"`
	Line     int              `json:"line"`
	Column   int              `json:"column"`
	Box      ask.Rect         `json:"box"`
	Hidden   bool             `json:"hidden,omitempty"`
	Words    string           `json:"words,omitempty"`
	Marks    design.Marks     `json:"marks"`
	Children []outlineElement `json:"children,omitempty"`
}

type outlineScreen struct {
	Name     string           `json:"name"`
	Width    float64          `json:"width"`
	Height   float64          `json:"height"`
	Elements []outlineElement `json:"elements"`
}

// outlineOf is an element without its children.
func outlineOf(e *design.Element) outlineElement {
	o := outlineElement{Name: e.Name, Kind: e.Kind, Selector: e.Selector(), Path: e.Path, Line: e.Position.Line,
		Column: e.Position.Column, Box: ask.Box(e), Hidden: e.Hidden, Marks: e.Marks}
	if e.Words != nil {
		o.Words = e.Words.Words
	}
	return o
}

func outlineJSON(doc *design.Document) any {
	var walk func(e *design.Element) outlineElement
	walk = func(e *design.Element) outlineElement {
		o := outlineOf(e)
		for _, c := range e.Children {
			o.Children = append(o.Children, walk(c))
		}
		return o
	}
	var screens []outlineScreen
	for _, s := range doc.Screens {
		o := outlineScreen{Name: s.Name, Width: s.Box.W, Height: s.Box.H, Elements: []outlineElement{}}
		for _, c := range s.Root.Children {
			o.Elements = append(o.Elements, walk(c))
		}
		screens = append(screens, o)
	}
	return map[string]any{"source": doc.Name, "screens": screens}
}
