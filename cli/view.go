package cli

import (
	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

// viewFlags say how a page is looked at.
type viewFlags struct {
	viewport, scheme string
	browser          bool
}

func (f *viewFlags) add(c *cobra.Command) {
	c.Flags().StringVar(&f.viewport, "viewport", "1280x800", "of a page: the window's `WIDTHxHEIGHT` in px")
	c.Flags().StringVar(&f.scheme, "scheme", "light", "of a page: the colour scheme, light or dark")
	c.Flags().BoolVar(&f.browser, "browser", false, "of a page: look at it in a browser, which knows boxes and runs scripts")
}

// view is how a page is looked at, as asked for.
func (f *viewFlags) view() (v job.View, err error) {
	window, err := workspace.ParseViewport(f.viewport)
	if err != nil {
		return v, hint.New("--viewport: "+err.Error(), "For example: --viewport 390x844")
	}
	v.Width, v.Height = window.Width, window.Height
	switch f.scheme {
	case "light":
	case "dark":
		v.Dark = true
	default:
		return v, hint.New("--scheme "+f.scheme+": light or dark is wanted", "")
	}
	v.Browser = f.browser
	return v, nil
}

// needsBoxes refuses a question about boxes where a page was read without a browser.
func needsBoxes(doc *design.Document) error {
	if doc.Boxless {
		return hint.New(doc.Name+": this needs a browser, which knows where things stand", "Add --browser.")
	}
	return nil
}
