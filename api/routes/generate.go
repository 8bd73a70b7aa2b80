// Package routes serves the contract's operations by Echo; generated from openapi.yaml.
package routes

//go:generate go tool -modfile=../../tools.mod oapi-codegen -config oapi-codegen.yaml ../openapi.yaml
