package server

import (
	"context"
	"encoding/json"

	"hevrin/api"
	"hevrin/app/along"
)

// alongHandlers answer with what phones take along.
type alongHandlers struct{ crafts *along.Crafts }

func (h *alongHandlers) GetAlong(ctx context.Context, r api.GetAlongRequestObject) (api.GetAlongResponseObject, error) {
	a, err := h.crafts.Along(ctx, r.CraftId)
	return takenAlong{a}, err
}

// takenAlong writes it as it is: its form is the phone's program's alone.
type takenAlong struct{ *along.Along }

// VisitGetAlongResponse answers getAlong.
func (t takenAlong) VisitGetAlongResponse(w api.ResponseWriter) error {
	raw, err := json.Marshal(t.Along)
	if err != nil {
		return err
	}
	w.SetHeader("Content-Type", "application/json")
	w.WriteHeader(200)
	_, err = w.Write(raw)
	return err
}
