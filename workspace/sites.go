package workspace

import (
	"encoding/base64"
	"fmt"
	"net/url"
	"os"
	"regexp"
	"strconv"
	"strings"
	"time"

	"archetyp/core/css"
)

// Site is a live site that the workspace reads.
type Site struct {
	Name      string            `yaml:"name"`
	URL       string            `yaml:"url"`
	Viewports []string          `yaml:"viewports"` // "390x844"; 1280x800 where none is given
	Schemes   []string          `yaml:"schemes"`   // light, dark; both where none is given
	Follow    int               `yaml:"follow"`    // how many pages, the first among them; 0 for that alone
	Hosts     []string          `yaml:"hosts"`     // others that may be followed to
	Headers   map[string]string `yaml:"headers"`   // a value "env:NAME" is taken from the environment
	Auth      string            `yaml:"auth"`      // "env:NAME", which holds user:password
	Browser   bool              `yaml:"browser"`   // read in a browser
	Steps     []Step            `yaml:"steps"`     // what is done on each page first, in a browser
}

// CaptureDir is the folder of captures, one folder a site.
const CaptureDir = "captures"

// Step is something done on a page before it is read: one of its fields.
type Step struct {
	Click string `yaml:"click"` // a selector
	Wait  string `yaml:"wait"`  // a selector to wait for, or a time such as 500ms
}

// Viewport is a window in CSS px.
type Viewport struct{ Width, Height float64 }

// String is the viewport as it is written.
func (v Viewport) String() string { return css.Num(v.Width, 2) + "x" + css.Num(v.Height, 2) }

// ParseViewport reads `390x844`.
func ParseViewport(text string) (v Viewport, err error) {
	w, h, ok := strings.Cut(strings.ToLower(strings.TrimSpace(text)), "x")
	if ok {
		if v.Width, err = strconv.ParseFloat(w, 64); err == nil {
			v.Height, err = strconv.ParseFloat(h, 64)
		}
	}
	if !ok || err != nil || !(v.Width >= 1) || !(v.Height >= 1) || v.Width > 20000 || v.Height > 20000 {
		return v, fmt.Errorf("%q is no viewport: a width and a height in px, such as 390x844", text)
	}
	return v, nil
}

// Windows are the viewports that a site is read at.
func (s Site) Windows() []Viewport {
	if len(s.Viewports) == 0 {
		return []Viewport{{1280, 800}}
	}
	var out []Viewport
	for _, t := range s.Viewports {
		if v, err := ParseViewport(t); err == nil {
			out = append(out, v)
		}
	}
	return out
}

// Dark are the schemes that a site is read in: false for light.
func (s Site) Dark() []bool {
	if len(s.Schemes) == 0 {
		return []bool{false, true}
	}
	var out []bool
	for _, t := range s.Schemes {
		out = append(out, t == "dark")
	}
	return out
}

var siteName = regexp.MustCompile(`^[A-Za-z0-9][A-Za-z0-9._-]*$`)

// checkSites refuses sites that cannot be read, with the place in the configuration.
func (c *Config) checkSites(fail func(path, format string, args ...any) error) error {
	seen := map[string]bool{}
	for i, s := range c.Sites {
		at := fmt.Sprintf("$.sites[%d]", i)
		u, err := url.Parse(s.URL)
		switch {
		case !siteName.MatchString(s.Name):
			return fail(at, "sites: %q is no name: letters, digits, dots and hyphens", s.Name)
		case seen[s.Name]:
			return fail(at+".name", "sites: %q is there twice", s.Name)
		case err != nil || u.Host == "" || u.Scheme != "http" && u.Scheme != "https":
			return fail(at, "sites: %s: %q is no address; it begins with http:// or https://", s.Name, s.URL)
		case s.Follow < 0 || s.Follow > 10000:
			return fail(at+".follow", "sites: %s: follow: a number of pages from 0 to 10000 is wanted", s.Name)
		}
		seen[s.Name] = true
		for _, v := range s.Viewports {
			if _, err := ParseViewport(v); err != nil {
				return fail(at+".viewports", "sites: %s: %v", s.Name, err)
			}
		}
		for _, v := range s.Schemes {
			if v != "light" && v != "dark" {
				return fail(at+".schemes", "sites: %s: %q is no scheme; light and dark are", s.Name, v)
			}
		}
		for k, v := range s.Headers {
			if strings.ContainsAny(k, " :\r\n") || strings.ContainsAny(v, "\r\n") {
				return fail(at+".headers", "sites: %s: %q is no header", s.Name, k)
			}
		}
		for _, st := range s.Steps {
			if err := st.check(); err != nil {
				return fail(at+".steps", "sites: %s: %v", s.Name, err)
			}
		}
	}
	return nil
}

func (s Step) check() error {
	switch {
	case (s.Click == "") == (s.Wait == ""):
		return fmt.Errorf("a step is either click or wait")
	case s.Click != "":
		_, err := css.ParseSelector(s.Click)
		return err
	}
	if _, err := time.ParseDuration(s.Wait); err == nil {
		return nil
	}
	_, err := css.ParseSelector(s.Wait)
	return err
}

// Site finds a site by its name.
func (c *Config) Site(name string) (Site, bool) {
	for _, s := range c.Sites {
		if s.Name == name {
			return s, true
		}
	}
	return Site{}, false
}

// Secrets are the headers of a site with values from the environment put in. They are never written anywhere.
func (s Site) Secrets() (map[string]string, error) {
	out := map[string]string{}
	get := func(v string) (string, error) {
		name, is := strings.CutPrefix(v, "env:")
		if !is {
			return v, nil
		}
		value, ok := os.LookupEnv(name)
		if !ok {
			return "", fmt.Errorf("the site %s wants the environment variable %s, which is not set", s.Name, name)
		}
		return value, nil
	}
	for k, v := range s.Headers {
		value, err := get(v)
		if err != nil {
			return nil, err
		}
		out[k] = value
	}
	if s.Auth != "" {
		value, err := get(s.Auth)
		if err != nil {
			return nil, err
		}
		out["Authorization"] = "Basic " + base64.StdEncoding.EncodeToString([]byte(value))
	}
	return out, nil
}
