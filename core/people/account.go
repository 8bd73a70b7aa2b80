package people

// accountNews says of what the audit log tells whose account it changes, and how that person is told: so that somebody
// whose account is used or changed by another learns of it (OWASP ASVS 4.0.3, 2.2.3).
var accountNews = map[string]struct {
	of  func(AuditLine) string
	say string
}{
	SignedIn:          {byThem, "Signed in on another device"},
	Accepted:          {byThem, "Came in by an invitation"},
	PassphraseChanged: {byThem, "The passphrase was changed"},
	PINChanged:        {byThem, "The PIN was changed"},
	Invited:           {ofThem, "A new invitation was made: who has it can choose a new passphrase"},
	PersonChanged:     {ofThem, "Your name, role or access was changed"},
	PINRefused:        {ofThem, "A wrong PIN was tried"},
}

func byThem(l AuditLine) string { return l.Person }
func ofThem(l AuditLine) string { return l.Of }

// AccountNews tells whose account a line of the audit log is about, and what happened to it, in words; not ok:
// nobody's.
func AccountNews(l AuditLine) (person, say string, ok bool) {
	n, ok := accountNews[l.What]
	if !ok {
		return "", "", false
	}
	person = n.of(l)
	return person, n.say, person != ""
}
