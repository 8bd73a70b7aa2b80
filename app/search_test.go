package app_test

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	appjob "hevrin/app/job"
	"hevrin/app/search"
	"hevrin/core/eventlog"
)

func TestASearchFindsThingsByAnyOfTheirNames(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	id := uuid.NewString()
	_, err := s.OpenJob(s.ctx, id, stamp(), appjob.Start{Engine: engine, Words: "Steams 100% of the time",
		Seen: []string{"coolant-disappears"}})
	require.NoError(t, err)
	of := func(typed, kind string) (ids []string) {
		hits, err := s.Search(s.ctx, typed)
		require.NoError(t, err)
		for _, h := range hits {
			if h.Kind == kind {
				ids = append(ids, h.ID)
			}
		}
		assert.LessOrEqual(t, len(ids), search.Most)
		return ids
	}
	assert.Contains(t, of("antifreeze", search.Fault), "coolant-low")
	assert.Equal(t, []string{id}, of("antifreeze", search.Job), "by a symptom, under another name")
	assert.Equal(t, []string{id}, of("steams 100%", search.Job))
	assert.Empty(t, of("steams 1_0", search.Job), "signs of the query language mean themselves")
	p, err := s.Job(s.ctx, id)
	require.NoError(t, err)
	assert.Contains(t, of(p.Craft.Name, search.Engine), engine)
	assert.Equal(t, []string{id}, of(p.Craft.Name+" steams", search.Job), "by its engine and its words")
	assert.Contains(t, of("riser", search.Station), "elbow")
	assert.NotEmpty(t, of("impeller", search.Check))
	assert.NotEmpty(t, of("acid", search.Calculator))
	hits, err := s.Search(s.ctx, "   ")
	require.NoError(t, err)
	assert.Empty(t, hits)
}
