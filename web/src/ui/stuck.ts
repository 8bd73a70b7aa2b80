/**
 * What stays in sight at the top of the screen while the page scrolls, one under the other: that it is a practice, the
 * link, and on a phone the engine's state.
 */
type Line = "--practice-line" | "--link-line" | "--state-line";

const told = (line: Line, height: number) => document.documentElement.style.setProperty(line, `${height}px`);

/** Where something else may stick, in CSS: under the lines that stand at the top of every screen, a little below. */
export const belowLines = "calc(12px + var(--practice-line, 0px) + var(--link-line, 0px))";
/** The same on a phone in a job, where the engine's state stands there too. */
export const belowState = "calc(var(--practice-line, 0px) + var(--link-line, 0px) + var(--state-line, 0px))";

/** Tells the page how high a line at its top is, in px, so that nothing is scrolled to behind it. */
export const stuck = (line: Line) => (at: HTMLElement | null) => {
  if (!at || typeof ResizeObserver === "undefined") return;
  const sized = new ResizeObserver(() => told(line, at.offsetHeight));
  sized.observe(at);
  return () => {
    sized.disconnect();
    told(line, 0);
  };
};
