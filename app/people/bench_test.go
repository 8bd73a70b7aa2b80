package people

import (
	"testing"

	"github.com/alexedwards/argon2id"
)

// A sign-in takes as long as its hash, and is to take 300 ms at most.
func BenchmarkPassphrase(b *testing.B) {
	hash, err := argon2id.CreateHash("kettle moss ladder orange", hashing)
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		if ok, err := argon2id.ComparePasswordAndHash("kettle moss ladder orange", hash); err != nil || !ok {
			b.Fatal(err)
		}
	}
}
