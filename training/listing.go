package training

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"

	"hevrin/app/tries"
	"hevrin/core/eventlog"
	"hevrin/core/practice"
)

// Share lets whoever leads see how one's practice goes, or not any more.
func (r *Room) Share(ctx context.Context, shared bool) error {
	person, _ := who(ctx)
	if person == "" {
		return &eventlog.Conflict{Say: "nobody signs in on this machine: there is nobody to share it with"}
	}
	return r.store.Share(ctx, person, shared)
}

// Shares says whether one does.
func (r *Room) Shares(ctx context.Context) (bool, error) {
	person, _ := who(ctx)
	list, err := r.store.Sharing(ctx)
	return slices.Contains(list, person), err
}

// Shared lists the tries of each who lets them be seen.
func (r *Room) Shared(ctx context.Context) ([][]Listed, error) {
	people, err := r.store.Sharing(ctx)
	if err != nil {
		return nil, err
	}
	var out [][]Listed
	for _, person := range people {
		list, err := r.triesOf(ctx, person)
		if err != nil {
			return nil, err
		}
		if len(list) > 0 {
			out = append(out, list)
		}
	}
	return out, nil
}

// Listed is a try in a list, with how it went.
type Listed struct {
	tries.Try
	Case   practice.Case
	Result *Result // nil while it goes on
}

// Tries lists one's own, the newest first.
func (r *Room) Tries(ctx context.Context) ([]Listed, error) {
	person, _ := who(ctx)
	return r.triesOf(ctx, person)
}

func (r *Room) triesOf(ctx context.Context, person string) ([]Listed, error) {
	list, err := r.store.Tries(ctx, person, mostListed)
	if err != nil {
		return nil, err
	}
	out := make([]Listed, 0, len(list))
	for _, t := range list {
		l := Listed{Try: t}
		if l.Case, err = practice.ParseCode(t.Code); err != nil {
			continue // of another version of the program
		}
		if t.Result != "" {
			l.Result = &Result{}
			if err := json.Unmarshal([]byte(t.Result), l.Result); err != nil {
				return nil, fmt.Errorf("practice %s cannot be read: %w", t.ID, err)
			}
		}
		out = append(out, l)
	}
	return out, nil
}
