package main

import (
	"bytes"
	"context"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// On a leash the simulator ends by itself once nobody can say anything to it any more, having done what was said.
func TestTheRigEndsWithWhatStartedIt(t *testing.T) {
	ctx, end := context.WithTimeout(context.Background(), time.Minute)
	defer end()
	c := simulatorCommand()
	c.SetArgs([]string{"--addr", "127.0.0.1:0", "--leash", "--hold"})
	c.SetIn(strings.NewReader("now\nsurface elbow raw\n"))
	var said bytes.Buffer
	c.SetOut(&said)
	require.NoError(t, c.ExecuteContext(ctx))
	require.NoError(t, ctx.Err(), "it ended before it was stopped")
	lines := strings.Split(strings.TrimSpace(said.String()), "\n")
	require.Len(t, lines, 3)
	assert.Contains(t, lines[0], "The simulated gateway is at 127.0.0.1:")
	assert.Contains(t, lines[1], "0 rev/min")
	assert.Contains(t, lines[2], "°C", "what a surface thermometer reads there")
}

func TestARigThatCannotBeIsToldWhy(t *testing.T) {
	for flag, say := range map[string]string{"--type=turbine": "turbine", "--script=60": "60",
		"--faults=gremlins=0.5": "gremlins", "--line=hum=0.5": "hum", "--addr=192.0.2.7:0": "other machines"} {
		c := simulatorCommand()
		c.SetArgs([]string{"--addr", "127.0.0.1:0", flag})
		c.SetIn(strings.NewReader(""))
		c.SilenceErrors, c.SilenceUsage = true, true
		assert.ErrorContains(t, c.ExecuteContext(context.Background()), say, flag)
	}
}
