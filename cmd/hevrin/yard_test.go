package main

import (
	"bytes"
	"crypto/tls"
	"crypto/x509"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const goodPhrase = "kettle moss ladder orange\n"

func TestNobodyIsLetInBeforeItIsSetUp(t *testing.T) {
	folder := t.TempDir()
	_, err := hevrin("", "serve", "--data", folder, "--listen", "127.0.0.9:0")
	require.Error(t, err)
	lines := strings.Split(err.Error(), "\n")
	require.Len(t, lines, 2)
	assert.Contains(t, lines[0], "nobody could sign in yet")
	assert.Contains(t, lines[1], "Say first: hevrin setup --host")
	for name, c := range map[string]struct {
		in, say string
		args    []string
	}{
		"no host":       {goodPhrase, "say under which name or address", []string{"--manager", "A"}},
		"no manager":    {goodPhrase, "say who leads the yard", []string{"--host", "a.local"}},
		"a weak phrase": {"password1234\n", "tried first", []string{"--host", "a.local", "--manager", "A"}},
		"no phrase":     {"", "12 letters or more", []string{"--host", "a.local", "--manager", "A"}},
		"a public one":  {goodPhrase, "not a private address", []string{"--host", "8.8.8.8", "--manager", "A"}},
		"no files":      {goodPhrase, "where the certificate", []string{"--host", "a.local", "--manager", "A", "--tls", "files"}},
	} {
		_, err := hevrin(c.in, append([]string{"setup", "--data", folder}, c.args...)...)
		assert.ErrorContains(t, err, c.say, name)
		assert.NotContains(t, err.Error(), "password1234")
	}
	// alone it answers this machine and nothing else, set up or not
	for _, address := range []string{"0.0.0.0:0", "192.168.1.5:8420", ":8420"} {
		_, err = hevrin("", "serve", "--data", folder, "--addr", address)
		assert.ErrorContains(t, err, "could be reached from other machines", address)
		_, err = hevrin("", "demo", "--data", folder, "--addr", address)
		assert.ErrorContains(t, err, "could be reached from other machines", address)
	}
}

// freePort is one that nobody listens on now.
func freePort(t *testing.T, address string) string {
	l, err := net.Listen("tcp", address+":0")
	require.NoError(t, err)
	defer func() { _ = l.Close() }()
	_, port, err := net.SplitHostPort(l.Addr().String())
	require.NoError(t, err)
	return port
}

// Set up a second time, the certificate that phones trust stays, unless another one is asked for.
func TestSetUpTwiceKeepsTheAuthority(t *testing.T) {
	folder := t.TempDir()
	set := func(args ...string) (string, error) {
		return hevrin(goodPhrase, append([]string{"setup", "--data", folder, "--manager", "Tamsin Vane"}, args...)...)
	}
	authority := func() string {
		raw, err := os.ReadFile(filepath.Join(folder, "authority.crt"))
		require.NoError(t, err)
		return string(raw)
	}
	_, err := set("--host", "yard.test")
	require.NoError(t, err)
	first := authority()
	_, err = set("--host", "yard.test", "--host", "192.168.1.20")
	require.NoError(t, err)
	assert.Equal(t, first, authority())
	_, err = set("--host", "other.test")
	assert.ErrorContains(t, err, "--new-authority")
	assert.Equal(t, first, authority())
	_, err = set("--host", "other.test", "--new-authority")
	require.NoError(t, err)
	assert.NotEqual(t, first, authority())
}

// The yard over its own authority: trusted by who was given its certificate, and by nobody else; over TLS 1.2 and
// later, and HTTP/2; plain HTTP leads there and says nothing.
func TestAYardIsServedOverTLS(t *testing.T) {
	folder, address := t.TempDir(), "127.0.0.9"
	out, err := hevrin(goodPhrase, "setup", "--data", folder, "--host", address, "--host", "yard.test", "--manager", "Tamsin Vane")
	require.NoError(t, err)
	assert.Contains(t, out, "hevrin serve --listen :8443 --data "+folder)
	port, plain := freePort(t, address), freePort(t, address)
	cmd := exec.Command(os.Args[0], "serve", "--data", folder, "--listen", address+":"+port, "--http", address+":"+plain) //nolint:gosec // the test's own binary
	cmd.Env = append(os.Environ(), runAsProgram+"=1")
	var said bytes.Buffer
	cmd.Stderr = &said
	require.NoError(t, cmd.Start())
	stop := func() {
		_ = cmd.Process.Signal(syscall.SIGTERM)
		assert.NoError(t, cmd.Wait(), said.String())
	}
	raw, err := os.ReadFile(filepath.Join(folder, "authority.crt"))
	require.NoError(t, err)
	roots := x509.NewCertPool()
	require.True(t, roots.AppendCertsFromPEM(raw))
	client := func(c *tls.Config) *http.Client {
		return &http.Client{Timeout: 60 * time.Second, Transport: &http.Transport{TLSClientConfig: c, ForceAttemptHTTP2: true},
			CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	}
	trusting := client(&tls.Config{RootCAs: roots, MinVersion: tls.VersionTLS12})
	base := "https://" + address + ":" + port
	var answer *http.Response
	require.Eventually(t, func() bool {
		answer, err = trusting.Get(base + "/api/v1/session")
		return err == nil
	}, 60*time.Second, 50*time.Millisecond)
	defer stop()
	body, _ := io.ReadAll(answer.Body)
	_ = answer.Body.Close()
	assert.JSONEq(t, `{"mode":"yard","rights":[],"signed_in":false,"tiles":[]}`, string(body))
	assert.Equal(t, "HTTP/2.0", answer.Proto)
	_, err = client(&tls.Config{MinVersion: tls.VersionTLS12}).Get(base + "/")
	assert.ErrorContains(t, err, "unknown authority")
	_, err = client(&tls.Config{RootCAs: roots, MinVersion: tls.VersionTLS10, MaxVersion: tls.VersionTLS11}).Get(base + "/") //nolint:gosec // that is the test
	assert.ErrorContains(t, err, "protocol version")

	plainly := "http://" + address + ":" + plain
	answer, err = trusting.Get(plainly + "/jobs/x?a=b")
	require.NoError(t, err)
	_ = answer.Body.Close()
	assert.Equal(t, http.StatusPermanentRedirect, answer.StatusCode)
	assert.Equal(t, base+"/jobs/x?a=b", answer.Header.Get("Location"))
	answer, err = trusting.Post(plainly+"/api/v1/session", "application/json", strings.NewReader(`{"name":"Tamsin Vane","passphrase":"`+
		strings.TrimSpace(goodPhrase)+`"}`))
	require.NoError(t, err)
	_ = answer.Body.Close()
	assert.Empty(t, answer.Cookies(), "nobody is signed in over a plain link")
	for _, at := range []string{plainly, base} {
		answer, err = trusting.Get(at + "/hevrin-authority.crt")
		require.NoError(t, err)
		der, _ := io.ReadAll(answer.Body)
		_ = answer.Body.Close()
		given, err := x509.ParseCertificate(der)
		require.NoError(t, err)
		assert.True(t, given.IsCA)
	}
	request, err := http.NewRequest(http.MethodGet, plainly+"/", nil)
	require.NoError(t, err)
	request.Host = "evil.example"
	answer, err = trusting.Do(request)
	require.NoError(t, err)
	_ = answer.Body.Close()
	assert.Equal(t, http.StatusMisdirectedRequest, answer.StatusCode)

	sign := func(phrase string) int {
		answer, err := trusting.Post(base+"/api/v1/session", "application/json", strings.NewReader(`{"name":"tamsin vane","passphrase":"`+phrase+`"}`))
		require.NoError(t, err)
		_ = answer.Body.Close()
		return answer.StatusCode
	}
	assert.Equal(t, 200, sign(strings.TrimSpace(goodPhrase)))
	// the manager who forgot hers, on the machine itself, while it runs
	_, err = hevrin("brass tide lantern almond\n", "passphrase", "Tamsin Vane", "--data", folder)
	require.NoError(t, err)
	assert.Equal(t, 403, sign(strings.TrimSpace(goodPhrase)))
	assert.Equal(t, 200, sign("brass tide lantern almond"))
	_, err = hevrin(goodPhrase, "passphrase", "Nobody", "--data", folder)
	assert.ErrorContains(t, err, "there is no person Nobody")
	assert.NotContains(t, said.String(), "brass tide")
	assert.NotContains(t, said.String(), "kettle moss")
}
