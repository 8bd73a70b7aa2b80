package routes

import "net/http"

// Written writes an answer to HTTP.
type Written struct{ http.ResponseWriter }

// SetHeader sets a field of the head.
func (w Written) SetHeader(name, value string) { w.Header().Set(name, value) }

// Flush sends what is written so far.
func (w Written) Flush() { _ = http.NewResponseController(w.ResponseWriter).Flush() }
