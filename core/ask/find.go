package ask

import (
	"errors"
	"fmt"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
)

// SelectorError is a fault in a selector, so many bytes into it.
type SelectorError struct {
	Selector, Msg string
	Offset        int
}

func (e *SelectorError) Error() string { return fmt.Sprintf("selector:1:%d: %s", e.Offset+1, e.Msg) }

func selector(text string) (*css.Selector, error) {
	sel, err := css.ParseSelector(text)
	var ce *css.Error
	if errors.As(err, &ce) {
		return nil, &SelectorError{text, ce.Msg, min(ce.Offset, len(text))}
	}
	return sel, err
}

// Elements lists the elements of a document that a selector means. What is no selector, or matches nothing, is taken
// for a name: named says so. The error is a *SelectorError where it is no name either.
func Elements(doc *design.Document, text string) (found []*design.Element, named bool, err error) {
	sel, err := selector(text)
	if err == nil {
		if found = doc.Query(sel); len(found) > 0 {
			return found, false, nil
		}
	}
	if found = doc.Named(text); len(found) > 0 {
		return found, true, nil
	}
	return nil, false, err
}

// Whole lists the screens whose root a selector means.
func Whole(doc *design.Document, text string) (out []*design.Screen, err error) {
	sel, err := selector(text)
	if err != nil {
		return nil, err
	}
	for _, s := range doc.Screens {
		if sel.Matches(s.Root.Node) {
			out = append(out, s)
		}
	}
	return out, nil
}

// Names are what elements are called in the kind of a text that was not found: ids as selectors, or names.
func Names(doc *design.Document, like string) (out []string) {
	for _, e := range doc.All() {
		switch {
		case strings.HasPrefix(like, "#") && e.ID != "":
			out = append(out, "#"+css.Ident(e.ID))
		case !strings.HasPrefix(like, "#") && e.Name != "":
			out = append(out, e.Name)
		}
	}
	return out
}
