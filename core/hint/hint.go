// Package hint has the error that says what to do about it.
package hint

// Error is an error with a line on what to do.
type Error struct{ Msg, Hint string }

func (e *Error) Error() string { return e.Msg }

// New is an error, and what to do about it.
func New(msg, what string) error { return &Error{msg, what} }
