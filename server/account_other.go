//go:build !linux

package server

import "net/netip"

// knowsAccounts says whether it is known here whose a connection from this machine is.
const knowsAccounts = false

// accountOf is the account of this machine to which the other end of a connection on it belongs: not known here.
func accountOf(netip.AddrPort) (uid int, ok bool) { return 0, false }
