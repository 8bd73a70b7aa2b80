package server

import (
	"bufio"
	"encoding/binary"
	"fmt"
	"net/netip"
	"os"
	"strconv"
	"strings"
)

// knowsAccounts says whether it is known here whose a connection from this machine is.
const knowsAccounts = true

// accountOf is the account of this machine to which the other end of a connection on it belongs, by the kernel's own
// table (proc_net_tcp, Documentation/networking); not ok where the table does not tell.
func accountOf(remote netip.AddrPort) (uid int, ok bool) {
	ip := remote.Addr().Unmap()
	for _, file := range []string{"/proc/net/tcp", "/proc/net/tcp6"} {
		for _, want := range inKernelsWords(ip, remote.Port(), strings.HasSuffix(file, "6")) {
			if uid, ok := ownerIn(file, want); ok {
				return uid, true
			}
		}
	}
	return 0, false
}

// inKernelsWords is an address as the table writes it: 32 bits at a time, each as this machine's memory has them.
func inKernelsWords(ip netip.Addr, port uint16, six bool) []string {
	word := func(b []byte) string { return fmt.Sprintf("%08X", binary.NativeEndian.Uint32(b)) }
	var raw []byte
	switch {
	case !six && ip.Is4():
		raw = ip.AsSlice()
	case six:
		all := ip.As16()
		raw = all[:]
	default:
		return nil
	}
	text := ""
	for i := 0; i < len(raw); i += 4 {
		text += word(raw[i : i+4])
	}
	return []string{fmt.Sprintf("%s:%04X", text, port)}
}

// ownerIn finds the account of the socket with a local address in the table.
func ownerIn(file, local string) (uid int, ok bool) {
	f, err := os.Open(file) //nolint:gosec // the kernel's own
	if err != nil {
		return 0, false
	}
	defer func() { _ = f.Close() }()
	const localField, uidField = 1, 7
	for lines := bufio.NewScanner(f); lines.Scan(); {
		fields := strings.Fields(lines.Text())
		if len(fields) <= uidField || fields[localField] != local {
			continue
		}
		uid, err := strconv.Atoi(fields[uidField])
		return uid, err == nil
	}
	return 0, false
}
