package workspace

import (
	"strconv"

	"archetyp/core/limit"
)

// Amount is a number such as 250000, 500k or 400M.
type Amount string

// UnmarshalYAML takes a number as it is written.
func (a *Amount) UnmarshalYAML(unmarshal func(any) error) error {
	var n int64
	if unmarshal(&n) == nil {
		*a = Amount(strconv.FormatInt(n, 10))
		return nil
	}
	return unmarshal((*string)(a))
}

// Budget is what one reading may cost.
func (c *Config) Budget() limit.Limits {
	var out limit.Limits
	for i, k := range limit.Kinds {
		if amount, ok := c.Limits[k.Name]; ok {
			out[i], _ = limit.ParseAmount(string(amount)) // checked when the configuration was read
		}
	}
	return out
}
