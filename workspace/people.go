package workspace

import (
	"os"
	"os/user"
	"slices"
	"strings"
	"unicode"
)

// Person is somebody who writes remarks and sets phases.
type Person struct {
	Name    string   `json:"name"`
	Mail    string   `json:"mail,omitempty"`
	Handles []string `json:"handles"` // what remarks name them by, in lower case
}

// Me is the person at this machine: as git knows them, else as the machine does.
func (w *Workspace) Me() Person {
	get := func(key string) string {
		out, err := w.git("config", "--get", key)
		if err != nil {
			return ""
		}
		return strings.TrimSpace(string(out))
	}
	p := Person{Name: os.Getenv("GIT_AUTHOR_NAME"), Mail: os.Getenv("GIT_AUTHOR_EMAIL")}
	if p.Name == "" {
		p.Name = get("user.name")
	}
	if p.Mail == "" {
		p.Mail = get("user.email")
	}
	if p.Name == "" {
		if u, err := user.Current(); err == nil {
			if p.Name = strings.TrimRight(u.Name, ","); p.Name == "" {
				p.Name = u.Username
			}
		}
	}
	return w.person(p)
}

// PersonNamed is somebody by name or handle.
func (w *Workspace) PersonNamed(name string) Person {
	h := strings.ToLower(strings.TrimPrefix(name, "@"))
	if full, ok := w.Config.People[h]; ok {
		return w.person(parsePerson(full))
	}
	return w.person(parsePerson(name))
}

func parsePerson(full string) Person {
	name, mail, _ := strings.Cut(full, "<")
	return Person{Name: strings.TrimSpace(name), Mail: strings.TrimRight(strings.TrimSpace(mail), ">")}
}

// person adds the handles: those that the configuration gives, else the first name, and the letters before the @ of the
// address.
func (w *Workspace) person(p Person) Person {
	for _, h := range sorted(w.Config.People) {
		q := parsePerson(w.Config.People[h])
		if strings.EqualFold(q.Name, p.Name) && q.Name != "" || q.Mail != "" && strings.EqualFold(q.Mail, p.Mail) {
			p.Handles = append(p.Handles, strings.ToLower(h))
		}
	}
	local, _, _ := strings.Cut(p.Mail, "@")
	first, _, _ := strings.Cut(p.Name, " ")
	for _, h := range []string{first, local, strings.Join(strings.FieldsFunc(p.Name, unicode.IsSpace), ".")} {
		if h = strings.ToLower(h); h != "" && !slices.Contains(p.Handles, h) {
			if _, taken := w.Config.People[h]; !taken {
				p.Handles = append(p.Handles, h)
			}
		}
	}
	return p
}

// Is reports whether a name or handle means this person.
func (p *Person) Is(name string) bool {
	return strings.EqualFold(name, p.Name) || slices.Contains(p.Handles, strings.ToLower(strings.TrimPrefix(name, "@")))
}
