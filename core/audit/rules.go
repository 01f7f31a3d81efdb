package audit

// Rules are all rules, in the order in which findings of one level are listed. Each is in a file of its own.
var Rules = []Rule{
	unnamed, unnamedScreen, sameName, componentName,
	offScale, nearDuplicate, rawValue, usedOnce, halfPixel, fontMissing,
	missingState, lookAlike, unlikeInstance, neverUsed,
	outsideScreen, hiddenLeftover, deadEnd, unreached, noPartner, overPicture,
	filler, twoSpellings, endSigns, sampleWords, outlinedWords,
	contrast, targetSize, smallText, colourOnly, headingOrder, unlabelled,
	assetUnmarked, assetNeedless, assetName, bitmapSmall,
	nearlyAligned, nearlyEven,
}

// RuleNamed is the rule of a name; nil for none.
func RuleNamed(name string) *Rule {
	for i := range Rules {
		if Rules[i].Name == name {
			return &Rules[i]
		}
	}
	return nil
}
