package audit

var assetNeedless = Rule{Name: "asset-needless", Group: "assets", Level: Note,
	What:  "marked assets that a style sheet or words can show, or that are there twice",
	Why:   "every picture is one more file to load and keep",
	check: func(c *checker) { c.advised(false) },
}
