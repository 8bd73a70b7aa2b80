package server

import "hevrin/core/people"

// Rights that are none of the roles': what nobody need sign in for, and what everybody may who signed in.
const (
	open     people.Right = "open"
	signedIn people.Right = "signed-in"
)

// rights says of every operation of the contract what somebody must be allowed to do for it. An operation that is not
// here is refused.
var rights = map[string]people.Right{
	"getHealth": open, "getSession": open, "signIn": open, "getInvitation": open, "acceptInvitation": open,
	"getShared": open, "getSharedPhoto": open, "answerShared": open, // with a link that the yard gave out
	"readCalendar": open, // with a token of somebody's own

	"signOut": signedIn, "switchPerson": signedIn, "changePassphrase": signedIn, "setPIN": signedIn,
	"getDevices":     signedIn,
	"getOwnCalendar": signedIn, "makeCalendar": signedIn, "endCalendar": signedIn,
	"getAccountNews": signedIn,
	"getPushing":     signedIn, "subscribe": signedIn, "unsubscribe": signedIn,
	"getPracticeHome": signedIn, "beginPractice": signedIn, "getPractice": signedIn, "doInPractice": signedIn,
	"sharePractice": signedIn, "getPracticePeople": people.Lead,
	"getPracticeBench": signedIn, "beginPracticeBench": signedIn, "stopPracticeBench": signedIn,
	"askInPractice": signedIn, "getPracticeReview": signedIn,
	"endDevice": signedIn, "endDevices": signedIn, // one's own, and others' for who leads

	"getCatalogue": people.Read, "getDrawings": people.Read, "diagnose": people.Read,
	"listCalculators": people.Read, "calculate": people.Read,
	"plantSteady": people.Read, "plantTypes": people.Read, "plantFacts": people.Read, "plantLimits": people.Read,
	"plantTransient": people.Read, "plantHealth": people.Read, "getYard": people.Read, "search": people.Read,
	"getCraft": people.Read,
	"getAlong": people.Read, "getEngine": people.Read, "getServiceRecord": people.Read, "getEngineState": people.Read,
	"getDoNotStartPDF": people.Read, "getChanges": people.Read, "getDue": people.Read, "getJob": people.Read,
	"getReport": people.Read, "getRecording": people.Read, "getDrafts": people.Read, "getPhoto": people.Read,
	"getInventory": people.Read, "getMethods": people.Read, "getBundleSchema": people.Read, "getPeople": people.Read,
	"getLists": people.Read, "putPresent": people.Read, "getLabels": people.Read, "fitImpeller": people.Read,
	"getSupplier": people.Read, "getHindsight": people.Read,

	"openJob": people.Work, "putJobEntry": people.Work, "putDraft": people.Work, "putBaseline": people.Work,
	"putFeed": people.Work, "getLive": people.Work, "getLiveStream": people.Work, "getLiveRound": people.Work,
	"previewDatalog": people.Work, "importDatalog": people.Work,
	"undo": signedIn, // of one's own; of another's with the right to correct

	"putEngineEntry": people.Plan,
	"putCraft":       people.Facts, "putEngine": people.Facts,
	"putInventoryEntry": people.Stock,
	"putMethodEntry":    people.Methods,

	"getReportPDF": people.Hand, "getBundle": people.Hand, "getReadingsCSV": people.Hand, "getPartsCSV": people.Hand,
	"getRecordingCSV": people.Hand, "getDueCSV": people.Hand, "getCalendar": people.Hand, "getInventoryCSV": people.Hand,

	"getLinks": people.Hand, "getEngineLinks": people.Hand, "makeEngineLink": people.Hand,
	"makeLink": people.Hand, "endLink": people.Hand,

	"importBundle": people.Keep, "lookAtList": people.Keep, "takeList": people.Keep, "takeListBack": people.Keep,
	"checkRecord": people.Keep, "getBackups": people.Keep, "makeBackup": people.Keep, "checkBackup": people.Keep,
	"restoreAtStart": people.Keep, "getBackup": people.Keep,

	"invitePerson": people.Lead, "changePerson": people.Lead, "inviteAgain": people.Lead, "getAudit": people.Lead,
	"getStandingLinks": people.Lead,
	"getSetUp":         people.Lead, "setUp": people.Lead,
}

// told are the operations of which the audit log tells once they are done.
var told = map[string]string{
	"getReportPDF": people.Exported, "getBundle": people.Exported, "getReadingsCSV": people.Exported,
	"getPartsCSV": people.Exported, "getRecordingCSV": people.Exported, "getDueCSV": people.Exported,
	"getInventoryCSV": people.Exported, "getBackup": people.BackupSent, "makeBackup": people.BackupMade,
	"restoreAtStart": people.GoingBack, "importBundle": people.BroughtIn, "takeList": people.BroughtIn,
	"takeListBack": people.TakenBack,
}
