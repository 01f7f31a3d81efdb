package job

import (
	"context"
	"encoding/base64"
	"encoding/json"
	"errors"
	"math"

	"archetyp/core/design"
	"archetyp/core/drift"
	"archetyp/core/hint"
	"archetyp/core/paint/picture"
	"archetyp/workspace"
)

// SitePicture is how the site shows a screen, for the guide to lay over it.
type SitePicture struct {
	Page     string        `json:"page"`
	Picture  string        `json:"picture"` // a PNG, as an address of data
	Width    int           `json:"width"`
	Height   int           `json:"height"`
	Likeness float64       `json:"likeness"` // 0–1, the mean over the elements
	Worst    []LikeElement `json:"worst"`
}

// LikeElement is how like an element is on the site, and where it stands instead.
type LikeElement struct {
	Element  string  `json:"element"`
	Likeness float64 `json:"likeness"` // 0–1
	X        int     `json:"x"`        // px
	Y        int     `json:"y"`
}

// GuideSite answers what a page of the guide asks about a site: the picture of a screen's page, in a browser.
func GuideSite(site string) func(ctx context.Context, ws *workspace.Workspace, request []byte) (any, error) {
	return func(ctx context.Context, ws *workspace.Workspace, request []byte) (any, error) {
		var q struct{ Source, Screen string }
		if err := json.Unmarshal(request, &q); err != nil {
			return nil, errors.New("the screen is not named")
		}
		doc, err := sourceOf(ctx, ws, q.Source)
		if err != nil {
			return nil, err
		}
		for _, s := range doc.Screens {
			if s.Name == q.Screen {
				return sitePicture(ctx, ws, site, s)
			}
		}
		return nil, errors.New("there is no screen " + q.Screen)
	}
}

// sitePicture looks at the page of a screen as wide as that is drawn, and lays its picture over it.
func sitePicture(ctx context.Context, ws *workspace.Workspace, site string, s *design.Screen) (*SitePicture, error) {
	plain := &SiteReader{Context: ctx, WS: ws, Dir: ws.Dir}
	pages, err := plain.Pages(site)
	if err != nil {
		return nil, err
	}
	v := drift.View{Width: s.Box.W, Height: math.Max(1, s.Box.H)}
	docs := make([]*design.Document, len(pages))
	if err := Progress(nil, "", len(pages), func(i int) (err error) {
		docs[i], err = pages[i].read(v)
		return err
	}); err != nil {
		return nil, err
	}
	i, _, err := pageOf(s, pages, docs, ws.Config.Drift.Pairs)
	if err != nil {
		return nil, err
	}
	if i < 0 {
		return nil, hint.New("no page of "+site+" was built from "+s.Name, "drift: pairs: in the configuration pairs them by hand.")
	}
	seen := &SiteReader{Context: ctx, WS: ws, Dir: ws.Dir, Browser: true}
	defer seen.Close()
	if pages, err = seen.Pages(site); err != nil {
		return nil, err
	}
	page, err := pages[i].read(v)
	if err != nil {
		return nil, err
	}
	out := &SitePicture{Page: pages[i].File, Worst: []LikeElement{}}
	laid, err := OverlayPictures(&OverlaySide{Name: s.Name, Screen: s}, &OverlaySide{Name: out.Page, Screen: page.Screens[0]}, OverlayOptions{Density: 1, Tolerance: 32})
	if err != nil {
		return nil, err
	}
	out.Likeness = math.Round(laid.Likeness*1000) / 1000
	const most = 5
	for _, l := range laid.Spots[:min(len(laid.Spots), most)] {
		e := laid.Elements[l.Name]
		out.Worst = append(out.Worst, LikeElement{e.Title(), math.Round(l.Likeness*1000) / 1000, -l.Offset.X, -l.Offset.Y})
	}
	img := laid.Second
	out.Width, out.Height = img.Rect.Dx(), img.Rect.Dy()
	out.Picture = "data:image/png;base64," + base64.StdEncoding.EncodeToString(picture.PNG(img))
	return out, nil
}
