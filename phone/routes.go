package phone

import (
	"errors"

	"hevrin/api"
	"hevrin/core/inventory"
	"hevrin/handlers"
)

// routesOf lists what goes on without a link. What is not here needs the yard's program.
func routesOf(h *handlers.Handlers) []route {
	return []route{
		on("GET", "/catalogue", h.GetCatalogue, api.GetCatalogueResponseObject.VisitGetCatalogueResponse),
		on("GET", "/catalogue/drawings", h.GetDrawings, api.GetDrawingsResponseObject.VisitGetDrawingsResponse),
		on("POST", "/diagnose", h.Diagnose, api.DiagnoseResponseObject.VisitDiagnoseResponse),
		on("GET", "/calc", h.ListCalculators, api.ListCalculatorsResponseObject.VisitListCalculatorsResponse),
		on("POST", "/calc/{name}", h.Calculate, api.CalculateResponseObject.VisitCalculateResponse),
		on("POST", "/plant/steady", h.PlantSteady, api.PlantSteadyResponseObject.VisitPlantSteadyResponse),
		on("GET", "/plant/types", h.PlantTypes, api.PlantTypesResponseObject.VisitPlantTypesResponse),
		on("POST", "/plant/facts", h.PlantFacts, api.PlantFactsResponseObject.VisitPlantFactsResponse),
		on("POST", "/plant/limits", h.PlantLimits, api.PlantLimitsResponseObject.VisitPlantLimitsResponse),
		on("POST", "/plant/transient", h.PlantTransient, api.PlantTransientResponseObject.VisitPlantTransientResponse),
		on("POST", "/plant/health", h.PlantHealth, api.PlantHealthResponseObject.VisitPlantHealthResponse),

		on("GET", "/yard", h.GetYard, api.GetYardResponseObject.VisitGetYardResponse),
		on("GET", "/search", h.Search, api.SearchResponseObject.VisitSearchResponse),
		on("GET", "/craft/{craft_id}", h.GetCraft, api.GetCraftResponseObject.VisitGetCraftResponse),
		on("PUT", "/craft/{craft_id}", h.PutCraft, api.PutCraftResponseObject.VisitPutCraftResponse),
		on("GET", "/engines/{engine_id}", h.GetEngine, api.GetEngineResponseObject.VisitGetEngineResponse),
		on("PUT", "/engines/{engine_id}", h.PutEngine, api.PutEngineResponseObject.VisitPutEngineResponse),
		on("PUT", "/engines/{engine_id}/baseline", h.PutBaseline, api.PutBaselineResponseObject.VisitPutBaselineResponse),
		on("GET", "/engines/{engine_id}/record", h.GetServiceRecord,
			api.GetServiceRecordResponseObject.VisitGetServiceRecordResponse),
		on("PUT", "/engines/{engine_id}/entries/{entry_id}", h.PutEngineEntry,
			api.PutEngineEntryResponseObject.VisitPutEngineEntryResponse),
		on("GET", "/engines/{engine_id}/state", h.GetEngineState,
			api.GetEngineStateResponseObject.VisitGetEngineStateResponse),
		on("GET", "/due", h.GetDue, api.GetDueResponseObject.VisitGetDueResponse),
		on("GET", "/inventory", h.GetInventory, api.GetInventoryResponseObject.VisitGetInventoryResponse),
		on("PUT", "/inventory/entries/{entry_id}", h.PutInventoryEntry,
			api.PutInventoryEntryResponseObject.VisitPutInventoryEntryResponse),
		on("GET", "/methods", h.GetMethods, api.GetMethodsResponseObject.VisitGetMethodsResponse),

		on("GET", "/jobs/{job_id}", h.GetJob, api.GetJobResponseObject.VisitGetJobResponse),
		on("PUT", "/jobs/{job_id}", h.OpenJob, api.OpenJobResponseObject.VisitOpenJobResponse),
		on("PUT", "/jobs/{job_id}/entries/{entry_id}", h.PutJobEntry, api.PutJobEntryResponseObject.VisitPutJobEntryResponse),
		on("GET", "/jobs/{job_id}/report", h.GetReport, api.GetReportResponseObject.VisitGetReportResponse),
		on("GET", "/jobs/{job_id}/drafts", h.GetDrafts, api.GetDraftsResponseObject.VisitGetDraftsResponse),
		on("PUT", "/jobs/{job_id}/drafts", h.PutDraft, api.PutDraftResponseObject.VisitPutDraftResponse),
		on("PUT", "/undo/{entry_id}", h.Undo, api.UndoResponseObject.VisitUndoResponse),
	}
}

// Operations names what goes on without a link as the contract does: PUT /jobs/{job_id}.
func Operations() (names []string) {
	for _, x := range routesOf(&handlers.Handlers{}) {
		names = append(names, x.name())
	}
	return names
}

// noSupplier is none: nobody is asked without a link.
type noSupplier struct{}

var errNoSupplier = errors.New("the supplier is asked once there is a link: note the order without a number, or wait")

func (noSupplier) Offers(string) []inventory.Offer { return nil }

func (noSupplier) Ask(string, float64) (inventory.Promise, error) {
	return inventory.Promise{}, errNoSupplier
}
