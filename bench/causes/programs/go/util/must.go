package util

import "errors"

// Must ends when there is nothing.
func Must(v *string, name string) string {
	if v == nil {
		panic(errors.New(name + " is required"))
	}
	return *v
}
