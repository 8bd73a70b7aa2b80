//go:build unix

package store

import (
	"syscall"

	"golang.org/x/sys/unix"
)

// freeMB is what the disk of a folder has room for; -1 where that is not known.
func freeMB(folder string) int64 {
	var disk unix.Statfs_t
	if unix.Statfs(folder, &disk) != nil {
		return -1
	}
	return int64(disk.Bavail) * int64(disk.Bsize) >> 20 //nolint:gosec,unconvert // other sizes elsewhere
}

func mayWrite(file string) bool { return unix.Access(file, unix.W_OK) == nil }

func fullDisk(e syscall.Errno) bool { return e == syscall.ENOSPC || e == syscall.EDQUOT }
