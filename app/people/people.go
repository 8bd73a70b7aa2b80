// Package people is who works in the yard: their names and roles, how they sign in and on which devices, invitations,
// and the audit log.
package people

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"slices"
	"sync"
	"time"

	"github.com/alexedwards/argon2id"
	"golang.org/x/sync/semaphore"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/people"
)

// Account is how a person proves who they are: argon2id of the passphrase and of the PIN; no PIN: empty.
type Account struct {
	PersonID   string `gorm:"primaryKey"`
	Passphrase string
	PIN        string `gorm:"column:pin"`
	ChangedAt  time.Time
}

// TableName is where accounts lie.
func (Account) TableName() string { return "accounts" }

// Device is a phone, a tablet, a desk on which somebody signed in. PersonID is who uses it now. EndedAt is when it was
// signed out; nil: it is not.
type Device struct {
	ID       string `gorm:"primaryKey"`
	PersonID string
	Label    string
	Address  string // from which it was last used
	MadeAt   time.Time
	UsedAt   time.Time
	EndedAt  *time.Time
}

// TableName is where devices lie.
func (Device) TableName() string { return "devices" }

// OnDevice is somebody who gave their passphrase on a device, and how often a wrong PIN was given for them since.
type OnDevice struct {
	DeviceID string `gorm:"primaryKey"`
	PersonID string `gorm:"primaryKey"`
	Since    time.Time
	Wrong    int
}

// TableName is where they lie.
func (OnDevice) TableName() string { return "device_people" }

// Invitation lets a person choose a passphrase, once. Token is the SHA-256 of what opens it.
type Invitation struct {
	Token     string `gorm:"primaryKey"`
	PersonID  string
	MadeAt    time.Time
	ExpiresAt time.Time
	UsedAt    *time.Time
}

// TableName is where invitations lie.
func (Invitation) TableName() string { return "invitations" }

// Store keeps what is secret of people, and their devices.
type Store interface {
	Account(ctx context.Context, person string) (Account, bool, error)
	Accounts(ctx context.Context) ([]Account, error)
	SaveAccount(ctx context.Context, a Account) error
	Device(ctx context.Context, id string) (Device, bool, error)
	// Devices lists those that are signed in, of a person or, without one, of all; the last used first.
	Devices(ctx context.Context, person string) ([]Device, error)
	SaveDevice(ctx context.Context, d Device) error
	// TouchDevice notes that a device is used, and changes nothing else of it.
	TouchDevice(ctx context.Context, id, address string, at time.Time) error
	// EndDevices signs devices out: one, or all of a person but one.
	EndDevices(ctx context.Context, device, person, but string, at time.Time) error
	OnDevice(ctx context.Context, device string) ([]OnDevice, error)
	// SaveOnDevice notes that somebody gave their passphrase on a device. Where a wrong PIN was given for them on another
	// one, it is asked for there once more.
	SaveOnDevice(ctx context.Context, o OnDevice) error
	// TryPIN counts a PIN as wrong before it is judged, and gives how many more may be tried if it is: below 0, this one
	// may not, since as many were on this device or on all. No two are counted as one.
	TryPIN(ctx context.Context, o OnDevice, most, mostOfAll int) (left int, err error)
	// ForgivePIN forgets what was counted on a device, as after the right PIN.
	ForgivePIN(ctx context.Context, o OnDevice) error
	ForgetOnDevice(ctx context.Context, device, person string) error
	Invitation(ctx context.Context, token string) (Invitation, bool, error)
	// Invite saves an invitation in the place of any other that its person has.
	Invite(ctx context.Context, i Invitation) error
	// UseInvitation marks it used, and says whether this is the one who used it.
	UseInvitation(ctx context.Context, token string, at time.Time) (bool, error)
	// SaveCalendar saves a person's calendar in the place of any other they have; without a token there is none any more.
	SaveCalendar(ctx context.Context, c Calendar) error
	// Calendar finds one by its token, or by its person.
	Calendar(ctx context.Context, token, person string) (Calendar, bool, error)
	// Links lists the links to a report or an engine's page, the newest first; Link finds one by its token, or by its id.
	Links(ctx context.Context, of Linked) ([]Link, error)
	Link(ctx context.Context, token, id string) (Link, bool, error)
	SaveLink(ctx context.Context, l Link) error
	// EndLinks ends all links that somebody made under any of their names, and says how many stood.
	EndLinks(ctx context.Context, names []string, at time.Time) (int64, error)
	// StandingLinks lists all that open something at a time, the newest first.
	StandingLinks(ctx context.Context, at time.Time) ([]Link, error)
	// CountLink notes that a link was opened, or answered, and says whether it was answered fewer times than most.
	CountLink(ctx context.Context, id string, at time.Time, answered bool, most int) (bool, error)
	// Subscriptions lists the devices to which reminders are pushed, of a person or, without one, of all.
	Subscriptions(ctx context.Context, person string) ([]Subscription, error)
	// Subscribe saves a subscription in the place of any other of its device.
	Subscribe(ctx context.Context, s Subscription) error
	// Unsubscribe ends that of a device, or with an endpoint.
	Unsubscribe(ctx context.Context, device, endpoint string) error
	PushFailed(ctx context.Context, endpoint, why string) error
	PushTold(ctx context.Context, endpoint string, upTo time.Time) error
	// Writers lists the names by which entries stand in the record.
	Writers(ctx context.Context) ([]string, error)
	// Invited lists whose invitations are open at a time.
	Invited(ctx context.Context, at time.Time) (map[string]time.Time, error)
}

// hashing is argon2id as RFC 9106 recommends where memory is short (64 MiB), with two passes and one lane: some 150 ms
// on two cores. It is asked for more than OWASP's least (19 MiB, two passes).
var hashing = &argon2id.Params{Memory: 64 << 10, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// People are the use cases. They may be used from many goroutines.
type People struct {
	*record.Log
	store    Store
	params   *argon2id.Params
	hashes   *semaphore.Weighted // of the memory that hashing takes
	guesses  *guesses
	refusals refusals
	dummy    func() string // a hash of nobody's, against which the passphrases of unknown names are held
	ended    listeners
	pusher   Pusher // nil: nothing is pushed
	// background is what is done beside answers, within life.
	background sync.WaitGroup
	life       context.Context //nolint:containedctx // it is their own
	stop       context.CancelFunc
}

// New joins the record and where secrets lie.
func New(l *record.Log, s Store) *People { return newWith(l, s, hashing) }

// NewQuick is New with hashes that take no time, for tests and benchmarks alone.
func NewQuick(l *record.Log, s Store) *People {
	return newWith(l, s, &argon2id.Params{Memory: 8, Iterations: 1, Parallelism: 1, SaltLength: 16, KeyLength: 32})
}

func newWith(l *record.Log, s Store, params *argon2id.Params) *People {
	p := &People{Log: l, store: s, params: params, hashes: semaphore.NewWeighted(2), guesses: newGuesses()}
	p.life, p.stop = context.WithCancel(context.Background())
	p.dummy = sync.OnceValue(func() string {
		hash, err := argon2id.CreateHash(newToken(), params)
		if err != nil {
			panic(err) // the system gives no random numbers
		}
		return hash
	})
	return p
}

// PeopleSubject is the log of the yard's people, AuditSubject that of the audit log.
var (
	PeopleSubject = eventlog.Subject{Kind: eventlog.OfYard, ID: eventlog.PeopleID}
	AuditSubject  = eventlog.Subject{Kind: eventlog.OfYard, ID: eventlog.AuditID}
)

// all lists the people, those who left too.
func (a *People) all(r record.EntryReader) ([]people.Person, error) {
	entries, err := a.EntriesSoon(r, PeopleSubject)
	if err != nil {
		return nil, err
	}
	return eventlog.People(entries), nil
}

// person finds somebody by id.
func (a *People) person(ctx context.Context, id string) (people.Person, error) {
	all, err := a.all(a.Store.Read(ctx))
	if err != nil {
		return people.Person{}, err
	}
	at := slices.IndexFunc(all, func(p people.Person) bool { return p.ID == id })
	if at < 0 {
		return people.Person{}, record.NotFound("person", id)
	}
	return all[at], nil
}

// actorOf is who somebody is to the use cases.
func actorOf(p people.Person, device string) record.Actor {
	return record.Actor{ID: p.ID, Name: p.Name, Role: p.Role, Names: p.Was, Device: device}
}

// newToken is 256 random bits as text that can stand in an address.
func newToken() string {
	raw := make([]byte, 32)
	_, _ = rand.Read(raw) // never fails
	return base64.RawURLEncoding.EncodeToString(raw)
}

// hashOf is how a token lies in the store.
func hashOf(token string) string {
	sum := sha256.Sum256([]byte(token))
	return hex.EncodeToString(sum[:])
}

func (a *People) hash(ctx context.Context, secret string) (string, error) {
	if err := a.hashes.Acquire(ctx, 1); err != nil {
		return "", err
	}
	defer a.hashes.Release(1)
	return argon2id.CreateHash(secret, a.params)
}

func (a *People) matches(ctx context.Context, secret, hash string) (bool, error) {
	if err := a.hashes.Acquire(ctx, 1); err != nil {
		return false, err
	}
	defer a.hashes.Release(1)
	return argon2id.ComparePasswordAndHash(secret, hash)
}

// listeners are told of devices that are signed out from elsewhere.
type listeners struct {
	mu   sync.Mutex
	news chan struct{}
}

// Ended is closed when any device is signed out, or a person's rights change, from now on.
func (l *listeners) next() <-chan struct{} {
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.news == nil {
		l.news = make(chan struct{})
	}
	return l.news
}

func (l *listeners) tell() {
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.news != nil {
		close(l.news)
		l.news = nil
	}
}

// Changed gives a channel that is closed as soon as a device is signed out or a person's rights change: who holds a
// stream open then asks again who it is for.
func (a *People) Changed() <-chan struct{} { return a.ended.next() }
