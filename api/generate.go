// Package api is the contract: openapi.yaml, and the Go types of its requests and answers, generated from it.
package api

//go:generate go tool -modfile=../tools.mod oapi-codegen -config oapi-codegen.yaml openapi.yaml
