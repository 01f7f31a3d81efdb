package audit

var assetUnmarked = Rule{Name: "asset-unmarked", Group: "assets", Level: Note,
	What:  "drawings that only a picture can show and that nobody marked",
	Why:   "it is missing when the screen is built",
	check: func(c *checker) { c.advised(true) },
}
