package message

import (
	"strings"

	"golang.org/x/text/feature/plural"
	"golang.org/x/text/language"
)

// Forms are the plural forms of the Unicode CLDR, in their order. https://cldr.unicode.org/index/cldr-spec/plural-rules
var Forms = []string{"zero", "one", "two", "few", "many", "other"}

var formNames = map[plural.Form]string{plural.Zero: "zero", plural.One: "one", plural.Two: "two", plural.Few: "few",
	plural.Many: "many", plural.Other: "other"}

// PluralForm is the form a language uses for a whole number, for counting or for ordering ("2nd").
func PluralForm(locale string, n int, ordinal bool) string {
	rules := plural.Cardinal
	if ordinal {
		rules = plural.Ordinal
	}
	n = max(n, -n)
	if Language(locale) == "he" && !ordinal && n > 2 {
		return "other" // there was a form for tens once, which is no longer
	}
	return formNames[rules.MatchPlural(language.Make(locale), n, 0, 0, 0, 0)]
}

// PluralForms are the forms a language uses for whole numbers, in the order of Forms, with a number for each.
func PluralForms(locale string) (forms []string, examples []int) {
	first := map[string]int{}
	for _, n := range pluralSamples {
		f := PluralForm(locale, n, false)
		if _, known := first[f]; !known {
			first[f] = n
		}
	}
	for _, f := range Forms {
		if n, ok := first[f]; ok {
			forms, examples = append(forms, f), append(examples, n)
		}
	}
	return forms, examples
}

// pluralSamples are numbers among which every form for whole numbers occurs.
var pluralSamples = func() []int {
	var out []int
	for n := 0; n <= 200; n++ {
		out = append(out, n)
	}
	return append(out, 1000, 100000, 1000000)
}()

// PluralRule is how gettext describes the forms of a language, and their names in that order: those for which there is
// a rule of gettext's own, else the usual two. https://www.gnu.org/software/gettext/manual/html_node/Plural-forms.html
func PluralRule(locale string) (rule string, forms []string) {
	if r, ok := pluralRules[Language(locale)]; ok {
		return r.rule, strings.Fields(r.forms)
	}
	return "nplurals=2; plural=(n != 1);", []string{"one", "other"}
}

type pluralRule struct{ rule, forms string }

// slavic and the like are shared by several languages.
var (
	none   = pluralRule{"nplurals=1; plural=0;", "other"}
	above1 = pluralRule{"nplurals=2; plural=(n > 1);", "one other"}
	slavic = pluralRule{"nplurals=3; plural=(n%10==1 && n%100!=11 ? 0 : n%10>=2 && n%10<=4 && (n%100<12 || n%100>14) ? " +
		"1 : 2);", "one few many"}
	balkan = pluralRule{"nplurals=3; plural=(n%10==1 && n%100!=11 ? 0 : n%10>=2 && n%10<=4 && (n%100<12 || n%100>14) ? " +
		"1 : 2);", "one few other"}
	czech = pluralRule{"nplurals=3; plural=(n==1 ? 0 : n>=2 && n<=4 ? 1 : 2);", "one few other"}
)

var pluralRules = map[string]pluralRule{
	"ja": none, "ko": none, "zh": none, "th": none, "vi": none, "id": none, "ms": none, "lo": none, "my": none,
	"fr": above1, "pt": above1, "fa": above1, "hi": above1, "hy": above1, "bn": above1, "gu": above1,
	"ru": slavic, "uk": slavic, "be": slavic, "hr": balkan, "sr": balkan, "bs": balkan, "cs": czech, "sk": czech,
	"pl": {"nplurals=3; plural=(n==1 ? 0 : n%10>=2 && n%10<=4 && (n%100<12 || n%100>14) ? 1 : 2);", "one few many"},
	"lt": {"nplurals=3; plural=(n%10==1 && (n%100<11 || n%100>19) ? 0 : n%10>=2 && n%10<=9 && (n%100<11 || n%100>19) ? " +
		"1 : 2);", "one few other"},
	"lv": {"nplurals=3; plural=(n%10==0 || (n%100>=11 && n%100<=19) ? 0 : n%10==1 ? 1 : 2);", "zero one other"},
	"ro": {"nplurals=3; plural=(n==1 ? 0 : n==0 || (n!=1 && n%100>=1 && n%100<=19) ? 1 : 2);", "one few other"},
	"sl": {"nplurals=4; plural=(n%100==1 ? 0 : n%100==2 ? 1 : n%100==3 || n%100==4 ? 2 : 3);", "one two few other"},
	"he": {"nplurals=3; plural=(n==1 ? 0 : n==2 ? 1 : 2);", "one two other"},
	"ga": {"nplurals=5; plural=(n==1 ? 0 : n==2 ? 1 : n>=3 && n<=6 ? 2 : n>=7 && n<=10 ? 3 : 4);",
		"one two few many other"},
	"cy": {"nplurals=6; plural=(n==0 ? 0 : n==1 ? 1 : n==2 ? 2 : n==3 ? 3 : n==6 ? 4 : 5);",
		"zero one two few many other"},
	"ar": {"nplurals=6; plural=(n==0 ? 0 : n==1 ? 1 : n==2 ? 2 : n%100>=3 && n%100<=10 ? 3 : n%100>=11 ? 4 : 5);",
		"zero one two few many other"},
	"mt": {"nplurals=4; plural=(n==1 ? 0 : n==0 || (n%100>=2 && n%100<=10) ? 1 : n%100>=11 && n%100<=19 ? 2 : 3);",
		"one few many other"},
	"is": {"nplurals=2; plural=(n%10!=1 || n%100==11);", "one other"},
}

// Language is the language of a locale without script, region and the rest, in small letters.
func Language(locale string) string {
	lang, _, _ := strings.Cut(strings.ReplaceAll(strings.ToLower(locale), "_", "-"), "-")
	switch lang {
	case "iw":
		return "he"
	case "in":
		return "id"
	case "ji":
		return "yi"
	}
	return lang
}

// RightToLeft reports whether a locale is written from right to left.
func RightToLeft(locale string) bool {
	for _, part := range strings.Split(locale, "-")[1:] { // a script that is named decides
		switch strings.ToLower(part) {
		case "latn", "cyrl":
			return false
		case "arab", "hebr", "thaa", "nkoo":
			return true
		}
	}
	switch Language(locale) {
	case "ar", "he", "fa", "ur", "yi", "ps", "sd", "ug", "dv", "ckb", "ks", "arc", "syr", "nqo":
		return true
	}
	return false
}

// CheckLocale reports whether a locale is a well-formed BCP 47 tag.
func CheckLocale(locale string) bool {
	if n := len(Language(locale)); n < 2 || n > 3 || len(locale) > 64 || strings.ContainsAny(locale, "/\\") {
		return false // longer ones are well-formed, and no language has one
	}
	_, err := language.Parse(locale)
	if err == nil {
		return true
	}
	_, isValue := err.(language.ValueError) // well-formed, though not in the registry
	return isValue
}
