package guide

import (
	"bytes"
	"crypto/rand"
	"encoding/json"
	"html/template"
	"strings"

	"archetyp/core/digest"
)

// site is what all pages share.
type site struct {
	Name     string
	Edition  string // which one the guide is of; "" for none
	Sections []section
	Switches []switchModel
	Rem      float64 // px
	Alone    bool    // the pages have no guide around them, and no scripts
	key      string
}

// section is an entry of the side list, with the pages below it.
type section struct {
	link
	Items []link
	Count int // of the pages below it, which are too many to list
}

type link struct{ Title, Page string }

// mostListed is the most pages of a section that the side list of every page names. A larger section has only its own
// page there: a thousand screens would make a million links.
const mostListed = 40

// frame is what is around the content of a page.
type frame struct {
	*site
	link
	Kind       string // of the page: its template
	Prev, Next *link
	Scripts    []string
	Of         any // the content
}

// Root leads from the page to the folder of the guide.
func (f *frame) Root() string { return strings.Repeat("../", strings.Count(f.Page, "/")) }

// To is a link from the page to another.
func (f *frame) To(page string) string { return f.Root() + page }

// In reports whether a section is the one that the page is in.
func (f *frame) In(s section) bool {
	if s.Page == f.Page {
		return true
	}
	for _, l := range s.Items {
		if l.Page == f.Page {
			return true
		}
	}
	folder, _, inside := strings.Cut(f.Page, "/")
	return inside && folder+".html" == s.Page
}

// Path is where a page's data lies: its address without the ending.
func (f *frame) Path() string { return strings.TrimSuffix(f.Page, ".html") }

// builder makes the pages of a model.
type builder struct {
	*model
	site  *site
	tmpl  *template.Template
	pages []pageJob
	found []entry // for the search
	files []File

	byToken map[string]string // addresses of tokens
}

// pageJob is a page to be made.
type pageJob struct {
	link
	kind    string
	key     string // of what it shows beside the frame
	scripts []string
	content func() (any, error)
}

// page adds a page that stands by itself in the side list.
func (b *builder) page(j pageJob) {
	b.pages = append(b.pages, j)
	b.site.Sections = append(b.site.Sections, section{link: j.link})
}

// under adds pages below a section that is there.
func (b *builder) under(jobs []pageJob) {
	s := &b.site.Sections[len(b.site.Sections)-1]
	for _, j := range jobs {
		b.pages = append(b.pages, j)
		if len(jobs) <= mostListed {
			s.Items = append(s.Items, j.link)
		}
	}
	s.Count = len(jobs)
}

// shown is a page whose content is at hand.
func shown(title, page, kind string, content any, scripts ...string) pageJob {
	return pageJob{link: link{title, page}, kind: kind, key: sum(content), scripts: scripts,
		content: func() (any, error) { return content, nil }}
}

// sum is a sum of all that a value shows.
func sum(v any) string {
	text, err := json.Marshal(v)
	if err != nil {
		return rand.Text() // never equal to an earlier sum
	}
	return digest.Of(string(text))
}

// finish makes files of the pages, each with the ways to the one before and after it.
func (b *builder) finish() {
	b.site.key = sum(b.site.Sections) + sum(b.site.Switches) + b.site.Name + b.in.Key
	for i, j := range b.pages {
		f := &frame{site: b.site, link: j.link, Kind: j.kind, Scripts: j.scripts}
		around := ""
		if i > 0 {
			f.Prev = &b.pages[i-1].link
			around += sum(*f.Prev)
		}
		if i+1 < len(b.pages) {
			f.Next = &b.pages[i+1].link
			around += sum(*f.Next)
		}
		b.files = append(b.files, File{Path: j.Page, Key: digest.Of(b.site.key, around, j.Title, j.key),
			Make: func() ([]byte, error) {
				of, err := j.content()
				if err != nil {
					return nil, err
				}
				whole := *f
				whole.Of = of
				return execute(b.tmpl, j.kind+".html", &whole)
			}})
	}
	b.search()
}

func execute(tmpl *template.Template, name string, data any) ([]byte, error) {
	var b bytes.Buffer
	err := tmpl.ExecuteTemplate(&b, name, data)
	return b.Bytes(), err
}
