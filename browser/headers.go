package browser

import (
	"context"
	"fmt"
	"net/url"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/fetch"
	"github.com/chromedp/chromedp"
)

// send has the tab send headers with all it asks of an address's own origin, and with nothing else: requests to other
// hosts are not touched, and each hop of a redirect is judged by itself.
func (b *Browser) send(address string, headers map[string]string) error {
	u, err := url.Parse(address)
	if err != nil {
		return err
	}
	own := u.Scheme + "://" + u.Host
	if b.sent == own {
		return nil
	}
	b.sent = own
	if err := chromedp.Listen(b.ctx, func(ev any) {
		if paused, ok := ev.(*fetch.EventRequestPaused); ok {
			go b.goOn(paused, own, headers) // no command may be given here
		}
	}); err != nil {
		return err
	}
	return tell(b, fetch.Enable, fetch.EnableParams{Patterns: []*fetch.RequestPattern{{URLPattern: own + "/*"}}})
}

// goOn lets a request go on, with headers where it is one to the origin.
func (b *Browser) goOn(paused *fetch.EventRequestPaused, own string, headers map[string]string) {
	next := fetch.ContinueRequestParams{RequestID: paused.RequestID}
	if u, err := url.Parse(paused.Request.URL); err == nil && u.Scheme+"://"+u.Host == own {
		for name, value := range paused.Request.Headers {
			if _, replaced := headers[name]; !replaced {
				next.Headers = append(next.Headers, &fetch.HeaderEntry{Name: name, Value: fmt.Sprint(value)})
			}
		}
		for name, value := range headers {
			next.Headers = append(next.Headers, &fetch.HeaderEntry{Name: name, Value: value})
		}
	}
	// A request that the browser has cancelled needs no answer.
	_, _ = chromedp.Run(b.ctx, func(ctx context.Context, target *chromedp.Target) (cdp.Empty, error) {
		return cdp.Call(ctx, target, fetch.ContinueRequest, next)
	})
}
