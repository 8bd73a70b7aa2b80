package network_test

import (
	"crypto/tls"
	"crypto/x509"
	"encoding/pem"
	"net/netip"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/network"
)

var now = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

func own(hosts ...string) network.Settings {
	return network.Settings{Hosts: hosts, TLS: network.OwnAuthority}
}

func TestSettingsAreCheckedAndStayTheirOwners(t *testing.T) {
	folder := t.TempDir()
	_, err := network.Load(folder)
	assert.ErrorIs(t, err, network.ErrNotSetUp)
	for name, c := range map[string]struct {
		s   network.Settings
		say string
	}{
		"no host":       {own(), "say under which name"},
		"a whole URL":   {own("https://hevrin.local"), "without https://"},
		"a port":        {own("hevrin.local:443"), "without a port"},
		"capitals":      {own("Hevrin.local"), "without https://"},
		"no tls":        {network.Settings{Hosts: []string{"a"}}, "how the link is kept secret"},
		"no files":      {network.Settings{Hosts: []string{"a"}, TLS: network.Files}, "where the certificate"},
		"no proxy":      {network.Settings{Hosts: []string{"a"}, TLS: network.Proxy}, "from where the proxy"},
		"no net":        {network.Settings{Hosts: []string{"a"}, TLS: network.Proxy, Proxies: []string{"127.0.0.1"}}, "with its length"},
		"far too many":  {own(make([]string, 21)...), "say under which name"},
		"an empty name": {own(""), "without https://"},
	} {
		assert.ErrorContains(t, c.s.Save(folder), c.say, name)
	}
	s := own("hevrin.local", "192.168.1.20", "fd00::5")
	require.NoError(t, s.Save(folder))
	is, err := network.Load(folder)
	require.NoError(t, err)
	assert.Equal(t, s, is)
	facts, err := os.Stat(filepath.Join(folder, "network.json"))
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), facts.Mode().Perm())
	require.NoError(t, os.WriteFile(filepath.Join(folder, "network.json"), []byte("{"), 0o600))
	_, err = network.Load(folder)
	assert.ErrorContains(t, err, "run hevrin setup again")
}

func TestOnlyTheYardsNamesAreAnswered(t *testing.T) {
	s := own("hevrin.local", "192.168.1.20", "fd00::5")
	for host, yes := range map[string]bool{"hevrin.local": true, "hevrin.local:8443": true, "HEVRIN.local.": true,
		"192.168.1.20:8443": true, "[fd00::5]:8443": true, "[fd00:0::5]": true, "evil.example": false, "localhost": false,
		"127.0.0.1:8443": false, "": false, "hevrin.local.evil.example": false, "192.168.1.200": false} {
		assert.Equal(t, yes, s.Answers(host), host)
	}
	p := network.Settings{Proxies: []string{"127.0.0.1/32", "10.1.0.0/16"}}
	for address, yes := range map[string]bool{"127.0.0.1": true, "127.0.0.2": false, "10.1.3.4": true, "10.2.0.1": false,
		"::ffff:127.0.0.1": true, "": false, "x": false} {
		assert.Equal(t, yes, p.FromProxy(address), address)
	}
	assert.False(t, s.Forever())
	assert.True(t, network.Settings{TLS: network.Files}.Forever())
}

// verified says whether a client that trusts the authority takes a certificate for a host.
func verified(t *testing.T, a *network.Authority, cert *tls.Certificate, host string, at time.Time) error {
	root, err := x509.ParseCertificate(a.Certificate())
	require.NoError(t, err)
	roots := x509.NewCertPool()
	roots.AddCert(root)
	_, err = cert.Leaf.Verify(x509.VerifyOptions{DNSName: host, Roots: roots, CurrentTime: at})
	return err
}

// The yard's authority speaks for its own names and for private addresses, and for nothing else: whoever steals its key
// cannot be another site.
func TestTheAuthorityIsBoundToTheYard(t *testing.T) {
	folder := t.TempDir()
	a, err := network.MakeAuthority(folder, []string{"hevrin.local", "192.168.1.20"}, now)
	require.NoError(t, err)
	leaf, err := a.Issue([]string{"hevrin.local", "192.168.1.20", "fd00::5"}, now)
	require.NoError(t, err)
	for _, host := range []string{"hevrin.local", "192.168.1.20", "fd00::5"} {
		assert.NoError(t, verified(t, a, leaf, host, now), host)
	}
	assert.LessOrEqual(t, leaf.Leaf.NotAfter.Sub(leaf.Leaf.NotBefore), 398*24*time.Hour, "phones take no longer ones")
	for _, host := range []string{"bank.example", "8.8.8.8"} {
		forged, err := a.Issue([]string{host}, now)
		require.NoError(t, err)
		assert.ErrorContains(t, verified(t, a, forged, host, now), "not permitted", host)
	}
	only, err := network.MakeAuthority(t.TempDir(), []string{"192.168.1.20"}, now)
	require.NoError(t, err)
	forged, err := only.Issue([]string{"bank.example"}, now)
	require.NoError(t, err)
	assert.Error(t, verified(t, only, forged, "bank.example", now), "an authority of addresses speaks for no name")
	_, err = network.MakeAuthority(t.TempDir(), []string{"8.8.8.8"}, now)
	assert.ErrorContains(t, err, "not a private address")

	again, err := network.LoadAuthority(folder)
	require.NoError(t, err)
	assert.Equal(t, a.Fingerprint(), again.Fingerprint())
	assert.Regexp(t, `^([0-9A-F]{2}:){31}[0-9A-F]{2}$`, a.Fingerprint())
	key := filepath.Join(folder, "authority.key")
	facts, err := os.Stat(key)
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), facts.Mode().Perm())
	require.NoError(t, os.Chmod(key, 0o644))
	_, err = network.LoadAuthority(folder)
	assert.ErrorContains(t, err, "chmod 600")
	require.NoError(t, os.Remove(key))
	_, err = network.LoadAuthority(folder)
	assert.ErrorContains(t, err, "run hevrin setup again")
	assert.True(t, network.IsPrivate(netip.MustParseAddr("172.31.255.1")))
	assert.False(t, network.IsPrivate(netip.MustParseAddr("172.32.0.1")))
}

func serialOf(t *testing.T, c *tls.Config) string {
	got, err := c.GetCertificate(nil)
	require.NoError(t, err)
	leaf, err := x509.ParseCertificate(got.Certificate[0])
	require.NoError(t, err)
	return leaf.SerialNumber.String()
}

func TestTheOwnCertificateIsRenewedInTime(t *testing.T) {
	folder, at := t.TempDir(), now
	_, err := network.MakeAuthority(folder, []string{"hevrin.local"}, now)
	require.NoError(t, err)
	c, err := own("hevrin.local").Config(folder, func() time.Time { return at })
	require.NoError(t, err)
	assert.Equal(t, uint16(tls.VersionTLS12), c.MinVersion)
	first := serialOf(t, c)
	at = now.Add(360 * 24 * time.Hour)
	assert.Equal(t, first, serialOf(t, c))
	at = now.Add(370 * 24 * time.Hour)
	assert.NotEqual(t, first, serialOf(t, c), "a month before it ends")
}

func TestCertificateFilesAreReadAgainWhenTheyChange(t *testing.T) {
	folder, at := t.TempDir(), now
	cert, key := filepath.Join(folder, "c.pem"), filepath.Join(folder, "k.pem")
	write := func() {
		a, err := network.MakeAuthority(t.TempDir(), []string{"hevrin.local"}, now)
		require.NoError(t, err)
		leaf, err := a.Issue([]string{"hevrin.local"}, now)
		require.NoError(t, err)
		der, err := x509.MarshalPKCS8PrivateKey(leaf.PrivateKey)
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(cert, pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: leaf.Certificate[0]}), 0o600))
		require.NoError(t, os.WriteFile(key, pem.EncodeToMemory(&pem.Block{Type: "PRIVATE KEY", Bytes: der}), 0o600))
	}
	s := network.Settings{Hosts: []string{"hevrin.local"}, TLS: network.Files, Certificate: cert, Key: key}
	_, err := s.Config(folder, func() time.Time { return at })
	assert.ErrorContains(t, err, "cannot be read")
	write()
	c, err := s.Config(folder, func() time.Time { return at })
	require.NoError(t, err)
	first := serialOf(t, c)
	write()
	assert.Equal(t, first, serialOf(t, c))
	at = at.Add(11 * time.Second)
	second := serialOf(t, c)
	assert.NotEqual(t, first, second)
	require.NoError(t, os.WriteFile(cert, []byte("half"), 0o600))
	at = at.Add(11 * time.Second)
	assert.Equal(t, second, serialOf(t, c), "one that is half written does not stop the yard")
	proxied, err := network.Settings{TLS: network.Proxy}.Config(folder, time.Now)
	require.NoError(t, err)
	assert.Nil(t, proxied)
}
