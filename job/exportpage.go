package job

import (
	"fmt"
	"path"
	"strconv"
	"strings"

	"archetyp/core/asset"
	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/core/markup"
	"archetyp/workspace"
)

// PagePictures are the pictures, icons and fonts of a page, or those that stand in elements of it. One that is marked
// as an asset has that name.
func PagePictures(doc *design.Document, within []*design.Element) []design.PagePicture {
	marked := map[*markup.Node]string{}
	for _, s := range doc.Screens {
		for _, e := range s.Elements {
			if e.Node != nil && asset.ValidName(e.Marks.Asset) {
				marked[e.Node] = e.Marks.Asset
			}
		}
	}
	inside := map[*markup.Node]bool{}
	for _, e := range within {
		if e.Node != nil {
			inside[e.Node] = true
		}
	}
	var out []design.PagePicture
	for _, u := range doc.Styles.Pictures() {
		if name := marked[u.Node]; name != "" {
			u.Name = name
		}
		chosen := len(within) == 0
		for n := u.Node; n != nil && !chosen; n = n.Parent {
			chosen = inside[n]
		}
		if chosen {
			out = append(out, u)
		}
	}
	return out
}

// PageFiles are the files of pictures of a page: each as it came, once, and where drawn is set, what the set makes of
// drawings. A bitmap stays as it is, since it has no more pixels than it has; the notes say which density that is.
func (x *Export) PageFiles(pictures []design.PagePicture, drawn bool) (list []Exported, notes []string, err error) {
	taken := map[string]int{}
	seen := map[string]bool{}
	var cuts []Cut
	for i := range pictures {
		u := &pictures[i]
		if u.Missing != "" {
			notes = append(notes, u.Name+" is missing: "+u.Missing)
			continue
		}
		if len(u.Data) == 0 || seen[string(u.Data)] {
			continue
		}
		seen[string(u.Data)] = true
		name := u.Name
		if taken[name]++; taken[name] > 1 {
			name += "-" + strconv.Itoa(taken[u.Name])
		}
		if drawn && u.Format == "svg" {
			doc, err := workspace.ParseDrawing(u.Data, workspace.Drawing{Shown: name + ".svg"})
			if err != nil {
				notes = append(notes, fmt.Sprintf("%s cannot be drawn: %v", name, err))
				continue
			}
			one, err := CutsOf(doc, []*design.Element{doc.Screens[0].Root}, name)
			if err != nil {
				notes = append(notes, name+" paints nothing")
				continue
			}
			cuts = append(cuts, one...)
			continue
		}
		if drawn && u.Width > 0 {
			note := fmt.Sprintf("%s stays as it is: it has %s × %s px", name, strconv.FormatFloat(u.Width, 'f', -1, 64), strconv.FormatFloat(u.Height, 'f', -1, 64))
			if u.Density > 0 {
				note += fmt.Sprintf(", which is %sx", strconv.FormatFloat(u.Density, 'f', -1, 64))
			}
			notes = append(notes, note)
		}
		list = append(list, Exported{File: path.Join(x.Folder, name+pictureExtension(u)), Asset: name, Format: u.Format,
			Width: int(u.Width), Height: int(u.Height), Density: u.Density, Bytes: len(u.Data), Data: u.Data})
	}
	if len(cuts) > 0 {
		made, more, err := x.Files(cuts)
		if err != nil {
			return nil, nil, err
		}
		list, notes = append(list, made...), append(notes, more...)
	}
	if len(list) == 0 {
		return nil, nil, hint.New(x.of("")+"it uses no picture, icon or font that could be read", "\"archetyp assets list "+x.Of+"\" says what it asks for.")
	}
	return list, notes, nil
}

// pictureExtension is the extension of a picture's file: by its format, else as in its address.
func pictureExtension(u *design.PagePicture) string {
	switch u.Format {
	case "":
		if ext := path.Ext(u.Address); len(ext) > 1 && len(ext) <= 6 && !strings.ContainsAny(ext, "/?#;,") {
			return strings.ToLower(ext)
		}
		return ".bin"
	case "jpeg":
		return ".jpg"
	}
	return "." + u.Format
}
