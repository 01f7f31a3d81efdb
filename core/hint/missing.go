package hint

// MissingError reports that something outside of the program is missing, such as git or a browser.
type MissingError struct{ Msg, Hint string }

func (e *MissingError) Error() string { return e.Msg }
