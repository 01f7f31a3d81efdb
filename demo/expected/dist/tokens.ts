// Design tokens of Tern & Tide. Written by archetyp from the token files.

export const tokens = {
  "color": {
    "ink": {
      "100": "#d5dfe6",
      "200": "#b7c6d2",
      "300": "#9db0bf",
      "400": "#8195a6",
      "600": "#5a6f83",
      "900": "#10243a"
    },
    "sea": {
      "100": "#e3f1f6",
      "150": "#dcedf4",
      "200": "#cde6ef",
      "600": "#0b6e8f",
      "700": "#085570",
      "750": "#084960",
      "800": "#06445a"
    },
    "coral": {
      "500": "#e4572e"
    },
    "sun": {
      "100": "#fdf3e3",
      "400": "#f2a541"
    },
    "signal": {
      "bad": "#c2321a",
      "bad-quiet": "#fbe0da",
      "bad-strong": "#a3270f",
      "good-quiet": "#dff2e6",
      "good-strong": "#17653b",
      "warn-quiet": "#fdeed3",
      "warn-strong": "#8a5200"
    },
    "foam": "#f5f8fa",
    "white": "#ffffff",
    "text": {
      "default": "#10243a",
      "muted": "#5a6f83",
      "hint": "#9db0bf",
      "disabled": "#8195a6",
      "inverse": "#ffffff",
      "action": "#0b6e8f"
    },
    "surface": {
      "page": "#f5f8fa",
      "raised": "#ffffff",
      "quiet": "#e3f1f6",
      "disabled": "#d5dfe6"
    },
    "border": {
      "default": "#d5dfe6",
      "field": "#b7c6d2"
    },
    "action": {
      "default": "#0b6e8f",
      "hover": "#085570",
      "active": "#06445a"
    }
  },
  "font": {
    "family": {
      "text": "\"Hanken Grotesk\", sans-serif",
      "title": "Fraunces, serif"
    }
  },
  "type": {
    "body": {"fontFamily": "\"Hanken Grotesk\", sans-serif", "fontSize": "16px", "fontWeight": 400, "letterSpacing": "0", "lineHeight": 1.303},
    "body-strong": {"fontFamily": "\"Hanken Grotesk\", sans-serif", "fontSize": "16px", "fontWeight": 600, "letterSpacing": "0", "lineHeight": 1.5},
    "small": {"fontFamily": "\"Hanken Grotesk\", sans-serif", "fontSize": "14px", "fontWeight": 400, "letterSpacing": "0", "lineHeight": 1.4286},
    "small-strong": {"fontFamily": "\"Hanken Grotesk\", sans-serif", "fontSize": "14px", "fontWeight": 600, "letterSpacing": "0", "lineHeight": 1.303},
    "subheading": {"fontFamily": "\"Hanken Grotesk\", sans-serif", "fontSize": "20px", "fontWeight": 600, "letterSpacing": "0", "lineHeight": 1.303},
    "heading": {"fontFamily": "\"Hanken Grotesk\", sans-serif", "fontSize": "20px", "fontWeight": 700, "letterSpacing": "0", "lineHeight": 1.303},
    "title-s": {"fontFamily": "Fraunces, serif", "fontSize": "25px", "fontWeight": 600, "letterSpacing": "-0.2px", "lineHeight": 1.233},
    "title-m": {"fontFamily": "Fraunces, serif", "fontSize": "31px", "fontWeight": 600, "letterSpacing": "-0.4px", "lineHeight": 1.233},
    "title-l": {"fontFamily": "Fraunces, serif", "fontSize": "40px", "fontWeight": 600, "letterSpacing": "-0.5px", "lineHeight": 1.233}
  },
  "space": {
    "8": "8px",
    "16": "16px",
    "20": "20px",
    "24": "24px",
    "32": "32px",
    "64": "64px"
  },
  "radius": {
    "s": "8px",
    "m": "10px",
    "l": "12px",
    "xl": "16px",
    "full": "9999px"
  },
  "shadow": {
    "card": "0 4px 16px rgb(16 36 58 / 0.1)",
    "lifted": "0 8px 24px rgb(16 36 58 / 0.12)",
    "pressed": "inset 0 2px 4px rgb(16 36 58 / 0.16)",
    "button": "0 4px 12px rgb(11 110 143 / 0.32)"
  },
  "gradient": {
    "bar": "linear-gradient(105.4786deg, #0b4a63 0%, #0b6e8f 100%)",
    "tide": "linear-gradient(180deg, #0f7d9f 0%, #0a5a77 100%)",
    "sky": "linear-gradient(180deg, #0b4a63 0%, #0b6e8f 60%, #3d9bb3 100%)",
    "sun": "radial-gradient(closest-side, #ffd98a 0%, rgb(246 179 90 / 0.9) 55%, rgb(242 165 65 / 0) 100%)"
  }
} as const;

/** What is another value in a context. */
export const contexts = {
  "scheme.dark": {
    "color": {
      "text": {
        "default": "#eaf2f6",
        "muted": "#a6bac6",
        "hint": "#8ea3b0",
        "disabled": "#657a87",
        "inverse": "#10243a",
        "action": "#57b8d9"
      },
      "surface": {
        "page": "#08151f",
        "raised": "#11222f",
        "quiet": "#103140",
        "disabled": "#1d313f"
      },
      "border": {
        "default": "#294151",
        "field": "#3b5769"
      },
      "action": {
        "default": "#57b8d9",
        "hover": "#73c7e3",
        "active": "#8fd6ed"
      }
    }
  },
  "width.wide": {
    "type": {
      "title-s": {"fontFamily": "Fraunces, serif", "fontSize": "31px", "fontWeight": 600, "letterSpacing": "-0.4px", "lineHeight": 1.233},
      "title-m": {"fontFamily": "Fraunces, serif", "fontSize": "40px", "fontWeight": 600, "letterSpacing": "-0.5px", "lineHeight": 1.233},
      "title-l": {"fontFamily": "Fraunces, serif", "fontSize": "50px", "fontWeight": 600, "letterSpacing": "-0.8px", "lineHeight": 1.2}
    }
  }
} as const;

export type Tokens = typeof tokens;
export type Context = keyof typeof contexts;
export type TokenPath =
  | "color.ink.100"
  | "color.ink.200"
  | "color.ink.300"
  | "color.ink.400"
  | "color.ink.600"
  | "color.ink.900"
  | "color.sea.100"
  | "color.sea.150"
  | "color.sea.200"
  | "color.sea.600"
  | "color.sea.700"
  | "color.sea.750"
  | "color.sea.800"
  | "color.coral.500"
  | "color.sun.100"
  | "color.sun.400"
  | "color.signal.bad"
  | "color.signal.bad-quiet"
  | "color.signal.bad-strong"
  | "color.signal.good-quiet"
  | "color.signal.good-strong"
  | "color.signal.warn-quiet"
  | "color.signal.warn-strong"
  | "color.foam"
  | "color.white"
  | "color.text.default"
  | "color.text.muted"
  | "color.text.hint"
  | "color.text.disabled"
  | "color.text.inverse"
  | "color.text.action"
  | "color.surface.page"
  | "color.surface.raised"
  | "color.surface.quiet"
  | "color.surface.disabled"
  | "color.border.default"
  | "color.border.field"
  | "color.action.default"
  | "color.action.hover"
  | "color.action.active"
  | "font.family.text"
  | "font.family.title"
  | "type.body"
  | "type.body-strong"
  | "type.small"
  | "type.small-strong"
  | "type.subheading"
  | "type.heading"
  | "type.title-s"
  | "type.title-m"
  | "type.title-l"
  | "space.8"
  | "space.16"
  | "space.20"
  | "space.24"
  | "space.32"
  | "space.64"
  | "radius.s"
  | "radius.m"
  | "radius.l"
  | "radius.xl"
  | "radius.full"
  | "shadow.card"
  | "shadow.lifted"
  | "shadow.pressed"
  | "shadow.button"
  | "gradient.bar"
  | "gradient.tide"
  | "gradient.sky"
  | "gradient.sun";
