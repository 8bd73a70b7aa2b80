package server

import (
	"net"
	"net/http"
	"net/http/httptest"
	"net/netip"
	"os"
	"os/exec"
	"syscall"
	"testing"

	"github.com/labstack/echo/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Whose a connection is is told for either kind of address.
func TestWhoseAConnectionIs(t *testing.T) {
	if !knowsAccounts {
		t.Skip("not known on this system")
	}
	for _, at := range []string{"127.0.0.1:0", "[::1]:0"} {
		l, err := net.Listen("tcp", at)
		if err != nil {
			continue // no IPv6 here
		}
		c, err := net.Dial("tcp", l.Addr().String())
		require.NoError(t, err)
		uid, ok := accountOf(netip.MustParseAddrPort(c.LocalAddr().String()))
		assert.True(t, ok, at)
		assert.Equal(t, os.Getuid(), uid, at)
		require.NoError(t, c.Close())
		require.NoError(t, l.Close())
	}
	_, ok := accountOf(netip.MustParseAddrPort("127.0.0.1:1"))
	assert.False(t, ok)
}

// Alone the record is for the account that started the program: another one of the same machine is refused.
func TestAnotherAccountOfTheMachineIsRefused(t *testing.T) {
	e := echo.New()
	e.Use(ownAccount)
	e.GET("/", func(c *echo.Context) error { return c.String(http.StatusOK, "the record") })
	web := httptest.NewUnstartedServer(e)
	web.Config.ConnContext = withAccount
	web.Start()
	defer web.Close()
	_, port, err := net.SplitHostPort(web.Listener.Addr().String())
	require.NoError(t, err)
	ask := func(as *syscall.Credential) string {
		get := exec.Command("bash", "-c", `exec 3<>/dev/tcp/127.0.0.1/`+port+ //nolint:gosec // the test's own words
			`; printf 'GET / HTTP/1.0\r\nHost: localhost\r\n\r\n' >&3; cat <&3`)
		get.Dir, get.SysProcAttr = "/", &syscall.SysProcAttr{Credential: as}
		out, err := get.CombinedOutput()
		require.NoError(t, err, string(out))
		return string(out)
	}
	if _, err := exec.LookPath("bash"); err != nil {
		t.Skip("nothing here to ask with")
	}
	assert.Contains(t, ask(nil), "200 OK")
	if !knowsAccounts || os.Getuid() != 0 {
		t.Skip("no other account can be taken here")
	}
	assert.Contains(t, ask(&syscall.Credential{Uid: 65534, Gid: 65534}), "403 Forbidden")
}
