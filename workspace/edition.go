package workspace

import (
	"bytes"
	"errors"
	"os/exec"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/hint"
)

// Edition is a locked, numbered state of a workspace: an annotated tag of git.
type Edition struct {
	Number  int      `json:"number"`
	Message string   `json:"message"`
	Who     string   `json:"who"`
	When    string   `json:"when"`    // ISO 8601
	Commit  string   `json:"commit"`  // its object name
	Screens []string `json:"screens"` // those that are locked; none for all
	Draft   bool     `json:"draft"`
}

// editionTags is where the tags of editions are.
const editionTags = "edition/"

// EditionTag is the tag of an edition.
func EditionTag(number int) string { return editionTags + strconv.Itoa(number) }

// Lines of a tag's message that are not for people.
const (
	screensLine = "Screens: "
	draftLine   = "Draft: yes"
)

// The parts of a listed tag end with bytes that no text holds.
const (
	partEnd = "\x1f"
	tagEnd  = "\x1e"
)

// Editions are those of the workspace's repository, the first one first. A lightweight tag of such a name is none.
func (w *Workspace) Editions() ([]Edition, error) {
	out, err := w.git("for-each-ref", "--format=%(objecttype)%1f%(refname:lstrip=2)%1f%(taggername)%1f%(taggerdate:iso-strict)%1f%(*objectname)%1f%(contents)%1e",
		"refs/tags/"+editionTags+"*")
	if err != nil {
		return nil, needsGit(err)
	}
	var list []Edition
	for _, tag := range strings.Split(string(out), tagEnd) {
		p := strings.SplitN(strings.TrimLeft(tag, "\n"), partEnd, 6)
		if len(p) != 6 || p[0] != "tag" {
			continue
		}
		n, err := strconv.Atoi(strings.TrimPrefix(p[1], editionTags))
		if err != nil || n < 1 || EditionTag(n) != p[1] {
			continue
		}
		e := Edition{Number: n, Who: p[2], When: p[3], Commit: p[4], Screens: []string{}}
		e.readMessage(p[5])
		list = append(list, e)
	}
	slices.SortFunc(list, func(a, b Edition) int { return a.Number - b.Number })
	return list, nil
}

// needsGit says that editions live in a repository, where git knows of none.
func needsGit(err error) error {
	var missing *hint.MissingError
	if errors.As(err, &missing) {
		return err
	}
	return hint.New("editions are tags of git, and this workspace lies in no repository", "Begin one with \"git init\".")
}

// readMessage parts what people wrote from the lines behind it.
func (e *Edition) readMessage(text string) {
	var words []string
	for line := range strings.SplitSeq(strings.TrimSpace(text), "\n") {
		switch {
		case line == draftLine:
			e.Draft = true
		case strings.HasPrefix(line, screensLine):
			e.Screens = strings.Split(strings.TrimPrefix(line, screensLine), ", ")
		default:
			words = append(words, line)
		}
	}
	e.Message = strings.TrimSpace(strings.Join(words, "\n"))
}

// CutEdition tags the commit that the workspace is at. Nothing of what git runs by itself, hooks among it, is run.
func (w *Workspace) CutEdition(e Edition) error {
	text := e.Message + "\n"
	if len(e.Screens) > 0 || e.Draft {
		text += "\n"
	}
	if len(e.Screens) > 0 {
		text += screensLine + strings.Join(e.Screens, ", ") + "\n"
	}
	if e.Draft {
		text += draftLine + "\n"
	}
	w.freeLocks()
	var msg string
	err := w.locking(func() error {
		c := w.gitCommand("tag", "--annotate", "--no-sign", "--cleanup=verbatim", "--file=-", EditionTag(e.Number), e.Commit)
		c.Stdin = strings.NewReader(text)
		var errs bytes.Buffer
		c.Stderr = &errs
		err := c.Run()
		if msg = errs.String(); err != nil && msg != "" {
			return identity(msg, "tag")
		}
		return err
	})
	switch {
	case errors.Is(err, exec.ErrNotFound):
		return &hint.MissingError{Msg: "git is not installed", Hint: "Install git."}
	case err != nil && strings.Contains(msg, "already exists"):
		return hint.New("edition "+strconv.Itoa(e.Number)+" was cut by somebody else just now", "Run it again.")
	}
	return err
}

// Commit is the commit that the workspace is at.
func (w *Workspace) Commit() (string, error) {
	out, err := w.git("rev-parse", "--verify", "--quiet", "HEAD^{commit}")
	if err != nil {
		var missing *hint.MissingError
		if errors.As(err, &missing) {
			return "", err
		}
		return "", hint.New("an edition locks a commit, and there is none yet", "Commit the workspace first.")
	}
	return strings.TrimSpace(string(out)), nil
}

// Uncommitted lists the files of the workspace that differ from the commit it is at, those that git does not know too.
func (w *Workspace) Uncommitted() ([]string, error) {
	out, err := w.git("status", "--porcelain", "-z", "--untracked-files=all", "--no-renames", "--", ".")
	if err != nil {
		return nil, needsGit(err)
	}
	var files []string
	for entry := range strings.SplitSeq(string(out), "\x00") {
		if len(entry) > 3 {
			files = append(files, entry[3:])
		}
	}
	return files, nil
}

var editionName = regexp.MustCompile(`^(?:edition/)?([1-9][0-9]{0,8})$`)

// EditionRevision is the revision that a name means: an edition by its number, "3" or "edition/3", or any other as it is.
func EditionRevision(name string) string {
	if m := editionName.FindStringSubmatch(name); m != nil {
		return editionTags + m[1]
	}
	return name
}

// CommitOf is the commit that the workspace is at, by the first 12 digits of its name, where it has a file as it is now;
// "" where it has not, or without git.
func (w *Workspace) CommitOf(file string) string {
	out, err := w.git("rev-parse", "--verify", "--quiet", "--short=12", "HEAD^{commit}")
	if err != nil {
		return ""
	}
	changed, err := w.git("status", "--porcelain", "-z", "--", ":(literal)"+file)
	if err != nil || len(changed) > 0 {
		return ""
	}
	return strings.TrimSpace(string(out))
}
