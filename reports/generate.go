package reports

//go:generate go run ./generate
