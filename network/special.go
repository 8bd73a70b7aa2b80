package network

import (
	"net/netip"
	"slices"
)

// special are the addresses that are not of the internet at large: IANA's special-purpose registries for IPv4 and IPv6
// (RFC 6890, RFC 8190), as far as they are not globally reachable, with multicast and what is reserved. From memory of
// the registries as of 2024; look them up before you rely on one.
var special = prefixes(
	"0.0.0.0/8",         // this network, RFC 791
	"10.0.0.0/8",        // private, RFC 1918
	"100.64.0.0/10",     // between a provider and its customers, RFC 6598
	"127.0.0.0/8",       // this machine, RFC 1122
	"169.254.0.0/16",    // a link without a router, RFC 3927
	"172.16.0.0/12",     // private, RFC 1918
	"192.0.0.0/24",      // protocol assignments, RFC 6890
	"192.0.2.0/24",      // documentation, RFC 5737
	"192.31.196.0/24",   // AS112, RFC 7535
	"192.52.193.0/24",   // AMT, RFC 7450
	"192.88.99.0/24",    // 6to4 relays, RFC 7526
	"192.168.0.0/16",    // private, RFC 1918
	"192.175.48.0/24",   // AS112, RFC 7534
	"198.18.0.0/15",     // benchmarks, RFC 2544
	"198.51.100.0/24",   // documentation, RFC 5737
	"203.0.113.0/24",    // documentation, RFC 5737
	"224.0.0.0/4",       // multicast, RFC 5771
	"240.0.0.0/4",       // reserved, and broadcast, RFC 1112, RFC 8190
	"::/96",             // unspecified, this machine, IPv4-compatible, RFC 4291
	"64:ff9b:1::/48",    // a translator's own, RFC 8215
	"100::/64",          // discarded, RFC 6666
	"100:0:0:1::/64",    // dummy, RFC 9780
	"2001::/23",         // protocol assignments, Teredo, ORCHID, benchmarks, RFC 2928
	"2001:db8::/32",     // documentation, RFC 3849
	"2620:4f:8000::/48", // AS112, RFC 7534
	"3fff::/20",         // documentation, RFC 9637
	"5f00::/16",         // segment routing, RFC 9602
	"fc00::/7",          // private, RFC 4193
	"fe80::/10",         // a link, RFC 4291
	"fec0::/10",         // site-local, given up, RFC 3879
	"ff00::/8",          // multicast, RFC 4291
)

// nat64 and sixToFour carry an IPv4 address within: RFC 6052 in the last 4 bytes, RFC 3056 after the first 2.
var (
	nat64     = netip.MustParsePrefix("64:ff9b::/96")
	sixToFour = netip.MustParsePrefix("2002::/16")
)

// IsGlobal says whether an address is of the internet at large, the IPv4 address within an IPv6 one too.
func IsGlobal(ip netip.Addr) bool {
	ip = ip.WithZone("").Unmap()
	if !ip.IsValid() {
		return false
	}
	within := ip.As16()
	switch {
	case nat64.Contains(ip):
		return IsGlobal(netip.AddrFrom4([4]byte(within[12:16])))
	case sixToFour.Contains(ip):
		return IsGlobal(netip.AddrFrom4([4]byte(within[2:6])))
	}
	return !slices.ContainsFunc(special, func(p netip.Prefix) bool { return p.Contains(ip) })
}

func prefixes(list ...string) (out []netip.Prefix) {
	for _, p := range list {
		out = append(out, netip.MustParsePrefix(p))
	}
	return out
}
