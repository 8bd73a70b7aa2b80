package server

import (
	"net"
	"net/http"

	"github.com/labstack/echo/v5"

	"hevrin/network"
)

// AuthorityPath is where phones get the certificate of the yard's authority, which they must trust before anything
// else.
const AuthorityPath = "/hevrin-authority.crt"

// giveAuthority hands the certificate out, as the kind of file that phones offer to install.
func giveAuthority(certificate []byte) echo.HandlerFunc {
	return func(c *echo.Context) error {
		c.Response().Header().Set("Content-Disposition", `attachment; filename="hevrin-authority.crt"`)
		return c.Blob(http.StatusOK, "application/x-x509-ca-cert", certificate)
	}
}

// Plain answers where the yard's program is asked without TLS: it leads to the secure address, and hands out the
// certificate of the yard's authority, if there is one. Nothing else is said there. port is that of TLS, with its
// colon.
func Plain(s network.Settings, port string, authority []byte) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		host := r.Host
		if h, _, err := net.SplitHostPort(r.Host); err == nil {
			host = h
		}
		w.Header().Set("X-Content-Type-Options", "nosniff")
		switch {
		case !s.Answers(r.Host):
			http.Error(w, "Hevrin answers to no such name", http.StatusMisdirectedRequest)
		case r.URL.Path == AuthorityPath && len(authority) > 0:
			w.Header().Set("Content-Type", "application/x-x509-ca-cert")
			w.Header().Set("Content-Disposition", `attachment; filename="hevrin-authority.crt"`)
			_, _ = w.Write(authority)
		default:
			if ip := net.ParseIP(host); ip != nil && ip.To4() == nil {
				host = "[" + ip.String() + "]"
			}
			to := *r.URL
			to.Scheme, to.Host, to.User = "https", host+port, nil
			http.Redirect(w, r, to.String(), http.StatusPermanentRedirect)
		}
	})
}
