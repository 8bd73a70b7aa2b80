package server_test

import (
	"context"
	"encoding/base64"
	"errors"
	"net/url"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api"
	"hevrin/app/people"
	core "hevrin/core/people"
)

// service stands in for what carries messages to browsers.
type service struct {
	mu    sync.Mutex
	sent  map[string][]people.Message
	fails error
}

func (s *service) PublicKey() string { return "the program's" }

func (s *service) Check(to *url.URL) error {
	if to.Host != "service.example" {
		return errors.New("it is no service")
	}
	return nil
}

func (s *service) Push(_ context.Context, to people.Subscription, m people.Message) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.fails != nil {
		return s.fails
	}
	s.sent[to.Endpoint] = append(s.sent[to.Endpoint], m)
	return nil
}

func (s *service) titles(endpoint string) (out []string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	for _, m := range s.sent[endpoint] {
		out = append(out, m.Title)
	}
	return out
}

func TestRemindersGoToTheDeviceThatAsks(t *testing.T) {
	y := newYard(t, ownTLS)
	kit := y.person("Kit Venn", core.Technician)
	none := read[api.Pushing](t, kit.ask("GET", base+"/session/push", nil))
	assert.Nil(t, none.Key, "nothing is pushed where no service is reached")
	s := &service{sent: map[string][]people.Message{}}
	y.people.PushBy(s)
	assert.Equal(t, "the program's", *read[api.Pushing](t, kit.ask("GET", base+"/session/push", nil)).Key)
	keys := func(endpoint string) map[string]any {
		b64 := base64.RawURLEncoding
		return map[string]any{"endpoint": endpoint, "p256dh": b64.EncodeToString(make([]byte, 65)),
			"auth": b64.EncodeToString(make([]byte, 16))}
	}
	const phone, tablet = "https://service.example/phone", "https://service.example/tablet"
	for _, bad := range []map[string]any{keys("https://yard.test/x"), keys("::"),
		{"endpoint": phone, "p256dh": "abc", "auth": keys("")["auth"]}, {"endpoint": phone, "p256dh": keys("")["p256dh"], "auth": "!"}} {
		assert.Equal(t, 422, kit.ask("PUT", base+"/session/push", bad).Code, bad)
	}
	assert.True(t, read[api.Pushing](t, kit.ask("PUT", base+"/session/push", keys(phone))).On)
	y.people.Settle()
	assert.Equal(t, []string{"Hevrin reminds you here"}, s.titles(phone))
	assert.False(t, read[api.Pushing](t, y.boss().ask("GET", base+"/session/push", nil)).On, "another's device is another's")

	// what happens to the account is told on its other devices, and stands under the person's name
	other := y.browser().signIn("Kit Venn", hisPhrase)
	require.Eventually(t, func() bool { return len(s.titles(phone)) == 2 }, 60*time.Second, 10*time.Millisecond)
	read[api.Pushing](t, other.ask("PUT", base+"/session/push", keys(tablet)))
	y.people.Settle()
	assert.Equal(t, []string{"Hevrin reminds you here"}, s.titles(tablet))
	news := read[api.AccountNews](t, kit.ask("GET", base+"/session/news", nil)).News
	require.Len(t, news, 3)
	assert.Equal(t, "Signed in on another device", news[0].Say)
	assert.Equal(t, bossName, news[2].By, "who invited")
	for _, n := range read[api.AccountNews](t, y.boss().ask("GET", base+"/session/news", nil)).News {
		assert.NotEqual(t, "Kit Venn", n.By, "each sees their own")
	}

	// reminders go once a day, not to who was told, not to a device that was signed out
	today := time.Now().UTC().Add(48 * time.Hour)
	say := func(time.Time) (people.Message, error) { return people.Message{Title: "due"}, nil }
	require.NoError(t, y.people.Remind(t.Context(), today, say))
	require.NoError(t, y.people.Remind(t.Context(), today, say))
	assert.Equal(t, []string{"Hevrin reminds you here", "due"}, s.titles(tablet))
	read[api.Session](t, other.ask("DELETE", base+"/session", nil))
	require.NoError(t, y.people.Remind(t.Context(), today.Add(24*time.Hour), say))
	assert.Len(t, s.titles(tablet), 2)
	assert.Len(t, s.titles(phone), 4)

	// what did not go, as the internet was not there, goes later
	s.fails = errors.New("not reached")
	require.NoError(t, y.people.Remind(t.Context(), today.Add(36*time.Hour), say))
	assert.Len(t, s.titles(phone), 4)
	s.fails = nil
	require.NoError(t, y.people.Remind(t.Context(), today.Add(36*time.Hour), say))
	assert.Len(t, s.titles(phone), 5)

	// why nothing comes is said; what the browser gave up is let go
	s.fails = errors.New("the browser's service is not reached from here")
	read[api.Pushing](t, kit.ask("PUT", base+"/session/push", keys(phone)))
	y.people.Settle()
	failed := read[api.Pushing](t, kit.ask("GET", base+"/session/push", nil))
	assert.Contains(t, *failed.Failed, "not reached")
	s.fails = people.ErrNoSubscription
	require.NoError(t, y.people.Remind(t.Context(), today.Add(48*time.Hour), say))
	assert.False(t, read[api.Pushing](t, kit.ask("GET", base+"/session/push", nil)).On)
	s.fails = nil
	read[api.Pushing](t, kit.ask("PUT", base+"/session/push", keys(phone)))
	y.people.Settle()
	assert.False(t, read[api.Pushing](t, kit.ask("DELETE", base+"/session/push", nil)).On)
}
