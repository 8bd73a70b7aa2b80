package training

import (
	"hevrin/api"
	"hevrin/phone"
)

// Routes are the operations of practice that a phone answers by itself. The bench of methods is the yard's alone: it is
// long, and a phone's battery is not.
func (a *Answers) Routes() []phone.Route {
	return []phone.Route{
		phone.On("GET", "/practice", a.GetPracticeHome, api.GetPracticeHomeResponseObject.VisitGetPracticeHomeResponse),
		phone.On("GET", "/practice/{try_id}", a.GetPractice, api.GetPracticeResponseObject.VisitGetPracticeResponse),
		phone.On("PUT", "/practice/{try_id}", a.BeginPractice, api.BeginPracticeResponseObject.VisitBeginPracticeResponse),
		phone.On("PUT", "/practice/{try_id}/acts/{entry_id}", a.DoInPractice,
			api.DoInPracticeResponseObject.VisitDoInPracticeResponse),
		phone.On("POST", "/practice/{try_id}/ask", a.AskInPractice,
			api.AskInPracticeResponseObject.VisitAskInPracticeResponse),
		phone.On("GET", "/practice/{try_id}/review", a.GetPracticeReview,
			api.GetPracticeReviewResponseObject.VisitGetPracticeReviewResponse),
	}
}
