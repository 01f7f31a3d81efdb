// Package guard turns panics into errors: a fault of the program must not take a person's work with it, and says where
// it is so that it can be reported. In goes the panic of a function or goroutine, out comes an *Error.
package guard

import (
	"fmt"
	"runtime/debug"
	"sync"
)

// Error is a fault of the program, met while doing something.
type Error struct {
	Doing string // "reading design/booking.svg"; "" where it is not known
	Value any    // of the panic
	Stack []byte
}

func (e *Error) Error() string {
	doing := ""
	if e.Doing != "" {
		doing = " while " + e.Doing
	}
	return fmt.Sprintf("archetyp failed%s: %v; this is a fault of the program", doing, e.Value)
}

// from wraps the value of a panic; one that went through a goroutine keeps its first place.
func from(v any, doing string) *Error {
	if e, ok := v.(*Error); ok {
		if e.Doing == "" {
			e.Doing = doing
		}
		return e
	}
	return &Error{doing, v, debug.Stack()}
}

// Catch is deferred by a function with a named error: a panic becomes that error.
func Catch(err *error, doing string) {
	if v := recover(); v != nil {
		*err = from(v, doing)
	}
}

// Carrier brings the panic of a goroutine to the one that waits for it. The zero value is ready.
type Carrier struct {
	mu    sync.Mutex
	first *Error
}

// Guard is deferred by the goroutine.
func (c *Carrier) Guard() {
	if v := recover(); v != nil {
		c.mu.Lock()
		defer c.mu.Unlock()
		if c.first == nil {
			c.first = from(v, "")
		}
	}
}

// Raise panics once more with what was carried; it is called after waiting.
func (c *Carrier) Raise() {
	if c.first != nil {
		panic(c.first)
	}
}
