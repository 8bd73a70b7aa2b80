/** The database of the device that holds what was practised without a link. */
export const practiceBase = "hevrin.practice";
