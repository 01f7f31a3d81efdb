package audit

var rawValue = Rule{Name: "raw-value", Group: "values", Level: Warning,
	What:  "values in style sheets of pages that are those of a token, written out",
	Why:   "it stays what it is when the token changes",
	check: checkRawValue,
}

// Raw is a value of a style sheet that a token has.
type Raw struct {
	Value, Token string
	Use          string // how the token is written there: "var(--color-sea)"
	Places       []Place
}

func checkRawValue(c *checker) {
	for _, r := range c.Raw {
		c.at(r.Places, "Write "+r.Use+".", "%s is the token %s, written out%s", r.Value, r.Token, times(len(r.Places)))
	}
}
