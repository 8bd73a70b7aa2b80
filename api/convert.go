package api

// Value is what a pointer points to, or the zero value.
func Value[T any](p *T) T {
	if p == nil {
		var zero T
		return zero
	}
	return *p
}

// Or is what a pointer points to, or another value.
func Or[T any](p *T, other T) T {
	if p == nil {
		return other
	}
	return *p
}

// Some is a pointer to the value, or nil for the zero value.
func Some[T comparable](x T) *T {
	var zero T
	if x == zero {
		return nil
	}
	return &x
}

// Each maps a list; the contract's lists are never null.
func Each[A, B any](list []A, to func(A) B) []B {
	out := make([]B, len(list))
	for i, x := range list {
		out[i] = to(x)
	}
	return out
}

// List is a copy of a list that is never null.
func List(x []string) []string { return append([]string{}, x...) }

// SomeList is List, or nil for an empty one.
func SomeList(l []string) *[]string {
	if len(l) == 0 {
		return nil
	}
	return &l
}
