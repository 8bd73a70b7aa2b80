package api

// ResponseWriter takes an answer, as net/http's does; that package is none of the phone's program, which it would make
// half a megabyte larger.
type ResponseWriter interface {
	// SetHeader sets a field of the head; after WriteHeader it changes nothing.
	SetHeader(name, value string)
	// WriteHeader sends the head, with the status.
	WriteHeader(status int)
	Write(part []byte) (int, error)
}
