//go:build !js

package limits

// Shipped is none: the yard's program holds what it is asked against the contract itself.
func Shipped() *Contract { return nil }
