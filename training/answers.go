package training

import (
	"cmp"
	"context"
	"encoding/json"
	"maps"
	"slices"

	"hevrin/api"
	"hevrin/core/coaching"
	"hevrin/core/diagnosis"
	"hevrin/core/practice"
	"hevrin/handlers"
	"hevrin/phone"
)

// Answers answers the contract's operations of practice.
type Answers struct{ Room *Room }

// GetPracticeHome lists what can be practised, and one's own tries.
func (a *Answers) GetPracticeHome(ctx context.Context,
	_ api.GetPracticeHomeRequestObject) (api.GetPracticeHomeResponseObject, error) {
	home, err := a.home(ctx)
	return api.GetPracticeHome200JSONResponse(home), err
}

// SharePractice lets who leads see one's practice, or not any more.
func (a *Answers) SharePractice(ctx context.Context,
	r api.SharePracticeRequestObject) (api.SharePracticeResponseObject, error) {
	if err := a.Room.Share(ctx, r.Body.Shared); err != nil {
		return nil, err
	}
	home, err := a.home(ctx)
	return api.SharePractice200JSONResponse(home), err
}

// GetPracticePeople tells how the practice goes of those who let it be seen.
func (a *Answers) GetPracticePeople(ctx context.Context,
	_ api.GetPracticePeopleRequestObject) (api.GetPracticePeopleResponseObject, error) {
	all, err := a.Room.Shared(ctx)
	if err != nil {
		return nil, err
	}
	return api.GetPracticePeople200JSONResponse{People: api.Each(all, a.personView)}, nil
}

// personView sums one person's tries up, the newest first.
func (a *Answers) personView(list []Listed) api.PracticePerson {
	out := api.PracticePerson{Name: list[0].Person, Tries: len(list), Last: list[0].BegunAt,
		Habits: counted(list, func(r Result) []string { return r.Better }), Faults: counted(list, a.foundOf)}
	for _, l := range list {
		r := l.Result
		if r == nil {
			continue
		}
		out.Over++
		n := float64(out.Over)
		out.Looking += (r.Looking - out.Looking) / n
		out.Quickest += (r.Quickest - out.Quickest) / n
		out.Dangers += len(r.Dangers)
		if r.Cured {
			out.Cured++
		}
	}
	for _, l := range lessonViews(list) {
		if l.Cured {
			out.Lessons++
		}
	}
	return out
}

// foundOf are the faults that a try cured, by their names.
func (a *Answers) foundOf(r Result) []string {
	var labels []string
	for _, id := range r.Faults {
		if f, ok := a.Room.catalogue.Fault(id); ok && r.Cured {
			labels = append(labels, f.Label)
		}
	}
	return labels
}

func (a *Answers) home(ctx context.Context) (api.PracticeHome, error) {
	list, err := a.Room.Tries(ctx)
	if err != nil {
		return api.PracticeHome{}, err
	}
	out := api.PracticeHome{Lessons: lessonViews(list), Kinds: []api.PracticeChoice{}, Levels: []api.PracticeChoice{},
		Tries: api.Each(list, a.tryView)}
	for _, k := range practice.Kinds {
		out.Kinds = append(out.Kinds, api.PracticeChoice{Id: k.ID, Label: k.Label, Why: k.Craft})
	}
	for _, l := range practice.Levels {
		out.Levels = append(out.Levels, api.PracticeChoice{Id: string(l.ID), Label: l.Label, Why: l.Why})
	}
	out.Habits = counted(list, func(r Result) []string { return r.Better })
	out.Faults = counted(list, a.foundOf)
	out.Shared, err = a.Room.Shares(ctx)
	return out, err
}

// counted counts what all results say of themselves, the most frequent first.
func counted(list []Listed, of func(Result) []string) []api.PracticeHabit {
	times := map[string]int{}
	for _, l := range list {
		if l.Result == nil {
			continue
		}
		for _, label := range of(*l.Result) {
			times[label]++
		}
	}
	out := []api.PracticeHabit{}
	for _, label := range slices.Sorted(maps.Keys(times)) {
		out = append(out, api.PracticeHabit{Label: label, Times: times[label]})
	}
	slices.SortStableFunc(out, func(a, b api.PracticeHabit) int { return cmp.Compare(b.Times, a.Times) })
	return out
}

func lessonViews(list []Listed) []api.PracticeLesson {
	var out []api.PracticeLesson
	for i, l := range practice.Lessons {
		x := api.PracticeLesson{Number: i + 1, Id: l.ID, Title: l.Title, Point: l.Point,
			Code: practice.Case{Kind: l.Kind, Lesson: i + 1}.Code()}
		for _, t := range list {
			if t.Case.Lesson == i+1 {
				x.Tried++
				x.Cured = x.Cured || t.Result != nil && t.Result.Cured && len(t.Result.Dangers) == 0
			}
		}
		out = append(out, x)
	}
	return out
}

func (a *Answers) tryView(l Listed) api.PracticeTry {
	out := api.PracticeTry{Id: l.ID, Code: l.Code, Title: title(l.Case), BegunAt: l.BegunAt, Over: l.EndedAt != nil}
	if r := l.Result; r != nil {
		out.Result = &api.PracticeResult{Cured: r.Cured, Minutes: r.Minutes, Looking: r.Looking, Knowing: r.Knowing,
			Quickest: r.Quickest, Cost: r.Cost, Dangers: list(r.Dangers), Better: list(r.Better), Faults: list(r.Faults)}
	}
	return out
}

func list[T any](l []T) []T {
	if l == nil {
		return []T{}
	}
	return l
}

// title is what a case is called.
func title(c practice.Case) string {
	if c.Lesson > 0 {
		return practice.Lessons[c.Lesson-1].Title
	}
	for _, l := range practice.Levels {
		if l.ID == c.Level {
			return l.Label
		}
	}
	return "Practice"
}

// BeginPractice starts a try.
func (a *Answers) BeginPractice(ctx context.Context,
	r api.BeginPracticeRequestObject) (api.BeginPracticeResponseObject, error) {
	c, err := chosen(*r.Body)
	if err != nil {
		return nil, err
	}
	s, err := a.Room.Begin(ctx, r.TryId, c, r.Body.By)
	if err != nil {
		return nil, err
	}
	return api.BeginPractice200JSONResponse(practiceView(s)), nil
}

// chosen is the case that was asked for: by a code, a lesson, or a kind and a level, and then a fresh one.
func chosen(b api.PracticeBegun) (practice.Case, error) {
	switch {
	case b.Code != nil:
		return practice.ParseCode(*b.Code)
	case b.Lesson != nil:
		c := practice.Case{Lesson: *b.Lesson}
		if err := c.Check(); err != nil {
			return c, err
		}
		c.Kind = practice.Lessons[c.Lesson-1].Kind
		return c, nil
	}
	c := Fresh(string(api.Value(b.Kind)), practice.Level(api.Value(b.Level)))
	return c, c.Check()
}

// GetPractice gives a try as it stands.
func (a *Answers) GetPractice(ctx context.Context,
	r api.GetPracticeRequestObject) (api.GetPracticeResponseObject, error) {
	s, err := a.Room.Status(ctx, r.TryId)
	if err != nil {
		return nil, err
	}
	return api.GetPractice200JSONResponse(practiceView(s)), nil
}

// DoInPractice does one thing beside the job's own acts.
func (a *Answers) DoInPractice(ctx context.Context,
	r api.DoInPracticeRequestObject) (api.DoInPracticeResponseObject, error) {
	s, err := a.Room.Do(ctx, r.TryId, Did{ID: r.EntryId, Do: string(r.Body.Do), Check: api.Value(r.Body.Check),
		Minutes: api.Value(r.Body.Minutes), Part: api.Value(r.Body.Part), Offer: api.Value(r.Body.Offer)})
	if err != nil {
		return nil, err
	}
	return api.DoInPractice200JSONResponse(practiceView(s)), nil
}

// AskInPractice asks the try's own program.
func (a *Answers) AskInPractice(ctx context.Context,
	r api.AskInPracticeRequestObject) (api.AskInPracticeResponseObject, error) {
	q := phone.Request{Method: string(r.Body.Method), Path: r.Body.Path, Query: api.Value(r.Body.Query),
		Units: handlers.SystemIn(ctx)}
	if r.Body.Body != nil {
		raw, err := json.Marshal(r.Body.Body)
		if err != nil {
			return nil, err
		}
		q.Body = raw
	}
	answer, walked, err := a.Room.Ask(ctx, r.TryId, q)
	if err != nil {
		return nil, err
	}
	return api.AskInPractice200JSONResponse{Status: answer.Status, Body: json.RawMessage(answer.Body),
		Dangers: api.Each(walked, dangerView)}, nil
}

// GetPracticeReview tells how a try went.
func (a *Answers) GetPracticeReview(ctx context.Context,
	r api.GetPracticeReviewRequestObject) (api.GetPracticeReviewResponseObject, error) {
	v, s, err := a.Room.Review(ctx, r.TryId)
	if err != nil {
		return nil, err
	}
	all, err := a.Room.Tries(ctx)
	if err != nil {
		return nil, err
	}
	out := api.PracticeReview{Practice: practiceView(s), Cured: v.Cured, Signed: v.Signed, Looking: v.Looking,
		Knowing: v.Knowing, Quickest: v.Quickest, AlongTheWater: v.AlongTheWater, Hidden: []api.PracticeHidden{},
		Comeback: api.Each(v.Comeback, seenView), Theory: api.Some(v.Theory), Mistaken: api.Some(v.Mistaken),
		Dangers: api.Each(v.Dangers, dangerView),
		Turns:   api.Each(v.Turns, turnView), Better: api.Each(v.Better, betterView), Missed: list(v.MissedLooks),
		Earlier: earlier(all, s)}
	for _, h := range v.Hidden {
		out.Hidden = append(out.Hidden, api.PracticeHidden{Fault: h.Fault, Share: api.Some(h.Share),
			Left: slices.Contains(v.Left, h.Fault)})
	}
	if n := s.Case.Lesson; n > 0 {
		out.After, out.FirstMet = &practice.Lessons[n-1].After, &v.FirstMet
	}
	return api.GetPracticeReview200JSONResponse(out), nil
}

// earlier are the looks of one's other tries of the same lesson, or the same engine and level.
func earlier(all []Listed, s *Status) []float64 {
	out := []float64{}
	for _, l := range all {
		same := l.Case.Lesson == s.Case.Lesson && l.Case.Kind == s.Case.Kind && l.Case.Level == s.Case.Level
		if same && l.ID != s.Try.ID && l.Result != nil {
			out = append(out, l.Result.Looking)
		}
	}
	return out
}

func practiceView(s *Status) api.Practice {
	out := api.Practice{Id: s.Try.ID, Code: s.Try.Code, Title: title(s.Case), KindLabel: s.Engine.Kind.Label,
		CraftId: s.IDs.Craft, EngineId: s.IDs.Engine, JobId: s.IDs.Job, Minutes: s.Minutes, Cost: s.Cost, ColdIn: s.Cold,
		Over: s.Over, Steps: api.Each(s.Log, stepView), Parts: api.Each(s.Parts, partView),
		Dangers: api.Each(s.Dangers, dangerView)}
	if s.Case.Lesson > 0 {
		out.Point = &practice.Lessons[s.Case.Lesson-1].Point
	}
	if s.Round != nil {
		round := handlers.RoundEntryView(*s.Round)
		out.Round = &round
	}
	if r := s.Run; r != nil {
		out.Run = runView(s.Engine, r)
	}
	return out
}

func stepView(s practice.Step) api.PracticeStep {
	out := api.PracticeStep{Do: api.PracticeStepDo(s.Do), Check: api.Some(s.Check), Fault: api.Some(s.Fault),
		Minutes: s.Minutes, At: s.At, Seen: api.Each(s.Seen, seenView), Words: api.Some(s.Words)}
	if s.Do == practice.Ordered {
		out.Fits = &s.Needed
	}
	if s.Danger != nil {
		d := dangerView(*s.Danger)
		out.Danger = &d
	}
	return out
}

func seenView(s practice.Seen) api.PracticeSeen {
	return api.PracticeSeen{Finding: s.Finding, Present: s.Present, Share: api.Some(s.Share)}
}

func dangerView(d practice.Danger) api.PracticeDanger {
	return api.PracticeDanger{Id: d.ID, Label: d.Label, Happened: d.Happened, Instead: d.Instead,
		Caution: api.Some(d.Caution), Ends: d.Ends}
}

func turnView(t coaching.Turn) api.PracticeTurn {
	return api.PracticeTurn{Step: stepView(t.Step), Best: api.Some(t.Best), BestMinutes: api.Some(t.BestTakes),
		BestWhy: api.Some(t.BestWhy), Lost: t.Lost,
		Suspects: api.Each(t.Suspects, func(p diagnosis.Posterior) api.PracticeSuspect {
			return api.PracticeSuspect{Fault: p.Fault, Probability: p.Probability}
		})}
}

func betterView(b coaching.Better) api.PracticeBetter {
	return api.PracticeBetter{Label: b.Label, Why: b.Why, Minutes: api.Some(b.Minutes)}
}

// BeginPracticeBench plays a way of searching in the background.
func (a *Answers) BeginPracticeBench(ctx context.Context,
	r api.BeginPracticeBenchRequestObject) (api.BeginPracticeBenchResponseObject, error) {
	b, err := a.Room.BeginBench(ctx, r.EntryId, coaching.Bench{Kind: string(r.Body.Kind),
		Level: practice.Level(r.Body.Level), Jobs: r.Body.Jobs, Policy: coaching.Policy{Order: r.Body.Order,
			Strategy: string(api.Value(r.Body.Strategy)), HuntOn: api.Value(r.Body.HuntOn), Minutes: api.Value(r.Body.Minutes)}})
	if err != nil {
		return nil, err
	}
	return api.BeginPracticeBench200JSONResponse(benchView(b)), nil
}

// GetPracticeBench gives one's last bench.
func (a *Answers) GetPracticeBench(ctx context.Context,
	_ api.GetPracticeBenchRequestObject) (api.GetPracticeBenchResponseObject, error) {
	b, err := a.Room.Bench(ctx)
	if err != nil {
		return nil, err
	}
	return api.GetPracticeBench200JSONResponse(benchView(b)), nil
}

// StopPracticeBench stops it.
func (a *Answers) StopPracticeBench(ctx context.Context,
	_ api.StopPracticeBenchRequestObject) (api.StopPracticeBenchResponseObject, error) {
	b, err := a.Room.StopBench(ctx)
	if err != nil {
		return nil, err
	}
	return api.StopPracticeBench200JSONResponse(benchView(b)), nil
}

func minutesOf(own map[string]float64) map[string]float64 {
	if own == nil {
		return map[string]float64{}
	}
	return own
}

func benchView(b Benching) api.PracticeBench {
	return api.PracticeBench{Id: b.ID, Kind: b.Bench.Kind, Level: string(b.Bench.Level), Jobs: b.Bench.Jobs,
		Order: list(b.Bench.Order), Strategy: api.Some(api.Strategy(b.Bench.Strategy)), HuntOn: b.Bench.HuntOn,
		Minutes: minutesOf(b.Bench.Minutes), Over: b.Over,
		Failed: api.Some(b.Failed), Own: tallyView(b.Own), Program: tallyView(b.Program)}
}

func tallyView(t coaching.Tally) api.PracticeTally {
	return api.PracticeTally{Jobs: t.Jobs, Cured: t.Cured, Comebacks: t.Comebacks, Looking: t.Looking, Slowest: t.Slowest,
		Minutes: t.Minutes, Opened: t.Opened, Cost: t.Cost}
}
