package cli

import (
	"fmt"
	"net/url"
	"path"
	"strings"

	"archetyp/core/design"
)

// pagePictures lists the pictures, icons and fonts that a page uses.
func (a *app) pagePictures(doc *design.Document) error {
	list := doc.Styles.Pictures()
	if a.json {
		return a.printJSON(map[string]any{"source": doc.Name, "pictures": full(list)})
	}
	if len(list) == 0 {
		a.say("the page uses no picture, icon or font\n")
		return nil
	}
	var rows [][]string
	for i, u := range list {
		if i == most && !a.verbose {
			break
		}
		own := u.Format
		if u.Width > 0 {
			own += fmt.Sprintf(" %s × %s px", num(u.Width), num(u.Height))
		}
		if u.Missing != "" {
			own = a.term.warn("missing")
		}
		shown := u.Asks
		if u.Shown > 0 {
			shown = strings.TrimSpace(fmt.Sprintf("%s %s px wide", shown, num(u.Shown)))
		}
		if u.Density > 0 {
			shown += fmt.Sprintf(", %sx", num(u.Density))
		}
		rows = append(rows, []string{u.Kind, pictureName(&u), own, shown, short(u.By, 36), a.term.dim(placeText(u.Place))})
	}
	a.print("%s", a.term.table([]string{"kind", "what", "its own", "asked for", "by", "where"}, rows))
	if more := len(list) - len(rows); more > 0 {
		a.print("%s\n", a.term.dim(fmt.Sprintf("… and %d more; --verbose lists all", more)))
	}
	return nil
}

// pictureName is the last part of an address.
func pictureName(u *design.PagePicture) string {
	switch {
	case u.Address == "":
		return "in the page"
	case strings.HasPrefix(u.Address, "data:"):
		head, _, _ := strings.Cut(u.Address, ",")
		return short(head, 30)
	}
	if at, err := url.Parse(u.Address); err == nil && at.Path != "" {
		return short(path.Base(at.Path), 40)
	}
	return short(u.Address, 40)
}
