// Package network says how a yard's phones reach the program: under which names, with which certificate, behind which
// proxy. It makes a small authority of the yard's own where there is no other certificate.
package network

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"net/netip"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"

	"hevrin/core/units"
	"hevrin/core/validation"
)

// How the link is kept secret.
const (
	OwnAuthority = "own"   // by certificates of an authority made at set-up
	Files        = "files" // by certificate files, read again when they change
	Proxy        = "proxy" // by a proxy before the program, which speaks plainly to it
)

// Settings are how the yard's network reaches the program. They lie in its data folder.
type Settings struct {
	Hosts       []string `json:"hosts"` // names and addresses under which it answers
	TLS         string   `json:"tls"`
	Certificate string   `json:"certificate,omitempty"`
	Key         string   `json:"key,omitempty"`
	Proxies     []string `json:"proxies,omitempty"` // networks of the proxy, as 127.0.0.1/32
}

// fileName is where settings lie in a data folder.
const fileName = "network.json"

// ErrNotSetUp says that nothing was set up yet.
var ErrNotSetUp = errors.New("no network is set up")

// Load reads the settings of a data folder. ErrNotSetUp where there are none.
func Load(folder string) (Settings, error) {
	var s Settings
	raw, err := os.ReadFile(filepath.Join(folder, fileName)) //nolint:gosec // our own
	if errors.Is(err, fs.ErrNotExist) {
		return s, ErrNotSetUp
	}
	if err != nil {
		return s, err
	}
	if err := json.Unmarshal(raw, &s); err != nil {
		return s, fmt.Errorf("%s cannot be read: run hevrin setup again (%w)", fileName, err)
	}
	return s, s.Check()
}

// Save writes the settings into a data folder, where nobody else may read them.
func (s Settings) Save(folder string) error {
	if err := s.Check(); err != nil {
		return err
	}
	raw, err := json.MarshalIndent(s, "", "  ")
	if err != nil {
		return err
	}
	return written(filepath.Join(folder, fileName), append(raw, '\n'))
}

// written puts a file in its place, whole or not at all, for its owner alone.
func written(file string, raw []byte) error {
	part := file + ".part"
	if err := os.WriteFile(part, raw, 0o600); err != nil {
		return err
	}
	return os.Rename(part, file)
}

// hostName is a name of RFC 1123, in small letters.
var hostName = regexp.MustCompile(`^([a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?)(\.[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?)*$`)

const mostHosts = 20

// Check says what does not fit.
func (s Settings) Check() error {
	var wrong validation.Errors
	if len(s.Hosts) == 0 || len(s.Hosts) > mostHosts {
		wrong.Add("hosts", len(s.Hosts), units.Say("1 to %d names or addresses", mostHosts),
			"say under which name or address phones reach this machine, as hevrin.local or 192.168.1.20")
	}
	for i, h := range s.Hosts {
		ip, err := netip.ParseAddr(h)
		switch {
		case err != nil && (!hostName.MatchString(h) || len(h) > 253):
			wrong.Add(fmt.Sprintf("hosts[%d]", i), h, "a name as hevrin.local, an address as 192.168.1.20",
				"write it without https:// and without a port")
		case err == nil && s.TLS == OwnAuthority && !IsPrivate(ip):
			wrong.Add(fmt.Sprintf("hosts[%d]", i), h, "an address that is not of the internet, or a name",
				"%s is not a private address: the yard's own authority does not speak for it; use certificate files", h)
		}
	}
	switch s.TLS {
	case OwnAuthority:
	case Files:
		if s.Certificate == "" || s.Key == "" {
			wrong.Add("certificate", "nothing", "two files", "say where the certificate and its key lie")
		}
	case Proxy:
		if len(s.Proxies) == 0 {
			wrong.Add("proxies", "nothing", "a network as 127.0.0.1/32", "say from where the proxy speaks to this program")
		}
	default:
		wrong.Add("tls", s.TLS, "own, files, proxy", "say how the link is kept secret")
	}
	for i, p := range s.Proxies {
		if _, err := netip.ParsePrefix(p); err != nil {
			wrong.Add(fmt.Sprintf("proxies[%d]", i), p, "a network as 127.0.0.1/32", "write it with its length")
		}
	}
	return wrong.Err()
}

// Answers says whether the program answers to a host, as a request names it, with or without a port.
func (s Settings) Answers(host string) bool {
	if at := strings.LastIndexByte(host, ':'); at >= 0 && !strings.HasSuffix(host, "]") && strings.Count(host, ":") == 1 ||
		strings.Contains(host, "]:") {
		host = host[:at]
	}
	host = strings.ToLower(strings.TrimSuffix(strings.Trim(host, "[]"), "."))
	if ip, err := netip.ParseAddr(host); err == nil {
		return slices.ContainsFunc(s.Hosts, func(h string) bool {
			is, err := netip.ParseAddr(h)
			return err == nil && is == ip
		})
	}
	return slices.Contains(s.Hosts, host)
}

// FromProxy says whether an address is the proxy's.
func (s Settings) FromProxy(address string) bool {
	ip, err := netip.ParseAddr(address)
	return err == nil && slices.ContainsFunc(s.Proxies, func(p string) bool {
		net, err := netip.ParsePrefix(p)
		return err == nil && net.Contains(ip.Unmap())
	})
}

// Forever says whether browsers may be told never to ask without TLS again: not with an authority of one's own, which
// another device may not know.
func (s Settings) Forever() bool { return s.TLS != OwnAuthority }
