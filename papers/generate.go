package papers

//go:generate go run ./generate
