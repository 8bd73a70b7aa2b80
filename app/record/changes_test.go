package record

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/core/eventlog"
)

func TestChangesAreGivenSinceANumber(t *testing.T) {
	var c Changes
	list, last, news, ok := c.Since(0)
	assert.True(t, ok)
	assert.Empty(t, list)
	assert.Zero(t, last)
	c.publish(eventlog.Entry{ID: "a", Subject: eventlog.Subject{Kind: eventlog.OfJob, ID: "j"}})
	select {
	case <-news:
	default:
		t.Fatal("whoever waited is not told")
	}
	c.publish(eventlog.Entry{ID: "b"})
	list, last, _, ok = c.Since(1)
	assert.True(t, ok)
	assert.Equal(t, int64(2), last)
	assert.Equal(t, []Change{{Number: 2, Entry: "b"}}, list)
	_, _, _, ok = c.Since(3)
	assert.False(t, ok, "a number of another run of the program")
}

func TestAnOldNumberMeansThatAnythingMayHaveChanged(t *testing.T) {
	var c Changes
	for i := range mostChanges + 1 {
		c.publish(eventlog.Entry{ID: fmt.Sprint(i)})
	}
	_, _, _, ok := c.Since(0)
	assert.False(t, ok)
	list, _, _, ok := c.Since(1)
	assert.True(t, ok)
	assert.Len(t, list, mostChanges)
}
