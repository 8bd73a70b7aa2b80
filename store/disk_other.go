//go:build !unix

package store

import "syscall"

// freeMB is not known here.
func freeMB(string) int64 { return -1 }

// mayWrite is found out by writing here.
func mayWrite(string) bool { return true }

func fullDisk(e syscall.Errno) bool { return e == syscall.ENOSPC }
