package people

import (
	"context"
	"encoding/base64"
	"errors"
	"log/slog"
	"net/url"
	"slices"
	"time"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/people"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Subscription is a device to which reminders are pushed: where its browser's service takes them, and the keys by which
// that browser alone reads them (RFC 8291). Told is the day up to which it was told what is due; Failed says why the
// last message did not go; empty: it went.
type Subscription struct {
	Endpoint string `gorm:"primaryKey"`
	PersonID string
	DeviceID string
	P256dh   string
	Auth     string
	MadeAt   time.Time
	Told     time.Time
	Failed   string
}

// TableName is where subscriptions lie.
func (Subscription) TableName() string { return "push_subscriptions" }

// Message is what is pushed. Path is the page that a tap on it opens; of messages with the same tag the newest stays.
type Message struct {
	Title string `json:"title"`
	Body  string `json:"body"`
	Path  string `json:"path"`
	Tag   string `json:"tag"`
}

// Pusher hands messages to the services of browsers.
type Pusher interface {
	// PublicKey is that of this program, for browsers (RFC 8292), base64url.
	PublicKey() string
	// Check says why an address is none to which messages are sent; nil: it is one.
	Check(endpoint *url.URL) error
	// Push sends a message; ErrNoSubscription where the service says that there is no such device any more.
	Push(ctx context.Context, s Subscription, m Message) error
}

// ErrNoSubscription says that a browser takes no messages any more.
var ErrNoSubscription = errors.New("the browser takes no messages any more")

// ErrNotTaken says that a message did not go, and nothing of why: who subscribes names the address, and is not to learn
// what answers there.
var ErrNotTaken = errors.New("the browser's service did not take it: is this machine on the internet?")

// mostSubscriptions is how many devices of a person take reminders.
const mostSubscriptions = 8

// PushBy lets messages go; before it none do.
func (a *People) PushBy(p Pusher) { a.pusher = p }

// Pushing tells how reminders stand on the device that asks: the key that its browser subscribes with, and the
// subscription, if it has one. Key is empty where this program does not push.
func (a *People) Pushing(ctx context.Context) (key string, s Subscription, on bool, err error) {
	if a.pusher == nil {
		return "", s, false, nil
	}
	actor, _ := record.ActorOf(ctx)
	list, err := a.store.Subscriptions(ctx, actor.ID)
	for _, x := range list {
		if x.DeviceID == actor.Device {
			s, on = x, true
		}
	}
	return a.pusher.PublicKey(), s, on, err
}

// Lengths of what a browser gives: an uncompressed point of P-256, and its secret (RFC 8291, 3.1 and 3.2).
const (
	pointBytes   = 65
	secretBytes  = 16
	mostEndpoint = 1000
)

// Subscribe has reminders pushed to the device that asks, in the place of any other way to it, and sends a first word.
func (a *People) Subscribe(ctx context.Context, endpoint, p256dh, auth string) error {
	if a.pusher == nil {
		return &eventlog.Conflict{Say: "this program pushes no reminders: it runs for this machine alone"}
	}
	var wrong validation.Errors
	to, err := url.Parse(endpoint)
	if err != nil || len(endpoint) > mostEndpoint {
		wrong.Add("endpoint", endpoint, "an address of a browser's service", "subscribe anew in the browser")
	} else if err := a.pusher.Check(to); err != nil {
		wrong.Add("endpoint", endpoint, "an address of a browser's service", "%s", err.Error())
	}
	for _, k := range []struct {
		field, value string
		bytes        int
	}{{"p256dh", p256dh, pointBytes}, {"auth", auth, secretBytes}} {
		if raw, err := base64.RawURLEncoding.DecodeString(k.value); err != nil || len(raw) != k.bytes {
			wrong.Add(k.field, k.value, "a key of the browser's, base64url", "subscribe anew in the browser")
		}
	}
	if len(wrong) > 0 {
		return wrong
	}
	actor, _ := record.ActorOf(ctx)
	now := a.Now().UTC()
	s := Subscription{Endpoint: endpoint, PersonID: actor.ID, DeviceID: actor.Device, P256dh: p256dh, Auth: auth,
		MadeAt: now, Told: now}
	had, err := a.store.Subscriptions(ctx, actor.ID)
	if err != nil {
		return err
	}
	others := slices.DeleteFunc(had, func(x Subscription) bool {
		return x.DeviceID == actor.Device || x.Endpoint == endpoint
	})
	if len(others) >= mostSubscriptions {
		return &eventlog.Conflict{Say: units.Say("%d of your devices take reminders already: end them on one first",
			mostSubscriptions).String()}
	}
	if err := a.store.Subscribe(ctx, s); err != nil {
		return err
	}
	// the answer does not wait for it: how long it takes would tell what stands there
	a.background.Go(func() { a.hello(a.life, s) })
	return nil
}

// hello sends a first word to a device that subscribed.
func (a *People) hello(ctx context.Context, s Subscription) {
	_, err := a.push(ctx, s, Message{Title: "Hevrin reminds you here",
		Body: "What comes due, orders, and what happens to your account.", Path: "/me", Tag: "hello"})
	if err != nil {
		slog.Warn("how a reminder went could not be noted", "error", err)
	}
}

// Settle waits until what was begun beside answers is done.
func (a *People) Settle() { a.background.Wait() }

// Close ends what was begun beside answers, and waits for it; nothing is asked of the people after it.
func (a *People) Close() {
	a.stop()
	a.background.Wait()
	a.refusals.report(context.Background(), a)
}

// Unsubscribe ends the reminders on the device that asks.
func (a *People) Unsubscribe(ctx context.Context) error {
	actor, _ := record.ActorOf(ctx)
	return a.store.Unsubscribe(ctx, actor.Device, "")
}

// push sends a message, says whether it went, and notes why not. What a browser does not take any more is let go.
func (a *People) push(ctx context.Context, s Subscription, m Message) (went bool, err error) {
	refused := a.pusher.Push(ctx, s, m)
	if errors.Is(refused, ErrNoSubscription) {
		return false, a.store.Unsubscribe(ctx, "", s.Endpoint)
	}
	failed := ""
	if refused != nil {
		failed = refused.Error()
	}
	if failed == s.Failed {
		return refused == nil, nil
	}
	if refused != nil {
		slog.Warn("a reminder could not be pushed", "error", refused)
	}
	return refused == nil, a.store.PushFailed(ctx, s.Endpoint, failed)
}

// Remind tells every device that takes reminders, and whose person may read, what came since it was told last; a
// message without a title is none. What did not go is told at the next call.
func (a *People) Remind(ctx context.Context, upTo time.Time, news func(since time.Time) (Message, error)) error {
	if a.pusher == nil {
		return nil
	}
	list, err := a.store.Subscriptions(ctx, "")
	if err != nil {
		return err
	}
	for _, s := range list {
		if !s.Told.Before(upTo) {
			continue
		}
		actor, err := a.Look(ctx, s.DeviceID, "")
		if errors.Is(err, ErrSignedOut) {
			if err := a.store.Unsubscribe(ctx, "", s.Endpoint); err != nil {
				return err
			}
			continue
		}
		if err != nil {
			return err
		}
		if actor.ID != s.PersonID || !actor.Role.May(people.Read) {
			continue // another uses it now
		}
		m, err := news(s.Told)
		if err != nil {
			return err
		}
		if m.Title != "" {
			went, err := a.push(ctx, s, m)
			if err != nil {
				return err
			}
			if !went {
				continue
			}
		}
		if err := a.store.PushTold(ctx, s.Endpoint, upTo); err != nil {
			return err
		}
	}
	return nil
}

// pushWithin is how long a browser's service is waited for.
const pushWithin = 20 * time.Second

// tellOwner pushes what happened to an account to its person's devices, but not to the one by which it happened.
func (a *People) tellOwner(ctx context.Context, line people.AuditLine) {
	person, say, ok := people.AccountNews(line)
	if !ok || a.pusher == nil {
		return
	}
	ctx = context.WithoutCancel(ctx)
	list, err := a.store.Subscriptions(ctx, person)
	if err != nil || len(list) == 0 {
		return
	}
	if line.Say != "" && line.What == people.SignedIn {
		say += ": " + line.Say
	}
	go func() { // a sign-in waits for no service
		ctx, stop := context.WithTimeout(ctx, pushWithin)
		defer stop()
		for _, s := range list {
			if s.DeviceID == line.Device {
				continue
			}
			if _, err := a.Look(ctx, s.DeviceID, ""); err != nil {
				continue
			}
			m := Message{Title: "Your account in Hevrin", Body: say + ". Was it not you? Tell the manager.", Path: "/me",
				Tag: "account"}
			if _, err := a.push(ctx, s, m); err != nil {
				slog.Warn("what happened to an account could not be pushed", "error", err)
			}
		}
	}()
}

// mostNews is how many lines a person is shown of what happened to their account.
const mostNews = 20

// AccountNews is what happened to the account of who asks, the newest first.
func (a *People) AccountNews(ctx context.Context) (list []News, err error) {
	actor, _ := record.ActorOf(ctx)
	entries, err := a.Audited(ctx, mostLooked)
	for _, e := range entries {
		if e.Body.Audit == nil || len(list) == mostNews {
			continue
		}
		if person, say, ok := people.AccountNews(*e.Body.Audit); ok && person == actor.ID {
			list = append(list, News{At: e.At, Say: say, By: e.By, Where: e.Body.Audit.Say})
		}
	}
	return list, err
}

// mostLooked is how far back the audit log is looked through for it.
const mostLooked = 5000

// News is one thing that happened to an account: by whom, and where or what.
type News struct {
	At             time.Time
	Say, By, Where string
}
