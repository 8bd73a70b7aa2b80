package record

import (
	"context"
	"slices"

	"hevrin/core/eventlog"
	"hevrin/core/people"
)

// Actor is who asks for something, as a sign-in tells. Names are theirs of now and of before.
type Actor struct {
	ID, Name string
	Role     people.Role
	Names    []string
	Device   string
}

type actorKey struct{}

// WithActor says on whose behalf something is done.
func WithActor(ctx context.Context, a Actor) context.Context {
	return context.WithValue(ctx, actorKey{}, a)
}

// ActorOf tells on whose behalf something is done; not ok where nobody signs in, as on one machine alone.
func ActorOf(ctx context.Context) (Actor, bool) {
	a, ok := ctx.Value(actorKey{}).(Actor)
	return a, ok
}

// Forbidden says that somebody has not the right to do something, and who has.
type Forbidden struct{ Say string }

// Error says it in words.
func (f *Forbidden) Error() string { return f.Say }

// refusals say of each right what is not allowed without it.
var refusals = map[people.Right]string{
	people.Sign:    "an assistant does not sign a run or pass anything over: ask a technician to do it",
	people.Correct: "somebody else noted this: ask them, or a technician, to take it back",
}

// Allow refuses whoever has not a right; where nobody signs in everything is allowed.
func Allow(ctx context.Context, right people.Right) error {
	a, ok := ActorOf(ctx)
	if !ok || a.Role.May(right) {
		return nil
	}
	say := refusals[right]
	if say == "" {
		say = "your role in the yard (" + a.Role.Label() + ") does not allow this: ask a manager"
	}
	return &Forbidden{say}
}

// mayUndo refuses to take back what another noted, unless the right is there.
func mayUndo(ctx context.Context, old eventlog.Entry) error {
	a, ok := ActorOf(ctx)
	if !ok || old.By == a.Name || slices.Contains(a.Names, old.By) {
		return nil
	}
	return Allow(ctx, people.Correct)
}
