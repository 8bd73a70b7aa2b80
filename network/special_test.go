package network_test

import (
	"net/netip"
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/network"
)

// The bounds of each block of IANA's registries: the first and last address of it are none of the internet's, however
// they are written.
func TestWhatIsOfTheInternet(t *testing.T) {
	for _, ip := range []string{"0.0.0.0", "0.255.255.255", "10.0.0.1", "100.64.0.0", "100.127.255.255", "127.0.0.1",
		"169.254.169.254", "172.16.0.0", "172.31.255.255", "192.0.0.8", "192.0.2.1", "192.88.99.1", "192.168.255.255",
		"198.18.0.0", "198.19.255.255", "198.51.100.7", "203.0.113.9", "224.0.0.1", "239.255.255.255", "240.0.0.1",
		"255.255.255.255", "::", "::1", "::7f00:1", "::ffff:10.0.0.1", "64:ff9b::10.0.0.1", "64:ff9b::a9fe:a9fe",
		"64:ff9b:1::1", "100::1", "2001::1", "2001:0:4136:e378:8000:63bf:3fff:fdd2", "2001:2::1", "2001:db8::1",
		"2002:a00:1::1", "2002:c0a8:101::1", "2002:7f00:1::", "3fff::1", "5f00::1", "fc00::1", "fdff::1", "fe80::1%eth0",
		"fec0::1", "ff02::1"} {
		assert.False(t, network.IsGlobal(netip.MustParseAddr(ip)), ip)
	}
	for _, ip := range []string{"1.1.1.1", "9.255.255.255", "11.0.0.0", "100.63.255.255", "100.128.0.0", "126.0.0.1",
		"172.15.255.255", "172.32.0.0", "192.0.1.1", "198.17.255.255", "198.20.0.0", "223.255.255.255", "2600::1",
		"2a00:1450::1", "::ffff:1.1.1.1", "64:ff9b::101:101", "2002:101:101::1"} {
		assert.True(t, network.IsGlobal(netip.MustParseAddr(ip)), ip)
	}
	assert.False(t, network.IsGlobal(netip.Addr{}))
}
