package workspace

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"archetyp/core/phase"
	"archetyp/core/remark"
)

// RemarkConfig says what kinds of remarks there are; none for the usual ones.
type RemarkConfig struct {
	Kinds []string `yaml:"kinds"`
}

// TicketConfig says how tickets are written in words, as a regular expression, and where they are: an address with
// {ticket}.
type TicketConfig struct {
	Pattern string `yaml:"pattern"`
	URL     string `yaml:"url"`
}

// PhaseNames are the phases there are: the usual ones, and the team's own.
func (c *Config) PhaseNames() []string {
	out := slices.Clone(phase.Usual)
	for _, p := range c.Phases {
		if !slices.Contains(out, p) {
			out = append(out, p)
		}
	}
	return out
}

// RemarkKinds are the kinds of remarks there are, the first one for those of no kind.
func (c *Config) RemarkKinds() []string {
	if len(c.Remarks.Kinds) > 0 {
		return c.Remarks.Kinds
	}
	return remark.Usual
}

// TicketsIn are the tickets that texts name, each once.
func (c *Config) TicketsIn(texts ...string) (out []string) {
	if c.Tickets.Pattern == "" {
		return nil
	}
	re := regexp.MustCompile(c.Tickets.Pattern)
	for _, t := range texts {
		for _, m := range re.FindAllString(t, -1) {
			if m != "" && !slices.Contains(out, m) {
				out = append(out, m)
			}
		}
	}
	return out
}

// TicketURL is where a ticket is; "" where that is not configured.
func (c *Config) TicketURL(ticket string) string {
	return strings.ReplaceAll(c.Tickets.URL, "{ticket}", ticket)
}

// checkPeople refuses what means nothing about phases, remarks and tickets.
func (c *Config) checkPeople(fail func(path, format string, args ...any) error) error {
	for i, p := range c.Phases {
		if err := phase.CheckName(p); err != nil {
			return fail(fmt.Sprintf("$.phases[%d]", i), "phases: %v", err)
		}
	}
	for i, k := range c.Remarks.Kinds {
		if err := phase.CheckName(k); err != nil {
			return fail(fmt.Sprintf("$.remarks.kinds[%d]", i), "remarks.kinds: %q is no name of a kind", k)
		}
	}
	if _, err := regexp.Compile(c.Tickets.Pattern); err != nil {
		return fail("$.tickets.pattern", "tickets.pattern: %v", err)
	}
	if u := c.Tickets.URL; u != "" && !strings.HasPrefix(u, "https://") && !strings.HasPrefix(u, "http://") {
		return fail("$.tickets.url", "tickets.url: %q is no address of a page", u)
	}
	return nil
}
