package live_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/live"
)

// The program listens on this machine and on private networks, and is not led anywhere else.
func TestAGatewayIsNear(t *testing.T) {
	for address, near := range map[string]bool{"127.0.0.1:1": true, "localhost:10110": true, "[::1]:9": true,
		"192.168.1.20:10110": true, "10.0.0.2:10110": true, "172.16.0.1:1": true, "169.254.3.4:1": true, "[fd00::1]:1": true,
		"172.32.0.1:1": false, "8.8.8.8:53": false, "gateway.example:1": false, "0.0.0.0:1": false, "[2001:db8::1]:1": false,
		"nonsense": false} {
		assert.Equal(t, near, live.CheckNear(address) == nil, address)
	}
	assert.True(t, live.OnThisMachine("127.0.0.1:1"))
	assert.False(t, live.OnThisMachine("192.168.1.20:1"))
}
