// Package limit bounds what one reading may cost: how many elements, letters, pixels and so on a file may unfold into,
// however small it is. In go limits, out comes a budget that readers spend from in one place, and errors that say which
// limit was reached and how to raise it.
package limit

import (
	"context"
	"fmt"
	"strconv"
	"strings"
	"sync/atomic"
	"time"
)

// Kind is what is bounded.
type Kind int

// The kinds, in the order of Kinds.
const (
	Elements Kind = iota // elements of a drawing, and of drawings inside it
	Copies               // elements that <use>, masks, patterns and the like show again
	Letters              // letters of its texts, in bytes of UTF-8
	Pixels               // pixels of its bitmaps, unpacked
	Style                // bytes of its style sheets
	Steps                // steps of matching selectors
	Seconds              // of work
	kinds
)

// Kinds names the kinds as the configuration does, with what is counted and how many are allowed by default.
var Kinds = [kinds]struct {
	Name, What string
	Default    int64
}{
	Elements: {"elements", "elements", 250_000},
	Copies:   {"copies", "elements shown again by <use>, masks or patterns", 100_000},
	Letters:  {"letters", "bytes of text", 500_000},
	Pixels:   {"pixels", "pixels of bitmaps", 50_000_000},
	Style:    {"style", "bytes of style sheets", 8_000_000},
	Steps:    {"steps", "steps of matching selectors", 30_000_000},
	Seconds:  {"seconds", "seconds of reading", 120},
}

// Limits are the amounts allowed; 0 is the default.
type Limits [kinds]int64

// Of is the amount of a kind.
func (l Limits) Of(k Kind) int64 {
	if l[k] > 0 {
		return l[k]
	}
	return Kinds[k].Default
}

// Budget is what one reading may still spend. It is safe to use side by side; nil has the default limits, and all the
// time there is.
type Budget struct {
	limits Limits
	used   [kinds]atomic.Int64
	ctx    context.Context
	until  time.Time
}

// New is a budget for one reading, from now on.
func New(l Limits) *Budget { return On(context.Background(), l) }

// On is New for a reading that ends with a context.
func On(ctx context.Context, l Limits) *Budget {
	return &Budget{limits: l, ctx: ctx, until: time.Now().Add(time.Duration(l.Of(Seconds)) * time.Second)}
}

// Time reports whether there is time left: an *Error where there is not, the context's error where nobody waits any
// more.
func (b *Budget) Time() error {
	if b == nil {
		return nil
	}
	if err := b.ctx.Err(); err != nil {
		return err
	}
	if time.Now().After(b.until) {
		return &Error{Seconds, b.limits.Of(Seconds)}
	}
	return nil
}

// Limit is the amount of a kind that is allowed in all.
func (b *Budget) Limit(k Kind) int64 {
	if b == nil {
		return Kinds[k].Default
	}
	return b.limits.Of(k)
}

// Spend takes an amount. The error is an *Error.
func (b *Budget) Spend(k Kind, n int64) error {
	if b == nil {
		return Check(Limits{}, k, n)
	}
	if n < 0 || b.used[k].Add(n) > b.limits.Of(k) {
		return &Error{k, b.limits.Of(k)}
	}
	return nil
}

// Check is Spend for an amount that is known as a whole.
func Check(l Limits, k Kind, n int64) error {
	if n < 0 || n > l.Of(k) {
		return &Error{k, l.Of(k)}
	}
	return nil
}

// Error reports whether a limit was reached.
type Error struct {
	Kind  Kind
	Limit int64
}

func (e *Error) Error() string {
	return fmt.Sprintf("more than %s %s", Count(e.Limit), Kinds[e.Kind].What)
}

// Hint says how to raise the limit.
func (e *Error) Hint() string {
	return fmt.Sprintf("If it has to be so large, raise limits: %s: in archetyp.yaml.", Kinds[e.Kind].Name)
}

// Count writes a number in groups of three digits.
func Count(n int64) string {
	s := strconv.FormatInt(n, 10)
	for i := len(s) - 3; i > 0; i -= 3 {
		s = s[:i] + "," + s[i:]
	}
	return s
}

// ParseAmount reads an amount such as 400M, 500k or 250000.
func ParseAmount(s string) (int64, error) {
	digits := strings.TrimRight(s, "kMG")
	unit := map[string]int64{"": 1, "k": 1e3, "M": 1e6, "G": 1e9}[s[len(digits):]]
	n, err := strconv.ParseInt(digits, 10, 64)
	if err != nil || unit == 0 || n < 1 || n > 1e12/unit {
		return 0, fmt.Errorf("%q is no amount; write a number such as 250000, 500k or 400M", s)
	}
	return n * unit, nil
}
