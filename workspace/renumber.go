package workspace

import (
	"bytes"
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// remoteEditions is where the editions of the remote are kept: a clone has its own until they are compared.
func (r *Repo) remoteEditions() string { return "refs/archetyp/" + r.Remote + "/" + editionTags }

// Renumbered is an edition that got another number, since somebody else had cut one under its own.
type Renumbered struct {
	Was, Is int
	Message string
}

// tagRefs are the objects of refs by what follows a prefix in their names.
func (r *Repo) tagRefs(prefix string) (map[string]string, error) {
	out, err := r.git("for-each-ref", "--format=%(objectname) %(refname)", prefix)
	if err != nil {
		return nil, err
	}
	refs := map[string]string{}
	for l := range strings.SplitSeq(strings.TrimSpace(string(out)), "\n") {
		if object, ref, ok := strings.Cut(l, " "); ok {
			refs[strings.TrimPrefix(ref, prefix)] = object
		}
	}
	return refs, nil
}

// SettleEditions takes over the editions of the remote. One of this clone whose number the remote has for another gets the
// next free number, with its message, who cut it and when.
func (r *Repo) SettleEditions() ([]Renumbered, error) {
	theirs, err := r.tagRefs(r.remoteEditions())
	if err != nil {
		return nil, err
	}
	ours, err := r.tagRefs("refs/tags/" + editionTags)
	if err != nil {
		return nil, err
	}
	last := 0
	for _, refs := range []map[string]string{theirs, ours} {
		for name := range refs {
			if n := number(name); n > last {
				last = n
			}
		}
	}
	var out []Renumbered
	var refs bytes.Buffer // all of them change together
	names := sorted(theirs)
	slices.SortFunc(names, func(a, b string) int { return number(a) - number(b) })
	for _, name := range names {
		if number(name) == 0 || ours[name] == theirs[name] {
			continue
		}
		if own := ours[name]; own != "" {
			last++
			object, message, err := r.retag(own, last)
			if err != nil {
				return nil, err
			}
			fmt.Fprintf(&refs, "create refs/tags/%s %s\n", EditionTag(last), object)
			out = append(out, Renumbered{number(name), last, message})
		}
		verb, was := "update", " "+ours[name]
		if ours[name] == "" {
			verb, was = "create", ""
		}
		fmt.Fprintf(&refs, "%s refs/tags/%s%s %s%s\n", verb, editionTags, name, theirs[name], was)
	}
	if refs.Len() > 0 {
		err = r.w.locking(func() error {
			_, err := r.feed(nil, refs.Bytes(), "update-ref", "--stdin")
			return err
		})
	}
	return out, err
}

// number is the number of an edition by its tag's last part; 0 for none.
func number(name string) int {
	if m := editionName.FindStringSubmatch(name); m != nil && m[1] == name {
		n, _ := strconv.Atoi(name)
		return n
	}
	return 0
}

// retag makes a tag object under another name, with everything else in it.
func (r *Repo) retag(object string, n int) (made, message string, err error) {
	data, err := r.git("cat-file", "tag", object)
	if err != nil {
		return "", "", err
	}
	head, body, _ := strings.Cut(string(data), "\n\n")
	lines := strings.Split(head, "\n")
	for i, l := range lines {
		if strings.HasPrefix(l, "tag ") {
			lines[i] = "tag " + EditionTag(n)
		}
	}
	out, err := r.feed(nil, []byte(strings.Join(lines, "\n")+"\n\n"+body), "mktag")
	if err != nil {
		return "", "", err
	}
	var e Edition
	e.readMessage(body)
	return strings.TrimSpace(string(out)), e.Message, nil
}

// NewEditions are the numbers of the editions that the remote lacks.
func (r *Repo) NewEditions() ([]int, error) {
	theirs, err := r.tagRefs(r.remoteEditions())
	if err != nil {
		return nil, err
	}
	ours, err := r.tagRefs("refs/tags/" + editionTags)
	if err != nil {
		return nil, err
	}
	var out []int
	for name, object := range ours {
		if n := number(name); n > 0 && theirs[name] != object {
			out = append(out, n)
		}
	}
	slices.Sort(out)
	return out, nil
}
