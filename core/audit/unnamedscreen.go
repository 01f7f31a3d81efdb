package audit

import (
	"regexp"

	"archetyp/core/design"
)

var unnamedScreen = Rule{Name: "unnamed-screen", Group: "names", Level: Warning,
	What:  "screens whose name only counts them: Artboard 2, Frame 12, Untitled",
	Why:   "texts, code and links are named after screens",
	check: checkUnnamedScreen,
}

// countedScreen is a name that a drawing program gives to a screen by itself.
var countedScreen = regexp.MustCompile(`(?i)^(artboard|frame|screen|page|canvas|board|untitled|unnamed|drawing|new document|document|layout|slide)([ _-]*(copy|\d+))*$`)

func checkUnnamedScreen(c *checker) {
	c.screens(func(s *design.Screen) {
		if countedScreen.MatchString(s.Name) {
			c.at([]Place{screenPlace(s)}, "Give it a name: data-screen in the drawing, or screen: under marks: in the configuration.",
				"the screen is called “%s”", s.Name)
		}
	})
}
