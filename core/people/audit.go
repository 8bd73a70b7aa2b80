package people

// What the audit log tells of.
const (
	SetUp             = "set-up"
	SignedIn          = "signed-in"
	SignInRefused     = "sign-in-refused"
	Switched          = "switched" // another person on a shared device
	PINRefused        = "pin-refused"
	SignedOut         = "signed-out"
	DeviceEnded       = "device-ended" // from another device
	Invited           = "invited"
	Accepted          = "accepted"
	InviteRefused     = "invitation-refused"
	PersonChanged     = "person-changed"
	PassphraseChanged = "passphrase-changed"
	PINChanged        = "pin-changed"
	Denied            = "denied"
	Exported          = "exported"
	BackupSent        = "backup-sent"
	BackupMade        = "backup-made"
	GoingBack         = "going-back" // to a backup, at the next start
	GoneBack          = "gone-back"  // to a backup: the first line after it
	BroughtIn         = "brought-in" // a job or a list
	TakenBack         = "list-taken-back"
	PassedOver        = "passed-over" // signed, or started or ended with something standing in the way
	CalendarMade      = "calendar-made"
	CalendarEnded     = "calendar-ended"
	LinkMade          = "link-made"
	LinkEnded         = "link-ended"
	LinkAnswered      = "link-answered"
)

// AuditLine is one line of the audit log: what happened, who did it (or tried), from where and on what. It holds no
// secret. Person is empty where nobody is known.
type AuditLine struct {
	What    string `json:"what"`
	Person  string `json:"person,omitempty"`
	Device  string `json:"device,omitempty"`
	Address string `json:"address,omitempty"`
	Of      string `json:"of,omitempty"` // whom or what it was done to
	Say     string `json:"say,omitempty"`
}
