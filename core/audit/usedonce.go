package audit

var usedOnce = Rule{Name: "used-once", Group: "values", Level: Off,
	What:  "colours and type styles that stand in one place only",
	Why:   "a value nobody else uses is often a leftover",
	check: checkUsedOnce,
}

func checkUsedOnce(c *checker) {
	if c.Harvest == nil || !c.Together {
		return
	}
	for _, f := range c.Harvest.Found {
		if len(f.Uses) != 1 || f.Kind != "color" && f.Kind != "type" || f.Near != "" || f.Off != "" || f.Token != "" {
			continue
		}
		c.at(c.sites(f), "Use a value that others have, or make it a token.", "%s stands here alone", f.Text)
	}
}
