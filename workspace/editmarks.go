package workspace

import (
	"bytes"
	"fmt"
	"slices"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/quoting"

	"github.com/goccy/go-yaml"
	"github.com/goccy/go-yaml/ast"
	"github.com/goccy/go-yaml/parser"
)

// MarkEdit gives the elements of a selector marks, or takes them away.
type MarkEdit struct {
	Select string
	Marks  [][2]string // key and value, as the configuration has them; of marks that go, the key alone
}

// AddMarks writes marks into a configuration, every other byte kept: behind those there are. A selector that stands there
// already on one line gets them beside its own.
func AddMarks(config []byte, list []MarkEdit) ([]byte, error) {
	for _, m := range list {
		at, err := markList(config)
		if err != nil {
			return nil, err
		}
		if i := at.item(m.Select); i >= 0 {
			have := slices.Clone(at.items[i].marks)
			for _, k := range m.Marks {
				have = slices.DeleteFunc(have, func(o [2]string) bool { return o[0] == k[0] })
			}
			config = at.replace(i, markLine(at.indent, m.Select, append(have, m.Marks...)))
			continue
		}
		config = at.insert(markLine(at.indent, m.Select, m.Marks))
	}
	return config, checked(config)
}

// RemoveMarks takes marks of selectors out of a configuration, and a selector that has none left.
func RemoveMarks(config []byte, list []MarkEdit) (out []byte, removed int, err error) {
	for _, m := range list {
		at, err := markList(config)
		if err != nil {
			return nil, 0, err
		}
		for i := len(at.items) - 1; i >= 0; i-- {
			if at.items[i].selector != m.Select {
				continue
			}
			if !at.items[i].plain {
				return nil, 0, hint.New(fmt.Sprintf("%s:%d: the marks of %s are written in several lines", ConfigName, at.items[i].line+1, m.Select), "Take them out by hand.")
			}
			rest := slices.DeleteFunc(slices.Clone(at.items[i].marks), func(o [2]string) bool {
				return len(m.Marks) == 0 || slices.ContainsFunc(m.Marks, func(k [2]string) bool { return k[0] == o[0] })
			})
			if len(rest) == len(at.items[i].marks) {
				continue
			}
			removed += len(at.items[i].marks) - len(rest)
			line := ""
			if len(rest) > 0 {
				line = markLine(at.indent, m.Select, rest)
			}
			config = at.replace(i, line)
			if at, err = markList(config); err != nil {
				return nil, 0, err
			}
		}
	}
	return config, removed, checked(config)
}

func checked(config []byte) error {
	if _, err := ParseConfig(config, ConfigName); err != nil {
		return fmt.Errorf("the marks cannot be written: %w", err)
	}
	return nil
}

// markLine is an item of the list of marks.
func markLine(indent, selector string, marks [][2]string) string {
	parts := []string{"select: " + quoting.JSON(selector)}
	for _, m := range marks {
		parts = append(parts, m[0]+": "+quoting.JSON(m[1]))
	}
	return indent + "- {" + strings.Join(parts, ", ") + "}"
}

// marksAt is where the list of marks stands in a configuration.
type marksAt struct {
	lines  [][]byte // with their ends
	key    int      // line of "marks:"; −1 for none
	end    int      // line behind the list
	indent string
	items  []markItem
}

// markItem is an item of the list.
type markItem struct {
	line     int
	selector string
	marks    [][2]string
	plain    bool // one line that says all of it, and texts alone
}

func markList(config []byte) (*marksAt, error) {
	at := &marksAt{lines: bytes.SplitAfter(config, []byte("\n")), key: -1, indent: "  "}
	if n := len(at.lines); n > 0 && len(at.lines[n-1]) == 0 {
		at.lines = at.lines[:n-1]
	}
	file, err := parser.ParseBytes(config, 0)
	if err != nil {
		return nil, YAMLError(err, ConfigName)
	}
	path, err := yaml.PathString("$.marks")
	if err != nil {
		return nil, err
	}
	for i, l := range at.lines {
		if bytes.HasPrefix(l, []byte("marks:")) {
			at.key = i
		}
	}
	node, err := path.FilterFile(file)
	if err != nil || node == nil || at.key < 0 {
		at.end = len(at.lines)
		return at, nil
	}
	list, ok := node.(*ast.SequenceNode)
	switch {
	case node.Type() == ast.NullType:
		at.end = at.key + 1
		return at, nil
	case !ok || list.IsFlowStyle:
		return nil, &FileError{File: ConfigName, Msg: "marks: is no list of lines, and is not edited", Hint: "Write each of its items on a line of its own, after a hyphen."}
	}
	at.end = at.key + 1
	for i := at.key + 1; i < len(at.lines); i++ {
		l := bytes.TrimRight(at.lines[i], " \t\r\n")
		trimmed := bytes.TrimLeft(l, " \t")
		if len(trimmed) == 0 || trimmed[0] == '#' {
			continue
		}
		if l[0] != ' ' && l[0] != '-' {
			break
		}
		at.end = i + 1
	}
	for _, v := range list.Values {
		item := markItem{line: v.GetToken().Position.Line - 1}
		var pairs []*ast.MappingValueNode
		if m, ok := v.(*ast.MappingNode); ok {
			pairs, item.plain = m.Values, m.IsFlowStyle
		}
		for _, p := range pairs {
			s, text := p.Value.(*ast.StringNode)
			if !text {
				item.plain = false
				continue
			}
			if key := p.Key.String(); key == "select" {
				item.selector = s.Value
			} else {
				item.marks = append(item.marks, [2]string{key, s.Value})
			}
		}
		if item.line < 0 || item.line >= len(at.lines) {
			continue
		}
		l := string(at.lines[item.line])
		trimmed := strings.TrimSpace(l)
		item.plain = item.plain && strings.HasPrefix(trimmed, "- {") && strings.HasSuffix(trimmed, "}")
		at.indent = l[:len(l)-len(strings.TrimLeft(l, " \t"))]
		at.items = append(at.items, item)
	}
	return at, nil
}

// item is the place of the last item of a selector that can be edited; −1 for none.
func (m *marksAt) item(selector string) int {
	for i := len(m.items) - 1; i >= 0; i-- {
		if m.items[i].selector == selector && m.items[i].plain {
			return i
		}
	}
	return -1
}

// replace puts another line in the place of an item; "" takes it out.
func (m *marksAt) replace(i int, line string) []byte {
	at := m.items[i].line
	old := m.lines[at]
	ending := string(old[len(bytes.TrimRight(old, "\r\n")):])
	lines := slices.Clone(m.lines)
	if line == "" {
		lines = slices.Delete(lines, at, at+1)
	} else {
		lines[at] = []byte(line + ending)
	}
	return bytes.Join(lines, nil)
}

// insert puts a line behind the list, which it begins where there is none.
func (m *marksAt) insert(line string) []byte {
	ending := "\n"
	if len(m.lines) > 0 && bytes.HasSuffix(m.lines[0], []byte("\r\n")) {
		ending = "\r\n"
	}
	lines := slices.Clone(m.lines)
	if n := len(lines); n > 0 && !bytes.HasSuffix(lines[n-1], []byte("\n")) {
		lines[n-1] = append(slices.Clone(lines[n-1]), ending...)
	}
	add := line + ending
	if m.key < 0 {
		add = "marks:" + ending + add
	}
	return bytes.Join(slices.Insert(lines, m.end, []byte(add)), nil)
}
