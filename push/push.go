// Package push sends short messages to browsers by the Web Push protocol: RFC 8030 (delivery), RFC 8291 (encryption),
// RFC 8292 (VAPID keys, by which a browser's service knows the program).
package push

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"syscall"
	"time"

	webpush "github.com/SherClockHolmes/webpush-go"

	"hevrin/app/people"
	"hevrin/network"
)

// keysFile is where the program's keys lie in its data folder, for its owner alone. Browsers that subscribed know the
// public one: who loses the file subscribes anew.
const keysFile = "push-keys.json"

type keys struct {
	Public  string `json:"public"`
	Private string `json:"private"`
}

// loadKeys reads the program's keys, and makes them where there are none yet.
func loadKeys(folder string) (k keys, err error) {
	file := filepath.Join(folder, keysFile)
	raw, err := os.ReadFile(file) //nolint:gosec // our own
	switch {
	case errors.Is(err, fs.ErrNotExist):
	case err != nil:
		return k, err
	default:
		if err := json.Unmarshal(raw, &k); err != nil || k.Public == "" || k.Private == "" {
			return k, fmt.Errorf("%s cannot be read: remove it, and devices subscribe anew", file)
		}
		return k, nil
	}
	if k.Private, k.Public, err = webpush.GenerateVAPIDKeys(); err != nil {
		return k, err
	}
	if raw, err = json.Marshal(k); err != nil {
		return k, err
	}
	return k, os.WriteFile(file, raw, 0o600)
}

// Sender is a people.Pusher.
type Sender struct {
	keys    keys
	contact string
	own     []netip.AddrPort
	client  *http.Client
}

var _ people.Pusher = (*Sender)(nil)

// within is how long a service is waited for.
const within = 15 * time.Second

// New reads or makes the keys of a data folder. contact is where a service finds who runs this, an https address. own
// are services of one's own, which alone may have addresses that are not of the internet and speak without TLS.
func New(folder, contact string, own []netip.AddrPort) (*Sender, error) {
	k, err := loadKeys(folder)
	if err != nil {
		return nil, err
	}
	s := &Sender{keys: k, contact: contact, own: own}
	dialer := &net.Dialer{Timeout: within, Control: func(_, address string, _ syscall.RawConn) error {
		return s.reach(address)
	}}
	s.client = &http.Client{Timeout: within,
		Transport:     &http.Transport{DialContext: dialer.DialContext, TLSHandshakeTimeout: within, MaxIdleConns: 4},
		CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	return s, nil
}

// reach refuses to speak to anything but a secure service of the internet: an endpoint is whatever a browser says.
func (s *Sender) reach(address string) error {
	to, err := netip.ParseAddrPort(address)
	if err != nil {
		return err
	}
	to = netip.AddrPortFrom(to.Addr().Unmap(), to.Port())
	if slices.Contains(s.own, to) {
		return nil
	}
	if !network.IsGlobal(to.Addr()) || to.Port() != httpsPort {
		return errNowhere
	}
	return nil
}

// httpsPort is the one at which browsers' services listen.
const httpsPort = 443

// errNowhere is all that is told of what stands at an address: who subscribes is not to learn what answers there.
var errNowhere = errors.New("no browser's service takes reminders at that address")

// PublicKey is people.Pusher's.
func (s *Sender) PublicKey() string { return s.keys.Public }

// Check is people.Pusher's.
func (s *Sender) Check(to *url.URL) error {
	own, err := netip.ParseAddrPort(to.Host)
	switch {
	case to.User != nil || to.Hostname() == "":
		return errors.New("it names no service")
	case err == nil && slices.Contains(s.own, own):
		return nil
	case to.Scheme != "https":
		return errors.New("it does not speak TLS")
	case to.Port() != "" && to.Port() != strconv.Itoa(httpsPort):
		return errNowhere
	}
	if ip, err := netip.ParseAddr(to.Hostname()); err == nil {
		return s.reach(netip.AddrPortFrom(ip, httpsPort).String())
	}
	return nil
}

// keptFor is how long a service keeps a message for a device that is off: reminders are of the day.
const keptFor = 24 * time.Hour

// Push is people.Pusher's.
func (s *Sender) Push(ctx context.Context, to people.Subscription, m people.Message) error {
	raw, err := json.Marshal(m)
	if err != nil {
		return err
	}
	answer, err := webpush.SendNotificationWithContext(ctx, raw,
		&webpush.Subscription{Endpoint: to.Endpoint, Keys: webpush.Keys{Auth: to.Auth, P256dh: to.P256dh}},
		&webpush.Options{HTTPClient: s.client, Subscriber: s.contact, Topic: m.Tag, TTL: int(keptFor.Seconds()),
			Urgency: webpush.UrgencyNormal, VAPIDPublicKey: s.keys.Public, VAPIDPrivateKey: s.keys.Private})
	if err != nil {
		slog.Warn("a browser's service was not reached", "error", bare(err)) // for who runs the program alone
		return people.ErrNotTaken
	}
	defer func() { _ = answer.Body.Close() }()
	_, _ = io.Copy(io.Discard, io.LimitReader(answer.Body, 4096))
	switch {
	case answer.StatusCode == http.StatusGone || answer.StatusCode == http.StatusNotFound:
		return people.ErrNoSubscription
	case answer.StatusCode >= http.StatusMultipleChoices:
		slog.Warn("a browser's service refused a reminder", "status", answer.StatusCode)
		return people.ErrNotTaken
	}
	return nil
}

// bare takes the endpoint out of an error: who knows it can send to the device.
func bare(err error) error {
	var e *url.Error
	if errors.As(err, &e) {
		return e.Err
	}
	return err
}
