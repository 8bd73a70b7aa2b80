import type { Step } from "./steps";

/** What each step of a job is for, in three lines. */
export const stepHelp: Record<Step, [string, string, string]> = {
  complaint: [
    "Tap what is seen and what is known of the engine; leave the rest.",
    "Every answer moves the suspects at once, and none has to be given.",
    "Then go to Find: the quickest next look stands there.",
  ],
  find: [
    "One look at a time: what first, how long it takes, what must be shut, what can hurt.",
    "Answer what you saw. Not sure is an answer too, and a better look is offered.",
    "A sure look is believed: it says Found, and leads to the repair.",
  ],
  repair: [
    "Isolate, off, bench, on, start: what came off is counted, and must be back before a start.",
    "The red strip says what is open, off, shut or drained. A tap on it leads to the start list.",
    "Nothing counts as done that nobody said.",
  ],
  prove: [
    "A run proves the cure: by readings, or by hand with a watch and a thermometer.",
    "A leak run at the berth proves that it is tight, and nothing more.",
    "It is signed with a name, and looked at once more on the next day.",
  ],
  report: [
    "What was wrong, what was done, what it came to in figures, how it was proved.",
    "As a page, a PDF, tables, or the whole job as one file.",
    "Then close the job, and what is due next stands on the engine's page.",
  ],
};
