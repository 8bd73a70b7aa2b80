/**
 * What stays in sight at the top of the screen while the page scrolls, one under the other: that it is a practice, the
 * link, and on a phone the engine's state.
 */
type Line = "--practice-line" | "--link-line" | "--state-line";

const told = (line: Line, height: number) => document.documentElement.style.setProperty(line, `${height}px`);

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
