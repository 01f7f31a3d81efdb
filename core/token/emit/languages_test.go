package emit_test

import (
	"errors"
	"testing"

	"archetyp/core/token"
	"archetyp/core/token/emit"
)

// quay is a library with a token of most kinds, a dark scheme and a wide form.
func quay(t testing.TB) *token.Library {
	t.Helper()
	files := map[string]string{"base.json": quayBase,
		"dark.json": `{"color": {"sea": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0.4, 0.8, 1]}}}}`,
		"wide.json": `{"space": {"m": {"$type": "dimension", "$value": {"value": 24, "unit": "px"}}}}`}
	lib := token.ParseResolver([]byte(quayResolver), "r.json", func(p string) ([]byte, error) {
		if s, ok := files[p]; ok {
			return []byte(s), nil
		}
		return nil, errors.New("there is no such file")
	}).Library()
	if err := lib.Err(); err != nil {
		t.Fatal(err)
	}
	return lib
}

const quayResolver = `{"version": "2025.10", "modifiers": {
  "scheme": {"contexts": {"light": [], "dark": [{"$ref": "dark.json"}]}, "default": "light"},
  "width": {"contexts": {"small": [], "wide": [{"$ref": "wide.json"}]}, "default": "small"}},
 "resolutionOrder": [{"type": "set", "name": "base", "sources": [{"$ref": "base.json"}]}, {"$ref": "#/modifiers/scheme"}, {"$ref": "#/modifiers/width"}]}`

const quayBase = `{
  "color": {
    "$type": "color",
    "sea": {"$value": {"colorSpace": "srgb", "components": [0, 0.4, 0.6]}, "$description": "The sea"},
    "flag": {"$value": {"colorSpace": "display-p3", "components": [1, 0.2, 0], "hex": "#ff3a12"}},
    "link": {"$value": "{color.sea}"},
    "old": {"$value": "{color.link}", "$deprecated": "use link"}
  },
  "space": {"m": {"$type": "dimension", "$value": {"value": 16, "unit": "px"}}},
  "family": {"text": {"$type": "fontFamily", "$value": ["Hanken Grotesk", "serif"]}},
  "type": {"body": {"$type": "typography", "$value": {"fontFamily": "{family.text}", "fontSize": {"value": 16, "unit": "px"}, "fontWeight": 400, "letterSpacing": {"value": 0.4, "unit": "px"}, "lineHeight": 1.5}}},
  "shadow": {"card": {"$type": "shadow", "$value": {"color": "{color.sea}", "offsetX": {"value": 0, "unit": "px"}, "offsetY": {"value": 2, "unit": "px"}, "blur": {"value": 4, "unit": "px"}, "spread": {"value": 0, "unit": "px"}}}},
  "glow": {"sun": {"$type": "gradient", "$value": [{"color": "{color.sea}", "position": 0}, {"color": "{color.flag}", "position": 1}], "$extensions": {"archetyp": {"angle": 90}}}},
  "edge": {"field": {"$type": "border", "$value": {"color": "{color.sea}", "width": {"value": 1, "unit": "px"}, "style": "solid"}}},
  "move": {"show": {"$type": "transition", "$value": {"duration": {"value": 200, "unit": "ms"}, "delay": {"value": 0, "unit": "ms"}, "timingFunction": [0.2, 0, 0, 1]}}},
  "line": {"tight": {"$type": "number", "$value": 1.25}}
}`

// TestLanguagesWriteThis holds the whole text of outputs.
func TestLanguagesWriteThis(t *testing.T) {
	for _, c := range []struct {
		as   string
		o    emit.Options
		want string
	}{
		{"css", emit.Options{Unit: "rem"}, `/* Design tokens of Quay. Written by archetyp from the token files. */
:root {
  --color-sea: #006699;
  --color-flag: #ff3a12;
  --color-link: var(--color-sea);
  --color-old: var(--color-link); /* deprecated: use link */

  --space-m: 1rem;

  --family-text: "Hanken Grotesk", serif;

  --type-body: 400 1rem/1.5 var(--family-text);
  --type-body-letter-spacing: 0.025rem;

  --shadow-card: 0 0.125rem 0.25rem var(--color-sea);

  --glow-sun: linear-gradient(90deg, var(--color-sea) 0%, var(--color-flag) 100%);

  --edge-field: 0.0625rem solid var(--color-sea);

  --move-show: 200ms cubic-bezier(0.2, 0, 0, 1) 0ms;

  --line-tight: 1.25;
}

@media (prefers-color-scheme: dark) {
  :root {
    --color-sea: #66ccff;
    --color-link: var(--color-sea);
    --color-old: var(--color-link);
    --shadow-card: 0 0.125rem 0.25rem var(--color-sea);
    --glow-sun: linear-gradient(90deg, var(--color-sea) 0%, var(--color-flag) 100%);
    --edge-field: 0.0625rem solid var(--color-sea);
  }
}

[data-scheme="light"] {
  --color-sea: #006699;
  --color-link: var(--color-sea);
  --color-old: var(--color-link);
  --shadow-card: 0 0.125rem 0.25rem var(--color-sea);
  --glow-sun: linear-gradient(90deg, var(--color-sea) 0%, var(--color-flag) 100%);
  --edge-field: 0.0625rem solid var(--color-sea);
}

[data-scheme="dark"] {
  --color-sea: #66ccff;
  --color-link: var(--color-sea);
  --color-old: var(--color-link);
  --shadow-card: 0 0.125rem 0.25rem var(--color-sea);
  --glow-sun: linear-gradient(90deg, var(--color-sea) 0%, var(--color-flag) 100%);
  --edge-field: 0.0625rem solid var(--color-sea);
}

@media (min-width: 48rem) {
  :root {
    --space-m: 1.5rem;
  }
}

@supports (color: color(display-p3 0 0 0)) {
  :root {
    --color-flag: color(display-p3 1 0.2 0);
  }
}
`},
		{"css", emit.Options{Prefix: "q", Only: []string{"color.s*", "space"}}, `/* Design tokens of Quay. Written by archetyp from the token files. */
:root {
  --q-color-sea: #006699;

  --q-space-m: 16px;
}

@media (prefers-color-scheme: dark) {
  :root {
    --q-color-sea: #66ccff;
  }
}

[data-scheme="light"] {
  --q-color-sea: #006699;
}

[data-scheme="dark"] {
  --q-color-sea: #66ccff;
}

@media (min-width: 48rem) {
  :root {
    --q-space-m: 24px;
  }
}
`},
		{"css-classes", emit.Options{}, `/* Design tokens of Quay. Written by archetyp from the token files. Wants their custom properties, too. */

.type-body {
  font: var(--type-body);
  letter-spacing: var(--type-body-letter-spacing);
}

.shadow-card {
  box-shadow: var(--shadow-card);
}

.glow-sun {
  background-image: var(--glow-sun);
}
`},
		{"css-classes", emit.Options{Form: "fragment", Prefix: "q"}, `/* Design tokens of Quay. Written by archetyp from the token files. Wants their custom properties, too. */

[class*="q-glow-sun"] {
  background-image: var(--q-glow-sun);
}

[class*="q-type-body"] {
  font: var(--q-type-body);
  letter-spacing: var(--q-type-body-letter-spacing);
}

[class*="q-shadow-card"] {
  box-shadow: var(--q-shadow-card);
}
`},
		{"scss", emit.Options{}, `// Design tokens of Quay. Written by archetyp from the token files.

$color-sea: #006699;
$color-flag: color(display-p3 1 0.2 0);
$color-link: $color-sea;
$color-old: $color-link;
$space-m: 16px;
$family-text: "Hanken Grotesk", serif;
$type-body: 400 #{16px}#{"/"}#{1.5} $family-text;
$type-body-letter-spacing: 0.4px;
$shadow-card: 0 2px 4px $color-sea;
$glow-sun: linear-gradient(90deg, $color-sea 0%, $color-flag 100%);
$edge-field: 1px solid $color-sea;
$move-show: 200ms cubic-bezier(0.2, 0, 0, 1) 0ms;
$line-tight: 1.25;

$tokens: (
  "color-sea": $color-sea,
  "color-flag": $color-flag,
  "color-link": $color-link,
  "color-old": $color-old,
  "space-m": $space-m,
  "family-text": $family-text,
  "type-body": $type-body,
  "type-body-letter-spacing": $type-body-letter-spacing,
  "shadow-card": $shadow-card,
  "glow-sun": $glow-sun,
  "edge-field": $edge-field,
  "move-show": $move-show,
  "line-tight": $line-tight,
);

$contexts: (
  "scheme.dark": (
    "color-sea": #66ccff,
    "color-link": #66ccff,
    "color-old": #66ccff,
    "shadow-card": 0 2px 4px #66ccff,
    "glow-sun": (linear-gradient(90deg, #66ccff 0%, color(display-p3 1 0.2 0) 100%)),
    "edge-field": 1px solid #66ccff,
  ),
  "width.wide": (
    "space-m": 24px,
  ),
);
`},
		{"json", emit.Options{}, `{
  "tokens": {
    "color": {
      "sea": "#006699",
      "flag": "color(display-p3 1 0.2 0)",
      "link": "#006699",
      "old": "#006699"
    },
    "space": {
      "m": "16px"
    },
    "family": {
      "text": "\"Hanken Grotesk\", serif"
    },
    "type": {
      "body": {"fontFamily": "\"Hanken Grotesk\", serif", "fontSize": "16px", "fontWeight": 400, "letterSpacing": "0.4px", "lineHeight": 1.5}
    },
    "shadow": {
      "card": "0 2px 4px #006699"
    },
    "glow": {
      "sun": "linear-gradient(90deg, #006699 0%, color(display-p3 1 0.2 0) 100%)"
    },
    "edge": {
      "field": "1px solid #006699"
    },
    "move": {
      "show": "200ms cubic-bezier(0.2, 0, 0, 1) 0ms"
    },
    "line": {
      "tight": 1.25
    }
  },
  "contexts": {
    "scheme.dark": {
      "color": {
        "sea": "#66ccff",
        "link": "#66ccff",
        "old": "#66ccff"
      },
      "shadow": {
        "card": "0 2px 4px #66ccff"
      },
      "glow": {
        "sun": "linear-gradient(90deg, #66ccff 0%, color(display-p3 1 0.2 0) 100%)"
      },
      "edge": {
        "field": "1px solid #66ccff"
      }
    },
    "width.wide": {
      "space": {
        "m": "24px"
      }
    }
  }
}
`},
		{"json", emit.Options{Form: "flat"}, `{
  "tokens": {
    "color.sea": "#006699",
    "color.flag": "color(display-p3 1 0.2 0)",
    "color.link": "#006699",
    "color.old": "#006699",
    "space.m": "16px",
    "family.text": "\"Hanken Grotesk\", serif",
    "type.body": {"fontFamily": "\"Hanken Grotesk\", serif", "fontSize": "16px", "fontWeight": 400, "letterSpacing": "0.4px", "lineHeight": 1.5},
    "shadow.card": "0 2px 4px #006699",
    "glow.sun": "linear-gradient(90deg, #006699 0%, color(display-p3 1 0.2 0) 100%)",
    "edge.field": "1px solid #006699",
    "move.show": "200ms cubic-bezier(0.2, 0, 0, 1) 0ms",
    "line.tight": 1.25
  },
  "contexts": {
    "scheme.dark": {
      "color.sea": "#66ccff",
      "color.link": "#66ccff",
      "color.old": "#66ccff",
      "shadow.card": "0 2px 4px #66ccff",
      "glow.sun": "linear-gradient(90deg, #66ccff 0%, color(display-p3 1 0.2 0) 100%)",
      "edge.field": "1px solid #66ccff"
    },
    "width.wide": {
      "space.m": "24px"
    }
  }
}
`},
		{"ts", emit.Options{Only: []string{"color", "type"}}, `// Design tokens of Quay. Written by archetyp from the token files.

export const tokens = {
  "color": {
    "sea": "#006699",
    "flag": "color(display-p3 1 0.2 0)",
    "link": "#006699",
    "old": "#006699"
  },
  "type": {
    "body": {"fontFamily": "\"Hanken Grotesk\", serif", "fontSize": "16px", "fontWeight": 400, "letterSpacing": "0.4px", "lineHeight": 1.5}
  }
} as const;

/** What is another value in a context. */
export const contexts = {
  "scheme.dark": {
    "color": {
      "sea": "#66ccff",
      "link": "#66ccff",
      "old": "#66ccff"
    }
  },
  "width.wide": {}
} as const;

export type Tokens = typeof tokens;
export type Context = keyof typeof contexts;
export type TokenPath =
  | "color.sea"
  | "color.flag"
  | "color.link"
  | "color.old"
  | "type.body";
`},
	} {
		lang, _ := emit.Of(c.as)
		c.o.Name = "Quay"
		c.o.Contexts = map[string][]string{"width.wide": {"@media (min-width: 48rem)"}}
		files, _, err := lang.Write(quay(t), c.o)
		if err != nil {
			t.Errorf("%s: %v", c.as, err)
			continue
		}
		if files[0].Text != c.want {
			t.Errorf("%s %+v:\n%s\nwant\n%s", c.as, c.o, files[0].Text, c.want)
		}
	}
}
