package cli

import (
	"fmt"
	"path"
	"sort"
	"strings"
)

// most lines of a list are shown before it is folded.
const most = 24

// fileLine stands for one file, or for all of a folder.
type fileLine struct {
	path  string // of a folder, with a / behind it
	files int
}

// foldFiles sums files up by folder: those with more than four files, and as many levels as it takes to come to few
// lines.
func foldFiles(files []string) []fileLine {
	depth := 1
	for _, f := range files {
		depth = max(depth, strings.Count(f, "/"))
	}
	for ; ; depth-- {
		if lines := foldAt(files, depth); len(lines) <= most || depth <= 1 {
			return lines
		}
	}
}

// foldAt sums up what lies deeper than so many folders, and folders with more than four files.
func foldAt(files []string, depth int) []fileLine {
	by := map[string][]string{}
	for _, f := range files {
		dir := path.Dir(f)
		if parts := strings.Split(dir, "/"); len(parts) > depth {
			dir = strings.Join(parts[:depth], "/")
		}
		by[dir] = append(by[dir], f)
	}
	var lines []fileLine
	for dir, in := range by {
		if len(in) > 4 {
			lines = append(lines, fileLine{dir + "/", len(in)})
			continue
		}
		for _, f := range in {
			lines = append(lines, fileLine{f, 1})
		}
	}
	sort.Slice(lines, func(i, j int) bool { return lines[i].path < lines[j].path })
	return lines
}

// printFiles reports what happened to files, summed up by folder unless --verbose.
func (a *app) printFiles(what string, files []string) {
	if a.verbose {
		for _, f := range files {
			a.print("%s %s\n", what, f)
		}
		return
	}
	for _, l := range foldFiles(files) {
		if l.files > 1 {
			a.print("%s %s %s\n", what, l.path, a.term.dim(fmt.Sprintf("(%d files)", l.files)))
			continue
		}
		a.print("%s %s\n", what, l.path)
	}
}

// remarks are warnings or notes that are printed at the end, so that they do not stand before what was asked for.
type remarks struct {
	what string // warning, note
	list []string
	all  bool
}

// remark keeps warnings or notes on what was read for the end: the first few, unless --verbose.
func (a *app) remark(what string, list []string) {
	a.later = append(a.later, remarks{what, list, false})
}

// remarkAll keeps warnings of what is lost for the end, all of them.
func (a *app) remarkAll(what string, list []string) {
	a.later = append(a.later, remarks{what, list, true})
}

// printRemarks prints what was kept for the end, each line once.
func (a *app) printRemarks() {
	const few = 8
	said := map[string]bool{}
	for _, r := range a.later {
		var list []string
		for _, s := range r.list {
			if !said[s] || s == "" {
				said[s] = true
				list = append(list, s)
			}
		}
		more := len(list) - few
		if r.all || more <= 1 || a.verbose {
			more = 0
		}
		for _, s := range list[:len(list)-more] {
			a.say("%s %s\n", newTerm(a.err, a.color).warn(r.what), s)
		}
		if more > 0 {
			a.say("        … and %d more; --verbose prints all\n", more)
		}
	}
	a.later = nil
}
