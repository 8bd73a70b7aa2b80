package network

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/sha256"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/hex"
	"encoding/pem"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"math/big"
	"net"
	"net/netip"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"
)

// The authority's files in a data folder. Its certificate is what phones are given; its key stays.
const (
	authorityCert = "authority.crt"
	authorityKey  = "authority.key"
)

// How long certificates hold: the authority's ten years; the program's own as long as phones take one for at most (397
// days), renewed a month before.
const (
	authorityFor = 10 * 365 * 24 * time.Hour
	leafFor      = 397 * 24 * time.Hour
	renewBefore  = 30 * 24 * time.Hour
	skew         = 24 * time.Hour // a phone's clock may be behind
)

// private are the networks for which the yard's authority may speak: those that nobody has for themselves on the
// internet (RFC 1918, RFC 4193), this machine, and links without a router (RFC 3927, RFC 4291).
var private = []string{"10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16", "127.0.0.0/8", "fc00::/7",
	"fe80::/10", "::1/128"}

// IsPrivate says whether an address is one of those.
func IsPrivate(ip netip.Addr) bool {
	return slices.ContainsFunc(private, func(p string) bool { return netip.MustParsePrefix(p).Contains(ip.Unmap()) })
}

// Authority makes certificates for the yard's names.
type Authority struct {
	cert *x509.Certificate
	key  *ecdsa.PrivateKey
}

// MakeAuthority makes an authority that can speak for the hosts of the settings and for private addresses, and for
// nothing else, and keeps it in a data folder in the place of any other.
func MakeAuthority(folder string, hosts []string, now time.Time) (*Authority, error) {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, err
	}
	t := &x509.Certificate{SerialNumber: serial(), Subject: pkix.Name{CommonName: "Hevrin yard " + now.Format("2 "+
		"January 2006")},
		NotBefore: now.Add(-skew), NotAfter: now.Add(authorityFor), IsCA: true, BasicConstraintsValid: true,
		MaxPathLenZero: true, KeyUsage: x509.KeyUsageCertSign | x509.KeyUsageCRLSign,
		PermittedDNSDomainsCritical: true}
	for _, p := range private {
		_, net, err := net.ParseCIDR(p)
		if err != nil {
			return nil, err
		}
		t.PermittedIPRanges = append(t.PermittedIPRanges, net)
	}
	for _, h := range hosts {
		ip, err := netip.ParseAddr(h)
		switch {
		case err != nil:
			t.PermittedDNSDomains = append(t.PermittedDNSDomains, h)
		case !IsPrivate(ip):
			return nil, fmt.Errorf("%s is not a private address: use certificate files for it, or a name", h)
		}
	}
	if len(t.PermittedDNSDomains) == 0 { // none would mean any
		t.PermittedDNSDomains = []string{"hevrin.invalid"}
	}
	raw, err := x509.CreateCertificate(rand.Reader, t, t, &key.PublicKey, key)
	if err != nil {
		return nil, err
	}
	der, err := x509.MarshalPKCS8PrivateKey(key)
	if err != nil {
		return nil, err
	}
	err = errors.Join(
		written(filepath.Join(folder, authorityKey), pem.EncodeToMemory(&pem.Block{Type: "PRIVATE KEY", Bytes: der})),
		written(filepath.Join(folder, authorityCert), pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: raw})))
	if err != nil {
		return nil, err
	}
	return LoadAuthority(folder)
}

func serial() *big.Int {
	n, err := rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 127))
	if err != nil {
		panic(err) // the system gives no random numbers
	}
	return n
}

// LoadAuthority reads the authority of a data folder. Its key must be its owner's alone.
func LoadAuthority(folder string) (*Authority, error) {
	file := filepath.Join(folder, authorityKey)
	facts, err := os.Stat(file)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, fmt.Errorf("the yard's authority is gone: run hevrin setup again (%w)", err)
	}
	if err != nil {
		return nil, err
	}
	if facts.Mode().Perm()&0o077 != 0 && filepath.Separator == '/' {
		return nil, fmt.Errorf("%s can be read by others: say chmod 600 %s", file, file)
	}
	pair, err := tls.LoadX509KeyPair(filepath.Join(folder, authorityCert), file)
	if err != nil {
		return nil, fmt.Errorf("the yard's authority cannot be read: run hevrin setup again (%w)", err)
	}
	key, ok := pair.PrivateKey.(*ecdsa.PrivateKey)
	if !ok {
		return nil, errors.New("the yard's authority has a key of another kind: run hevrin setup again")
	}
	cert, err := x509.ParseCertificate(pair.Certificate[0])
	return &Authority{cert, key}, err
}

// Covers says whether the authority can speak for all of some hosts: names that it was made for, and private addresses.
func (a *Authority) Covers(hosts []string) bool {
	return !slices.ContainsFunc(hosts, func(host string) bool {
		if ip, err := netip.ParseAddr(host); err == nil {
			return !IsPrivate(ip)
		}
		return !slices.ContainsFunc(a.cert.PermittedDNSDomains, func(d string) bool { return strings.EqualFold(d, host) })
	})
}

// Certificate is the authority's own certificate, as a file that phones take (DER).
func (a *Authority) Certificate() []byte { return slices.Clone(a.cert.Raw) }

// Fingerprint is the SHA-256 of the certificate, in pairs, as phones show it.
func (a *Authority) Fingerprint() string {
	sum := sha256.Sum256(a.cert.Raw)
	text := strings.ToUpper(hex.EncodeToString(sum[:]))
	var pairs []string
	for i := 0; i < len(text); i += 2 {
		pairs = append(pairs, text[i:i+2])
	}
	return strings.Join(pairs, ":")
}

// Issue makes a certificate for hosts, signed by the authority.
func (a *Authority) Issue(hosts []string, now time.Time) (*tls.Certificate, error) {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, err
	}
	t := &x509.Certificate{SerialNumber: serial(), Subject: pkix.Name{CommonName: hosts[0]}, NotBefore: now.Add(-skew),
		NotAfter: now.Add(leafFor - skew), KeyUsage: x509.KeyUsageDigitalSignature,
		ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth}}
	for _, h := range hosts {
		if ip := net.ParseIP(h); ip != nil {
			t.IPAddresses = append(t.IPAddresses, ip)
		} else {
			t.DNSNames = append(t.DNSNames, h)
		}
	}
	raw, err := x509.CreateCertificate(rand.Reader, t, a.cert, &key.PublicKey, a.key)
	if err != nil {
		return nil, err
	}
	leaf, err := x509.ParseCertificate(raw)
	return &tls.Certificate{Certificate: [][]byte{raw, a.cert.Raw}, PrivateKey: key, Leaf: leaf}, err
}

// Config gives what a listener needs; nil behind a proxy, which does it. Certificates are renewed, or read again, by
// themselves.
func (s Settings) Config(folder string, now func() time.Time) (*tls.Config, error) {
	var get func() (*tls.Certificate, error)
	switch s.TLS {
	case Proxy:
		return nil, nil
	case Files:
		get = (&pair{cert: s.Certificate, key: s.Key, now: now}).get
	default:
		authority, err := LoadAuthority(folder)
		if err != nil {
			return nil, err
		}
		get = (&leaf{authority: authority, hosts: s.Hosts, now: now}).get
	}
	if _, err := get(); err != nil { // told at the start
		return nil, err
	}
	return &tls.Config{MinVersion: tls.VersionTLS12,
		GetCertificate: func(*tls.ClientHelloInfo) (*tls.Certificate, error) { return get() }}, nil
}

// leaf is a certificate of the yard's authority that is renewed in time.
type leaf struct {
	authority *Authority
	hosts     []string
	now       func() time.Time
	mu        sync.Mutex
	held      *tls.Certificate
}

func (l *leaf) get() (*tls.Certificate, error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	now := l.now()
	if l.held != nil && now.Before(l.held.Leaf.NotAfter.Add(-renewBefore)) && now.After(l.held.Leaf.NotBefore) {
		return l.held, nil
	}
	fresh, err := l.authority.Issue(l.hosts, now)
	if err != nil {
		return l.held, err
	}
	l.held = fresh
	return fresh, nil
}

// pair is a certificate in files that are looked at again now and then.
type pair struct {
	cert, key string
	now       func() time.Time
	mu        sync.Mutex
	held      *tls.Certificate
	looks     string
	asked     time.Time
}

// lookAgain is how often files are looked at.
const lookAgain = 10 * time.Second

func (p *pair) get() (*tls.Certificate, error) {
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.held != nil && p.now().Sub(p.asked) < lookAgain {
		return p.held, nil
	}
	p.asked = p.now()
	looks := ""
	for _, file := range []string{p.cert, p.key} {
		if facts, err := os.Stat(file); err == nil {
			looks += fmt.Sprint(facts.Size(), facts.ModTime().UnixNano(), " ")
		}
	}
	if p.held != nil && looks == p.looks {
		return p.held, nil
	}
	fresh, err := tls.LoadX509KeyPair(p.cert, p.key)
	if err != nil {
		if p.held != nil { // half written, or gone for a moment: the one of before goes on
			slog.Error("the certificate cannot be read again", "file", p.cert, "error", err)
			return p.held, nil
		}
		return nil, fmt.Errorf("the certificate cannot be read: look at %s and %s (%w)", p.cert, p.key, err)
	}
	p.held, p.looks = &fresh, looks
	return p.held, nil
}
