import { practice } from "../api/practice";

/** What the first page is called on the way back to it: on a page of practice it is that practice. */
export const toHome = practice ? "To this practice" : "To the yard";
