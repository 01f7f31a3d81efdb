module archetyp

go 1.26.8

require (
	github.com/HugoSmits86/nativewebp v0.9.3
	github.com/andybalholm/brotli v1.3.0
	github.com/bmatcuk/doublestar/v4 v4.10.4
	github.com/cespare/xxhash/v2 v2.3.0
	github.com/charmbracelet/lipgloss v1.1.0
	github.com/charmbracelet/x/ansi v0.8.0
	github.com/chromedp/cdproto v0.159.2
	github.com/chromedp/chromedp v0.23.0
	github.com/evanw/esbuild v0.28.2
	github.com/fsnotify/fsnotify v1.10.1
	github.com/go-json-experiment/json v0.0.0-20260213210345-44df1a37e875
	github.com/go-text/typesetting v0.3.3
	github.com/goccy/go-yaml v1.19.2
	github.com/gofrs/flock v0.13.0
	github.com/klauspost/compress v1.20.3
	github.com/muesli/termenv v0.16.0
	github.com/santhosh-tekuri/jsonschema/v6 v6.0.3
	github.com/schollz/progressbar/v3 v3.19.1
	github.com/sourcegraph/jsonrpc2 v0.2.3
	github.com/spf13/cobra v1.10.2
	github.com/spf13/pflag v1.0.9
	github.com/tailscale/hujson v0.0.0-20260727124030-b80ff77dac4f
	github.com/tdewolff/parse/v2 v2.8.20
	github.com/temoto/robotstxt v1.1.2
	github.com/yuin/goldmark v1.8.0
	golang.org/x/image v0.47.0
	golang.org/x/net v0.62.0
	golang.org/x/sync v0.24.0
	golang.org/x/term v0.47.0
	golang.org/x/text v0.43.0
)

require (
	github.com/aymanbagabas/go-osc52/v2 v2.0.1 // indirect
	github.com/charmbracelet/colorprofile v0.2.3-0.20250311203215-f60798e515dc // indirect
	github.com/charmbracelet/x/cellbuf v0.0.13-0.20250311204145-2c3ea96c31dd // indirect
	github.com/charmbracelet/x/term v0.2.1 // indirect
	github.com/inconshreveable/mousetrap v1.1.0 // indirect
	github.com/lucasb-eyer/go-colorful v1.2.0 // indirect
	github.com/mattn/go-isatty v0.0.22 // indirect
	github.com/mattn/go-runewidth v0.0.16 // indirect
	github.com/mitchellh/colorstring v0.0.0-20190213212951-d06e56a500db // indirect
	github.com/rivo/uniseg v0.4.7 // indirect
	github.com/xo/terminfo v0.0.0-20220910002029-abceb7e1c41e // indirect
	golang.org/x/sys v0.49.0 // indirect
)
