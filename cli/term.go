package cli

import (
	"fmt"
	"io"
	"os"
	"slices"
	"strings"

	"archetyp/core/color"

	"github.com/charmbracelet/lipgloss"
	"github.com/charmbracelet/x/ansi"
	"github.com/muesli/termenv"
	xterm "golang.org/x/term"
)

// term prints with colour where the terminal has it.
type term struct {
	r       *lipgloss.Renderer
	colour  bool
	columns int // width of the terminal; 0 where there is none
}

func newTerm(w io.Writer, when string) *term {
	t := &term{r: lipgloss.NewRenderer(w)}
	file, isFile := w.(*os.File)
	isTerm := isFile && xterm.IsTerminal(int(file.Fd()))
	if isTerm {
		if c, _, err := xterm.GetSize(int(file.Fd())); err == nil {
			t.columns = c
		}
	}
	switch {
	case when == "always":
		t.r.SetColorProfile(termenv.TrueColor)
		t.colour = true
	case when == "never" || os.Getenv("NO_COLOR") != "" || !isTerm:
		t.r.SetColorProfile(termenv.Ascii)
	default:
		t.colour = t.r.ColorProfile() != termenv.Ascii
	}
	return t
}

func (t *term) style(fg string, bold bool) func(string) string {
	s := t.r.NewStyle().Bold(bold)
	if fg != "" {
		s = s.Foreground(lipgloss.Color(fg))
	}
	return func(text string) string {
		if !t.colour {
			return text
		}
		return marked(s.Render(visible(text, false)))
	}
}

// marked puts our mark in place of the escape character; the printer puts it back.
func marked(s string) string { return strings.ReplaceAll(s, "\x1b", colourMark) }

func (t *term) bold(s string) string   { return t.style("", true)(s) }
func (t *term) dim(s string) string    { return t.style("245", false)(s) }
func (t *term) accent(s string) string { return t.style("37", false)(s) }
func (t *term) bad(s string) string    { return t.style("203", true)(s) }
func (t *term) warn(s string) string   { return t.style("214", false)(s) }
func (t *term) good(s string) string   { return t.style("78", false)(s) }

// swatch is a small field of a colour, translucent ones over white; nothing without colour.
func (t *term) swatch(c color.Color) string {
	if !t.colour {
		return ""
	}
	return marked(t.r.NewStyle().Background(lipgloss.Color(c.Over(color.White).Hex())).Render("  ")) + " "
}

// swatchOf is the swatch of a CSS value that is a colour.
func (t *term) swatchOf(value string) string {
	c, err := color.Parse(value)
	if err != nil {
		return ""
	}
	return t.swatch(c)
}

// table aligns rows; numeric columns (by index) to the right.
func (t *term) table(header []string, rows [][]string, right ...int) block {
	if header != nil {
		dim := make([]string, len(header))
		for i, h := range header {
			dim[i] = t.dim(h)
		}
		rows = append([][]string{dim}, rows...)
	}
	var width []int
	for k, r := range rows {
		rows[k] = make([]string, len(r))
		for i, cell := range r {
			cell = visible(cell, false)
			rows[k][i] = cell
			if i == len(width) {
				width = append(width, 0)
			}
			width[i] = max(width[i], lipgloss.Width(cell))
		}
	}
	var out strings.Builder
	for _, r := range rows {
		var line strings.Builder
		for i, cell := range r {
			pad := strings.Repeat(" ", width[i]-lipgloss.Width(cell))
			if slices.Contains(right, i) {
				cell = pad + cell
			} else {
				cell += pad
			}
			line.WriteString(cell + "  ")
		}
		text := strings.TrimRight(line.String(), " ")
		if t.columns > 20 && lipgloss.Width(text) > t.columns { // what stands last matters least
			text = ansi.Truncate(text, t.columns-1, "…")
		}
		out.WriteString(text + "\n")
	}
	return block(out.String())
}

// plural is "1 token", "3 tokens".
func plural(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, many)
}
